"""Satellites, home and proving over generated cases: worse never reads better, unknown is never clear."""

import unittest
from datetime import UTC, datetime

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.core.proving.test_stages import BUILT, good
from tests.properties.test_unknown import examples
from tests.support import SITE
from walkround.core.base.finding import Finding, Level
from walkround.core.field.marks import MarkKind, mark_at
from walkround.core.field.sky_mask import hidden_deg, open_percent
from walkround.core.flight.flight_plan import FlightPlan
from walkround.core.lost_link.landing_circle import judge_landing, landing_spread
from walkround.core.lost_link.rehearsals import OwnReturn
from walkround.core.proving.rules import judge_proving
from walkround.core.proving.stages import progress
from walkround.core.sensors.nmea import Fix, checksum, read_nmea
from walkround.core.sensors.satellites import CountSeen, ScreenSeen, judge_fix

BARE = SITE.model_copy(update={"marks": ()})


def worst(found: tuple[Finding, ...]) -> Level:
    return max((f.level for f in found), default=Level.CLEAR)


def signed(body: str) -> str:
    return f"${body}*{checksum(body)}"


def line(second: int, east_m: float, *, fixed: bool = True, talker: str = "GN") -> str:
    """The sentences of a second past noon at the field, so many m east."""
    minutes = 18.0 + east_m / 1238.0  # of longitude; 1,238 m each at 48.2 degrees
    where = f"4812.0000,N,015{minutes:08.5f},E" if fixed else ",,,"
    clock = f"1200{second:02d}.00"
    gga = f"{talker}GGA,{clock},{where},{int(fixed)},14,0.8,{SITE.elevation_m:.1f},M,45.0,M,,"
    return f"{signed(gga)}\n{signed(f'{talker}RMC,{clock},A,{where},0.05,,010626,,,A')}"


def level(lines: list[str]) -> Level:
    now = datetime(2026, 6, 1, 12, 0, len(lines) + 1, tzinfo=UTC)
    return worst(judge_fix(read_nmea("\n".join(lines), now), "ten", SITE.position, now, SITE.elevation_m))


READINGS = st.lists(st.floats(-0.4, 0.4), min_size=22, max_size=35)


class Readings(unittest.TestCase):
    @given(READINGS, st.data())
    @examples(120)
    def test_a_jump_a_gap_and_a_second_receiver_are_never_passed_over(
        self, wander: list[float], data: st.DataObject
    ) -> None:
        lines = [line(i, east) for i, east in enumerate(wander)]
        self.assertEqual(level(lines), Level.CLEAR)
        at = data.draw(st.integers(1, len(wander) - 2))
        jumped = [*lines[:at], line(at, data.draw(st.floats(4, 300))), *lines[at + 1 :]]
        self.assertGreaterEqual(level(jumped), Level.CAUTION)
        lost = [*lines[:at], line(at, 0, fixed=False), *lines[at + 1 :]]
        self.assertGreaterEqual(level(lost), Level.CAUTION)
        mixed = [*lines[: at + 1], line(at, data.draw(st.floats(1, 9)), talker="GP"), *lines[at + 1 :]]
        self.assertEqual(level(mixed), Level.GROUNDED)

    @given(READINGS, st.floats(1, 30))
    @examples(60)
    def test_a_wider_scatter_never_reads_better(self, wander: list[float], times: float) -> None:
        near, far = ([line(i, east * by) for i, east in enumerate(wander)] for by in (1.0, times))
        self.assertGreaterEqual(level(far), level(near))


class Sky(unittest.TestCase):
    @given(st.lists(st.tuples(st.floats(0, 360), st.floats(0, 120), st.floats(1, 40)), min_size=1, max_size=6))
    @examples(60)
    def test_a_tree_more_never_opens_the_sky_and_under_one_there_is_none(
        self, trees: list[tuple[float, float, float]]
    ) -> None:
        marks = [mark_at(MarkKind.TREE, bearing, away, high) for bearing, away, high in trees]
        point = np.array([[0.0, 0.0]])
        shares = [float(open_percent(hidden_deg(marks[:n], point))[0]) for n in range(len(marks) + 1)]
        self.assertEqual(shares, sorted(shares, reverse=True))
        if any(away < 2.9 for _, away, _ in trees):
            self.assertEqual(shares[-1], 0.0)


class Landing(unittest.TestCase):
    OWN = st.builds(OwnReturn, landing_m=st.floats(0.3, 4), rehearsals=st.integers(0, 9))

    @given(OWN, st.floats(0.5, 1.99), st.floats(0, 60), st.floats(0, 40), st.floats(0, 30))
    @examples(150)
    def test_an_unknown_hdop_and_a_home_farther_off_never_read_better(
        self, own: OwnReturn, hdop: float, clear: float, off: float, more: float
    ) -> None:
        screen = ScreenSeen(counts=(CountSeen(after_s=0, satellites=9),))
        known = worst(judge_landing(BARE, landing_spread(Fix(hdop=hdop), None, own), clear, off, None))
        unknown = worst(judge_landing(BARE, landing_spread(None, screen, own), clear, off, None))
        self.assertGreaterEqual(unknown, known)
        farther = worst(judge_landing(BARE, landing_spread(Fix(hdop=hdop), None, own), clear, off + more, None))
        self.assertGreaterEqual(farther, known)
        if off > 0 and clear - off < 3:
            self.assertEqual(known, Level.GROUNDED, "it would land among what stands there")


class Proving(unittest.TestCase):
    @given(st.integers(0, 9), st.floats(0.1, 30), st.floats(0.5, 120), st.floats(0, 400))
    @examples(150)
    def test_nothing_flies_before_its_stage(self, passed: int, minutes: float, high: float, far: float) -> None:
        now = progress(BUILT, good(BUILT)[:passed])
        found = worst(judge_proving(now, FlightPlan(work_min=minutes, height_m=high, out_m=far)))
        if now.current is None:
            self.assertEqual(found, Level.CLEAR)
        elif now.current.caps is None:
            self.assertEqual(found, Level.GROUNDED)
        else:
            caps = now.current.caps
            over = minutes > caps.minutes or high > caps.height_m or far > caps.distance_m
            self.assertEqual(found, Level.GROUNDED if over else Level.CAUTION)
