"""Parts with a history of their own: fitted, flown, replaced."""

from datetime import datetime
from enum import StrEnum
from typing import Annotated

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Kind, Trait
from walkround.core.base.value import Allowed, Value


class PartKind(StrEnum):
    """Kinds of parts that are kept apart."""

    PROPELLER = "propeller"
    ROTOR_BLADE = "rotor blade"
    MOTOR = "motor"
    SPEED_CONTROLLER = "speed controller"
    RECEIVER = "receiver"
    FLIGHT_CONTROLLER = "flight controller"
    SERVO = "servo"
    SATNAV = "satellite receiver"
    CAMERA = "camera"
    TRANSMITTER = "transmitter"
    OTHER = "other part"


class Part(Value):
    """One part on an aircraft. ``part_id``: its id in the list of the aircraft, "" for another; ``place``: where it is fitted; ``flights`` and ``minutes`` since it was fitted.

    ``rotation`` and ``size`` are words such as "clockwise" and "9 x 4.5"; ``removed_at`` is set once it was replaced.
    """

    id: int = 0
    kind: PartKind
    part_id: Annotated[str, Allowed(max_length=40)] = ""
    name: Annotated[str, Allowed(max_length=60)] = ""
    place: Annotated[str, Allowed(max_length=40)] = ""
    rotation: Annotated[str, Allowed(max_length=20)] = ""
    size: Annotated[str, Allowed(max_length=20)] = ""
    firmware: Annotated[str, Allowed(max_length=40)] = ""
    fitted_at: datetime
    removed_at: datetime | None = None
    why_removed: Annotated[str, Allowed(max_length=300)] = ""
    flights: int = 0
    minutes: float = 0.0

    def words(self) -> str:
        """The part in words: kind, place, hand and size."""
        rest = ", ".join(text for text in (self.place, self.rotation, self.size, self.name) if text)
        return f"{self.kind.value.capitalize()}{f' ({rest})' if rest else ''}"


def part_kinds(aircraft: Aircraft) -> list[PartKind]:
    """Kinds of parts that this aircraft can have."""
    without = {
        PartKind.PROPELLER: aircraft.has(Trait.PROPELLERS),
        PartKind.ROTOR_BLADE: aircraft.has(Trait.ROTOR_BLADES),
        PartKind.MOTOR: aircraft.has(Trait.MOTOR),
        PartKind.SPEED_CONTROLLER: aircraft.has(Trait.ELECTRIC),
        PartKind.SERVO: aircraft.kind is not Kind.MULTIROTOR,
        PartKind.SATNAV: aircraft.has(Trait.SATNAV),
        PartKind.FLIGHT_CONTROLLER: aircraft.has(Trait.FLIGHT_CONTROLLER) or aircraft.has(Trait.STABILISER),
        PartKind.CAMERA: aircraft.has(Trait.CAMERA),
    }
    return [kind for kind in PartKind if without.get(kind, True)]
