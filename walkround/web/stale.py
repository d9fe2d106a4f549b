"""Forms that were overtaken: what was changed meanwhile and what is typed both stand on the page, and neither is lost.

Every form that changes something carries the revision it showed: a hash of exactly the values that it edits.
"""

import hashlib
import json
from collections.abc import Iterable

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.kept import kept
from walkround.core.base.units import unit_of
from walkround.core.base.value import Value
from walkround.core.field.site import Site
from walkround.core.packs.charging import Charger
from walkround.core.packs.pack import Pack
from walkround.web.forms import FormErrors, Typed, typed_text

BAG = ("bag_packs", "bag_extra", "bag_leaves")
INSPECTION = ("own_parts", "without_parts", "tolerances", "lives")
AIRCRAFT = tuple(
    name
    for name in Aircraft.__struct_fields__
    if name not in {*BAG, *INSPECTION, "id", "retired", "failsafe", "works", "proved"}
)
PACK = tuple(name for name in Pack.__struct_fields__ if name not in {"id", "state", "condemned", "charged_at"})
DRAWN = ("launch", "pilot", "flight_area", "spectator_line", "marks", "walked_at")
FIELD = tuple(name for name in Site.__struct_fields__ if name not in {*DRAWN, "id"})
YOU = ("pilot", "theme", "units", "stick_mode")
LIMITS = ("limits", "region")
FAILSAFE = ("failsafe",)
WORKS = ("works",)
CHARGER = tuple(Charger.__struct_fields__)
FORMS: dict[str, tuple[str, ...]] = {
    "bag": BAG, "aircraft": AIRCRAFT, "pack": PACK, "field": FIELD, "you": YOU, "limits": LIMITS, "charger": CHARGER, "failsafe": FAILSAFE, "works": WORKS, "inspection": INSPECTION,
}  # fmt: skip
"""What each form edits of its thing."""
LEAD = "This was changed in another tab or on another device, so nothing was saved yet. Both versions are shown; save again to keep yours."


class StaleError(FormErrors):
    """The thing is no longer what the form showed."""


@kept
def revision(thing: Value, form: str) -> str:
    """The revision of what a form edits of a thing."""
    values = thing.model_dump(mode="json", include=set(FORMS[form]))
    return hashlib.sha256(json.dumps(values, sort_keys=True).encode()).hexdigest()[:16]


def refuse_stale(typed: Typed, now: Value, wanted: Value, form: str) -> None:
    """Refuse to save over a change that the form did not show. Raises StaleError with what stands in the book, beside the
    fields; the form then carries the revision of now. Call it inside the transaction that saves."""
    fresh = revision(now, form)
    if typed.get("revision") == fresh:
        return
    differing = list(_differing(now, wanted, FORMS[form]))
    if not differing:
        return
    typed.fresh_revision = fresh
    errors = {"": LEAD}
    for name, theirs in differing:
        errors[name] = f"Now stored: {_shown(typed, name, theirs)}."
    raise StaleError(errors)


def _differing(now: Value, wanted: Value, names: Iterable[str]) -> Iterable[tuple[str, object]]:
    """What differs, one level into values such as limits and units, whose parts have fields of their own."""
    for name in names:
        ours, theirs = getattr(wanted, name), getattr(now, name)
        if ours == theirs:
            continue
        if isinstance(theirs, Value) and isinstance(ours, Value) and name in ("limits", "units", "failsafe"):
            yield from _differing(theirs, ours, type(theirs).__struct_fields__)
        else:
            yield name, theirs


def _shown(typed: Typed, name: str, value: object) -> str:
    """A value of the book as the pilot would type it."""
    measure = typed.measures.get(name)
    if measure is not None and isinstance(value, int | float):
        return f"{typed_text(float(value), measure, typed.units)} {unit_of(measure, typed.units)}".strip()
    if value is None or value == "" or value == () or value == frozenset():
        return "nothing"
    if isinstance(value, Value):
        return " ".join(str(part) for part in value.model_dump(mode="json").values() if part not in (None, "", []))
    if isinstance(value, frozenset | tuple | list):
        return ", ".join(sorted(_shown(typed, "", part) for part in value))
    if isinstance(value, bool):
        return "yes" if value else "no"
    return f"{value:g}" if isinstance(value, float) else str(value)
