"""Why it will not arm: tests in a fixed order, each with its value, its limit and its state; the first that blocks, what to do, and what comes next."""

import math
from collections.abc import Iterable
from enum import StrEnum

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.controller import Arms, ControllerProfile, generic
from walkround.core.aircraft.how_it_works import ArmBy, HowItWorks
from walkround.core.aircraft.traits import Trait
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Level
from walkround.core.base.struct import Struct
from walkround.core.diagnosis.messages import Message, read_messages
from walkround.core.diagnosis.switch_table import where_selected
from walkround.core.sensors.devices import Frame, Here
from walkround.core.sensors.nmea import Fix, read_nmea
from walkround.core.sensors.satellites import SATELLITE_QUALITIES

MOVED = 0.25
"""A channel that went less far than this share of its range from its middle was not moved. Source: our choice."""
TOGETHER = 0.98
"""Two channels that move alike to this share have the same job. Source: our choice."""
CENTRE_US, HALF_US = 1_500.0, 500.0


class Ends(Struct, frozen=True, kw_only=True):
    """What a channel reaches, in µs: low, centre and high."""

    low_us: float
    centre_us: float
    high_us: float


class ArmingValues(Struct, frozen=True, kw_only=True):
    """What is known of an aircraft that will not arm; None, or nothing, where it is not known. Pulses in µs, angles in degrees, field in µT, volts in V.

    ``alike``: numbers of two channels that move together; ``failsafe_us``: the throttle that the receiver gives without a signal; ``offset_ut``: length of the compass
    offsets; ``expected_ut``: strength of the field here.
    """

    model_right: bool | None = None
    signal: bool | None = None
    throttle_us: float | None = None
    arm_switch_on: bool | None = None
    mode: str = ""
    ends: tuple[Ends, ...] = ()
    alike: tuple[int, ...] = ()
    failsafe_us: float | None = None
    calibrated: bool | None = None
    tilt_deg: float | None = None
    turning_dps: float | None = None
    offset_ut: float | None = None
    field_ut: float | None = None
    expected_ut: float | None = None
    fix: bool | None = None
    hdop: float | None = None
    board_v: float | None = None
    cell_v: float | None = None
    lean_most_deg: float | None = None
    inside_fence: bool | None = None
    failsafe: bool | None = None
    messages: tuple[Message, ...] = ()


class State(StrEnum):
    """How a test stands."""

    OK = "ok"
    BLOCKS = "blocks"
    UNKNOWN = "not known"


class ArmingTest(Struct, frozen=True, kw_only=True):
    """One test: its name, what was found and what is needed in words, how it stands, and what to do unless it is passed."""

    name: str
    found: str
    needed: str
    state: State
    do: str


class Diagnosis(Struct, frozen=True, kw_only=True):
    """All tests in their order."""

    tests: tuple[ArmingTest, ...]

    @property
    def blockers(self) -> tuple[ArmingTest, ...]:
        """Those that block, in their order."""
        return tuple(one for one in self.tests if one.state is State.BLOCKS)

    @property
    def unknown(self) -> tuple[ArmingTest, ...]:
        """Those that nothing is known of."""
        return tuple(one for one in self.tests if one.state is State.UNKNOWN)

    @property
    def first(self) -> ArmingTest | None:
        """The first that blocks."""
        return next(iter(self.blockers), None)

    @property
    def arms(self) -> bool:
        """Whether every test is passed: nothing blocks, and nothing is unknown."""
        return all(one.state is State.OK for one in self.tests)

    @property
    def words(self) -> str:
        """The outcome in a sentence."""
        if self.first is not None:
            return f"What blocks it first: {self.first.name.lower()}."
        if self.unknown:
            return f"Nothing known blocks it. Not known yet: {', '.join(one.name.lower() for one in self.unknown)}."
        return "It should arm now."


def diagnose(values: ArmingValues, profile: ControllerProfile, card: HowItWorks | None = None) -> Diagnosis:
    """The tests of a controller on what is known; ``card``: which switch selects what, where that is entered. Source: order of the trade, common practice, no source; numbers of the profile."""
    return Diagnosis(tests=arming_tests(values, profile, card))


def _test(name: str, found: str, needed: str, passed: bool | None, do: str) -> ArmingTest:
    state = State.UNKNOWN if passed is None else State.OK if passed else State.BLOCKS
    return ArmingTest(
        name=name,
        found=found if passed is not None else "not known",
        needed=needed,
        state=state,
        do="" if passed else do,
    )


