"""Every part that a hand touches on an aircraft, stop by stop, in a hand's natural order.

A detail of a part carries the id of the part and its own: ``propeller-1/blade-2``. What has a history, is replaced and is marked on the
drawing is the part; what is touched, and what a snag may name, is the detail. Ids that were stored before there were details stay parts.
"""

from collections.abc import Iterator
from functools import lru_cache

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.control_directions import ControlSurface, surfaces
from walkround.core.aircraft.flaws import Bears
from walkround.core.aircraft.part_list import AircraftPart, arm_id, motor_id, part_list, propeller_id, unit_of
from walkround.core.aircraft.rotors import Rotor, rotor_layout
from walkround.core.aircraft.traits import Frame, Kind, Trait
from walkround.core.base.struct import Struct
from walkround.core.inspection.aspects import DOES, Aspect, View

A, B, T = Aspect, Bears, Trait


class TouchedPart(Struct, frozen=True, kw_only=True):
    """One part or detail that is touched: its id, the part it is of, what it is called, what is felt of it, what it does, and its stop."""

    id: str
    name: str
    aspect: Aspect
    does: Bears
    stop: str

    @property
    def unit(self) -> str:
        """The id of the part that has the history, is replaced, and is marked on the drawing."""
        return unit_of(self.id)


class Stop(Struct, frozen=True, kw_only=True):
    """Where the hand stays a moment: its key, what it is called, from where it is drawn, and its parts in the order of the hand."""

    key: str
    title: str
    view: View
    parts: tuple[TouchedPart, ...]


_STOPS: dict[str, tuple[str, View]] = {
    "top": ("Body", View.ABOVE), "under": ("Underside", View.BELOW), "nose": ("Nose", View.SIDE), "body": ("Body", View.SIDE),
    "left-wing": ("Left wing", View.ABOVE), "right-wing": ("Right wing", View.ABOVE), "joint": ("Wing joint", View.ABOVE), "cabin": ("Inside", View.CABIN),
    "tail": ("Tail", View.SIDE), "gear": ("Wheels", View.SIDE), "head": ("Rotor head", View.HEAD), "blades": ("Rotor blades", View.ABOVE), "own": ("Your own parts", View.SIDE),
}  # fmt: skip


def _name(*words: str) -> str:
    return " ".join(word for word in words if word)


@lru_cache(maxsize=256)
def stops(aircraft: Aircraft) -> tuple[Stop, ...]:
    """Every stop of an aircraft with its parts, in a hand's natural order; none is empty, and none of the parts its pilot took away is there."""
    of_kind = {Kind.MULTIROTOR: _multirotor, Kind.WING: _wing, Kind.HELICOPTER: _helicopter}[aircraft.kind]
    here: dict[str, list[TouchedPart]] = {}
    for part in (*of_kind(aircraft), *_own(aircraft)):
        if part.id not in aircraft.without_parts:
            here.setdefault(part.stop, []).append(part)
    names = (
        {arm_id(r.number): r.name.removesuffix(", upper") for r in rotor_layout(aircraft)}
        if aircraft.kind is Kind.MULTIROTOR
        else {}
    )
    found = []
    for key, parts in here.items():
        number = key.partition("nose-")[2]
        place = parts[0].name.split()[0].capitalize() if number else ""
        title, view = _STOPS.get(
            key, (f"{place} nacelle" if number else f"{_front(names[key])} arm" if key in names else key, View.SIDE)
        )
        found.append(Stop(key=key, title=title, view=view, parts=tuple(parts)))
    return tuple(found)


def _front(name: str) -> str:
    return name[:1].upper() + name[1:]


def touched_parts(aircraft: Aircraft) -> tuple[TouchedPart, ...]:
    """Every part that is touched, in order."""
    return tuple(part for stop in stops(aircraft) for part in stop.parts)


def touched_part(aircraft: Aircraft, part_id: str) -> TouchedPart | None:
    """The part with this id, None where the aircraft has none."""
    return next((part for part in touched_parts(aircraft) if part.id == part_id), None)


def damageable(aircraft: Aircraft) -> tuple[TouchedPart, ...]:
    """The parts that damage is reported on: all that are touched, and what is on the drawing besides; the pack has an inspection of its own."""
    listed = touched_parts(aircraft)
    known = {part.id for part in listed}
    more = [
        p for p in part_list(aircraft) if p.id not in known and p.group != "pack" and p.id not in aircraft.without_parts
    ]
    return (*listed, *(TouchedPart(id=p.id, name=p.name, aspect=A.SHELL, does=_group_does(p), stop="") for p in more))


