"""Weather report texts against a second, independent decoder, and every trap known of either."""

import unittest
from datetime import UTC, datetime
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st
from metar_taf_parser.parser.parser import MetarParser

from walkround.core.base.errors import InputError
from walkround.core.base.units import KNOT_MS
from walkround.core.weather.metar import decode_report, phenomenon, split_reports

NOW = datetime(2026, 11, 25, 12, 10, tzinfo=UTC)

# Invented reports in the forms of the code: knots and m/s, metres and miles, all sky groups, cold and hot.
REPORTS = (
    "ZZAA 251150Z 24008KT 9999 BKN030 11/06 Q1016",
    "ZZAB 251150Z 24008G21KT 9999 -SHRA BKN030 OVC100 11/06 Q1016",
    "ZZAC 251150Z 00000KT CAVOK 17/06 Q1024",
    "ZZAD 251120Z VRB02KT 0400 FG VV002 04/04 Q1028",
    "ZZAE 251150Z 24008MPS 6000 -RA SCT012 11/10 Q1004",
    "ZZAF 251150Z 05006KT 9999 SKC M04/M08 Q1031",
    "ZZAG 251150Z 19011G27KT 8000 TSRA BKN035CB 22/17 Q1002",
    "KZAA 251153Z AUTO 27015G25KT 1 1/2SM -RA BR OVC008 M01/M02 A2992",
    "KZAB 251153Z 33012KT 10SM FEW250 28/12 A3004",
    "KZAC 251153Z VRB03KT 1/4SM FG VV001 02/02 A3001",
    "KZAD 251153Z 18007KT 3SM HZ SCT040 BKN120 35/21 A2986",
    "KZAE 251153Z 36020G33KT 2SM SN BLSN OVC015 M08/M11 A2970",
    "ZZAH 251150Z 12003KT 9999 FEW010 SCT020 BKN045 19/18 Q1011",
    "ZZAI 251150Z 31016KT 280V340 9999 -DZ OVC006 08/07 Q0998",
    "ZZAJ 251150Z 09004KT 2000 BR NSC 01/00 Q1030",
    "ZZAK 251150Z 27010KT 4000 +SHRA SCT018TCU 14/13 Q1006",
    "ZZAL 251150Z 20018G30KT 9999 VCSH SCT022 BKN030 16/11 Q1009",
    "ZZAM 251150Z 10012KT 3000 FZDZ OVC003 M02/M03 Q1018",
    "ZZAN 251150Z 26005KT 9999 NSC 24/09 Q1019",
    "ZZAO 251150Z 00000KT 0150 FZFG VV001 M05/M05 Q1035",
    "ZZAP 251150Z 35009KT 320V020 7000 SHSN BKN012 00/M01 Q1001",
    "ZZAQ 251150Z 15006KT 9999 -TSRA FEW025CB BKN060 21/18 Q1008",
)


def metres(text: str) -> float | None:
    """The second decoder keeps visibility as text: metres, or miles (all ours below 100 are miles)."""
    if text.startswith(">"):
        return 10_000
    if text.rstrip("m").isdigit() and float(text.rstrip("m")) >= 100:
        return float(text.rstrip("m"))
    parts = text.removesuffix("SM").split()
    return float(sum(Fraction(p) for p in parts)) * 1609.344


