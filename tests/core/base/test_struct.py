"""Values of our own making: immutable, equal by their fields, forgiving nothing about names."""

import gc
import json
import unittest
import weakref
from enum import StrEnum
from typing import Any

from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace
from pydantic import ValidationError

from walkround.core.base.kept import kept, number_kept
from walkround.core.base.struct import KeptStruct, Struct, default_of
from walkround.core.base.value import Value


class Leg(Struct, frozen=True, kw_only=True):
    distance_m: float
    words: tuple[str, ...] = ()


class OtherLeg(Struct, frozen=True, kw_only=True):
    distance_m: float
    words: tuple[str, ...] = ()


class Values(unittest.TestCase):
    def test_it_cannot_be_changed_and_a_changed_copy_is_another(self) -> None:
        leg = Leg(distance_m=3)
        with self.assertRaises(AttributeError):
            leg.distance_m = 4  # type: ignore[misc]
        self.assertEqual((replace(leg, distance_m=4).distance_m, leg.distance_m), (4, 3))

    def test_what_a_field_is_when_nothing_is_given(self) -> None:
        self.assertEqual(default_of(Leg, "words"), Leg(distance_m=1).words)
        for name in ("distance_m", "nothing"):
            with self.assertRaises(KeyError):
                default_of(Leg, name)

    def test_wrong_missing_and_unnamed_fields_are_refused(self) -> None:
        for made in (
            lambda: Leg(distance=3),
            lambda: Leg(),
            lambda: Leg(3),
            lambda: replace(Leg(distance_m=3), distance=4),
        ):  # type: ignore[call-arg,misc]
            with self.assertRaises(TypeError):
                made()

    def test_equal_and_hashed_by_class_and_fields(self) -> None:
        self.assertEqual((Leg(distance_m=3), hash(Leg(distance_m=3))), (Leg(distance_m=3), hash(Leg(distance_m=3))))
        self.assertNotEqual(Leg(distance_m=3), Leg(distance_m=3, words=("a",)))
        self.assertNotEqual(Leg(distance_m=3), OtherLeg(distance_m=3))

    def test_what_is_kept_beside_it_goes_with_it(self) -> None:
        @kept
        def doubled(leg: Leg) -> float:
            return leg.distance_m * 2

        before, leg = number_kept(), Leg(distance_m=3)
        self.assertEqual((doubled(leg), number_kept()), (6, before + 1))
        gone = weakref.ref(leg)
        del leg
        gc.collect()
        self.assertEqual((gone(), number_kept()), (None, before))


class Kind(StrEnum):
    FAR = "far"
    NEAR = "near"


class Stop(KeptStruct, frozen=True, kw_only=True):
    """A stop."""

    distance_m: float
    kind: Kind = Kind.FAR


class Way(KeptStruct, frozen=True, kw_only=True):
    """A way."""

    stops: tuple[Stop, ...]
    named: dict[str, Stop] = {}


class StopValue(Value):
    """A stop."""

    distance_m: float
    kind: Kind = Kind.FAR


class WayValue(Value):
    """A way."""

    stops: tuple[StopValue, ...]
    named: dict[str, StopValue] = {}


class Trip(Value):
    """With structs inside."""

    way: Way
    spare: Way | None = None


class TripValue(Value):
    """The same, with nothing but values."""

    way: WayValue
    spare: WayValue | None = None


STOPS = st.builds(
    dict,
    distance_m=st.one_of(st.floats(allow_nan=False, allow_infinity=False), st.integers(-(10**15), 10**15)),
    kind=st.sampled_from(["far", "near"]),
)
WAYS = st.builds(dict, stops=st.lists(STOPS, max_size=3), named=st.dictionaries(st.text(max_size=3), STOPS, max_size=2))


class InAValue(unittest.TestCase):
    """A struct that is kept is read, written and described as a value would be."""

    @given(WAYS, st.none() | WAYS)
    def test_read_and_written_as_a_value_would_be(self, way: dict[str, Any], spare: dict[str, Any] | None) -> None:
        one, other = (kind.model_validate({"way": way, "spare": spare}) for kind in (Trip, TripValue))
        self.assertEqual(one.model_dump_json(), other.model_dump_json())
        self.assertEqual(json.dumps(one.model_dump(mode="json")), json.dumps(other.model_dump(mode="json")))
        again = Trip.model_validate_json(one.model_dump_json())
        self.assertEqual(
            again.model_dump_json(), TripValue.model_validate_json(other.model_dump_json()).model_dump_json()
        )

    @given(st.integers(-(10**6), 10**6))
    def test_what_is_put_in_is_written_as_it_will_be_read(self, whole: int) -> None:
        """A whole number where a fraction may stand is written as one, or a signature would not hold after reading."""
        trip = Trip(way=Way(stops=(Stop(distance_m=whole),)))
        self.assertIs(type(trip.way.stops[0].distance_m), float)
        self.assertEqual(Trip.model_validate_json(trip.model_dump_json()).model_dump_json(), trip.model_dump_json())

    def test_what_does_not_fit_is_refused(self) -> None:
        for way in ({}, {"stops": [{}]}, {"stops": [{"distance_m": "far"}]}, {"stops": [], "more": 1}, 3, None,
                    {"stops": [{"distance_m": 1, "kind": "middling"}]}, Way(stops=(Stop(distance_m="x"),))):  # fmt: skip  # type: ignore[arg-type]
            with self.subTest(way=way), self.assertRaises(ValidationError):
                Trip.model_validate({"way": way})

    def test_it_is_described_as_a_value_would_be(self) -> None:
        text = json.dumps(TripValue.model_json_schema()).replace("WayValue", "Way").replace("StopValue", "Stop")
        text = text.replace("TripValue", "Trip").replace("The same, with nothing but values.", "With structs inside.")
        self.assertEqual(json.loads(text), Trip.model_json_schema())
