"""What stands between the pilot and flying, seen before a round is started."""

from walkround.core.aircraft.traits import Trait
from walkround.core.base.finding import Finding, Level
from walkround.core.base.phrase import Phrase
from walkround.core.base.wording import counted
from walkround.core.round import due
from walkround.core.round.readiness import readiness
from walkround.core.round.situation import Situation
from walkround.core.round.why import Day


def stands_between(situation: Situation, day: Day | None = None) -> tuple[Finding, ...]:
    """Findings known before the first step: open snags, weather, what is due; worst first. Inside units. ``day``: that of
    the situation, if at hand.

    Source: each finding names its own; due rules in ``due``.
    """
    findings = [
        Finding(
            name="Open snag",
            level=Level.GROUNDED if snag.grounds else Level.CAUTION,
            reason=Phrase(
                text=f"{situation.pack.label if snag.on == 'pack' else situation.aircraft.name}: {snag.title}."
            ),
            remedy="Grounded until this is fixed." if snag.grounds else "Check it again on the walk round.",
        )
        for snag in situation.history.snags
    ]
    day = day or Day(situation)
    findings += [f for f in readiness(day.context, situation.now) if f.level > Level.CLEAR]
    if situation.aircraft.has(Trait.COMPASS):
        findings += _due("Compass", due.compass_due(situation), "Calibrate it at the Sensors station.")
    if situation.aircraft.has(Trait.FLIGHT_CONTROLLER):
        findings += _due("Level", due.accelerometer_due(situation), "Calibrate it on a level surface.")
    findings += _due(
        "Season inspection",
        due.season_due(situation.history.last_done("bench.season_look"), situation),
        "Do it at the bench.",
    )
    findings += _events(situation, day)
    findings += _due("Pilot", due.idle_reason(situation), "Begin with a few minutes at head height.")
    return tuple(sorted(findings, key=lambda f: -f.level))


def _events(situation: Situation, day: Day) -> list[Finding]:
    """Each event that has raised checks, with how many follow from it."""
    return [
        Finding(
            name="Event",
            level=Level.CAUTION,
            reason=Phrase(text=f"{due.event_words(event, situation)}: adds {counted(number, 'check')}."),
            remedy="They stay on the list until they are done.",
        )
        for event, number in day.raised()
    ]


def _due(name: str, reason: Phrase | None, remedy: str) -> list[Finding]:
    return [] if reason is None else [Finding(name=name, level=Level.CAUTION, reason=reason, remedy=remedy)]
