"""What was found at the stages of an aircraft's proving programme."""

from datetime import datetime

from pydantic import Field

from walkround.core.base.value import Value

MOST_RESULTS = 200


class Trims(Value):
    """Trims after a flight, in clicks: roll to the right, pitch to the back (up), yaw to the right; None: not read."""

    roll: int | None = Field(default=None, ge=-100, le=100)
    pitch: int | None = Field(default=None, ge=-100, le=100)
    yaw: int | None = Field(default=None, ge=-100, le=100)


class StageResult(Value):
    """One answer at a stage, at an aware time: the stage, the outcome, what was seen at each test of the controls (its name and the name of what was seen), trims, a note."""

    stage: str = Field(max_length=30)
    outcome: str = Field(max_length=30)
    at: datetime
    seen: tuple[tuple[str, str], ...] = Field(default=(), max_length=12)
    trims: Trims | None = None
    note: str = Field(default="", max_length=200)

    def seen_at(self, test: str) -> str:
        """What was seen at a test, by names; "" where it was not done."""
        return dict(self.seen).get(test, "")
