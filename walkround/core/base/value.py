"""The bases of values that come in from outside, or are kept: frozen, strict about unknown names, each field checked.

A value is a struct of the lightest kind. What checks it (pydantic, by the types of its fields) is made when the first one is made
or read: of the hundred kinds a page needs ten, and code that only works on values needs none.
"""

from collections.abc import Callable, Collection, Mapping
from datetime import date, datetime
from enum import Enum
from typing import Any, Self, TypeVar, dataclass_transform

import msgspec
from msgspec.structs import replace

from walkround.core.base.struct import Struct

F = TypeVar("F")
Made = Callable[[Any], Any]
_MAKE: Callable[..., Any] = msgspec.StructMeta.__call__
_CHECKED: dict[type, Made] = {}


class Allowed(Struct, frozen=True, kw_only=True):
    """What a field may hold besides its type, written in its annotation: bounds of a number, characters of a text, things of a row."""

    ge: float | None = None
    gt: float | None = None
    le: float | None = None
    lt: float | None = None
    min_length: int | None = None
    max_length: int | None = None
    pattern: str | None = None


class ByKind(Struct, frozen=True, kw_only=True):
    """Written in an annotation: the field holds a value of one of these kinds; its own field ``kind``, whose default is another in
    each, says of which."""

    kinds: tuple[type["KeptStruct"], ...]


def whole(rule: F) -> F:
    """Mark a method as a rule about a whole value, asked when every field is right. It returns the value, or raises."""
    rule.asked_of = "whole"  # type: ignore[attr-defined]
    return rule


def incoming(change: F) -> F:
    """Mark a static method that may change what comes in before any field is looked at."""
    change.asked_of = "incoming"  # type: ignore[attr-defined]
    return change


class KeptStruct(Struct, frozen=True):
    """A struct of our own making that is also kept: made unchecked; read, written and described as a ``Value`` would be."""

    @classmethod
    def checked(cls, given: Any) -> Self:
        """A struct from plain data by its fields' names, or from one of its kind, which nobody has checked yet. Raises pydantic's
        ValidationError with every mistake, and what the rules of the kind raise."""
        plain = {name: getattr(given, name) for name in cls.__struct_fields__} if isinstance(given, cls) else given
        made: Self = (_CHECKED.get(cls) or _checking(cls))(plain)
        return made


def _checking(kind: type[KeptStruct]) -> Made:
    from walkround.core.base import checker

    found = _CHECKED[kind] = checker.checking(kind, _MAKE)
    return found


class _Checked(msgspec.StructMeta):
    """Makes a value only of what was checked."""

    def __new__(mcs, name: str, bases: tuple[type, ...], body: dict[str, Any], **how: Any) -> Any:
        return super().__new__(mcs, name, bases, body, **{"kw_only": True, "cache_hash": True, **how})

    def __call__(cls, **given: Any) -> Any:
        return (_CHECKED.get(cls) or _checking(cls))(given)  # type: ignore[arg-type]


@dataclass_transform(kw_only_default=True, frozen_default=True, field_specifiers=(msgspec.field,))
class Value(KeptStruct, metaclass=_Checked, frozen=True):
    """An immutable value. Unknown names are refused, so that a spelling mistake never passes silently.

    Its methods are named as in pydantic, which readers know.
    """

    @classmethod
    def trusted(cls, **values: Any) -> Self:
        """A value from what was checked when it came in: for the thousands that are read from a table."""
        made: Self = _MAKE(cls, **values)
        return made

    @classmethod
    def checked(cls, given: Any) -> Self:
        """The value itself, which was checked when it was made, or one from plain data. Raises as for a struct."""
        if isinstance(given, cls):
            return given
        made: Self = (_CHECKED.get(cls) or _checking(cls))(given)
        return made

    @classmethod
    def model_validate(cls, given: Any) -> Self:
        """As ``checked``."""
        return cls.checked(given)

    @classmethod
    def model_validate_json(cls, text: str | bytes) -> Self:
        """A value from its JSON. Raises ValueError when it is none, and what ``checked`` raises."""
        return cls.checked(msgspec.json.decode(text))

    @classmethod
    def model_json_schema(cls) -> dict[str, Any]:
        """What its JSON looks like. Source: JSON Schema 2020-12."""
        from walkround.core.base import checker

        return checker.json_schema(cls)

    def model_copy(self, *, update: Mapping[str, Any] | None = None) -> Self:
        """Another value, with these fields instead: trusted, not checked."""
        return replace(self, **(update or {}))

    def model_dump(
        self, *, mode: str = "python", include: Collection[str] = (), exclude: Collection[str] = ()
    ) -> dict[str, Any]:
        """Its fields as a dictionary, and theirs; in the mode "json" only what JSON knows. ``include``: only these names."""
        plain = as_json if mode == "json" else _as_python
        return {
            name: plain(getattr(self, name))
            for name in self.__struct_fields__
            if name not in exclude and (not include or name in include)
        }

    def model_dump_json(self) -> str:
        """Its JSON, in the order of its fields."""
        return msgspec.json.encode(as_json(self)).decode()


_PLAIN = frozenset({str, int, float, bool, type(None)})


def as_json(thing: Any) -> Any:
    """A field of a value in what JSON knows. Raises TypeError for what no value holds."""
    kind = type(thing)
    if kind in _PLAIN:
        return thing
    if kind is tuple or kind is list:
        return [as_json(one) for one in thing]
    if isinstance(thing, Struct):
        return {name: as_json(getattr(thing, name)) for name in thing.__struct_fields__}
    if isinstance(thing, Enum):
        return thing.value
    if kind is dict:
        return {str(as_json(name)): as_json(value) for name, value in thing.items()}
    if kind is frozenset:
        return sorted(as_json(one) for one in thing)  # sets have no order; a record needs one, or its hash would differ
    if isinstance(thing, datetime | date):
        return msgspec.to_builtins(thing)
    raise TypeError(f"{kind.__name__} is not kept")


def _as_python(thing: Any) -> Any:
    if type(thing) is tuple:
        return tuple(_as_python(one) for one in thing)
    if isinstance(thing, Struct):
        return {name: _as_python(getattr(thing, name)) for name in thing.__struct_fields__}
    if type(thing) is dict:
        return {name: _as_python(value) for name, value in thing.items()}
    return thing
