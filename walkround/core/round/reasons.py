"""Reasons that say more than the cadence: what the pack, the field and the sky have to do with a check today."""

from collections.abc import Callable

from walkround.core.base.clock import is_ahead
from walkround.core.base.phrase import Phrase, count, day, degree, height, percent, volt
from walkround.core.base.wording import counted
from walkround.core.field.interference import sources
from walkround.core.field.sun import sun_at
from walkround.core.flight.return_to_home import TurnPoint, turn_backs
from walkround.core.flight.rth_altitude import rth_altitude
from walkround.core.flight.speed_home import when_link_lost
from walkround.core.round import due
from walkround.core.round.context import Context
from walkround.core.round.situation import Situation


def special_reason(check_id: str, context: Context) -> Phrase | None:
    """A reason of its own for a check today, in inside units, or None."""
    if check_id in _CALCULATED:
        return _CALCULATED[check_id](context)
    maker = _SPECIAL.get(check_id)
    return None if maker is None else maker(context.situation)


def _pack_rest(situation: Situation) -> Phrase | None:
    pack, history = situation.pack, situation.history
    if history.pack_flights_today:
        times = history.pack_flights_today
        return Phrase.of(f"Pack {pack.label} has flown {counted(times, 'time')} today.")
    dated = ((pack.charged_at, "charge"), (history.pack_last_flight_at, "flight"))
    marks = [(moment, what) for moment, what in dated if moment and not is_ahead(moment, situation.now)]
    if not marks:
        return Phrase.of(f"No data yet for pack {pack.label}.")
    moment, what = max(marks, key=lambda mark: mark[0])
    days = (situation.today() - situation.local(moment).date()).days
    if days < 1:
        return None
    return Phrase.of(f"Pack {pack.label} rested {{days}} since its last {what}.", days=day(days))


def _return(situation: Situation) -> Phrase | None:
    needs = rth_altitude(situation.site, situation.aircraft, situation.limits, situation.weather)
    if needs.tallest is None:
        return Phrase.of(f"No obstacle is marked at {situation.site.name}. Check again.")
    return Phrase.of(
        f"The tallest at {situation.site.name} is a {needs.tallest.words}, {{tall}} high at {{away}}.",
        tall=height(needs.tallest.height_m),
        away=height(needs.tallest_away_m),
    )


def _sun(situation: Situation) -> Phrase | None:
    sun = sun_at(situation.site.position, situation.now)
    if sun.elevation_deg < 0:
        return Phrase.of("The sun is below the horizon now.")
    return Phrase.of(
        "The sun is at bearing {bearing}, {high} above the horizon.",
        bearing=degree(sun.bearing_deg),
        high=degree(sun.elevation_deg),
    )


def _path(situation: Situation) -> Phrase | None:
    site, marked = situation.site, len(situation.site.marks)
    on_plan = {0: "no feature is on the plan yet", 1: "{marked} feature is on the plan"}.get(
        marked, "{marked} features are on the plan"
    )
    numbers = {"marked": count(marked)} if marked else {}
    if site.walked_at is None:
        return Phrase.of(f"No field walk on record; {on_plan}.", **numbers)
    if is_ahead(site.walked_at, situation.now):
        return Phrase.of(f"The last walk is dated ahead of the clock and does not count; {on_plan}.", **numbers)
    days = (situation.today() - situation.local(site.walked_at).date()).days
    when = "today" if days < 1 else "{days} ago"
    if days >= 1:
        numbers["days"] = day(days)
    return Phrase.of(f"Last walked {when}; {on_plan}. What has changed?", **numbers)


def _sources(situation: Situation) -> Phrase | None:
    felt = sources(situation.site)
    if not felt:
        return None
    words = f"The plan has a {felt[0].mark.words} at {{away}}, towards {{where}}."
    return Phrase.of(words, away=height(felt[0].away_m), where=degree(felt[0].bearing_deg))


def _airspace(situation: Situation) -> Phrase | None:
    if situation.airspace is None:
        return Phrase(text="There is no zone data for this field. Fetch it on the airspace page.")
    reach = [zone for zone in situation.airspace.near if zone.away_m == 0]
    if reach:
        return Phrase(text=f"In the data: {', '.join(zone.terms.name for zone in reach[:3])}.")
    return Phrase(text="No zone in the data overlaps your flight. Check again: notices change.")


def _circle(situation: Situation) -> Phrase | None:
    nearest = situation.site.nearest()
    if nearest is None:
        return None
    return Phrase.of(
        f"The nearest marked obstacle is a {nearest.words} at {{away}}.", away=height(situation.site.away(nearest)[0])
    )


def _roles(situation: Situation) -> Phrase | None:
    text = situation.site.emergency
    return Phrase.of(f"Saved for this field: {text}") if text else None


def _bands(situation: Situation) -> Phrase | None:
    return Phrase.of("Every launch. This wing is held by {bands}.", bands=count(situation.aircraft.bands))


def _planned(situation: Situation) -> Phrase | None:
    history = situation.history
    if history.pack_typical_min is None:
        return None
    return Phrase.of(
        f"Pack {situation.pack.label} flew {{typical}} min on its usual flight ({{flights}} logged).",
        typical=count(round(history.pack_typical_min)),
        flights=count(history.pack_typical_flights),
    )


def _firmware(situation: Situation) -> Phrase | None:
    known = [f"aircraft {situation.aircraft.firmware}"] if situation.aircraft.firmware else []
    known += situation.history.part_firmware
    return Phrase(text=f"On record: {', '.join(known)}.") if known else None


def _alarm(context: Context) -> Phrase | None:
    situation, load = context.situation, context.load()
    if load is None:
        return None
    words = f"For {situation.aircraft.name} on pack {situation.pack.label}, {{alarm}} per cell leaves your reserve."
    return Phrase.of(words, alarm=volt(load.alarm_v))


def _turn_back(context: Context) -> Phrase | None:
    situation, site = context.situation, context.situation.site
    place = TurnPoint(distance_m=site.reach_m, height_m=site.flight_height_m)
    lowest = rth_altitude(site, situation.aircraft, situation.limits, situation.weather).lowest_m
    turn = turn_backs(context.trip, [site.reach_m], place, lowest)[0]
    if turn.percent is None:
        return Phrase.of(
            "From the farthest point ({away}) it cannot get home against this wind.", away=height(turn.distance_m)
        )
    words = "From the farthest point ({away}) turn back at {charge}."
    return Phrase.of(words, away=height(turn.distance_m), charge=percent(turn.percent))


def _lost_link(situation: Situation) -> Phrase | None:
    return Phrase(text=when_link_lost(situation.aircraft, situation.site))


_CALCULATED: dict[str, Callable[[Context], Phrase | None]] = {"pack.alarm": _alarm, "link.turn_back": _turn_back}
_SPECIAL: dict[str, Callable[[Situation], Phrase | None]] = {
    "bench.firmware": _firmware,
    "pack.cells": _pack_rest,
    "pack.percent": _pack_rest,
    "pack.plan": _planned,
    "link.rth_altitude": _return,
    "link.lost_action": _lost_link,
    "field.sun": _sun,
    "field.path": _path,
    "field.interference": _sources,
    "field.airspace": _airspace,
    "field.launch_circle": _circle,
    "field.roles": _roles,
    "field.pilot": due.idle_reason,
    "airframe.bands": _bands,
}
