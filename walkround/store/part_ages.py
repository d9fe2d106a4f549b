"""What each part of an aircraft has behind it: flights, minutes, hard landings, uses of its nut, fixes, when it was last touched; and the snags of wear."""

from collections import Counter
from collections.abc import Iterable
from datetime import UTC, datetime
from typing import Any

from peewee import Select, fn

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.finding import Level
from walkround.core.base.struct import Struct
from walkround.core.checklist.history import DECIDES, EventKind, SnagOn
from walkround.core.inspection.touched import TouchedPart, damageable
from walkround.core.inspection.wear import PartAge, Worn, worn_parts
from walkround.store import snags, touches
from walkround.store.models import EventRow, EvidenceRow, FlightRow, PartRow, RoundRow, SnagRow
from walkround.store.statements import prepared

BEFORE_ALL = datetime(1900, 1, 1, tzinfo=UTC)
LIFE = "life:"
"""Before the name of a rule: the snag of a part at the end of its life."""
REFITTED = "airframe.propellers_off_look"
"""The check at which propellers come off and go on again with the same nut. Source: id of the library."""


@prepared
def _fitted(aircraft: Any) -> Select:
    on = (PartRow.aircraft == aircraft) & PartRow.removed_at.is_null() & (PartRow.part_id != "")
    return PartRow.select(PartRow.part_id, PartRow.fitted_at).where(on)


@prepared
def _behind(aircraft: Any, since: Any) -> Select:
    flown = (FlightRow.aircraft == aircraft) & FlightRow.minutes.is_null(False) & (FlightRow.took_off_at >= since)
    kinds = EventRow.kind.in_([EventKind.HARD_LANDING.value, EventKind.CRASH.value])
    hard = EventRow.select(fn.COUNT(EventRow.id)).where(
        (EventRow.aircraft == aircraft) & kinds & (EventRow.at >= since)
    )
    mine = (RoundRow.aircraft == aircraft) & (EvidenceRow.check_id == REFITTED) & (EvidenceRow.at >= since)
    refits = EvidenceRow.select(fn.COUNT(EvidenceRow.id)).join(RoundRow).where(mine)
    minutes = fn.COALESCE(fn.SUM(FlightRow.minutes), 0.0)
    return FlightRow.select(fn.COUNT(FlightRow.id), minutes, hard, refits).where(flown)


@prepared
def _fixes(aircraft: Any, since: Any) -> Select:
    closed = (SnagRow.aircraft == aircraft) & (SnagRow.closed_at >= since) & (SnagRow.parts != "")
    rows = SnagRow.select(SnagRow.parts, fn.COUNT(SnagRow.id)).where(closed & ~SnagRow.check_id.startswith(DECIDES))
    return rows.group_by(SnagRow.parts)


class _Since(Struct, frozen=True):
    """What an aircraft has behind it since a moment: flights, minutes, hard landings, refits, and the fixes of each part."""

    flights: int
    minutes: float
    hard: int
    refits: int
    fixes: Counter[str]


def _since(aircraft_id: int, moment: datetime) -> _Since:
    flights, minutes, hard, refits = _behind.first(aircraft_id, moment) or (0, 0.0, 0, 0)
    fixes: Counter[str] = Counter()
    for on, times in _fixes(aircraft_id, moment):
        fixes.update(dict.fromkeys(on.split(), times))
    return _Since(flights, minutes, hard, refits, fixes)


def ages(aircraft: Aircraft, parts: Iterable[TouchedPart], now: datetime) -> dict[str, PartAge]:
    """What these parts have behind them at an aware time, by their ids; one that was never replaced has all that its aircraft has."""
    fitted, touched = dict(_fitted(aircraft.id)), touches.last_touched(aircraft.id, now)
    known: dict[datetime, _Since] = {}
    found = {}
    for part in parts:
        since = max((at for at in (fitted.get(part.id), fitted.get(part.unit)) if at is not None), default=None)
        moment = since or BEFORE_ALL
        if moment not in known:
            known[moment] = _since(aircraft.id, moment)
        behind = known[moment]
        found[part.id] = PartAge(
            since=since,
            flights=behind.flights + (aircraft.flown_before if since is None else 0),
            minutes=behind.minutes,
            hard_landings=behind.hard,
            uses=behind.refits,
            fixes=behind.fixes[part.id],
            touched_at=touched.get(part.id),
        )
    return found


def worn(aircraft: Aircraft, now: datetime) -> tuple[Worn, ...]:
    """The parts of an aircraft that are near or past a life of theirs, the worst first."""
    parts = damageable(aircraft)
    return worn_parts(aircraft, parts, ages(aircraft, parts, now), now)


def note_wear(aircraft: Aircraft, now: datetime) -> None:
    """Open a snag for each part at the end of its life that has none yet."""
    have = {(snag.check_id, part) for snag in snags.open_ones(aircraft.id) for part in snag.parts}
    for one in worn(aircraft, now):
        key = (f"{LIFE}{one.rule.name}", one.part.id)
        if one.known and one.behind >= one.limit and key not in have:
            snags.open_one(
                SnagOn.AIRCRAFT,
                aircraft.id,
                f"Worn out. {one.words()}",
                grounds=one.level is Level.GROUNDED,
                at=now,
                check_id=key[0],
                parts=(one.part.id,),
            )
