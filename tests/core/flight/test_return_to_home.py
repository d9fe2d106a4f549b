"""Coming home: the wind triangle by vectors, heights and obstacles point by point, and what it all takes."""

import cmath
import math
import unittest

from hypothesis import assume, given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.support import PACK, SITE, dry_weather, said
from walkround.core.aircraft.presets import PRESETS
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Level
from walkround.core.field.marks import Mark, MarkKind, mark_at
from walkround.core.field.site import ROUNDED_M, Terrain
from walkround.core.flight.estimate import endurance
from walkround.core.flight.flight_plan import LANDING_MIN
from walkround.core.flight.power import rotor_power_w
from walkround.core.flight.return_to_home import (
    CLIMB_MS,
    DESCENT_MS,
    Trip,
    TurnPoint,
    homeward,
    judge_cost,
    tallest_on_way,
    turn_backs,
    way_home,
    wind_triangle,
)
from walkround.core.flight.rth_altitude import LEAST_RTH_ALTITUDE_M
from walkround.core.flight.speed_home import strongest_at_ms
from walkround.core.pilot.limits import Limits

QUAD, TRAINER = PRESETS["camera-quad"], PRESETS["foam-trainer"]
KNOWN, WING = endurance(QUAD, PACK), endurance(TRAINER, PACK)
LIMITS = Limits()
OPEN = SITE.model_copy(update={"marks": (), "flight_radius_m": 200})
FAR = TurnPoint(distance_m=200, height_m=30)
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

    def test_just_enough_and_not_quite(self) -> None:
        """On the nose half a metre a second is left, then nothing; a slow airspeed is one too."""
        left = wind_triangle(10, 0, 9.5, 0)
        assert left is not None
        self.assertAlmostEqual(left.ground_ms, 0.5)
        self.assertIsNone(wind_triangle(10, 0, 10, 0))
        self.assertIsNone(wind_triangle(10, 90, 10.1, 0))
        slow = wind_triangle(0.5, 0, 0, 0)
        assert slow is not None
        self.assertEqual(slow.ground_ms, 0.5)

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

    def test_every_number_by_hand(self) -> None:
        """The quad: 780 g, cruise 9, top 16 m/s, in 6 m/s on the nose at 10 m over water; powers by momentum theory.
        Lifting 780 g at 3 m/s takes 7.649 N x 3 / 0.6 = 38.2 W on top of hovering."""
        weather = dry_weather(wind_ms=6)
        calm = OPEN.model_copy(update={"terrain": Terrain.WATER})
        way = way_home(trip(weather, calm), TurnPoint(distance_m=300, height_m=30), 60)
        wind_ms = strongest_at_ms(weather, calm, 60)
        self.assertAlmostEqual(way.wind_ms, wind_ms)
        hover = rotor_power_w(QUAD, KNOWN.density)
        assert hover is not None

        def cost(air_ms: float) -> float:
            there = rotor_power_w(QUAD, KNOWN.density, air_ms)
            assert there is not None
            return 100 * (300 / (air_ms - wind_ms) / 60) * there.mid / hover.mid / KNOWN.today.mid

        self.assertLess(9 - wind_ms, 16 / 3, "cruise leaves too little over the ground")
        self.assertEqual((way.air_ms, way.home), (16, True))
        self.assertAlmostEqual(way.ground_ms, 16 - wind_ms)
        self.assertAlmostEqual(way.back_min, 300 / (16 - wind_ms) / 60)
        self.assertAlmostEqual(way.back_percent, cost(16))
        climb = 1 + 0.78 * 9.80665 * 3 / 0.6 / hover.mid
        self.assertAlmostEqual(way.climb_percent, 100 * (30 / 3 / 60) * climb / KNOWN.today.mid)
        self.assertAlmostEqual(way.descent_percent, 100 * (60 / 2 / 60 + 0.5) / KNOWN.today.mid)
        self.assertAlmostEqual(way.minutes, 10 / 60 + way.back_min + 1.0)
        self.assertAlmostEqual(way.percent, way.climb_percent + way.back_percent + way.descent_percent)
        gentle = way_home(trip(None, calm), TurnPoint(distance_m=300, height_m=30), 60)
        self.assertEqual(
            (gentle.air_ms, gentle.ground_ms, gentle.wind_ms), (9, 9, 0), "of two that get home, the cheaper"
        )
        # a wing climbs at twice its power, and takes the same everywhere
        wing = way_home(trip(None, calm, TRAINER, WING), TurnPoint(distance_m=300, height_m=30), 60)
        self.assertAlmostEqual(wing.climb_percent, 100 * (10 / 60) * 2 / WING.today.mid)
        self.assertEqual(wing.air_ms, 22, "at the same power the faster is the cheaper")
        lost = way_home(trip(dry_weather(wind_ms=20), calm), TurnPoint(distance_m=300, height_m=30), 60)
        self.assertEqual(
            (lost.air_ms, lost.ground_ms, lost.back_min, lost.back_percent, lost.home), (16, 0, 0, 0, False)
        )

    def test_a_bearing_without_a_direction_is_flown_on_the_nose(self) -> None:
        """And a direction without a bearing; a wind that varies over a sector has no direction either."""
        weather = dry_weather(wind_ms=4).model_copy(update={"wind_from_deg": 180.0})
        tail = way_home(trip(weather), replace(FAR, bearing_deg=180.0), 30)
        nose = way_home(trip(weather), replace(FAR, bearing_deg=0.0), 30)
        self.assertLess(nose.ground_ms / nose.air_ms, 1)
        self.assertGreater(nose.ground_ms, 0)
        for case, place in (
            (weather.model_copy(update={"wind_from_deg": None}), replace(FAR, bearing_deg=180.0)),
            (
                weather.model_copy(update={"wind_sector_deg": (150.0, 210.0)}),
                replace(FAR, bearing_deg=180.0),
            ),
            (weather, FAR),
        ):
            self.assertLess(way_home(trip(case), place, 30).ground_ms, tail.ground_ms + 1e-9)
            self.assertEqual(way_home(trip(case), place, 30).ground_ms, way_home(trip(weather), FAR, 30).ground_ms)

    def test_it_does_not_come_down_first(self) -> None:
        way = way_home(trip(None, OPEN, QUAD, KNOWN), FAR, 20)
        self.assertEqual((way.height_m, way.climb_min), (30, 0))

    def test_a_known_direction_helps_when_the_wind_is_behind(self) -> None:
        """Wind from the north: from the north it comes home with it, from the south against it."""
        weather = dry_weather(wind_ms=6).model_copy(update={"wind_from_deg": 0.0})
        grounds = [
            way_home(trip(weather, OPEN, QUAD, KNOWN), replace(FAR, bearing_deg=b), 40).ground_ms
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
        place = TurnPoint(distance_m=away, height_m=20)
        less, worse = (
            way_home(trip(dry_weather(wind_ms=w), OPEN, TRAINER, WING), place, up) for w in (wind, wind + more)
        )
        self.assertLessEqual(less.percent, worse.percent + 1e-9)

    @given(st.floats(20, 800), st.floats(0, 300), st.floats(0, 9))
    def test_farther_never_costs_less(self, away: float, more: float, wind: float) -> None:
        near, far = (
            way_home(trip(dry_weather(wind_ms=wind), OPEN, QUAD, KNOWN), TurnPoint(distance_m=d, height_m=30), 50)
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


class Heights(unittest.TestCase):
    """From the lowest safe height to the ceiling; what stands on the way counts from a rounding error away on."""

    def test_ends_and_steps(self) -> None:
        site = OPEN.model_copy(update={"marks": (thing(90, 100, 40),)})
        limits = LIMITS.model_copy(
            update={"return_margin_m": 15.0, "height_max_m": 120.0, "position_allowance_m": 10.0}
        )
        found = homeward(trip(None, site, limits=limits), FAR, None)
        self.assertEqual((found.lowest_m, found.return_m, found.way.height_m), (55, 55, 55))
        heights = [way.height_m for way in found.ways]
        self.assertEqual((len(heights), heights[0], heights[-1]), (25, 55, 120))
        self.assertAlmostEqual(heights[1] - heights[0], 65 / 24)
        self.assertEqual([way.clearance_m for way in found.ways][0], 15)
        self.assertEqual(homeward(trip(None, site, limits=limits), FAR, 80).way.height_m, 80)
        self.assertEqual(homeward(trip(None, limits=limits), FAR, None).lowest_m, LEAST_RTH_ALTITUDE_M)
        tall = OPEN.model_copy(update={"marks": (thing(90, 100, 130),)})
        self.assertEqual({way.height_m for way in homeward(trip(None, tall, limits=limits), FAR, None).ways}, {145})
        low = OPEN.model_copy(update={"marks": (thing(90, 100, 1),)})
        low_margin = LIMITS.model_copy(update={"return_margin_m": 5.0})
        self.assertEqual(homeward(trip(None, low, limits=low_margin), FAR, None).lowest_m, LEAST_RTH_ALTITUDE_M)

    def test_without_anything_in_the_way_the_margin_is_over_nothing(self) -> None:
        wide = LIMITS.model_copy(update={"return_margin_m": 60.0})
        self.assertEqual(homeward(trip(None, limits=wide), FAR, None).lowest_m, LEAST_RTH_ALTITUDE_M)
        hummock = OPEN.model_copy(update={"marks": (thing(90, 100, 0.5),)})
        self.assertEqual(homeward(trip(None, hummock, limits=wide), FAR, None).lowest_m, 60.5)

    def test_with_a_box_only_what_stands_in_its_reach_counts(self) -> None:
        """A box ahead of the pilot: a tree behind it is not on any way home, one beside it is."""
        from walkround.core.field import field_editor

        boxed = field_editor.flight_area_begun(OPEN)
        here = boxed.flight_polygon()
        middle = (sum(p[0] for p in here) / len(here), sum(p[1] for p in here) / len(here))
        inside = math.degrees(math.atan2(middle[0], middle[1])) % 360
        reach = max(math.hypot(*p) for p in here)
        for bearing, tall in ((inside, 31), ((inside + 180) % 360, 0)):
            site = boxed.model_copy(update={"marks": (thing(bearing, math.hypot(*middle), 31),)})
            self.assertEqual(tallest_on_way(site, None, reach, 5), tall, bearing)
            self.assertEqual(tallest_on_way(site.model_copy(update={"flight_area": ()}), None, reach, 5), 31)

    def test_the_cheapest_of_those_that_get_home_the_lower_of_two_alike(self) -> None:
        found = homeward(trip(dry_weather(wind_ms=9)), FAR, None)
        able = [way for way in found.ways if way.home]
        self.assertLess(0, len(able))
        self.assertLess(len(able), len(found.ways), "too much wind higher up")
        self.assertEqual(found.cheapest.percent, min(way.percent for way in able))
        self.assertIsNone(homeward(trip(dry_weather(wind_ms=25)), FAR, None).cheapest)

    def test_what_stands_at_the_edge_of_the_allowance(self) -> None:
        """A place is rounded to half a metre, which counts with the position's error."""
        for away, counts in ((10.0, True), (10 + ROUNDED_M - 0.01, True), (10 + ROUNDED_M + 0.05, False)):
            beside = vector(100, 0) + vector(away, 90)
            site = OPEN.model_copy(update={"marks": (thing(math.degrees(cmath.phase(beside)), abs(beside), 25),)})
            self.assertEqual(tallest_on_way(site, 0.0, 200, 10), 25 if counts else 0, away)
        for away, counts in ((209.9, True), (210 + ROUNDED_M + 0.1, False)):
            site = OPEN.model_copy(update={"marks": (thing(90, away, 25),)})
            self.assertEqual(tallest_on_way(site, None, 200, 10), 25 if counts else 0, away)

    def test_costs_are_spoken_of_from_one_point_on(self) -> None:
        found = homeward(trip(dry_weather(wind_ms=5)), FAR, 115)
        best = found.cheapest
        assert best is not None
        cost = best.percent
        for more, setting_m, spoken in (
            (1.0, 115, False),
            (1.01, 115, True),
            (5, best.height_m, False),
            (5, best.height_m + 0.1, True),
        ):
            dear = replace(found.way, climb_percent=cost + more, back_percent=0.0, descent_percent=0.0)
            given_ = replace(found, way=dear)
            self.assertEqual(bool(judge_cost(given_, setting_m=setting_m)), spoken, (more, setting_m))
        for lost in ({"cheapest": None}, {"way": replace(found.way, ground_ms=0.0)}):
            self.assertEqual(judge_cost(replace(found, **lost), setting_m=115), ())
        (words,) = judge_cost(found, setting_m=115)
        self.assertIn(f"from {best.height_m:.0f} m", said(words))


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

    def test_the_charge_by_hand(self) -> None:
        """The way home at the low end of today's minutes, and the reserve, rounded up; more than a full pack is none."""
        way = way_home(trip(dry_weather(wind_ms=4)), replace(FAR, distance_m=400.0), 40)
        charge = LIMITS.reserve_percent + way.percent * KNOWN.today.mid / KNOWN.today.low
        self.assertEqual(self.turns()[-1].percent, math.ceil(charge))
        self.assertEqual([t.distance_m for t in self.turns()], [50, 100, 200, 400])
        far = turn_backs(trip(None), [12_000.0], FAR, 40)[0]
        self.assertIsNone(far.percent)
        # exactly a full pack is still one
        spare = 100 - math.ceil(way.percent * KNOWN.today.mid / KNOWN.today.low)
        self.assertEqual(self.turns(reserve_percent=float(spare))[-1].percent, 100)
        self.assertIsNone(self.turns(reserve_percent=float(spare + 1))[-1].percent)

    def test_no_way_home_has_no_charge(self) -> None:
        self.assertEqual([t.percent for t in self.turns(wind=15)], [None] * 4)


class Judged(unittest.TestCase):
    def test_a_costly_height_is_mentioned_and_never_grounds(self) -> None:
        found = homeward(trip(dry_weather(wind_ms=5), OPEN, QUAD, KNOWN), FAR, 115)
        (cost,) = judge_cost(found, setting_m=115)
        self.assertEqual((cost.name, cost.level), ("Battery used by altitude", Level.CLEAR))

    @given(st.floats(5, 120), st.floats(0, 12))
    def test_heights_offered_are_safe(self, setting: float, wind: float) -> None:
        site = OPEN.model_copy(update={"marks": (thing(10, 80, 18), thing(200, 190, 25))})
        found = homeward(trip(dry_weather(wind_ms=wind), site, QUAD, KNOWN), FAR, setting)
        assume(found.cheapest is not None)
        assert found.cheapest is not None
        self.assertGreaterEqual(found.cheapest.height_m, 35 - 1e-9)
        self.assertGreaterEqual(min(way.clearance_m for way in found.ways), LIMITS.return_margin_m - 1e-9)
