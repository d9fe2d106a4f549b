"""Forecast texts: a published example, a second decoder, and when each group holds."""

import unittest
from datetime import UTC, datetime, timedelta

from hypothesis import given
from hypothesis import strategies as st
from metar_taf_parser.parser.parser import TAFParser

from tests.support import situation
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Level
from walkround.core.round.window import parse_ahead, window
from walkround.core.weather.taf import ChangeKind, decode_forecast, hours_of

NOW = datetime(2026, 5, 15, 19, 10, tzinfo=UTC)
DONLON = (
    "TAF YUDO 151800Z 1600/1618 13005MPS 9000 BKN020 BECMG 1606/1608 SCT015CB BKN020 "
    "TEMPO 1608/1612 17006G12MPS 1000 TSRA SCT010CB BKN020 FM161230 15004MPS 9999 BKN020"
)
"""ICAO Annex 3, appendix 5, example A5-1 (from memory), with its decoding below."""
TEXTS = (
    DONLON,
    "TAF ZZTC 160500Z 1606/1712 24010KT 9999 SCT040 TEMPO 1612/1618 4000 SHRA BKN014CB BECMG 1618/1620 30015G25KT "
    "PROB30 1702/1705 0400 FG FM170600 32008KT CAVOK",
    "TAF AMD ZZGS 161100Z 1612/1718 VRB02KT 6000 NSC PROB40 TEMPO 1618/1624 1200 BR OVC003 BECMG 1706/1708 NSW 9999 SCT030",
    "TAF ZZTC 312300Z 0100/0124 05012KT 9999 FEW030 BECMG 0110/0112 08020G32KT",
    "TAF ZZAA 161130Z 1612/1712 18008KT P6SM SCT250 FM161800 21012G20KT P6SM BKN050",
)
M = 0.3048


def at(day: int, hour: int, minute: int = 0) -> datetime:
    return datetime(2026, 5, day, hour, minute, tzinfo=UTC)


class Published(unittest.TestCase):
    def test_donlon_as_its_decoding_says(self) -> None:
        """Issued on the 15th at 1800, valid 0000 to 1800 on the 16th; 130 degrees, 5 m/s; 9 km; broken at 600 m; becoming
        0600 to 0800 scattered cumulonimbus at 450 m; temporarily 0800 to 1200 170 degrees, 6 m/s gusting 12, 1,000 m in a
        thunderstorm with moderate rain; from 1230 150 degrees, 4 m/s, 10 km or more."""
        found = decode_forecast(DONLON, NOW)
        self.assertEqual(
            (found.station, found.issued, found.begin, found.end), ("YUDO", at(15, 18), at(16, 0), at(16, 18))
        )
        first = found.first
        self.assertEqual((first.wind_from_deg, first.wind_ms, first.visibility_m), (130, 5, 9000))
        self.assertAlmostEqual(first.ceiling_m or 0, 600, delta=10)
        kinds = [(c.kind, c.begin, c.end) for c in found.changes]
        self.assertEqual(kinds, [(ChangeKind.BECOMING, at(16, 6), at(16, 8)), (ChangeKind.TEMPO, at(16, 8), at(16, 12)),
                                 (ChangeKind.FROM, at(16, 12, 30), at(16, 18))])  # fmt: skip
        tempo = found.changes[1].says
        self.assertEqual((tempo.wind_from_deg, tempo.wind_ms, tempo.gust_ms, tempo.visibility_m), (170, 6, 12, 1000))
        self.assertTrue(tempo.phenomena and tempo.phenomena[0].thunder and tempo.phenomena[0].precipitation)
        self.assertEqual((found.changes[2].says.wind_ms, found.changes[2].says.visibility_m), (4, 10_000))


