"""Parts touched in a round: each kept at once, and a check answered when its last part is."""

from collections.abc import Collection
from datetime import datetime
from typing import Any

from peewee import Select, fn

from walkround.core.aircraft.traits import Trait
from walkround.core.base.errors import BlockedError, ConflictError, MissingError
from walkround.core.round.touches import Touch, TouchState, answers_by_touch, parts_of, route
from walkround.store import rounds
from walkround.store.models import MomentField
from walkround.store.part_models import TouchRow
from walkround.store.rounds import OpenRound
from walkround.store.settings import Settings
from walkround.store.statements import prepared
from walkround.store.withdrawals import take_back

UNPLUGGED = "unplugged"
"""The state under which it is kept that nothing can start, without a part."""
PLUGGED_IN = ("power.aircraft_on", "power.engine_start")
"""Answers after which that must be said again. Source: ids of the library."""

_MOMENT = MomentField()


@prepared
def _of_round(round_: Any) -> Select:
    return TouchRow.select(TouchRow.part_id, TouchRow.state, TouchRow.at).where(TouchRow.round == round_)


def of_round(round_id: int) -> dict[str, Touch]:
    """How the parts of a round were left, by their ids."""
    return {p: Touch(part_id=p, state=TouchState(state), at=at) for p, state, at in _of_round(round_id) if p}


def is_cold(loaded: OpenRound) -> bool:
    """Whether the pilot has said that nothing can start, and has powered nothing since; without a motor nothing can."""
    if not loaded.walk.situation.aircraft.has(Trait.MOTOR):
        return True
    said = next((at for part, _, at in _of_round(loaded.id) if not part), None)
    powered = max((piece.at for piece in loaded.evidence if piece.check_id in PLUGGED_IN), default=None)
    return said is not None and (powered is None or said >= powered)


@prepared
def _last(aircraft: Any, until: Any) -> Select:
    mine = (TouchRow.aircraft == aircraft) & (TouchRow.at <= until)
    return TouchRow.select(TouchRow.part_id, fn.MAX(TouchRow.at).alias("at")).where(mine).group_by(TouchRow.part_id)


def last_touched(aircraft_id: int, now: datetime) -> dict[str, datetime]:
    """When each part of an aircraft was last touched in a round (aware), by its id; those never touched are not named, and what is dated ahead counts for nothing."""
    found = ((part, _MOMENT.python_value(at)) for part, at in _last(aircraft_id, now) if part)
    return {part: at for part, at in found if at is not None}


def say_cold(loaded: OpenRound, at: datetime) -> None:
    """Keep that the pack is unplugged, or the engine cold with its plug off. Raises SignedError when the round takes nothing more."""
    _must_be_open(loaded)
    _put(loaded, "", UNPLUGGED, at)


def _must_be_open(loaded: OpenRound) -> None:
    if loaded.state != "open":
        raise rounds.not_now(loaded)


def _put(loaded: OpenRound, part_id: str, state: str, at: datetime) -> None:
    TouchRow.replace(  # type: ignore[no-untyped-call]
        round=loaded.id, part_id=part_id, aircraft=loaded.walk.situation.aircraft.id, state=state, at=at
    ).execute()


def listed(loaded: OpenRound, now: datetime) -> frozenset[str]:
    """Ids of the parts on today's route of a round, at an aware time."""
    last = last_touched(loaded.walk.situation.aircraft.id, now)
    return frozenset(part.part.id for stop in route(loaded.walk, of_round(loaded.id), last) for part in stop.parts)


def keep(
    loaded: OpenRound, part_ids: Collection[str], state: TouchState, *, at: datetime, settings: Settings
) -> OpenRound:
    """Keep how parts were left, and answer the checks whose last part that was; all in the caller's transaction.

    Raises SignedError when the round takes nothing more, BlockedError before the pack is said to be unplugged, MissingError for a part that is
    not on today's route, ConflictError for one that was reported damaged meanwhile.
    """
    _must_be_open(loaded)
    if not is_cold(loaded):
        raise BlockedError("Unplug the pack first; with an engine, let it cool and take the plug off.")
    have = of_round(loaded.id)
    here = listed(loaded, at)
    for part_id in part_ids:
        if part_id not in here:
            raise MissingError("That part is not on today's list any more. Open the stop again.")
        before = have.get(part_id)
        if state is TouchState.OK and before is not None and before.state is TouchState.DAMAGED:
            raise ConflictError("That part was reported damaged. Fix or replace it first.")
    for part_id in part_ids:
        _put(loaded, part_id, state.value, at)
    return refresh(loaded, at, settings)


def refresh(loaded: OpenRound, at: datetime, settings: Settings) -> OpenRound:
    """Answer the checks whose parts are all touched, and anew those that a fix or a closed snag has changed; in the caller's transaction."""
    after = loaded
    for state, given in answers_by_touch(loaded.walk, of_round(loaded.id)):
        seen = state.evidence.id if state.evidence is not None else 0
        after = rounds.answer(
            loaded.id, state.planned.check.id, given, at=at, settings=settings, seen=seen, loaded=after
        )
    return after


def open_again(loaded: OpenRound, part_ids: Collection[str], *, at: datetime, settings: Settings) -> OpenRound:
    """Take touches back, with the answers that rested on them. Raises SignedError when the round takes nothing more."""
    _must_be_open(loaded)
    gone = set(part_ids)
    TouchRow.delete().where((TouchRow.round == loaded.id) & TouchRow.part_id.in_(sorted(gone))).execute()
    aircraft, after = loaded.walk.situation.aircraft, loaded
    for state in loaded.walk.states:
        if state.evidence is not None and gone & set(parts_of(state.planned.check.id, aircraft)):
            after = take_back(after, state.evidence, at, settings)
    return after
