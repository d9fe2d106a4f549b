"""Single groups of reports and forecasts, against the code tables of WMO-No. 306 (FM 15, FM 51), written out from memory."""

import unittest
import warnings
from datetime import UTC, datetime

from hypothesis import given
from hypothesis import strategies as st
from metar import Metar
from msgspec.structs import fields

from walkround.core.weather.groups import Elements, phenomenon, read_elements
from walkround.core.weather.metar import decode_report

FALLS = ("DZ", "RA", "SN", "SG", "PL", "GR", "GS", "UP")
DIMS = ("BR", "FG", "FU", "VA", "DU", "SA", "HZ")
OTHERS = ("PO", "SQ", "FC", "SS", "DS")
DESCRIBED = {"MI": ("FG",), "PR": ("FG",), "BC": ("FG",), "DR": ("DU", "SA", "SN"), "BL": ("DU", "SA", "SN"),
             "SH": ("RA", "SN", "PL", "GR", "GS", "UP"), "TS": ("RA", "SN", "PL", "GR", "GS", "UP"),
             "FZ": ("DZ", "RA", "UP", "FG")}  # fmt: skip
"""Code table 4678: descriptors and what they may stand with."""
TABLE_4678 = (*FALLS, *DIMS, *OTHERS, "TS", *(d + w for d, ws in DESCRIBED.items() for w in ws))
KNOT = 1852 / 3600


class PresentWeather(unittest.TestCase):
    def test_the_whole_table_is_read(self) -> None:
        for code in TABLE_4678:
            for prefix in ("", "-", "+") if set(FALLS) & {code[-2:]} else ("",):
                with self.subTest(prefix + code):
                    said = read_elements([prefix + code, "Q1013"])
                    self.assertEqual(said.unread, ())
                    assert said.phenomena is not None
                    self.assertEqual([p.code for p in said.phenomena], [prefix + code])
                    self.assertNotRegex(said.phenomena[0].words, r"[A-Z]{2}", "every pair has its words")

    def test_what_each_means_for_a_flight(self) -> None:
        for code in TABLE_4678:
            pairs = {code[i : i + 2] for i in range(0, len(code), 2)}
            with self.subTest(code):
                seen = phenomenon(code)
                self.assertEqual(seen.precipitation, bool(pairs & {*FALLS, "IC"}))
                self.assertEqual(seen.thunder, bool(pairs & {"TS", "FC"}))
                self.assertEqual(seen.freezing, "FZ" in pairs)
                self.assertEqual(seen.severe, bool(pairs & {"SQ", "VA", "SS", "DS", "FC", "GR"}))
                self.assertEqual(seen.blowing, bool(pairs & {"BL", "DR", "PO", "SA", "DU"}))
                self.assertFalse(seen.nearby)

    def test_in_words(self) -> None:
        rows = (
            ("-SHRA", "light showers of rain"), ("+TSRA", "heavy thunderstorm with rain"), ("VCSH", "showers nearby"), ("TS", "thunderstorm"),
            ("VCTS", "thunderstorm nearby"), ("FZFG", "freezing fog"), ("BCFG", "patches of fog"), ("SH", "showers"), ("RASN", "rain snow"),
            ("+FC", "heavy funnel cloud"), ("TSGR", "thunderstorm with hail"),
        )  # fmt: skip
        for code, words in rows:
            self.assertEqual(phenomenon(code).words, words)
        self.assertTrue(phenomenon("VCSH").precipitation)
        self.assertTrue(phenomenon("VCFG").nearby)

    def test_garbage_is_not_weather(self) -> None:
        for code in ("RAIN", "XX", "R", "TSX", "FGX", "--RA", "RAFGRA"):
            with self.subTest(code):
                said = read_elements([code, "Q1013"])
                self.assertTrue(said.unread, said)


