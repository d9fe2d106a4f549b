"""The sun over the plan: events against a second ephemeris (PyEphem), the box against angles worked by hand."""

import math
import unittest
from datetime import UTC, datetime, timedelta

import ephem
from hypothesis import given
from hypothesis import strategies as st

from tests.support import SITE, said
from walkround.core.base.finding import Level
from walkround.core.base.geodesy import Position
from walkround.core.field import field_editor
from walkround.core.field.glare import (
    BEARINGS,
    GLARE_DEG,
    SunMoment,
    SunSession,
    blinds,
    events,
    judge_session,
    looks,
    session,
)
from walkround.core.field.site import Site
from walkround.core.field.sun import SUNRISE_DEG, Sun, crossings, sun_at

EVENING = datetime(2026, 6, 21, 17, 0, tzinfo=UTC)


def at(lat: float, lon: float = 15.3) -> Site:
    return SITE.model_copy(update={"marks": (), "position": Position(lat_deg=lat, lon_deg=lon)})


def boxed(site: Site, towards: float) -> Site:
    """A box 60 m wide from 20 to 80 m in front, towards a bearing."""
    from walkround.core.field import planar_geometry

    return field_editor.laid(
        site,
        field_editor.FLIGHT_AREA,
        planar_geometry.turned([(-30, 20), (30, 20), (30, 80), (-30, 80)], (0, 0), towards),
    )


class SunEvents(unittest.TestCase):
    def test_rise_set_and_twilight_against_pyephem(self) -> None:
        """PyEphem at horizon -0:50 and -6:00 without refraction, over latitudes and the year, to 25 seconds."""
        checked = 0
        for lat in (-65, -35, 0, 28, 48.2, 60, 66):
            for month in range(1, 13):
                begin = datetime(2026, month, 11, tzinfo=UTC)
                for height in (SUNRISE_DEG, -6.0):
                    observer = ephem.Observer()
                    observer.lat, observer.lon, observer.pressure = str(lat), "15.3", 0
                    observer.horizon = math.radians(height)
                    for when, rising in crossings(
                        Position(lat_deg=lat, lon_deg=15.3), begin, begin + timedelta(days=1), (height,)
                    )[0]:
                        observer.date = (when - timedelta(minutes=30)).replace(tzinfo=None)
                        following = observer.next_rising if rising else observer.next_setting
                        theirs = following(ephem.Sun(), use_center=True).datetime().replace(tzinfo=UTC)
                        # Where the sun grazes the horizon a hundredth of a degree is minutes; the slope says how many seconds.
                        slope = (
                            abs(
                                sun_at(Position(lat_deg=lat, lon_deg=15.3), when + timedelta(minutes=1)).elevation_deg
                                - height
                            )
                            / 60
                        )
                        self.assertLess(
                            abs((when - theirs).total_seconds()), 0.02 / max(slope, 1e-5), f"{lat} {begin} {height}"
                        )
                        checked += 1
        self.assertGreater(checked, 280)

    def test_polar_days_and_nights(self) -> None:
        summer, winter = datetime(2026, 6, 20, tzinfo=UTC), datetime(2026, 12, 20, tzinfo=UTC)
        for lat, when, always in (
            (75, summer, "up"),
            (75, winter, "down"),
            (-75, summer, "down"),
            (-75, winter, "up"),
            (48, summer, ""),
        ):
            found = events(at(lat), when)
            self.assertEqual(found.always, always, f"{lat}")
            self.assertEqual(found.sunset is None, bool(always))
        self.assertEqual(judge_session(session(at(75), winter, 60)), (), "nothing to look into")

    def test_hemispheres(self) -> None:
        """At noon in June the sun stands south of Vienna and north of Cape Town: definition of the tropics."""
        noon = datetime(2026, 6, 21, 11, 0, tzinfo=UTC)
        for lat, bearing in ((48.2, 180), (-33.9, 0)):
            sector = session(at(lat), noon, 10).sector
            assert sector is not None
            middle = (
                math.degrees(math.atan2(*(sum(f(math.radians(s)) for s in sector) for f in (math.sin, math.cos)))) % 360
            )
            self.assertLess(abs((middle - bearing + 180) % 360 - 180), 8)


