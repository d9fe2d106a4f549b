"""Control directions: what each stick movement must do, reasoned from where surfaces stand, and what a wrong one means.

Axes: x to the right, y forward, z up. A surface at ``r`` whose rear edge moves towards its normal ``n`` is pushed by the
air along ``-n``, and turns the aircraft by the moment ``r x (-n)``.
"""

from collections.abc import Sequence
from enum import StrEnum

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.rotors import rotor_layout
from walkround.core.aircraft.traits import Frame, Kind, Trait
from walkround.core.base.struct import Struct
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
    Stick.RIGHT_AILERON: "Aileron stick right",
    Stick.BACK_ELEVATOR: "Elevator stick back",
    Stick.RIGHT_RUDDER: "Rudder stick right",
    Stick.FLAPS_DOWN: "Flap switch down",
    Stick.CYCLIC_RIGHT: "Cyclic right",
    Stick.CYCLIC_FORWARD: "Cyclic forward",
    Stick.TAIL_RIGHT: "Tail rotor stick right",
    Stick.LEAN_FORWARD: "A little pitch forward",
    Stick.LEAN_RIGHT: "A little roll right",
    Stick.TURN_RIGHT: "A little yaw right",
}
_WANTED: dict[Stick, Vector] = {
    Stick.RIGHT_AILERON: (0, 1, 0),
    Stick.BACK_ELEVATOR: (1, 0, 0),
    Stick.RIGHT_RUDDER: (0, 0, -1),
}
"""Moments wanted: right wing down, nose up, nose right. Source: right-handed axes of this module."""


class ControlSurface(Struct, frozen=True, kw_only=True):
    """A moving surface: its part id, name, side ("left", "right", ""), where it stands and its normal (shares of the span)."""

    part: str
    name: str
    side: str
    r: Vector
    n: Vector

    @property
    def kind(self) -> str:
        """What it is called on whichever side."""
        return self.name.removeprefix(f"{self.side} ")


class Motion(Struct, frozen=True, kw_only=True):
    """What a thing does, as seen from behind: +1 towards its normal (up, or to the right for an upright fin), -1 away.

    ``key``: how it is drawn; ``parts``: the ids of what moves.
    """

    key: str
    name: str
    side: str
    way: int
    words: str
    parts: tuple[str, ...] = ()


class StickTest(Struct, frozen=True, kw_only=True):
    """One stick movement and everything it must move."""

    stick: Stick
    words: str
    motions: tuple[Motion, ...]
    effect: str

    def results(self) -> tuple[str, ...]:
        """Answers that make sense: sides only where two surfaces can differ."""
        sides = {m.side for m in self.motions}
        return (SHOWN, REVERSED, *(("left reversed", "right reversed") if {"left", "right"} <= sides else ()), STILL)


SHOWN, REVERSED, STILL = "as shown", "reversed", "nothing moves"


class StickSeen(Value):
    """What a stick movement really did."""

    stick: Stick
    result: str


def surfaces(aircraft: Aircraft) -> tuple[ControlSurface, ...]:
    """The surfaces of a wing with their places and normals (shares of the span). Source: common layouts."""
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
        found.append(ControlSurface(part="elevator", name="elevator", side="", r=(0, tail, 0), n=(0, 0, 1)))
    if aircraft.has(Trait.RUDDER):
        found.append(ControlSurface(part="rudder", name="rudder", side="", r=(0, tail, 0.08), n=(1, 0, 0)))
    if aircraft.has(Trait.FLAPS):
        found += _pair("flap", (0.15, -0.06, 0.0), (0.0, 0.0, 1.0))
    return tuple(found)


def _pair(name: str, r: Vector, n: Vector) -> list[ControlSurface]:
    return [
        ControlSurface(part=f"{side}-{name.replace(' ', '-')}", name=f"{side} {name}", side=side,
                r=(sign * r[0], r[1], r[2]), n=(sign * n[0], n[1], n[2]))
        for side, sign in (("left", -1), ("right", 1))
    ]  # fmt: skip


