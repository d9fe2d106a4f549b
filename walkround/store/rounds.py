"""Rounds: started, answered piece by piece, signed and frozen."""

import json
from collections.abc import Iterable
from datetime import datetime
from functools import lru_cache
from typing import Any

from peewee import Select, fn

from walkround.core.answers.choice import Chosen
from walkround.core.answers.kind import Answer
from walkround.core.answers.ways_out import Beside
from walkround.core.base.errors import InputError, MissingError, SignedError
from walkround.core.base.finding import Finding
from walkround.core.base.kept import Same, kept
from walkround.core.checklist.check import Depth, Phase
from walkround.core.checklist.history import SnagOn
from walkround.core.field.site import Site
from walkround.core.packs.pack import Pack
from walkround.core.round import record as core_record
from walkround.core.round.consequences import calibration_from, pack_consequences, snag_from, start_from
from walkround.core.round.depth import at_the_field, deeper
from walkround.core.round.evidence import Evidence
from walkround.core.round.plan import SNAG_FIXED, make_plan
from walkround.core.round.record import Record
from walkround.core.round.situation import Situation
from walkround.core.round.stages import left_at_home
from walkround.core.round.walk import CheckState, Walk, try_answer, walk
from walkround.store import calibrations, done, evidence, hangar, link_trials, packs, records, snags, zones
from walkround.store.models import EventRow, EvidenceRow, RecordRow, RoundRow, SnagRow
from walkround.store.part_models import TouchRow
from walkround.store.settings import Settings
from walkround.store.situation import situation_in, situation_text
from walkround.store.statements import moment_text, prepared, write


class OpenRound:
    """A round as loaded: its row, evidence and walk."""

    def __init__(
        self, row: RoundRow, evidence: tuple[Evidence, ...], walk_: Walk, record: Record | None = None
    ) -> None:
        self.row = row
        self.id: int = row.id
        self.state: str = row.state
        self.started_at: datetime = row.started_at
        self.signed_at: datetime | None = row.signed_at
        self.evidence = evidence
        self.walk = walk_
        self.record = record

    def followed_by(self, piece: Evidence) -> "OpenRound":
        """The same round with one more piece of evidence."""
        evidence = (*self.evidence, piece)
        if self.record is not None:
            return _signed(self.row, self.record, evidence)
        return OpenRound(self.row, evidence, _walked(Same(self.walk.situation, *evidence)))

    @property
    def addendum(self) -> tuple[Evidence, ...]:
        """What came after the signature, by its numbers: a clock that was set tells nothing. Empty before it."""
        return () if self.record is None else tuple(p for p in self.evidence if p.id > self.record.through)

    @property
    def signed(self) -> bool:
        """Whether it is signed and frozen."""
        return self.state == "signed"

    def takes(self, state: CheckState) -> bool:
        """Whether this check can be answered now: before signing all but flight checks, afterwards only those."""
        before = state.planned.check.phase is Phase.BEFORE
        return before != self.signed and self.state != "left"


def start(situation: Situation, at: datetime) -> int:
    """Start a round and return its number.

    An open one of the same aircraft is left unfinished, and stays readable; one that nobody has answered yet is simply
    begun anew, so that a double tap starts one round.
    """
    aircraft = situation.aircraft.id
    values = {
        "pack": situation.pack.id,
        "site": situation.site.id,
        "started_at": at,
        "situation": situation_text(situation),
    }
    untouched = RoundRow.select(RoundRow.id).where(
        (RoundRow.aircraft == aircraft)
        & (RoundRow.state == "open")
        & ~fn.EXISTS(EvidenceRow.select(EvidenceRow.id).where(EvidenceRow.round == RoundRow.id))
        & ~fn.EXISTS(
            TouchRow.select(TouchRow.part_id).where((TouchRow.round == RoundRow.id) & (TouchRow.part_id != ""))
        )
    )
    same = untouched.order_by(RoundRow.id.desc()).first()
    if same is not None:
        RoundRow.update(**values).where(RoundRow.id == same.id).execute()
        TouchRow.delete().where(TouchRow.round == same.id).execute()  # that it is unplugged is said anew
        return int(same.id)
    RoundRow.update(state="left").where((RoundRow.aircraft == aircraft) & (RoundRow.state == "open")).execute()
    return int(RoundRow.insert(aircraft=aircraft, **values).execute())


