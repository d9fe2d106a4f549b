"""The bases of values that are ours from the start: worked out here, never read from outside, so checked by the type checker and
not again.

What comes in from a form, a file or the store is a ``Value``, whose every field is checked. These cost a twentieth of it to make
and to define; there are thousands in a round.
"""

from typing import Any, get_type_hints

import msgspec
from pydantic import GetCoreSchemaHandler, create_model
from pydantic_core import core_schema

from walkround.core.base.value import Value


class Struct(msgspec.Struct, frozen=True, weakref=True):
    """An immutable value of our own making, equal to another of its class with equal fields. A wrong name raises TypeError."""


def _default(field: msgspec.structs.FieldInfo) -> Any:
    if field.required:
        return ...
    return field.default if field.default_factory is msgspec.NODEFAULT else field.default_factory()


def default_of(kind: type[Struct], name: str) -> Any:
    """What a field has where nothing else is given. Raises KeyError where something must be."""
    fields, defaults = kind.__struct_fields__, kind.__struct_defaults__
    known = dict(zip(fields[len(fields) - len(defaults) :], defaults, strict=True))
    if known[name] is msgspec.NODEFAULT:
        raise KeyError(name)
    return known[name]


class KeptStruct(Struct, frozen=True):
    """A struct that is also kept: as a field of a ``Value`` it is read, checked, written and described as a ``Value`` would be."""

    @classmethod
    def __get_pydantic_core_schema__(cls, source: Any, handler: GetCoreSchemaHandler) -> core_schema.CoreSchema:
        """How pydantic checks it. Source: pydantic's manual, custom types."""
        hints = get_type_hints(cls, include_extras=True)
        fields: dict[str, Any] = {
            field.name: (hints[field.name], _default(field)) for field in msgspec.structs.fields(cls)
        }
        checked = create_model(cls.__name__, __doc__=cls.__doc__, __base__=Value, __module__=cls.__module__, **fields)

        def check(given: Any, inner: core_schema.ValidatorFunctionWrapHandler) -> Any:
            return cls(**inner(msgspec.structs.asdict(given) if isinstance(given, cls) else given).__dict__)

        return core_schema.no_info_wrap_validator_function(
            check,
            handler(checked),
            serialization=core_schema.plain_serializer_function_ser_schema(msgspec.to_builtins),
        )