def _group_does(part: AircraftPart) -> Bears:
    """What a part does that is on the drawing and not touched. Source: the list of parts."""
    if part.group in ("propellers", "rotor") or part.id == "tail-rotor":
        return B.ROTATES
    if part.group == "motors":
        return B.DRIVES
    if part.group in ("arms", "wing", "tail"):
        return B.CARRIES
    return (
        B.CONDUCTS
        if part.group in ("compass", "fuel", "antennas")
        else B.STANDS
        if part.group == "wheels"
        else B.COVERS
    )


def _part(id: str, name: str, aspect: Aspect, stop: str) -> TouchedPart:
    return TouchedPart(id=id, name=name, aspect=aspect, does=DOES[aspect], stop=stop)


MOST_OWN = 20
"""So many parts of the pilot's own are one stop: what a close-up has room for. Source: our choice."""


def _own(a: Aircraft) -> Iterator[TouchedPart]:
    for i, one in enumerate(a.own_parts):
        yield TouchedPart(id=one.id, name=one.name, aspect=A.OWN, does=one.does, stop=f"own-{i // MOST_OWN + 1}")


def _held(a: Aircraft) -> tuple[str, Aspect]:
    """How a propeller is held: what is felt at its middle."""
    if a.has(T.QUICK_RELEASE):
        return "lugs", A.LOCK
    if a.has(T.LOCK_NUT):
        return "nut", A.LOCK
    return ("screws", A.LOCK) if a.has(T.SCREWED) else ("hub", A.HUB)


def _propeller(a: Aircraft, number: int, place: str, stop: str) -> Iterator[TouchedPart]:
    """Two blades and what holds them."""
    held, aspect = _held(a)
    for blade in (1, 2):
        yield _part(
            f"{propeller_id(number)}/blade-{blade}", _name(place, "propeller, blade", str(blade)), A.BLADE, stop
        )
    yield _part(f"{propeller_id(number)}/{held}", _name(place, "propeller", held), aspect, stop)


def _motor(a: Aircraft, number: int, place: str, stop: str) -> Iterator[TouchedPart]:
    if a.has(T.LIQUID_FUEL):
        yield _part(motor_id(number), _name(place, "engine"), A.ENGINE, stop)
        yield _part(f"{motor_id(number)}/muffler", _name(place, "muffler"), A.ENGINE, stop)
    else:
        yield _part(motor_id(number), _name(place, "motor bell"), A.BELL, stop)
        yield _part(f"{motor_id(number)}/shaft", _name(place, "motor shaft"), A.SHAFT, stop)
    yield _part(f"{motor_id(number)}/mount", _name(place, "motor mount"), A.MOUNT, stop)


def _arm_parts(a: Aircraft, arm: int, rotors: list[Rotor]) -> Iterator[TouchedPart]:
    """An arm with all on it, outside in: what turns, what drives it, what carries it."""
    stop, place = arm_id(arm), rotors[0].name.removesuffix(", upper")
    for rotor in rotors:
        yield from _propeller(a, rotor.number, rotor.name, stop)
        yield from _motor(a, rotor.number, rotor.name, stop)
    if a.has(T.GUARDS):
        yield _part(f"guards/{arm}", f"{place} guard", A.GUARD, stop)
    yield _part(arm_id(arm), f"{place} arm", A.ARM, stop)
    if a.has(T.FOLDING):
        yield _part(f"{arm_id(arm)}/latch", f"{place} arm latch", A.LATCH, stop)


def _multirotor(a: Aircraft) -> Iterator[TouchedPart]:
    rotors = rotor_layout(a)
    yield _part("body", "frame plates" if a.has(T.RACING) else "shell", A.SHELL, "top")
    if a.has(T.ELECTRIC):
        yield _part("body/vents", "vents", A.VENT, "top")
    yield _part("pack-strap", "pack strap" if a.has(T.SELF_BUILT) else "pack latch", A.STRAP, "top")
    yield from _electronics(a, "top")
    yield from _antennas(a, "top", ("left", "right"))
    if a.has(T.OBSTACLE_SENSORS):
        yield _part("body/sensors-front", "front sensors", A.SENSOR, "top")
    for arm in range(1, a.arms + 1):
        yield from _arm_parts(a, arm, [r for r in rotors if (r.number - 1) % a.arms + 1 == arm])
    yield from _camera(a, "under")
    if a.has(T.OBSTACLE_SENSORS):
        yield _part("body/sensors-below", "downward sensors", A.SENSOR, "under")
    if a.has(T.LEGS):
        for side in ("left", "right"):
            yield _part(f"wheels/{side}", f"{side} leg", A.LEG, "under")
    yield from _payload(a, "under")
    yield from _tank(a, "top")


