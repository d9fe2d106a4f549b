"""Positioning sentences against the published format and a second reader."""

import unittest
from datetime import UTC, datetime, timedelta

import pynmeagps
from hypothesis import given
from hypothesis import strategies as st

from walkround.core.base.errors import InputError
from walkround.core.base.geodesy import Position
from walkround.core.sensors.nmea import checksum, read_nmea
from walkround.core.sensors.sky import Constellation
from walkround.simulators.receiver import CONDITIONS, SimulatedReceiver

NOW = datetime(1994, 3, 23, 12, 35, 25, tzinfo=UTC)

# Examples printed with the description of NMEA 0183 sentences in many handbooks; from memory.
GGA = "$GPGGA,123519,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,*47"
GSA = "$GPGSA,A,3,04,05,,09,12,,,24,,,,,2.5,1.3,2.1*39"
RMC = "$GPRMC,123519,A,4807.038,N,01131.000,E,022.4,084.4,230394,003.1,W*6A"


def signed(body: str) -> str:
    """A sentence with its checksum, worked out here on its own."""
    value = 0
    for byte in body.encode():
        value ^= byte
    return f"${body}*{value:02X}"


class Published(unittest.TestCase):
    def test_checksums_of_the_examples(self) -> None:
        for line in (GGA, GSA, RMC):
            body, _, given_sum = line[1:].partition("*")
            self.assertEqual(checksum(body), given_sum)

    def test_fields_of_the_examples(self) -> None:
        """48°07.038' N, 11°31.000' E, 8 satellites, dilutions 0.9 and 2.5, 22.4 knots: as the handbook explains them."""
        fix = read_nmea("\r\n".join((GGA, GSA, RMC)), NOW)
        self.assertEqual((fix.satellites, fix.hdop, fix.pdop, fix.quality, fix.dimensions), (8, 0.9, 2.5, 1, 3))
        self.assertAlmostEqual(fix.position.lat_deg, 48 + 7.038 / 60, places=7)
        self.assertAlmostEqual(fix.position.lon_deg, 11 + 31 / 60, places=7)
        self.assertAlmostEqual(fix.speed_ms, 22.4 * 1852 / 3600, places=6)
        self.assertEqual(fix.altitude_m, 545.4)
        self.assertEqual(fix.at, datetime(1994, 3, 23, 12, 35, 19, tzinfo=UTC))
        self.assertEqual((fix.nmea_lines, fix.bad), (3, ()))

    def test_against_a_second_reader(self) -> None:
        """pynmeagps on what the stand-in speaks, both hemispheres."""
        for place in (Position(lat_deg=48.2213, lon_deg=15.3318), Position(lat_deg=-33.5, lon_deg=-70.25)):
            text = SimulatedReceiver("open").nmea(place, NOW)
            ours = read_nmea(text, NOW)
            last = max(m.time for m in map(pynmeagps.NMEAReader.parse, text.split()) if m.msgID == "GGA")
            gga = next(m for m in map(pynmeagps.NMEAReader.parse, text.split()) if m.msgID == "GGA" and m.time == last)
            self.assertAlmostEqual(ours.position.lat_deg, gga.lat, places=6)
            self.assertAlmostEqual(ours.position.lon_deg, gga.lon, places=6)
            self.assertEqual((ours.satellites, ours.hdop), (gga.numSV, gga.HDOP))
            theirs = set()
            for m in map(pynmeagps.NMEAReader.parse, text.split()):
                if m.msgID == "GSV":
                    for i in range(1, 5):
                        if getattr(m, f"svid_0{i}", "") not in ("", None):
                            theirs.add(
                                (
                                    m.talker,
                                    int(getattr(m, f"svid_0{i}")),
                                    float(getattr(m, f"elv_0{i}")),
                                    float(getattr(m, f"az_0{i}")),
                                )
                            )
            talker = {Constellation.GPS: "GP", Constellation.GALILEO: "GA"}
            self.assertEqual({(talker[s.whose], s.number, s.elevation_deg, s.bearing_deg) for s in ours.sky}, theirs)
            self.assertAlmostEqual(ours.hdop_sky, ours.hdop, delta=0.06)


def gga(second: int, east: float = 0.0, quality: int = 1) -> str:
    """A sentence of a second past noon at a place so many ten-thousandths of a minute east."""
    where = f"4807.0380,N,011{31 + east / 1e4:07.4f},E" if quality else ",,,"
    return signed(f"GNGGA,1200{second:02d}.00,{where},{quality},09,0.9,545.4,M,46.9,M,,")


