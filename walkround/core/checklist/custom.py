"""The pilot's own list: built-in checks reworded, moved, asked less often or switched off, and checks of their own."""

from collections.abc import Callable, Iterable, Mapping
from datetime import date
from functools import lru_cache
from typing import Annotated, Any

from msgspec.structs import replace

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Kind, Trait
from walkround.core.base.errors import ConflictError, InputError, MissingError
from walkround.core.base.struct import Struct, default_of
from walkround.core.base.value import Allowed, Value, whole
from walkround.core.checklist.check import FROM_FREQUENT_TO_RARE, Check, Frequency, Phase, Station
from walkround.core.checklist.library import CHECKS, GATES, SAFE_STATES
from walkround.core.checklist.own_checks import TEXT_CHARS, TITLE_CHARS, custom_check, is_simple

MOST_CUSTOM_CHECKS = 200
_BUILT_IN = {check.id: check for check in CHECKS}
IN_PLACE = frozenset(
    (i for gate in GATES for i in (*gate.needs, *gate.blocks)),
) | frozenset(i for state in SAFE_STATES for i in state.until)
"""Checks whose order keeps blades, current and people apart: they stay at their station."""


class CheckChange(Value):
    """What the pilot changed on one check; empty texts and None stand for *as built in*. ``only_for``: numbers of the aircraft it is for,
    none: all of them."""

    check_id: str
    title: Annotated[str, Allowed(max_length=TITLE_CHARS)] = ""
    how: Annotated[str, Allowed(max_length=TEXT_CHARS)] = ""
    why: Annotated[str, Allowed(max_length=TEXT_CHARS)] = ""
    frequency: Frequency | None = None
    station: Station | None = None
    off: bool = False
    reason: Annotated[str, Allowed(max_length=300)] = ""
    only_for: Annotated[tuple[int, ...], Allowed(max_length=50)] = ()


class CustomChecklist(Value):
    """All of a pilot's changes. ``revision`` counts them, so that two tabs cannot overwrite each other unseen."""

    revision: int = 0
    changes: tuple[CheckChange, ...] = ()
    added: Annotated[tuple[Check, ...], Allowed(max_length=MOST_CUSTOM_CHECKS)] = ()
    order: tuple[tuple[Station, tuple[str, ...]], ...] = ()

    @whole
    def added_are_simple(self) -> "CustomChecklist":
        """Refuse, as from a file, a check that is more than a pilot can make: it would be asked for and never judged."""
        ids = [check.id for check in self.added]
        if len(set(ids)) != len(ids):
            raise InputError("Two checks of the list have the same number.")
        for check in self.added:
            number = check.id.removeprefix("custom.")
            plain = replace(check, **{n: default_of(Check, n) for n in _NEVER_CUSTOM})
            asks = is_simple(check.ask)
            if check.id == number or not number.isdecimal() or check.origin != "custom" or plain != check or not asks:
                raise InputError(
                    f"“{check.title}” cannot be added. Add a tick, a number with limits, a choice or a count."
                )
        return self

    def of(self, aircraft_id: int) -> "CustomChecklist":
        """The list as it is for one aircraft: what is only for others is left away, and what is only for it comes before what is for
        all."""
        if not any(change.only_for for change in self.changes) and not any(check.only_for for check in self.added):
            return self
        return _of(self, aircraft_id)


@lru_cache(maxsize=64)
def _of(checklist: CustomChecklist, aircraft_id: int) -> CustomChecklist:
    mine = {change.check_id for change in checklist.changes if aircraft_id in change.only_for}
    changes = tuple(
        change
        for change in checklist.changes
        if aircraft_id in change.only_for or (not change.only_for and change.check_id not in mine)
    )
    added = tuple(check for check in checklist.added if not check.only_for or aircraft_id in check.only_for)
    return checklist.model_copy(update={"changes": changes, "added": added})


_NEVER_CUSTOM = (
    "on_parts",
    "method",
    "phase",
    "snag_on",
    "due",
    "adds",
    "part",
    "short",
    "deep",
    "floor_for",
    "known",
    "indoors",
    "replaces",
)


class Checklist(Struct, frozen=True, kw_only=True):
    """The library as this pilot has it: checks in walking order, and the built-in form of what was changed."""

    checks: tuple[Check, ...]
    changed: tuple[tuple[CheckChange, Check], ...]


