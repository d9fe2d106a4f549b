"""The air on fingers and propellers: wind chill against the printed charts, thin air against the standard atmosphere."""

import math
import unittest

import fluids
from hypothesis import given
from hypothesis import strategies as st

from tests.support import PLAIN_PACK, SITE, TRAINER, dry_weather, said, situation
from walkround.core.aircraft.presets import PRESETS
from walkround.core.base.finding import Level
from walkround.core.pilot.limits import Limits
from walkround.core.round.air_rules import judge_air
from walkround.core.round.weather_rules import judge_weather
from walkround.core.weather.atmosphere import wind_chill_c
from walkround.core.weather.weather import BY_HAND, Phenomenon


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
        for air_c, wind_ms, level in ((8, 3, None), (2, 6, Level.CAUTION), (-25, 8, Level.GROUNDED)):
            found = named(
                judge_air(dry_weather(temperature_c=air_c, wind_ms=wind_ms, dew_point_c=air_c - 6), situation()),
                "Fingers",
            )
            self.assertEqual(found.level if found else None, level, f"{air_c} {wind_ms}")


class Gusts(unittest.TestCase):
    def test_ten_knots_over_the_mean_is_care_and_never_more(self) -> None:
        """From 10 kt over the mean on, reports name gusts: ICAO Annex 3, from memory."""
        for gust, level in ((3.0, Level.CLEAR), (8.0, Level.CLEAR), (8.3, Level.CAUTION), (20.0, Level.CAUTION)):
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
        self.assertEqual(self.found(15, 14).level, Level.CAUTION)
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
        weather = dry_weather(temperature_c=there.T - 273.15, qnh_hpa=1013.25, dew_point_c=-60.0)
        found = named(judge_air(weather, situation(site=site)), "Thin air")
        self.assertAlmostEqual(found.reason.numbers["thrust"].value, 100 * (1 - share), delta=0.1)
        self.assertAlmostEqual(found.reason.numbers["minutes"].value, 100 * (1 - share**0.5), delta=0.1)
        self.assertIn("less thrust than at sea level on a mild day, and", said(found))

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


class Warmth(unittest.TestCase):
    """The temperature against the pilot's two limits (0 and 40 °C here), the nearer one named; care in the last quarter of 20 °C."""

    LIMITS = Limits(temperature_min_c=0, temperature_max_c=40)

    def test_levels_limits_and_remedies(self) -> None:
        rows = (
            (-0.5, Level.GROUNDED, 0, "Keep packs and fingers"), (0.0, Level.CAUTION, 0, "Keep packs and fingers"), (4.9, Level.CAUTION, 0, "Keep packs and fingers"),
            (5.0, Level.CLEAR, 0, ""), (19.9, Level.CLEAR, 0, ""), (20.0, Level.CLEAR, 0, ""), (20.1, Level.CLEAR, 40, ""),
            (35.0, Level.CLEAR, 40, ""), (35.1, Level.CAUTION, 40, "Keep packs and pilot"), (40.0, Level.CAUTION, 40, "Keep packs and pilot"), (40.5, Level.GROUNDED, 40, "Keep packs and pilot"),
        )  # fmt: skip
        for air_c, level, limit_c, remedy in rows:
            with self.subTest(air_c):
                found = named(
                    judge_air(dry_weather(temperature_c=air_c, dew_point_c=None), situation(limits=self.LIMITS)),
                    "Temperature",
                )
                self.assertEqual((found.level, found.limit.value), (level, limit_c))
                self.assertEqual(found.remedy.split()[:4], remedy.split()[:4])
                self.assertIn("Your limit is" if level > Level.CLEAR else "Air at", said(found))

    def test_nothing_known_says_nothing_and_a_hall_has_only_its_warmth(self) -> None:
        unknown = dry_weather(temperature_c=None, dew_point_c=None)
        self.assertEqual(judge_air(unknown, situation()), [])
        hall = situation(site=SITE.model_copy(update={"indoors": True}))
        cold = dry_weather(temperature_c=-2, dew_point_c=-2.5, wind_ms=1)
        self.assertEqual([f.name for f in judge_air(cold, hall)], ["Temperature"])
        self.assertEqual(
            [f.name for f in judge_air(cold, situation())],
            ["Temperature", "Fog risk", "Icing", "Fingers", "Density altitude"],
        )