class SecondDecoder(unittest.TestCase):
    def test_against_another_library(self) -> None:
        """metar-taf-parser-mivek: kind, hours, wind, visibility and lowest layer of every group."""
        kinds = {
            "TEMPO": ChangeKind.TEMPO,
            "BECMG": ChangeKind.BECOMING,
            "FM": ChangeKind.FROM,
            "PROB": ChangeKind.PROBABLE,
        }
        for text in TEXTS:
            now = datetime(2026, 6, 1, tzinfo=UTC) if "0100/" in text else at(16, 10)
            ours, theirs = decode_forecast(text, now), TAFParser().parse(text)
            with self.subTest(text[:30]):
                self.assertEqual(len(ours.changes), len(theirs.trends))
                pairs = [
                    (ours.first, theirs, None),
                    *((c.says, t, c) for c, t in zip(ours.changes, theirs.trends, strict=True)),
                ]
                for says, other, change in pairs:
                    if change is not None:
                        kind = "PROB" if other.probability else other.type.name  # they say TEMPO for "PROB40 TEMPO"
                        self.assertEqual(change.kind, kinds[kind])
                        self.assertEqual(change.begin.hour, other.validity.start_hour % 24)
                        self.assertEqual(change.begin.day, other.validity.start_day)
                    if other.wind is None:
                        self.assertIsNone(says.wind_ms)
                    else:
                        unit = 1.0 if other.wind.unit == "MPS" else 1852 / 3600
                        self.assertAlmostEqual(says.wind_ms or 0, other.wind.speed * unit, places=3)
                        self.assertAlmostEqual(says.gust_ms or 0, (other.wind.gust or 0) * unit, places=3)
                    layers = [c.height for c in other.clouds if c.quantity and c.quantity.name in ("BKN", "OVC")]
                    if layers:
                        self.assertAlmostEqual(says.ceiling_m or 0, min(layers) * M, delta=0.5)
                    elif says.ceiling_m is not None:
                        self.fail(f"a ceiling of our own: {says}")


class Holding(unittest.TestCase):
    def states(self, text: str, day: int, hour: int):  # type: ignore[no-untyped-def]
        hours = {h[0].at: h for h in hours_of(decode_forecast(text, at(15, 19)), at(15, 23))}
        return hours[at(day, hour)]

    def test_when_each_group_holds(self) -> None:
        rows = (
            ("before any change", 3, {5.0}, {9000.0}),
            ("while becoming both", 6, {5.0}, {9000.0}),
            ("temporarily (TEMPO) beside it", 9, {5.0, 6.0}, {9000.0, 1000.0}),
            ("the hour in which it turns", 12, {5.0, 4.0}, {9000.0, 10_000.0}),
            ("after FM only that", 13, {4.0}, {10_000.0}),
        )
        for name, hour, winds, seen in rows:
            with self.subTest(name):
                states = self.states(DONLON, 16, hour)
                self.assertEqual({w.wind_ms for w in states}, winds)
                self.assertEqual({w.visibility_m for w in states}, seen)

    def test_becoming_keeps_what_it_does_not_name(self) -> None:
        states = self.states(DONLON, 16, 10)
        self.assertEqual(states[0].visibility_m, 9000)

    def test_every_hour_of_the_period_from_now(self) -> None:
        hours = hours_of(decode_forecast(DONLON, NOW), at(16, 4, 40))
        self.assertEqual([h[0].at for h in hours], [at(16, 4) + timedelta(hours=i) for i in range(14)])

    def test_what_comes_now_and_then_grounds_the_window(self) -> None:
        found = window(parse_ahead(DONLON, at(16, 5)), situation(now=at(16, 5)), 60)
        by_hour = {h.at.hour: h for h in found.hours}
        self.assertEqual(by_hour[9].level, Level.GROUNDED)
        rain = by_hour[14].found[found.rows.index("Precipitation")]
        self.assertTrue(rain is None or rain.level is Level.CLEAR)

    def test_over_months(self) -> None:
        found = decode_forecast(TEXTS[3], datetime(2026, 5, 31, 23, 30, tzinfo=UTC))
        self.assertEqual((found.issued, found.begin), (at(31, 23), datetime(2026, 6, 1, tzinfo=UTC)))
        self.assertEqual(found.end, datetime(2026, 6, 2, tzinfo=UTC))


