"""From format 3 (version 0.6) to 4: the field's own terms.

Names of stored values and of checks became those that pilots use; nothing else about them changed.
"""

import json
from collections.abc import Callable, Mapping
from typing import Any

Data = dict[str, Any]

CHECKS = {
    "senses.level": "sensors.accelerometer",
    "field.ceiling": "field.max_height",
    "airframe.balance": "airframe.cg",
    "link.return_height": "link.rth_altitude",
}
"""Checks by their old and their new id; besides these, what begins with ``senses.`` or ``own.`` is renamed at its beginning."""
BEGINNINGS = {"senses.": "sensors.", "own.": "custom."}
BAND = {"care_below": "caution_below", "care_above": "caution_above"}
SUMMARY = {"spread_v": "imbalance_v", "capacity_share": "state_of_health"}
TRAITS = {
    "propellers under self-locking nuts": "propellers under nyloc nuts",
    "small gyro stabiliser": "gyro stabiliser",
    "satellite positioning": "GPS / GNSS",
    "return-home": "return to home (RTH)",
    "remote identification": "remote ID",
    "payload with its own wireless network": "payload with its own Wi-Fi",
    "smart packs that report per cent": "smart packs with battery %",
    "retracting wheels": "retracts",
    "stabiliser bar": "flybar",
    "launched by hand": "hand launched",
}
KINDS = {"wing": "fixed wing"}
EVENTS = {"carried far": "transported a long way", "long idle": "long break", "new site": "new field"}
STATES = {"watch": "monitor", "set aside": "quarantined"}
RULES = {"take care": "caution"}
CHARGER = {"ports": "channels", "port_a": "channel_a", "port_w": "channel_w"}


def check_id(old: str) -> str:
    """The id of a check today."""
    if old in CHECKS:
        return CHECKS[old]
    for begin, now in BEGINNINGS.items():
        if old.startswith(begin):
            return now + old.removeprefix(begin)
    return old


def _renamed(data: Data, names: Mapping[str, str]) -> Data:
    return {names.get(name, name): value for name, value in data.items()}


def _within(data: Data, **changed: Callable[[Any], Any]) -> Data:
    """The same data with some of its values changed, where they are there at all."""
    return {
        name: changed[name](value) if name in changed and value is not None else value for name, value in data.items()
    }


def _each(change: Callable[[Any], Any]) -> Callable[[Any], Any]:
    return lambda values: [change(value) for value in values]


def _one_of(names: Mapping[str, str]) -> Callable[[Any], Any]:
    return lambda old: names.get(old, old)


def _of_check(data: Data) -> Data:
    return _within(data, check_id=check_id)


def station(old: str) -> str:
    """The name of a station today."""
    return "sensors" if old == "senses" else old


def aircraft(data: Data) -> Data:
    """An aircraft: the range of its centre of gravity, and what it has."""
    named = _renamed(data, {"balance_min_mm": "cg_min_mm", "balance_max_mm": "cg_max_mm"})
    return _within(named, traits=_each(_one_of(TRAITS)), kind=_one_of(KINDS))


def pack(data: Data) -> Data:
    """A pack: its state, and whether it is condemned."""
    return _within(_renamed(data, {"for_good": "condemned"}), state=_one_of(STATES))


def part(data: Data) -> Data:
    """A part: its direction of rotation."""
    return _renamed(data, {"hand": "rotation"})


def site(data: Data) -> Data:
    """A field: flight area, spectator line, launch platform."""
    return _renamed(data, {"box": "flight_area", "crowd": "spectator_line", "stand": "launch_platform"})


def zone(data: Data) -> Data:
    """A zone: its rule, its maximum height and the periods in which it is active."""

    def named(terms: Data) -> Data:
        return _within(_renamed(terms, {"ceiling": "max_height", "spans": "periods"}), rule=_one_of(RULES))

    return _within(data, terms=named)


def weather(data: Data) -> Data:
    """A weather report: its pressure is a QNH."""
    return _renamed(data, {"pressure_hpa": "qnh_hpa"})


def _applies(data: Data) -> Data:
    traits = _each(_one_of(TRAITS))
    return _within(data, has=traits, any_of=traits, unless=traits, kinds=_each(_one_of(KINDS)))


def event(data: Data) -> Data:
    """An event: its kind."""
    return _within(data, kind=_one_of(EVENTS))


