"""The bag: packed from the aircraft's own list, counted, in two passes that know nothing of each other."""

from collections.abc import Mapping
from enum import StrEnum
from typing import Annotated

from walkround.core.aircraft.aircraft import ANY, Aircraft, For, any_of, having
from walkround.core.aircraft.part_list import part_list
from walkround.core.aircraft.parts import PartKind
from walkround.core.aircraft.rotors import Rotation
from walkround.core.aircraft.traits import Kind, Trait
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding, Level
from walkround.core.base.phrase import Phrase, count
from walkround.core.base.struct import Struct
from walkround.core.base.value import Allowed, Value

MOST = 99
EXTRA_CHARS = 60


class BagGroup(StrEnum):
    """What is packed in one go, in the order of the hand."""

    FLYING = "what flies and flies it"
    CAMERA = "camera"
    SPARES = "spares and tools"
    SAFETY = "safety, papers, people"
    OWN = "your own items"


class BagThing(Struct, frozen=True, kw_only=True):
    """A thing of the bag: how many, what it costs when it is missing, and whether the flight cannot be without it.

    ``parts``: ids of the parts of the aircraft that it can take the place of.
    """

    id: str
    title: str
    wanted: int = 1
    costs: str
    group: BagGroup = BagGroup.SPARES
    needed: bool = False
    applies: For = ANY
    parts: tuple[str, ...] = ()


class Packed(Value):
    """What one pass found, as pairs of thing and number; a thing not named is not there."""

    have: Annotated[tuple[tuple[str, int], ...], Allowed(max_length=120)] = ()


_THINGS: tuple[BagThing, ...] = (
    BagThing(id="aircraft", group=BagGroup.FLYING, title="Aircraft, complete", costs="no flying today", needed=True),
    BagThing(id="transmitter", group=BagGroup.FLYING, title="Transmitter", costs="no flying today", needed=True),
    BagThing(id="fire-bag", group=BagGroup.SAFETY, title="Fire-resistant pack bag or hard case", costs="a pack can burn in the car", needed=True),
    BagThing(id="checker", group=BagGroup.SAFETY, title="Cell checker", costs="cell voltages are not known"),
    BagThing(id="screen", group=BagGroup.FLYING, title="Phone or tablet", costs="no map and no RTH button", needed=True, applies=having(Trait.PILOT_SCREEN)),
    BagThing(id="cable", group=BagGroup.FLYING, title="Cable to the screen", wanted=2, costs="no flying if the only one breaks", applies=having(Trait.PILOT_SCREEN)),
    BagThing(id="goggles", group=BagGroup.FLYING, title="Goggles and their battery", costs="no FPV flight", applies=having(Trait.GOGGLES)),
    BagThing(id="cards", group=BagGroup.CAMERA, title="Memory cards", wanted=2, costs="no recording", applies=having(Trait.CAMERA)),
    BagThing(id="lens-cloth", group=BagGroup.CAMERA, title="Lens wipe", costs="a smear on every shot", applies=having(Trait.CAMERA)),
    BagThing(id="filters", group=BagGroup.CAMERA, title="Neutral-density filters", costs="choppy video in the sun", applies=having(Trait.GIMBAL_CAMERA)),
    BagThing(id="mat", group=BagGroup.SAFETY, title="Landing mat", costs="dust in the motors", applies=For(kinds=frozenset({Kind.MULTIROTOR, Kind.HELICOPTER}))),
    BagThing(id="prop-tool", title="Propeller tool", costs="no propeller can be changed", applies=any_of(Trait.LOCK_NUT, Trait.SCREWED)),
    BagThing(id="blades", title="Spare pair of rotor blades", wanted=1, costs="no flying after a touch of the grass", applies=having(Trait.ROTOR_BLADES)),
    BagThing(id="links", title="Spare ball links", wanted=2, costs="no flying if one pops off", applies=having(Trait.ROTOR_BLADES)),
    BagThing(id="clevises", title="Clevises with keepers", wanted=2, costs="no flying if one is lost in the grass", applies=having(Trait.SURFACES)),
    BagThing(id="bands", title="Rubber bands, fresh", wanted=8, costs="only old bands to hold the wing", applies=having(Trait.BANDS)),
    BagThing(id="bolts", title="Spare wing bolts", wanted=2, costs="no flying if one is stripped", applies=having(Trait.BOLTS)),
    BagThing(id="tape", title="Tape", costs="a torn hinge cannot be taped", applies=having(Trait.SURFACES)),
    BagThing(id="nuts", title="Nuts, standoffs and a strap", costs="no flying if one comes off", applies=having(Trait.SELF_BUILT)),
    BagThing(id="fuel", group=BagGroup.FLYING, title="Fuel, the right can", costs="no flying today", needed=True, applies=having(Trait.LIQUID_FUEL)),
    BagThing(id="starter", group=BagGroup.FLYING, title="Starter and igniter", costs="the engine cannot be started", applies=having(Trait.LIQUID_FUEL)),
    BagThing(id="beeper", group=BagGroup.SAFETY, title="Beeper or tracker, charged", costs="no search by sound or position", applies=any_of(Trait.BEEPER, Trait.TRACKER)),
    BagThing(id="accessories", group=BagGroup.SAFETY, title="Batteries for the accessories", costs="accessories fail one by one"),
    BagThing(id="papers", group=BagGroup.SAFETY, title="Papers", costs="no proof of permission"),
    BagThing(id="first-aid", group=BagGroup.SAFETY, title="First-aid kit and extinguisher", costs="no help for cuts or a fire"),
    BagThing(id="water", group=BagGroup.SAFETY, title="Water and a hat", costs="sunburn and thirst"),
    BagThing(id="buddy", group=BagGroup.SAFETY, title="The helper's phone number", costs="no second pair of eyes"),
)  # fmt: skip
"""What goes along, by trait. Source: common practice, no source; the numbers wanted are our choice."""