class WholeReading(unittest.TestCase):
    NOON = datetime(2026, 6, 1, 12, 1, tzinfo=UTC)

    def test_satellites_in_view_as_printed(self) -> None:
        """The two-message example of many handbooks (from memory): eight in view, elevation, azimuth, strength."""
        gsv = (
            "$GPGSV,2,1,08,01,40,083,46,02,17,308,41,12,07,344,39,14,22,228,45*75",
            signed("GPGSV,2,2,08,16,54,091,48,18,33,190,,22,05,020,,25,71,300,47"),
        )
        fix = read_nmea("\n".join((GGA, GSA, RMC, *gsv)), NOW)
        shown = {s.number: s for s in fix.sky if s.elevation_deg is not None}
        self.assertEqual(sorted(shown), [1, 2, 12, 14, 16, 18, 22, 25])
        self.assertEqual((shown[2].elevation_deg, shown[2].bearing_deg, shown[2].strength_db), (17, 308, 41))
        self.assertIsNone(shown[18].strength_db)
        self.assertEqual({s.number for s in fix.sky if s.used}, {4, 5, 9, 12, 24}, "as GSA says")
        self.assertIsNone(fix.hdop_sky, "four of those in use are nowhere on the plot")

    def test_a_new_turn_forgets_what_set_and_a_second_signal_forgets_nothing(self) -> None:
        first = [
            gga(1),
            signed("GPGSV,1,1,02,01,40,083,46,02,17,308,41,1"),
            signed("GPGSV,1,1,02,01,40,083,31,02,17,308,44,8"),
        ]
        fix = read_nmea("\n".join(first), self.NOON)
        self.assertEqual({s.number: s.strength_db for s in fix.sky}, {1: 46, 2: 44})
        fix = read_nmea("\n".join([*first, gga(2), signed("GPGSV,1,1,01,01,40,083,46")]), self.NOON)
        self.assertEqual([s.number for s in fix.sky], [1])

    def test_all_fixes_count(self) -> None:
        text = "\n".join(gga(i, 100 * (i == 12)) for i in range(30))
        fix = read_nmea(text, self.NOON)
        self.assertEqual(fix.rest.fixes, 30)
        # A hundredth of a minute of longitude at 48.1°: 18.52 m times its cosine.
        self.assertAlmostEqual(fix.rest.jump_m, 12.4, delta=0.1)
        self.assertEqual(fix.receivers, 1)

    def test_first_fix_and_lost_fix(self) -> None:
        lines = [gga(i, quality=0 if i < 7 or i in (20, 21) else 1) for i in range(30)]
        fix = read_nmea("\n".join(lines), self.NOON)
        self.assertEqual((fix.first_fix_s, fix.rest.lost), (7.0, 2))
        self.assertIsNone(read_nmea("\n".join(lines[8:]), self.NOON).first_fix_s)

    def test_two_receivers(self) -> None:
        for text in (
            "\n".join(line for i in range(5) for line in (gga(i), gga(i, 300))),
            "\n".join((gga(20), gga(21), gga(3), gga(22))),
        ):
            self.assertEqual(read_nmea(text, self.NOON).receivers, 2)

    def test_midnight_is_no_second_receiver(self) -> None:
        lines = [
            signed(f"GNGGA,{clock}.00,4807.0380,N,01131.0000,E,1,09,0.9,545.4,M,46.9,M,,")
            for clock in ("235958", "235959", "000000", "000001")
        ]
        fix = read_nmea("\n".join(lines), datetime(2026, 6, 2, 0, 0, 2, tzinfo=UTC))
        self.assertEqual((fix.receivers, fix.rest.seconds), (1, 3.0))

    def test_without_gga(self) -> None:
        """GNS tells satellites and HDOP; RMC and GLL a place only, and what they do not tell stays unknown."""
        fix = read_nmea(signed("GNGNS,120001.00,4807.0380,N,01131.0000,E,AAN,11,0.8,545.4,46.9,,"), self.NOON)
        self.assertEqual((fix.satellites, fix.hdop, fix.altitude_m, fix.quality), (11, 0.8, 545.4, 1))
        for body in (
            "GNRMC,120001.00,A,4807.0380,N,01131.0000,E,0.05,,010626,,,A",
            "GNGLL,4807.0380,N,01131.0000,E,120001.00,A,A",
        ):
            fix = read_nmea(signed(body), self.NOON)
            self.assertIsNotNone(fix.position)
            self.assertIsNone(fix.satellites)
            self.assertIsNone(fix.hdop)
        for body, quality in (
            ("GNRMC,120001.00,A,4807.0380,N,01131.0000,E,0.05,,010626,,,E", 6),
            ("GNGLL,4807.0380,N,01131.0000,E,120001.00,A,S", 8),
            ("GNGNS,120001.00,4807.0380,N,01131.0000,E,NE,11,0.8,545.4,46.9,,", 6),
            ("GNGNS,120001.00,4807.0380,N,01131.0000,E,NAE,11,0.8,545.4,46.9,,", 1),
            ("GPRMC,120001.00,A,4807.0380,N,01131.0000,E,0.05,,010626,,", 1),
        ):
            self.assertEqual(
                read_nmea(signed(body), self.NOON).quality, quality, "an estimated place is none of satellites"
            )
        both = read_nmea(
            "\n".join(
                (
                    signed("GNGNS,120001.00,4807.0380,N,01131.0000,E,AA,11,0.8,545.4,46.9,,"),
                    signed("GNRMC,120001.00,A,4807.0380,N,01131.0000,E,0.05,,010626,,,A"),
                )
            ),
            self.NOON,
        )
        self.assertEqual((both.satellites, both.hdop), (11, 0.8), "a poorer sentence after it takes nothing away")
        lost = read_nmea(
            "\n".join((signed("GNGLL,4807.0380,N,01131.0000,E,120001.00,A,A"), signed("GNGLL,,,,,120002.00,V,N"))),
            self.NOON,
        )
        self.assertIsNone(lost.position, "the last word counts")