class Wind(unittest.TestCase):
    def test_units(self) -> None:
        """A knot is 1852/3600 m/s exactly; KMH and MPS by definition."""
        rows = (
            ("24010KT", 10 * KNOT),
            ("24010MPS", 10.0),
            ("24036KMH", 10.0),
            ("240110KT", 110 * KNOT),
            ("00000KT", 0.0),
        )
        for group, ms in rows:
            said = read_elements([group])
            self.assertAlmostEqual(said.wind_ms or 0.0, ms, places=3)
            self.assertEqual((said.unread, said.gust_ms), ((), None))

    @given(st.integers(0, 360), st.integers(0, 99), st.integers(0, 40))
    def test_direction_speed_gust(self, towards: int, speed: int, more: int) -> None:
        gust = speed + more
        said = read_elements([f"{towards:03}{speed:02}G{gust:02}KT"])
        self.assertEqual(
            said.wind_from_deg, None if towards == 0 and speed == 0 and said.wind_from_deg is None else towards % 360
        )
        self.assertAlmostEqual(said.wind_ms or 0.0, speed * KNOT, places=3)
        self.assertAlmostEqual(said.gust_ms or 0.0, gust * KNOT, places=3)

    def test_variable_and_sectors(self) -> None:
        self.assertIsNone(read_elements(["VRB03KT"]).wind_from_deg)
        self.assertEqual(read_elements(["24008KT", "200V280"]).wind_sector_deg, (200.0, 280.0))
        self.assertEqual(read_elements(["36008KT", "340V360"]).wind_sector_deg, (340.0, 0.0))
        beyond = read_elements(["24008KT", "200V380"])
        self.assertEqual((beyond.wind_sector_deg, beyond.wind_from_deg), (None, None))
        self.assertIn("no such direction", beyond.notes[0])
        self.assertEqual(read_elements(["24008KT", "200V280", "210V290"]).unread, ("two sectors of wind",))

    def test_what_is_not_reported_is_said(self) -> None:
        rows = (("///08KT", "direction of the wind not reported"), ("24008G//KT", "gust not reported"), ("37008KT", "no such direction"),
                ("24020G10KT", "below the mean wind"))  # fmt: skip
        for group, words in rows:
            said = read_elements([group])
            self.assertIn(words, " ".join(said.notes))
            self.assertIsNotNone(said.wind_ms)
            self.assertIsNone(said.gust_ms)
        self.assertEqual(read_elements(["36008KT"]).notes, ())
        self.assertIn("is not plausible", " ".join(read_elements(["24080MPS"]).unread))
        self.assertEqual(read_elements(["24075MPS"]).wind_ms, 75.0)
        self.assertIn("given twice", " ".join(read_elements(["24008KT", "25010KT"]).unread))
        self.assertEqual(read_elements(["24008KT", "24008KT"]).unread, (), "the same said twice is no contradiction")


class Visibility(unittest.TestCase):
    def test_metres_miles_kilometres(self) -> None:
        """A statute mile is 1609.344 m exactly; 9999 is 10 km or more, CAVOK too (FM 15)."""
        mile = 1609.344
        rows = (
            (["9999"], 10_000), (["CAVOK"], 10_000), (["0400"], 400), (["3SM"], 3 * mile), (["1/2SM"], mile / 2), (["1", "1/2SM"], 1.5 * mile),
            (["10KM"], 10_000), (["4000NDV"], 4000), (["6000", "1200SW"], 1200), (["P6SM"], 6 * mile), (["M1/4SM"], mile / 4),
        )  # fmt: skip
        for groups, metres in rows:
            with self.subTest(groups):
                said = read_elements(groups)
                self.assertAlmostEqual(said.visibility_m or 0, metres, delta=1)
                self.assertEqual(said.unread, ())
        self.assertIn("less than 1/4SM", read_elements(["M1/4SM"]).notes[0])
        self.assertEqual(read_elements(["P6SM"]).notes, ())

    def test_cavok_says_three_things(self) -> None:
        said = read_elements(["CAVOK"])
        self.assertEqual((said.phenomena, said.ceiling_known, said.ceiling_m), ((), True, None))
        for beside in ("RA", "BKN010", "3000"):
            self.assertIn("CAVOK beside", " ".join(read_elements(["CAVOK", beside]).unread))