def custom_checklist(data: Data) -> Data:
    """The pilot's changes to the checklist and the checks of their own."""

    def changed(change: Data) -> Data:
        return _renamed(_of_check(change), {"cadence": "frequency"})

    def option(of: Data) -> Data:
        return _renamed(of, {"care_under": "caution_under", "care_at": "caution_at"})

    def asked(ask: Data) -> Data:
        kind = {"moves": "control_directions"}.get(ask.get("kind", ""), ask.get("kind"))
        return _within({**ask, "kind": kind}, band=lambda band: _renamed(band, BAND), options=_each(option))

    def added(check: Data) -> Data:
        named = _renamed(check, {"cadence": "frequency", "practice": "method"})
        origin = {"own": "custom"}
        return _within(
            named, id=check_id, station=station, ask=asked, origin=_one_of(origin), applies=_applies,
            events=_each(_one_of(EVENTS)),
        )  # fmt: skip

    def order(pairs: list[Any]) -> list[Any]:
        return [[station(name), [check_id(one) for one in ids]] for name, ids in pairs]

    return _within(data, changes=_each(changed), added=_each(added), order=order)


def summary(data: Data) -> Data:
    """What is known of a pack in short: imbalance and state of health."""
    return _renamed(data, SUMMARY)


def _history(data: Data) -> Data:
    named = _renamed(data, {"pack_capacity_share": "pack_state_of_health"})
    named.pop("pack_state_reason", None)
    return _within(named, pack_summary=summary, done=_each(_of_check), snags=_each(_of_check), events=_each(event))


def situation(data: Data) -> Data:
    """A situation: everything in it."""
    named = _renamed(data, {"practices": "methods", "own": "custom_checklist"})
    return _within(
        named, aircraft=aircraft, pack=pack, site=site, weather=weather, history=_history,
        custom_checklist=custom_checklist, airspace=lambda known: _within(known, near=_each(zone)),
    )  # fmt: skip


def answer(data: Data) -> Data:
    """An answer with the check it belongs to."""

    def given(old: Data) -> Data:
        kind = old.get("kind")
        if kind == "moves":
            return {**old, "kind": "control_directions"}
        if kind == "rotors":
            return _within(old, seen=_each(lambda one: _renamed(one, {"hand": "rotation"})))
        if kind == "fix":
            return _within(old, fix=lambda fix: _renamed(fix, {"sentences": "nmea_lines"}))
        return _within(old, weather=weather)

    return {**data, "check_id": check_id(data["check_id"]), "answer": given(data["answer"])}


def verdict(data: Data) -> Data:
    """A verdict: what is to be minded are its cautions."""
    found = _each(_of_check)
    return _within(_renamed(data, {"minds": "cautions"}), grounds=found, cautions=found, closest=found)


def record(data: Data) -> Data:
    """A record: the checks it asked and what was found at each; situation and answers are upgraded by themselves."""
    return _within(
        data,
        plan=_each(lambda asked: _within(asked, id=check_id, station=station)),
        findings=_each(_of_check),
        verdict=verdict,
    )


def aircraft_file(data: Data) -> Data:
    """A file of an aircraft and its parts, from version 1 to 2."""
    return _within(data, aircraft=aircraft, parts=_each(part))


def list_file(data: Data) -> Data:
    """A file of a list, from version 1 to 2: its changes and checks are those of a checklist."""
    return custom_checklist(data)


def row(table: str, data: Data) -> Data:
    """A row of a table in today's columns, its specification included where that carries no format number."""
    columns: dict[str, Mapping[str, str]] = {
        "part": {"hand": "rotation"},
        "reading": {"put_back_mah": "recharged_mah"},
        "pack_change": {"for_good": "condemned"},
    }
    if table == "event":
        return event(data)
    if table == "pack_change":
        data = _within(data, state=_one_of(STATES))
    data = _renamed(_of_check(data) if table in ("done", "snag") else data, columns.get(table, {}))
    if table == "zone":
        return {**data, "spec": json.dumps(zone(json.loads(data["spec"])))}
    if table == "pack" and data.get("summary") is not None:
        return {**data, "summary": json.dumps(summary(json.loads(data["summary"])))}
    return data


def setting(name: str, value: Any) -> tuple[str, Any]:
    """One setting, its name and its value."""
    if name == "own":
        return "custom_checklist", custom_checklist(value)
    if name == "columns":
        fields = {"put_back": "recharged_mah"}
        return name, {
            head: _within(columns, fields=_each(lambda one: fields.get(one, one))) for head, columns in value.items()
        }
    if name == "charger":
        return name, _renamed(value, CHARGER)
    return ("methods" if name == "practices" else name), value
