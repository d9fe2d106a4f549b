"""Unknown never reads clear: a group garbled, cut or dropped never makes a report, forecast, fix or zone file read better."""

import unittest
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests import examples
from tests.support import SITE, UNITS, situation
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding, Level, worst
from walkround.core.round.context import Context
from walkround.core.round.readiness import Subject, readiness
from walkround.core.round.window import window
from walkround.core.sensors.nmea import checksum, read_nmea
from walkround.core.sensors.satellites import judge_fix
from walkround.core.weather.metar import decode_report
from walkround.core.weather.taf import decode_forecast, hours_of

NOW = datetime(2026, 5, 16, 7, 40, tzinfo=UTC)
CASE = situation(now=NOW)
# What a report may leave out without anybody being able to notice: it is said only where there is something to say.
OPTIONAL = ("gust", "sector", "weather", "cloud", "trend", "remark", "recent")
MANDATORY = ("station", "time", "wind", "visibility", "temperature", "pressure")

WINDS = st.sampled_from(["24006KT", "24003KT", "00000KT", "VRB02KT", "27012KT", "24009G19KT", "31004MPS", "24022KT"])
VISIBILITIES = st.sampled_from(
    ["9999", "CAVOK", "6000", "3000", "0400", "9999 1200SW", "10SM", "2SM", "1 1/2SM", "M1/4SM", "7KM"]
)
WEATHERS = st.sampled_from(
    ["", "", "-RA", "+TSRA", "BR", "FG", "FZFG", "VCTS", "SQ", "VA", "SS", "DS", "GR", "BLSN", "SHSN", "HZ"]
)
CLOUDS = st.sampled_from(["", "FEW030", "BKN040", "OVC003", "SCT020CB", "NSC", "VV001"])
TEMPERATURES = st.sampled_from(["15/07", "M05/M06", "02/02", "38/10", "M12/M15", "15/"])
PRESSURES = st.sampled_from(["Q1016", "A3001", "Q0955", "Q1040"])


@dataclass
class Groups:
    """A report in its groups, by kind, in order."""

    by_kind: dict[str, str]

    def text(self) -> str:
        return " ".join(text for text in self.by_kind.values() if text)


@st.composite
def reports(draw) -> Groups:  # type: ignore[no-untyped-def]
    visibility = draw(VISIBILITIES)
    plain = visibility == "CAVOK"
    return Groups(
        {
            "station": "ZZAA",
            "time": draw(st.sampled_from(["160730Z", "160720Z", "160610Z", "160200Z"])),
            "wind": draw(WINDS),
            "visibility": visibility,
            "weather": "" if plain else draw(WEATHERS),
            "cloud": "" if plain else draw(CLOUDS),
            "temperature": draw(TEMPERATURES),
            "pressure": draw(PRESSURES),
        }
    )


def judged(text: str) -> tuple[Finding, ...]:
    return readiness(
        Context(CASE.model_copy(update={"weather": decode_report(text, NOW)}), {}),
        NOW,
        only=(Subject.WEATHER, Subject.HOME),
    )


GARBLED = st.sampled_from("#?*!§~")


@st.composite
def harmed(draw, text: str) -> str:  # type: ignore[no-untyped-def]
    """A group with a character that no code has, cut short, or with a number that is out of range."""
    first = text.split()[0]
    how = draw(st.sampled_from(["character", "cut"]))
    place = draw(st.integers(0, len(first) - 1))
    bad = first[:place] + draw(GARBLED) + first[place + 1 :] if how == "character" else first[:-1]
    return " ".join([bad, *text.split()[1:]])


CUT_STILL_WHOLE = {"15/07", "SCT020CB", "24006KT"}