class Cloud(unittest.TestCase):
    def test_ceilings(self) -> None:
        """Hundreds of feet; a ceiling is broken, overcast or vertical visibility (FAA and ICAO usage)."""
        rows = (
            (["BKN010"], 304.8), (["OVC003"], 91.44), (["VV001"], 30.48), (["VV///"], 0.0), (["FEW002"], None), (["SCT002"], None),
            (["FEW002", "BKN030", "OVC020"], 609.6), (["VV///", "OVC020"], 0.0), (["NSC"], None), (["SKC"], None), (["BKN010CB"], 304.8),
            (["BKN000"], 0.0),
        )  # fmt: skip
        for groups, base in rows:
            with self.subTest(groups):
                said = read_elements(groups)
                self.assertTrue(said.ceiling_known)
                self.assertEqual(said.ceiling_m if base is None else round(said.ceiling_m or 0, 2), base)
        self.assertFalse(read_elements(["9999"]).ceiling_known)

    def test_towers_and_contradictions(self) -> None:
        for group in ("FEW030CB", "SCT030TCU"):
            self.assertIn(f"towering cloud reported: {group}", read_elements([group]).notes)
        self.assertEqual(read_elements(["FEW030"]).notes, ())
        self.assertIn("sky hidden", read_elements(["VV///"]).notes[0])
        self.assertIn("no cloud beside cloud", " ".join(read_elements(["NSC", "BKN010"]).unread))


class OneAfterTheOther(unittest.TestCase):
    def test_later_groups_take_the_place_of_earlier_ones(self) -> None:
        before = read_elements(["24008G18KT", "9999", "RA", "BKN010"])
        rows = (
            (["30004KT"], {"gust_ms": None, "wind_from_deg": 300.0}), (["0800"], {"visibility_m": 800.0}), (["NSW"], {"phenomena": ()}),
            (["NSC"], {"ceiling_m": None, "ceiling_known": True}),
        )  # fmt: skip
        for groups, changes in rows:
            after = before.followed_by(read_elements(groups))
            for name in (field.name for field in fields(Elements)):
                if name in ("wind_ms", "notes"):
                    continue
                expected = changes.get(name, getattr(before, name))
                with self.subTest(f"{groups} {name}"):
                    self.assertEqual(getattr(after, name), expected)
        damaged = before.followed_by(read_elements(["24X08KT"]))
        self.assertEqual(damaged.unread, ("24X08KT",))

    def test_no_weather_beside_weather(self) -> None:
        self.assertEqual(read_elements(["NSW"]).phenomena, ())
        self.assertIn("no weather beside weather", read_elements(["NSW", "RA"]).unread)
        self.assertIsNone(read_elements(["24008KT"]).phenomena)


class Limits(unittest.TestCase):
    """What no instrument shows is not believed: highest and lowest ever measured lie inside (WMO archive of extremes, from memory)."""

    def whole(self, temperature: str = "11/06", pressure: str = "Q1016"):  # type: ignore[no-untyped-def]
        return decode_report(
            f"ZZAA 251150Z 24008KT 9999 NSC {temperature} {pressure}", datetime(2026, 11, 25, 12, 10, tzinfo=UTC)
        )

    def test_temperatures(self) -> None:
        for group, known in (("M60/M62", True), ("M61/M62", False), ("60/20", True), ("61/20", False)):
            weather = self.whole(group)
            self.assertEqual(weather.temperature_c is not None, known, group)
            self.assertEqual(any("not plausible" in text for text in weather.unread), not known)
        self.assertIsNone(self.whole("11/12").dew_point_c)
        self.assertEqual(self.whole("11/11").dew_point_c, 11)
        self.assertIsNone(self.whole("11/").dew_point_c)

    def test_pressures(self) -> None:
        for group, known in (("Q0850", True), ("Q0849", False), ("Q1090", True), ("Q1091", False), ("A2992", True)):
            self.assertEqual(self.whole(pressure=group).qnh_hpa is not None, known, group)
        self.assertAlmostEqual(self.whole(pressure="A2992").qnh_hpa, 1013.2, delta=0.1)

    def test_one_pressure_in_two_units(self) -> None:
        """29.92 inHg is 1013.2 hPa; what differs by more than rounding is a contradiction."""
        self.assertEqual(self.whole(pressure="Q1013 A2992").unread, ())
        self.assertEqual(self.whole(pressure="Q1013 A2995").unread, ())
        for pair in ("Q1013 A2997", "Q1013 A2900"):
            self.assertIn("pressures disagree", " ".join(self.whole(pressure=pair).unread))
        self.assertIn("pressure given twice (Q1013 and Q1020)", self.whole(pressure="Q1013 Q1020").unread)
        self.assertIn("pressure given twice", " ".join(self.whole(pressure="Q1013 A2992 Q1020").unread))

    def test_directions_at_the_turn(self) -> None:
        self.assertEqual(
            (read_elements(["36008KT"]).wind_from_deg, read_elements(["36108KT"]).wind_from_deg), (0.0, None)
        )
        self.assertEqual(read_elements(["36008KT", "360V040"]).wind_sector_deg, (0.0, 40.0))
        self.assertIsNone(read_elements(["36008KT", "361V040"]).wind_sector_deg)

    def test_what_a_forecast_lacks(self) -> None:
        at = datetime(2026, 11, 25, 12, tzinfo=UTC)
        self.assertEqual(read_elements(["NSC"]).weather(at, "ZZAA").missing, ("wind", "visibility"))
        self.assertEqual(read_elements(["24008KT", "9999"]).weather(at, "ZZAA").missing, ())
        self.assertEqual(read_elements(["CAVOK", "BKN010"]).unread, ("CAVOK beside BKN010",))
        self.assertEqual(
            (read_elements(["9999"]).visibility_m, read_elements(["CAVOK"]).visibility_m), (10_000.0, 10_000.0)
        )