class AgainstASecondDecoder(unittest.TestCase):
    """Reference: metar-taf-parser-mivek, an independent decoder from the registry."""

    def test_every_value_of_every_report(self) -> None:
        self.assertGreaterEqual(len(REPORTS), 20)
        for text in REPORTS:
            with self.subTest(text):
                ours = decode_report(text, NOW)
                theirs = MetarParser().parse(text)
                unit = KNOT_MS if theirs.wind.unit == "KT" else 1.0
                self.assertAlmostEqual(ours.wind_ms, theirs.wind.speed * unit, delta=0.001)
                if theirs.wind.gust:
                    self.assertAlmostEqual(ours.gust_ms, theirs.wind.gust * unit, delta=0.001)
                else:
                    self.assertIsNone(ours.gust_ms)
                if theirs.wind.degrees is not None:
                    self.assertEqual(ours.wind_from_deg, theirs.wind.degrees % 360)
                self.assertAlmostEqual(ours.visibility_m, metres(theirs.visibility.distance), delta=0.5)
                self.assertEqual((ours.temperature_c, ours.dew_point_c), (theirs.temperature, theirs.dew_point))
                # The second decoder cuts inches down to whole hPa.
                self.assertAlmostEqual(ours.qnh_hpa, theirs.altimeter, delta=1.0)
                layers = [c.height for c in theirs.clouds if c.quantity.name in ("BKN", "OVC") and c.height]
                if theirs.vertical_visibility:
                    layers.append(theirs.vertical_visibility)
                if layers:
                    self.assertAlmostEqual(ours.ceiling_m, min(layers) * 0.3048, delta=0.01)
                else:
                    self.assertIsNone(ours.ceiling_m)
                fall = any(
                    p.value in ("RA", "DZ", "SN", "SG", "PL", "GR", "GS")
                    for w in theirs.weather_conditions
                    for p in w.phenomenons
                )
                nearby = [p for p in ours.phenomena if p.nearby]
                self.assertEqual(any(p.precipitation for p in ours.phenomena if p not in nearby), fall)
                self.assertEqual(
                    (ours.at.day, ours.at.hour, ours.at.minute), (theirs.day, theirs.time.hour, theirs.time.minute)
                )


class Traps(unittest.TestCase):
    """Rows: what is odd, the report, what must be missing, and a word of the note."""

    ROWS = (
        ("visibility in slashes", "ZZAA 251150Z 24008KT //// BKN030 11/06 Q1016", "visibility", ""),
        ("weather in slashes", "ZZAA 251150Z 24008KT 9999 // BKN030 11/06 Q1016", "present weather", ""),
        ("cloud in slashes", "ZZAA 251150Z 24008KT 9999 ////// 11/06 Q1016", "cloud", ""),
        ("height of cloud in slashes", "ZZAA 251150Z 24008KT 9999 OVC/// 11/06 Q1016", "cloud", "OVC///"),
        ("pressure of 113", "ZZAA 251150Z 24008KT 9999 BKN030 11/06 Q0113", "pressure", "Q0113"),
        ("temperature in slashes", "ZZAA 251150Z 24008KT 9999 BKN030 ///// Q1016", "temperature", ""),
        ("wind in slashes", "ZZAA 251150Z /////KT 9999 BKN030 11/06 Q1016", "wind", ""),
        ("wind without a unit", "ZZAA 251150Z 24008 9999 BKN030 11/06 Q1016", "wind", "24008"),
        ("wind from 400 degrees", "ZZAA 251150Z 40008KT 9999 BKN030 11/06 Q1016", "", "40008KT"),
        ("wind of 400 knots", "ZZAA 251150Z 240400KT 9999 BKN030 11/06 Q1016", "wind", "240400KT"),
        ("no such group", "ZZAA 251150Z 24008KT 9999 BKN030 11/06 Q1016 XQZ99", "", "XQZ99"),
        ("gust below the mean", "ZZAA 251150Z 24018G12KT 9999 BKN030 11/06 Q1016", "", "ignored"),
        ("dew point above the temperature", "ZZAA 251150Z 24008KT 9999 BKN030 11/15 Q1016", "", "ignored"),
        ("day 32 does not lose the rest", "ZZAA 321150Z 24008KT 9999 BKN030 11/06 Q1016", "time", "321150Z"),
        ("hour 25", "ZZAA 252550Z 24008KT 9999 BKN030 11/06 Q1016", "time", "252550Z"),
        (
            "less than a quarter mile",
            "KZAA 251153Z 24008KT M1/4SM FG VV001 02/02 A3001",
            "",
            "less than",
        ),
        ("towering cloud", "ZZAA 251150Z 24008KT 9999 SCT020CB 11/06 Q1016", "", "towering"),
    )

    def test_named_and_never_guessed(self) -> None:
        for name, text, missing, note in self.ROWS:
            with self.subTest(name):
                weather = decode_report(text, NOW)
                if missing:
                    self.assertIn(missing, weather.missing)
                else:
                    self.assertEqual(weather.missing, ())
                self.assertIn(note, " ".join((*weather.notes, *weather.unread)))

    def test_a_half_readable_report_gives_what_was_read(self) -> None:
        weather = decode_report("METAR ZZAA 251150Z 25008KT //// // ////// 13/15 Q0113", NOW)
        self.assertAlmostEqual(weather.wind_ms, 8 * KNOT_MS, delta=0.001)
        self.assertEqual(weather.temperature_c, 13)
        self.assertIsNone(weather.visibility_m)
        self.assertIsNone(weather.phenomena)
        self.assertEqual(weather.missing, ("visibility", "present weather", "cloud", "pressure"))

    def test_six_miles_and_more(self) -> None:
        weather = decode_report("CZAA 251200Z CCA 00000KT P6SM FEW010 10/08 A2990", NOW)
        self.assertAlmostEqual(weather.visibility_m, 6 * 1609.344)
        self.assertEqual(weather.missing, ())

    def test_trend_is_kept_apart_from_now(self) -> None:
        weather = decode_report("ZZAA 251150Z 24008KT 9999 BKN030 11/06 Q1016 TEMPO 4000 TSRA RMK X", NOW)
        self.assertEqual(weather.trend, "TEMPO 4000 TSRA")
        self.assertEqual(weather.phenomena, ())

    def test_remarks_are_not_weather(self) -> None:
        weather = decode_report("KZAA 251153Z 24008KT 10SM CLR 11/06 A3001 RMK AO2 TSNO RAB05", NOW)
        self.assertEqual((weather.phenomena, weather.notes), ((), ()))

    def test_the_report_of_yesterday_and_of_last_month(self) -> None:
        self.assertEqual(decode_report("ZZAA 241150Z 24008KT CAVOK 11/06 Q1016", NOW).at.day, 24)
        at = decode_report("ZZAA 281150Z 24008KT CAVOK 11/06 Q1016", NOW).at
        self.assertEqual((at.month, at.day), (10, 28))
        march = datetime(2026, 3, 1, 0, 10, tzinfo=UTC)
        at = decode_report("ZZAA 312350Z 24008KT CAVOK 11/06 Q1016", march).at
        self.assertEqual((at.month, at.day), (1, 31))

    def test_nonsense(self) -> None:
        for text, words in (
            ("the quick brown fox", "This text is not a weather report"),
            ("", "This text is not a weather report"),
            ("ZZAA 251150Z NIL", "reports nothing"),
            ("X" * 3000, "too long"),
        ):
            with self.subTest(text[:20]), self.assertRaises(InputError) as caught:
                decode_report(text, NOW)
            self.assertIn(words, caught.exception.message)
            self.assertEqual(caught.exception.field, "report")

    @given(st.text(alphabet="ABCGKMPQSTVZ/0123456789 +-", max_size=80))
    def test_whatever_is_pasted_is_read_or_refused_in_words(self, text: str) -> None:
        try:
            weather = decode_report(text, NOW)
        except InputError as error:
            self.assertTrue(error.message)
        else:
            self.assertTrue(weather.wind_ms is None or 0 <= weather.wind_ms <= 75)
            self.assertTrue(weather.qnh_hpa is None or 850 <= weather.qnh_hpa <= 1090)


