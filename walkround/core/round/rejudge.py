"""Judging again only what an answer can change.

A judge of a check sees the other answers of the round through a glass that notes which of them it looked at. Its findings stay
right as long as the check, its own answer and those others are the very same; of every situation the last findings of each check
are kept, with what they looked at.
"""

from collections.abc import Iterator, Mapping

from walkround.core.base.finding import Finding
from walkround.core.base.kept import kept
from walkround.core.base.struct import Struct
from walkround.core.checklist.check import Check
from walkround.core.round.context import Answers, Context
from walkround.core.round.evidence import Evidence
from walkround.core.round.judge import judge
from walkround.core.round.situation import Situation


class Watched(Mapping[str, Evidence]):
    """Answers by their checks' ids, and which were looked at; they can be asked one by one only."""

    def __init__(self, answers: Answers) -> None:
        self.answers = answers
        self.seen: dict[str, Evidence | None] = {}

    def __getitem__(self, check_id: str) -> Evidence:
        found = self.seen[check_id] = self.answers.get(check_id)
        if found is None:
            raise KeyError(check_id)
        return found

    def __iter__(self) -> Iterator[str]:
        raise TypeError("A judge asks for the answers it needs by name.")

    def __len__(self) -> int:
        raise TypeError("A judge asks for the answers it needs by name.")


class _Last(Struct, frozen=True):
    check: Check
    piece: Evidence
    seen: tuple[tuple[str, Evidence | None], ...]
    findings: tuple[Finding, ...]

    def holds(self, check: Check, piece: Evidence, answers: Answers) -> bool:
        if self.check is not check or self.piece is not piece:
            return False
        return all(answers.get(check_id) is other for check_id, other in self.seen)


@kept
def _last_of(situation: Situation) -> dict[str, _Last]:
    return {}


def judged(situation: Situation, check: Check, piece: Evidence, answers: Answers) -> tuple[Finding, ...]:
    """The findings of an answer among the others, as ``judge`` gives them; at once where nothing that they looked at changed.

    Raises as ``judge``.
    """
    last_of = _last_of(situation)
    last = last_of.get(check.id)
    if last is not None and last.holds(check, piece, answers):
        return last.findings
    watched = Watched(answers)
    findings = judge(check, piece, Context(situation, watched))
    last_of[check.id] = _Last(check, piece, tuple(watched.seen.items()), findings)
    return findings
