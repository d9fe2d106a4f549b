"""The plan: only the checks that apply today, each with the reason it is there, and the gates between them."""

from collections.abc import Callable

from walkround.core import due
from walkround.core.base import Value
from walkround.core.check import AskChoice, Cadence, Check, Gate, Option, Station
from walkround.core.finding import Level
from walkround.core.history import Done, Snag, SnagOn
from walkround.core.library import CHECKS, GATES
from walkround.core.link import return_height
from walkround.core.phrase import Phrase, count, day, degree, height
from walkround.core.situation import Situation
from walkround.core.sun import sun_at
from walkround.core.units import Quantity

SNAG_FIXED, SNAG_STILL = "fixed", "still"
NEVER_AGAIN = "A swollen, punctured, leaking or crashed pack is never put right: outdoors, on its own, and retire it."


class PlannedCheck(Value):
    """A check of today: why today, and what was measured the last time (shown beside, never copied)."""

    check: Check
    why_today: Phrase
    before: Quantity | None = None
    snag: Snag | None = None


class Plan(Value):
    """Today's checks in walking order, and the gates between them."""

    checks: tuple[PlannedCheck, ...]
    gates: tuple[Gate, ...]

    def at(self, station: Station) -> tuple[PlannedCheck, ...]:
        """The checks of one station, in order. Source: the plan itself."""
        return tuple(p for p in self.checks if p.check.station is station)


def make_plan(situation: Situation) -> Plan:
    """Today's plan for a situation. Pure: the same situation gives the same plan.

    Source: cadences and events of the practice; each check carries its own.
    """
    planned: list[PlannedCheck] = []
    done_by_id = {d.check_id: d for d in reversed(situation.history.done)}
    snags = {SnagOn.AIRCRAFT: Station.AIRFRAME, SnagOn.PACK: Station.PACK}
    for station in Station:
        for snag in situation.history.snags:
            if snags[snag.on] is station:
                planned.append(_snag_check(snag, station, situation))
        for check in CHECKS:
            if check.station is not station:
                continue
            done = done_by_id.get(check.id)
            reason = _why(check, situation, done)
            if reason is not None:
                planned.append(PlannedCheck(check=check, why_today=reason, before=done.value if done else None))
    here = {p.check.id for p in planned}
    gates = tuple(g for g in GATES if here & set(g.blocks) and here & set(g.needs))
    return Plan(checks=tuple(planned), gates=gates)


def why_today(check: Check, situation: Situation) -> Phrase | None:
    """Why this check is on today's list, or None when it is not; no unit.

    Source: cadence and events of the check; due rules in ``due``.
    """
    return _why(check, situation, situation.history.last_done(check.id))


def _why(check: Check, situation: Situation, done: Done | None) -> Phrase | None:
    if not check.applies.fits(situation.aircraft):
        return None
    if check.due:
        return _DUE[check.due](situation)
    if check.events:
        event = situation.history.latest(*check.events)
        if event is not None and (done is None or event.at > done.at):
            return due.event_reason(event, situation)
    if check.cadence is Cadence.EVENT:
        return None
    if check.cadence is Cadence.SEASON:
        return due.season_due(check.id, situation)
    if check.cadence is Cadence.DAY:
        if done is not None and situation.local(done.at).date() == situation.today():
            return None
        return _special(check, situation) or Phrase.of("First launch of the day.")
    later = situation.history.rounds_today > 0
    if later and situation.practices.round == "short" and not check.short and check.phase.value == "before":
        return None
    return _special(check, situation) or Phrase.of("Second look of the day." if later else "Every launch.")


_PARTS = {check.id: check.part for check in CHECKS}
_DUE: dict[str, Callable[[Situation], Phrase | None]] = {"compass": due.compass_due, "level": due.level_due}


def _special(check: Check, situation: Situation) -> Phrase | None:
    maker = _SPECIAL.get(check.id)
    return None if maker is None else maker(situation)


def _pack_rest(situation: Situation) -> Phrase | None:
    pack, history = situation.pack, situation.history
    if history.pack_flights_today:
        times = history.pack_flights_today
        return Phrase.of(f"Pack {pack.label} has flown {times} {'time' if times == 1 else 'times'} today.")
    marks = [(m, what) for m, what in ((pack.charged_at, "charge"), (history.pack_last_flight_at, "flight")) if m]
    if not marks:
        return Phrase.of(f"Nothing is known yet of pack {pack.label}.")
    moment, what = max(marks, key=lambda mark: mark[0])
    days = (situation.today() - situation.local(moment).date()).days
    if days < 1:
        return None
    return Phrase.of(f"Pack {pack.label} rested {{days}} since its last {what}.", days=day(days))


