"""Causes ranked by what is on record: a first guess for each symptom, raised by evidence; and the test that decides, the cheapest first."""

from collections.abc import Callable, Collection, Iterator

from walkround.core.aircraft.traits import Kind
from walkround.core.base.struct import Struct
from walkround.core.diagnosis.symptoms import Cause, Facts, Symptom

C, S = Cause, Symptom
FIRST_GUESS: dict[Symptom, dict[Cause, float]] = {
    S.CIRCLES: {C.COMPASS: 4, C.IRON: 2, C.WIND: 1, C.FIX: 1},
    S.DRIFTS: {C.LEVEL: 2, C.WIND: 2, C.FIX: 2, C.COMPASS: 1.5, C.BALANCE: 0.5, C.SETTINGS: 0.5},
    S.OFF_COURSE: {C.COMPASS: 3, C.IRON: 1.5, C.WIND: 2, C.SURFACE: 1.5, C.BALANCE: 1, C.FIX: 1},
    S.CLIMBS: {C.HEIGHT_SENSOR: 3, C.LEVEL: 1, C.BALANCE: 1.5, C.SETTINGS: 1, C.THROTTLE: 0.5, C.WIND: 0.5},
    S.TWITCHY: {C.SETTINGS: 2, C.BALANCE: 1.5, C.PROPELLER: 1, C.SURFACE: 1, C.LOOSE: 1, C.RADIO: 0.5},
    S.VIBRATES: {C.PROPELLER: 3, C.MOTOR: 2, C.LOOSE: 2, C.HEAD: 0.5, C.SURFACE: 0.5},
    S.NOISE: {C.PROPELLER: 2, C.MOTOR: 2, C.LOOSE: 2, C.HEAD: 0.5},
    S.SHORT_FLIGHT: {C.PACK_AGED: 3, C.PACK_COLD: 1, C.LOAD: 1, C.MOTOR: 1, C.WIND: 1, C.HEAD: 0.5, C.PROPELLER: 0.5},
    S.WEAK_LIFT: {C.PROPELLER: 2, C.LOAD: 2, C.PACK_AGED: 2, C.MOTOR: 1.5, C.HEAD: 0.5, C.PACK_COLD: 0.5},
    S.NO_LINK: {C.ANTENNA: 3, C.RADIO: 1.5, C.TRANSMITTER: 1.5, C.LOOSE: 0.5},
    S.WILL_NOT_ARM: {C.THROTTLE: 3, C.FIX: 1, C.COMPASS: 1, C.LEVEL: 1, C.SETTINGS: 1, C.PACK_AGED: 0.5},
}
"""Source: common practice, no source; the numbers are our choice."""


class Test(Struct, frozen=True, kw_only=True):
    """What decides about a cause: in words, minutes it takes, the checks that it may be (ids; the first that belongs to the aircraft), and whether the
    aircraft stays down until then."""

    words: str
    minutes: float
    check_ids: tuple[str, ...] = ()
    grounds: bool = True


class Ranked(Struct, frozen=True, kw_only=True):
    """A cause with its score, what speaks for it, and what decides."""

    cause: Cause
    score: float
    evidence: tuple[str, ...]
    test: Test


class Evidence(Struct, frozen=True):
    """Something that speaks for a cause: how much, and in words."""

    cause: Cause
    weight: float
    words: str


def _days(days: float) -> str:
    return "today" if days < 1 else f"{days:.0f} {'day' if round(days) == 1 else 'days'} ago"