class Reports(unittest.TestCase):
    @given(st.data())
    @examples(300)
    def test_a_garbled_group_never_reads_better(self, data: st.DataObject) -> None:
        whole = data.draw(reports())
        kinds = [k for k, text in whole.by_kind.items() if text]
        kind = data.draw(st.sampled_from(kinds))
        bad = data.draw(harmed(whole.by_kind[kind]))
        text = Groups({**whole.by_kind, kind: bad}).text()
        before = worst(judged(whole.text()))
        try:
            found = judged(text)
        except InputError:
            return  # refused in words: nothing is kept
        self.assertGreaterEqual(worst(found), before, text)
        self.assertGreaterEqual(worst(found), Level.CAUTION, text)
        if any(c in bad for c in "#?*!§~"):
            said = " ".join(f.reason.say(UNITS) for f in found)
            self.assertIn(bad.split()[0], said, f"the screen quotes it: {text}")

    @given(reports(), st.sampled_from(MANDATORY))
    @examples(300)
    def test_a_missing_mandatory_group_never_reads_better(self, whole: Groups, kind: str) -> None:
        text = Groups({**whole.by_kind, kind: ""}).text()
        before = worst(judged(whole.text()))
        try:
            found = judged(text)
        except InputError:
            return
        self.assertGreaterEqual(worst(found), before, text)
        self.assertGreaterEqual(worst(found), Level.CAUTION, text)

    @given(reports(), st.sampled_from(["391230KT", "40008KT", "99/98", "Q0113", "Q2013", "322599Z"]))
    def test_out_of_range_is_never_clear(self, whole: Groups, odd: str) -> None:
        kind = {"K": "wind", "/": "temperature", "Q": "pressure", "Z": "time"}[next(c for c in "QZ/K" if c in odd)]
        found = judged(Groups({**whole.by_kind, kind: odd}).text())
        self.assertGreaterEqual(worst(found), Level.CAUTION)

    @given(reports(), st.sampled_from(["wind", "temperature", "pressure"]), st.data())
    def test_a_group_that_comes_twice_is_not_dropped(self, whole: Groups, kind: str, data: st.DataObject) -> None:
        other = data.draw({"wind": WINDS, "temperature": TEMPERATURES, "pressure": PRESSURES}[kind])
        if other == whole.by_kind[kind]:
            return
        if kind == "pressure" and {other[0], whole.by_kind[kind][0]} == {"Q", "A"}:
            return  # the same setting in two units is usual; that they agree is judged elsewhere
        text = Groups({**whole.by_kind, kind: f"{whole.by_kind[kind]} {other}"}).text()
        found = judged(text)
        self.assertGreaterEqual(worst(found), worst(judged(whole.text())), text)
        self.assertIn(other, " ".join(f.reason.say(UNITS) for f in found), text)

    @given(reports(), st.integers(0, 98), st.sampled_from(["N", "NE", "SW", "W"]))
    def test_the_lower_of_two_visibilities_counts(self, whole: Groups, hundreds: int, towards: str) -> None:
        if whole.by_kind["visibility"] == "CAVOK":
            return  # nothing stands beside it
        both = {**whole.by_kind, "visibility": f"{whole.by_kind['visibility']} {hundreds:02}00{towards}"}
        lower = {**whole.by_kind, "visibility": f"{hundreds:02}00"}
        found = judged(Groups(both).text())
        self.assertGreaterEqual(worst(found), max(worst(judged(Groups(lower).text())), worst(judged(whole.text()))))

    @given(
        reports(),
        st.sampled_from(
            ["SQ", "VA", "SS", "+SS", "DS", "+FC", "TS", "VCTS", "TSRA", "GR", "FZFG", "FZRA", "-FZDZ", "VV///"]
        ),
    )
    def test_what_no_aircraft_flies_in_grounds_whatever_else_is_said(self, whole: Groups, code: str) -> None:
        if whole.by_kind["visibility"] != "CAVOK":
            text = Groups({**whole.by_kind, "weather": code}).text()
            self.assertEqual(worst(judged(text)), Level.GROUNDED, text)
        alone = f"ZZAA 160730Z 24003KT 9999 {code} 15/07 Q1016"
        self.assertEqual(worst(judged(alone)), Level.GROUNDED, "and by itself, in a report that is good otherwise")

    def test_pressures_in_two_units_that_disagree(self) -> None:
        found = judged("ZZAA 160730Z 24006KT 9999 15/07 Q1016 A2950")
        self.assertEqual(worst(found), Level.GROUNDED)

    @given(reports(), reports())
    def test_of_two_reports_of_one_station_the_newest_counts(self, one: Groups, other: Groups) -> None:
        """In either order, and with the line breaks and signs of a page they were copied from."""
        early = Groups({**one.by_kind, "time": "160700Z"}).text()
        late = Groups({**other.by_kind, "time": "160730Z"}).text()
        expected = decode_report(late, NOW).model_copy(update={"text": ""})
        for pasted in (f"{early}=\n{late}=", f"METAR {late}=\nMETAR {early}="):
            found = decode_report(pasted, NOW).model_copy(update={"text": ""})
            self.assertEqual(found, expected, pasted)

    def test_a_correction_beats_its_original_in_either_order(self) -> None:
        first = "METAR ZZAA 160720Z 24006KT 9999 15/07 Q1016"
        fixed = "METAR COR ZZAA 160720Z 24026KT 9999 15/07 Q1016"
        for pasted in (f"{first}\n{fixed}", f"{fixed}\n{first}"):
            self.assertAlmostEqual(decode_report(pasted, NOW).wind_ms, 26 * 1852 / 3600, places=3)

    def test_reports_of_two_stations_are_for_the_pilot_to_choose(self) -> None:
        pasted = "ZZAA 160720Z 24006KT 9999 15/07 Q1016= ZZTC 160720Z 24026KT 9999 15/07 Q1016="
        with self.assertRaises(InputError) as caught:
            decode_report(pasted, NOW, "ZZTC")
        self.assertIn("several stations: ZZAA, ZZTC", caught.exception.message)
        self.assertTrue(caught.exception.offer["report"].startswith("ZZTC"))

    def test_a_forecast_is_not_the_weather_of_now(self) -> None:
        for text in (
            "TAF ZZAA 160500Z 1606/1706 24006KT CAVOK",
            "ZZAA 160500Z 1606/1706 24006KT CAVOK",
            "ZZAA 160500Z 24006KT CAVOK FM161200 24020KT",
        ):
            with self.assertRaises(InputError) as caught:
                decode_report(text, NOW)
            self.assertIn("Hours ahead", caught.exception.message)