def _within(value: float | None, low: float, high: float) -> bool | None:
    return None if value is None or not math.isfinite(value) else low <= value <= high


def _all(*passed: bool | None) -> bool | None:
    """Whether all are passed: one that is not decides, else one that is not known does."""
    return False if any(one is False for one in passed) else None if any(one is None for one in passed) else True


def _number(value: float | None, unit: str, decimals: int = 0) -> str:
    return "" if value is None else f"{value:.{decimals}f}\N{NARROW NO-BREAK SPACE}{unit}"


def arming_tests(
    values: ArmingValues, profile: ControllerProfile, card: HowItWorks | None = None
) -> tuple[ArmingTest, ...]:
    """Every test that this controller has, in order. Source: as ``diagnose``."""
    v, p = values, profile
    mode = p.mode(v.mode) if v.mode else None
    tests = [
        _test("Model", "right" if v.model_right else "another", "the model of this aircraft", v.model_right, "Select the right model on the transmitter."),
        _test("Receiver", "has a signal" if v.signal else "no signal", "a signal", v.signal, "Switch the transmitter on, wait, and bind it if it never comes."),
        _test(
            "Throttle", _number(v.throttle_us, "µs"), f"up to {p.idle_most_us:.0f}\N{NARROW NO-BREAK SPACE}µs", _within(v.throttle_us, 0, p.idle_most_us),
            "Throttle stick and trim right down. If it is down already, calibrate the travel of the channels.",
        ),
    ]  # fmt: skip
    if p.arms is Arms.SWITCH:
        off = None if v.arm_switch_on is None else not v.arm_switch_on
        tests.append(
            _test(
                "Switches",
                "off" if off else "on",
                "arm switch off at first",
                off,
                "Switch the arm switch off, then on again.",
            )
        )
    tests += [
        _test("Mode", v.mode, _or([one.name for one in p.modes if one.arms]), None if not v.mode else mode is not None and mode.arms, _select(p, card)),
        _channels(v, p),
        _failsafe_value(v, p),
        _test("Calibration", "done" if v.calibrated else "not done", "accelerometer and radio calibrated", v.calibrated, "Calibrate what its messages name: radio first, then the accelerometer."),
        _test("Level", _number(v.tilt_deg, "°", 1), f"within {p.tilt_most_deg:g}°", _within(v.tilt_deg, 0, p.tilt_most_deg), "Set it down level. If it stands level already, calibrate the accelerometer."),
        _test("Gyro", _number(v.turning_dps, "°/s", 1), f"up to {p.turning_most_dps:g}\N{NARROW NO-BREAK SPACE}°/s", _within(v.turning_dps, 0, p.turning_most_dps), "Leave it still. If it shows turning at rest, power off and start again in the shade."),
    ]  # fmt: skip
    if p.satellites:
        tests += [_compass(v, p), _position(v, p, needed=mode is None or mode.position)]
    tests += [
        _voltage(v, p),
        _test("Lean angle", _number(v.lean_most_deg, "°"), f"{p.lean_least_deg:g}° to {p.lean_most_deg:g}°", _within(v.lean_most_deg, p.lean_least_deg, p.lean_most_deg), "Set the largest lean angle to what its manual says."),
    ]  # fmt: skip
    if p.satellites:
        tests.append(
            _test(
                "Geofence",
                "inside" if v.inside_fence else "outside",
                "inside, or none set",
                v.inside_fence,
                "Launch inside the geofence, or set it for this field.",
            )
        )
    tests.append(_flags(v))
    return tuple(tests)


def _select(p: ControllerProfile, card: HowItWorks | None) -> str:
    """What to do about a mode in which it may not arm, with the switch where the card names it."""
    found = [(one.name, where_selected(card, one.name)) for one in p.modes if one.arms]
    named = next((f"{name}, {where}" for name, where in found if where), "")
    return f"Select a mode in which it may arm: {named}." if named else "Select a mode in which it may arm."


def _or(names: list[str]) -> str:
    return " or ".join(names) or "none of its modes"


