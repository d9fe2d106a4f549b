"""What is kept beside a value is what would be worked out anew, for this value and no other."""

import copy
import gc
import pickle
import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.support import SITE
from walkround.core.base.kept import kept, number_kept
from walkround.core.base.value import Value
from walkround.core.field.marks import MarkKind, mark_at

asked: list[float] = []


class Square(Value):
    side_m: float

    @kept
    def area(self, times: float = 1) -> float:
        asked.append(times)
        if times < 0:
            raise ValueError("less than none")
        return self.side_m**2 * times


class Kept(unittest.TestCase):
    def setUp(self) -> None:
        asked.clear()

    def test_worked_out_once_for_each_argument(self) -> None:
        square = Square(side_m=3)
        self.assertEqual(
            [square.area(), square.area(), square.area(2), square.area(times=2), square.area(2)], [9, 9, 18, 18, 18]
        )
        self.assertEqual(asked, [1, 2, 2])

    def test_a_copy_begins_with_nothing(self) -> None:
        square = Square(side_m=3)
        square.area()
        for other in (square.model_copy(update={"side_m": 5}), copy.copy(square).model_copy(update={"side_m": 5})):
            self.assertEqual(other.area(), 25)
        self.assertEqual(pickle.loads(pickle.dumps(square)).area(), 9)

    def test_equality_and_stored_form_know_nothing_of_it(self) -> None:
        one, other = Square(side_m=3), Square(side_m=3)
        one.area()
        self.assertEqual((one, hash(one), one.model_dump_json()), (other, hash(other), other.model_dump_json()))

    def test_a_mistake_is_not_kept(self) -> None:
        square = Square(side_m=3)
        for _ in range(2):
            with self.assertRaises(ValueError):
                square.area(-1)
        self.assertEqual(asked, [-1, -1])

    def test_what_is_gone_leaves_nothing(self) -> None:
        gc.collect()
        before = number_kept()
        for side in range(50):
            Square(side_m=side).area()
        gc.collect()
        self.assertEqual(number_kept(), before)

    @given(st.lists(st.tuples(st.floats(0, 359), st.floats(1, 300), st.floats(1, 60)), max_size=6), st.floats(10, 400))
    def test_a_field_that_is_changed_is_judged_anew(
        self, things: list[tuple[float, float, float]], radius_m: float
    ) -> None:
        site = SITE
        for bearing, away, tall in things:
            site.tallest(5.0)
            site = site.model_copy(update={"marks": (*site.marks, mark_at(MarkKind.TREE, bearing, away, tall))})
        site = site.model_copy(update={"flight_radius_m": radius_m})
        again = type(site).model_validate(site.model_dump())
        self.assertEqual(
            (site.tallest(5.0), site.nearest(), site.flight_polygon()),
            (again.tallest(5.0), again.nearest(), again.flight_polygon()),
        )