class FogRisk(unittest.TestCase):
    """Temperature and dew point within 2 °C in light wind: common practice, no source; below 3 m/s is our choice."""

    def test_edges(self) -> None:
        rows = (
            (10, 8, 2.9, True),
            (10, 8, 3.0, False),
            (10, 7.9, 2.9, False),
            (10, 9, 2.9, True),
            (10, 9, None, True),
            (10, None, 1, False),
        )
        for air_c, dew_c, wind_ms, foggy in rows:
            found = named(
                judge_air(dry_weather(temperature_c=air_c, dew_point_c=dew_c, wind_ms=wind_ms), situation()), "Fog risk"
            )
            self.assertEqual(found is not None, foggy, (air_c, dew_c, wind_ms))
            if found is not None:
                self.assertIs(found.level, Level.CAUTION)
                self.assertIn("Temperature 10 °C and dew point", said(found))
                self.assertIn("land at the first sign", found.remedy)


class Ice(unittest.TestCase):
    """In visible moisture from 5 °C, grounded from 2 °C down: icing conditions of flight manuals, from memory."""

    def level(self, air_c: float | None, dew_c: float | None, *codes: Phenomenon):  # type: ignore[no-untyped-def]
        weather = dry_weather(temperature_c=air_c, dew_point_c=dew_c, phenomena=codes, wind_ms=5)
        return named(judge_air(weather, situation()), "Icing")

    def test_edges(self) -> None:
        rain = Phenomenon(code="-RA", words="light rain", precipitation=True)
        fog = Phenomenon(code="FZFG", words="freezing fog")
        mist = Phenomenon(code="BR", words="mist")
        dust = Phenomenon(code="DU", words="dust")
        around = Phenomenon(code="VCSH", words="showers in the vicinity", precipitation=True, nearby=True)
        rows = (
            (5.1, -5.0, (rain,), None), (5.0, -5.0, (rain,), Level.CAUTION), (2.1, -5.0, (rain,), Level.CAUTION), (2.0, -5.0, (rain,), Level.GROUNDED),
            (2.0, -5.0, (fog,), Level.GROUNDED), (2.0, -5.0, (mist,), Level.GROUNDED), (2.0, -5.0, (dust,), None), (2.0, -5.0, (around,), None),
            (2.0, -5.0, (), None), (2.0, 0.0, (), Level.CAUTION), (2.0, -0.1, (), None), (2.1, 2.0, (), None), (-10.0, None, (), None),
            (None, None, (rain,), None),
        )  # fmt: skip
        for air_c, dew_c, codes, level in rows:
            with self.subTest((air_c, dew_c, [p.code for p in codes])):
                found = self.level(air_c, dew_c, *codes)
                self.assertEqual(found and found.level, level)

    def test_words(self) -> None:
        rain = Phenomenon(code="-RA", words="light rain", precipitation=True)
        mist = Phenomenon(code="BR", words="mist")
        found = self.level(1, -5, rain, mist)
        self.assertEqual(
            said(found), "1 °C with light rain, mist: ice may form on propellers and wings where you cannot see it."
        )
        self.assertEqual(found.remedy, "Wait for drier or warmer air.")
        damp = self.level(1, 0.5)
        self.assertEqual(
            said(damp), "1 °C with damp air: ice may form on propellers and wings where you cannot see it."
        )
        self.assertIn("Disconnect the pack", damp.remedy)

    def test_phenomena_not_known_are_not_dry_but_said_elsewhere(self) -> None:
        weather = dry_weather(temperature_c=1, dew_point_c=-5, phenomena=None)
        self.assertIsNone(named(judge_air(weather, situation()), "Icing"))
        self.assertGreater(max(f.level for f in judge_weather(weather, situation())), Level.CLEAR)


