"""What stands between the pilot and flying, seen before a round is started."""

from datetime import timedelta

from walkround.core.aircraft.traits import Trait
from walkround.core.airspace.answer import judge_airspace
from walkround.core.base.finding import Finding, Level
from walkround.core.base.phrase import Phrase
from walkround.core.field.glare import judge_session, session
from walkround.core.field.sight import judge_sight
from walkround.core.field.site import judge_crowd
from walkround.core.field.sun import judge_daylight, sun_height_deg
from walkround.core.round import due
from walkround.core.round.situation import Situation
from walkround.core.round.weather_rules import judge_weather
from walkround.core.round.why import Day


def stands_between(situation: Situation) -> tuple[Finding, ...]:
    """Findings known before the first step: open snags, weather, what is due; worst first. Inside units.

    Source: each finding names its own; due rules in ``due``.
    """
    findings = [
        Finding(
            name="Open snag",
            level=Level.GROUNDED if snag.grounds else Level.CARE,
            reason=Phrase(
                text=f"{situation.pack.label if snag.on == 'pack' else situation.aircraft.name}: {snag.title}."
            ),
            remedy="It stays down until this is put right." if snag.grounds else "Look at it again on the walk.",
        )
        for snag in situation.history.snags
    ]
    if situation.weather is not None:
        findings += [f for f in judge_weather(situation.weather, situation) if f.level > Level.CLEAR]
    light = judge_daylight(sun_height_deg(situation.site.position, situation.now))
    findings += [f for f in light if f.level > Level.CLEAR]
    findings += [f for f in _field(situation) if f.level > Level.CLEAR]
    if situation.aircraft.has(Trait.COMPASS):
        findings += _due("Compass", due.compass_due(situation), "Calibrate it at the Senses station.")
    if situation.aircraft.has(Trait.FLIGHT_CONTROLLER):
        findings += _due("Level", due.level_due(situation), "Calibrate it on a level surface.")
    findings += _due(
        "Season look",
        due.season_due(situation.history.last_done("bench.season_look"), situation),
        "Take it at the bench.",
    )
    findings += _events(situation)
    findings += _due("Pilot", due.idle_reason(situation), "A couple of minutes at head height first.")
    return tuple(sorted(findings, key=lambda f: -f.level))


def _field(situation: Situation) -> tuple[Finding, ...]:
    """What the plan and the zones of the field have against a flight that begins now."""
    site, end = situation.site, situation.now + timedelta(minutes=situation.planned_min)
    found = (
        *judge_sight(site, situation.aircraft),
        *judge_crowd(site, situation.limits.people_m),
        *judge_session(session(site, situation.now, situation.planned_min)),
    )
    if situation.airspace is None:
        return found
    top_m = site.flight_height_m
    return (*judge_airspace(situation.airspace, site, top_m=top_m, begin=situation.now, end=end), *found)


def _events(situation: Situation) -> list[Finding]:
    """Each event that has raised checks, with how many follow from it."""
    return [
        Finding(
            name="Event",
            level=Level.CARE,
            reason=Phrase(
                text=f"{due.event_words(event, situation)}: {number} {'check follows' if number == 1 else 'checks follow'}."
            ),
            remedy="They are on today's list until they are done.",
        )
        for event, number in Day(situation, words=False).raised()
    ]


def _due(name: str, reason: Phrase | None, remedy: str) -> list[Finding]:
    return [] if reason is None else [Finding(name=name, level=Level.CARE, reason=reason, remedy=remedy)]
