"""Spares of the bag: how many are left by the last count, and fitting one in place of a part."""

import json
from collections.abc import Iterable
from datetime import datetime
from typing import Any

from peewee import Select

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.part_list import part_of
from walkround.core.aircraft.parts import Part
from walkround.core.base.errors import ConflictError
from walkround.core.checklist.history import EventKind
from walkround.core.inspection.spares import SpareLeft, kind_of, replaced_id, spare_for
from walkround.core.inspection.touched import TouchedPart
from walkround.store import hangar, parts, snags
from walkround.store.models import EvidenceRow, PartRow, RoundRow
from walkround.store.part_models import SpareUsedRow
from walkround.store.statements import prepared

COUNTED = ("bag.second_pass", "bag.first_pass")
"""The checks that count the bag. Source: ids of the library."""


@prepared
def _counts(aircraft: Any) -> Select:
    rows = EvidenceRow.select(EvidenceRow.at, EvidenceRow.answer).join(RoundRow)
    mine = (RoundRow.aircraft == aircraft) & EvidenceRow.check_id.in_(list(COUNTED))
    return rows.where(mine).order_by(EvidenceRow.at.desc()).limit(8)


@prepared
def _used(aircraft: Any) -> Select:
    return SpareUsedRow.select(SpareUsedRow.thing, SpareUsedRow.at).where(SpareUsedRow.aircraft == aircraft)


def _last_count(aircraft_id: int, thing: str) -> tuple[datetime, int] | None:
    for at, answer in _counts(aircraft_id):
        said = json.loads(answer)
        if said.get("kind") == "packed":
            return at, dict(said["packed"]["have"]).get(thing, 0)
    return None


def left(aircraft: Aircraft, part: TouchedPart) -> SpareLeft | None:
    """The spare for a part with how many are left; None where the bag has none for it."""
    thing = spare_for(aircraft, part)
    if thing is None:
        return None
    count = _last_count(aircraft.id, thing.id)
    if count is None:
        return SpareLeft(thing=thing, left=None)
    at, have = count
    used = sum(1 for name, when in _used(aircraft.id) if name == thing.id and when >= at)
    return SpareLeft(thing=thing, left=max(0, have - used))


def fit(aircraft: Aircraft, part: TouchedPart, *, from_bag: bool, why: str, at: datetime) -> str:
    """Replace a part, or what it is replaced with: the new one begins at zero, open snags on it are closed, and the bag has one less. Returns the id of what was replaced.

    Raises ConflictError where a spare of the bag was to be taken and none is left there.
    """
    spare = left(aircraft, part) if from_bag else None
    if from_bag and (spare is None or spare.left == 0):
        raise ConflictError("There is none left in the bag. Say that you used another, or count the bag again.")
    replaced = replaced_id(aircraft, part)
    unit = part_of(aircraft, replaced)
    name = part.name if replaced == part.id else unit.name if unit is not None else replaced
    new = Part(
        kind=kind_of(aircraft, replaced), part_id=replaced, name="" if replaced == part.unit else part.name[:60],
        place=(unit.place if unit is not None else "")[:40], rotation=str(unit.spin) if unit is not None and unit.spin is not None and replaced == part.unit else "",
        fitted_at=at,
    )  # fmt: skip
    old = PartRow.get_or_none(
        (PartRow.aircraft == aircraft.id) & (PartRow.part_id == replaced) & PartRow.removed_at.is_null()
    )
    if old is not None:
        parts.replace(aircraft.id, int(old.id), new.model_copy(update={"size": old.size, "name": old.name}), why)
    else:
        parts.fit(aircraft.id, new)
        hangar.add_event(aircraft.id, EventKind.PART_REPLACED, at, detail=name, part=new.kind)
    if spare is not None:
        SpareUsedRow.create(aircraft=aircraft.id, thing=spare.thing.id, part_id=replaced, at=at)
    _close(aircraft.id, replaced, at)
    return replaced


def _close(aircraft_id: int, replaced: str, at: datetime) -> None:
    for snag in snags.open_ones(aircraft_id):
        if any(_within(part, replaced) for part in snag.parts):
            snags.close(snag.id, "Replaced", at)


def _within(part_id: str, replaced: str) -> bool:
    """Whether a part is what was replaced, or a detail of it."""
    return part_id == replaced or part_id.startswith(f"{replaced}/")


def within(part_ids: Iterable[str], replaced: str) -> list[str]:
    """Those of the parts that are what was replaced, or details of it."""
    return [part_id for part_id in part_ids if _within(part_id, replaced)]