class Phenomena(unittest.TestCase):
    def test_words_and_meaning(self) -> None:
        """Codes of WMO-No. 306, table 4678, from memory."""
        rows = (
            ("-RA", "light rain", True, False, False),
            ("+SHRA", "heavy showers of rain", True, False, False),
            ("TSRA", "thunderstorm with rain", True, True, False),
            ("VCTS", "thunderstorm nearby", False, True, False),
            ("VCSH", "showers nearby", True, False, False),
            ("FZDZ", "freezing drizzle", True, False, True),
            ("FZFG", "freezing fog", False, False, True),
            ("BR", "mist", False, False, False),
        )
        for code, words, falls, thunder, freezing in rows:
            with self.subTest(code):
                p = phenomenon(code)
                self.assertEqual((p.words, p.precipitation, p.thunder, p.freezing), (words, falls, thunder, freezing))


class Several(unittest.TestCase):
    """More than one report in what is pasted."""

    EARLY = "ZZAA 251120Z 24008KT 9999 NSC 11/06 Q1016"
    LATE = "ZZAA 251150Z 24012KT 9999 NSC 12/06 Q1015"
    OTHER = "ZZBB 251150Z 24020KT 9999 NSC 12/06 Q1014"

    def test_cut_into_single_ones(self) -> None:
        for glue in (" ", "= ", "\n", " =\n"):
            self.assertEqual(split_reports(f"{self.EARLY}{glue}{self.LATE}"), [self.EARLY, self.LATE])
        self.assertEqual(
            split_reports(f"METAR {self.EARLY}= SPECI {self.LATE}="), [f"METAR {self.EARLY}", f"SPECI {self.LATE}"]
        )
        self.assertEqual(
            split_reports(f"METAR COR {self.EARLY} METAR COR {self.LATE}"),
            [f"METAR COR {self.EARLY}", f"METAR COR {self.LATE}"],
        )
        self.assertEqual(split_reports(f"{self.EARLY} {self.LATE} {self.OTHER}"), [self.EARLY, self.LATE, self.OTHER])
        self.assertEqual(split_reports(self.LATE.lower()), [self.LATE])
        self.assertEqual(split_reports("nothing of it"), ["NOTHING OF IT"])

    def test_the_newest_of_one_station_counts(self) -> None:
        for text in (f"{self.EARLY} {self.LATE}", f"{self.LATE} {self.EARLY}"):
            weather = decode_report(text, NOW)
            self.assertEqual((weather.temperature_c, weather.at.minute), (12, 50))

    def test_a_correction_before_its_original(self) -> None:
        original = "METAR ZZAA 251150Z 24008KT 9999 NSC 11/06 Q1016"
        for corrected in (
            "METAR COR ZZAA 251150Z 24030KT 9999 NSC 11/06 Q1016",
            "METAR ZZAA 251150Z CCA 24030KT 9999 NSC 11/06 Q1016",
        ):
            for text in (f"{original}= {corrected}=", f"{corrected}= {original}="):
                self.assertAlmostEqual(decode_report(text, NOW).wind_ms, 30 * KNOT_MS, places=3, msg=text)
        later = "METAR ZZAA 251200Z 24010KT 9999 NSC 11/06 Q1016"
        self.assertAlmostEqual(decode_report(f"METAR COR {self.EARLY}= {later}=", NOW).wind_ms, 10 * KNOT_MS, places=3)

    def test_one_whose_time_cannot_be_read_is_not_older(self) -> None:
        damaged = "ZZAA 251199Z 24033KT 9999 NSC 11/06 Q1016"
        for text in (f"{damaged} {self.LATE}", f"{self.LATE} {damaged}"):
            self.assertAlmostEqual(decode_report(text, NOW).wind_ms, 33 * KNOT_MS, places=3)

    def test_of_two_stations_the_pilot_chooses(self) -> None:
        both = f"{self.OTHER} {self.LATE}"
        for station, offered in (("ZZAA", self.LATE), ("ZZBB", self.OTHER), ("", self.LATE), ("ZZCC", self.LATE)):
            with self.subTest(station), self.assertRaises(InputError) as caught:
                decode_report(both, NOW, station)
            self.assertIn("several stations: ZZAA, ZZBB", caught.exception.message)
            self.assertEqual(caught.exception.offer, {"report": offered})

    def test_a_forecast_is_no_report(self) -> None:
        for text in (
            "TAF ZZAA 251130Z 2512/2612 24008KT 9999 NSC", "ZZAA 251130Z 2512/2612 24008KT 9999 NSC", "METAR TAF ZZAA 251130Z 24008KT 9999",
            "ZZAA 251130Z 24008KT 9999 NSC FM251400 24020KT", "ZZAA 251130Z 24008KT PROB30 TSRA",
        ):  # fmt: skip
            with self.subTest(text), self.assertRaises(InputError) as caught:
                decode_report(text, NOW)
            self.assertIn("forecast (TAF), not a report of now", caught.exception.message)


