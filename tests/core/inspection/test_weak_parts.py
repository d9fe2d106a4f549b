"""Parts that fail across the hangar: counted by aircraft, never by snag."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from walkround.core.aircraft.presets import PRESETS
from walkround.core.inspection.touched import damageable
from walkround.core.inspection.weak_parts import FEWEST, weak_parts

QUADS = [PRESETS["camera-quad"].model_copy(update={"id": number}) for number in (1, 2, 3, 4)]
WING = PRESETS["foam-trainer"].model_copy(update={"id": 9})
IDS = [part.id for part in damageable(QUADS[0])]


class Named(unittest.TestCase):
    def test_three_of_four(self) -> None:
        found = weak_parts([*QUADS, WING], [(1, "arm-1"), (2, "arm-1"), (4, "arm-1"), (1, "arm-2"), (9, "wing-joint")])
        self.assertEqual([(w.failed, w.have) for w in found], [(3, 4)])
        self.assertRegex(found[0].words(), r"^Front .* arm: on 3 of 4 \(multirotor\)$")

    def test_one_aircraft_many_times_is_not_the_hangar(self) -> None:
        self.assertEqual(weak_parts(QUADS, [(1, "arm-1")] * 9), ())

    def test_half_is_not_most(self) -> None:
        self.assertEqual(weak_parts(QUADS, [(1, "arm-1"), (2, "arm-1")]), ())

    def test_a_part_or_an_aircraft_that_is_gone_is_passed_over(self) -> None:
        self.assertEqual(weak_parts(QUADS, [(1, "arm-9"), (7, "arm-1"), (2, "arm-9")]), ())

    @given(st.lists(st.tuples(st.integers(1, 4), st.sampled_from(IDS)), max_size=30), st.integers(1, 4))
    def test_more_snags_never_name_fewer(self, snags: list[tuple[int, str]], also: int) -> None:
        before = {weak.name for weak in weak_parts(QUADS, snags)}
        after = weak_parts(QUADS, [*snags, (also, IDS[0])])
        self.assertLessEqual(before, {weak.name for weak in after})
        self.assertTrue(all(FEWEST <= weak.failed <= weak.have for weak in after))