class FrostedFingers(unittest.TestCase):
    """-27 °C on the index: skin freezes within half an hour (Environment Canada, from memory)."""

    def at(self, air_c: float):  # type: ignore[no-untyped-def]
        weather = dry_weather(temperature_c=air_c, wind_ms=1.0, dew_point_c=None).model_copy(
            update={"wind_height_m": 10.0}
        )
        return named(judge_air(weather, situation()), "Fingers")

    def test_edges_in_still_air(self) -> None:
        """Below 4.8 km/h the index is the air itself (definition of the index)."""
        for air_c, level in ((0.0, None), (-0.1, Level.CAUTION), (-26.9, Level.CAUTION), (-27.0, Level.GROUNDED)):
            found = self.at(air_c)
            self.assertEqual(found and found.level, level, air_c)
        self.assertIn("gloves", self.at(-5).remedy)
        self.assertEqual(self.at(-30).remedy, "Fly another day.")
        self.assertIsNone(named(judge_air(dry_weather(temperature_c=-30, wind_ms=None), situation()), "Fingers"))


class Density(unittest.TestCase):
    def test_the_limit_decides_and_at_the_limit_is_allowed(self) -> None:
        weather = dry_weather(temperature_c=30)
        value_m = named(judge_air(weather, situation()), "Density altitude").value.value
        for limit_m, level in ((value_m - 1, Level.GROUNDED), (value_m + 1, Level.CAUTION), (value_m * 2, Level.CLEAR)):
            found = named(judge_air(weather, situation(limits=Limits(density_altitude_m=limit_m))), "Density altitude")
            self.assertEqual(found.level, level)
            self.assertEqual("(max" in said(found), level > Level.CLEAR)

    def test_without_a_pressure_the_lowest_ever_measured_counts(self) -> None:
        """870 hPa, the lowest ever measured at sea level (from memory); the table of the standard atmosphere puts that at
        about 1,280 m in standard air (fluids)."""
        report = dry_weather(temperature_c=15, dew_point_c=-60, qnh_hpa=None, text="METAR")
        flat = situation(site=SITE.model_copy(update={"elevation_m": 0.0}))
        found = named(judge_air(report, flat), "Density altitude")
        rho = fluids.ATMOSPHERE_1976(0.0).rho * 870 / 1013.25
        height_m = next(h for h in range(3000) if fluids.ATMOSPHERE_1976(float(h)).rho <= rho)
        self.assertAlmostEqual(found.value.value, height_m, delta=15)
        self.assertIs(found.level, Level.CAUTION)
        self.assertIn("Without a pressure", said(found))
        self.assertEqual(found.remedy, "Enter the pressure (QNH).")
        for limit_m, level in ((found.value.value - 1, Level.GROUNDED), (found.value.value + 1, Level.CAUTION)):
            strict = flat.model_copy(update={"limits": Limits(density_altitude_m=limit_m)})
            self.assertIs(named(judge_air(report, strict), "Density altitude").level, level)
        by_hand = report.model_copy(update={"text": BY_HAND})
        self.assertIsNone(named(judge_air(by_hand, flat), "Density altitude"))

    def test_thin_air_is_spoken_of_from_three_per_cent_on(self) -> None:
        """Thrust goes with density (momentum theory): by dry-air density of the gas law, 287.05 J/(kg K)."""
        flat = situation(site=SITE.model_copy(update={"elevation_m": 0.0}))
        for lost, spoken in ((0.028, False), (0.032, True)):
            air_k = 101325 / (287.05 * 1.225 * (1 - lost))
            weather = dry_weather(temperature_c=air_k - 273.15, qnh_hpa=1013.25, dew_point_c=-60.0)
            self.assertEqual(named(judge_air(weather, flat), "Thin air") is not None, spoken, lost)
        engine = situation(PRESETS["camera-quad"], site=SITE.model_copy(update={"elevation_m": 1500.0}))
        self.assertIn("less flight time", said(named(judge_air(dry_weather(), engine), "Thin air")))