def deepen(round_id: int, *, wish: Depth = Depth.SHORT, ask: str = "") -> None:
    """Ask one more check that an open round leaves out, or walk a longer list; what is not left out is passed over. Raises MissingError, and SignedError once it is signed or left."""
    row = _round.one(round_id)
    if row is None:
        raise MissingError(f"There is no round number {round_id}.")
    if row.state != "open":
        raise SignedError("Only an open round takes more checks.")
    situation = situation_in(row.situation)
    if situation.depth is not None:
        plan = make_plan(situation)
        left_out = {check.id for check in (*plan.shorter_by, *(known for known, _ in plan.on_record))}
        chosen = deeper(situation.depth, wish=wish, ask=ask if ask in left_out else "")
        text = situation_text(situation.model_copy(update={"depth": chosen}))
        RoundRow.update(situation=text).where(RoundRow.id == round_id).execute()


def leave_at_home(round_id: int, *, at: datetime, settings: Settings) -> None:
    """Leave what can only be done at home, is open and does not ground. Raises MissingError, and SignedError once it is signed or left."""
    loaded = load(round_id, settings, at)
    if loaded.state != "open":
        raise SignedError("Only an open round leaves checks at home.")
    situation = situation_in(loaded.row.situation)
    if situation.depth is not None:
        chosen = at_the_field(situation.depth, left_at_home(loaded.walk))
        text = situation_text(situation.model_copy(update={"depth": chosen}))
        RoundRow.update(situation=text).where(RoundRow.id == round_id).execute()


def load(round_id: int, settings: Settings, now: datetime) -> OpenRound:
    """A round with its evidence; an open one follows today's settings, snags, plan and zones. Raises MissingError."""
    row = _round.one(round_id)
    if row is None:
        raise MissingError(f"There is no round number {round_id}.")
    pieces = evidence.of_round(round_id, row.situation)
    if row.state == "signed":
        return _signed(row, records.record_of(round_id), pieces)
    situation = situation_in(row.situation)
    if row.state == "open":
        site = hangar.get(Site, row.site_id)
        known = (
            settings,
            site,
            zones.airspace_at(site),
            hangar.get(Pack, row.pack_id),
            packs.in_short(row.pack_id, now),
        )
        fresh = snags.for_round(row.aircraft_id, row.pack_id, [piece.id for piece in pieces])
        situation = _as_of_now(situation, Same(*known), Same(*fresh))
    return OpenRound(row, pieces, _walked(Same(situation, *pieces)))


_plan = kept(make_plan)


@lru_cache(maxsize=16)
def _walked(told: Same) -> Walk:
    """The walk of a situation with its evidence: what an answer led to is what the next request begins with."""
    situation, *pieces = told.things
    return walk(situation, pieces, _plan(situation))


@lru_cache(maxsize=32)
def _as_of_now(begun: Situation, known: Same, fresh: Same) -> Situation:
    """The situation of an open round, with what is known by now. The same from the same: so its plan and what was judged in it
    are made once, and any change of any of them, by whomever, makes another."""
    settings, site, airspace, pack, summary = known.things
    history = begun.history.model_copy(update={"snags": fresh.things, "pack_summary": summary})
    return begun.model_copy(
        update={
            "limits": settings.limits,
            "methods": settings.methods,
            "custom_checklist": settings.custom_checklist,
            "site": site,
            "airspace": airspace,
            "pack": pack,
            "history": history,
        }
    )


def _signed(row: RoundRow, record: Record, evidence: tuple[Evidence, ...]) -> OpenRound:
    """A signed round: its record, and what came after it."""
    through = record.through
    addendum = [piece for piece in evidence if piece.id > through]
    return OpenRound(row, evidence, core_record.signed_walk(record, addendum), record)


@prepared
def _round(number: Any) -> Select:
    return RoundRow.select().where(RoundRow.id == number)


