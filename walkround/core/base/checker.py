"""What checks the values of a kind, by the types of its fields: pydantic's core. Loaded when the first value is checked.

The types that a field may have are few, so the schema is written here straight from them: what reads any Python type (pydantic's
models) takes six times as long for it, and a page waits for the kinds that it meets first.
"""

from collections.abc import Callable
from datetime import date, datetime
from enum import Enum, StrEnum
from types import NoneType, UnionType
from typing import Annotated, Any, Literal, Union, get_args, get_origin, get_type_hints

from pydantic_core import PydanticCustomError, SchemaValidator, core_schema

from walkround.core.base.struct import default_of, names_with_default
from walkround.core.base.value import Allowed, ByKind, KeptStruct, as_json

Schema = core_schema.CoreSchema
Made = Callable[[Any], Any]
_PLAIN: dict[Any, Callable[[], Schema]] = {
    Any: core_schema.any_schema,
    bool: core_schema.bool_schema,
    int: core_schema.int_schema,
    float: core_schema.float_schema,
    str: core_schema.str_schema,
    date: core_schema.date_schema,
    datetime: core_schema.datetime_schema,
    NoneType: core_schema.none_schema,
}

_BOUNDED = {"int", "float", "str", "tuple", "dict", "frozenset", "list"}


class _Schemas:
    """Schemas of types; each kind of value inside checks itself, so that its checker is made only when one comes."""

    def of_kind(self, kind: type[KeptStruct]) -> Schema:
        """The fields of a kind: all of them right, none unknown, none missing."""
        hints = get_type_hints(kind, include_extras=True)
        usual = names_with_default(kind)
        fields = {
            name: core_schema.typed_dict_field(self.field(kind, name, hints[name]), required=name not in usual)
            for name in kind.__struct_fields__
        }
        return core_schema.typed_dict_schema(fields, cls=kind, cls_name=kind.__name__, extra_behavior="forbid")

    def field(self, kind: type[KeptStruct], name: str, hint: Any) -> Schema:
        """The schema of one field."""
        return self.of(hint)

    def of(self, hint: Any) -> Schema:
        """The schema of a type. Raises TypeError for one that no field of a value has."""
        origin, inner = get_origin(hint), get_args(hint)
        if origin is Annotated:
            return self._noted(inner[0], hint.__metadata__)
        if hint in _PLAIN:
            return _PLAIN[hint]()
        if origin in (Union, UnionType):
            others = [self.of(one) for one in inner if one is not NoneType]
            one = others[0] if len(others) == 1 else core_schema.union_schema(others)  # type: ignore[arg-type]
            return core_schema.nullable_schema(one) if NoneType in inner else one
        if origin is tuple:
            each = [self.of(one) for one in inner if one is not ...]
            return core_schema.tuple_schema(each, variadic_item_index=0 if ... in inner else None)
        if origin is dict:
            return core_schema.dict_schema(*map(self.of, inner))
        if origin in (list, frozenset):
            row = core_schema.list_schema if origin is list else core_schema.frozenset_schema
            return row(self.of(inner[0]))
        if origin is Literal:
            return core_schema.literal_schema(list(inner))
        if isinstance(hint, type) and issubclass(hint, Enum):
            return self.of_names(hint)
        if isinstance(hint, type) and issubclass(hint, KeptStruct):
            return self.of_value(hint)
        raise TypeError(f"There is no check for {hint}")

    def of_names(self, names: type[Enum]) -> Schema:
        """One of a few names."""
        kind: Any = "str" if issubclass(names, StrEnum) else "int" if issubclass(names, int) else None
        return core_schema.enum_schema(names, list(names.__members__.values()), sub_type=kind)

    def of_value(self, kind: type[KeptStruct]) -> Schema:
        """A value of a kind."""
        return core_schema.no_info_plain_validator_function(kind.checked)

    def by_kind(self, one_of: ByKind) -> Schema:
        """A value of one of some kinds: what its ``kind`` says checks it."""
        by_name = _by_name(one_of)

        def check(given: Any) -> Any:
            if isinstance(given, one_of.kinds):
                return type(given).checked(given)
            told = str(given.get("kind")) if isinstance(given, dict) else ""
            if told not in by_name:
                raise PydanticCustomError("kind", "There is no kind of this name: {told}", {"told": told})
            return by_name[told].checked(given)

        return core_schema.no_info_plain_validator_function(check)

    def _noted(self, hint: Any, notes: tuple[Any, ...]) -> Schema:
        """A type with what is noted on it; a note that is not ours is somebody else's."""
        for note in notes:
            if isinstance(note, ByKind):
                return self.by_kind(note)
        schema = self.of(hint)
        for note in notes:
            if isinstance(note, Allowed):
                inner: Any = schema["schema"] if schema["type"] == "nullable" else schema
                if inner["type"] not in _BOUNDED:
                    raise TypeError(f"No bounds are known for {hint}")
                inner |= {name: most for name in note.__struct_fields__ if (most := getattr(note, name)) is not None}
        return schema


