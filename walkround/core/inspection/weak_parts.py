"""A part that fails again and again across the hangar: the design or the handling is at fault, not the one part."""

from collections.abc import Collection, Iterable

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Kind
from walkround.core.base.struct import Struct
from walkround.core.base.wording import capital
from walkround.core.inspection.touched import damageable

FEWEST = 2
"""On at least so many aircraft, and on more than half of those that have the part. Source: our choice."""
WITHIN_DAYS = 365
"""Only snags opened within so many days count. Source: our choice."""


class WeakPart(Struct, frozen=True, kw_only=True):
    """A part, by its kind of aircraft and its name, with how many aircraft had a snag on it, of how many that have one."""

    kind: Kind
    name: str
    failed: int
    have: int

    def words(self) -> str:
        """Such as "Rear left arm: on 3 of 4 (multirotor)"."""
        return f"{capital(self.name)}: on {self.failed} of {self.have} ({self.kind.value})"


def weak_parts(fleet: Collection[Aircraft], snags: Iterable[tuple[int, str]]) -> tuple[WeakPart, ...]:
    """The parts that fail often, the most often first; ``snags``: number of the aircraft and id of the part, of each snag. Source: ``FEWEST``."""
    have: dict[tuple[Kind, str], set[int]] = {}
    named: dict[tuple[int, str], tuple[Kind, str]] = {}
    for aircraft in fleet:
        for part in damageable(aircraft):
            key = (aircraft.kind, part.name)
            have.setdefault(key, set()).add(aircraft.id)
            named[aircraft.id, part.id] = key
    failed: dict[tuple[Kind, str], set[int]] = {}
    for aircraft_id, part_id in snags:
        which = named.get((aircraft_id, part_id))
        if which is not None:
            failed.setdefault(which, set()).add(aircraft_id)
    found = [
        WeakPart(kind=kind, name=name, failed=len(ids), have=len(have[kind, name]))
        for (kind, name), ids in failed.items()
        if len(ids) >= FEWEST and 2 * len(ids) > len(have[kind, name])
    ]
    return tuple(sorted(found, key=lambda weak: (-weak.failed, weak.name)))
