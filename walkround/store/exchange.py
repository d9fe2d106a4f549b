"""Taking over files that were handed on: an aircraft with its parts, or a list of checks."""

from datetime import datetime

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.errors import InputError
from walkround.core.checklist.exchange import AircraftFile, F, ListFile, parse_file, taken_over
from walkround.store import hangar, parts, upgrade
from walkround.store import settings as store_settings


def read_file(text: str, kind: type[F], field: str = "file") -> F:
    """An aircraft or a list from a file of this version or an earlier one. Raises InputError."""
    return parse_file(text, kind, upgrade.file, field)


def free_name(name: str) -> str:
    """A name that no aircraft has yet: with "2", "3" and so on behind it."""
    taken = {a.name.casefold() for a in hangar.everything(Aircraft, retired=True)}
    number = 2
    while f"{name[:56]} {number}".casefold() in taken:
        number += 1
    return f"{name[:56]} {number}"


def take_aircraft(file: AircraftFile, name: str, at: datetime) -> int:
    """Add the aircraft of a file with its parts, whose counts begin now; returns its number.

    Raises InputError with a free name as offer when the name is taken. Runs inside the caller's transaction.
    """
    name = name or file.aircraft.name
    taken = {a.name.casefold() for a in hangar.everything(Aircraft, retired=True)}
    if name.casefold() in taken:
        words = f"There is already an aircraft called {name}. Give this one another name."
        raise InputError(words, "name", {"name": free_name(name)})
    saved = hangar.save(file.aircraft.model_copy(update={"id": 0, "name": name}), at)
    for part in file.parts:
        parts.fit(saved, part.model_copy(update={"fitted_at": at, "removed_at": None}))
    return saved


def take_list(file: ListFile) -> None:
    """Add somebody's list to the pilot's own. Raises InputError. Runs inside the caller's transaction."""
    store_settings.save(custom_checklist=taken_over(store_settings.load().custom_checklist, file))


def take_file(text: str, at: datetime, name: str = "") -> str:
    """Take over whichever of the two a file is; returns what was done, in words. Raises InputError."""
    if '"walk-round-list/' in text[:2000]:
        file = read_file(text, ListFile)
        take_list(file)
        return f"Imported: {len(file.changes)} changes and {len(file.added)} checks."
    aircraft = read_file(text, AircraftFile)
    take_aircraft(aircraft, name, at)
    return f"Imported: {name or aircraft.aircraft.name}, with {len(aircraft.parts)} parts."