def _channels(v: ArmingValues, p: ControllerProfile) -> ArmingTest:
    needed = f"ends below {p.ends_low_us:.0f} and above {p.ends_high_us:.0f}\N{NARROW NO-BREAK SPACE}µs, centres near {CENTRE_US:.0f}, each its own job"
    if not v.ends:
        return _test("Channels", "", needed, None, "Move every stick to its ends while the channels are read.")
    short = [i for i, one in enumerate(v.ends, 1) if one.low_us > p.ends_low_us or one.high_us < p.ends_high_us]
    # The throttle, the third, has no centre to come back to.
    off = [i for i, one in enumerate(v.ends, 1) if i != THROTTLE and abs(one.centre_us - CENTRE_US) > p.centre_off_us]
    words = [f"channel {i} is short" for i in short] + [f"channel {i} is off centre" for i in off]
    words += [f"channels {' and '.join(map(str, v.alike))} move together"] if v.alike else []
    return _test(
        "Channels",
        ", ".join(words) or "full travel, centred",
        needed,
        not words,
        "Calibrate the radio: travel to the ends, trims centred, one job for each channel.",
    )


THROTTLE = 3
"""The channel of the throttle, where they are in the usual order: roll, pitch, throttle, yaw. Source: our stand-in; common practice, no source."""


def _failsafe_value(v: ArmingValues, p: ControllerProfile) -> ArmingTest:
    """Without a signal the throttle must lie between silence and the lowest of the stick, so that the controller can tell them apart."""
    lowest = v.ends[THROTTLE - 1].low_us if len(v.ends) >= THROTTLE else v.throttle_us
    known = v.failsafe_us is not None and lowest is not None
    passed = p.silence_us < v.failsafe_us < lowest if v.failsafe_us is not None and lowest is not None else None
    needed = f"above {p.silence_us:.0f} and below the lowest throttle{f', {lowest:.0f}' if lowest is not None else ''}\N{NARROW NO-BREAK SPACE}µs"
    return _test(
        "Failsafe value",
        _number(v.failsafe_us, "µs") if known else "",
        needed,
        passed,
        "Set the throttle that the receiver gives without a signal between the two.",
    )


def _compass(v: ArmingValues, p: ControllerProfile) -> ArmingTest:
    off = None if v.field_ut is None or not v.expected_ut else abs(v.field_ut - v.expected_ut) / v.expected_ut
    passed = _all(_within(v.offset_ut, 0, p.offset_most_ut), _within(off, 0, p.field_off))
    found = (
        f"offsets of {_number(v.offset_ut, 'µT') or 'unknown length'}, field {_number(v.field_ut, 'µT') or 'not known'}"
    )
    needed = f"offsets up to {p.offset_most_ut:.0f}\N{NARROW NO-BREAK SPACE}µT together, field within {100 * p.field_off:.0f}\N{NARROW NO-BREAK SPACE}% of {_number(v.expected_ut, 'µT') or 'that of the place'}"
    return _test(
        "Compass",
        found,
        needed,
        passed,
        "Move away from metal. If it stays, calibrate the compass, or move it away from power leads.",
    )


def _position(v: ArmingValues, p: ControllerProfile, *, needed: bool) -> ArmingTest:
    if not needed:
        return _test("Position", "not needed in this mode", "none in this mode", True, "")
    hdop = None if v.hdop is None or not math.isfinite(v.hdop) else v.hdop < p.hdop_most
    passed = _all(v.fix, hdop if v.fix is not False else True)
    found = "no fix" if v.fix is False else f"fix, HDOP {_number(v.hdop, '', 1).strip()}"
    return _test(
        "Position",
        found,
        f"a fix with HDOP below {p.hdop_most:g}",
        passed,
        "Wait under open sky, or select a mode that needs no position.",
    )


def _voltage(v: ArmingValues, p: ControllerProfile) -> ArmingTest:
    passed = _all(
        _within(v.board_v, p.board_least_v, p.board_most_v), None if v.cell_v is None else v.cell_v >= p.cell_least_v
    )
    found = f"board {_number(v.board_v, 'V', 2) or 'not known'}, cell {_number(v.cell_v, 'V', 2) or 'not known'}"
    needed = f"board {p.board_least_v:g} to {p.board_most_v:g}\N{NARROW NO-BREAK SPACE}V, cell from {p.cell_least_v:g}\N{NARROW NO-BREAK SPACE}V"
    return _test(
        "Voltage",
        found,
        needed,
        passed,
        "Charge the pack; measure the voltage at the flight controller with everything plugged in.",
    )