def by_package(kind: str, text: str) -> Metar.Metar | None:
    """One group read by the ``metar`` package, None where it refuses it; it reads a bare 0400 as a wind, so one goes before."""
    lead = "" if kind == "wind" else "00000KT "
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        try:
            return Metar.Metar(f"METAR ZZZZ 010000Z {lead}{text}", month=1, year=2001, strict=True)
        except Metar.ParserError:
            return None


class AgainstThePackage(unittest.TestCase):
    """Reference: ``metar`` from the registry, another decoder of single groups."""

    @given(
        st.one_of(st.just("VRB"), st.integers(0, 360).map(lambda n: f"{n:03d}")),
        st.integers(0, 60),
        st.one_of(st.none(), st.integers(0, 15)),
        st.sampled_from(["KT", "MPS", "KMH"]),
    )
    def test_winds(self, direction: str, speed: int, more: int | None, unit: str) -> None:
        if unit == "MPS":
            speed = min(speed, 55)
        group = f"{direction}{speed:02d}{'' if more is None else f'G{speed + more:02d}'}{unit}"
        ours, theirs = read_elements([group]), by_package("wind", group)
        assert theirs is not None and ours.wind_ms is not None
        self.assertAlmostEqual(ours.wind_ms, theirs.wind_speed.value("MPS"), places=3)
        gust = None if theirs.wind_gust is None else theirs.wind_gust.value("MPS")
        self.assertEqual(ours.gust_ms is None, gust is None, group)
        if gust is not None and ours.gust_ms is not None:
            self.assertAlmostEqual(ours.gust_ms, gust, places=3)
        self.assertEqual(ours.wind_from_deg, None if theirs.wind_dir is None else theirs.wind_dir.value() % 360)

    def test_visibility(self) -> None:
        groups = [f"{n:04d}" for n in range(0, 9990, 50)] + [f"{n}SM" for n in range(20)] + ["2000NE", "4000NDV"]
        groups += [f"{whole}{over}/{under}SM" for whole in ("", "1 ", "2 ") for over in (1, 3) for under in (2, 4, 8)]
        for group in groups:
            theirs = by_package("visibility", group)
            assert theirs is not None
            ours = read_elements(group.split()).visibility_m
            self.assertAlmostEqual(ours or 0.0, theirs.vis.value("M"), places=1, msg=group)

    def test_temperatures_and_pressures(self) -> None:
        for air in ("M21", "M05", "M00", "00", "05", "31"):
            theirs = by_package("temperature", f"{air}/M30")
            report = decode_report(f"ZZZZ 010000Z 24008KT 9999 NSC {air}/M30 Q1013", datetime(2001, 1, 1, tzinfo=UTC))
            assert theirs is not None
            self.assertEqual(
                (report.temperature_c, report.dew_point_c), (theirs.temp.value("C"), theirs.dewpt.value("C"))
            )
        for group in (*(f"Q{n:04d}" for n in range(900, 1080, 7)), *(f"A{n}" for n in range(2700, 3150, 7))):
            theirs = by_package("pressure", group)
            report = decode_report(f"ZZZZ 010000Z 24008KT 9999 NSC 12/08 {group}", datetime(2001, 1, 1, tzinfo=UTC))
            assert theirs is not None and report.qnh_hpa is not None
            self.assertAlmostEqual(report.qnh_hpa, theirs.press.value("HPA"), delta=0.01)
