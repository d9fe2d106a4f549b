"""What each pack needs now, which one flies next, and which go to storage charge after a flying day."""

from collections.abc import Iterable
from datetime import datetime
from enum import StrEnum
from functools import lru_cache

from walkround.core.base.finding import Level
from walkround.core.base.phrase import Phrase, day, percent, ratio, temperature, volt
from walkround.core.base.struct import Struct
from walkround.core.base.wording import lower_first, plural
from walkround.core.packs import lithium
from walkround.core.packs.bands import IMBALANCE_CAUTION_V, IMBALANCE_GOOD_V, IMBALANCE_GROUND_V
from walkround.core.packs.charge import ChargeRange
from walkround.core.packs.chemistry import CELLS, Chemistry, charge_percent, is_lithium
from walkround.core.packs.pack import Pack, PackState
from walkround.core.packs.summary import Summary
from walkround.core.pilot.limits import Limits

HOT_C, COLD_C = 45.0, 10.0
"""Hotter rests before anything else, colder flies last. Source: common practice, no source."""


class PackTask(StrEnum):
    """What to do with a pack, the most urgent first."""

    DISPOSE = "dispose of"
    KEEP_AWAY = "leave"
    REST = "let cool"
    RAISE = "charge a little"
    STORE = "to storage"
    BALANCE = "balance charge"
    RETIRE = "consider retiring"
    LOOK = "inspect"
    CHARGE = "charge"
    WARM = "warm"
    FLY = "ready"
    KEEP = "stored"


class PackNeed(Struct, frozen=True, kw_only=True):
    """What a pack needs now: the deed, how bad, in words, and the caution where it can hurt."""

    task: PackTask
    level: Level
    words: Phrase
    caution: str = ""


def _days(since: datetime | None, now: datetime) -> float:
    return 0.0 if since is None else max(0.0, (now - since).total_seconds() / 86_400)


PackNow = tuple[Pack, Summary, ChargeRange | None]
"""A pack, what is known of it, and what it holds now."""


def need(
    pack: Pack,
    known: Summary,
    charge: ChargeRange | None,
    now: datetime,
    limits: Limits,
    *,
    reason: str = "",
    snag: str = "",
    air_c: float | None = None,
) -> PackNeed:
    """What one pack needs now, the most urgent first (inside units). ``charge``: its charge by now; ``reason``: why its state is what it is; ``snag``:
    words of an open grounding snag; ``air_c``: temperature of the air in °C if known.

    Source: storage, idle and full days as the pilot's limits say; common practice, no source.
    """
    return (
        grounding(pack, known, now, reason=reason, snag=snag)
        or _by_charge(pack, known, charge, now, limits)
        or _by_age(known, now, limits)
        or _ready(pack, known, charge, now, air_c)
    )


def grounding(pack: Pack, known: Summary, now: datetime, *, reason: str = "", snag: str = "") -> PackNeed | None:
    """Why a pack must not fly now by its state, snags and readings, whatever its charge; None when nothing is against it.

    ``now`` is aware; the rest as ``need``, of which it is the first part. Source: ``lithium``, ``bands``.
    """
    return _by_state(pack, reason, snag) or _too_hot(known.felt_c(now)) or _by_readings(pack, known)


def _by_state(pack: Pack, reason: str = "", snag: str = "") -> PackNeed | None:
    if pack.condemned:
        return PackNeed(
            task=PackTask.DISPOSE,
            level=Level.GROUNDED,
            words=Phrase(text=f"Retired for good: {_lower(reason) or 'it is not safe'}."),
            caution=lithium.NEVER_AGAIN if is_lithium(pack.chemistry) else "",
        )
    if pack.state is PackState.RETIRED:
        return PackNeed(
            task=PackTask.KEEP_AWAY, level=Level.GROUNDED, words=Phrase(text=f"Retired: {_lower(reason) or 'by you'}.")
        )
    if pack.state is PackState.QUARANTINED:
        said = f"Quarantined: {_lower(reason) or 'by you'}. Inspect it before it flies."
        return PackNeed(task=PackTask.LOOK, level=Level.GROUNDED, words=Phrase(text=said))
    if snag:
        return PackNeed(task=PackTask.LOOK, level=Level.GROUNDED, words=Phrase(text=f"Open snag: {_lower(snag)}."))
    if pack.chemistry is Chemistry.UNKNOWN:
        words = Phrase(text="Its chemistry is not known: its voltage cannot be judged.")
        return PackNeed(task=PackTask.LOOK, level=Level.GROUNDED, words=words, caution=lithium.CHEMISTRY_UNKNOWN)
    return None


def _too_hot(felt: float | None) -> PackNeed | None:
    if felt is not None and felt > HOT_C:
        return PackNeed(
            task=PackTask.REST,
            level=Level.GROUNDED,
            words=Phrase.of("Hot, {felt}: let it cool first.", felt=temperature(felt)),
            caution=lithium.SET_ASIDE,
        )
    return None


