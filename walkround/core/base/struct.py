"""The base of values that are ours from the start: worked out here, never read from outside, so checked by the type checker and
not again.

What comes in from a form, a file or the store is a ``Value``, whose every field is checked.
"""

from typing import Any

import msgspec


class Struct(msgspec.Struct, frozen=True, weakref=True):
    """An immutable value of our own making, equal to another of its class with equal fields. A wrong name raises TypeError."""


def default_of(kind: type[Struct], name: str) -> Any:
    """What a field has where nothing else is given. Raises KeyError where something must be."""
    return _made(_defaults(kind)[name])


def names_with_default(kind: type[Struct]) -> frozenset[str]:
    """The fields that need not be given."""
    return frozenset(_defaults(kind))


def _defaults(kind: type[Struct]) -> dict[str, Any]:
    fields, defaults = kind.__struct_fields__, kind.__struct_defaults__
    usual = zip(fields[len(fields) - len(defaults) :], defaults, strict=True)
    return {name: value for name, value in usual if value is not msgspec.NODEFAULT}


def _made(value: Any) -> Any:
    return value.factory() if isinstance(value, _MADE_ANEW) else value


class _Listed(msgspec.Struct):
    rows: list[int] = []


_MADE_ANEW = type(_Listed.__struct_defaults__[0])