FIRST = st.sampled_from(
    ["24006KT 9999 NSC", "24006KT 9999 BKN040", "24012KT 6000 -RA BKN010", "VRB02KT CAVOK", "24006KT 0500 FG VV001"]
)
LATER = st.sampled_from(["24015G25KT", "3000 TSRA", "0600 FG", "9999 NSW SCT030", "BKN004", "SQ", "24004KT CAVOK"])
HEADS = st.sampled_from(
    ["TEMPO {a}/{b}", "BECMG {a}/{b}", "PROB40 {a}/{b}", "PROB30 TEMPO {a}/{b}", "INTER {a}/{b}", "FM{a}00"]
)


@st.composite
def forecasts(draw) -> str:  # type: ignore[no-untyped-def]
    parts = ["TAF ZZAA 160500Z 1606/1706", draw(FIRST)]
    hour = 8
    for _ in range(draw(st.integers(0, 3))):
        begin = hour + draw(st.integers(0, 3))
        end = begin + draw(st.integers(1, 4))
        hour = end
        if end > 23:
            break
        says = draw(LATER)
        head = draw(HEADS)
        if head.startswith("FM"):
            says = draw(FIRST)
        parts.append(f"{head.format(a=f'16{begin:02d}', b=f'16{end:02d}')} {says}")
    return " ".join(parts)


def hour_levels(text: str) -> list[Level]:
    return [hour.level for hour in window(hours_of(decode_forecast(text, NOW), NOW), CASE, 30).hours]