def _return(situation: Situation) -> Phrase | None:
    needs = return_height(situation.site, situation.aircraft, situation.limits, situation.weather)
    if needs.tallest is None:
        return Phrase.of(f"No obstacle is marked at {situation.site.name}; look again.")
    return Phrase.of(
        f"The tallest at {situation.site.name} is a {needs.tallest.kind}, {{tall}} high at {{away}}.",
        tall=height(needs.tallest.height_m),
        away=height(needs.tallest.distance_m),
    )


def _sun(situation: Situation) -> Phrase | None:
    sun = sun_at(situation.site.position, situation.now)
    if sun.elevation_deg < 0:
        return Phrase.of("The sun is below the horizon now.")
    return Phrase.of(
        "The sun stands at bearing {bearing}, {high} above the horizon.",
        bearing=degree(sun.bearing_deg),
        high=degree(sun.elevation_deg),
    )


def _path(situation: Situation) -> Phrase | None:
    marked = len(situation.site.obstacles)
    if not marked:
        return Phrase.of(f"Nothing is marked at {situation.site.name} yet.")
    return Phrase.of(f"{{marked}} marked at {situation.site.name}; look for the one that is not.", marked=count(marked))


def _circle(situation: Situation) -> Phrase | None:
    nearest = situation.site.nearest()
    if nearest is None:
        return None
    return Phrase.of(f"The nearest thing marked is a {nearest.kind} at {{away}}.", away=height(nearest.distance_m))


def _roles(situation: Situation) -> Phrase | None:
    text = situation.site.emergency
    return Phrase.of(f"Kept with this field: {text}") if text else None


def _bands(situation: Situation) -> Phrase | None:
    return Phrase.of("Every launch; this wing is held by {bands}.", bands=count(situation.aircraft.bands))


def _planned(situation: Situation) -> Phrase | None:
    history = situation.history
    if history.pack_typical_min is None:
        return None
    return Phrase.of(
        f"Pack {situation.pack.label} flew {{typical}} min on its usual flight ({{flights}} logged).",
        typical=count(round(history.pack_typical_min)),
        flights=count(history.pack_typical_flights),
    )


_SPECIAL: dict[str, Callable[[Situation], Phrase | None]] = {
    "pack.cells": _pack_rest,
    "pack.plan": _planned,
    "link.return_height": _return,
    "field.sun": _sun,
    "field.path": _path,
    "field.launch_circle": _circle,
    "field.roles": _roles,
    "field.pilot": due.idle_reason,
    "airframe.bands": _bands,
}


def _snag_check(snag: Snag, station: Station, situation: Situation) -> PlannedCheck:
    opened = due.day_words(situation.local(snag.opened_at).date(), situation.today())
    level = Level.GROUNDED if snag.grounds else Level.CARE
    on = situation.pack.label if snag.on is SnagOn.PACK else situation.aircraft.name
    check = Check(
        id=f"snag.{snag.id}",
        station=station,
        title=f"Open snag: {snag.title}",
        how=f"Look at {on} again. Say what was done, or leave it open.",
        why="A fault that was found stays until it is put right.",
        grounds=snag.grounds,
        cadence=Cadence.LAUNCH,
        ask=AskChoice(
            options=(
                Option(id=SNAG_FIXED, label="Put right", reason="Put right.", needs_note=True),
                Option(
                    id=SNAG_STILL,
                    label="Still there",
                    level=level,
                    reason=f"{snag.title}: still open.",
                    remedy="It stays down until this is put right." if snag.grounds else "Mind it in the air.",
                ),
            )
        ),
        fault=f"{snag.title}: still open.",
        remedy="Put it right before it flies.",
        caution=NEVER_AGAIN if snag.on is SnagOn.PACK and snag.grounds else "",
        short=True,
        part=_PARTS.get(snag.check_id) or ("pack" if snag.on is SnagOn.PACK else "body"),
    )
    return PlannedCheck(check=check, why_today=Phrase.of(f"Found {opened} and not closed."), snag=snag)
