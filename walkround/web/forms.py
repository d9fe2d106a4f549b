"""Reading forms: every mistake is put beside its field in words, and nothing is saved by halves."""

from collections.abc import Callable, Iterable
from datetime import date
from typing import Any, TypeVar

from pydantic import ValidationError
from starlette.datastructures import FormData, UploadFile

from walkround.core.base.errors import InputError, PilotError
from walkround.core.base.plain import EARLIEST_YEAR, LATEST_YEAR, whole
from walkround.core.base.units import Measure, Quantity, Units, decimals_of, parse_quantity, to_pilot
from walkround.core.base.wording import capital

T = TypeVar("T")


class FormErrors(PilotError):
    """Several mistakes of one form, by field."""

    def __init__(self, errors: dict[str, str], offers: dict[str, str] | None = None) -> None:
        super().__init__("Please correct the marked fields.")
        self.errors = errors
        self.offer = offers or {}

    def by_field(self) -> dict[str, str]:
        """The words for each field."""
        return self.errors


class Typed:
    """What was typed. Each reader notes a mistake and goes on; ``check`` raises them together."""

    def __init__(self, form: FormData, units: Units) -> None:
        self.form = form
        self.units = units
        self.errors: dict[str, str] = {}
        self.offers: dict[str, str] = {}
        self.measures: dict[str, Measure] = {}
        self.fresh_revision = ""

    def raw(self) -> dict[str, str]:
        """The texts as typed, to show them again; with the revision of now where the form was overtaken."""
        typed = {name: value for name, value in self.form.items() if isinstance(value, str)}
        return typed | {"revision": self.fresh_revision} if self.fresh_revision else typed

    def get(self, name: str) -> str:
        """One text as typed, or ""."""
        value = self.form.get(name, "")
        return value if isinstance(value, str) else ""

    def try_(self, field: str, reader: Callable[[], T], default: T) -> T:
        """Run a reader; a person's mistake is noted under its field."""
        try:
            return reader()
        except PilotError as error:
            self.errors.setdefault(error.field or field, error.message)
            self.offers |= error.offer
            return default

    def text(self, name: str, label: str, *, longest: int, needed: bool = False) -> str:
        """A text without surrounding or doubled spaces."""

        def read() -> str:
            value = " ".join(self.get(name).split())
            if needed and not value:
                raise InputError(f"{label} is empty.", name)
            if len(value) > longest:
                raise InputError(f"{label} has {len(value)} characters (max {longest}).", name)
            return value

        return self.try_(name, read, "")

    def number(
        self, name: str, label: str, measure: Measure, low: float, high: float, *, optional: bool = False
    ) -> float | None:
        """A number typed in the pilot's unit, within bounds given in inside units; None when optional and empty."""
        self.measures[name] = measure
        if optional and not self.get(name).strip():
            return None
        return self.try_(name, lambda: read_number(self.get(name), label, measure, low, high, self.units, name), None)

    def needed(self, name: str, label: str, measure: Measure, low: float, high: float) -> float:
        """As ``number``, never None; a noted mistake stands in as the lower bound until ``check`` raises."""
        value = self.number(name, label, measure, low, high)
        return low if value is None else value

    def choice(self, name: str, label: str, allowed: Iterable[str]) -> str:
        """One of the allowed texts."""
        options = list(allowed)

        def read() -> str:
            value = self.get(name)
            if value not in options:
                raise InputError(f"{label}: choose one from the list.", name)
            return value

        return self.try_(name, read, options[0] if options else "")

    def whole(self, name: str, label: str) -> int:
        """A whole number such as a row's number."""

        def read() -> int:
            value = whole(self.get(name))
            if value is None:
                raise InputError(f"{label}: choose one from the list.", name)
            return value

        return self.try_(name, read, 0)

    def day(self, name: str, label: str, default: date) -> date:
        """A date as the browser sends it; empty means the default."""

        def read() -> date:
            value = self.get(name)
            if not value:
                return default
            words = f"{label}: “{value[:20]}” is not a date like 2026-05-31."
            try:
                day = date.fromisoformat(value)
            except ValueError as error:
                raise InputError(words, name) from error
            if not EARLIEST_YEAR <= day.year <= LATEST_YEAR:
                raise InputError(words, name)
            return day

        return self.try_(name, read, default)

    def many(self, name: str) -> list[str]:
        """All values of a name, as from check boxes."""
        return [v for v in self.form.getlist(name) if isinstance(v, str)]

    def check(self) -> None:
        """Raise all mistakes noted so far."""
        if self.errors:
            raise FormErrors(self.errors, self.offers)

    def build(self, make: Callable[..., T], **values: Any) -> T:
        """Make a core value; what it refuses is a mistake of the form too."""
        self.check()
        try:
            return make(**values)
        except ValidationError as error:
            first = error.errors()[0]
            field = str(first["loc"][0]) if first["loc"] else ""
            raise FormErrors({field: f"{capital(field.replace('_', ' '))}: {first['msg'].lower()}."}) from error
        except PilotError as error:
            raise FormErrors({error.field: error.message}, error.offer) from error


def typed_text(value: float | None, kind: Measure, units: Units) -> str:
    """An inside number as the pilot would type it: in their unit, rounded to what is worth showing."""
    if value is None:
        return ""
    number = round(to_pilot(value, kind, units), max(decimals_of(kind, units), 1))
    return f"{number:g}" if abs(number) < 100_000 else f"{number:.0f}"


def read_number(text: str, label: str, measure: Measure, low: float, high: float, units: Units, field: str) -> float:
    """A typed number in inside units. Raises InputError with the bounds in the pilot's units."""
    value = parse_quantity(text, label, measure, units, field)
    slack = 1e-9 * max(1.0, abs(low), abs(high))
    if value < low - slack or value > high + slack:
        least, most = Quantity(value=low, measure=measure), Quantity(value=high, measure=measure)
        raise InputError(f"{label}: between {least.say(units)} and {most.say(units)}.", field)
    return value


def uploaded_name(form: FormData, name: str) -> str:
    """The name of an uploaded file, or "" when none was chosen."""
    upload = form.get(name)
    return upload.filename or "" if isinstance(upload, UploadFile) else ""


def uploaded_bytes(form: FormData, name: str, longest: int) -> bytes:
    """What an uploaded file holds, nothing when none was chosen. Raises InputError when it is too large."""
    upload = form.get(name)
    if not isinstance(upload, UploadFile) or not upload.filename:
        return b""
    upload.file.seek(0)  # read once already where a form is looked at twice
    data = upload.file.read(longest + 1)
    if len(data) > longest:
        size = f"{longest // 1000} kB" if longest < 1_000_000 else f"{longest // 1_000_000} MB"
        raise InputError(f"That file is larger than {size}. Send a smaller part.", name)
    return data


def uploaded_text(form: FormData, name: str, longest: int) -> str:
    """The text of an uploaded file, or "" when none was chosen. Raises InputError when it is too large or no text."""
    try:
        return uploaded_bytes(form, name, longest).decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise InputError("That file is not text.", name) from error
