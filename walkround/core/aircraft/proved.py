"""What was found at the stages of an aircraft's proving programme."""

from datetime import datetime
from typing import Annotated

from walkround.core.base.value import Allowed, Value

MOST_RESULTS = 200


class Trims(Value):
    """Trims after a flight, in clicks: roll to the right, pitch to the back (up), yaw to the right; None: not read."""

    roll: Annotated[int | None, Allowed(ge=-100, le=100)] = None
    pitch: Annotated[int | None, Allowed(ge=-100, le=100)] = None
    yaw: Annotated[int | None, Allowed(ge=-100, le=100)] = None


class StageResult(Value):
    """One answer at a stage, at an aware time: the stage, the outcome, what was seen at each test of the controls (its name and the name of what was seen), trims, a note."""

    stage: Annotated[str, Allowed(max_length=30)]
    outcome: Annotated[str, Allowed(max_length=30)]
    at: datetime
    seen: Annotated[tuple[tuple[str, str], ...], Allowed(max_length=12)] = ()
    trims: Trims | None = None
    note: Annotated[str, Allowed(max_length=200)] = ""

    def seen_at(self, test: str) -> str:
        """What was seen at a test, by names; "" where it was not done."""
        return dict(self.seen).get(test, "")
