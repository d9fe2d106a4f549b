"""Evidence: what the pilot saw or measured. Append-only; a correction is a new piece, undo is a piece too."""

from collections.abc import Iterable
from datetime import datetime

from walkround.core.answers import AnyAnswer
from walkround.core.answers.ways_out import Beside, Undone
from walkround.core.base.value import Value


class Evidence(Value):
    """One piece of evidence: for which check, when, from whom (the pilot or a device), and the answer."""

    id: int
    check_id: str
    at: datetime
    by: str = "pilot"
    answer: AnyAnswer

    @property
    def simulated(self) -> bool:
        """Whether a simulated device gave it: good for trying out, never for a flight."""
        return self.by.startswith("simulated")


def live(evidence: Iterable[Evidence]) -> list[Evidence]:
    """The pieces that still count, oldest first: everything but undo pieces, what they took back, and what only says that
    two answers stand side by side."""
    pieces = list(evidence)
    notes = [piece.answer for piece in pieces if isinstance(piece.answer, (Undone, Beside))]
    if not notes:
        return pieces
    gone = {note.of for note in notes if isinstance(note, Undone)}
    return [p for p in pieces if p.id not in gone and not isinstance(p.answer, (Undone, Beside))]


def current(evidence: Iterable[Evidence]) -> dict[str, Evidence]:
    """The newest counting piece for each check id."""
    return {piece.check_id: piece for piece in live(evidence)}


def side_by_side(evidence: Iterable[Evidence]) -> dict[str, Evidence]:
    """For each check that was answered twice, neither answer seen by who gave the other: the older one that still counts."""
    pieces = list(evidence)
    marks = [piece for piece in pieces if isinstance(piece.answer, Beside)]
    if not marks:
        return {}
    standing = {piece.id: piece for piece in live(pieces)}
    newest = current(pieces)
    return {
        mark.check_id: standing[mark.answer.of]
        for mark in marks
        if isinstance(mark.answer, Beside)
        and mark.answer.of in standing
        and mark.check_id in newest
        and newest[mark.check_id].id == mark.answer.new
    }