@prepared
def _now(round_: Any) -> Select:
    newest = EvidenceRow.select(fn.MAX(EvidenceRow.id)).where(EvidenceRow.round == round_)
    return RoundRow.select(RoundRow.state, newest).where(RoundRow.id == round_)


def answer(
    round_id: int,
    check_id: str,
    given: Answer,
    *,
    at: datetime,
    settings: Settings,
    seen: int,
    by: str = "pilot",
    loaded: OpenRound | None = None,
) -> OpenRound:
    """Judge and keep an answer, with the snags and calibrations that follow from it, all in the caller's transaction.

    ``loaded``: the round as the caller just loaded it; it is used if nothing has happened to it since.
    ``seen``: number of the evidence the page showed for this check (0: none). Where somebody answered differently meanwhile, or took
    the answer back, both answers stand until one is withdrawn. Raises SignedError after signing, and what ``try_answer`` raises.
    The same answer given twice is kept once.
    """
    if loaded is None or not _still(loaded):
        loaded = load(round_id, settings, at)
    state = loaded.walk.state(check_id)
    if not loaded.takes(state):
        raise not_now(loaded)
    have = state.evidence
    if (have.id if have else 0) != seen:
        if have is not None and have.answer == given:
            return loaded
        return _beside(loaded, state, given, at=at, by=by, settings=settings)
    piece = Evidence(id=0, check_id=check_id, at=at, by=by, answer=given)
    findings = try_answer(loaded.walk, check_id, given, piece)
    kept_piece = evidence.keep(round_id, piece, loaded.row.situation)
    _keep_consequences(loaded, state, given, findings, kept_piece.id, at, by)
    after = loaded.followed_by(kept_piece)
    if loaded.signed:
        # In the air and after landing: the next plan knows it too, or its event would never be closed.
        done.keep(after.walk.situation.aircraft.id, [after.walk.state(check_id)])
    return after


def _beside(
    loaded: OpenRound, state: CheckState, given: Answer, *, at: datetime, by: str, settings: Settings
) -> OpenRound:
    """Keep an answer beside the one that its giver had not seen; where that one was taken back meanwhile, as the answer."""
    check_id, have = state.planned.check.id, state.evidence
    piece = Evidence(id=0, check_id=check_id, at=at, by=by, answer=given)
    findings = try_answer(loaded.walk, check_id, given, piece)
    kept_piece = evidence.keep(loaded.id, piece, loaded.row.situation)
    _keep_consequences(loaded, state, given, findings, kept_piece.id, at, by, beside=True)
    if have is not None:
        mark = Evidence(id=0, check_id=check_id, at=at, answer=Beside(of=have.id, new=kept_piece.id))
        evidence.keep(loaded.id, mark, loaded.row.situation)
    return load(loaded.id, settings, at)


def _still(loaded: OpenRound) -> bool:
    """Whether a loaded round is still as it was: same state, no new evidence."""
    return _now.first(loaded.id) == (loaded.state, loaded.evidence[-1].id if loaded.evidence else None)


def is_of(round_id: int, aircraft_id: int) -> bool:
    """Whether a round is one of this aircraft, in progress or signed, and not abandoned."""
    mine = (RoundRow.id == round_id) & (RoundRow.aircraft == aircraft_id) & (RoundRow.state != "left")
    return RoundRow.select().where(mine).exists()


def stamp_of(state: str, pieces: tuple[Evidence, ...]) -> str:
    """What a round stands at in one word: its state and the number of its newest piece of evidence."""
    return f"{state}-{pieces[-1].id if pieces else 0}"


def stamp(round_id: int) -> str:
    """What a round stands at now. Raises MissingError."""
    found = _now.first(round_id)
    if found is None:
        raise MissingError(f"There is no round number {round_id}.")
    state, newest = found
    return f"{state}-{newest or 0}"


def not_now(loaded: OpenRound) -> Exception:
    """Why an answer cannot be given or taken back now."""
    if loaded.signed:
        when = loaded.walk.situation.local(loaded.signed_at or loaded.started_at)
        return SignedError(f"This round was signed at {when:%H:%M} and is locked. Start a new one to change it.")
    if loaded.state == "left":
        return SignedError("This round was abandoned when a newer one was started.")
    return InputError("This check is done in flight. Sign the round first.")


