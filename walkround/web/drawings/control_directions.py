"""Control directions: what must move, at rest and moved, seen from behind; turns are seen from above."""

import math

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.control_directions import Motion, Stick, StickTest, rotor_speeds, stick_tests
from walkround.core.aircraft.rotors import rotor_layout
from walkround.core.aircraft.traits import Frame, Kind, Trait
from walkround.core.base.struct import Struct

WIDTH, HEIGHT = 400, 230


class Mover(Struct, frozen=True):
    """One moving thing: a bar that grows out of its hinge ("up", "down", "left", "right"), about its own middle turn."""

    way: str
    x: float
    y: float
    width: float
    height: float
    turn: float = 0
    name: str = ""

    @property
    def hinge(self) -> str:
        """Where it is hinged, in the middle of one of its edges."""
        return f"{self.x + self.width / 2:g} {self.y + self.height if self.way == 'up' else self.y:g}"


class Still(Struct, frozen=True):
    """One thing that stands: a line, a circle or a box."""

    kind: str
    role: str
    points: str = ""
    x: float = 0
    y: float = 0
    r: float = 0


class Scene(Struct, frozen=True):
    """One stick movement drawn: what stands, what moves, what tilts as a whole, and where the stick goes."""

    still: tuple[Still, ...]
    movers: tuple[Mover, ...]
    tilt: str
    stick: tuple[float, float]
    words: str
    view: str = "from behind"


class DrawnStickTest(Struct, frozen=True):
    """A stick movement with its drawing and the answers it can have."""

    key: str
    test: StickTest
    scene: Scene
    results: tuple[str, ...]


_STICK = {
    Stick.RIGHT_AILERON: (1, 0),
    Stick.BACK_ELEVATOR: (0, 1),
    Stick.RIGHT_RUDDER: (1, 0),
    Stick.FLAPS_DOWN: (0, 1),
    Stick.CYCLIC_RIGHT: (1, 0),
    Stick.CYCLIC_FORWARD: (0, -1),
    Stick.TAIL_RIGHT: (1, 0),
    Stick.LEAN_FORWARD: (0, -1),
    Stick.LEAN_RIGHT: (1, 0),
    Stick.TURN_RIGHT: (1, 0),
}
_MIDDLE, _WING_Y, _TAIL_Y = 200.0, 128.0, 112.0
_DEEP, _ABOVE_Y = 26.0, 112.0


def draw_stick_tests(aircraft: Aircraft) -> tuple[DrawnStickTest, ...]:
    """Every stick movement of an aircraft, drawn from behind."""
    drawn = []
    for test in stick_tests(aircraft):
        scene = _SCENES[aircraft.kind](aircraft, test)
        drawn.append(DrawnStickTest(key=test.stick.name.lower(), test=test, scene=scene, results=test.results()))
    return tuple(drawn)


def _line(role: str, *points: tuple[float, float]) -> Still:
    return Still(kind="polyline", role=role, points=" ".join(f"{x:g},{y:g}" for x, y in points))


def _circle(role: str, x: float, y: float, r: float) -> Still:
    return Still(kind="circle", role=role, x=x, y=y, r=r)


def _words(test: StickTest) -> str:
    return "; ".join(m.words for m in test.motions)


def _bar(motion: Motion, x: float, y: float, half: float, turn: float = 0) -> Mover:
    """A surface at its hinge line: it grows up or down out of it."""
    up = motion.way > 0
    top = y - _DEEP if up else y
    return Mover("up" if up else "down", x - half, top, half * 2, _DEEP, turn, motion.name)


def _wing(a: Aircraft, test: StickTest) -> Scene:
    """The wing from behind: wing, body, tail; the surfaces in hand stand out of their hinge lines."""
    tailless = a.frame is Frame.FLYING_WING
    wing_y = _WING_Y + (14 if a.frame is Frame.LOW_WING else -14 if a.frame is Frame.HIGH_WING else 0)
    still = [
        _line("m-wing-rear", (24, wing_y), (376, wing_y)),
        _circle("m-body-rear", _MIDDLE, _WING_Y, 22 if not tailless else 13),
    ]
    if tailless:
        still += [
            _line("m-fin-rear", (26, wing_y), (26, wing_y - 40)),
            _line("m-fin-rear", (374, wing_y), (374, wing_y - 40)),
        ]
    elif a.has(Trait.V_TAIL):
        still += [_line("m-tail-rear", (_MIDDLE, _TAIL_Y), (_MIDDLE + side * 74, _TAIL_Y - 62)) for side in (-1, 1)]
    else:
        still += [
            _line("m-tail-rear", (130, _TAIL_Y), (270, _TAIL_Y)),
            _line("m-fin-rear", (_MIDDLE, _TAIL_Y), (_MIDDLE, 36)),
        ]
    if a.has(Trait.WHEELS):
        still += [_line("m-leg-rear", (_MIDDLE, _WING_Y + 20), (_MIDDLE, 186))]
    movers = tuple(_wing_mover(m, wing_y) for m in test.motions)
    return Scene(tuple(still), movers, "", _STICK[test.stick], _words(test))


