"""Looking a pack over by eye, hand and nose: what each fault means for it."""

from collections.abc import Mapping
from enum import StrEnum

from walkround.core.base.struct import Struct
from walkround.core.packs import lithium
from walkround.core.packs.chemistry import Chemistry, is_lithium
from walkround.core.packs.pack import Pack, PackState


class Severity(StrEnum):
    """What a fault does to the pack."""

    CONDEMNED = "retired for good"
    QUARANTINED = "quarantined"
    MONITOR = "monitor"


_STATE = {
    Severity.CONDEMNED: PackState.RETIRED,
    Severity.QUARANTINED: PackState.QUARANTINED,
    Severity.MONITOR: PackState.MONITOR,
}


class InspectionPoint(Struct, frozen=True, kw_only=True):
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
         how="Lay it on a flat table and press opposite corners: a swollen pack rocks.",
         fault="It rocks on the table: swollen", remedy="It must never fly again."),
    InspectionPoint(id="smell", title="Smell", severity=Severity.CONDEMNED, lithium=True,
         how="A sweet smell means a leaking cell.", fault="It smells sweet: a cell leaks", remedy="It must never fly again."),
    InspectionPoint(id="puncture", title="Dents, holes, wet spots", severity=Severity.CONDEMNED,
         how="Turn it over and check corners and the front side.", fault="It is punctured, dented or leaking",
         remedy="It must never fly again."),
    InspectionPoint(id="crash", title="Crash", severity=Severity.QUARANTINED,
         how="Was it in a crash or dropped since the last inspection?",
         fault="It was in a crash", remedy=lithium.SET_ASIDE),
    InspectionPoint(id="heat", title="Heat", severity=Severity.QUARANTINED,
         how="Feel it by hand: at rest it is as warm as the room.", fault="It is warm at rest",
         remedy=lithium.SET_ASIDE),
    InspectionPoint(id="wrap", title="Wrap and leads", severity=Severity.QUARANTINED,
         how="Check wrap, leads and balance wires down to the solder.", fault="A lead or the wrap is damaged",
         remedy="Replace wrap, connector or lead before it flies."),
    InspectionPoint(id="contacts", title="Contacts", severity=Severity.QUARANTINED,
         how="Check for corrosion and burn marks.", fault="Contacts are burnt or corroded",
         remedy="Brush them clean. Replace a burnt connector."),
    InspectionPoint(id="latch", title="Latch or strap", severity=Severity.QUARANTINED,
         how="Latch it without a gap and pull to test.", fault="It does not latch securely",
         remedy="A pack that comes loose falls out in flight. Mark and retire it, or fit a new strap."),
    InspectionPoint(id="label", title="Label", severity=Severity.MONITOR,
         how="Legible, and the one on record.", fault="The label cannot be read", remedy="Relabel it."),
)  # fmt: skip
"""By eye, hand and nose. Source: common practice, no source; what is set aside and what is watched is our choice."""


class Seen(Struct, frozen=True, kw_only=True):
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
