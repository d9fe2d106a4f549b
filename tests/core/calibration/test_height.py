"""Height at rest and optical sensors: worse never better, negative as bad as positive, each hindrance said."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.support import SITE, said
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Level, worst
from walkround.core.calibration.height import altitude_finding, drift_findings, optical_findings, rest_findings
from walkround.core.field.site import Terrain
from walkround.core.weather.atmosphere import pressure_altitude_m, station_pressure_hpa

HEIGHTS = st.floats(-200, 200)


class AtRest(unittest.TestCase):
    def test_rows(self) -> None:
        for first, last, minutes, expected in (
            (0, 0.5, 2, Level.CLEAR), (-1, -1.5, 2, Level.CLEAR), (-4, -4, 2, Level.CAUTION), (0, 2, 2, Level.CAUTION), (0, -9, 2, Level.GROUNDED), (-15, -15, 5, Level.GROUNDED),
        ):  # fmt: skip
            self.assertIs(worst(rest_findings(first, last, minutes)), expected, (first, last))

    @given(HEIGHTS, HEIGHTS, st.floats(1, 30), st.floats(1, 4))
    def test_worse_is_never_better(self, first: float, last: float, minutes: float, factor: float) -> None:
        plain = worst(rest_findings(first, last, minutes))
        self.assertGreaterEqual(worst(rest_findings(first * factor, last * factor, minutes)), plain)
        self.assertEqual(
            worst(rest_findings(-first, -last, minutes)), plain, "below the ground is as wrong as above it"
        )

    def test_a_barometer_read_at_rest(self) -> None:
        """Near the sea a hectopascal is 8.3 m. Source: ICAO standard atmosphere, Doc 7488/3."""
        for hpa_a_minute, expected in (
            (0.0, Level.CLEAR),
            (0.03, Level.CLEAR),
            (0.12, Level.CAUTION),
            (-0.12, Level.CAUTION),
            (0.5, Level.GROUNDED),
        ):
            readings = [(i / 5, 1010 - hpa_a_minute * i / 300 + 0.05 * (-1) ** i) for i in range(600)]
            self.assertIs(worst(drift_findings(readings)), expected, hpa_a_minute)
        drifted = drift_findings([(i / 5, 1010 - 0.5 * i / 300) for i in range(600)])[0]
        self.assertRegex(said(drifted), r"It shows 0.m and (7|8).m on the ground")
        for few in ([], [(0.0, 1010.0)], [(0.0, 1010.0), (30.0, 1010.0)]):
            with self.assertRaises(InputError):
                drift_findings(few)

    def test_two_readings_at_once_are_none(self) -> None:
        with self.assertRaises(InputError):
            rest_findings(0, 0, 0.2)


class AboveTheSea(unittest.TestCase):
    def test_a_hectopascal_is_eight_metres(self) -> None:
        """ICAO standard atmosphere: 27 to 28 ft a hectopascal near the sea; handbook value."""
        for wrong_hpa, expected in (
            (0, Level.CLEAR),
            (1, Level.CLEAR),
            (2, Level.CAUTION),
            (-3, Level.CAUTION),
            (5, Level.GROUNDED),
        ):
            self.assertIs(altitude_finding(250, 250, 1013 + wrong_hpa, 1013).level, expected, wrong_hpa)
        self.assertIs(altitude_finding(250 + 8.3 * 4, 250, 1017, 1013).level, Level.CLEAR, "as the setting says")

    @given(st.floats(-200, 3000), st.floats(970, 1045), st.floats(970, 1045))
    def test_what_the_setting_shows_is_right(self, elevation: float, set_hpa: float, qnh: float) -> None:
        right = pressure_altitude_m(station_pressure_hpa(qnh, elevation)) - pressure_altitude_m(set_hpa)
        self.assertIs(altitude_finding(right, elevation, set_hpa, qnh).level, Level.CLEAR)
        self.assertIs(altitude_finding(right + 50, elevation, set_hpa, qnh).level, Level.GROUNDED)


class Optical(unittest.TestCase):
    def test_each_hindrance_is_said(self) -> None:
        dry = SITE.model_copy(update={"over_water": False, "marks": ()})
        self.assertIs(worst(optical_findings(dry, 40, snow=False)), Level.CLEAR)
        for site, sun, snow, words in (
            (dry, -20, False, "too dark"), (dry, 2, False, "sun is low"), (dry.model_copy(update={"over_water": True}), 40, False, "Over water"),
            (dry.model_copy(update={"terrain": Terrain.WATER}), 40, False, "Over water"), (dry, 40, True, "Over snow"),
        ):  # fmt: skip
            found = optical_findings(site, sun, snow=snow)
            self.assertIs(worst(found), Level.CAUTION)
            self.assertIn(words, " ".join(said(f) for f in found))