@lru_cache(maxsize=8)
def checklist_of(checklist: CustomChecklist) -> Checklist:
    """The checks that this pilot's list holds; switched-off ones are left out."""
    changes = {change.check_id: change for change in checklist.changes if change.check_id in _BUILT_IN}
    checks = []
    for check in (*CHECKS, *checklist.added):
        change = changes.get(check.id)
        if change is None or not change.off:
            checks.append(check if change is None else _changed(check, change))
    ranks = {check_id: rank for _, ids in checklist.order for rank, check_id in enumerate(ids)}
    walking = [check for station in Station for check in _ordered(checks, station, ranks)]
    return Checklist(
        checks=tuple(walking), changed=tuple((change, _BUILT_IN[check_id]) for check_id, change in changes.items())
    )


def belonging(checklist: CustomChecklist, aircraft: Aircraft) -> tuple[Check, ...]:
    """The listed checks that belong to an aircraft, in walking order. Source: predicates of the checks."""
    return _belonging(checklist.of(aircraft.id), aircraft.kind, aircraft.features())


@lru_cache(maxsize=64)
def _belonging(checklist: CustomChecklist, kind: Kind, features: frozenset[Trait]) -> tuple[Check, ...]:
    # What the pilot worded stays as worded.
    return tuple(
        check if check.origin == "changed" else check.worded(kind, features)
        for check in checklist_of(checklist).checks
        if check.applies.fits_features(kind, features)
    )


def _ordered(checks: list[Check], station: Station, ranks: Mapping[str, int]) -> list[Check]:
    """Checks of a station as the pilot ordered them; one that the order does not know stays behind its neighbour."""
    here = [check for check in checks if check.station is station]
    if not any(check.id in ranks for check in here):
        return here
    keys, last = {}, -1.0
    for check in here:
        last = ranks[check.id] if check.id in ranks else last + 0.001
        keys[check.id] = last
    return sorted(here, key=lambda check: keys[check.id])


def _changed(check: Check, change: CheckChange) -> Check:
    update: dict[str, Any] = {"origin": "changed"}
    update |= {name: text for name in ("title", "how", "why") if (text := getattr(change, name))}
    if change.frequency is not None:
        update["frequency"] = change.frequency
    if change.station is not None and not stays(check):
        update["station"] = change.station
    return replace(check, **update)


def stays(check: Check) -> bool:
    """Whether a check cannot be moved to another station. Source: ``IN_PLACE``, and its phase."""
    return check.id in IN_PLACE or check.phase is not Phase.BEFORE


def rarer(frequency: Frequency, than: Frequency) -> bool:
    """Whether a cadence comes up less often than another. Source: order of ``FROM_FREQUENT_TO_RARE``."""
    return FROM_FREQUENT_TO_RARE.index(frequency) > FROM_FREQUENT_TO_RARE.index(than)


def _find(checklist: CustomChecklist, check_id: str) -> Check:
    for check in (*CHECKS, *checklist.added):
        if check.id == check_id:
            return check
    raise MissingError("There is no such check.")


def _with(checklist: CustomChecklist, seen: int, **update: object) -> CustomChecklist:
    """The next revision. Raises ConflictError when the page that asked had seen an older one."""
    if seen != checklist.revision:
        raise ConflictError(
            "The list was changed in another tab or on another device. This is the current version; make your change again if you still want it."
        )
    return checklist.model_copy(update={**update, "revision": checklist.revision + 1})


def _keep(checklist: CustomChecklist, change: CheckChange, seen: int) -> CustomChecklist:
    others = tuple(c for c in checklist.changes if (c.check_id, c.only_for) != (change.check_id, change.only_for))
    empty = change == CheckChange(check_id=change.check_id, only_for=change.only_for)
    return _with(checklist, seen, changes=others if empty else (*others, change))