def _by_readings(pack: Pack, known: Summary) -> PackNeed | None:
    bound_v = known.weakest_at_best_v
    if known.highest_v is not None and known.highest_v > lithium.overcharged_above_v(pack.chemistry):
        words = Phrase.of("A cell is at {v}: overcharged.", v=volt(known.highest_v))
        return PackNeed(task=PackTask.LOOK, level=Level.GROUNDED, words=words, caution=lithium.OVERCHARGED)
    if bound_v is not None and bound_v < lithium.hurt_below_v(pack.chemistry):
        low = "A cell is at {v}: too low, the cell is probably damaged. Measure it again; if it stays low, retire the pack."
        return PackNeed(
            task=PackTask.LOOK,
            level=Level.GROUNDED,
            words=Phrase.of(low, v=volt(bound_v)),
            caution=lithium.TOO_LOW,
        )
    if known.imbalance_v is not None and known.imbalance_v > IMBALANCE_GROUND_V:
        words = Phrase.of("Cells lie {imbalance} apart: a cell has dropped away.", imbalance=volt(known.imbalance_v))
        return PackNeed(task=PackTask.BALANCE, level=Level.GROUNDED, words=words)
    return None


def _by_charge(
    pack: Pack, known: Summary, charge: ChargeRange | None, now: datetime, limits: Limits
) -> PackNeed | None:
    """Too empty to keep, or full for too long."""
    if charge is None or CELLS[pack.chemistry].storage_v is None:
        return None
    if charge.mid < 15:
        words = Phrase.of("About {charge} left: charge it to storage charge today.", charge=percent(charge.mid))
        return PackNeed(task=PackTask.RAISE, level=Level.CAUTION, words=words)
    days = _days(known.full_at, now)
    if known.full_at is not None and days > limits.full_days:
        words = Phrase.of("Full for {days}: fly it, or discharge it to storage charge.", days=day(days))
        return PackNeed(task=PackTask.STORE, level=Level.CAUTION, words=words)
    return None


def _by_age(known: Summary, now: datetime, limits: Limits) -> PackNeed | None:
    """Worn, out of balance, or not looked at."""
    share = known.state_of_health
    if share is not None and 100 * share < limits.capacity_percent:
        words = Phrase.of(
            "{share} of rated capacity is left (min {limit}).",
            share=percent(100 * share),
            limit=percent(limits.capacity_percent),
        )
        return PackNeed(task=PackTask.RETIRE, level=Level.CAUTION, words=words)
    grown = known.mohm_times
    if grown is not None and grown > limits.resistance_times:
        words = Phrase.of("Internal resistance is {times} times the original: voltage will sag.", times=ratio(grown))
        return PackNeed(task=PackTask.RETIRE, level=Level.CAUTION, words=words)
    if known.imbalance_v is not None and known.imbalance_v > IMBALANCE_GOOD_V:
        level = Level.CAUTION if known.imbalance_v > IMBALANCE_CAUTION_V else Level.CLEAR
        return PackNeed(
            task=PackTask.BALANCE,
            level=level,
            words=Phrase.of("Cells differ by {v}: balance charge.", v=volt(known.imbalance_v)),
        )
    days = _days(known.looked_at, now)
    if known.looked_at is None:
        return PackNeed(task=PackTask.LOOK, level=Level.CAUTION, words=Phrase(text="No data yet: measure its cells."))
    if days > limits.look_days:
        return PackNeed(
            task=PackTask.LOOK, level=Level.CAUTION, words=Phrase.of("Not inspected for {days}.", days=day(days))
        )
    return None


def _ready(pack: Pack, known: Summary, charge: ChargeRange | None, now: datetime, air_c: float | None) -> PackNeed:
    kind = CELLS[pack.chemistry]
    if charge is None:
        return PackNeed(
            task=PackTask.LOOK,
            level=Level.CAUTION,
            words=Phrase(text="Its state of charge is not known: take a reading."),
        )
    if charge.mid >= min(90.0, charge_percent(kind.fly_v, pack.chemistry)):
        felt = known.felt_c(now)
        cold = felt if felt is not None else air_c
        if cold is not None and cold < COLD_C:
            words = Phrase.of("Charged, but at {cold} it sags under load: warm it in a pocket.", cold=temperature(cold))
            return PackNeed(task=PackTask.WARM, level=Level.CAUTION, words=words)
        return PackNeed(
            task=PackTask.FLY, level=Level.CLEAR, words=Phrase.of("Charged, {charge}.", charge=percent(charge.mid))
        )
    if kind.storage_v is not None:
        low, high = (charge_percent(v, pack.chemistry) for v in kind.storage_v)
        if low - 5 <= charge.mid <= high + 5:
            return PackNeed(
                task=PackTask.KEEP,
                level=Level.CLEAR,
                words=Phrase.of("At storage charge, {charge}.", charge=percent(charge.mid)),
            )
    words = Phrase.of("{charge} left: charge it to fly, or bring it to storage charge.", charge=percent(charge.mid))
    return PackNeed(task=PackTask.CHARGE, level=Level.CLEAR, words=words)