class Refused(unittest.TestCase):
    def test_in_words(self) -> None:
        rows = (
            ("METAR ZZTC 160500Z", "begins with TAF"),
            ("TAF ZZTC 160500Z", "ends before its period"),
            ("TAF ZZTC 160500Z 24010KT", "is not a period like 1606/1706"),
            ("TAF ZZTC 160500Z 1606/1602 24010KT", "ends before it begins"),
            ("TAF ZZTC 160500Z 4206/4306 24010KT", "is not a day and hour"),
            ("TAF ZZTC 160500Z 1606/1706 CNL", "cancelled"),
            ("TAF ZZTC 160500Z 1606/1706 24010KT TEMPO", "without its period"),
            ("TAF " + "X" * 4000, "too long"),
        )
        for text, words in rows:
            with self.subTest(words), self.assertRaises(InputError) as caught:
                decode_forecast(text, at(16, 6))
            self.assertIn(words, caught.exception.message)

    def test_yesterdays(self) -> None:
        with self.assertRaisesRegex(InputError, "ended on Saturday 16 May, 18:00 UTC"):
            hours_of(decode_forecast(DONLON, at(17, 2)), at(17, 2))

    def test_what_was_not_understood_is_named(self) -> None:
        found = decode_forecast("TAF ZZTC 160500Z 1606/1706 24010KT 9999 WHAT SCT040", at(16, 6))
        self.assertEqual(found.notes, ("not understood: WHAT",))
        self.assertIn("no wind in the first part", decode_forecast("TAF ZZTC 1606/1706 9999", at(16, 6)).notes)

    @given(st.lists(st.sampled_from((DONLON + " " + TEXTS[1]).split()), max_size=14))
    def test_any_order_of_groups_is_a_forecast_or_a_mistake_in_words(self, groups: list[str]) -> None:
        try:
            hours_of(decode_forecast("TAF " + " ".join(groups), at(16, 6)), at(16, 6))
        except InputError as error:
            self.assertEqual(error.field, "series")


