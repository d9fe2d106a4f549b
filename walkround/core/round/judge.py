"""Judging evidence: one piece in, findings out, at once."""

from walkround.core.answers import KINDS
from walkround.core.answers.kind import Answer
from walkround.core.answers.ways_out import Skipped, WayOut, judge_way_out
from walkround.core.base.finding import Finding, cap
from walkround.core.checklist.check import Check
from walkround.core.round.context import Context
from walkround.core.round.evidence import Evidence
from walkround.core.round.numbers import RULES
from walkround.core.round.readiness import Subject, readiness


class RoundCase:
    """What the judge of an answer may know of the round."""

    def __init__(self, context: Context) -> None:
        self.context = context
        s = context.situation
        self.aircraft, self.pack, self.site, self.methods = s.aircraft, s.pack, s.site, s.methods

    @property
    def planned_percent(self) -> float:
        """What the plan of the flight uses of a full pack, in per cent."""
        return self.context.flight_needs().planned_percent

    @property
    def second_hop(self) -> bool:
        """Whether this is the pack's second short hop today."""
        return self.context.second_hop

    @property
    def still_usual_s(self) -> float | None:
        """After how many s the aircraft usually gives its own signal; None where that is not known yet."""
        return self.context.situation.history.still_usual_s

    def answer_to(self, check_id: str) -> Answer | None:
        """The answer to another check of the round."""
        piece = self.context.answers.get(check_id)
        return None if piece is None else piece.answer

    def by_rule(self, rule: str, value: float) -> tuple[Finding, ...]:
        """A number (inside unit) judged by a rule that needs the whole round."""
        return RULES[rule](value, self.context)


def judge(check: Check, piece: Evidence, context: Context) -> tuple[Finding, ...]:
    """The findings for one piece of evidence on a check; at least one, each in inside units.

    Raises InputError when the answer does not fit the check or cannot be.
    """
    context = context.with_answer(piece)
    answer = piece.answer
    if isinstance(answer, WayOut):
        findings: tuple[Finding, ...] = (judge_way_out(check, answer),)
        subjects: tuple[str, ...] = ()
    else:
        kind = KINDS[check.ask.kind]
        kind.fits(answer)
        findings = kind.judge(check, answer, RoundCase(context), piece.at)
        subjects = kind.subjects
    if check.adds and not isinstance(answer, Skipped):
        subjects = (*subjects, *check.adds.split())
    if subjects:
        findings = (*findings, *readiness(context, piece.at, only=tuple(Subject[name.upper()] for name in subjects)))
    return cap(findings, check.id, grounds=check.grounds)