class Forecasts(unittest.TestCase):
    @given(forecasts(), st.data())
    @examples(150)
    def test_a_garbled_group_never_frees_an_hour(self, text: str, data: st.DataObject) -> None:
        groups = text.split()
        place = data.draw(st.integers(3, len(groups) - 1))
        harmed_ = groups[place]
        at = data.draw(st.integers(0, len(harmed_) - 1))
        bad = harmed_[:at] + data.draw(GARBLED) + harmed_[at + 1 :]
        broken = " ".join([*groups[:place], bad, *groups[place + 1 :]])
        before = hour_levels(text)
        try:
            after = hour_levels(broken)
        except InputError:
            return
        self.assertEqual(len(before), len(after))
        for index, (whole, harmed_hour) in enumerate(zip(before, after, strict=True)):
            self.assertGreaterEqual(harmed_hour, whole, f"hour {index} of {broken}")
        self.assertGreaterEqual(max(after), Level.CAUTION)

    def test_an_unread_change_group_grounds_the_hours_it_covers(self) -> None:
        base = "TAF ZZAA 160500Z 1606/1706 24006KT 9999 NSC"
        free = hour_levels(base)
        hours = [NOW.replace(minute=0) + timedelta(hours=i) for i in range(len(free))]
        for change in ("TEMP0 1610/1613 3000 TSRA", "BECNG 1610/1613 24004KT", "INTR 1610/1613 24004KT"):
            for at, whole, level in zip(hours, free, hour_levels(f"{base} {change}"), strict=True):
                # What it does after its period is not known either: it may have been one that stays.
                reached = at >= datetime(2026, 5, 16, 10, tzinfo=UTC)
                self.assertEqual(level, Level.GROUNDED if reached else whole, f"{change} {at:%d %H}")

    def test_what_comes_intermittently_counts_in_its_hours(self) -> None:
        base = "TAF ZZAA 160500Z 1606/1706 24006KT 9999 NSC"
        self.assertEqual(
            hour_levels(f"{base} INTER 1610/1613 3000 TSRA"), hour_levels(f"{base} TEMPO 1610/1613 3000 TSRA")
        )
        self.assertNotEqual(hour_levels(f"{base} INTER 1610/1613 3000 TSRA"), hour_levels(base))

    def test_nothing_of_it_is_lost_without_a_word(self) -> None:
        for change in ("TEMP0 1610/1613 3000 TSRA", "FM16120 24030KT", "TEMPO 1610/1613 ####"):
            forecast = decode_forecast(f"TAF ZZAA 160500Z 1606/1706 24006KT 9999 NSC {change}", NOW)
            self.assertTrue(any("not understood" in note for note in forecast.notes), change)

    def test_an_hour_is_as_dark_as_its_darker_end(self) -> None:
        """At the field the sun sets about 18:33 UTC on 16 May: an hour that begins in daylight and ends after it is a caution."""
        from walkround.core.field.glare import events

        sunset = events(SITE, NOW).sunset
        self.assertEqual((sunset.hour, 15 < sunset.minute < 50), (18, True))
        found = window(hours_of(decode_forecast("TAF ZZAA 160500Z 1606/1706 24006KT 9999 NSC", NOW), NOW), CASE, 30)
        light = found.rows.index("Daylight")
        by_hour = {hour.at.hour: hour.found[light].level for hour in found.hours if hour.at.day == 16}
        self.assertEqual([by_hour[h] for h in (17, 18, 19)], [Level.CLEAR, Level.CAUTION, Level.GROUNDED])


def sentence(body: str) -> str:
    return f"${body}*{checksum(body)}"


@st.composite
def fixes(draw) -> list[str]:  # type: ignore[no-untyped-def]
    """Two seconds of a receiver: GGA, GSA and RMC each time."""
    lines = []
    for second in (38, 39):
        speed = draw(st.sampled_from(["0.05", "0.2", "3.0"]))
        satellites = draw(st.sampled_from(["14", "10", "07"]))
        hdop = draw(st.sampled_from(["0.9", "1.7", "3.2"]))
        quality = draw(st.sampled_from("112680"))
        lines += [
            sentence(f"GPGGA,0739{second},4812.000,N,01518.000,E,{quality},{satellites},{hdop},200.0,M,40.0,M,,"),
            sentence(f"GPGSA,A,{draw(st.sampled_from('3332'))},01,02,03,04,05,06,07,08,09,10,,,1.8,{hdop},1.5"),
            sentence(f"GPRMC,0739{second},A,4812.000,N,01518.000,E,{speed},0.0,160526,,,A"),
        ]
    return lines


def fix_level(lines: list[str]) -> Level:
    return worst(judge_fix(read_nmea("\n".join(lines), NOW), "ten", SITE.position, NOW))


