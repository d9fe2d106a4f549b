"""How a pack ages: usable capacity, resistance and spread over time, and when a limit will be reached."""

from collections.abc import Sequence
from datetime import datetime, timedelta

from msgspec.structs import replace

from walkround.core.base.struct import Struct
from walkround.core.packs import charge
from walkround.core.packs.load import resistance_factor
from walkround.core.packs.pack import Pack
from walkround.core.packs.reading import After, Reading
from walkround.core.packs.trend import Reach, Trend, reach, trend

DEEP_POINTS = 30.0
"""A charge that follows less use than this says nothing of the capacity. Source: our choice."""
VAGUE = 0.25
"""An estimate less certain than this share is left out. Source: our choice."""
KEPT_POINTS = 80
"""Points kept for drawing. Source: our choice."""
IMBALANCE_LIMIT_V = 0.10
"""Where the spread ends a pack. Source: our choice; common practice, no source."""


class Flown(Struct, frozen=True, kw_only=True):
    """What a flight left in the pack: when it landed, per cent left or None, volts left (total) or None, minutes."""

    at: datetime
    minutes: float
    left_percent: float | None = None
    left_v: float | None = None


class Sample(Struct, frozen=True, kw_only=True):
    """One value of a series at its time."""

    at: datetime
    value: float


class Series(Struct, frozen=True, kw_only=True):
    """A measured quantity over time (mAh, mΩ or V): how many values, the newest, its line, and points to draw."""

    count: int = 0
    latest: float | None = None
    first: float | None = None
    last_at: datetime | None = None
    line: Trend | None = None
    points: tuple[Sample, ...] = ()

    def current(self) -> float | None:
        """The value now, in the unit of the series: on the line where there is one, else the newest."""
        return self.line.now if self.line is not None and not self.line.few else self.latest


class Health(Struct, frozen=True, kw_only=True):
    """What is known of a pack over time. Capacity in mAh, resistance in mΩ a cell at 25 °C, spread in V."""

    capacity: Series = Series()
    resistance: Series = Series()
    imbalance: Series = Series()

    def state_of_health(self, pack: Pack) -> float | None:
        """Usable capacity as a share of the label, or None while nothing was put back."""
        now = self.capacity.current()
        return None if now is None else now / pack.capacity_mah

    def resistance_times(self) -> float | None:
        """How many times its first readings the resistance is now, or None with fewer than four."""
        now, first = self.resistance.current(), self.resistance.first
        return now / first if self.resistance.count >= 4 and first and now is not None else None


class Outlook(Struct, frozen=True, kw_only=True):
    """When a limit is reached: the dates (UTC days), None where not in sight; ``there``: reached already."""

    limit: float
    likely: datetime | None = None
    early: datetime | None = None
    late: datetime | None = None
    there: bool = False


def left_in(pack: Pack, left_percent: float | None, left_v: float | None) -> charge.ChargeRange | None:
    """What a flight left in the pack in per cent, as a range, from per cent or V as logged; None when neither was.

    Source: ``charge.from_percent``, ``charge.from_volts``.
    """
    if left_percent is not None:
        return charge.from_percent(left_percent)
    if left_v is None:
        return None
    return charge.from_volts(left_v / pack.cells, pack.chemistry, after=After.FLIGHT, since_min=10)


def capacities(pack: Pack, readings: Sequence[Reading], flights: Sequence[Flown]) -> list[tuple[datetime, float]]:
    """Usable capacity in mAh from every charge that was noted: what was put back over what had been used.

    What was used is full less what the last flight or reading before the charge left. Charges after less than 30 points
    of use, and those whose start is too vague, are left out. Both sequences oldest first.
    """
    found: list[tuple[datetime, float]] = []
    charges = [(reading, mah) for reading in readings if (mah := reading.recharged_mah) is not None]
    if not charges:
        return found
    marks: list[Flown | Reading] = [*flights, *(r for r in readings if r.recharged_mah is None)]
    marks.sort(key=lambda mark: mark.at)
    index = 0
    for reading, recharged_mah in charges:
        since = index
        while index < len(marks) and marks[index].at <= reading.at:
            index += 1
        # The newest word before the charge counts; only it is worked out.
        charge = (charge_then(pack, mark) for mark in reversed(marks[since:index]))
        left = next((range_ for range_ in charge if range_ is not None), None)
        if left is not None:
            to = reading.percent if reading.percent is not None else 100.0
            used = to - left.mid
            if used >= DEEP_POINTS and left.width / 2 / used <= VAGUE:
                found.append((reading.at, recharged_mah / (used / 100)))
    return found


def charge_then(pack: Pack, mark: Flown | Reading) -> charge.ChargeRange | None:
    """What a pack held after a flight or a reading, in per cent; None when it says nothing of it. Source: ``charge``."""
    if isinstance(mark, Flown):
        return left_in(pack, mark.left_percent, mark.left_v)
    known = charge.from_reading(mark, pack)
    return charge.FULL if known is None and mark.recharged_mah is not None else known


def series(points: Sequence[tuple[datetime, float]]) -> Series:
    """A series with its line from (aware time, value), oldest first, in the unit of its values. Source: ``trend``."""
    if not points:
        return Series()
    zero = points[0][0]
    days = [(at - zero).total_seconds() / 86_400 for at, _ in points]
    values = [value for _, value in points]
    step = max(1, -(-len(points) // KEPT_POINTS))
    kept = points[::-step][::-1]
    early = sorted(values[:3])
    return Series(
        count=len(points),
        latest=values[-1],
        first=early[len(early) // 2],
        last_at=points[-1][0],
        line=trend(days, values),
        points=tuple(Sample(at=at, value=round(value, 4)) for at, value in kept),
    )


def health(pack: Pack, readings: Sequence[Reading], flights: Sequence[Flown]) -> Health:
    """Everything known of a pack over time, from its readings and flights, both oldest first (mAh, mΩ, V).

    Source: ``wear``, ``trend``.
    """
    imbalances = ((reading.at, reading.imbalance_v()) for reading in readings)
    return replace(wear(pack, readings, flights), imbalance=series([(at, v) for at, v in imbalances if v is not None]))


def wear(pack: Pack, readings: Sequence[Reading], flights: Sequence[Flown]) -> Health:
    """What the summary of a pack needs of its health: capacity and resistance, and no series of its imbalance.

    Resistances are brought to 25 °C where the temperature was read. Source: ``capacities``, ``trend``.
    """
    resistances = []
    for reading in readings:
        mohm = reading.cell_mohm(pack)
        if mohm is not None:
            warm = 1.0 if reading.temperature_c is None else resistance_factor(reading.temperature_c)
            resistances.append((reading.at, mohm / warm))
    return Health(capacity=series(capacities(pack, readings, flights)), resistance=series(resistances))


def outlook(measured: Series, limit: float, *, falling: bool) -> Outlook | None:
    """When a series reaches a limit in its own unit (dates); None while there are too few readings to say.

    Source: ``trend.reach``.
    """
    if measured.line is None or measured.line.few or measured.last_at is None:
        return None
    found: Reach = reach(measured.line, limit, falling=falling)
    last = measured.last_at

    def day(days: float | None) -> datetime | None:
        return None if days is None else last + timedelta(days=days)

    return Outlook(
        limit=limit, likely=day(found.likely), early=day(found.early), late=day(found.late), there=found.likely == 0
    )
