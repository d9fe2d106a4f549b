"""The air on fingers and propellers: wind chill against the printed charts, thin air against the standard atmosphere."""

import math
import unittest

import fluids
from hypothesis import given
from hypothesis import strategies as st

from tests.support import PLAIN_PACK, SITE, TRAINER, dry_weather, said, situation
from walkround.core.aircraft.presets import PRESETS
from walkround.core.base.finding import Level
from walkround.core.round.air_rules import judge_air
from walkround.core.round.weather_rules import judge_weather
from walkround.core.weather.atmosphere import wind_chill_c
from walkround.core.weather.weather import BY_HAND


def named(found, name: str):  # type: ignore[no-untyped-def]
    return next((f for f in found if f.name == name), None)


class WindChill(unittest.TestCase):
    def test_printed_charts(self) -> None:
        """US National Weather Service, wind chill chart (°F and mph); Environment Canada, table (°C and km/h). Both from
        memory, whole degrees."""
        for air_f, mph, felt_f in (
            (40, 5, 36),
            (30, 10, 21),
            (20, 25, 3),
            (0, 15, -19),
            (-10, 20, -35),
            (-45, 60, -98),
        ):
            felt = wind_chill_c((air_f - 32) / 1.8, mph * 0.44704) * 1.8 + 32
            self.assertAlmostEqual(felt, felt_f, delta=0.6)
        for air_c, kmh, felt_c in ((0, 20, -5), (-10, 20, -18), (-20, 40, -34), (5, 10, 3), (-40, 50, -63)):
            self.assertAlmostEqual(wind_chill_c(air_c, kmh / 3.6), felt_c, delta=0.6)

    @given(st.floats(-45, 10), st.floats(1.4, 25))
    def test_the_other_published_form(self, air_c: float, wind_ms: float) -> None:
        """35.74 + 0.6215 T - 35.75 V^0.16 + 0.4275 T V^0.16 in °F and mph: the same index as the US service prints it."""
        air_f, power = air_c * 1.8 + 32, (wind_ms / 0.44704) ** 0.16
        theirs = (35.74 + 0.6215 * air_f - 35.75 * power + 0.4275 * air_f * power - 32) / 1.8
        self.assertAlmostEqual(wind_chill_c(air_c, wind_ms), theirs, delta=0.12)

    @given(st.floats(-45, 10), st.floats(2, 20), st.floats(0, 5))
    def test_more_wind_is_never_warmer(self, air_c: float, wind_ms: float, more: float) -> None:
        self.assertLessEqual(wind_chill_c(air_c, wind_ms + more), wind_chill_c(air_c, wind_ms) + 1e-9)

    def test_mild_or_still_air_is_its_own(self) -> None:
        self.assertEqual((wind_chill_c(15, 10), wind_chill_c(-5, 1)), (15, -5))

    def test_levels(self) -> None:
        for air_c, wind_ms, level in ((8, 3, None), (2, 6, Level.CARE), (-25, 8, Level.GROUNDED)):
            found = named(
                judge_air(dry_weather(temperature_c=air_c, wind_ms=wind_ms, dew_point_c=air_c - 6), situation()),
                "Fingers",
            )
            self.assertEqual(found.level if found else None, level, f"{air_c} {wind_ms}")


class Gusts(unittest.TestCase):
    def test_ten_knots_over_the_mean_is_care_and_never_more(self) -> None:
        """From 10 kt over the mean on, reports name gusts: ICAO Annex 3, from memory."""
        for gust, level in ((3.0, Level.CLEAR), (8.0, Level.CLEAR), (8.3, Level.CARE), (20.0, Level.CARE)):
            found = named(
                judge_weather(dry_weather(wind_ms=3).model_copy(update={"gust_ms": gust}), situation()), "Gust spread"
            )
            self.assertEqual(found.level, level, gust)
        self.assertIsNone(named(judge_weather(dry_weather(wind_ms=3), situation()), "Gust spread"))


class ReckonedBase(unittest.TestCase):
    def found(self, air_c: float, dew_c: float, **more: object):  # type: ignore[no-untyped-def]
        unknown = {"ceiling_m": None, "ceiling_known": False, "temperature_c": air_c, "dew_point_c": dew_c}
        return named(judge_weather(dry_weather().model_copy(update={**unknown, **more}), situation()), "Cloud base")

    @given(st.floats(0, 35), st.floats(1, 20))
    def test_against_the_condensation_level(self, air_c: float, spread_c: float) -> None:
        """Bolton, Mon. Wea. Rev. 108 (1980), eq. 15: temperature where lifted air condenses; 9.8 K a km on the way up."""
        t, d = air_c + 273.15, air_c - spread_c + 273.15
        lifted = 1 / (1 / (d - 56) + math.log(t / d) / 800) + 56
        level_m = (t - lifted) / 0.0098
        self.assertAlmostEqual(self.found(air_c, air_c - spread_c).value.value, level_m, delta=0.06 * level_m + 15)

    def test_low_is_care_and_measured_is_believed(self) -> None:
        self.assertEqual(self.found(15, 14).level, Level.CARE)
        self.assertEqual(self.found(20, 8).level, Level.CLEAR)
        self.assertIsNone(self.found(15, 14, ceiling_known=True, text="CAVOK"))
        self.assertIsNotNone(self.found(15, 14, ceiling_known=True, text=BY_HAND))


class ThinAir(unittest.TestCase):
    def test_against_the_standard_atmosphere(self) -> None:
        """At a field 1,500 m up in standard air the thrust is what the standard's density says (fluids, ICAO/US 1976), and the
        minutes its square root."""
        there = fluids.ATMOSPHERE_1976(1500.0)
        share = there.rho / fluids.ATMOSPHERE_1976(0.0).rho
        site = SITE.model_copy(update={"elevation_m": 1500.0})
        weather = dry_weather(temperature_c=there.T - 273.15, pressure_hpa=1013.25, dew_point_c=-60.0)
        found = named(judge_air(weather, situation(site=site)), "Thin air")
        self.assertAlmostEqual(found.reason.numbers["thrust"].value, 100 * (1 - share), delta=0.1)
        self.assertAlmostEqual(found.reason.numbers["minutes"].value, 100 * (1 - share**0.5), delta=0.1)
        self.assertIn("less thrust than at the sea in mild air, and", said(found))

    def test_a_wing_loses_thrust_and_a_glider_nothing(self) -> None:
        site = SITE.model_copy(update={"elevation_m": 1500.0})
        found = named(judge_air(dry_weather(), situation(TRAINER, site=site)), "Thin air")
        self.assertNotIn("minutes", said(found))
        glider = next((p for p in PRESETS.values() if p.rotors == 0), None)
        if glider is not None:
            self.assertIsNone(
                named(judge_air(dry_weather(), situation(glider, site=site, pack=PLAIN_PACK)), "Thin air")
            )

    def test_nothing_is_said_near_the_sea(self) -> None:
        self.assertIsNone(named(judge_air(dry_weather(temperature_c=10), situation()), "Thin air"))