class Sector(unittest.TestCase):
    """Where one looks into the sun: 20° before its first bearing to 20° past its last, clockwise, worked by hand."""

    def sector(self, *suns: tuple[float, float]) -> tuple[float, float] | None:
        moments = tuple(
            SunMoment(at=EVENING + i * timedelta(minutes=10), sun=Sun(bearing_deg=b, elevation_deg=e), inside=False)
            for i, (b, e) in enumerate(suns)
        )
        return SunSession(moments=moments, spells=(), turn_deg=None, wait=None, boxed=False).sector

    def test_ends(self) -> None:
        rows = (
            ("east to south", ((90, 20), (120, 30), (150, 35)), (70, 170)),
            ("standing still", ((200, 20),), (180, 220)),
            ("through north, southern half of the earth", ((350, 40), (0, 41), (20, 40)), (330, 40)),
            ("through north, against the clock", ((20, 40), (0, 41), (340, 40)), (320, 40)),
            ("only while it is up", ((80, -5), (100, 1), (120, 10), (140, -1)), (80, 140)),
            ("two moments", ((100, 5), (110, 6)), (80, 130)),
            ("beginning at north", ((0, 10), (10, 10)), (340, 30)),
        )  # fmt: skip
        for name, suns, ends in rows:
            with self.subTest(name):
                found = self.sector(*suns)
                assert found is not None
                self.assertAlmostEqual(found[0], ends[0])
                self.assertAlmostEqual(found[1], ends[1])

    def test_down_it_is_nowhere(self) -> None:
        """At -0.833° its upper edge is on the horizon: definition of sunrise."""
        self.assertIsNone(self.sector((90, SUNRISE_DEG), (100, -3)))
        self.assertIsNotNone(self.sector((90, SUNRISE_DEG + 0.01), (100, -3)))

    def test_the_ends_are_said(self) -> None:
        found = session(at(48.2), EVENING, 60)
        first, last = found.moments[0].sun.bearing_deg, found.moments[-1].sun.bearing_deg
        (finding,) = judge_session(found)
        self.assertIn(f"you would look into it between {first - 20:.0f}° and {last + 20:.0f}°", said(finding))
        self.assertIn(f"from {first:.0f}° to {last:.0f}°", said(finding))


class Box(unittest.TestCase):
    def test_a_box_towards_the_evening_sun_and_its_cures(self) -> None:
        sun = sun_at(SITE.position, EVENING + timedelta(minutes=30))
        found = session(boxed(at(48.2), sun.bearing_deg), EVENING, 60)
        finding = judge_session(found)[0]
        self.assertEqual(finding.level, Level.GROUNDED)
        self.assertIn("turn the flying box", finding.remedy.lower())
        self.assertRegex(
            said(finding), r"from \d+° to \d+°, \d+° to \d+° high; you would look into it between \d+° and \d+°"
        )
        assert found.turn_deg is not None
        turned = session(boxed(at(48.2), sun.bearing_deg + found.turn_deg), EVENING, 60)
        self.assertEqual(turned.spells, (), "what is proposed cures it")
        less = session(
            boxed(at(48.2), sun.bearing_deg + found.turn_deg - math.copysign(20, found.turn_deg)), EVENING, 60
        )
        self.assertTrue(less.spells, "and it is the least turn that does")

    def test_waiting_cures_a_morning_box(self) -> None:
        morning = datetime(2026, 6, 21, 4, 30, tzinfo=UTC)
        site = boxed(at(48.2), sun_at(SITE.position, morning).bearing_deg)
        found = session(site, morning, 30)
        assert found.wait is not None
        self.assertEqual(session(site, morning + found.wait, 30).spells, ())
        self.assertTrue(session(site, morning + found.wait - timedelta(minutes=30), 30).spells)
        self.assertIn("wait", judge_session(found)[0].remedy.lower())

    def test_away_from_the_sun_is_clear_and_says_the_sector(self) -> None:
        sun = sun_at(SITE.position, EVENING)
        finding = judge_session(session(boxed(at(48.2), sun.bearing_deg + 180), EVENING, 30))[0]
        self.assertEqual(finding.level, Level.CLEAR)
        self.assertIn(f"between {(sun.bearing_deg - GLARE_DEG):.0f}°", said(finding))

    def test_without_a_box_nothing_is_judged(self) -> None:
        self.assertIn("Draw a flying box to compare it with", said(judge_session(session(at(48.2), EVENING, 30))[0]))

    @given(st.floats(0, 359), st.floats(0, 89), st.floats(0, 359))
    def test_the_angle_by_vectors(self, bearing: float, up: float, towards: float) -> None:
        """Against the least angle between the sun and every direction from the horizon up to where one looks, tried one by one."""
        look = looks(boxed(at(48.2), towards))

        def vector(b: float, h: float) -> tuple[float, float, float]:
            b, h = math.radians(b), math.radians(h)
            return (math.cos(h) * math.sin(b), math.cos(h) * math.cos(b), math.sin(h))

        sun = vector(bearing, up)
        least = min(
            math.degrees(
                math.acos(
                    max(
                        -1.0,
                        min(
                            1.0, sum(p * q for p, q in zip(sun, vector(i * 360 / BEARINGS, top * k / 40), strict=True))
                        ),
                    )
                )
            )
            for i, top in enumerate(look)
            if top is not None
            for k in range(41)
        )
        if abs(least - GLARE_DEG) > 0.5:
            self.assertEqual(blinds(look, Sun(bearing_deg=bearing, elevation_deg=up)), least < GLARE_DEG)
