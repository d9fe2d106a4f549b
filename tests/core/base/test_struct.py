"""Values of our own making: immutable, equal by their fields, forgiving nothing about names."""

import gc
import unittest
import weakref

from msgspec.structs import replace

from walkround.core.base.kept import kept, number_kept
from walkround.core.base.struct import Struct, default_of


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