def _electronics(a: Aircraft, stop: str) -> Iterator[TouchedPart]:
    if a.has(T.SELF_BUILT):
        yield _part("body/standoffs", "nuts and standoffs", A.STANDOFF, stop)
        yield _part("body/wires", "wires", A.WIRES, stop)


def _antennas(a: Aircraft, stop: str, sides: tuple[str, ...]) -> Iterator[TouchedPart]:
    if len(sides) == 1:
        yield _part("antennas", "antenna", A.ANTENNA, stop)
    else:
        for side in sides:
            yield _part(f"antennas/{side}", f"{side} antenna", A.ANTENNA, stop)
    if a.has(T.VIDEO_LINK):
        yield _part("antennas/video", "video antenna", A.VIDEO_ANTENNA, stop)


def _camera(a: Aircraft, stop: str) -> Iterator[TouchedPart]:
    if a.has(T.CAMERA):
        yield _part("gimbal", "gimbal" if a.has(T.GIMBAL_CAMERA) else "camera mount", A.GIMBAL, stop)
        yield _part("gimbal/lens", "lens", A.GIMBAL, stop)


def _payload(a: Aircraft, stop: str) -> Iterator[TouchedPart]:
    if a.has(T.PAYLOAD):
        yield _part("payload", "payload, first hold", A.PAYLOAD, stop)
        yield _part("payload/second", "payload, second hold", A.PAYLOAD, stop)


def _tank(a: Aircraft, stop: str) -> Iterator[TouchedPart]:
    if a.has(T.LIQUID_FUEL):
        yield _part("fuel", "tank", A.TANK, stop)
        yield _part("fuel/lines", "fuel lines", A.TANK, stop)


def _linkage(surface: ControlSurface, stop: str) -> Iterator[TouchedPart]:
    """A control surface from its hinge to its horn."""
    felt = A.FLAP if surface.kind == "flap" else A.SURFACE
    yield _part(surface.part, surface.name, felt, stop)
    yield _part(f"{surface.part}/hinge", f"{surface.name} hinge", felt, stop)
    yield _part(f"{surface.part}/horn", f"{surface.name} horn", felt, stop)
    yield _part(f"{surface.part}/clevis", f"{surface.name} clevis and keeper", A.SERVO, stop)


def _wing(a: Aircraft) -> Iterator[TouchedPart]:
    places = ("left", "right") if a.rotors == 2 else ("",) * a.rotors
    for number, place in enumerate(places, 1):
        stop = f"nose-{number}" if a.rotors == 2 else "nose"
        yield from _propeller(a, number, place, stop)
        yield _part(f"{propeller_id(number)}/spinner", _name(place, "spinner"), A.SPINNER, stop)
        yield from _motor(a, number, place, stop)
    for side in ("left", "right"):
        stop = f"{side}-wing"
        yield _part(f"wing/{side}", f"{side} wing panel", A.PANEL, stop)
        for surface in surfaces(a):
            if surface.side == side and "tail" not in surface.part:
                yield from _linkage(surface, stop)
                yield _part(f"{surface.part}/servo", f"{surface.name} servo", A.SERVO, stop)
        if any(a.has(t) for t in (T.AILERONS, T.ELEVONS, T.FLAPS)):
            yield _part(f"wing/{side}-lead", f"{side} servo lead", A.LEAD, stop)
        if not a.has(T.TAIL):
            yield _part(f"tail/{side}", f"{side} fin", A.FIN, stop)
    yield _part("wing", "wing centre joint", A.JOINT, "joint")
    if a.has(T.BANDS):
        yield _part("wing-joint", "rubber bands", A.DOWEL, "joint")
        for end in ("front", "rear"):
            yield _part(f"wing-joint/{end}-dowel", f"{end} dowel", A.DOWEL, "joint")
    elif a.has(T.BOLTS):
        for end in ("front", "rear"):
            yield _part("wing-joint" if end == "front" else "wing-joint/rear", f"{end} wing bolt", A.BOLT, "joint")
    else:
        yield _part("wing-joint", "wing joiner", A.JOINT, "joint")
    yield from _wing_body(a)


