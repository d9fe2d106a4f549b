"""From format 1 (versions 0.1 to 0.4) to 2.

A field's list of obstacles, each by bearing and distance, becomes marks with spots in m east and north; a pack that was
retired gets a state; minutes answered for the plan of the flight become a plan.
"""

import math
from typing import Any

Data = dict[str, Any]


def _mark(data: Data) -> Data:
    if "bearing_deg" not in data:
        return data
    bearing = math.radians(data["bearing_deg"])
    east_m, north_m = data["distance_m"] * math.sin(bearing), data["distance_m"] * math.cos(bearing)
    rest = {name: value for name, value in data.items() if name not in ("bearing_deg", "distance_m")}
    return {**rest, "spots": [{"east_m": round(east_m, 2), "north_m": round(north_m, 2)}]}


def site(data: Data) -> Data:
    """A field: obstacles are marks, numbered from 1."""
    rest = {name: value for name, value in data.items() if name != "obstacles"}
    if "obstacles" in data:
        rest["marks"] = [{**obstacle, "id": i} for i, obstacle in enumerate(data["obstacles"], 1)]
    if "marks" in rest:
        rest["marks"] = [_mark(mark) for mark in rest["marks"]]
    return rest


def pack(data: Data) -> Data:
    """A pack: retired or not becomes a state; one that has a state already keeps it."""
    rest = {name: value for name, value in data.items() if name != "retired"}
    if data.get("retired"):
        rest.setdefault("state", "retired")
    return rest


def situation(data: Data) -> Data:
    """A situation: its field and its pack."""
    return {**data, "site": site(data["site"]), "pack": pack(data["pack"])}


def answer(data: Data) -> Data:
    """An answer with the check it belongs to and the field's flying height: minutes for the plan of the flight become a plan of work in the air."""
    given = data["answer"]
    if data["check_id"] == "pack.plan" and given.get("kind") == "measured":
        height_m = min(500.0, max(1.0, data["flight_height_m"]))
        return {**data, "answer": {"kind": "planned", "plan": {"work_min": given["value"], "height_m": height_m}}}
    return data
