"""Coming home: the wind triangle by vectors, heights and obstacles point by point, and what it all takes."""

import cmath
import math
import unittest

from hypothesis import assume, given
from hypothesis import strategies as st

from tests.support import PACK, SITE, dry_weather
from walkround.core.aircraft.presets import PRESETS
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Level
from walkround.core.field.marks import Mark, MarkKind, mark_at
from walkround.core.field.site import Terrain
from walkround.core.flight.estimate import endurance
from walkround.core.flight.home import (
    CLIMB_MS,
    DESCENT_MS,
    Place,
    Trip,
    homeward,
    judge_cost,
    tallest_on_way,
    turn_backs,
    way_home,
    wind_triangle,
)
from walkround.core.flight.plan_of_flight import LANDING_MIN
from walkround.core.pilot.limits import Limits

QUAD, TRAINER = PRESETS["camera-quad"], PRESETS["foam-trainer"]
KNOWN, WING = endurance(QUAD, PACK), endurance(TRAINER, PACK)
LIMITS = Limits()
OPEN = SITE.model_copy(update={"marks": (), "flight_radius_m": 200})
FAR = Place(distance_m=200, height_m=30)
ANGLE = st.floats(0, 359.9)


def trip(weather, site=OPEN, aircraft=QUAD, known=KNOWN, limits=LIMITS) -> Trip:  # type: ignore[no-untyped-def]
    return Trip(site=site, aircraft=aircraft, known=known, weather=weather, limits=limits)


def thing(bearing: float, away: float, tall: float) -> Mark:
    return mark_at(MarkKind.TREE, bearing, away, tall)


def vector(length: float, towards_deg: float) -> complex:
    """North is real, east imaginary."""
    return cmath.rect(length, math.radians(towards_deg))


class WindTriangle(unittest.TestCase):
    def test_plain_cases(self) -> None:
        """On the nose, on the tail, square across (3-4-5): arithmetic."""
        rows = (
            (10, 0, 4, 0, 6, 0),
            (10, 0, 4, 180, 14, 0),
            (5, 90, 3, 0, 4, 90 - 36.87),
            (5, 90, 3, 180, 4, 90 + 36.87),
        )
        for air, course, wind, from_deg, ground, heading in rows:
            with self.subTest(f"{course} in {wind} from {from_deg}"):
                found = wind_triangle(air, course, wind, from_deg)
                assert found is not None
                self.assertAlmostEqual(found.ground_ms, ground, places=6)
                self.assertAlmostEqual(found.heading_deg, heading % 360, places=2)

    @given(st.floats(3, 40), ANGLE, st.floats(0, 30), ANGLE)
    def test_the_vectors_close(self, air: float, course: float, wind: float, from_deg: float) -> None:
        """Air vector plus wind vector is the ground vector: complex numbers, not the formula under test."""
        found = wind_triangle(air, course, wind, from_deg)
        if found is None:
            across = abs((vector(wind, from_deg + 180) * vector(1, -course)).imag)
            nose = -(vector(wind, from_deg + 180) * vector(1, -course)).real
            self.assertTrue(across > air - 1e-9 or math.sqrt(max(0.0, air**2 - across**2)) <= nose + 1e-9)
            return
        total = vector(air, found.heading_deg) + vector(wind, from_deg + 180)
        self.assertAlmostEqual(abs(total - vector(found.ground_ms, course)), 0, places=6)

    def test_no_airspeed(self) -> None:
        with self.assertRaises(InputError):
            wind_triangle(0, 0, 1, 0)


class Obstacles(unittest.TestCase):
    def test_any_way_counts_all_within_reach(self) -> None:
        site = OPEN.model_copy(update={"marks": (thing(10, 80, 18), thing(200, 214, 25), thing(90, 216, 60))})
        self.assertEqual(tallest_on_way(site, None, 200, 15), 25)
        self.assertEqual(tallest_on_way(site.model_copy(update={"ground_rise_m": 33}), None, 200, 15), 33)
        self.assertEqual(tallest_on_way(OPEN, None, 200, 15), 0)

    @given(ANGLE, st.lists(st.tuples(ANGLE, st.floats(0, 300), st.floats(1, 80)), max_size=6))
    def test_one_way_point_by_point(self, bearing: float, things: list[tuple[float, float, float]]) -> None:
        """What lies within the allowance of any point of the straight way, walked in steps of a metre."""
        site = OPEN.model_copy(update={"marks": tuple(thing(b, d, h) for b, d, h in things)})
        tallest = tallest_on_way(site, bearing, 200, 15)
        for b, d, h in things:
            nearest = min(abs(vector(d, b) - vector(step, bearing)) for step in range(201))
            if nearest <= 14.9:
                self.assertGreaterEqual(tallest, h)

    @given(st.lists(st.tuples(ANGLE, st.floats(0, 300), st.floats(1, 80)), max_size=8), ANGLE)
    def test_any_way_is_the_worst_way(self, things: list[tuple[float, float, float]], bearing: float) -> None:
        site = OPEN.model_copy(update={"marks": tuple(thing(b, d, h) for b, d, h in things)})
        self.assertGreaterEqual(tallest_on_way(site, None, 200, 15), tallest_on_way(site, bearing, 200, 15))