def _flags(v: ArmingValues) -> ArmingTest:
    """Failsafe active, and messages that speak of trouble; one that is not understood blocks nothing by itself."""
    bad = [one.text for one in v.messages if one.level is Level.GROUNDED]
    active = ["failsafe is active"] if v.failsafe else []
    passed = False if bad or active else None if v.failsafe is None else True
    remedy = next(
        (one.remedy for one in v.messages if one.level is Level.GROUNDED),
        "Transmitter on, right model, signal there; then power off and on.",
    )
    return _test(
        "Error flags", ", ".join(active + bad) or "none", "failsafe not active, no message of trouble", passed, remedy
    )


def values_from(frames: Iterable[Frame], here: Here, *, cells: int) -> ArmingValues:
    """What frames tell while the sticks are moved; ``here``: where. Only what was reported is known, and channels only once all were moved. Source: the frames."""
    seen = list(frames)
    if not seen:
        return ArmingValues()
    last = seen[-1]
    said = [line for frame in seen for line in frame.messages]
    fix, hdop = _fix_of(seen, here)
    return ArmingValues(
        signal=None if last.failsafe is None else not last.failsafe,
        throttle_us=_us(last.sticks[THROTTLE - 1]) if len(last.sticks) >= THROTTLE else None,
        mode=last.mode,
        ends=_ends(seen),
        alike=_alike(seen),
        tilt_deg=last.tilt_deg,
        turning_dps=_middle([math.hypot(*f.turning_dps) for f in seen if f.turning_dps is not None]),
        field_ut=_middle([math.hypot(*f.field_ut) for f in seen if f.field_ut is not None]),
        expected_ut=math.hypot(*here.earth_ut),
        fix=fix,
        hdop=hdop,
        board_v=last.board_v,
        cell_v=None if last.pack_v is None else last.pack_v / cells,
        lean_most_deg=last.lean_most_deg,
        failsafe=last.failsafe,
        messages=read_messages("\n".join(said)) if said else (),
    )


def _us(stick: float) -> float:
    return CENTRE_US + HALF_US * stick


def _middle(values: list[float]) -> float | None:
    return sorted(values)[len(values) // 2] if values else None


def _ends(frames: list[Frame]) -> tuple[Ends, ...]:
    """What each channel reached, where every one of them was moved; its centre is where it rested longest."""
    channels = list(zip(*(f.sticks for f in frames if f.sticks), strict=False))
    found = []
    for values in channels:
        low, high = min(values), max(values)
        if high - low < 2 * MOVED:
            return ()
        found.append(Ends(low_us=_us(low), centre_us=_us(_middle(list(values)) or 0.0), high_us=_us(high)))
    return tuple(found)


def _alike(frames: list[Frame]) -> tuple[int, ...]:
    """Numbers of the first two channels that were moved and always moved together; none where no two did."""
    channels = list(zip(*(f.sticks for f in frames if f.sticks), strict=False))
    for i, one in enumerate(channels):
        for j, other in enumerate(channels[i + 1 :], i + 1):
            if max(one) - min(one) < 2 * MOVED or max(other) - min(other) < 2 * MOVED:
                continue
            if sum(
                abs(a - b) < 1 - TOGETHER or abs(a + b) < 1 - TOGETHER for a, b in zip(one, other, strict=True)
            ) >= TOGETHER * len(one):
                return (i + 1, j + 1)
    return ()


def _fix_of(frames: list[Frame], here: Here) -> tuple[bool | None, float | None]:
    """Whether its receiver had a fix at last, and its dilution."""
    fix = last_fix(next((f.nmea for f in reversed(frames) if f.nmea), ""), here)
    return (None, None) if fix is None else (holds(fix), fix.hdop)


def last_fix(nmea: str, here: Here) -> Fix | None:
    """What a receiver said last; None where nothing can be read of it."""
    if not nmea or here.at is None:
        return None
    try:
        return read_nmea(nmea, here.at)
    except InputError:
        return None


def holds(fix: Fix) -> bool:
    """Whether a fix rests on satellites: not estimated, typed in or simulated, and not void. Source: ``SATELLITE_QUALITIES``."""
    return fix.quality in SATELLITE_QUALITIES and not fix.void


def usual_profile(aircraft: Aircraft) -> ControllerProfile:
    """The generic numbers for an aircraft like this, armed as its card says. Source: its traits; our choice."""
    sticks = aircraft.works is not None and aircraft.works.arm in STICKS
    sky = "satellites" if aircraft.has(Trait.SATNAV) else "no satellites"
    return generic(f"{'stick' if sticks else 'switch'}, {sky}")


STICKS = (ArmBy.YAW_RIGHT, ArmBy.YAW_LEFT, ArmBy.STICKS_IN, ArmBy.STICKS_OUT)
