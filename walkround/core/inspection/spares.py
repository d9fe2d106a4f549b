"""What takes the place of a part: what is replaced with it, and which spare of the bag that is."""

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.bag import BagThing, bag_list
from walkround.core.aircraft.part_list import part_of
from walkround.core.aircraft.parts import PartKind
from walkround.core.aircraft.traits import Trait
from walkround.core.base.struct import Struct
from walkround.core.inspection.aspects import Aspect
from walkround.core.inspection.touched import TouchedPart

A = Aspect
_WITH_ITS_PART = frozenset({A.BLADE, A.HUB, A.ROTOR_BLADE, A.BELL})
"""A blade is replaced with its propeller, a rotor blade with its pair, a bell with its motor. Source: common practice, no source."""


class SpareLeft(Struct, frozen=True, kw_only=True):
    """A spare of the bag with how many are left by the last count; None where it was never counted."""

    thing: BagThing
    left: int | None


def replaced_id(aircraft: Aircraft, part: TouchedPart) -> str:
    """The id of what is replaced when this is: the whole propeller for a blade or its lugs, else the part itself."""
    lugs = part.aspect is A.LOCK and aircraft.has(Trait.QUICK_RELEASE)
    return part.unit if part.aspect in _WITH_ITS_PART or lugs else part.id


def spare_for(aircraft: Aircraft, part: TouchedPart) -> BagThing | None:
    """The thing of the bag that takes the place of a part, of its size and rotation; None where none is packed for it."""
    replaced = replaced_id(aircraft, part)
    by_id = next((thing for thing in bag_list(aircraft) if replaced in thing.parts), None)
    if by_id is not None:
        return by_id
    wanted = {
        "blades": part.aspect is A.ROTOR_BLADE,
        "links": part.aspect is A.LINK,
        "clevises": part.id.endswith("/clevis"),
        "bands": part.id == "wing-joint" and aircraft.has(Trait.BANDS),
        "bolts": part.aspect is A.BOLT,
        "nuts": part.aspect in (A.STANDOFF, A.STRAP) or (part.aspect is A.LOCK and aircraft.has(Trait.LOCK_NUT)),
    }
    return next((thing for thing in bag_list(aircraft) if wanted.get(thing.id)), None)


def kind_of(aircraft: Aircraft, replaced: str) -> PartKind:
    """The kind under which a part with this id is kept."""
    unit = part_of(aircraft, replaced)
    return unit.kind if unit is not None and unit.id == replaced and unit.kind is not None else PartKind.OTHER