class Time(unittest.TestCase):
    def at(self, group: str, now: datetime = NOW) -> datetime | None:
        weather = decode_report(f"ZZAA {group} 24008KT 9999 NSC 11/06 Q1016", now)
        return None if "time" in weather.missing else weather.at

    def test_the_latest_such_day_not_more_than_an_hour_ahead(self) -> None:
        """A station's clock may run ahead of ours; an hour is allowed for."""
        self.assertEqual(self.at("251310Z"), datetime(2026, 11, 25, 13, 10, tzinfo=UTC))
        self.assertEqual(self.at("251311Z"), datetime(2026, 10, 25, 13, 11, tzinfo=UTC))
        self.assertEqual(
            self.at("252359Z", datetime(2026, 11, 26, tzinfo=UTC)), datetime(2026, 11, 25, 23, 59, tzinfo=UTC)
        )
        january = datetime(2027, 1, 1, 0, 10, tzinfo=UTC)
        self.assertEqual(self.at("312350Z", january), datetime(2026, 12, 31, 23, 50, tzinfo=UTC))
        self.assertEqual(self.at("010005Z", january), datetime(2027, 1, 1, 0, 5, tzinfo=UTC))

    def test_a_day_that_two_months_lack(self) -> None:
        """The 31st on 1 March was in January: February has none."""
        self.assertEqual(
            self.at("312350Z", datetime(2026, 3, 1, 0, 10, tzinfo=UTC)), datetime(2026, 1, 31, 23, 50, tzinfo=UTC)
        )

    def test_edges_of_a_clock(self) -> None:
        self.assertEqual(self.at("242359Z"), datetime(2026, 11, 24, 23, 59, tzinfo=UTC))
        self.assertEqual(self.at("010000Z"), datetime(2026, 11, 1, 0, 0, tzinfo=UTC))
        for group in ("242360Z", "242400Z", "001200Z", "321200Z"):
            self.assertIsNone(self.at(group))

    def test_a_report_of_exactly_the_longest_text(self) -> None:
        self.assertTrue(decode_report("ZZAA 251150Z 24008KT 9999 NSC 11/06 Q1016".ljust(2000), NOW))
        with self.assertRaisesRegex(InputError, "too long"):
            decode_report("ZZAA 251150Z 24008KT 9999 NSC 11/06 Q1016".ljust(2001), NOW)


