"""The weather by hand and judged: limits, gusts, height, rain, cold, cloud, age."""

import cmath
import math
import unittest
from datetime import timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests.support import NOW, QUAD, SITE, TRAINER, dry_weather, said, situation
from walkround.core.aircraft.traits import Trait
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding, Level
from walkround.core.base.units import MPH_MS
from walkround.core.flight.speed_home import judge_getting_home
from walkround.core.round.weather_rules import judge_weather
from walkround.core.weather.atmosphere import strip_wind_ms
from walkround.core.weather.metar import decode_report, phenomenon
from walkround.core.weather.weather import BY_HAND, Weather, by_hand

HAND = {
    "wind_ms": 3.0, "gust_ms": None, "wind_from_deg": 200, "visibility_m": 10_000, "sky": "dry", "ceiling_m": None,
    "temperature_c": 15.0, "dew_point_c": 8.0, "qnh_hpa": 1015,
}  # fmt: skip


def levels(weather: Weather, **changes: object) -> dict[str, Level]:
    return {f.name: f.level for f in judge_weather(weather, situation(**changes))}


class Wind(unittest.TestCase):
    """15 mph: common practice, no source."""

    def test_mean_and_gust(self) -> None:
        rows = (
            ("calm", 0, None, 0), ("well below", 10, None, 0), ("close", 14, None, 1), ("at the limit", 15, None, 1),
            ("over", 15.1, None, 2),
        )  # fmt: skip
        for name, mph, _, level in rows:
            with self.subTest(name):
                self.assertEqual(levels(dry_weather(wind_ms=mph * MPH_MS))["Wind"], level)

    def test_a_gust_is_judged_as_well_as_the_mean(self) -> None:
        found = levels(dry_weather(wind_ms=4, gust_ms=16 * MPH_MS))
        self.assertEqual((found["Wind"], found["Gust"]), (Level.CLEAR, Level.GROUNDED))

    def test_wind_aloft_counts(self) -> None:
        found = levels(dry_weather(wind_ms=6.0))
        self.assertEqual((found["Wind"], found["Wind aloft"]), (Level.CAUTION, Level.GROUNDED))

    def test_the_exponent_is_stated(self) -> None:
        aloft = next(f for f in judge_weather(dry_weather(), situation()) if f.name == "Wind aloft")
        self.assertIn("from 10 m up, exponent 0.14 over open grass", aloft.source)

    def test_a_hand_meter_is_low_and_so_the_wind_aloft_is_more(self) -> None:
        low = levels(by_hand(NOW, **{**HAND, "wind_ms": 4.5}))
        high = levels(dry_weather(wind_ms=4.5))
        self.assertEqual((low["Wind aloft"], high["Wind aloft"]), (Level.GROUNDED, Level.CLEAR))

    def test_way_home(self) -> None:
        slow = QUAD.model_copy(update={"top_speed_ms": 9})

        def home(**wind: float) -> Level:
            return judge_getting_home(slow, dry_weather(**wind), SITE, 50)[0].level

        self.assertEqual(home(wind_ms=3), Level.CLEAR)
        self.assertEqual(home(wind_ms=5), Level.GROUNDED)
        self.assertEqual(home(wind_ms=3, gust_ms=9), Level.GROUNDED)

    def test_unread_wind_grounds(self) -> None:
        self.assertEqual(levels(dry_weather(wind_ms=None))["Wind"], Level.GROUNDED)

    @given(st.floats(0, 30), st.floats(0, 30))
    def test_more_wind_never_judges_better(self, wind: float, more: float) -> None:
        calm = max(levels(dry_weather(wind_ms=wind)).values())
        self.assertGreaterEqual(max(levels(dry_weather(wind_ms=wind + more)).values()), calm)


