"""The plan for the charger: how long each pack takes, what may go in parallel, and the order that is ready first."""

import math
from collections.abc import Sequence
from itertools import combinations, permutations
from typing import Annotated

from walkround.core.base.errors import InputError
from walkround.core.base.struct import Struct
from walkround.core.base.value import Allowed, Value
from walkround.core.packs import lithium
from walkround.core.packs.chemistry import CELLS, Chemistry, resting_v
from walkround.core.packs.load import WARM_C, cell_mohm
from walkround.core.packs.pack import Pack, PackState

TAPER_C = 0.1
"""The charger stops when the current has fallen to this share of the capacity (1/h). Source: common practice."""
BALANCE_MIN = 8.0
"""Balancing and swapping leads, for each job of more than one cell, in minutes. Source: our choice."""
NICKEL_EXTRA = 1.2
"""Nickel takes this much more charge than it stores (no unit). Source: from memory; common practice, no source."""
CLOSE_V = 0.05
"""Packs joined in parallel rest at most this far apart, in V a cell. Source: our choice; common practice, no source."""
ATTENDED = f"{lithium.CHARGE_ATTENDED} {lithium.CHARGER_SETTINGS}"
"""The caution that stands with every plan. Source: ``lithium``."""
_TRY_ALL, _TRIES = 5, 120


class Charger(Value):
    """A charger: outlets, the most current (A) and power (W) of one, of all together (W), packs on a parallel board."""

    name: Annotated[str, Allowed(max_length=40)] = ""
    channels: Annotated[int, Allowed(ge=1, le=8)] = 1
    channel_a: Annotated[float, Allowed(gt=0, le=60)] = 5.0
    channel_w: Annotated[float, Allowed(gt=0, le=3_000)] = 50.0
    total_w: Annotated[float, Allowed(gt=0, le=6_000)] = 50.0
    parallel: Annotated[int, Allowed(ge=1, le=8)] = 1
    rate_c: Annotated[float, Allowed(gt=0, le=6)] = 1.0


class ChargeRequest(Struct, frozen=True, kw_only=True):
    """One pack to charge: from and to in per cent, ``rate_c`` in multiples of the capacity (1/h), resting V a cell."""

    pack: Pack
    from_percent: float
    to_percent: float
    rate_c: float
    rest_v: float | None = None

    def cell_v(self) -> float:
        """Resting voltage of a cell in V: as read, else from the charge. Source: ``chemistry.resting_v``."""
        return resting_v(self.from_percent, self.pack.chemistry) if self.rest_v is None else self.rest_v


class Job(Struct, frozen=True, kw_only=True):
    """One job of an outlet: packs charged together, current in A, power in W at its end, minutes."""

    requests: tuple[ChargeRequest, ...]
    current_a: float
    watts: float
    minutes: float

    @property
    def labels(self) -> str:
        """The packs by their labels."""
        return " + ".join(request.pack.label for request in self.requests)


class ChargeSlot(Struct, frozen=True, kw_only=True):
    """A job in its place: outlet (1 is the first), start and end in minutes from the start of the plan."""

    job: Job
    channel: int
    start_min: float
    end_min: float


class Schedule(Struct, frozen=True, kw_only=True):
    """The plan: its slots in order of start, and when all is ready, in minutes."""

    slots: tuple[ChargeSlot, ...]
    ready_min: float


def charge_min(
    chemistry: Chemistry,
    capacity_mah: float,
    from_percent: float,
    to_percent: float,
    current_a: float,
    mohm: float,
) -> tuple[float, float]:
    """Minutes at constant current and at constant voltage to charge one cell (mΩ) of a capacity (mAh) with a current (A).

    Constant current until the cell with its drop reaches the chemistry's end voltage, then the current falls as the
    resting voltage rises; straight pieces of the resting curve make each piece an exponential. Ends at the target or when
    the current has fallen to a tenth of the capacity. Nickel: constant current throughout, with what it wastes.
    Raises InputError for a current that is not above 0. Source: Ohm and the resting curve (from memory).
    """
    if current_a <= 0:
        raise InputError("A charging current must be above zero.", "rate_c")
    ah = capacity_mah / 1000
    if to_percent <= from_percent:
        return 0.0, 0.0
    if chemistry is Chemistry.NIMH:
        return 60 * NICKEL_EXTRA * ah * (to_percent - from_percent) / 100 / current_a, 0.0
    kind, ohm = CELLS[chemistry], mohm / 1000
    knots = sorted(
        {from_percent, to_percent, *(p for _, p in kind.curve if from_percent + 1e-6 < p < to_percent - 1e-6)}
    )
    cc_h = cv_h = 0.0
    stop_a = min(TAPER_C * ah, current_a)
    for low, high in zip(knots, knots[1:], strict=False):
        v_low, v_high = resting_v(low, chemistry), resting_v(high, chemistry)
        piece_ah = ah * (high - low) / 100
        slope = (v_high - v_low) / piece_ah
        turn_v = kind.charge_to_v - current_a * ohm
        part_cc = min(1.0, max(0.0, (turn_v - v_low) / (v_high - v_low))) if v_high > v_low else float(v_low <= turn_v)
        cc_h += part_cc * piece_ah / current_a
        if part_cc >= 1:
            continue
        begin_v = v_low + part_cc * (v_high - v_low)
        end_v = min(v_high, kind.charge_to_v - stop_a * ohm)
        if end_v <= begin_v:
            break
        cv_h += ohm / slope * math.log((kind.charge_to_v - begin_v) / (kind.charge_to_v - end_v))
        if end_v < v_high:
            break
    return 60 * cc_h, 60 * cv_h


