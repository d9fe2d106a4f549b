"""Files to hand on: an aircraft, or a pilot's list, as JSON with a published schema."""

import json
from collections.abc import Callable
from typing import TYPE_CHECKING, Any, Literal, TypeVar

from msgspec.structs import replace

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.parts import Part
from walkround.core.base.errors import InputError, PilotError
from walkround.core.base.plain import read_json, whole
from walkround.core.base.struct import default_of
from walkround.core.base.value import Value
from walkround.core.base.wording import lower_first
from walkround.core.checklist.check import Check, Station
from walkround.core.checklist.custom import MOST_CUSTOM_CHECKS, CheckChange, CustomChecklist, change

if TYPE_CHECKING:
    from pydantic import ValidationError

MAX_CHARS = 400_000
"""No aircraft and no list is longer. Source: our choice."""


class AircraftFile(Value):
    """An aircraft and the parts on it; nothing of its flights, snags or owner."""

    format: Literal["walk-round-aircraft/2"] = "walk-round-aircraft/2"
    aircraft: Aircraft
    parts: tuple[Part, ...] = ()


class ListFile(Value):
    """A pilot's own list: changes to built-in checks, checks of their own, and the order inside stations."""

    format: Literal["walk-round-list/2"] = "walk-round-list/2"
    changes: tuple[CheckChange, ...] = ()
    added: tuple[Check, ...] = ()
    order: tuple[tuple[Station, tuple[str, ...]], ...] = ()


FILES: dict[str, type[AircraftFile] | type[ListFile]] = {
    "walk-round-aircraft": AircraftFile,
    "walk-round-list": ListFile,
}
"""Formats by name; the number after the stroke counts versions. Source: our choice."""
_HOLDS = {"walk-round-aircraft": "an aircraft", "walk-round-list": "a list of checks"}
F = TypeVar("F", AircraftFile, ListFile)


def schema(name: str) -> dict[str, Any]:
    """The JSON schema of a format. Raises KeyError for a format that is not ours. Source: JSON Schema 2020-12."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **FILES[name].model_json_schema()}


def text_of(file: AircraftFile | ListFile) -> str:
    """A file as text: JSON, two spaces in, ending with a line break."""
    return json.dumps(file.model_dump(mode="json"), indent=2, ensure_ascii=False) + "\n"


def aircraft_file(aircraft: Aircraft, parts: tuple[Part, ...]) -> AircraftFile:
    """The file of an aircraft: without numbers of this book, flights or reasons."""
    plain = tuple(p.model_copy(update={"id": 0, "flights": 0, "minutes": 0.0}) for p in parts if p.removed_at is None)
    return AircraftFile(aircraft=aircraft.model_copy(update={"id": 0, "retired": False}), parts=plain)


def list_file(checklist: CustomChecklist) -> ListFile:
    """The file of a pilot's list; what is only for one aircraft of this book, or for one day, stays in it."""
    return ListFile(
        changes=tuple(change for change in checklist.changes if not change.only_for),
        added=tuple(check for check in checklist.added if not check.only_for and check.on_day is None),
        order=checklist.order,
    )


Upgrade = Callable[[str, int, dict[str, Any]], dict[str, Any]]
"""Brings plain data of an earlier version up to date: name of the format, version, data."""


def parse_file(text: str, kind: type[F], upgrade: Upgrade, field: str = "file") -> F:
    """Read a file of ours; one of an earlier version is brought up to date by ``upgrade``.

    Raises InputError in words: no JSON, another format, a newer version, a wrong value.
    """
    if len(text) > MAX_CHARS:
        raise InputError(f"That file is longer than {MAX_CHARS // 1000} kB; too large for a Walk Round file.", field)
    from pydantic import ValidationError  # loaded only where something is checked

    data = read_json(text, "That is not a JSON file. Choose a file exported from Walk Round.", field)
    wanted = str(default_of(kind, "format"))
    told = _version(data, wanted, field)
    name, version = wanted.split("/")
    try:
        if told < int(version):
            data = {**upgrade(name, told, data), "format": wanted}
        return kind.model_validate(data)
    except ValidationError as error:
        raise InputError(_words(error), field) from error
    except (AttributeError, KeyError, TypeError, ValueError) as error:
        raise InputError(f"The file says that it is {name}/{told}, but it is not.", field) from error
    except PilotError as error:
        raise InputError(f"The file is inconsistent: {error.message}", field) from error


def _version(data: Any, wanted: str, field: str) -> int:
    """The version that a file says it has."""
    name, version = wanted.split("/")
    told = data.get("format") if isinstance(data, dict) else None
    if not isinstance(told, str) or not told.startswith(f"{name}/"):
        other = next((n for n in FILES if isinstance(told, str) and told.startswith(f"{n}/")), None)
        if other is not None:
            raise InputError(f"That file holds {_HOLDS[other]}; here {_HOLDS[name]} is needed.", field)
        raise InputError(f"That file is not marked as {wanted}.", field)
    number = told.split("/", 1)[1]
    told_number = whole(number)
    if told_number is not None and told_number > int(version):
        raise InputError(
            f"That file was written by a newer Walk Round ({told}; this one reads up to {wanted}). Update Walk Round first.",
            field,
        )
    if told_number is None or told_number < 1 or number != str(told_number):
        raise InputError(f"That file is not marked as {wanted}.", field)
    return told_number


def _words(error: "ValidationError") -> str:
    first = error.errors()[0]
    where = " › ".join(str(step) for step in first["loc"]) or "the file"
    return f"{where}: {lower_first(first['msg'])}."


def taken_over(checklist: CustomChecklist, file: ListFile) -> CustomChecklist:
    """A list with another one added: where both changed a check, the file's way holds; checks of its own get new numbers.

    Raises InputError when a change switches a grounding check off without a reason.
    """
    merged = checklist
    for wanted in file.changes:
        if wanted.check_id.startswith("custom."):
            continue
        try:
            merged = change(merged, wanted, merged.revision)
        except PilotError as error:
            raise InputError(f"{wanted.check_id}: {error.message}", "file") from error
    number = max((int(c.id.split(".")[1]) for c in merged.added), default=0)
    have = {(c.station, c.title.casefold()) for c in merged.added}
    added, renamed = list(merged.added), {}
    for check in file.added:
        if (check.station, check.title.casefold()) in have:
            continue
        number += 1
        renamed[check.id] = f"custom.{number}"
        added.append(replace(check, id=renamed[check.id]))
    if len(added) > MOST_CUSTOM_CHECKS:
        raise InputError(f"Together that is more than {MOST_CUSTOM_CHECKS} checks of your own.", "file")
    order = dict(merged.order)
    order |= {station: tuple(renamed.get(i, i) for i in ids) for station, ids in file.order}
    try:
        return CustomChecklist(
            revision=checklist.revision + 1, changes=merged.changes, added=tuple(added), order=tuple(order.items())
        )
    except PilotError as error:
        raise InputError(error.message, "file") from error