class Fixes(unittest.TestCase):
    @given(fixes(), st.data())
    @examples(200)
    def test_a_damaged_line_never_reads_better(self, lines: list[str], data: st.DataObject) -> None:
        place = data.draw(st.integers(0, len(lines) - 1))
        at = data.draw(st.integers(1, len(lines[place]) - 1))
        bad = lines[place][:at] + data.draw(GARBLED) + lines[place][at + 1 :]
        broken = [*lines[:place], bad, *lines[place + 1 :]]
        self.assertGreaterEqual(fix_level(broken), fix_level(lines))
        self.assertGreaterEqual(fix_level(broken), Level.CAUTION)

    @given(fixes(), st.sampled_from(["nan", "inf", "-1", "-0.5", "1e9", "abc"]), st.integers(0, 3))
    def test_no_number_that_is_none_passes(self, lines: list[str], odd: str, which: int) -> None:
        bodies = (
            f"GPGGA,073939,4812.000,N,01518.000,E,1,14,{odd},200.0,M,40.0,M,,",
            f"GPGGA,073939,4812.000,N,01518.000,E,1,{odd},0.9,200.0,M,40.0,M,,",
            f"GPGGA,073939,4812.000,N,01518.000,E,{odd},14,0.9,200.0,M,40.0,M,,",
            f"GPRMC,073939,A,4812.000,N,01518.000,E,{odd},0.0,160526,,,A",
        )
        broken = [*lines[:5], sentence(bodies[which])]
        self.assertGreaterEqual(fix_level(broken), Level.CAUTION)
        for finding in judge_fix(read_nmea("\n".join(broken), NOW), "ten", SITE.position, NOW):
            if finding.value is not None:
                self.assertEqual(finding.value.value, finding.value.value, "not a number")

    @given(st.integers(0, 9), st.integers(0, 30), st.floats(0.4, 5), st.sampled_from("123"))
    def test_what_is_no_fix_grounds(self, quality: int, satellites: int, hdop: float, dimensions: str) -> None:
        """NMEA 0183: quality 1 to 5 rest on satellites; 0, 6, 7, 8 are none, estimated, typed in, simulated; GSA 3 is a full fix."""
        lines = [sentence(f"GPGGA,073939,4812.000,N,01518.000,E,{quality},{satellites:02},{hdop:.1f},200.0,M,40.0,M,,"),
                 sentence(f"GPGSA,A,{dimensions},01,02,03,04,05,06,07,08,09,10,,,1.8,{hdop:.1f},1.5")]  # fmt: skip
        if quality not in (1, 2, 3, 4, 5) or dimensions != "3":
            self.assertEqual(fix_level(lines), Level.GROUNDED)

    def test_places_that_are_nowhere(self) -> None:
        for lat, lon in (
            ("9500.000", "01518.000"),
            ("4875.000", "01518.000"),
            ("4812.000", "01560.000"),
            ("4812.000", "18118.000"),
        ):
            body = f"GPGGA,073939,{lat},N,{lon},E,1,14,0.9,200.0,M,40.0,M,,"
            with self.assertRaises(InputError):
                read_nmea(sentence(body), NOW)

    def test_midnight_between_two_sentences(self) -> None:
        now = datetime(2026, 5, 16, 0, 0, 1, tzinfo=UTC)
        lines = [
            sentence("GPRMC,235959.80,A,4812.000,N,01518.000,E,0.05,0.0,150526,,,A"),
            sentence("GPGGA,000000.00,4812.000,N,01518.000,E,1,14,0.9,200.0,M,40.0,M,,"),
        ]
        fix = read_nmea("\n".join(lines), now)
        self.assertEqual(fix.at, datetime(2026, 5, 16, tzinfo=UTC))

    def test_dropping_what_a_fix_must_say(self) -> None:
        for body in (
            "GPGGA,073939,4812.000,N,01518.000,E,,14,0.9,200.0,M,40.0,M,,",
            "GPGGA,073939,,,,,1,14,0.9,200.0,M,40.0,M,,",
        ):
            self.assertEqual(fix_level([sentence(body)]), Level.GROUNDED)


if __name__ == "__main__":
    unittest.main()