def job_of(requests: Sequence[ChargeRequest], charger: Charger) -> Job:
    """The job that charges packs (of one kind) together: current (A) as the slowest asks, within the charger's limits.

    Source: current and power of the charger; ``charge_min``.
    """
    first = requests[0].pack
    kind = CELLS[first.chemistry]
    volts = kind.charge_to_v * first.cells
    wanted = sum(
        min(request.rate_c, 1.0 if request.pack.state is PackState.MONITOR else request.rate_c)
        * request.pack.capacity_mah
        / 1000
        for request in requests
    )
    current = min(wanted, charger.channel_a, min(charger.channel_w, charger.total_w) / volts)
    capacity = sum(request.pack.capacity_mah for request in requests)
    mohm = 1 / sum(1 / cell_mohm(request.pack, None, WARM_C) for request in requests)
    low, high = min(request.from_percent for request in requests), max(request.to_percent for request in requests)
    minutes = sum(charge_min(first.chemistry, capacity, low, high, current, mohm))
    if first.cells > 1 and minutes > 0:
        minutes += BALANCE_MIN
    return Job(requests=tuple(requests), current_a=current, watts=current * volts, minutes=minutes)


def together(one: ChargeRequest, other: ChargeRequest) -> bool:
    """Whether two packs may be charged in parallel (V): same chemistry, cells and target, close voltage, lithium, in service.

    Source: only equal kind and close voltage; common practice, no source; 0.05 V a cell our choice.
    """
    a, b = one.pack, other.pack
    alike = (a.chemistry, a.cells, one.to_percent) == (b.chemistry, b.cells, other.to_percent)
    calm = a.state == "in service" and b.state == "in service" and not a.smart and not b.smart
    size = max(a.capacity_mah, b.capacity_mah) <= 1.5 * min(a.capacity_mah, b.capacity_mah)
    return (
        alike and calm and size and a.chemistry is not Chemistry.NIMH and abs(one.cell_v() - other.cell_v()) <= CLOSE_V
    )


def grouped(requests: Sequence[ChargeRequest], charger: Charger) -> list[list[ChargeRequest]]:
    """Packs put together for the parallel board (V): neighbours in voltage of one kind, as many as the board holds.

    Source: ``together``.
    """
    left = sorted(requests, key=lambda request: (request.pack.chemistry, request.pack.cells, request.cell_v()))
    groups: list[list[ChargeRequest]] = []
    for request in left:
        last = groups[-1] if groups else None
        if last is not None and len(last) < charger.parallel and all(together(other, request) for other in last):
            last.append(request)
        else:
            groups.append([request])
    return groups


_Run = list[tuple[float, float, int, Job]]  # start, end, outlet, job


def _run(jobs: Sequence[Job], charger: Charger, latest: float = math.inf) -> _Run | None:
    """Jobs in this order, each on the outlet that is free first and as soon as there is power enough; None as soon as one is ready
    after ``latest`` (min)."""
    free, enough = [0.0] * charger.channels, charger.total_w + 1e-6
    run: _Run = []
    alive: list[tuple[float, float, float]] = []  # begin, end, watts of what may still run when the next begins
    for job in jobs:
        start = min(free)
        channel = free.index(start)
        alive = [one for one in alive if one[1] > start]  # outlets only get free later: what is over stays over
        if sum([one[2] for one in alive]) + job.watts > enough:
            while running := [one for one in alive if one[0] <= start + 1e-9 < one[1] - 1e-9]:
                if sum([one[2] for one in running]) + job.watts <= enough:
                    break
                start = min(one[1] for one in running)
        end = start + job.minutes
        if end > latest:
            return None
        free[channel] = end
        alive.append((start, end, job.watts))
        run.append((start, end, channel + 1, job))
    return run


def _worth(run: _Run) -> tuple[float, float]:
    """When all is ready, then when the packs are on the whole (minutes, without the last digits of a sum)."""
    ends = [end for _, end, _, _ in run]
    return round(max(ends, default=0.0), 6), round(sum(ends), 6)


def plan_charging(requests: Sequence[ChargeRequest], charger: Charger) -> Schedule:
    """The order that is ready earliest, and of those the one whose packs are ready earliest on the whole (minutes).

    All orders are tried for up to five jobs; beyond that longest first, then better by exchanging two at a time for as
    many tries as are quick. Power of all outlets together is never exceeded.
    Source: list scheduling, longest first (Graham 1969, from memory).
    """
    jobs = [job_of(group, charger) for group in grouped(requests, charger)]
    if len(jobs) <= _TRY_ALL:
        best = min((_run(order, charger) or [] for order in permutations(jobs)), key=_worth)
    else:
        order = sorted(jobs, key=lambda job: -job.minutes)
        best = _run(order, charger) or []
        worth, left = _worth(best), _TRIES
        better = True
        while better and left > 0:
            better = False
            for i, j in combinations(range(len(order)), 2):
                order[i], order[j] = order[j], order[i]
                tried = _run(order, charger, worth[0] + 1e-6)
                left -= 1
                if tried is not None and _worth(tried) < worth:
                    best, worth, better = tried, _worth(tried), True
                else:
                    order[i], order[j] = order[j], order[i]
                if left <= 0:
                    break
    slots = [ChargeSlot(job=job, channel=channel, start_min=start, end_min=end) for start, end, channel, job in best]
    return Schedule(
        slots=tuple(sorted(slots, key=lambda s: (s.start_min, s.channel))),
        ready_min=max((end for _, end, _, _ in best), default=0.0),
    )
