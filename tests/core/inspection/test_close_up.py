"""Close-ups: a target of 48 pixels or more for every part of every aircraft, none over another, near what it means; kinds look as they do."""

import itertools
import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.support import variants
from walkround.core.aircraft.presets import PRESETS
from walkround.core.aircraft.traits import Trait
from walkround.core.inspection.close_up import _drawn, close_up
from walkround.core.inspection.close_up.strokes import APART, HEIGHT, TARGET_R, WIDTH, blade, box, ring, spread
from walkround.core.inspection.touched import stops

EVERY = (*PRESETS.values(), *variants())


class Targets(unittest.TestCase):
    def test_each_part_has_one_and_none_is_over_another(self) -> None:
        for aircraft in EVERY:
            for stop in stops(aircraft):
                drawn = close_up(aircraft, stop)
                self.assertEqual(
                    [s.part_id for s in drawn.spots], [p.id for p in stop.parts], (aircraft.name, stop.key)
                )
                for one, other in itertools.combinations(drawn.spots, 2):
                    apart = math.hypot(one.x - other.x, one.y - other.y)
                    self.assertGreaterEqual(apart, 2 * TARGET_R, (aircraft.name, stop.key, one.part_id, other.part_id))
                for spot in drawn.spots:
                    self.assertTrue(TARGET_R <= spot.x <= WIDTH - TARGET_R and TARGET_R <= spot.y <= HEIGHT - TARGET_R)

    def test_each_part_has_its_own_place_on_the_drawing(self) -> None:
        for aircraft in EVERY:
            for stop in stops(aircraft):
                strokes, places = _drawn(aircraft, stop.key)
                self.assertTrue(strokes)
                self.assertEqual({p.id for p in stop.parts} - set(places), set(), (aircraft.name, stop.key))

    @given(
        st.dictionaries(
            st.text("abc", min_size=1, max_size=3), st.tuples(st.floats(-50, 400), st.floats(-50, 350)), max_size=28
        )
    )
    def test_spread_wherever_they_were(self, anchors: dict[str, tuple[float, float]]) -> None:
        spots = spread(anchors)
        self.assertEqual([spot.part_id for spot in spots], list(anchors))
        for one, other in itertools.combinations(spots, 2):
            self.assertGreaterEqual(math.hypot(one.x - other.x, one.y - other.y), 2 * TARGET_R)
        for spot in spots:
            self.assertTrue(TARGET_R <= spot.x <= WIDTH - TARGET_R and TARGET_R <= spot.y <= HEIGHT - TARGET_R)

    def test_what_has_room_stays_where_it_is(self) -> None:
        spots = spread({"a": (60, 60), "b": (60 + APART + 1, 60)})
        self.assertFalse(any(spot.apart for spot in spots))
        self.assertTrue(any(spot.apart for spot in spread({"a": (60, 60), "b": (70, 60)})))


class Looks(unittest.TestCase):
    """Kinds look as they do: common practice, no source."""

    def paths(self, key: str, stop: str) -> str:
        return " ".join(s.path for s in _drawn(PRESETS[key], stop)[0])

    def test_a_racing_quad_is_no_camera_quad(self) -> None:
        race, camera = PRESETS["race-quad"], PRESETS["camera-quad"]
        self.assertTrue(race.has(Trait.RACING))
        for stop in ("top", "arm-1"):
            self.assertNotEqual(self.paths("race-quad", stop), self.paths("camera-quad", stop), stop)
        self.assertFalse(any("leg" in part.name for part in stops(race)[-1].parts))
        blades = [s for s in _drawn(race, "arm-1")[0] if s.role == "blade"]
        self.assertTrue(all("C" not in s.path for s in blades), "straight blades")
        self.assertTrue(any("C" in s.path for s in _drawn(camera, "arm-1")[0] if s.role == "blade"))

    def test_left_is_left(self) -> None:
        _, left = _drawn(PRESETS["foam-trainer"], "left-wing")
        _, right = _drawn(PRESETS["foam-trainer"], "right-wing")
        self.assertEqual(left["left-aileron"][0], WIDTH - right["right-aileron"][0])
        self.assertLess(
            left["left-aileron"][0],
            WIDTH / 2,
            "the tip of the left wing is on the left, seen from above with the nose up",
        )

    def test_from_below_left_is_on_the_right(self) -> None:
        _, places = _drawn(PRESETS["camera-hexa"], "under")
        self.assertGreater(places["wheels/left"][0], places["wheels/right"][0])

    def test_shapes(self) -> None:
        self.assertTrue(box(0, 0, 10, 6).path.startswith("M-4,-6 h8"))
        self.assertIn("a3,3", ring(0, 0, 3).path)
        self.assertEqual(blade((0, 0), (10, 0), 2).role, "blade")
