"""What is known of one pack in short: charge, cycles, spread, temperature, and how it ages."""

import heapq
from collections.abc import Sequence
from datetime import datetime, timedelta

from walkround.core.base.clock import is_ahead
from walkround.core.base.value import Value
from walkround.core.packs import charge
from walkround.core.packs.charge import ChargeRange
from walkround.core.packs.health import Flown, Health, charge_then, wear
from walkround.core.packs.pack import Pack
from walkround.core.packs.reading import After, Reading

FULL_FROM_PERCENT = 80.0
"""From here on a lithium pack counts as full for its ageing. Source: our choice; common practice, no source."""
FELT_HOURS = 2.0
"""How long a temperature reading says something. Source: our choice."""


class Summary(Value):
    """What is known of a pack by its readings and flights, in short. Charge in per cent as it was at ``charge_at``.

    Times are aware. ``cycles``: charges in all. ``full_at``: when it was last charged full, None when it was used since.
    ``imbalance_v``, ``temperature_c`` as last read; ``weakest_v``, ``highest_v``, ``mean_v``: cells in V as last read, unless
    volts were read later, the mean alone where only a total is known. ``state_of_health``: usable capacity over the label, and its change in
    per cent of the label a month, None while that is no trend; ``mohm``: resistance of a cell at 25 °C, ``mohm_times``
    over its first readings.
    """

    cycles: int = 0
    readings: int = 0
    charge: ChargeRange | None = None
    charge_at: datetime | None = None
    full_at: datetime | None = None
    charged_at: datetime | None = None
    flown_at: datetime | None = None
    looked_at: datetime | None = None
    imbalance_v: float | None = None
    weakest_v: float | None = None
    highest_v: float | None = None
    mean_v: float | None = None
    temperature_c: float | None = None
    temperature_at: datetime | None = None
    state_of_health: float | None = None
    capacity_month_percent: float | None = None
    mohm: float | None = None
    mohm_times: float | None = None

    @property
    def weakest_at_best_v(self) -> float | None:
        """The weakest cell in V as last read; where only a total is known its mean, which the weakest cannot exceed."""
        return self.weakest_v if self.weakest_v is not None else self.mean_v

    def is_ahead(self, now: datetime) -> bool:
        """Whether it was made of readings or flights that are dated ahead of the clock, which says nothing of now."""
        return self.looked_at is not None and is_ahead(self.looked_at, now)

    def charge_now(self, pack: Pack, now: datetime) -> ChargeRange | None:
        """Charge in per cent after standing until now, or None. Source: ``charge.standing``."""
        if self.charge is None or self.charge_at is None:
            return None
        return charge.standing(self.charge, self.charge_at, now, pack.chemistry)

    def percent_now(self, pack: Pack, now: datetime) -> float | None:
        """The middle of ``charge_now`` alone, in per cent."""
        if self.charge is None or self.charge_at is None:
            return None
        return max(0.0, self.charge.mid - charge.lost_percent(self.charge_at, now, pack.chemistry))

    def felt_c(self, now: datetime) -> float | None:
        """Temperature in °C if it was read lately, else None. Source: ``FELT_HOURS``."""
        if self.temperature_at is None or now - self.temperature_at > timedelta(hours=FELT_HOURS):
            return None
        return self.temperature_c


def at_of(mark: Flown | Reading) -> datetime:
    """When it was flown or read."""
    return mark.at


def summarise(pack: Pack, readings: Sequence[Reading], flights: Sequence[Flown], aged: Health | None = None) -> Summary:
    """A summary from all readings and flights, both oldest first (aware times). ``aged``: its health if it is at hand.

    Source: the newest word on each thing counts.
    """
    aged = aged or wear(pack, readings, flights)
    line = aged.capacity.line
    newest_first: Sequence[Flown | Reading] = readings[::-1]
    marks = heapq.merge(newest_first, sorted(flights, key=at_of, reverse=True), key=at_of, reverse=True)
    newest, charge_at, full_at = None, None, None
    for mark in marks:
        held = charge_then(pack, mark)
        if held is None:
            continue
        if newest is None:
            newest, charge_at = held, mark.at
        if held.mid < FULL_FROM_PERCENT:
            break
        full_at = mark.at  # full since the first of the words that say so without a break
    charged = [r.at for r in readings if r.after is After.CHARGE or r.recharged_mah is not None]
    cells = next((r for r in reversed(readings) if len(r.cells_v) > 1), None)
    volts = next((r for r in reversed(readings) if r.mean_v(pack) is not None), None)
    fresh = volts is not None and volts.cells_v != ()
    mean_v = None if volts is None else volts.mean_v(pack)
    felt = next((r for r in reversed(readings) if r.temperature_c is not None), None)
    everything = [r.at for r in readings] + [f.at for f in flights]
    return Summary(
        cycles=pack.cycles_before + len(charged),
        readings=len(readings),
        charge=newest,
        charge_at=charge_at,
        full_at=full_at,
        charged_at=charged[-1] if charged else None,
        flown_at=flights[-1].at if flights else None,
        looked_at=max(everything, default=None),
        imbalance_v=cells.imbalance_v() if cells else None,
        weakest_v=min(volts.cells_v) if volts is not None and fresh else None,
        highest_v=max(volts.cells_v) if volts is not None and fresh else mean_v,
        mean_v=mean_v,
        temperature_c=felt.temperature_c if felt else None,
        temperature_at=felt.at if felt else None,
        state_of_health=aged.state_of_health(pack),
        capacity_month_percent=None if line is None or line.few else 100 * line.slope * 30 / pack.capacity_mah,
        mohm=aged.resistance.current(),
        mohm_times=aged.resistance_times(),
    )