class Ways(unittest.TestCase):
    def test_times_by_hand(self) -> None:
        """From 30 to 60 m at 3 m/s, 200 m at 9 m/s, down 60 m at 2 m/s and half a minute to land: arithmetic."""
        way = way_home(trip(None, OPEN, QUAD, KNOWN), FAR, 60)
        self.assertAlmostEqual(way.climb_min * 60, 30 / CLIMB_MS)
        self.assertAlmostEqual(way.back_min * 60, 200 / way.air_ms)
        self.assertAlmostEqual(way.descent_min * 60, 60 / DESCENT_MS + 60 * LANDING_MIN)
        self.assertEqual((way.ground_ms, way.clearance_m), (way.air_ms, 60))

    def test_it_does_not_come_down_first(self) -> None:
        way = way_home(trip(None, OPEN, QUAD, KNOWN), FAR, 20)
        self.assertEqual((way.height_m, way.climb_min), (30, 0))

    def test_a_known_direction_helps_when_the_wind_is_behind(self) -> None:
        """Wind from the north: from the north it comes home with it, from the south against it."""
        weather = dry_weather(wind_ms=6).model_copy(update={"wind_from_deg": 0.0})
        grounds = [
            way_home(trip(weather, OPEN, QUAD, KNOWN), FAR.model_copy(update={"bearing_deg": b}), 40).ground_ms
            for b in (0.0, 90.0, 180.0)
        ]
        self.assertEqual(grounds, sorted(grounds, reverse=True))
        worst = way_home(trip(weather, OPEN, QUAD, KNOWN), FAR, 40).ground_ms
        self.assertAlmostEqual(worst, grounds[2], places=6)

    def test_it_cannot_come_home(self) -> None:
        way = way_home(trip(dry_weather(wind_ms=15), OPEN, QUAD, KNOWN), FAR, 40)
        self.assertFalse(way.home)
        self.assertEqual(way.percent, 999)

    @given(st.floats(0, 14), st.floats(0, 4), st.floats(20, 110), st.floats(20, 800))
    def test_more_wind_never_costs_less(self, wind: float, more: float, up: float, away: float) -> None:
        place = Place(distance_m=away, height_m=20)
        less, worse = (
            way_home(trip(dry_weather(wind_ms=w), OPEN, TRAINER, WING), place, up) for w in (wind, wind + more)
        )
        self.assertLessEqual(less.percent, worse.percent + 1e-9)

    @given(st.floats(20, 800), st.floats(0, 300), st.floats(0, 9))
    def test_farther_never_costs_less(self, away: float, more: float, wind: float) -> None:
        near, far = (
            way_home(trip(dry_weather(wind_ms=wind), OPEN, QUAD, KNOWN), Place(distance_m=d, height_m=30), 50)
            for d in (away, away + more)
        )
        self.assertLessEqual(near.percent, far.percent + 1e-9)

    def test_lower_is_cheaper_over_open_water_in_wind(self) -> None:
        """Lower over open water in strong wind costs less: common practice, no source; here it is computed."""
        water = OPEN.model_copy(update={"terrain": Terrain.WATER})
        found = homeward(trip(dry_weather(wind_ms=8), water, QUAD, KNOWN), FAR, 110)
        assert found.cheapest is not None
        self.assertLess(found.cheapest.height_m, 40)
        self.assertLess(found.cheapest.percent, found.way.percent)


class Turning(unittest.TestCase):
    def turns(self, **changes: float):  # type: ignore[no-untyped-def]
        weather = dry_weather(wind_ms=changes.pop("wind", 4))
        return turn_backs(trip(weather, limits=LIMITS.model_copy(update=changes)), [50, 100, 200, 400], FAR, 40)

    def test_farther_turns_earlier(self) -> None:
        charges = [t.percent for t in self.turns()]
        self.assertEqual(charges, sorted(charges))  # type: ignore[type-var]
        self.assertGreater(charges[0] or 0, LIMITS.reserve_percent)

    def test_the_reserve_is_on_top(self) -> None:
        one, other = self.turns(), self.turns(reserve_percent=35)
        self.assertEqual([(b.percent or 0) - (a.percent or 0) for a, b in zip(one, other, strict=True)], [15] * 4)

    def test_no_way_home_has_no_charge(self) -> None:
        self.assertEqual([t.percent for t in self.turns(wind=15)], [None] * 4)


class Judged(unittest.TestCase):
    def test_a_costly_height_is_mentioned_and_never_grounds(self) -> None:
        found = homeward(trip(dry_weather(wind_ms=5), OPEN, QUAD, KNOWN), FAR, 115)
        (cost,) = judge_cost(found, setting_m=115)
        self.assertEqual((cost.name, cost.level), ("Cost of the height", Level.CLEAR))

    @given(st.floats(5, 120), st.floats(0, 12))
    def test_heights_offered_are_safe(self, setting: float, wind: float) -> None:
        site = OPEN.model_copy(update={"marks": (thing(10, 80, 18), thing(200, 190, 25))})
        found = homeward(trip(dry_weather(wind_ms=wind), site, QUAD, KNOWN), FAR, setting)
        assume(found.cheapest is not None)
        assert found.cheapest is not None
        self.assertGreaterEqual(found.cheapest.height_m, 35 - 1e-9)
        self.assertGreaterEqual(min(way.clearance_m for way in found.ways), LIMITS.return_margin_m - 1e-9)
