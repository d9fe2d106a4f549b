"""What is on record about an aircraft, as facts for a diagnosis: from the round that would be flown now, its parts, and the snags that were closed."""

from collections import Counter
from collections.abc import Collection, Sequence
from datetime import datetime, timedelta

from walkround.core.aircraft.traits import Kind, Trait
from walkround.core.base.finding import Level
from walkround.core.base.geodesy import distance_m
from walkround.core.base.wording import capital
from walkround.core.checklist.history import EventKind
from walkround.core.diagnosis.ranking import Ranked
from walkround.core.diagnosis.symptoms import Facts, Symptom
from walkround.core.field.interference import sources
from walkround.core.flight.flight_plan import winds_at
from walkround.core.round.context import Context

LATELY = timedelta(days=30)
"""What was changed within so long may be behind it. Source: our choice."""
OFTEN, OFTEN_WITHIN = 2, timedelta(days=90)
"""So many fixes of the same within so long are too many. Source: our choice."""
FRESH = timedelta(hours=18)


def _days(now: datetime, at: datetime | None) -> float | None:
    return None if at is None else max(0.0, (now - at).total_seconds() / 86_400)


def facts_of(context: Context, motor_hours: Collection[float], fixes: Collection[tuple[datetime, str]]) -> Facts:
    """The facts of an aircraft at the moment of a situation; ``motor_hours``: of each motor since it was fitted, in h; ``fixes``: when (aware) what was fixed, in words."""
    s, aircraft = context.situation, context.situation.aircraft
    history, now = s.history, s.now
    compass = history.latest(EventKind.COMPASS_CALIBRATED)
    level = history.latest(EventKind.ACCELEROMETER_CALIBRATED)
    felt = sources(s.site)
    iron = [one.away_m for one in felt if one.compass is not Level.CLEAR]
    radio = [one.away_m for one in felt if one.link is not Level.CLEAR]
    wind = context.weather is not None and context.weather.wind_ms is not None and not s.site.indoors
    _, strongest = winds_at(context.weather, s.site, context.highest_m)
    fix, sender = history.last_done("sensors.satellites"), history.last_done("bench.transmitter")
    replaced = {
        e.part.value
        for e in history.events
        if e.kind is EventKind.PART_REPLACED and e.part is not None and now - e.at <= LATELY
    }
    newest = max(history.uses, key=lambda use: use.at, default=None)
    often = Counter(what for at, what in fixes if now - at <= OFTEN_WITHIN)
    carried = (
        distance_m(compass.position, s.site.position) / 1000
        if compass is not None and compass.position is not None
        else None
    )

    def since(kind: EventKind) -> float | None:
        event = history.latest(kind)
        return _days(now, None if event is None else event.at)

    return Facts(
        kind=aircraft.kind,
        compass=aircraft.has(Trait.COMPASS),
        satnav=aircraft.has(Trait.SATNAV),
        electric=aircraft.has(Trait.ELECTRIC),
        levels=aircraft.has(Trait.FLIGHT_CONTROLLER) or aircraft.has(Trait.STABILISER),
        rotors=aircraft.rotors,
        compass_days=_days(now, None if compass is None else compass.at),
        level_days=_days(now, None if level is None else level.at),
        carried_km=carried,
        iron_m=min(iron, default=None),
        radio_m=min(radio, default=None),
        wind_share=min(1.0, strongest / aircraft.top_speed_ms) if wind else None,
        satellites=fix.value.value if fix is not None and fix.value is not None and now - fix.at <= FRESH else None,
        firmware_days=since(EventKind.FIRMWARE),
        hard_landing_days=since(EventKind.HARD_LANDING),
        crash_days=since(EventKind.CRASH),
        new_parts=tuple(sorted(replaced)),
        motor_hours=max(motor_hours, default=None),
        pack_health=history.pack_state_of_health,
        pack_c=None if context.weather is None else context.weather.temperature_c,
        minutes_share=None if newest is None else newest.full_min / context.endurance().today.mid,
        fixed_often=tuple(sorted(what for what, many in often.items() if many >= OFTEN)),
        added_g=aircraft.mass_g - aircraft.bare_mass_g if aircraft.bare_mass_g is not None else 0.0,
        cg_known=aircraft.kind is not Kind.WING or aircraft.cg_min_mm is not None,
        antenna_hurt=any("antenna" in f"{snag.title} {' '.join(snag.parts)}".lower() for snag in history.snags),
        transmitter_percent=sender.value.value
        if sender is not None and sender.value is not None and now - sender.at <= FRESH
        else None,
        idle_days=_days(now, history.aircraft_last_flight_at),
    )


def check_for(ranked: Ranked, belonging: Collection[str]) -> str:
    """The check that decides about a cause on this aircraft: the first of its test that belongs to it (ids); empty where none does."""
    return next((check for check in ranked.test.check_ids if check in belonging), "")


def snag_title(symptoms: Sequence[Symptom], ranked: Ranked) -> str:
    """The words of the snag that waits for the test of a cause."""
    return f"{capital(', '.join(symptom.value for symptom in symptoms))}: {ranked.cause.value}?"
