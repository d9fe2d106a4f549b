"""The settings of a failsafe judged: what is not known, what contradicts itself, and how far a held position flies."""

from datetime import datetime

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.failsafe import Action, Controls, Failsafe, LowBattery
from walkround.core.aircraft.traits import Trait
from walkround.core.base.finding import OUR_CHOICE, PRACTICE, Finding, Level
from walkround.core.base.phrase import Phrase, distance, height, minute, percent, speed
from walkround.core.base.units import Quantity
from walkround.core.flight.estimate import Endurance
from walkround.core.flight.power import usual_cruise_ms
from walkround.core.lost_link.bench_test import LONGEST_S
from walkround.core.lost_link.bodies import HALF_THROTTLE, glide_ms, glide_ratio, hold_minutes

CUTS = (Action.CIRCLE, Action.GLIDE, Action.BRAKES, Action.STOP)


def judge_hold(
    aircraft: Aircraft,
    known: Endurance,
    charge_percent: float,
    wind_ms: float,
    *,
    throttle_percent: float | None = None,
    height_m: float = 60.0,
) -> tuple[Finding, ...]:
    """Refuse *hold last position*, with how long and how far it flies: charge in per cent of a full pack, wind in m/s behind it, height in m.

    Source: minutes at that throttle times airspeed and wind; common practice says 15 to 20 minutes at half throttle, miles away.
    """
    if aircraft.has(Trait.NO_MOTOR):
        air_ms, seconds = glide_ms(aircraft), height_m * glide_ratio(aircraft, Action.HOLD) / glide_ms(aircraft)
        flies_m = seconds * (air_ms + wind_ms)
        words = Phrase.of(
            "With hold last position it glides straight on: about {far} from {high}.",
            far=distance(flies_m),
            high=height(height_m),
        )
    else:
        minutes = hold_minutes(aircraft, known, throttle_percent) * charge_percent / 100
        air_ms = usual_cruise_ms(aircraft)
        flies_m = 60 * minutes * (air_ms + wind_ms)
        words = Phrase.of(
            "With hold last position at {throttle} throttle it flies on for {minutes}: at {speed} with the wind, {far} away.",
            throttle=percent(HALF_THROTTLE if throttle_percent is None else throttle_percent), minutes=minute(minutes),
            speed=speed(air_ms + wind_ms), far=distance(flies_m),
        )  # fmt: skip
    remedy = (
        "Set the failsafe to airbrakes out or a gentle turn, then test it."
        if aircraft.has(Trait.NO_MOTOR)
        else "Set the failsafe to cut the motor, then test it."
    )
    return (Finding(name="Hold last position", level=Level.GROUNDED, reason=words, remedy=remedy, source=PRACTICE),)


def _say(name: str, level: Level, words: str, remedy: str = "", **numbers: Quantity) -> Finding:
    return Finding(name=name, level=level, reason=Phrase.of(words, **numbers), remedy=remedy, source=OUR_CHOICE)


def judge_settings(aircraft: Aircraft, settings: Failsafe) -> tuple[Finding, ...]:
    """Judge the settings that are no answer of a round: delay in s, throttle, controls, confirmation, low battery. What is not known is never clear.

    Source: practice of failsafes; the delay is our choice.
    """
    said = []
    if settings.delay_s is None:
        said.append(
            _say(
                "Delay",
                Level.CAUTION,
                "The delay of the failsafe is not known.",
                "Read it, or measure it on the bench.",
            )
        )
    elif settings.delay_s > LONGEST_S:
        said.append(
            _say(
                "Delay",
                Level.CAUTION,
                f"The delay is {settings.delay_s:g} s: so long it flies on without command.",
                "Set it shorter.",
            )
        )
    else:
        said.append(_say("Delay", Level.CLEAR, f"The failsafe acts after {settings.delay_s:g} s."))
    if settings.action in CUTS and settings.throttle_percent:
        words = "The action cuts the motor, but the failsafe throttle is {throttle}."
        said.append(
            _say(
                "Throttle",
                Level.GROUNDED,
                words,
                "Set the failsafe throttle to 0.",
                throttle=percent(settings.throttle_percent),
            )
        )
    if settings.controls is Controls.HELD and settings.action is not Action.HOLD:
        said.append(
            _say(
                "Controls",
                Level.GROUNDED,
                "The controls stay where they were.",
                "Set them in the receiver, then test it.",
            )
        )
    if aircraft.has(Trait.RETURN_HOME) and settings.action in (None, Action.RETURN):
        if settings.confirm_s is None:
            said.append(
                _say(
                    "Confirmation",
                    Level.CAUTION,
                    "It is not known whether RTH needs confirming.",
                    "Read the manual, then try it close and low.",
                )
            )
        elif settings.confirm_s == 0:
            said.append(_say("Confirmation", Level.CLEAR, "RTH needs no confirming."))
        elif settings.confirm_s > 0:
            said.append(
                _say(
                    "Confirmation",
                    Level.CAUTION,
                    f"RTH stops unless you confirm it every {settings.confirm_s:g} s.",
                    "Keep the screen on and in your hand.",
                )
            )
        if settings.low is LowBattery.UNKNOWN:
            said.append(
                _say(
                    "Low battery",
                    Level.CAUTION,
                    "It is not known what it does when the pack is low.",
                    "Read it in the settings.",
                )
            )
    return tuple(said)


def last_read_words(settings: Failsafe | None, site_name: str, local: datetime | None) -> str:
    """When and where the settings were last read, in words; at which other field, where it was one. ``local``: when, at the field."""
    if settings is None or local is None:
        return "Never read, according to your records."
    by = f" in the {settings.read_by}" if settings.read_by else ""
    elsewhere = (
        f" at {settings.read_site}, not here yet" if settings.read_site and settings.read_site != site_name else ""
    )
    return f"Last read{by} on {local.day} {local:%B %Y}{elsewhere}."
