"""Stored shapes have numbers: what was written by an earlier version is brought up to date as it is read.

Each step is a pure function from plain data of one format to plain data of the next, kept for ever; it never imports the
core, whose shapes go on changing. Signed records are read through the same steps; their text and hash stay as signed.
"""

from typing import Any

from walkround.store.upgrade import step_2, step_3, step_4

FORMAT = 4
"""The number of the shapes that this version writes. 1: everything up to version 0.4.0, which wrote no number."""
STEPS: dict[int, Any] = {2: step_2, 3: step_3, 4: step_4}
"""Modules by the format they lead to; each has a function for every kind of value that changed in that step."""
_RECORD_PREFIX = "walk-round-record/"


class UnknownFormatError(ValueError):
    """Written by a newer version than this one."""


def _upgraded(kind: str, data: dict[str, Any], begun: int) -> dict[str, Any]:
    if begun > FORMAT:
        raise UnknownFormatError(f"format {begun}; this version knows {FORMAT}")
    for number in range(begun + 1, FORMAT + 1):
        step = getattr(STEPS[number], kind, None)
        if step is not None:
            data = step(data)
    return data


def read(kind: str, data: dict[str, Any]) -> dict[str, Any]:
    """Plain data of a ``situation``, ``aircraft``, ``pack`` or ``site`` in today's shape, its format number taken off."""
    begun = format_of(data)
    return _upgraded(kind, {name: value for name, value in data.items() if name != "format"}, begun)


def marked(data: dict[str, Any]) -> dict[str, Any]:
    """Plain data with today's format number, to be stored."""
    return {**data, "format": FORMAT}


def record(data: dict[str, Any]) -> dict[str, Any]:
    """Plain data of a signed record in today's shape. Its format number stands as ``walk-round-record/N``."""
    begun = int(str(data.get("format", f"{_RECORD_PREFIX}1")).removeprefix(_RECORD_PREFIX))
    situation = _upgraded("situation", data["situation"], begun)
    height_m = float(situation["site"]["flight_height_m"])
    evidence = [
        {**e, **dict(zip(("check_id", "answer"), answer(e["check_id"], e["answer"], begun, height_m), strict=True))}
        for e in data["evidence"]
    ]
    data = {**data, "situation": situation, "evidence": evidence}
    return {**_upgraded("record", data, begun), "format": f"{_RECORD_PREFIX}{FORMAT}"}


def answer(check_id: str, given: dict[str, Any], begun: int, flight_height_m: float) -> tuple[str, dict[str, Any]]:
    """Today's id of a check, and plain data of an answer to it in today's shape, stored in a round whose situation has the
    format ``begun``."""
    whole = {"check_id": check_id, "answer": given, "flight_height_m": flight_height_m}
    found = _upgraded("answer", whole, begun)
    return found["check_id"], found["answer"]


FILE_STEPS = {("walk-round-aircraft", 1): step_4.aircraft_file, ("walk-round-list", 1): step_4.list_file}
"""Files that are handed on count their versions by themselves: from which version of which format a step leads on."""


def file(name: str, version: int, data: dict[str, Any]) -> dict[str, Any]:
    """Plain data of a file to hand on, brought up to date from an earlier version."""
    while (step := FILE_STEPS.get((name, version))) is not None:
        data, version = step(data), version + 1
    return data


def format_of(data: dict[str, Any]) -> int:
    """The format number of stored plain data."""
    return int(data.get("format", 1))
