"""The bench test of a failsafe, step by step for what the aircraft has; what was seen, judged."""

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.failsafe import Action, Failsafe
from walkround.core.aircraft.link_trials import BenchTest, Seen
from walkround.core.aircraft.traits import Kind, Trait
from walkround.core.base.finding import OUR_CHOICE, PRACTICE, Finding, Level
from walkround.core.base.phrase import Phrase
from walkround.core.base.struct import Struct

DELAY_SLACK_S = 1.0
"""So far the measured delay may be from the setting, in s: a hand on a button. Source: our choice."""
WATCH_S = 10.0
"""So long the motors are watched when the delay is not known, in s. Source: our choice; common practice, no source."""
LONGEST_S = 5.0
"""A longer delay is a caution: so long it flies on without command, in s. Source: our choice."""
IN_AIR_ACTIONS = (Action.RETURN, Action.HOVER, Action.LAND, Action.LOITER)


class Step(Struct, frozen=True, kw_only=True):
    """A step: its id, what to do, what can hurt; ``gate``: nothing after it before it is confirmed; ``wait_s``: a timer of so many s; ``asks``: what the pilot
    taps: "done", "off" (the transmitter is off now), "seen" (what happened)."""

    id: str
    words: str
    caution: str = ""
    gate: bool = False
    wait_s: float = 0.0
    asks: str = "done"


def check_of(aircraft: Aircraft) -> str:
    """The check of the library that this test answers, by its id."""
    if aircraft.has(Trait.NO_MOTOR):
        return "bench.failsafe_glider"
    return "bench.failsafe_engine" if aircraft.has(Trait.LIQUID_FUEL) else "bench.failsafe"


def watch_s(settings: Failsafe | None) -> float:
    """How long is watched, in s: the delay as set and half as long again, else ``WATCH_S``. Source: our choice."""
    delay = None if settings is None else settings.delay_s
    return WATCH_S if delay is None else max(WATCH_S, 1.5 * delay + 2)


def steps(aircraft: Aircraft, settings: Failsafe | None) -> tuple[Step, ...]:
    """The steps for an aircraft. Source: practice of the bench test; common practice, no source."""
    watch = watch_s(settings)
    off = Step(id="off", words="Switch the transmitter off, and tap at the same moment.", asks="off", wait_s=watch)
    if aircraft.has(Trait.NO_MOTOR):
        return (
            Step(id="on", words="Switch transmitter and receiver on. Hold a stick to one side."),
            off,
            Step(id="seen", words="Watch: airbrakes out, or surfaces in a gentle turn?", asks="seen"),
            Step(id="back", words="Switch the transmitter on again. The surfaces follow the sticks."),
        )
    if aircraft.has(Trait.LIQUID_FUEL):
        return (
            Step(
                id="cold",
                gate=True,
                words="The engine stands, the plug is off.",
                caution="An engine without its load overspeeds. Never run it for this test.",
            ),
            Step(id="on", words="Switch transmitter and receiver on. Open the throttle to half."),
            off,
            Step(id="seen", words="Watch the throttle close or the ignition cut.", asks="seen"),
            Step(id="back", words="Switch the transmitter on again. Throttle closed."),
        )
    blades = "blade" if aircraft.kind is Kind.HELICOPTER else "propeller"
    free = "or the pinion out of mesh, " if aircraft.kind is Kind.HELICOPTER else ""
    return (
        Step(
            id="blades", gate=True, words=f"Pack unplugged. Every {blades} is off the shaft, {free}aircraft held down.",
            caution="Running blades cut to the bone. If the failsafe is wrong, the motors keep running.",
        ),
        Step(id="clear", gate=True, words="Everyone behind the aircraft, fingers clear of the motors."),
        Step(id="on", words="Transmitter on, then plug the pack in. Arm, and run the motors slowly.", caution="From here on the motors can start."),
        off,
        Step(id="seen", words="Watch the motors and listen for the beeper.", asks="seen"),
        Step(id="back", words="Disarm, unplug the pack. Then switch the transmitter on again."),
    )  # fmt: skip


def options(aircraft: Aircraft) -> tuple[Seen, ...]:
    """What can be seen at the end, for an aircraft."""
    if aircraft.has(Trait.NO_MOTOR):
        return (Seen.ACTED, Seen.NOTHING)
    if aircraft.has(Trait.LIQUID_FUEL):
        return (Seen.ACTED, Seen.NOTHING)
    return (Seen.STOPPED, Seen.ACTED, Seen.KEPT_ON)


def judge_test(test: BenchTest, aircraft: Aircraft, settings: Failsafe | None) -> tuple[Finding, ...]:
    """Judge a bench test against the settings, delays in s: what kept on grounds until it is tested again. Source: practice of the bench test."""
    if not test.passed:
        words = (
            "The motors kept running after signal loss."
            if test.seen is Seen.KEPT_ON
            else "Nothing moved after signal loss."
        )
        remedy = "Do not fly until you know why. Set the failsafe in receiver and flight controller, then test again."
        return (
            Finding(name="Failsafe", level=Level.GROUNDED, reason=Phrase(text=words), remedy=remedy, source=PRACTICE),
        )
    said = [
        Finding(
            name="Failsafe",
            level=Level.CLEAR,
            reason=Phrase(text=f"On signal loss {test.seen.value}."),
            source=PRACTICE,
        )
    ]
    if test.after_s is not None:
        said.append(_delay(test.after_s, None if settings is None else settings.delay_s))
    if aircraft.has(Trait.BEEPER) and test.beeper is not None:
        level = Level.CLEAR if test.beeper else Level.CAUTION
        words = "The beeper sounded on signal loss." if test.beeper else "The beeper stayed silent on signal loss."
        said.append(
            Finding(
                name="Beeper",
                level=level,
                reason=Phrase(text=words),
                remedy="" if test.beeper else "Repair it at home, and stay close.",
                source=PRACTICE,
            )
        )
    return tuple(said)


def _delay(after_s: float, set_s: float | None) -> Finding:
    """The measured delay against the setting; a long one is a caution where the setting is not known."""
    if set_s is None:
        late, words = after_s > LONGEST_S, f"It took {after_s:.1f} s. The setting of the delay is not recorded."
        remedy = "Read the delay, and set it shorter."
    else:
        late, words = abs(after_s - set_s) > DELAY_SLACK_S, f"It took {after_s:.1f} s; the delay is set to {set_s:g} s."
        remedy = "Read the delay again, and repeat the test."
    level = Level.CAUTION if late else Level.CLEAR
    return Finding(
        name="Delay", level=level, reason=Phrase(text=words), remedy=remedy if late else "", source=OUR_CHOICE
    )
