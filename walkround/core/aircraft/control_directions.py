"""Control directions: what each stick movement must do, reasoned from where surfaces stand, and what a wrong one means.

Axes: x to the right, y forward, z up. A surface at ``r`` whose rear edge moves towards its normal ``n`` is pushed by the
air along ``-n``, and turns the aircraft by the moment ``r x (-n)``.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from enum import StrEnum
from itertools import product

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.rotors import rotor_layout
from walkround.core.aircraft.traits import Frame, Kind, Trait
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding, Level
from walkround.core.base.phrase import Phrase, count
from walkround.core.base.value import Value

Vector = tuple[float, float, float]
SOURCE = "moments of the surfaces about the centre of gravity; axes as flown"


class Stick(StrEnum):
    """A stick movement that is called."""

    RIGHT_AILERON = "aileron right"
    BACK_ELEVATOR = "elevator back"
    RIGHT_RUDDER = "rudder right"
    FLAPS_DOWN = "flaps down"
    CYCLIC_RIGHT = "cyclic right"
    CYCLIC_FORWARD = "cyclic forward"
    TAIL_RIGHT = "tail right"
    LEAN_FORWARD = "lean forward"
    LEAN_RIGHT = "lean right"
    TURN_RIGHT = "turn right"


STICK_WORDS: dict[Stick, str] = {
    Stick.RIGHT_AILERON: "Aileron stick to the right",
    Stick.BACK_ELEVATOR: "Elevator stick back",
    Stick.RIGHT_RUDDER: "Rudder stick to the right",
    Stick.FLAPS_DOWN: "Flap switch down",
    Stick.CYCLIC_RIGHT: "Cyclic stick to the right",
    Stick.CYCLIC_FORWARD: "Cyclic stick forward",
    Stick.TAIL_RIGHT: "Tail stick to the right",
    Stick.LEAN_FORWARD: "A little stick forward",
    Stick.LEAN_RIGHT: "A little stick to the right",
    Stick.TURN_RIGHT: "A little turn to the right",
}
_CHANNEL = {
    Stick.RIGHT_AILERON: "aileron",
    Stick.BACK_ELEVATOR: "elevator",
    Stick.RIGHT_RUDDER: "rudder",
    Stick.FLAPS_DOWN: "flap",
    Stick.CYCLIC_RIGHT: "cyclic roll",
    Stick.CYCLIC_FORWARD: "cyclic pitch",
    Stick.TAIL_RIGHT: "tail",
}
_WANTED: dict[Stick, Vector] = {
    Stick.RIGHT_AILERON: (0, 1, 0),
    Stick.BACK_ELEVATOR: (1, 0, 0),
    Stick.RIGHT_RUDDER: (0, 0, -1),
}
"""Moments wanted: right wing down, nose up, nose right. Source: right-handed axes of this module."""


@dataclass(frozen=True, slots=True, kw_only=True)
class ControlSurface:
    """A moving surface: key, name, side ("left", "right", ""), where it stands and its normal (shares of the span)."""

    key: str
    name: str
    side: str
    r: Vector
    n: Vector


@dataclass(frozen=True, slots=True, kw_only=True)
class Motion:
    """What a thing does, as seen from behind: +1 towards its normal (up, or to the right for an upright fin), -1 away."""

    key: str
    name: str
    side: str
    way: int
    words: str


@dataclass(frozen=True, slots=True, kw_only=True)
class StickTest:
    """One stick movement and everything it must move."""

    stick: Stick
    words: str
    motions: tuple[Motion, ...]
    effect: str

    def results(self) -> tuple[str, ...]:
        """Answers that make sense: sides only where two surfaces can differ. Source: our choice; no unit."""
        sides = {m.side for m in self.motions}
        return (SHOWN, REVERSED, *(("left reversed", "right reversed") if {"left", "right"} <= sides else ()), STILL)


SHOWN, REVERSED, STILL = "as shown", "reversed", "nothing moves"
RESULTS = (SHOWN, REVERSED, "left reversed", "right reversed", STILL)


class StickSeen(Value):
    """What a stick movement really did."""

    stick: Stick
    result: str


def surfaces(aircraft: Aircraft) -> tuple[ControlSurface, ...]:
    """The surfaces of a wing with their places and normals (shares of the span, no unit). Source: common layouts."""
    found: list[ControlSurface] = []
    tail = -0.5
    if aircraft.has(Trait.AILERONS):
        found += _pair("aileron", (0.36, -0.06, 0.0), (0.0, 0.0, 1.0))
    if aircraft.has(Trait.ELEVONS):
        found += _pair("elevon", (0.3, -0.16, 0.0), (0.0, 0.0, 1.0))
    if aircraft.has(Trait.V_TAIL):
        # Each panel rises outward: its upper side looks up and inward.
        found += _pair("tail panel", (0.1, tail, 0.08), (-0.64, 0.0, 0.77))
    if aircraft.has(Trait.ELEVATOR):
        found.append(ControlSurface(key="elevator", name="elevator", side="", r=(0, tail, 0), n=(0, 0, 1)))
    if aircraft.has(Trait.RUDDER):
        found.append(ControlSurface(key="rudder", name="rudder", side="", r=(0, tail, 0.08), n=(1, 0, 0)))
    if aircraft.has(Trait.FLAPS):
        found += _pair("flap", (0.15, -0.06, 0.0), (0.0, 0.0, 1.0))
    return tuple(found)


def _pair(name: str, r: Vector, n: Vector) -> list[ControlSurface]:
    return [
        ControlSurface(key=f"{side}-{name.replace(' ', '-')}", name=f"{side} {name}", side=side,
                r=(sign * r[0], r[1], r[2]), n=(sign * n[0], n[1], n[2]))
        for side, sign in (("left", -1), ("right", 1))
    ]  # fmt: skip


def moment(surface: ControlSurface) -> Vector:
    """Moment on the aircraft when the rear edge moves towards the normal: r x (-n), no unit. Source: mechanics."""
    (x, y, z), (nx, ny, nz) = surface.r, surface.n
    f = (-nx, -ny, -nz)
    return (y * f[2] - z * f[1], z * f[0] - x * f[2], x * f[1] - y * f[0])


_MOVED_BY = {
    Stick.RIGHT_AILERON: ("aileron", "elevon"),
    Stick.BACK_ELEVATOR: ("elevator", "elevon", "tail panel"),
    Stick.RIGHT_RUDDER: ("rudder", "tail panel"),
}


def way(surface: ControlSurface, stick: Stick) -> int:
    """Which way a surface must go for a stick: +1 rear edge towards its normal, -1 away (no unit).

    The way whose moment has a positive share along the wanted one. Source: mechanics, as the module says.
    """
    share = sum(a * b for a, b in zip(moment(surface), _WANTED[stick], strict=True))
    return 1 if share > 0 else -1


def _surface_words(surface: ControlSurface, direction: int) -> str:
    upright = abs(surface.n[0]) > abs(surface.n[2])
    where = ("right" if direction > 0 else "left") if upright else ("up" if direction > 0 else "down")
    return f"{surface.name} {where}"


def stick_tests(aircraft: Aircraft) -> tuple[StickTest, ...]:
    """The stick movements of an aircraft, in the order they are called, with what each must move (no unit).

    Source: mechanics for surfaces; for rotors, faster on the side that rises and against the turn.
    """
    if aircraft.kind is Kind.MULTIROTOR:
        return _multirotor_tests(aircraft)
    if aircraft.kind is Kind.HELICOPTER:
        return _helicopter_tests(aircraft)
    have = surfaces(aircraft)
    found = []
    effects = {
        Stick.RIGHT_AILERON: "rolls to the right",
        Stick.BACK_ELEVATOR: "raises the nose",
        Stick.RIGHT_RUDDER: "turns the nose to the right",
    }
    for stick, names in _MOVED_BY.items():
        moving = [s for s in have if any(s.name.endswith(name) for name in names)]
        # Rear edges that a conventional tail moves belong to its own stick only.
        motions = [
            Motion(key=s.key, name=s.name, side=s.side, way=way(s, stick), words=_surface_words(s, way(s, stick)))
            for s in moving
        ]
        if stick is Stick.RIGHT_RUDDER and aircraft.has(Trait.WHEELS):
            wheel = "nose wheel" if aircraft.has(Trait.NOSE_WHEEL) else "tail wheel"
            motions.append(Motion(key="wheel", name=wheel, side="", way=1, words=f"{wheel} steers right"))
        if motions:
            found.append(
                StickTest(stick=stick, words=STICK_WORDS[stick], motions=tuple(motions), effect=effects[stick])
            )
    flaps = [s for s in have if s.name.endswith("flap")]
    if flaps:
        motions = [Motion(key=s.key, name=s.name, side=s.side, way=-1, words=f"{s.name} down") for s in flaps]
        found.append(
            StickTest(
                stick=Stick.FLAPS_DOWN,
                words=STICK_WORDS[Stick.FLAPS_DOWN],
                motions=tuple(motions),
                effect="lifts and brakes, both sides alike",
            )
        )
    return tuple(found)


def _helicopter_tests(aircraft: Aircraft) -> tuple[StickTest, ...]:
    coaxial = aircraft.frame is Frame.COAXIAL_ROTOR
    plate = "lower swashplate" if coaxial else "swashplate"

    def one(stick: Stick, key: str, name: str, words: str, effect: str) -> StickTest:
        motion = Motion(key=key, name=name, side="", way=1, words=words)
        return StickTest(stick=stick, words=STICK_WORDS[stick], motions=(motion,), effect=effect)

    turning = (
        ("rotors", "the two rotors", "upper and lower rotor change speed against each other")
        if coaxial
        else ("tail-blades", "tail blades", "tail blades pitch so that the tail is pushed to the left")
    )
    return (
        one(Stick.CYCLIC_RIGHT, "plate-roll", plate, f"{plate} tilts down to the right", "rolls to the right"),
        one(Stick.CYCLIC_FORWARD, "plate-pitch", plate, f"{plate} tilts down at the front", "lowers the nose"),
        one(Stick.TAIL_RIGHT, *turning, "turns the nose to the right"),
    )


def rotor_speeds(aircraft: Aircraft, stick: Stick) -> dict[int, int]:
    """Which rotors speed up (+1), slow down (-1) or stay (0) for a stick movement, by number (no unit).

    Leaning right lifts the left side, leaning forward the rear; turning right speeds up those that turn
    counter-clockwise, whose reaction is clockwise. Source: mechanics.
    """
    speeds = {}
    for rotor in rotor_layout(aircraft):
        if stick is Stick.TURN_RIGHT:
            value = float(rotor.spin.sign)
        else:
            value = -rotor.y_mm if stick is Stick.LEAN_FORWARD else -rotor.x_mm
        speeds[rotor.number] = 0 if abs(value) < 1e-6 else (1 if value > 0 else -1)
    return speeds


def _multirotor_tests(aircraft: Aircraft) -> tuple[StickTest, ...]:
    effects = {
        Stick.LEAN_FORWARD: ("lean-forward", "leans forward: the tail lifts"),
        Stick.LEAN_RIGHT: ("lean-right", "leans right: the left side lifts"),
        Stick.TURN_RIGHT: ("turn-right", "turns right: the nose goes right"),
    }
    return tuple(
        StickTest(
            stick=stick,
            words=STICK_WORDS[stick],
            motions=(Motion(key=key, name="the frame", side="", way=1, words=f"it {words}"),),
            effect=words,
        )
        for stick, (key, words) in effects.items()
    )


def judge_control_directions(aircraft: Aircraft, seen: Sequence[StickSeen]) -> tuple[Finding, ...]:
    """Findings on what the sticks really moved (counts, no unit); anything but *as shown* grounds, with what to mend.

    Raises InputError when a movement was not tried, is not one of this aircraft, or has an answer it cannot have.
    Source: mechanics; mixing by ``mixing_fault``.
    """
    wanted = {test.stick: test for test in stick_tests(aircraft)}
    given = {piece.stick: piece.result for piece in seen}
    for stick, result in given.items():
        if stick not in wanted or result not in wanted[stick].results():
            raise InputError(f"“{stick}: {result}” is no answer for {aircraft.name}.")
    left = [test.words for stick, test in wanted.items() if stick not in given]
    if left:
        raise InputError(f"Still to try: {', '.join(left)}.")
    findings = [_not_shown(aircraft, wanted[s], result) for s, result in given.items() if result != SHOWN]
    mixed = mixing_fault(aircraft, given)
    if mixed is not None:
        findings = [f for f in findings if f.name not in mixed[0]] + [_grounded("Mixing", mixed[1], mixed[2])]
    if findings:
        return tuple(findings)
    reason = Phrase.of("All {all} movements go as shown.", all=count(len(wanted)))
    return (Finding(name="Directions", level=Level.CLEAR, reason=reason, source=SOURCE),)


def _grounded(name: str, text: str, remedy: str) -> Finding:
    return Finding(name=name, level=Level.GROUNDED, reason=Phrase(text=text), remedy=remedy, source=SOURCE)


def _not_shown(aircraft: Aircraft, test: StickTest, result: str) -> Finding:
    name = test.words
    if result == STILL:
        remedy = "Lead, servo, link; then the right model memory."
        return _grounded(name, f"{test.words}: nothing moves.", remedy)
    if aircraft.kind is Kind.MULTIROTOR:
        remedy = "Disarm. Motor order and sense, propellers, the direction the board is mounted in."
        return _grounded(name, f"{test.words}: it goes the other way.", remedy)
    channel = _CHANNEL[test.stick]
    if result == REVERSED:
        text = f"{test.words}: {_list(m.name for m in test.motions)} {'moves' if len(test.motions) == 1 else 'move'} the wrong way."
        return _grounded(name, text, f"Reverse the {channel} channel in the transmitter, or choose the right memory.")
    side = result.split()[0]
    one = next(m.name for m in test.motions if m.side == side)
    remedy = f"Reverse the channel of the {one} alone, or turn its servo arm over."
    return _grounded(name, f"{test.words}: the {one} moves the wrong way, the other is right.", remedy)


def _list(names: Iterable[str]) -> str:
    *most, last = list(names)
    words = f"{', '.join(most)} and {last}" if most else last
    return words[0].upper() + words[1:]


_MIXES = {
    Trait.ELEVONS: (Stick.BACK_ELEVATOR, Stick.RIGHT_AILERON, "elevon"),
    Trait.V_TAIL: (Stick.BACK_ELEVATOR, Stick.RIGHT_RUDDER, "tail panel"),
}
_SIGNS = {SHOWN: (1, 1), REVERSED: (-1, -1), "left reversed": (-1, 1), "right reversed": (1, -1)}


def mixing_fault(aircraft: Aircraft, given: dict[Stick, str]) -> tuple[tuple[str, ...], str, str] | None:
    """What is reversed behind two surfaces that obey two sticks: names of the findings it replaces, what, and what to do.

    Each surface goes as servo direction times stick direction in the mixer says. Of all ways that explain what was
    seen, the one with the fewest reversals is named. None when nothing is
    mixed or nothing wrong. Directions without unit. Source: arithmetic of signs.
    """
    for trait, (first, second, name) in _MIXES.items():
        if not aircraft.has(trait) or first not in given or second not in given:
            continue
        if STILL in (given[first], given[second]) or (given[first], given[second]) == (SHOWN, SHOWN):
            continue
        one, two = _SIGNS[given[first]], _SIGNS[given[second]]
        best = _explain(one, two)
        replaced = (STICK_WORDS[first], STICK_WORDS[second])
        told = f"{STICK_WORDS[first]}: {given[first]}. {STICK_WORDS[second]}: {given[second]}."
        if best is None:
            return replaced, told, "No reversal explains that: look at horns, links and servo leads, then try again."
        left, right, mix_one, mix_two = best
        steps = [f"reverse the {side} {name} servo" for side, s in (("left", left), ("right", right)) if s < 0]
        steps += [
            f"reverse {_CHANNEL[stick]} in the mixer" for stick, s in ((first, mix_one), (second, mix_two)) if s < 0
        ]
        if steps == [f"reverse {_CHANNEL[second]} in the mixer"]:
            steps = [f"{steps[0]}, or exchange the two {name} servo leads if they are crossed"]
        words = " and ".join(steps)
        return replaced, told, f"{words[0].upper()}{words[1:]}; then try both sticks again."
    return None


BOTH = (1, -1)


def _explain(one: tuple[int, int], two: tuple[int, int]) -> tuple[int, int, int, int] | None:
    """Signs of left servo, right servo and both mixer inputs with the fewest reversed; None when none explains it.

    ``one`` and ``two``: left and right surface on the first and on the second stick, +1 as shown.
    """
    fits = [
        signs
        for signs in product(BOTH, BOTH, BOTH, BOTH)
        if (signs[0] * signs[2], signs[1] * signs[2]) == one and (signs[0] * signs[3], signs[1] * signs[3]) == two
    ]
    return max(fits, key=sum, default=None)