def moment(surface: ControlSurface) -> Vector:
    """Moment on the aircraft when the rear edge moves towards the normal: r x (-n). Source: mechanics."""
    (x, y, z), (nx, ny, nz) = surface.r, surface.n
    f = (-nx, -ny, -nz)
    return (y * f[2] - z * f[1], z * f[0] - x * f[2], x * f[1] - y * f[0])


_MOVED_BY = {
    Stick.RIGHT_AILERON: ("aileron", "elevon"),
    Stick.BACK_ELEVATOR: ("elevator", "elevon", "tail panel"),
    Stick.RIGHT_RUDDER: ("rudder", "tail panel"),
}


def way(surface: ControlSurface, stick: Stick) -> int:
    """Which way a surface must go for a stick: +1 rear edge towards its normal, -1 away.

    The way whose moment has a positive share along the wanted one. Source: mechanics, as the module says.
    """
    share = sum(a * b for a, b in zip(moment(surface), _WANTED[stick], strict=True))
    return 1 if share > 0 else -1


def _surface_words(surface: ControlSurface, direction: int) -> str:
    upright = abs(surface.n[0]) > abs(surface.n[2])
    where = ("right" if direction > 0 else "left") if upright else ("up" if direction > 0 else "down")
    return f"{surface.name} {where}"


def stick_tests(aircraft: Aircraft) -> tuple[StickTest, ...]:
    """The stick movements of an aircraft, in the order they are called, with what each must move.

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
            Motion(
                key=s.part,
                name=s.name,
                side=s.side,
                way=way(s, stick),
                words=_surface_words(s, way(s, stick)),
                parts=(s.part,),
            )
            for s in moving
        ]
        if stick is Stick.RIGHT_RUDDER and aircraft.has(Trait.WHEELS):
            wheel = "nose wheel" if aircraft.has(Trait.NOSE_WHEEL) else "tail wheel"
            motions.append(
                Motion(
                    key="wheel",
                    name=wheel,
                    side="",
                    way=1,
                    words=f"{wheel} steers right",
                    parts=(wheel.replace(" ", "-"),),
                )
            )
        if motions:
            found.append(
                StickTest(stick=stick, words=STICK_WORDS[stick], motions=tuple(motions), effect=effects[stick])
            )
    flaps = [s for s in have if s.name.endswith("flap")]
    if flaps:
        motions = [
            Motion(key=s.part, name=s.name, side=s.side, way=-1, words=f"{s.name} down", parts=(s.part,)) for s in flaps
        ]
        found.append(
            StickTest(
                stick=Stick.FLAPS_DOWN,
                words=STICK_WORDS[Stick.FLAPS_DOWN],
                motions=tuple(motions),
                effect="adds lift and drag, both sides alike",
            )
        )
    return tuple(found)


def _helicopter_tests(aircraft: Aircraft) -> tuple[StickTest, ...]:
    coaxial = aircraft.frame is Frame.COAXIAL_ROTOR
    plate = "lower swashplate" if coaxial else "swashplate"

    def one(stick: Stick, key: str, name: str, words: str, effect: str) -> StickTest:
        parts = {"rotors": ("upper-rotor", "lower-rotor"), "tail-blades": ("tail-rotor",)}.get(key, ("swashplate",))
        motion = Motion(key=key, name=name, side="", way=1, words=words, parts=parts)
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
    """Which rotors speed up (+1), slow down (-1) or stay (0) for a stick movement, by number.

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
            motions=(Motion(key=key, name="the frame", side="", way=1, words=f"it {words}", parts=("body",)),),
            effect=words,
        )
        for stick, (key, words) in effects.items()
    )


def parts_at_fault(aircraft: Aircraft, seen: Sequence[StickSeen]) -> tuple[str, ...]:
    """Ids of the parts that did not move as shown, in the order of the sticks."""
    results = {piece.stick: piece.result for piece in seen}
    found = []
    for test in stick_tests(aircraft):
        result = results.get(test.stick, SHOWN)
        side = result.split()[0] if result.endswith(REVERSED) and result != REVERSED else ""
        found += [part for m in test.motions if result != SHOWN and side in ("", m.side) for part in m.parts]
    return tuple(dict.fromkeys(found))
