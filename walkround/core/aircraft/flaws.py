"""What can be wrong with a part, where and of what it is made, what a part does, and what a pilot says of the parts of one aircraft."""

from enum import StrEnum
from typing import Annotated

from walkround.core.base.value import Allowed, Value


class Damage(StrEnum):
    """What is wrong."""

    NICK = "nick or dent"
    CRACK = "crack"
    WHITE = "white stress line"
    CHIP = "chip or piece broken off"
    BEND = "bent"
    PLAY = "too much play"
    LOOSE = "loose"
    MISSING = "something missing"
    DIRT = "dirt, hair or grit"
    CHAFE = "chafed or scratched"
    CORROSION = "corroded"
    HEAT = "heat mark or burnt smell"
    DELAMINATED = "layers coming apart"
    WORN = "worn or perished"
    UNSURE = "something else, or unsure"


class Place(StrEnum):
    """Where on the part."""

    TIP = "tip"
    EDGE = "edge"
    MIDDLE = "middle"
    ROOT = "root"
    LUG = "lug, screw or joint"


class Material(StrEnum):
    """What it is made of there."""

    PLASTIC = "plastic"
    CARBON = "carbon or glass fibre"
    WOOD = "wood"
    FOAM = "foam"
    METAL = "metal"
    RUBBER = "rubber"


class Bears(StrEnum):
    """What a part does, which decides how strict its rules are."""

    ROTATES = "it rotates"
    DRIVES = "it drives what rotates"
    CARRIES = "it carries load or steers"
    HOLDS = "it holds something on"
    STANDS = "it is landing gear"
    CONDUCTS = "it carries current or signal"
    COVERS = "it only covers"


class OwnPart(Value):
    """A part that its pilot adds to an aircraft: its id, what it is called, and what it does."""

    id: Annotated[str, Allowed(pattern=r"^own-\d{1,3}$")]
    name: Annotated[str, Allowed(min_length=1, max_length=40)]
    does: Bears


class Tolerance(Value):
    """Damage that the maker of an aircraft allows: on what, which, where (None: anywhere), and the page of the manual that says so."""

    does: Bears
    damage: Damage
    place: Place | None = None
    words: Annotated[str, Allowed(min_length=1, max_length=120)]
    source: Annotated[str, Allowed(min_length=3, max_length=120)]


class Life(Value):
    """How much a part lasts by its pilot, in place of the usual: the rule (its name) and the number in its unit."""

    rule: Annotated[str, Allowed(max_length=40)]
    limit: Annotated[float, Allowed(gt=0, le=100_000)]