def bag_list(aircraft: Aircraft) -> tuple[BagThing, ...]:
    """The bag of an aircraft: what its traits want, packs and spare propellers counted, its own lines, less what its
    pilot leaves out (counts). Source: ``_THINGS``; the pilot's own lines.
    """
    things = [thing for thing in _THINGS if thing.applies.fits(aircraft)]
    packs = BagThing(
        id="packs",
        title="Flight packs" if aircraft.has(Trait.ELECTRIC) else "Receiver packs",
        wanted=aircraft.bag_packs,
        group=BagGroup.FLYING,
        costs="fewer flights",
        needed=True,
    )
    things[2:2] = [packs, *_spares(aircraft)]
    things += [
        BagThing(id=f"own-{i}", title=text, costs="what you added it for", group=BagGroup.OWN)
        for i, text in enumerate(aircraft.bag_extra, 1)
    ]
    return tuple(thing for thing in things if thing.needed or thing.id not in aircraft.bag_leaves)


def bag_groups(aircraft: Aircraft, *, backwards: bool = False) -> tuple[tuple[BagGroup, tuple[BagThing, ...]], ...]:
    """The bag of an aircraft in groups; ``backwards``: for a second pass, which finds more in another order. Source: as ``bag_list``."""
    things = bag_list(aircraft)
    found = [(group, tuple(thing for thing in things if thing.group is group)) for group in BagGroup]
    full = [pair for pair in found if pair[1]]
    return tuple(reversed(full)) if backwards else tuple(full)


def _spares(aircraft: Aircraft) -> list[BagThing]:
    """Spare propellers: of each direction of rotation for a multi-rotor that has both."""
    propellers = [part for part in part_list(aircraft) if part.kind is PartKind.PROPELLER]
    spins = [spin for spin in Rotation if any(part.spin is spin for part in propellers)]
    if not propellers:
        return []
    cost = "no flying after the first nick"
    if not spins:
        ids = tuple(part.id for part in propellers)
        return [BagThing(id="propellers", title="Spare propellers", wanted=2, costs=cost, parts=ids)]
    return [
        BagThing(
            id=f"propellers-{spin.value}",
            title=f"Spare propellers, {spin}",
            wanted=2,
            costs=cost,
            parts=tuple(part.id for part in propellers if part.spin is spin),
        )
        for spin in spins
    ]


def custom_lines(text: str) -> tuple[str, ...]:
    """Own lines of the bag from a text, one a line. Raises InputError for a line too long or too many."""
    lines = [" ".join(line.split()) for line in text.splitlines()]
    lines = [line for line in lines if line]
    if len(lines) > 30:
        raise InputError("You can add up to thirty items of your own.", "bag_extra")
    long = next((line for line in lines if len(line) > EXTRA_CHARS), None)
    if long is not None:
        raise InputError(f"“{long[:20]}…” has {len(long)} characters (max {EXTRA_CHARS}).", "bag_extra")
    return tuple(dict.fromkeys(lines))


def judge_bag(aircraft: Aircraft, packed: Packed, other: Packed | None) -> tuple[Finding, ...]:
    """Findings on one pass (counts): what is missing and what that costs; what the flight cannot be without grounds.

    ``other``: the other pass if it was done; what the two counted differently is a caution. Raises InputError for a number
    that cannot be. Source: checked twice; common practice, no source.
    """
    have = dict(packed.have)
    if any(not 0 <= number <= MOST for number in have.values()):
        raise InputError(f"Enter a number between 0 and {MOST}.")
    findings = []
    for thing in bag_list(aircraft):
        number = have.get(thing.id, 0)
        if number >= thing.wanted or (thing.needed and number > 0):
            continue
        findings.append(_missing(thing, number))
    if other is not None:
        findings += _differences(bag_list(aircraft), have, dict(other.have))
    if findings:
        return tuple(findings)
    reason = Phrase.of("All {all} items are in the bag.", all=count(len(bag_list(aircraft))))
    return (Finding(name="Bag", level=Level.CLEAR, reason=reason),)


def _missing(thing: BagThing, number: int) -> Finding:
    short = f"{thing.title}: {number} of {thing.wanted}" if thing.wanted > 1 else f"{thing.title}: not in the bag"
    return Finding(
        name=thing.title,
        level=Level.GROUNDED if thing.needed else Level.CAUTION,
        reason=Phrase(text=f"{short}. Without it: {thing.costs}."),
        remedy="Fetch it before you leave." if thing.needed else "Put it in if it is at hand.",
    )


def _differences(things: tuple[BagThing, ...], one: Mapping[str, int], two: Mapping[str, int]) -> list[Finding]:
    return [
        Finding(
            name=f"Two counts of {thing.title}",
            level=Level.CAUTION,
            reason=Phrase(
                text=f"{thing.title}: this pass says {one.get(thing.id, 0)}, the other {two.get(thing.id, 0)}."
            ),
            remedy="Count again together.",
        )
        for thing in things
        if one.get(thing.id, 0) != two.get(thing.id, 0)
    ]
