"""How far an aircraft is seen: against the eye's own limits, and by geometry."""

import math
import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.support import QUAD, SITE, TRAINER, dry_weather, said, situation
from walkround.core.aircraft.traits import Kind
from walkround.core.base.finding import Level
from walkround.core.field import field_editor
from walkround.core.field.sight import attitude_sight_m, judge_seen, judge_sight, slant_m
from walkround.core.round.weather_rules import judge_weather


class Sight(unittest.TestCase):
    @given(st.floats(100, 4000))
    def test_within_what_an_eye_resolves(self, size_mm: float) -> None:
        """Normal sight resolves one minute of arc and reads a letter of five: which way it points is told from some seven to
        twelve, less for a wing with its long span. Definition of visual acuity; that it takes so many is from memory."""
        for kind in (Kind.MULTIROTOR, Kind.WING):
            minutes = math.degrees(size_mm / 1000 / attitude_sight_m(size_mm, kind)) * 60
            self.assertTrue(3.5 < minutes < 12, f"{size_mm} {kind} {minutes}")

    def test_published_forms(self) -> None:
        """327 times the size and 20 m; 490 times and 30 m: European guidance, from memory."""
        self.assertAlmostEqual(attitude_sight_m(1000, Kind.MULTIROTOR), 347)
        self.assertAlmostEqual(attitude_sight_m(2000, Kind.WING), 1010)

    def test_the_way_to_the_eyes_is_slanting(self) -> None:
        flat = SITE.model_copy(update={"flight_radius_m": 300, "flight_height_m": 400})
        self.assertAlmostEqual(slant_m(flat), 500)
        boxed = field_editor.laid(flat, field_editor.FLIGHT_AREA, [(0, 10), (300, 0), (300, 30)])
        self.assertAlmostEqual(slant_m(boxed), math.sqrt(300**2 + 30**2 + 400**2))

    def test_levels(self) -> None:
        rows = (
            (120, QUAD, Level.CLEAR),
            (200, QUAD, Level.CAUTION),
            (320, QUAD, Level.GROUNDED),
            (320, TRAINER, Level.CLEAR),
        )
        for radius, aircraft, level in rows:
            with self.subTest(f"{radius} {aircraft.name}"):
                found = judge_sight(SITE.model_copy(update={"flight_radius_m": radius}), aircraft)[0]
                self.assertEqual(found.level, level, said(found))

    def test_the_planned_distance_counts_where_it_goes_beyond_the_field(self) -> None:
        """900 m out at 40 m: the slant is 901 m, far more than a quad of 380 mm shows its attitude (144 m)."""
        found = judge_sight(SITE, QUAD, 900, 40)[0]
        self.assertEqual(found.level, Level.GROUNDED)
        self.assertAlmostEqual(found.value.value, math.hypot(900, 40))
        self.assertEqual(judge_sight(SITE, QUAD, 5, 40)[0].value, judge_sight(SITE, QUAD, 0, 40)[0].value)

    def test_made_out_in_mist(self) -> None:
        """Three tenths of 300 m are 90 m: less than the flight goes; of 9999 m nothing need be said."""
        self.assertEqual(judge_seen(300, slant_m(SITE))[0].level, Level.GROUNDED)
        self.assertEqual(judge_seen(600, slant_m(SITE))[0].level, Level.CAUTION)
        self.assertEqual(judge_seen(9999, slant_m(SITE)), ())
        names = [f.name for f in judge_weather(dry_weather(visibility_m=400), situation())]
        self.assertIn("Visual range", names)