def _of_calibration(f: Facts) -> Iterator[Evidence]:
    if f.compass:
        if f.compass_days is None:
            yield Evidence(C.COMPASS, 3, "No compass calibration is on record.")
        elif f.compass_days > 90:
            yield Evidence(C.COMPASS, 1.5, f"The compass was calibrated {_days(f.compass_days)}.")
        if f.carried_km is not None and f.carried_km > 100:
            yield Evidence(C.COMPASS, 3, f"That was {f.carried_km:.0f} km from here.")
        if {"motor", "flight controller", "satellite receiver"} & {*f.new_parts}:
            yield Evidence(C.COMPASS, 2.5, "A part with iron or current was changed since.")
        if f.crash_days is not None and f.crash_days < (f.compass_days if f.compass_days is not None else 1e9):
            yield Evidence(C.COMPASS, 1.5, "There was a crash since the calibration.")
        if f.iron_m is not None and f.iron_m < 15:
            yield Evidence(
                C.IRON, 4 if f.iron_m < 6 else 2, f"Iron on the plan {f.iron_m:.0f} m from the launch point."
            )
    if f.level_days is None:
        yield Evidence(C.LEVEL, 1, "No level calibration is on record.")
    elif f.level_days > 180:
        yield Evidence(C.LEVEL, 1.5, f"The level was calibrated {_days(f.level_days)}.")
    for days, what in ((f.hard_landing_days, "hard landing"), (f.crash_days, "crash")):
        if days is not None and days <= 30 and (f.level_days is None or days < f.level_days):
            yield Evidence(C.LEVEL, 1.5, f"There was a {what} {_days(days)}, and no level calibration since.")


def _of_air(f: Facts) -> Iterator[Evidence]:
    if f.wind_share is not None and f.wind_share > 0.5:
        yield Evidence(
            C.WIND,
            3 if f.wind_share > 0.75 else 1.5,
            f"The wind up there is {100 * f.wind_share:.0f} % of its top speed.",
        )
    if f.satnav and f.satellites is not None and f.satellites < 8:
        yield Evidence(C.FIX, 2, f"Only {f.satellites:.0f} satellites when last read.")
    if f.satnav and f.hdop is not None and f.hdop > 2:
        yield Evidence(C.FIX, 2, f"HDOP {f.hdop:.1f} when last read.")
    if f.radio_m is not None and f.radio_m < 150:
        yield Evidence(C.RADIO, 2.5, f"A transmitter on the plan {f.radio_m:.0f} m from the launch point.")


def _of_frame(f: Facts) -> Iterator[Evidence]:
    for days, what in ((f.hard_landing_days, "hard landing"), (f.crash_days, "crash")):
        if days is not None and days <= 30:
            yield Evidence(C.PROPELLER, 2.5, f"There was a {what} {_days(days)}.")
            yield Evidence(C.MOTOR, 1.5, f"A shaft may be bent since the {what}.")
            yield Evidence(C.LOOSE, 1, f"Something may have come loose in the {what}.")
            if f.kind is Kind.WING:
                yield Evidence(C.SURFACE, 2, f"A linkage may have moved in the {what}.")
            if f.kind is Kind.HELICOPTER:
                yield Evidence(C.HEAD, 2.5, f"The head may have been hit in the {what}.")
    for part in f.fixed_often:
        yield Evidence(C.LOOSE, 4, f"Fixed again and again: {part}.")
    if f.motor_hours is not None and f.motor_hours >= 40:
        yield Evidence(C.MOTOR, 3, f"The motors have run {f.motor_hours:.0f} hours.")
        if f.kind is Kind.HELICOPTER:
            yield Evidence(C.HEAD, 3, f"So have shaft and bearings: {f.motor_hours:.0f} hours.")
    for part in f.new_parts:
        for cause in _OF_NEW_PART.get(part, ()):
            yield Evidence(cause, 2.5, f"New {part} since it last flew without trouble.")
    if not f.cg_known:
        yield Evidence(C.BALANCE, 1.5, "No CG range is on record.")


_OF_NEW_PART: dict[str, tuple[Cause, ...]] = {
    "propeller": (C.PROPELLER,),
    "rotor blade": (C.PROPELLER, C.HEAD),
    "motor": (C.MOTOR,),
    "speed controller": (C.MOTOR, C.SETTINGS),
    "servo": (C.SURFACE,),
    "receiver": (C.ANTENNA, C.SETTINGS),
    "transmitter": (C.SETTINGS,),
    "flight controller": (C.SETTINGS, C.LEVEL),
    "pack": (C.BALANCE,),
    "camera": (C.BALANCE,),
}