class Remarks(unittest.TestCase):
    """FMH-1, chapter 12 (from memory)."""

    BASE = "KZAA 251153Z 24008KT 10SM CLR 11/06 A3001 RMK "

    def test_lightning_and_towers(self) -> None:
        for remark in ("LTG DSNT NW", "LTGICCG ALQDS", "TSB32", "CB W MOV E", "CBMAM", "FUNNEL CLOUD", "TORNADO"):
            weather = decode_report(self.BASE + remark, NOW)
            self.assertTrue(any(n.startswith("remarks speak of") for n in weather.notes), remark)
        self.assertEqual(decode_report(self.BASE + "AO2 SLP164", NOW).notes, ())

    def test_the_peak_wind_counts_as_a_gust(self) -> None:
        """PK WND dddff(f)/(hh)mm in knots."""
        for remark, knots in (("PK WND 28045/15", 45), ("AO2 PK WND 280105/1115 SLP1", 105)):
            weather = decode_report(self.BASE + remark, NOW)
            self.assertAlmostEqual(weather.gust_ms, knots * KNOT_MS, places=3)
            self.assertIn("counts as a gust", weather.notes[0])
        gusty = "KZAA 251153Z 24030G50KT 10SM CLR 11/06 A3001 RMK PK WND 28035/15"
        self.assertAlmostEqual(decode_report(gusty, NOW).gust_ms, 50 * KNOT_MS, places=3, msg="the stronger of the two")
        strong = "KZAA 251153Z 24030KT 10SM CLR 11/06 A3001 RMK PK WND 28020/15"
        self.assertAlmostEqual(decode_report(strong, NOW).gust_ms, 30 * KNOT_MS, places=3, msg="never below the mean")
        for remark in ("PK WND", "PK 28045/15", "WND 28045/15", "PK WND SOON", "PK WIND 28045/15"):
            self.assertIsNone(decode_report(self.BASE + remark, NOW).gust_ms, remark)

    def test_without_a_station_or_recent_weather(self) -> None:
        self.assertEqual(decode_report("251150Z 24008KT 9999 NSC 11/06 Q1016", NOW).missing, ("station",))
        recent = decode_report("ZZAA 251150Z 24008KT 9999 NSC 11/06 Q1016 RERA", NOW)
        self.assertEqual((recent.notes, recent.unread, recent.phenomena), (("recent weather: RERA",), (), ()))
        foggy = decode_report("METAR 251150Z 24008KT 0300 FZFG VV001 M01/M02 Q1016", NOW)
        self.assertEqual((foggy.station, [p.code for p in foggy.phenomena or ()]), ("", ["FZFG"]))
