"""The parts of an aircraft, each with the id that drawing, snags, parts page, bag and control directions share."""

from functools import lru_cache

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.control_directions import surfaces
from walkround.core.aircraft.parts import PartKind
from walkround.core.aircraft.rotors import Rotation, Rotor, rotor_layout
from walkround.core.aircraft.traits import Frame, Kind, Trait
from walkround.core.base.struct import Struct

_SIDES = ("left", "right")
_ON_WING = ("aileron", "elevon", "flap")


class AircraftPart(Struct, frozen=True, kw_only=True):
    """One part: its id, the part of the drawing it belongs to, where it is in words, what it is called.

    ``kind``: the kind of part that is kept there with a history, None where none is; ``spin``: how it turns.
    """

    id: str
    group: str
    place: str
    name: str
    kind: PartKind | None = None
    spin: Rotation | None = None


def propeller_id(number: int) -> str:
    """The id of the propeller on the motor of that number."""
    return f"propeller-{number}"


def motor_id(number: int) -> str:
    """The id of the motor of that number."""
    return f"motor-{number}"


def arm_id(number: int) -> str:
    """The id of an arm, counted clockwise from the front."""
    return f"arm-{number}"


@lru_cache(maxsize=256)
def part_list(aircraft: Aircraft) -> tuple[AircraftPart, ...]:
    """Every part that this aircraft has, in a hand's natural order: front to rear, arm by arm."""
    listed = {Kind.MULTIROTOR: _multirotor, Kind.WING: _wing, Kind.HELICOPTER: _helicopter}[aircraft.kind](aircraft)
    more = (
        ("gimbal", "camera", PartKind.CAMERA, aircraft.has(Trait.CAMERA)),
        ("compass", "compass", PartKind.SATNAV if aircraft.has(Trait.SATNAV) else None, aircraft.has(Trait.COMPASS)),
        ("payload", "payload", None, aircraft.has(Trait.PAYLOAD)),
        ("fuel", "tank", None, aircraft.has(Trait.LIQUID_FUEL)),
        ("antennas", "antennas", None, True),
        ("pack", "pack", None, True),
    )
    return (*listed, *(_single(id, name, kind) for id, name, kind, here in more if here))


def unit_of(part_id: str) -> str:
    """The id of the part that a detail (``part/detail``) belongs to; of a part its own."""
    return part_id.partition("/")[0]


def part_of(aircraft: Aircraft, part_id: str) -> AircraftPart | None:
    """The part with this id, or that a detail with this id belongs to; None where the aircraft has none."""
    unit = unit_of(part_id)
    return next((part for part in part_list(aircraft) if part.id == unit), None)


def _single(id: str, name: str, kind: PartKind | None = None, group: str = "") -> AircraftPart:
    return AircraftPart(id=id, group=group or id, place="", name=name, kind=kind)


def _driven(number: int, place: str, spin: Rotation | None, *, propeller: bool) -> list[AircraftPart]:
    """A motor and its propeller."""
    motor = AircraftPart(
        id=motor_id(number), group="motors", place=place, name=f"{place} motor".strip(), kind=PartKind.MOTOR, spin=spin
    )
    if not propeller:
        return [motor]
    name = f"{place} propeller".strip()
    return [
        AircraftPart(
            id=propeller_id(number), group="propellers", place=place, name=name, kind=PartKind.PROPELLER, spin=spin
        ),
        motor,
    ]


def _multirotor(aircraft: Aircraft) -> list[AircraftPart]:
    rotors = rotor_layout(aircraft)
    found = [_single("body", "shell")]
    for number in range(1, aircraft.arms + 1):
        found += _arm(number, [r for r in rotors if (r.number - 1) % aircraft.arms + 1 == number])
    if aircraft.has(Trait.GUARDS):
        found.append(_single("guards", "propeller guards"))
    if aircraft.has(Trait.LEGS):
        found.append(_single("wheels", "legs"))
    return found


def _arm(number: int, rotors: list[Rotor]) -> list[AircraftPart]:
    """An arm with what it carries."""
    place = rotors[0].name.removesuffix(", upper")
    found = [AircraftPart(id=arm_id(number), group="arms", place=place, name=f"{place} arm")]
    for rotor in rotors:
        found += _driven(rotor.number, rotor.name, rotor.spin, propeller=True)
    return found


def _wing(aircraft: Aircraft) -> list[AircraftPart]:
    places = _SIDES if aircraft.rotors == 2 else ("",) * aircraft.rotors
    found = [part for i, place in enumerate(places, 1) for part in _driven(i, place, None, propeller=True)]
    found += [
        _single("body", "body"),
        _single("wing", "wing"),
        _single("tail", "tail" if _has_tail(aircraft) else "fins"),
    ]
    found += [
        AircraftPart(
            id=surface.part, group="wing" if surface.kind in _ON_WING else "tail", place=surface.side, name=surface.name,
            kind=PartKind.SERVO,
        )
        for surface in surfaces(aircraft)
    ]  # fmt: skip
    if aircraft.has(Trait.WHEELS):
        third = "nose" if aircraft.has(Trait.NOSE_WHEEL) else "tail"
        found += [_single(f"{which}-wheel", f"{which} wheel", group="wheels") for which in (*_SIDES, third)]
    return found


def _has_tail(aircraft: Aircraft) -> bool:
    return aircraft.frame is not Frame.FLYING_WING


def _helicopter(aircraft: Aircraft) -> list[AircraftPart]:
    coaxial = aircraft.frame is Frame.COAXIAL_ROTOR
    rotors = ("upper", "lower") if coaxial else ("main",)
    found = [_single("body", "cabin"), _single("wheels", "skids")]
    found += [
        AircraftPart(id=f"{which}-rotor", group="rotor", place=which, name=f"{which} rotor", kind=PartKind.ROTOR_BLADE)
        for which in rotors
    ]
    found.append(_single("swashplate", "lower swashplate" if coaxial else "swashplate", PartKind.SERVO, "rotor"))
    for number in range(1, aircraft.rotors + 1):
        place = rotors[number - 1] if aircraft.rotors > 1 else ""
        found += _driven(number, place, None, propeller=False)
    found.append(_single("tail", "tail"))
    if not coaxial:
        found.append(
            AircraftPart(id="tail-rotor", group="tail", place="tail", name="tail rotor", kind=PartKind.ROTOR_BLADE)
        )
    return found