def _of_energy(f: Facts) -> Iterator[Evidence]:
    if f.pack_health is not None and f.pack_health < 0.85:
        yield Evidence(
            C.PACK_AGED,
            3 if f.pack_health < 0.75 else 1.5,
            f"The pack has {100 * f.pack_health:.0f} % of its capacity left.",
        )
    if f.pack_health is not None and f.pack_health >= 0.9:
        yield Evidence(C.PACK_AGED, -2, "")
    if f.pack_c is not None and f.pack_c < 10:
        yield Evidence(C.PACK_COLD, 3.5 if f.pack_c < 5 else 2, f"It is cold: {f.pack_c:.0f} °C.")
    if f.added_g > 0:
        yield Evidence(C.LOAD, 3, f"It carries {f.added_g:.0f} g more than described.")
        yield Evidence(C.BALANCE, 1, "Mass was added, and balance with it may have moved.")
    if f.minutes_share is not None and f.minutes_share < 0.8:
        for cause in (C.PACK_AGED, C.MOTOR, C.HEAD if f.kind is Kind.HELICOPTER else C.PROPELLER):
            yield Evidence(
                cause, 1, f"Its last flight lasted {100 * f.minutes_share:.0f} % of what was to be expected."
            )


def _of_settings(f: Facts) -> Iterator[Evidence]:
    if f.firmware_days is not None and f.firmware_days <= 30:
        yield Evidence(C.SETTINGS, 3, f"Firmware changed {_days(f.firmware_days)}.")
        yield Evidence(
            C.COMPASS,
            1 if f.compass and (f.compass_days is None or f.compass_days > f.firmware_days) else 0,
            "No compass calibration since the update.",
        )
        yield Evidence(
            C.LEVEL,
            1 if f.level_days is None or f.level_days > f.firmware_days else 0,
            "No level calibration since the update.",
        )
    if f.antenna_hurt:
        yield Evidence(C.ANTENNA, 2.5, "A snag was on an antenna.")
    if f.transmitter_percent is not None and f.transmitter_percent < 30:
        yield Evidence(C.TRANSMITTER, 3.5, f"The transmitter was at {f.transmitter_percent:.0f} % when last read.")
    if f.idle_days is not None and f.idle_days > 90:
        yield Evidence(C.THROTTLE, 0.5, f"Not flown for {f.idle_days:.0f} days.")


_SPEAKS: tuple[Callable[[Facts], Iterator[Evidence]], ...] = (
    _of_calibration,
    _of_air,
    _of_frame,
    _of_energy,
    _of_settings,
)

TESTS: dict[Cause, Test] = {
    C.COMPASS: Test(words="Calibrate the compass away from iron, then hover low and watch it hold.", minutes=4, check_ids=("sensors.compass",)),
    C.IRON: Test(words="Carry it ten metres away and watch the heading: if it turns, launch from there.", minutes=1, check_ids=("field.interference",)),
    C.WIND: Test(words="Measure the wind, and fly the same low and close.", minutes=2, check_ids=("sky.wind_meter",), grounds=False),
    C.FIX: Test(words="Wait in the open until the fix is good, then hover low.", minutes=3, check_ids=("sensors.satellites",)),
    C.LEVEL: Test(words="Calibrate the level on a flat surface, then hover low, hands off.", minutes=3, check_ids=("sensors.accelerometer",)),
    C.HEIGHT_SENSOR: Test(words="Shade its vents, and hover low out of the sun and the gusts.", minutes=2, check_ids=("sensors.barometer",)),
    C.SETTINGS: Test(words="Read back rates, modes and failsafe against your notes.", minutes=5, check_ids=("bench.settings_reread",)),
    C.PROPELLER: Test(words="Feel every edge, look at each lug, and spin it by hand.", minutes=2, check_ids=("airframe.propellers", "airframe.rotor_blades")),
    C.MOTOR: Test(words="Pack unplugged: turn each motor by hand and feel for grit and play.", minutes=2, check_ids=("airframe.motors",)),
    C.LOOSE: Test(words="Touch every arm, latch and screw, and shake it gently.", minutes=2, check_ids=("airframe.loose",)),
    C.HEAD: Test(words="Pack unplugged: turn the head slowly and look along both shafts.", minutes=3, check_ids=("airframe.rotor_head", "airframe.shafts")),
    C.BALANCE: Test(words="Measure the CG with the pack that flies.", minutes=2, check_ids=("airframe.cg", "airframe.hangs_level")),
    C.SURFACE: Test(words="Move each stick and watch the surface: centre, direction, play.", minutes=2, check_ids=("controls.surfaces",)),
    C.PACK_AGED: Test(words="Measure each cell and its resistance, or fly the same with another pack.", minutes=3, check_ids=("pack.cells", "pack.percent")),
    C.PACK_COLD: Test(words="Warm the pack to room temperature and fly the same again.", minutes=10, check_ids=("pack.temperature",), grounds=False),
    C.LOAD: Test(words="Weigh it as it flies, and enter its mass.", minutes=3, grounds=False),
    C.ANTENNA: Test(words="Check each antenna for cuts and seat, then read the signal a few steps away.", minutes=2, check_ids=("link.antennas",)),
    C.TRANSMITTER: Test(words="Charge the transmitter, and read the signal again.", minutes=1, check_ids=("bench.transmitter",)),
    C.RADIO: Test(words="Do a range check here, then well away from here.", minutes=8, check_ids=("link.range",)),
    C.THROTTLE: Test(words="Throttle fully down, trims centred, arm switch off, right mode.", minutes=1, check_ids=("power.idle", "controls.arm_disarm")),
}  # fmt: skip
"""What decides about each cause. Source: common practice, no source; minutes are our choice."""

