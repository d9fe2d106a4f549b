"""Looking a pack over by eye, hand and nose: what each fault means for it."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum

from walkround.core.packs import lithium
from walkround.core.packs.chemistry import Chemistry, is_lithium
from walkround.core.packs.pack import Pack, PackState


class Severity(StrEnum):
    """What a fault does to the pack."""

    CONDEMNED = "out for good"
    ASIDE = "set aside"
    WATCH = "watch"


_STATE = {
    Severity.CONDEMNED: PackState.RETIRED,
    Severity.ASIDE: PackState.SET_ASIDE,
    Severity.WATCH: PackState.WATCH,
}


@dataclass(frozen=True, slots=True, kw_only=True)
class InspectionPoint:
    """One thing to look at: its name, how, the words of its fault, what that does, what puts it right."""

    id: str
    title: str
    how: str
    fault: str
    severity: Severity
    remedy: str = ""
    lithium: bool = False


INSPECTION_POINTS = (
    InspectionPoint(id="swelling", title="Table test: swelling", severity=Severity.CONDEMNED, lithium=True,
         how="Lay the flat or clipped-on side on a table and try to rock it: any pivot is a bulge.",
         fault="It rocks on the table: swollen", remedy="Never flown again."),
    InspectionPoint(id="smell", title="Smell", severity=Severity.CONDEMNED, lithium=True,
         how="A sweet smell is a leaking cell.", fault="It smells sweet: a cell leaks", remedy="Never flown again."),
    InspectionPoint(id="puncture", title="Dents, holes, wet spots", severity=Severity.CONDEMNED,
         how="Turn it over; corners and the side that faces the nose.", fault="It is punctured, dented or leaking",
         remedy="Never flown again."),
    InspectionPoint(id="crash", title="Crash", severity=Severity.ASIDE,
         how="Was it in a crash or a fall since it was last looked at?",
         fault="It was in a crash", remedy=lithium.SET_ASIDE),
    InspectionPoint(id="heat", title="Heat", severity=Severity.ASIDE,
         how="By hand, at rest: it is as warm as the room.", fault="It is warm at rest",
         remedy=lithium.SET_ASIDE),
    InspectionPoint(id="wrap", title="Wrap and leads", severity=Severity.ASIDE,
         how="Wrap whole; leads and balance wires whole down to the solder.", fault="A lead or the wrap is damaged",
         remedy="New wrap, new plug or a new lead before it flies."),
    InspectionPoint(id="contacts", title="Contacts", severity=Severity.ASIDE,
         how="Bright and springy, no corrosion, no burn marks.", fault="Contacts are burnt or corroded",
         remedy="Brush them clean; a burnt plug is replaced."),
    InspectionPoint(id="latch", title="Latch or strap", severity=Severity.ASIDE,
         how="Push it home: held, no gap; push it back to test.", fault="It does not stay home",
         remedy="A pack that creeps out ejects in flight: mark it and retire it, or a new strap for a strapped one."),
    InspectionPoint(id="label", title="Label", severity=Severity.WATCH,
         how="Legible, and the one in this book.", fault="The label cannot be read", remedy="Write it again."),
)  # fmt: skip
"""By eye, hand and nose. Source: common practice, no source; what is set aside and what is watched is our choice."""


@dataclass(frozen=True, slots=True, kw_only=True)
class Seen:
    """The outcome of an inspection: the state that follows, the faults in words, what to do, whether it is for good."""

    state: PackState
    faults: tuple[str, ...]
    condemned: bool
    caution: str = ""


def looks(chemistry: Chemistry) -> tuple[InspectionPoint, ...]:
    """What is looked at on a pack of this chemistry. Source: ``INSPECTION_POINTS``."""
    return tuple(look for look in INSPECTION_POINTS if is_lithium(chemistry) or not look.lithium)


def outcome(pack: Pack, bad: Mapping[str, bool]) -> Seen:
    """What follows from an inspection: ``bad`` says of each look whether its fault was seen.

    The worst fault decides; a sound look never improves the state by itself: that is a change with a reason.
    Source: a swollen, punctured, leaking or sweet-smelling pack is never flown again; common practice, no source.
    """
    found = [look for look in looks(pack.chemistry) if bad.get(look.id)]
    order = list(PackState)
    state = max((_STATE[look.severity] for look in found), key=order.index, default=pack.state)
    state = max(state, pack.state, key=order.index)
    condemned = any(look.severity is Severity.CONDEMNED for look in found)
    return Seen(
        state=state,
        faults=tuple(look.fault for look in found),
        condemned=condemned,
        caution=lithium.NEVER_AGAIN if condemned and is_lithium(pack.chemistry) else "",
    )