class Crosswind(unittest.TestCase):
    STRIP = SITE.model_copy(update={"strip_deg": 250.0})

    def test_components_are_those_of_a_vector(self) -> None:
        for strip in range(0, 361, 30):
            for come in range(0, 361, 15):
                turned = cmath.rect(8.0, math.radians(come)) / cmath.rect(1.0, math.radians(strip))
                across, along = strip_wind_ms(8.0, come, strip)
                self.assertAlmostEqual(across, abs(turned.imag))
                self.assertAlmostEqual(along, turned.real)

    def test_the_clock_rule(self) -> None:
        """15, 30, 45, 60 degrees off are about a quarter, half, three quarters and nearly all; common practice, no source."""
        for off, part in ((15, 0.25), (30, 0.5), (45, 0.75), (60, 0.9)):
            self.assertAlmostEqual(strip_wind_ms(10, 250 + off, 250)[0] / 10, part, delta=0.05)

    def test_only_on_wheels_and_with_a_strip(self) -> None:
        side = dry_weather(wind_ms=6, wind_from_deg=340)
        self.assertEqual(levels(side, aircraft=TRAINER, site=self.STRIP)["Crosswind"], Level.GROUNDED)
        self.assertNotIn("Crosswind", levels(side, aircraft=TRAINER))
        self.assertNotIn("Crosswind", levels(side, aircraft=QUAD, site=self.STRIP))

    def test_down_the_strip_gusts_and_no_direction(self) -> None:
        def found(**weather: object) -> Finding:
            judged = judge_weather(dry_weather(**weather), situation(aircraft=TRAINER, site=self.STRIP))
            return next(f for f in judged if f.name == "Crosswind")

        self.assertEqual(found(wind_ms=6, wind_from_deg=250).level, Level.CLEAR)
        self.assertIn("towards 250°", said(found(wind_ms=6, wind_from_deg=250)))
        self.assertIn("towards 70°", said(found(wind_ms=6, wind_from_deg=80)))
        self.assertEqual(found(wind_ms=3, gust_ms=7, wind_from_deg=300).level, Level.GROUNDED)
        unsure = found(wind_ms=4, wind_from_deg=None)
        self.assertEqual(unsure.level, Level.GROUNDED)
        self.assertIn("not known", said(unsure))


class Sky(unittest.TestCase):
    def test_what_falls(self) -> None:
        sealed = QUAD.model_copy(update={"traits": QUAD.traits | {Trait.SEALED}})
        rows = (
            ("dry", (), QUAD, 0), ("drizzle on an open aircraft", ("-DZ",), QUAD, 2), ("rain, sealed", ("RA",), sealed, 1),
            ("snow, open", ("SN",), QUAD, 2), ("freezing rain, sealed", ("FZRA",), sealed, 2),
            ("thunder nearby", ("VCTS",), sealed, 2), ("showers nearby", ("VCSH",), QUAD, 1), ("mist", ("BR",), QUAD, 0),
        )  # fmt: skip
        for name, codes, aircraft, level in rows:
            with self.subTest(name):
                weather = dry_weather(phenomena=tuple(phenomenon(c) for c in codes))
                self.assertEqual(levels(weather, aircraft=aircraft)["Precipitation"], level)

    def test_a_rain_group_grounds_an_unsealed_aircraft(self) -> None:
        weather = decode_report("ZZAA 160730Z 21005KT 8000 -RA BKN040 12/08 Q1008", NOW)
        self.assertEqual(levels(weather)["Precipitation"], Level.GROUNDED)

    def test_visibility_of_three_miles(self) -> None:
        """14 CFR 107.51, 3 statute miles, from memory."""
        for metres, level in ((4800, 2), (4829, 1), (5500, 1), (5600, 0), (10_000, 0)):
            with self.subTest(metres):
                self.assertEqual(levels(dry_weather(visibility_m=metres))["Visibility"], level)

    def test_cloud_base(self) -> None:
        """500 ft below cloud, 14 CFR 107.51, from memory: flying at 50 m asks for 202.4 m."""
        for base, level in ((202, 2), (203, 1), (240, 0)):
            with self.subTest(base):
                self.assertEqual(levels(dry_weather(ceiling_m=base))["Cloud base"], level)
        self.assertNotIn("Cloud base", levels(dry_weather(ceiling_m=None)))