_LISTED = "IN (SELECT value FROM json_each(?))"
_GIVES_WAY = (
    f"UPDATE snag SET closed_at = ?, closed_how = ?, closed_by = ? WHERE opened_by {_LISTED} AND closed_at IS NULL"
)
_NOT_CALIBRATED = f"DELETE FROM event WHERE evidence_id {_LISTED}"


def _keep_consequences(
    loaded: OpenRound,
    state: CheckState,
    given: Answer,
    findings: tuple[Finding, ...],
    number: int,
    at: datetime,
    by: str,
    *,
    beside: bool = False,
) -> None:
    """What an answer brings with it: a snag opened or closed, a calibration noted. ``beside``: it replaces no earlier one."""
    check, situation = state.planned.check, loaded.walk.situation
    pieces = loaded.addendum if loaded.signed else loaded.evidence
    earlier = [p.id for p in pieces if p.check_id == check.id]
    if state.planned.snag is not None:
        if isinstance(given, Chosen) and given.option == SNAG_FIXED:
            snags.close(state.planned.snag.id, given.note, at, number)
        else:
            reopen(earlier)
        return
    # Snags that an earlier answer of this round opened give way to this answer.
    if earlier and not beside and evidence.has_followed(earlier):
        write(_GIVES_WAY, moment_text(at), "answered again in the same round", number, json.dumps(earlier))
        write(_NOT_CALIBRATED, json.dumps(earlier))
        packs.take_back(situation.pack.id, earlier, at)
    packs.keep_consequences(situation.pack.id, pack_consequences(check, given, at, by), number, at, at)
    wanted = snag_from(check, given, findings, situation.aircraft)
    if wanted is not None:
        owner = situation.pack.id if wanted.on is SnagOn.PACK else situation.aircraft.id
        snags.open_one(
            wanted.on,
            owner,
            wanted.title,
            grounds=wanted.grounds,
            at=at,
            check_id=check.id,
            parts=wanted.parts,
            evidence_id=number,
        )
    note_calibration(loaded, Evidence(id=number, check_id=check.id, at=at, answer=given))
    if (start := start_from(given, at)) is not None:
        calibrations.keep_start(situation.aircraft.id, start)


def note_calibration(loaded: OpenRound, piece: Evidence | None) -> None:
    """A calibration that passed is an event of the aircraft, at this field."""
    kind = None if piece is None else calibration_from(piece.check_id, piece.answer)
    if piece is None or kind is None:
        return
    if EventRow.select().where(EventRow.evidence == piece.id).exists():
        return
    situation = loaded.walk.situation
    hangar.add_event(
        situation.aircraft.id,
        kind,
        piece.at,
        position=situation.site.position,
        site=situation.site.name,
        evidence_id=piece.id,
    )


def reopen(evidence_ids: Iterable[int]) -> None:
    """Open again the snags that these pieces of evidence closed."""
    SnagRow.update(closed_at=None, closed_how="", closed_by=None).where(
        SnagRow.closed_by.in_(list(evidence_ids))
    ).execute()


def sign(round_id: int, signed_by: str, *, at: datetime, settings: Settings) -> Record:
    """Sign and freeze a round; a second sign of the same round gives the first record back.

    Raises InputError while checks are open, SignedError for a round that was left, MissingError.
    """
    loaded = load(round_id, settings, at)
    if loaded.signed:
        return records.record_of(round_id)
    if loaded.state == "left":
        raise not_now(loaded)
    frozen = core_record.sign(loaded.walk, round_id, loaded.evidence, signed_by, at, settings.units)
    text = frozen.canonical()
    RecordRow.insert(
        round=round_id, text=text, sha256=core_record.content_hash(text), signed_by=frozen.signed_by, signed_at=at
    ).execute()
    RoundRow.update(
        state="signed",
        signed_at=at,
        level=int(frozen.verdict.level),
        situation=situation_text(loaded.walk.situation),
    ).where(RoundRow.id == round_id).execute()
    done.note(loaded.walk, at)
    link_trials.note(loaded.walk, at)
    return frozen