MOST = 4
WITHOUT: dict[Kind, frozenset[Cause]] = {
    Kind.MULTIROTOR: frozenset({C.HEAD, C.SURFACE}),
    Kind.WING: frozenset({C.HEAD}),
    Kind.HELICOPTER: frozenset({C.SURFACE, C.BALANCE}),
}
"""What an aircraft of a kind has not."""
_DRIVEN, _CHARGED = frozenset({C.PROPELLER, C.MOTOR}), frozenset({C.PACK_AGED, C.PACK_COLD})


def _possible(cause: Cause, f: Facts) -> bool:
    if (
        cause in WITHOUT[f.kind]
        or (cause in (C.COMPASS, C.IRON) and not f.compass)
        or (cause is C.FIX and not f.satnav)
    ):
        return False
    if cause in (C.LEVEL, C.HEIGHT_SENSOR) and not f.levels:
        return False
    return not (cause in _DRIVEN and not f.rotors) and not (cause in _CHARGED and not f.electric)


def rank(symptoms: Collection[Symptom], facts: Facts) -> tuple[Ranked, ...]:
    """Causes of what it did, the likeliest first, with what speaks for each. Evidence raises what a symptom may have, and never brings in what it cannot.

    Source: ``FIRST_GUESS`` and the evidence; our choice; common practice, no source.
    """
    guess: dict[Cause, float] = {}
    for symptom in symptoms:
        for cause, first in FIRST_GUESS[symptom].items():
            if _possible(cause, facts):
                guess[cause] = guess.get(cause, 0.0) + first
    said: dict[Cause, list[str]] = {}
    for speaks in _SPEAKS:
        for evidence in speaks(facts):
            if evidence.cause in guess:
                guess[evidence.cause] += evidence.weight
                if evidence.words and evidence.weight > 0:
                    said.setdefault(evidence.cause, []).append(evidence.words)
    ordered = sorted(guess.items(), key=lambda item: (-item[1], list(Cause).index(item[0])))
    return tuple(
        Ranked(cause=cause, score=score, evidence=tuple(dict.fromkeys(said.get(cause, ()))), test=TESTS[cause])
        for cause, score in ordered[:MOST]
    )


def cheapest_first(found: Collection[Ranked]) -> tuple[Ranked, ...]:
    """The same causes in the order in which their tests are worth doing: how likely for each minute."""
    return tuple(sorted(found, key=lambda one: -one.score / one.test.minutes))


def two_changes(facts: Facts) -> str:
    """That more than one thing was changed at once, in words; empty otherwise. Source: change one thing at a time; common practice, no source."""
    changes = facts.changes
    if len(changes) < 2:
        return ""
    *most, last = changes
    return f"Changed together since it last flew without trouble: {', '.join(most)} and {last}. Change one of them back, then try again."