def _lower(words: str) -> str:
    words = words.strip().rstrip(".")
    return lower_first(words)


class InLine(Struct, frozen=True, kw_only=True):
    """A pack that neither its state nor its readings keep from flying, whatever the time, and what its place in the order hangs
    on: since when it is charged (aware; None: never known), and the charge in per cent from which it counts as charged."""

    pack: Pack
    known: Summary
    watch: bool
    since: datetime | None
    charged_from: float


def in_line(pack: Pack, known: Summary) -> InLine | None:
    """A pack as it stands in line to fly, or None where its state or its readings ground it. Source: ``grounding``."""
    if not pack.usable or _by_state(pack) is not None or _by_readings(pack, known) is not None:
        return None
    return InLine(
        pack=pack,
        known=known,
        watch=pack.state is PackState.MONITOR,
        since=known.charged_at or known.charge_at,
        charged_from=_charged_from(pack.chemistry),
    )


class NextPack(Struct, frozen=True, kw_only=True):
    """A pack in the order of flying, whether it is charged and cold, and what is known of it at an aware time."""

    pack: Pack
    known: Summary
    now: datetime
    charged: bool = False
    cold: bool = False

    @property
    def charge(self) -> ChargeRange | None:
        """What it holds now."""
        return self.known.charge_now(self.pack, self.now)

    @property
    def words(self) -> Phrase:
        """Why it has its place."""
        if not self.charged:
            held = self.charge
            if held is None:
                return Phrase(text="Its state of charge is not known.")
            return Phrase.of("Only {charge} left.", charge=percent(held.mid))
        if self.cold:
            return Phrase(text="Charged but cold: fly it last, once warmed.")
        days = _days(self.known.charged_at or self.known.charge_at, self.now)
        times = plural(self.known.cycles, "cycle")
        if days < 1:
            return Phrase(text=f"Charged today, {self.known.cycles} {times}.")
        return Phrase.of(f"Charged {{days}} ago, {self.known.cycles} {times}.", days=day(days))


def next_packs(
    line: Iterable[InLine | None], now: datetime, *, down: frozenset[int] = frozenset()
) -> tuple[NextPack, ...]:
    """Packs in the order in which they fly next: charged ones first, of those that felt cold when last read last, of the rest
    the one charged longest ago, then the one with fewest cycles, so that wear spreads. Packs that may not fly (``down``: those
    with a grounding snag; None: ``in_line``; hot ones) are left out.

    Aware time. Source: first in, first out, and warm before cold; common practice, no source.
    """
    rows = []
    for one in line:
        if one is None or one.pack.id in down:
            continue
        pack, known = one.pack, one.known
        felt = known.felt_c(now)
        if felt is not None and _too_hot(felt) is not None:
            continue
        held = known.percent_now(pack, now)
        charged = held is not None and held >= one.charged_from
        cold = felt is not None and felt < COLD_C
        turn = NextPack(pack=pack, known=known, now=now, charged=charged, cold=cold)
        rows.append(((not charged, cold, one.watch, one.since or now, known.cycles, pack.label), turn))
    return tuple(turn for _, turn in sorted(rows, key=lambda row: row[0]))


@lru_cache(maxsize=32)
def _charged_from(chemistry: Chemistry) -> float:
    """The charge in per cent from which a pack counts as charged."""
    return min(90.0, charge_percent(CELLS[chemistry].fly_v, chemistry))


def after_the_day(
    packs: Iterable[PackNow], now: datetime, since: datetime
) -> tuple[tuple[Pack, PackTask, Phrase], ...]:
    """Which packs to bring to storage charge after a flying day that began at ``since`` (aware times).

    Those flown, charged or read since then whose charge lies outside the storage band, and how: up or down. Hot ones
    cool first; those that must not be charged are left out. Source: packs to storage charge if not used within days; common practice, no source.
    """
    rows = []
    for pack, known, charge in packs:
        band = CELLS[pack.chemistry].storage_v
        touched = any(at is not None and at >= since for at in (known.flown_at, known.charged_at, known.looked_at))
        if band is None or charge is None or not touched or not pack.usable:
            continue
        low_v, high_v = known.weakest_at_best_v, known.highest_v
        if lithium.why_not_charged(pack.chemistry, weakest_v=low_v, highest_v=high_v, felt_c=None) is not None:
            continue
        low, high = (charge_percent(v, pack.chemistry) for v in band)
        if charge.mid > high + 5:
            words = Phrase.of(
                "At {charge}: discharge to about {aim}.", charge=percent(charge.mid), aim=percent((low + high) / 2)
            )
            rows.append((pack, PackTask.STORE, words))
        elif charge.mid < low - 5:
            words = Phrase.of(
                "At {charge}: charge to about {aim}.", charge=percent(charge.mid), aim=percent((low + high) / 2)
            )
            rows.append((pack, PackTask.RAISE, words))
    return tuple(rows)
