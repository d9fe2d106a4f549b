"""What checks a value, against pydantic's own models of the same fields: what is taken, refused, said, written and described."""

import json
import unittest
from datetime import UTC, datetime
from enum import StrEnum
from typing import Annotated, Any, get_type_hints

from hypothesis import given
from hypothesis import strategies as st
from pydantic import BaseModel, ConfigDict, Field, ValidationError, model_validator
from pydantic_core import SchemaValidator

from walkround.core.base.checker import _Schemas, json_schema
from walkround.core.base.struct import default_of, names_with_default
from walkround.core.base.value import Allowed, ByKind, KeptStruct, Value, incoming, whole
from walkround.web import app


class Kind(StrEnum):
    FAR = "far"
    NEAR = "near"


class Stop(KeptStruct, frozen=True, kw_only=True):
    """A stop."""

    distance_m: float
    kind: Kind = Kind.FAR


class Way(Value):
    """A way."""

    stops: Annotated[tuple[Stop, ...], Allowed(max_length=2)]
    named: dict[str, Stop] = {}
    name: Annotated[str, Allowed(min_length=1, pattern="^[a-z]+$")] = "a"


class Trip(Value):
    """With values inside."""

    way: Way
    spare: Way | None = None
    many: Annotated[int | None, Allowed(ge=1, lt=9)] = None
    at: datetime | None = None
    marks: frozenset[Kind] = frozenset()

    @incoming
    @staticmethod
    def from_before(given: Any) -> Any:
        """It had another name."""
        return {"way": given["path"]} if isinstance(given, dict) and set(given) == {"path"} else given

    @whole
    def more_than_one(self) -> "Trip":
        """A spare way is another one."""
        if self.spare is not None and self.spare == self.way:
            raise ValueError("the spare way is the same")
        return self


