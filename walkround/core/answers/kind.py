"""A kind of answer: what is asked, what is said, how it is judged. Each kind is one module of this room."""

from collections.abc import Callable
from datetime import datetime
from typing import Any, ClassVar, Protocol, TypeVar

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding
from walkround.core.base.struct import Struct, default_of
from walkround.core.base.units import Quantity
from walkround.core.base.value import KeptStruct, Value
from walkround.core.field.site import Site
from walkround.core.packs.pack import Pack
from walkround.core.packs.reading import Reading
from walkround.core.pilot.methods import ChosenMethods

NOTE_CHARS = 300


class Ask(KeptStruct, frozen=True, kw_only=True):
    """What a check asks for. ``kind`` names it in stored data."""

    kind: str


class Answer(Value):
    """What the pilot saw or measured. ``kind`` names it in stored data.

    ``opens_snag``: something less than clear stays on record as a snag, as a fault does.
    """

    opens_snag: ClassVar[bool] = False
    kind: str

    def remembered(self, ask: Ask) -> Quantity | None:
        """What is remembered of it for the next round, beside that the check was passed."""
        return None

    def parts_at_fault(self, ask: Ask, aircraft: Aircraft) -> tuple[str, ...]:
        """Ids of the parts that it finds fault with; none where it does not say which."""
        return ()

    def pack_reading(self, at: datetime, by: str) -> Reading | None:
        """The reading of the pack that it is, taken at an aware time by the pilot or a device; None for other answers."""
        return None


A = TypeVar("A", bound=Answer)


class Question(Protocol):
    """What a judge may know of the check that was asked."""

    @property
    def id(self) -> str:
        """Its id."""

    @property
    def ask(self) -> Ask:
        """What it asks for."""

    @property
    def source(self) -> str:
        """Where its rule comes from."""

    @property
    def remedy(self) -> str:
        """What to do about a fault."""


class Case(Protocol):
    """What a judge may know of the round besides: what is flown, where, how, and the other answers."""

    @property
    def aircraft(self) -> Aircraft:
        """What is flown."""

    @property
    def pack(self) -> Pack:
        """With which pack."""

    @property
    def site(self) -> Site:
        """Where."""

    @property
    def methods(self) -> ChosenMethods:
        """The pilot's methods."""

    @property
    def planned_percent(self) -> float:
        """What the plan of the flight uses of a full pack, in per cent."""

    @property
    def second_hop(self) -> bool:
        """Whether this is the pack's second short hop today."""

    @property
    def still_usual_s(self) -> float | None:
        """After how many s the aircraft usually gives its own signal; None where that is not known yet."""

    def answer_to(self, check_id: str) -> Answer | None:
        """The answer to another check of the round."""

    def by_rule(self, rule: str, value: float) -> tuple[Finding, ...]:
        """A number (inside unit) judged by a rule that needs the whole round."""


Judge = Callable[[Question, Any, Case, datetime], tuple[Finding, ...]]
"""Findings of an answer to a question, given at an aware time."""
Example = Callable[[Question, Case, datetime], Answer]
"""An answer that finds nothing wrong at an aware time, for the demo, the benchmark and the tests."""


class AnswerKind(Struct, frozen=True):
    """One kind: the classes of what is asked and answered, the judge, and a good example.

    ``also``: answers of earlier rounds that it still judges; ``subjects``: what else is judged whenever it is answered, by the names of ``readiness``.
    """

    ask: type[Ask]
    answer: type[Answer]
    judge: Judge
    example: Example
    subjects: tuple[str, ...] = ()
    also: tuple[type[Answer], ...] = ()

    @property
    def name(self) -> str:
        """What the kind is called in stored data."""
        return str(default_of(self.ask, "kind"))

    def fits(self, answer: Answer) -> None:
        """Raises InputError when an answer is of another kind."""
        if not isinstance(answer, (self.answer, *self.also)):
            raise InputError("That answer does not fit this check.")


def nothing(question: Question, answer: Answer, case: Case, at: datetime) -> tuple[Finding, ...]:
    """No finding: the ``subjects`` of the kind say all there is to say."""
    return ()