class Edges(unittest.TestCase):
    """When a change begins and ends to the hour, and what a damaged one does."""

    HEAD = "TAF ZZAA 151700Z 1518/1612 24008KT 9999 NSC "

    def winds(self, changes: str, hour: int, day: int = 15) -> set[int]:
        """The mean winds in m/s that may hold in the hour from ``hour`` on."""
        for states in hours_of(decode_forecast(self.HEAD + changes, NOW), NOW):
            if states[0].at == at(day, hour):
                return {round(state.wind_ms or 0) for state in states}
        raise AssertionError("no such hour")

    def unread(self, changes: str) -> list[int]:
        """The hours of the 15th and 16th, counted from the 15th, in which something was not understood."""
        hours = hours_of(decode_forecast(self.HEAD + changes, NOW), NOW)
        return [(s[0].at.day - 15) * 24 + s[0].at.hour for s in hours if any(state.unread for state in s)]

    def test_from(self) -> None:
        """4 m/s until half past twenty; 10 m/s from then on: the hour it falls in has both."""
        changes = "FM152030 24010MPS 9999 NSC"
        self.assertEqual([self.winds(changes, h) for h in (19, 20, 21)], [{4}, {4, 10}, {10}])
        self.assertEqual([self.winds("FM152000 24010MPS 9999 NSC", h) for h in (19, 20)], [{4}, {10}])

    def test_becoming(self) -> None:
        changes = "BECMG 1520/1522 24010MPS"
        self.assertEqual([self.winds(changes, h) for h in (19, 20, 21, 22, 23)], [{4}, {4, 10}, {4, 10}, {10}, {10}])

    def test_now_and_then(self) -> None:
        for word in ("TEMPO", "INTER", "PROB30", "PROB40 TEMPO"):
            changes = f"{word} 1520/1522 24010MPS"
            self.assertEqual([self.winds(changes, h) for h in (19, 20, 21, 22)], [{4}, {4, 10}, {4, 10}, {4}], word)
        found = decode_forecast(self.HEAD + "PROB30 TEMPO 1520/1522 24010MPS TEMPO 1522/1524 3000", NOW)
        self.assertEqual(
            [(c.kind, c.chance) for c in found.changes], [(ChangeKind.PROBABLE, 30), (ChangeKind.TEMPO, 100)]
        )

    def test_a_damaged_change_holds_until_one_that_replaces_everything(self) -> None:
        rows = (
            ("TEMPO 1520/1522 24X10MPS FM160200 24008KT 9999 NSC", list(range(20, 26))),
            ("TEMPO 1520/1522 24X10MPS", list(range(20, 36))),
            ("XXXXX 1520/1522 24010MPS", list(range(20, 36))),
            ("XXXXX 1520/1522 24010MPS FM152200 24008KT 9999 NSC", [20, 21]),
            ("FM152000 24008KT 9999 N?C FM152300 24008KT 9999 NSC", [20, 21, 22]),
            ("TEMPO 1520/1522 3000", []),
            ("TX25/1612Z TN08/1604Z WS010/24045KT QNH2992INS 620304", []),
        )
        for changes, hours in rows:
            with self.subTest(changes):
                self.assertEqual(self.unread(changes), hours)
        whole = decode_forecast(self.HEAD.replace("9999", "99?9") + "FM152300 24008KT 9999 NSC", NOW)
        self.assertEqual(whole.first.unread, ("99?9",))
        self.assertIn("not understood: 99?9", whole.notes)

    def test_noted(self) -> None:
        self.assertEqual(decode_forecast(self.HEAD + "WS010/24045KT", NOW).notes, ("wind shear aloft: WS010/24045KT",))
        self.assertEqual(decode_forecast(self.HEAD + "RMK ODD THINGS", NOW).notes, ())
        self.assertEqual(decode_forecast(self.HEAD + "TEMPO 1520/1522 3000 RMKS X", NOW).notes, ())
        windless = decode_forecast("TAF ZZAA 151700Z 1518/1612 9999 NSC", NOW)
        self.assertIn("no wind in the first part", windless.notes)

    def test_refused_in_words(self) -> None:
        rows = (
            ("ZZAA 151700Z 1518/1612 24008KT", "begins with TAF"), (self.HEAD + self.HEAD, "Two forecasts"), ("TAF ZZAA 151700Z NIL", "cancelled or empty"),
            ("TAF AMD ZZAA 151700Z 1518/1612 CNL", "cancelled or empty"), ("TAF ZZAA 151700Z", "ends before its period"), ("TAF", "ends before its period"),
            ("TAF 151700Z 1518/1612 24008KT", "does not say for which station"), ("TAF ZZAA 151700Z 15181612 24008KT", "is not a period like 1606/1706"),
            ("TAF ZZAA 151700Z 1518/1517 24008KT", "ends before it begins"), ("TAF ZZAA 151700Z 1518/1518 24008KT", "ends before it begins"),
            (self.HEAD + "TEMPO", "is at the end without its period"), (self.HEAD + "PROB30 TEMPO", "is at the end without its period"),
            ("TAF ZZAA 151700Z 1525/1612 24008KT", "is not a day and hour"), ("TAF ZZAA 151700Z 3218/3312 24008KT", "is not a day and hour"),
            ("TAF ZZAA 151700Z 0018/0112 24008KT", "is not a day and hour"), (self.HEAD + "FM152060 24008KT", "is not a day and hour"),
            (self.HEAD.ljust(3001, "X"), "too long"),
        )  # fmt: skip
        for text, words in rows:
            with self.subTest(text[:60]), self.assertRaises(InputError) as caught:
                decode_forecast(text, NOW)
            self.assertIn(words, caught.exception.message)
            self.assertEqual(caught.exception.field, "series")
        self.assertTrue(decode_forecast(self.HEAD.ljust(3000), NOW))
        self.assertTrue(decode_forecast(self.HEAD + "FM152059 24008KT 9999 NSC", NOW))
        self.assertEqual(decode_forecast("TAF COR ZZAA 151700Z 1518/1612 24008KT 9999 NSC=", NOW).station, "ZZAA")
        self.assertIsNone(decode_forecast("TAF ZZAA 1518/1612 24008KT 9999 NSC", NOW).issued)

    def test_its_end(self) -> None:
        found = decode_forecast(self.HEAD, NOW)
        self.assertEqual([s[0].at for s in hours_of(found, NOW)], [at(15, 19) + timedelta(hours=h) for h in range(17)])
        self.assertEqual(len(hours_of(found, at(16, 11, 59))), 1)
        for late in (at(16, 12), at(16, 13)):
            with self.assertRaisesRegex(InputError, "This forecast ended on Saturday 16 May, 12:00 UTC"):
                hours_of(found, late)
        early = hours_of(found, at(15, 12))
        self.assertEqual(early[0][0].at, at(15, 18), "nothing is said of the hours before it begins")
        long = decode_forecast("TAF ZZAA 151700Z 1518/1818 24008KT 9999 NSC", NOW)
        self.assertEqual(len(hours_of(long, NOW)), 48)
        self.assertEqual({state.station for states in early for state in states}, {"ZZAA"})
