"""Headings compared: the short way round the circle, magnetic and true, and the shadow against a second ephemeris."""

import math
import unittest
from datetime import UTC, datetime, timedelta

import ephem
from hypothesis import given
from hypothesis import strategies as st

from tests.support import SITE, said
from walkround.core.base.finding import Level
from walkround.core.base.geodesy import bearing_deg, from_plane
from walkround.core.calibration.heading import (
    BROADEST_DEG,
    NEAREST_M,
    Against,
    apart_deg,
    heading_finding,
    landmarks,
    shadow,
)
from walkround.core.field.marks import Mark, MarkKind, Spot, mark_at
from walkround.core.field.site import HERE

NOON = datetime(2026, 5, 16, 9, 0, tzinfo=UTC)
DEGREES = st.floats(0, 359.99)


def level(shown: float, known: float, declination: float = 0, **true: bool) -> Level:
    true = {"shown_is_true": True, "known_is_true": True} | true
    return heading_finding(shown, known, declination, against=Against.COMPASS, **true).level


class Circle(unittest.TestCase):
    @given(DEGREES, DEGREES)
    def test_the_short_way(self, one: float, other: float) -> None:
        found = apart_deg(one, other)
        self.assertTrue(-180 <= found < 180.0000001)
        self.assertAlmostEqual(math.cos(math.radians(one + found)), math.cos(math.radians(other)), places=9)
        self.assertAlmostEqual(abs(apart_deg(other, one)), abs(found), places=6)

    def test_over_north(self) -> None:
        self.assertIs(level(358, 2), Level.CLEAR)
        self.assertIs(level(2, 358), Level.CLEAR)
        self.assertIs(level(4, 356), Level.CAUTION)
        self.assertIs(level(180, 0), Level.GROUNDED)

    def test_declination_is_added_to_what_is_magnetic(self) -> None:
        """True = magnetic + declination, east positive: common practice, no source."""
        self.assertIs(level(90, 102, 12, shown_is_true=False), Level.CLEAR)
        self.assertIs(level(90, 102, 12, known_is_true=False), Level.GROUNDED)
        self.assertIs(level(90, 90, 12, shown_is_true=False, known_is_true=False), Level.CLEAR)
        self.assertIs(level(90, 90, -14, shown_is_true=False), Level.GROUNDED)

    @given(DEGREES, st.floats(0, 180), st.floats(1, 3))
    def test_farther_off_is_never_better(self, known: float, off: float, factor: float) -> None:
        more = min(180.0, off * factor)
        self.assertGreaterEqual(level((known + more) % 360, known), level((known + off) % 360, known))

    def test_which_side(self) -> None:
        found = heading_finding(97, 90, 0, shown_is_true=True, known_is_true=True, against=Against.LANDMARK)
        self.assertEqual(said(found), "The heading is 7° to the right of the bearing of a landmark.")


class Shadows(unittest.TestCase):
    def test_against_a_second_ephemeris(self) -> None:
        for hours in (0, 1, 5, 6, 7):
            at = NOON + timedelta(hours=hours)
            found = shadow(SITE.position, at)
            place = ephem.Observer()
            place.lat, place.lon, place.date, place.pressure = (
                str(SITE.position.lat_deg),
                str(SITE.position.lon_deg),
                at,
                0,
            )
            sun = ephem.Sun(place)
            if not 6 <= math.degrees(sun.alt) <= 60:
                self.assertIsNone(found)
                continue
            assert found is not None
            self.assertAlmostEqual(apart_deg(math.degrees(sun.az) + 180, found.bearing_deg), 0, delta=0.2)
            self.assertAlmostEqual(found.sun_deg, math.degrees(sun.alt), delta=0.2)
            later = shadow(SITE.position, at + timedelta(minutes=found.minutes))
            if later is not None:
                self.assertLessEqual(abs(apart_deg(found.bearing_deg, later.bearing_deg)), 2.0)

    def test_none_at_night_and_none_under_a_high_sun(self) -> None:
        self.assertIsNone(shadow(SITE.position, datetime(2026, 5, 16, 23, 0, tzinfo=UTC)))
        self.assertIsNone(shadow(SITE.position, datetime(2026, 6, 21, 11, 0, tzinfo=UTC)))


class Landmarks(unittest.TestCase):
    @given(st.floats(0, 359.9), st.floats(45, 800), st.floats(0, 20))
    def test_as_the_geodesic_has_it(self, bearing: float, away_m: float, radius_m: float) -> None:
        mark = mark_at(MarkKind.TREE, bearing, away_m, 12.0, number=7).model_copy(update={"radius_m": radius_m})
        site = SITE.model_copy(update={"marks": (mark,), "launch": HERE, "pilot": None})
        found = landmarks(site)
        narrow = math.degrees(math.atan2(radius_m, away_m)) <= BROADEST_DEG
        self.assertEqual(bool(found), narrow)
        if found:
            there = from_plane(SITE.position, mark.spots[0].xy)
            self.assertLess(abs(apart_deg(found[0].bearing_deg, bearing_deg(SITE.position, there))), 0.1)
            self.assertAlmostEqual(found[0].distance_m, away_m, delta=0.05)

    def test_near_broad_and_flat_ones_are_none(self) -> None:
        near = mark_at(MarkKind.MAST, 10, NEAREST_M - 1, 20.0)
        flat = mark_at(MarkKind.HAZARD, 10, 200)
        broad = Mark(
            kind=MarkKind.FENCE, spots=(Spot(east_m=-60, north_m=100), Spot(east_m=60, north_m=100)), height_m=2
        )
        slim = Mark(
            kind=MarkKind.BUILDING,
            spots=(Spot(east_m=-3, north_m=300), Spot(east_m=3, north_m=300), Spot(east_m=0, north_m=306)),
            height_m=8,
        )
        site = SITE.model_copy(update={"marks": (near, flat, broad, slim), "launch": HERE, "pilot": None})
        self.assertEqual([one.words for one in landmarks(site)], ["building"])
        moved = site.model_copy(update={"pilot": Spot(east_m=0, north_m=-100)})
        self.assertAlmostEqual(landmarks(moved)[-1].distance_m, NEAREST_M - 1 + 100, delta=6)