def _wing_body(a: Aircraft) -> Iterator[TouchedPart]:
    yield _part("body", "fuselage", A.CONNECTOR, "body")
    yield _part("body/hatch", "hatch", A.HATCH, "body")
    if a.has(T.ELECTRIC):
        yield _part("body/vents", "vents", A.VENT, "body")
    yield from _antennas(a, "body", ("",))
    yield from _camera(a, "body")
    yield from _payload(a, "body")
    yield _part("pack-strap", "pack strap", A.STRAP, "cabin")
    yield _part("body/receiver", "receiver connectors", A.CONNECTOR, "cabin")
    yield from _electronics(a, "cabin")
    yield from _tank(a, "cabin")
    behind = [s for s in surfaces(a) if not s.side or "tail" in s.part]
    for surface in behind:
        yield _part(f"{surface.part}/servo", f"{surface.name} servo", A.SERVO, "cabin")
        yield _part(f"{surface.part}/pushrod", f"{surface.name} pushrod", A.SERVO, "cabin")
    if a.has(T.TAIL):
        yield _part("tail", "tailplane", A.TAIL, "tail")
        if not a.has(T.V_TAIL):
            yield _part("tail/fin", "fin", A.TAIL, "tail")
    for surface in behind:
        yield from _linkage(surface, "tail")
    if a.has(T.WHEELS):
        for side in ("left", "right"):
            yield _part(f"{side}-wheel", f"{side} wheel and collar", A.WHEEL, "gear")
        third, felt = ("nose", A.NOSE_WHEEL) if a.has(T.NOSE_WHEEL) else ("tail", A.TAIL_WHEEL)
        yield _part(f"{third}-wheel", f"{third} wheel", felt, "gear")


def _helicopter(a: Aircraft) -> Iterator[TouchedPart]:
    coaxial = a.frame is Frame.COAXIAL_ROTOR
    rotors = ("upper", "lower") if coaxial else ("main",)
    for which in rotors:
        for blade in (1, 2):
            yield _part(f"{which}-rotor/blade-{blade}", f"{which} rotor, blade {blade}", A.ROTOR_BLADE, "blades")
    for which in rotors:
        yield _part(f"{which}-rotor", f"{which} rotor hub", A.GRIP, "head")
        for blade in (1, 2):
            yield _part(f"{which}-rotor/grip-{blade}", f"{which} rotor, grip {blade}", A.GRIP, "head")
    if a.has(T.FLYBAR):
        yield _part("swashplate/flybar", "flybar", A.FLYBAR, "head")
    for number in (1, 2):
        yield _part(f"swashplate/link-{number}", f"blade link {number}", A.LINK, "head")
    for number in (1, 2, 3):
        yield _part(f"swashplate/servo-link-{number}", f"servo link {number}", A.LINK, "head")
    yield _part("swashplate/upper-half", "swashplate, upper half", A.SWASHPLATE, "head")
    yield _part("swashplate", "swashplate, lower half", A.SWASHPLATE, "head")
    yield _part("swashplate/main-shaft", "outer shaft" if coaxial else "main shaft", A.MAST, "head")
    if coaxial:
        yield _part("swashplate/inner-shaft", "inner shaft", A.MAST, "head")
    yield _part("swashplate/bearings", "shaft bearings", A.MAST, "cabin")
    for number in range(1, a.rotors + 1):
        yield from _motor(a, number, rotors[number - 1] if a.rotors > 1 else "", "cabin")
        yield _part(
            f"{motor_id(number)}/gear", _name(rotors[number - 1] if a.rotors > 1 else "main", "gear"), A.GEAR, "cabin"
        )
    for number in (1, 2, 3):
        yield _part(f"swashplate/servo-{number}", f"swashplate servo {number}", A.SERVO, "cabin")
    yield _part("body/receiver", "receiver connectors", A.CONNECTOR, "cabin")
    yield from _electronics(a, "cabin")
    yield from _tank(a, "cabin")
    yield _part("body", "cabin frame", A.SHELL, "body")
    yield _part("body/canopy", "canopy", A.CANOPY, "body")
    if a.has(T.ELECTRIC):
        yield _part("body/vents", "vents", A.VENT, "body")
    yield _part("pack-strap", "pack strap", A.STRAP, "body")
    for side in ("left", "right"):
        yield _part(f"wheels/{side}", f"{side} skid", A.LEG, "body")
    yield from _antennas(a, "body", ("",))
    yield from _camera(a, "body")
    yield from _payload(a, "body")
    yield _part("tail", "tail boom", A.BOOM, "tail")
    yield _part("tail/fin", "tail fin", A.BOOM, "tail")
    if not coaxial:
        for blade in (1, 2):
            yield _part(f"tail-rotor/blade-{blade}", f"tail rotor, blade {blade}", A.TAIL_ROTOR, "tail")
        yield _part("tail-rotor", "tail rotor hub and slider", A.TAIL_ROTOR, "tail")
        yield _part("tail-rotor/drive", "tail drive", A.TAIL_ROTOR, "tail")