class Broken(unittest.TestCase):
    def test_bad_lines_are_left_out_and_named(self) -> None:
        wrong = RMC.replace("022.4", "122.4")
        fix = read_nmea("\n".join((GGA, wrong, "hello", "$GPGGA,1,2,3", GSA)), NOW)
        self.assertEqual(fix.satellites, 8)
        self.assertIsNone(fix.speed_ms)
        self.assertEqual(
            fix.bad,
            (
                f"line 2: checksum 6A should be {checksum(wrong[1:].split('*')[0])}",
                "line 3: does not start with $",
                "line 4: no checksum",
            ),
        )

    def test_nothing_usable_is_refused(self) -> None:
        for text, words in (
            ("", "No NMEA data found. Paste lines that start with $"),
            ("hello\nworld", "None of the 2 lines"),
            (GGA.replace("*47", "*48"), "checksum 48 should be 47"),
            (GGA.replace("*47", ""), "no checksum"),
            ("$\n" * 20_001, "20,000"),
            (signed("GPGSV,3,1,11,03,03,111,00"), "None of the 1 lines"),
        ):
            with self.subTest(words), self.assertRaises(InputError) as caught:
                read_nmea(text, NOW)
            self.assertIn(words, caught.exception.message)
            self.assertEqual(caught.exception.field, "nmea")

    def test_empty_position_fields_are_no_position(self) -> None:
        fix = read_nmea(signed("GNGGA,123519.00,,,,,0,00,99.9,,M,,M,,"), NOW)
        self.assertIsNone(fix.position)
        self.assertEqual(fix.quality, 0)

    def test_a_void_fix_has_no_speed(self) -> None:
        fix = read_nmea(GGA + "\n" + signed("GPRMC,123519,V,,,,,022.4,,230394,,"), NOW)
        self.assertIsNone(fix.speed_ms)

    def test_dilution_from_gsa_when_gga_has_none(self) -> None:
        gga = signed("GPGGA,123519,4807.038,N,01131.000,E,1,08,,545.4,M,46.9,M,,")
        self.assertEqual(read_nmea(gga + "\n" + GSA, NOW).hdop, 1.3)

    def test_without_a_date_the_nearest_day_is_meant(self) -> None:
        midnight = datetime(1994, 3, 24, 0, 0, 5, tzinfo=UTC)
        line = signed("GPGGA,235958,4807.038,N,01131.000,E,1,08,0.9,545.4,M,46.9,M,,")
        self.assertEqual(read_nmea(line, midnight).at, midnight - timedelta(seconds=7))

    @given(st.text(max_size=200))
    def test_whatever_is_pasted_is_read_or_refused_in_words(self, text: str) -> None:
        try:
            read_nmea(text, NOW)
        except InputError as error:
            self.assertTrue(error.message)

    @given(st.lists(st.text(alphabet="0123456789.,NEAVM", max_size=40), min_size=1, max_size=5))
    def test_odd_fields_with_right_checksums(self, bodies: list[str]) -> None:
        lines = [signed(f"GPGGA,{b}") for b in bodies] + [signed(f"GPRMC,{b}") for b in bodies]
        try:
            fix = read_nmea("\n".join(lines), NOW)
        except InputError as error:
            self.assertTrue(error.message)
        else:
            self.assertTrue(fix.position is None or -90 <= fix.position.lat_deg <= 90)


class StandIn(unittest.TestCase):
    def test_every_condition_is_read(self) -> None:
        place = Position(lat_deg=48.2, lon_deg=15.3)
        for condition, (words, state) in CONDITIONS.items():
            if not state:
                continue
            with self.subTest(words):
                fix = read_nmea(SimulatedReceiver(condition).nmea(place, NOW), NOW)
                self.assertIn(fix.satellites, range(state.used - 2, state.used + 1))
                self.assertEqual(len(fix.bad), 1 if condition == "garbled" else 0)