def _wing_mover(m: Motion, wing_y: float) -> Mover:
    side = {"left": -1, "right": 1}.get(m.side, 0)
    kind = m.key.split("-", 1)[1] if side else m.key
    if kind == "tail-panel":
        # The panel's own normal points up and inward: turned about the middle of the panel.
        return _bar(m, _MIDDLE + side * 40, _TAIL_Y - 33, 34, turn=-side * 40)
    if kind == "rudder":
        right = m.way > 0
        return Mover("right" if right else "left", _MIDDLE if right else _MIDDLE - _DEEP, 40, _DEEP, 62, 0, m.name)
    if kind == "wheel":
        return Mover("right", _MIDDLE, 178, 22, 16, 0, m.name)
    if kind == "elevator":
        return _bar(m, _MIDDLE, _TAIL_Y, 64)
    half, x = {"aileron": (52, 112), "elevon": (60, 96), "flap": (32, 62)}[kind]
    return _bar(m, _MIDDLE + side * x, wing_y, half)


def _helicopter(a: Aircraft, test: StickTest) -> Scene:
    """The head from behind: mast, swashplate and blades; the plate tilts. The tail is seen from above."""
    if test.stick is Stick.TAIL_RIGHT:
        return _helicopter_turn(a, test)
    still = [
        _line("m-leg-rear", (_MIDDLE, 196), (_MIDDLE, 44)),
        _line("m-wing-rear", (40, 60), (310, 60)),
        _circle("m-body-rear", _MIDDLE, 184, 34),
    ]
    if a.frame is Frame.COAXIAL_ROTOR:
        still.append(_line("m-tail-rear", (60, 96), (340, 96)))
    tilt = "plate-right" if test.stick is Stick.CYCLIC_RIGHT else "plate-forward"
    return Scene(tuple(still), (), tilt, _STICK[test.stick], _words(test))


def _helicopter_turn(a: Aircraft, test: StickTest) -> Scene:
    """Cabin and boom from above, turning about the mast; the nose points up."""
    still = [
        _line("m-tail-rear", (_MIDDLE, _ABOVE_Y), (_MIDDLE, _ABOVE_Y + 84)),
        _circle("m-body-rear", _MIDDLE, _ABOVE_Y - 10, 30),
        _line("m-wing-rear", (_MIDDLE - 58, _ABOVE_Y - 58), (_MIDDLE + 58, _ABOVE_Y + 58)),
    ]
    if a.frame is Frame.SINGLE_ROTOR:
        still.append(_line("m-fin-rear", (_MIDDLE + 9, _ABOVE_Y + 64), (_MIDDLE + 9, _ABOVE_Y + 90)))
    return Scene(tuple(still), (), "turn-right", _STICK[test.stick], _words(test), view="from above")


def _multirotor(a: Aircraft, test: StickTest) -> Scene:
    """The frame leans, seen from behind, or turns, seen from above; rotors that speed up carry a plus."""
    speeds = rotor_speeds(a, test.stick)
    above = test.stick is Stick.TURN_RIGHT
    upper = [r for r in rotor_layout(a) if r.level != "lower"]
    widest = max(abs(r.x_mm) for r in upper) or 1
    deepest = max(abs(r.y_mm) for r in upper) or 1
    farthest = max(math.hypot(r.x_mm, r.y_mm) for r in upper)
    middle = 172.0
    if above:
        still = [
            _circle("m-body-rear", middle, _ABOVE_Y, 20),
            _line("m-fin-rear", (middle, _ABOVE_Y - 22), (middle, _ABOVE_Y - 36)),
        ]
    else:
        still = [
            _line("m-wing-rear", (middle - 108, 128), (middle + 108, 128)),
            _circle("m-body-rear", middle, 128, 24),
        ]
    for rotor in upper:
        # From behind and a little above, those farther ahead are drawn higher.
        x, y = middle + rotor.x_mm / widest * 106, 108 - rotor.y_mm / deepest * 22
        if above:
            x, y = middle + rotor.x_mm / farthest * 68, _ABOVE_Y - rotor.y_mm / farthest * 68
            still.insert(0, _line("m-tail-rear", (middle, _ABOVE_Y), (x, y)))
        still.append(_circle("m-disc-above", x, y, 22) if above else _line("m-rotor-rear", (x - 34, y), (x + 34, y)))
        if speeds[rotor.number]:
            sign = "+" if speeds[rotor.number] > 0 else "−"
            still.append(Still(kind="text", role="m-sign", points=sign, x=x, y=y + (9 if above else -10)))
    tilt = {Stick.LEAN_RIGHT: "lean-right", Stick.LEAN_FORWARD: "lean-forward", Stick.TURN_RIGHT: "turn-right"}
    view = "from above" if above else "from behind"
    return Scene(tuple(still), (), tilt[test.stick], _STICK[test.stick], _words(test), view=view)


_SCENES = {Kind.WING: _wing, Kind.HELICOPTER: _helicopter, Kind.MULTIROTOR: _multirotor}