class Air(unittest.TestCase):
    def test_freezing_point(self) -> None:
        """32 °F (0 °C): common practice, no source."""
        for air, level in ((-1, 2), (0, 1), (4, 1), (5, 0), (20, 0), (36, 1), (40, 1), (41, 2)):
            with self.subTest(air):
                self.assertEqual(levels(dry_weather(temperature_c=air, dew_point_c=None))["Temperature"], level)

    def test_fog_risk(self) -> None:
        self.assertEqual(levels(dry_weather(temperature_c=9, dew_point_c=8, wind_ms=1))["Fog risk"], Level.CAUTION)
        self.assertNotIn("Fog risk", levels(dry_weather(temperature_c=9, dew_point_c=8, wind_ms=5)))

    def test_icing_takes_moisture_and_cold(self) -> None:
        """Visible moisture and 5 °C (propellers), 2 °C (airframes); flight manuals and pilot reports, from memory."""
        rows = (
            ("FG", 6, 6, None), ("FG", 5, 5, 1), ("FG", 3, 3, 1), ("FG", 2, 2, 2), ("FZFG", -3, -3, 2), ("BR", 1, 0, 2),
            ("-SN", 1, 0, 2), ("-RA", 4, 3, 1), ("VCFG", 0, -5, None), ("VCSH", 0, -5, None), ("", 1, 0, 1), ("", 1, -6, None),
            ("", 4, 3, None), ("HZ", 1, -6, None),
        )  # fmt: skip
        for code, air, dew, level in rows:
            phenomena = (phenomenon(code),) if code else ()
            weather = dry_weather(temperature_c=air, dew_point_c=dew, wind_ms=5, phenomena=phenomena)
            with self.subTest(code=code, air=air):
                self.assertEqual(levels(weather).get("Icing"), level)

    @given(st.floats(-30, 30), st.floats(0, 10), st.floats(0, 10))
    def test_colder_never_ices_less(self, air: float, colder: float, spread: float) -> None:
        def iced(at: float) -> int:
            wet = dry_weather(temperature_c=at, dew_point_c=at - spread, phenomena=(phenomenon("FG"),))
            return levels(wet).get("Icing", Level.CLEAR)

        self.assertGreaterEqual(iced(air - colder), iced(air))

    def test_density_altitude(self) -> None:
        found = levels(dry_weather(temperature_c=35, dew_point_c=5))
        self.assertEqual(found["Density altitude"], Level.CLEAR)
        high = situation().site.model_copy(update={"elevation_m": 2100})
        self.assertEqual(levels(dry_weather(temperature_c=30, dew_point_c=5), site=high)["Density altitude"], 2)


class Reliability(unittest.TestCase):
    def test_age(self) -> None:
        for minutes, level in ((10, None), (75, None), (76, 1), (180, 1), (181, 2)):
            with self.subTest(minutes):
                found = levels(dry_weather(at=NOW - timedelta(minutes=minutes)))
                self.assertEqual(found.get("Age of the report"), level)

    def test_gaps_and_doubts_are_said(self) -> None:
        weather = decode_report("METAR ZZAA 160730Z 25008KT //// // ////// 13/15 Q0113", NOW)
        found = [f for f in judge_weather(weather, situation()) if f.name == "Not read"]
        self.assertEqual(found[0].level, Level.GROUNDED, "without a visibility nothing can be said")
        self.assertIn("visibility, present weather, cloud, pressure", said(found[0]))
        self.assertIn("ignored", said(found[0]))

    def test_trend_is_care(self) -> None:
        weather = decode_report("ZZAA 160730Z 23006KT CAVOK 15/09 Q1011 TEMPO 4000 SHRA", NOW)
        self.assertEqual(levels(weather)["Change ahead"], Level.CAUTION)