class Model(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")


class StopModel(Model):
    """A stop."""

    distance_m: float
    kind: Kind = Kind.FAR


class WayModel(Model):
    """A way."""

    stops: tuple[StopModel, ...] = Field(max_length=2)
    named: dict[str, StopModel] = {}
    name: str = Field(default="a", min_length=1, pattern="^[a-z]+$")


class TripModel(Model):
    """With values inside."""

    way: WayModel
    spare: WayModel | None = None
    many: int | None = Field(default=None, ge=1, lt=9)
    at: datetime | None = None
    marks: frozenset[Kind] = frozenset()

    @model_validator(mode="before")
    @classmethod
    def from_before(cls, given: Any) -> Any:
        return {"way": given["path"]} if isinstance(given, dict) and set(given) == {"path"} else given

    @model_validator(mode="after")
    def more_than_one(self) -> "TripModel":
        if self.spare is not None and self.spare == self.way:
            raise ValueError("the spare way is the same")
        return self


def _or_odd(good: st.SearchStrategy[Any]) -> st.SearchStrategy[Any]:
    """Mostly what fits; now and then what does not."""
    return st.one_of(good, good, good, st.sampled_from([None, "", "x", "3", -1, 2.5, True, [], {}, {"more": 1}]))


STOPS = st.fixed_dictionaries(
    {"distance_m": _or_odd(st.floats(allow_nan=False, allow_infinity=False) | st.integers(-(10**15), 10**15))},
    optional={"kind": _or_odd(st.sampled_from(["far", "near", Kind.FAR])), "other": st.just(1)},
)
WAYS = st.fixed_dictionaries(
    {"stops": _or_odd(st.lists(STOPS, max_size=3))},
    optional={"named": _or_odd(st.dictionaries(st.text(max_size=2), STOPS, max_size=2)), "name": _or_odd(st.just("b"))},
)
TIMES = st.datetimes(timezones=st.sampled_from([UTC])).map(lambda at: at.isoformat()) | st.sampled_from(
    ["2026-05-16T09:40+02:00", "2026-05-16T09:40:00.250Z", "2026-05-16", "soon", 0]
)
TRIPS = st.fixed_dictionaries(
    {"way": _or_odd(WAYS)},
    optional={
        "spare": st.none() | WAYS,
        "many": _or_odd(st.integers(-2, 12)),
        "at": TIMES,
        "marks": _or_odd(st.lists(st.sampled_from(["far", "near"]))),
        "path": WAYS,
    },
) | st.fixed_dictionaries({"path": WAYS})


def _said(kind: Any, given: Any) -> Any:
    """What is written of what was read; or the places of the mistakes, and what is said of them."""
    try:
        made = kind.model_validate(given)
    except ValidationError as error:
        return sorted(
            (e["loc"], e["msg"].replace("or instance of WayModel", "").replace(" or instance of StopModel", "").strip())
            for e in error.errors()
        )
    written = made.model_dump(mode="json")
    written["marks"] = sorted(written["marks"])
    return json.dumps(written)


class AgainstModels(unittest.TestCase):
    @given(TRIPS)
    def test_the_same_is_taken_refused_said_and_written(self, given_: Any) -> None:
        self.assertEqual(_said(Trip, given_), _said(TripModel, given_))

    @given(TRIPS)
    def test_made_by_name_it_is_checked_as_read(self, given_: Any) -> None:
        try:
            read: Any = Trip.model_validate(given_)
        except ValidationError as error:
            with self.assertRaises(ValidationError) as made:
                Trip(**given_)
            self.assertEqual(str(made.exception), str(error))
        else:
            self.assertEqual(Trip(**given_), read)
            self.assertEqual(Trip.model_validate_json(read.model_dump_json()), read)
            self.assertEqual(Trip.model_validate(read.model_dump()), read)
            self.assertIs(Trip.model_validate(read), read)

    def test_it_is_described_as_a_model_would_be(self) -> None:
        text = json.dumps(TripModel.model_json_schema()).replace("Model", "")
        self.assertEqual(json.loads(text), json_schema(Trip))


class Structs(unittest.TestCase):
    """A struct of our own making inside a value: nobody has checked it yet."""

    @given(st.integers(-(10**6), 10**6))
    def test_what_is_put_in_is_written_as_it_will_be_read(self, number: int) -> None:
        """A whole number where a fraction may stand is written as one, or a signature would not hold after reading."""
        way = Way(stops=(Stop(distance_m=number),))
        self.assertIs(type(way.stops[0].distance_m), float)
        self.assertEqual(Way.model_validate_json(way.model_dump_json()).model_dump_json(), way.model_dump_json())

    def test_what_does_not_fit_is_refused(self) -> None:
        with self.assertRaises(ValidationError):
            Way(stops=(Stop(distance_m="x"),))  # type: ignore[arg-type]


class Red(Value):
    kind: str = "red"
    depth: int


class Blue(Value):
    kind: str = "blue"
    name: str


class Holds(Value):
    one: Annotated[Value, ByKind(kinds=(Red, Blue))]


class Kinds(unittest.TestCase):
    def test_what_it_says_it_is_checks_it(self) -> None:
        self.assertEqual(Holds.model_validate({"one": {"kind": "red", "depth": "3"}}).one, Red(depth=3))
        self.assertEqual(Holds(one=Blue(name="b")).one, Blue(name="b"))

    def test_no_other_and_nothing_else_is_taken(self) -> None:
        for one, where in (
            ({"kind": "red", "name": "b"}, ("one", "depth")),
            ({"kind": "green"}, ("one",)),
            ({"depth": 3}, ("one",)),
            ({"kind": ["red"]}, ("one",)),
            (None, ("one",)),
            (Holds.trusted(one=Red(depth=3)), ("one",)),
        ):
            with self.subTest(one=one), self.assertRaises(ValidationError) as refused:
                Holds.model_validate({"one": one})
            self.assertEqual(refused.exception.errors()[0]["loc"], where)


class Defaults(unittest.TestCase):
    def test_every_one_is_what_the_check_would_make_of_it(self) -> None:
        """A default is not checked; a whole number where a fraction may stand would be written otherwise than read."""
        app.everything()
        kinds = list(_kinds(KeptStruct))
        self.assertGreater(len(kinds), 80)
        for kind in kinds:
            hints = get_type_hints(kind, include_extras=True)
            for name in names_with_default(kind):
                default = default_of(kind, name)
                with self.subTest(kind=kind.__name__, name=name):
                    self.assertEqual(
                        repr(SchemaValidator(_Schemas().of(hints[name])).validate_python(default)), repr(default)
                    )

    def test_one_made_anew_is_made(self) -> None:
        self.assertEqual(default_of(Way, "named"), {})


def _kinds(of: type[KeptStruct]) -> Any:
    for kind in of.__subclasses__():
        if kind.__module__.startswith("walkround."):
            yield kind
        yield from _kinds(kind)