def _by_name(one_of: ByKind) -> dict[str, type[KeptStruct]]:
    return {default_of(kind, "kind"): kind for kind in one_of.kinds}


class _Described(_Schemas):
    """The same for those who read them: with what a field is when nothing is given, and every kind under its name, once."""

    def __init__(self) -> None:
        self.named: dict[type, Schema | None] = {}

    def field(self, kind: type[KeptStruct], name: str, hint: Any) -> Schema:
        """The schema of one field, with its default."""
        schema = self.of(hint)
        if name not in names_with_default(kind):
            return schema
        return core_schema.with_default_schema(schema, default=as_json(default_of(kind, name)))

    def of_names(self, names: type[Enum]) -> Schema:
        """One of a few names, under the name of them all."""
        return self._named(names, super().of_names)

    def of_value(self, kind: type[KeptStruct]) -> Schema:
        """A value of a kind, under its name."""
        return self._named(kind, self.of_kind)

    def by_kind(self, one_of: ByKind) -> Schema:
        """A value of one of some kinds, told apart by their ``kind``."""
        kinds = {name: self.of_value(kind) for name, kind in _by_name(one_of).items()}
        return core_schema.tagged_union_schema(kinds, discriminator="kind")

    def _named(self, kind: Any, make: Callable[[Any], Schema]) -> Schema:
        name = f"{kind.__module__}.{kind.__qualname__}:{id(kind)}"
        if kind not in self.named:
            self.named[kind] = None
            self.named[kind] = {**make(kind), "ref": name}
        return core_schema.definition_reference_schema(name)


def json_schema(kind: type[KeptStruct]) -> dict[str, Any]:
    """What its JSON looks like. Source: JSON Schema 2020-12."""
    from pydantic.json_schema import GenerateJsonSchema

    described = _Described()
    whole = described.of_value(kind)
    named = [schema for schema in described.named.values() if schema is not None]
    return GenerateJsonSchema().generate(core_schema.definitions_schema(whole, named))


def checking(kind: type[KeptStruct], make: Callable[..., Any]) -> Made:
    """What makes a value of a kind from plain data: changed before, field by field, made, then the rules about the whole."""
    validate = SchemaValidator(_Schemas().of_kind(kind)).validate_python
    changes, rules = _marked(kind, "incoming"), _marked(kind, "whole")

    def read(given: Any) -> Any:
        for change in changes:
            given = change(given)
        value = make(kind, **validate(given))
        for rule in rules:
            value = rule(value)
        return value

    return read if changes or rules else lambda given: make(kind, **validate(given))


def _marked(kind: type, how: str) -> list[Callable[[Any], Any]]:
    """Its methods with a mark, those of the kinds that it builds on first."""
    names = dict.fromkeys(
        name
        for base in reversed(kind.__mro__)
        for name, thing in vars(base).items()
        if getattr(thing, "asked_of", "") == how
    )
    return [getattr(kind, name) for name in names]
