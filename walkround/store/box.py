"""The box as a whole: all packs with what is known of each, those that fit an aircraft, and the order in which they fly."""

from datetime import UTC, datetime

from peewee import Select

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.clock import is_ahead
from walkround.core.base.kept import Same
from walkround.core.base.struct import Struct
from walkround.core.packs.pack import Pack
from walkround.core.packs.summary import Summary
from walkround.core.packs.upkeep import InLine, NextPack, in_line, next_packs
from walkround.store import hangar, packs
from walkround.store.models import PackRow
from walkround.store.snags import grounded_packs
from walkround.store.statements import prepared, until_changed

NEVER = datetime.min.replace(tzinfo=UTC)


@prepared
def _all_kept() -> Select:
    rows = PackRow.select(PackRow.id, PackRow.label, PackRow.spec, PackRow.retired, PackRow.summary)
    return rows.order_by(PackRow.label)


class _InBox(Struct, frozen=True, kw_only=True):
    """What is kept of a pack in the box: its summary, None while there is none, and its place in line, None where it has none."""

    known: Summary | None
    line: InLine | None

    def now(self, pack: Pack, now: datetime) -> Summary:
        """What is known at an aware time. A summary that is not there yet, or speaks of times ahead, is made for the page."""
        return packs.made_now(pack.id, now) if self.known is None or self.known.is_ahead(now) else self.known

    def line_now(self, pack: Pack, now: datetime) -> InLine | None:
        """The place in line by what is known at an aware time."""
        known = self.now(pack, now)
        return self.line if known is self.known else in_line(pack, known)


@until_changed
def _box() -> tuple[tuple[Pack, _InBox], ...]:
    box = []
    for number, label, spec, retired, text in _all_kept():
        pack = hangar.pack_of((number, label, spec, retired))
        known = packs.read_summary(text) if text else None
        box.append((pack, _InBox(known=known, line=None if known is None else in_line(pack, known))))
    return tuple(box)


def known_packs(now: datetime) -> list[tuple[Pack, Summary]]:
    """All packs by label, with what is known of each."""
    return [(pack, one.now(pack, now)) for pack, one in _box()]


@until_changed
def _fitting(aircraft: Same) -> tuple[tuple[Pack, ...], tuple[_InBox, ...], datetime | None]:
    """The packs that fit, what is kept of them, and the latest time that is looked back to; None where something is missing."""
    (of,) = aircraft.things
    fits = [(pack, one) for pack, one in _box() if pack.usable and pack.fits(of)]
    kept = [one.known for _, one in fits if one.known is not None]
    latest = max((known.looked_at or NEVER for known in kept), default=NEVER)
    return tuple(p for p, _ in fits), tuple(o for _, o in fits), latest if len(kept) == len(fits) else None


def fitting(aircraft: Aircraft) -> tuple[Pack, ...]:
    """The packs that fit an aircraft and are in use, by label."""
    return _fitting(Same(aircraft))[0]


def flying_order(aircraft: Aircraft, now: datetime) -> tuple[NextPack, ...]:
    """The packs that fit an aircraft and may fly, in the order in which they fly next."""
    fits, kept, latest = _fitting(Same(aircraft))
    if latest is None or is_ahead(latest, now):
        line = [one.line_now(pack, now) for pack, one in zip(fits, kept, strict=True)]
    else:
        line = [one.line for one in kept]
    return next_packs(line, now, down=frozenset(grounded_packs()))