def change(checklist: CustomChecklist, wanted: CheckChange, seen: int) -> CustomChecklist:
    """The list with one check changed; ``seen`` is the revision the page showed.

    Raises InputError when a grounding check would be switched off or asked less often without a reason, or a check moved that a gate
    holds in its place; ConflictError, MissingError. Source: a G check is never asked less often without a written reason; common practice, no source.
    """
    check = _find(checklist, wanted.check_id)
    if wanted.station is check.station:
        wanted = wanted.model_copy(update={"station": None})
    elif wanted.station is not None and stays(check):
        raise InputError("This check stays at its station: its order keeps you safe.", "station")
    if check.origin == "custom":
        text = {name: getattr(wanted, name) for name in ("title", "how", "why") if getattr(wanted, name)}
        moved = {n: value for n in ("frequency", "station") if (value := getattr(wanted, n)) is not None}
        mine = replace(check, **text, **moved, only_for=wanted.only_for)
        return _with(checklist, seen, added=tuple(mine if c.id == check.id else c for c in checklist.added))
    plain = {name: "" for name in ("title", "how", "why") if getattr(wanted, name) == getattr(check, name)}
    wanted = wanted.model_copy(
        update={**plain, "frequency": None if wanted.frequency is check.frequency else wanted.frequency}
    )
    less = wanted.frequency is not None and rarer(wanted.frequency, check.frequency)
    if (wanted.off or less) and check.grounds and not wanted.reason.strip():
        raise InputError(
            "A fault here can bring the aircraft down. Give a reason; it will be shown on every verdict.",
            "reason",
        )
    return _keep(checklist, wanted, seen)


def set_back(checklist: CustomChecklist, check_id: str, seen: int) -> CustomChecklist:
    """A built-in check as it was, or a check of the pilot's own taken off. Raises as ``change``."""
    check = _find(checklist, check_id)
    if check.origin == "custom":
        return _with(checklist, seen, added=tuple(c for c in checklist.added if c.id != check_id))
    return _with(checklist, seen, changes=tuple(c for c in checklist.changes if c.check_id != check_id))


def move(checklist: CustomChecklist, check_id: str, steps: int, seen: int) -> CustomChecklist:
    """One check moved so many places down (negative: up) inside its station. Raises as ``change``."""
    _find(checklist, check_id)
    walking = checklist_of(checklist).checks
    station = next((check.station for check in walking if check.id == check_id), None)
    if station is None:
        raise InputError("A check that is switched off cannot be moved.")
    ids = [check.id for check in walking if check.station is station]
    here = ids.index(check_id)
    there = min(max(here + steps, 0), len(ids) - 1)
    ids.insert(there, ids.pop(here))
    kept = tuple((s, order) for s, order in checklist.order if s is not station)
    return _with(checklist, seen, order=(*kept, (station, tuple(ids))))


def add(checklist: CustomChecklist, make: Callable[[str], Check], seen: int) -> CustomChecklist:
    """The list with a new check of the pilot's own; ``make`` gets its id. Raises as ``change``."""
    numbers = [int(check.id.split(".")[1]) for check in checklist.added]
    if len(numbers) >= MOST_CUSTOM_CHECKS:
        raise InputError(f"There are {MOST_CUSTOM_CHECKS} checks of your own already. Delete one first.")
    check = make(f"custom.{max(numbers, default=0) + 1}")
    if any(
        c.station is check.station and c.title.casefold() == check.title.casefold()
        for c in checklist_of(checklist).checks
    ):
        raise InputError(f"This station has a check called “{check.title}” already.", "title")
    return _with(checklist, seen, added=(*checklist.added, check))


def add_steps(
    checklist: CustomChecklist,
    steps: Iterable[str],
    station: Station,
    *,
    only_for: tuple[int, ...] = (),
    on_day: date | None = None,
    today: date,
) -> CustomChecklist:
    """The list with steps as ticks at the end of a station, in their order; those of past days are dropped. One that is there already
    for the same aircraft and day is not added again. Raises as ``add``."""
    past = tuple(check for check in checklist.added if check.on_day is None or check.on_day >= today)
    after = checklist.model_copy(update={"added": past})
    have = {(check.title.casefold(), check.only_for, check.on_day) for check in past if check.station is station}
    for step in steps:
        if (step.casefold(), only_for, on_day) in have:
            continue
        numbers = [int(check.id.split(".")[1]) for check in checklist.added + after.added]
        if len(after.added) >= MOST_CUSTOM_CHECKS:
            raise InputError(f"There are {MOST_CUSTOM_CHECKS} checks of your own already. Delete one first.", "steps")
        made = custom_check(
            f"custom.{max(numbers, default=0) + 1}", station=station, title=step, how="", why="", grounds=False, frequency=Frequency.LAUNCH
        )  # fmt: skip
        made = replace(made, only_for=only_for, on_day=on_day)
        after = after.model_copy(update={"added": (*after.added, made)})
    return after.model_copy(update={"revision": checklist.revision + 1})
