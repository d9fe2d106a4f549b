"""Marks of a plan: the quick look at a box never says no wrongly."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from walkround.core.field import planar_geometry
from walkround.core.field.marks import Mark, MarkKind, spot


class Within(unittest.TestCase):
    @given(
        st.lists(st.tuples(st.floats(-300, 300), st.floats(-300, 300)), min_size=1, max_size=4, unique=True),
        st.floats(0, 30),
        st.floats(0, 60),
    )
    def test_the_quick_no_is_never_wrong(self, points: list[tuple[float, float]], radius: float, most: float) -> None:
        mark = Mark(kind=MarkKind.TREES, spots=tuple(spot(p) for p in points), height_m=5, radius_m=radius)
        area = [(-40.0, 10.0), (50.0, 20.0), (30.0, 70.0)]
        if mark.gap_m(area, closed=True) <= most:
            self.assertTrue(mark.within(planar_geometry.bounding_box(area), most + 0.001))
