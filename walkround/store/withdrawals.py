"""Answers taken back: the last one undone, or one of two that stand side by side withdrawn, with what followed from them."""

from datetime import datetime

from walkround.core.answers.ways_out import Beside, Undone
from walkround.core.base.errors import ConflictError, InputError, MissingError
from walkround.core.round.consequences import pack_consequences
from walkround.core.round.evidence import Evidence, live
from walkround.core.round.touches import parts_of
from walkround.store import evidence, packs
from walkround.store.models import DoneRow, EventRow, SnagRow
from walkround.store.part_models import TouchRow
from walkround.store.rounds import OpenRound, load, not_now, note_calibration, reopen
from walkround.store.settings import Settings


def withdraw(round_id: int, piece_id: int, *, at: datetime, settings: Settings) -> tuple[OpenRound, str]:
    """Withdraw one of two answers that stand side by side. Returns the round and the check's id; one that is withdrawn already stays so.
    Raises MissingError, and SignedError when it is frozen."""
    loaded = load(round_id, settings, at)
    piece = next((p for p in loaded.evidence if p.id == piece_id), None)
    if piece is None or isinstance(piece.answer, Undone | Beside):
        raise MissingError("There is no such answer.")
    state = loaded.walk.state(piece.check_id)
    if not loaded.takes(state):
        raise not_now(loaded)
    if state.rival is None or piece_id not in (state.rival.id, state.evidence.id if state.evidence else 0):
        return loaded, piece.check_id
    return take_back(loaded, piece, at, settings), piece.check_id


def undo(round_id: int, *, at: datetime, settings: Settings, seen: int) -> tuple[OpenRound, str]:
    """Take back the newest piece that still counts, with what followed from it. Returns the round and the check's id.

    ``seen``: the number of that piece as the page showed it. One that is taken back already stays so, however often it is
    asked. Raises ConflictError when another answer came after it, InputError when there is nothing to take back,
    SignedError when it is frozen.
    """
    loaded = load(round_id, settings, at)
    pieces = live(loaded.addendum if loaded.signed else loaded.evidence)
    if loaded.state == "left" or (loaded.signed and not pieces):
        raise not_now(loaded)
    gone = next((p for p in loaded.evidence if p.id == seen and p not in pieces), None)
    if gone is not None and not isinstance(gone.answer, Undone):
        return loaded, gone.check_id
    if not pieces:
        raise InputError("Nothing to undo yet.")
    last = pieces[-1]
    if last.id != seen:
        raise ConflictError("Something was answered in another tab. Check it before you undo.")
    after = take_back(loaded, last, at, settings)
    # What it rested on is touched again.
    parts = parts_of(last.check_id, loaded.walk.situation.aircraft)
    if parts and not loaded.signed:
        TouchRow.delete().where((TouchRow.round == round_id) & TouchRow.part_id.in_(list(parts))).execute()
    return after, last.check_id


def take_back(loaded: OpenRound, last: Evidence, at: datetime, settings: Settings) -> OpenRound:
    """Take a piece back, with what followed from it."""
    evidence.keep(
        loaded.id, Evidence(id=0, check_id=last.check_id, at=at, answer=Undone(of=last.id)), loaded.row.situation
    )
    reopen([last.id])
    # A snag that this piece opened was never there.
    SnagRow.delete().where(SnagRow.opened_by == last.id).execute()
    EventRow.delete().where(EventRow.evidence == last.id).execute()
    packs.take_back(loaded.row.pack_id, [last.id], at)
    DoneRow.delete().where(
        (DoneRow.aircraft == loaded.row.aircraft_id) & (DoneRow.check_id == last.check_id) & (DoneRow.at == last.at)
    ).execute()
    after = load(loaded.id, settings, at)
    standing = after.walk.state(last.check_id)
    note_calibration(after, standing.evidence)
    if standing.evidence is not None:
        piece = standing.evidence
        consequences = pack_consequences(standing.planned.check, piece.answer, piece.at, piece.by)
        packs.keep_consequences(loaded.row.pack_id, consequences, piece.id, piece.at, at)
    return after
