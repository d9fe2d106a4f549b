"""A pack: what it is, what it is for, which aircraft it fits, and the state it is in."""

from datetime import date, datetime
from enum import StrEnum
from typing import Annotated

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Trait
from walkround.core.base.value import Allowed, Value
from walkround.core.packs.chemistry import CELLS, Chemistry


class PackUse(StrEnum):
    """What a pack drives."""

    FLIGHT = "flight"
    TRANSMITTER = "transmitter"
    GOGGLES = "goggles"
    PHONE = "phone or tablet"
    RECEIVER = "receiver"


class PackState(StrEnum):
    """Where a pack stands in its life, the best first."""

    IN_SERVICE = "in service"
    MONITOR = "monitor"
    QUARANTINED = "quarantined"
    RETIRED = "retired"


STATE_WORDS = {
    PackState.IN_SERVICE: "flies",
    PackState.MONITOR: "may fly; check it carefully each time",
    PackState.QUARANTINED: "grounded until inspected",
    PackState.RETIRED: "never flies again",
}
"""What each state means. Source: our choice."""


class StateChange(Value):
    """One change of state: to what, when, why. ``condemned``: it can never come back."""

    state: PackState
    at: datetime
    reason: Annotated[str, Allowed(min_length=1, max_length=300)]
    condemned: bool = False


class Pack(Value):
    """One pack: cells in series, capacity in mAh, discharge rating in multiples of the capacity (1/h), mass in g.

    ``together``: so many packs fly together as one set, kept and charged together; cells, capacity and mass are those of the set as it is wired,
    and its readings too. ``cycles_before``: charges it had before this book. ``bought``: the day it was bought. ``mark``: what is written on
    it as a warning. ``only_for``: numbers of the aircraft it fits; empty: every one that wants as many cells.
    ``condemned``: out for good, because it was swollen, punctured, leaking or smelt; nothing brings it back.
    """

    id: int = 0
    label: Annotated[str, Allowed(min_length=1, max_length=20)]
    use: PackUse = PackUse.FLIGHT
    chemistry: Chemistry = Chemistry.LIPO
    cells: Annotated[int, Allowed(ge=1, le=14)]
    together: Annotated[int, Allowed(ge=1, le=4)] = 1
    capacity_mah: Annotated[float, Allowed(gt=0, le=60_000)]
    c_rate: Annotated[float | None, Allowed(gt=0, le=300)] = None
    mass_g: Annotated[float | None, Allowed(gt=0, le=20_000)] = None
    connector: Annotated[str, Allowed(max_length=30)] = ""
    bought: date | None = None
    cycles_before: Annotated[int, Allowed(ge=0, le=5_000)] = 0
    firmware: Annotated[str, Allowed(max_length=40)] = ""
    mark: Annotated[str, Allowed(max_length=60)] = ""
    smart: bool = False
    only_for: frozenset[int] = frozenset()
    charged_at: datetime | None = None
    state: PackState = PackState.IN_SERVICE
    condemned: bool = False

    @property
    def retired(self) -> bool:
        """Whether it is retired."""
        return self.state is PackState.RETIRED

    @property
    def usable(self) -> bool:
        """Whether it may be chosen for a flight: in service or watched."""
        return self.state in (PackState.IN_SERVICE, PackState.MONITOR)

    @property
    def numbers(self) -> range:
        """Numbers of its cells, from 1."""
        return range(1, self.cells + 1)

    @property
    def cells_words(self) -> str:
        """Its cells and chemistry in words."""
        if self.chemistry is Chemistry.UNKNOWN:
            return f"{self.cells} cells, chemistry not known" if self.cells > 1 else "1 cell, chemistry not known"
        return f"{self.cells} × {self.chemistry}"

    def fits(self, aircraft: Aircraft) -> bool:
        """Whether it goes into this aircraft: a flight pack with its cells, smart or plain as it wants, and
        one of those it is kept for, if it is kept for any."""
        if self.use is not PackUse.FLIGHT or (self.only_for and aircraft.id not in self.only_for):
            return False
        return self.cells == aircraft.cells and self.smart == aircraft.has(Trait.SMART_PACK)

    def age_years(self, today: date) -> float | None:
        """Years since it was bought, on a date; None where that is not known. Source: calendar."""
        return None if self.bought is None else max(0.0, (today - self.bought).days / 365.25)

    def energy_wh(self) -> float:
        """Energy in Wh of a full pack on the label: capacity times the usual cell voltage."""
        return self.capacity_mah / 1000 * self.cells * CELLS[self.chemistry].nominal_v