class ByHand(unittest.TestCase):
    def test_complete(self) -> None:
        weather = by_hand(NOW, **HAND)
        self.assertEqual((weather.wind_height_m, weather.missing), (2.0, ()))
        self.assertEqual(weather.strongest_ms(), 3.0)

    def test_gaps_are_named(self) -> None:
        weather = by_hand(NOW, **{**HAND, "visibility_m": None, "qnh_hpa": None})
        self.assertEqual(weather.missing, ("visibility", "pressure"))

    def test_what_cannot_be(self) -> None:
        rows = (
            ("wind", {"wind_ms": 400}), ("wind", {"wind_ms": -1}), ("gust", {"wind_ms": 8, "gust_ms": 5}),
            ("wind_from", {"wind_from_deg": 400}), ("temperature", {"temperature_c": 99, "dew_point_c": None}),
            ("dew_point", {"dew_point_c": 20}), ("visibility", {"visibility_m": -1}), ("ceiling", {"ceiling_m": 50_000}),
            ("pressure", {"qnh_hpa": 113}), ("sky", {"sky": "frogs"}),
        )  # fmt: skip
        for field, changes in rows:
            with self.subTest(f"{field} {changes}"), self.assertRaises(InputError) as caught:
                by_hand(NOW, **{**HAND, **changes})
            self.assertEqual(caught.exception.field, field)

    def test_bounds_are_still_allowed(self) -> None:
        """The ends of the ranges themselves (m/s, degrees, °C, m, hPa), and what lies just outside; none of them reads NaN."""
        rows = (
            ("wind_ms", "wind", 0, 75), ("gust_ms", "gust", 3, 100), ("wind_from_deg", "wind_from", 0, 360), ("temperature_c", "temperature", -60, 60),
            ("visibility_m", "visibility", 0, 200_000), ("ceiling_m", "ceiling", 0, 20_000), ("qnh_hpa", "pressure", 850, 1090),
        )  # fmt: skip
        for name, field, low, high in rows:
            for value, good in (
                (low, True),
                (high, True),
                (low - 0.1, False),
                (high + 0.1, False),
                (math.nan, False),
                (math.inf, False),
            ):
                changes = {"dew_point_c": None, name: value}
                with self.subTest(f"{name} {value}"):
                    if good:
                        self.assertEqual(getattr(by_hand(NOW, **{**HAND, **changes}), name), value)
                        continue
                    with self.assertRaises(InputError) as caught:
                        by_hand(NOW, **{**HAND, **changes})
                    self.assertEqual(caught.exception.field, field)
        for dew_c, good in ((15.5, True), (15.6, False)):
            if good:
                self.assertEqual(by_hand(NOW, **{**HAND, "dew_point_c": dew_c}).dew_point_c, dew_c)
            else:
                with self.assertRaises(InputError):
                    by_hand(NOW, **{**HAND, "dew_point_c": dew_c})

    def test_the_wind_is_measured_or_felt(self) -> None:
        """Force 3 goes up to 5.4 m/s at 10 m: the Beaufort scale of WMO-No. 306, table 1100 (from memory)."""
        felt = by_hand(NOW, **{**HAND, "wind_ms": None}, felt=3)
        self.assertEqual((felt.wind_ms, felt.wind_height_m, felt.felt), (5.4, 10.0, 3))
        for wind, force, words in (
            (None, None, "Enter the measured wind, or choose what you see"),
            (3.0, 3, "Enter the wind measured or the wind felt, not both. Measured is"),
        ):
            with self.assertRaises(InputError) as caught:
                by_hand(NOW, **{**HAND, "wind_ms": wind}, felt=force)
            self.assertIn(words, caught.exception.message)
            self.assertEqual(caught.exception.field, "wind")

    def test_what_was_typed_is_kept(self) -> None:
        weather = by_hand(NOW, **{**HAND, "gust_ms": 5.0, "ceiling_m": 900})
        kept = (
            weather.gust_ms,
            weather.wind_from_deg,
            weather.visibility_m,
            weather.ceiling_m,
            weather.ceiling_known,
            weather.temperature_c,
        )
        self.assertEqual(kept, (5, 200, 10_000, 900, True, 15))
        self.assertEqual((weather.dew_point_c, weather.qnh_hpa, weather.text, weather.felt), (8, 1015, BY_HAND, None))
        self.assertEqual(by_hand(NOW, **{**HAND, "sky": "drizzle"}).phenomena[0].code, "DZ")

    def test_strongest_and_steady(self) -> None:
        for wind, gust, strongest in ((3, 5, 5), (5, None, 5), (None, 4, 4), (None, None, None)):
            self.assertEqual(Weather(at=NOW, wind_ms=wind, gust_ms=gust).strongest_ms(), strongest)
        self.assertEqual(Weather(at=NOW, wind_from_deg=40.0).steady_from_deg, 40)
        self.assertIsNone(Weather(at=NOW, wind_from_deg=40.0, wind_sector_deg=(20.0, 60.0)).steady_from_deg)
