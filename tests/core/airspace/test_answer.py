"""What zones say for a flight: inside, under, near, now and later, and how old it all is."""

import unittest
from datetime import timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests.support import NOW, SITE, said
from walkround.core.airspace.answer import FRESH, FRESH_FILE, Airspace, active, free_height_m, judge_airspace
from walkround.core.airspace.zone import Edge, Nearby, Ref, Rule, Span, Terms
from walkround.core.base.finding import Level

HOUR = timedelta(hours=1)
FLAT = SITE.model_copy(update={"elevation_m": 200.0, "ground_rise_m": 0.0})


def near(rule: Rule = Rule.CLOSED, away: float = 0, **terms: object) -> Airspace:
    zone = Nearby(terms=Terms(name="Z", rule=rule, **terms), away_m=away, bearing_deg=90, over_launch=away == 0)  # type: ignore[arg-type]
    return Airspace(near=(zone,), sets=(("Notices", NOW, True),))


def judged(airspace: Airspace, top: float = 50, site=FLAT, asked: bool = False):  # type: ignore[no-untyped-def]
    return judge_airspace(airspace, site, top_m=top, begin=NOW, end=NOW + HOUR, asked=asked)


class Levels(unittest.TestCase):
    def test_rules(self) -> None:
        sea = Edge(height_m=300, ref=Ref.SEA)
        rows = (
            ("closed", near(), 50, False, Level.GROUNDED),
            ("closed, asked changes nothing", near(), 50, True, Level.GROUNDED),
            ("to be asked", near(Rule.ASK), 50, False, Level.GROUNDED),
            ("asked", near(Rule.ASK), 50, True, Level.CARE),
            ("care", near(Rule.CARE), 50, False, Level.CARE),
            ("up to, below", near(Rule.UP_TO, up_to_m=80), 50, False, Level.CLEAR),
            ("up to, close", near(Rule.UP_TO, up_to_m=55), 50, False, Level.CARE),
            ("up to, above", near(Rule.UP_TO, up_to_m=40), 50, False, Level.GROUNDED),
            ("closed from 100 m up", near(floor=Edge(height_m=100)), 50, False, Level.CLEAR),
            ("closed from 40 m up", near(floor=Edge(height_m=40)), 50, False, Level.GROUNDED),
            ("to be asked from 40 m up, asked", near(Rule.ASK, floor=Edge(height_m=40)), 50, True, Level.CARE),
            ("from 300 m above sea at 200 m", near(floor=sea), 50, False, Level.CLEAR),
            ("from 300 m above sea at 200 m, high", near(floor=sea), 101, False, Level.GROUNDED),
            ("ends below the field", near(ceiling=Edge(height_m=150, ref=Ref.SEA)), 50, False, Level.CLEAR),
            ("near", near(away=200), 50, False, Level.CARE),
            ("farther", near(away=2000), 50, False, Level.CLEAR),
        )
        for name, airspace, top, asked, level in rows:
            with self.subTest(name):
                found = judged(airspace, top, asked=asked)
                self.assertEqual(max((f.level for f in found), default=Level.CLEAR), level, [said(f) for f in found])

    def test_rising_ground_counts_from_its_highest(self) -> None:
        """A floor 300 m above the sea over a field at 200 m is 100 m up; where the ground rises 40 m it is 60."""
        hilly = FLAT.model_copy(update={"ground_rise_m": 40.0})
        airspace = near(floor=Edge(height_m=300, ref=Ref.SEA))
        self.assertEqual(free_height_m(airspace, FLAT, NOW, NOW), 100)
        self.assertEqual(free_height_m(airspace, hilly, NOW, NOW), 60)

    def test_times(self) -> None:
        rows = (
            ("over", Span(begin=NOW - 3 * HOUR, end=NOW - HOUR), Level.CLEAR, None),
            ("now", Span(begin=NOW - HOUR, end=NOW + HOUR), Level.GROUNDED, None),
            ("begins within the flight", Span(begin=NOW + HOUR / 2), Level.GROUNDED, None),
            ("later today", Span(begin=NOW + 3 * HOUR, end=NOW + 5 * HOUR), Level.CARE, "from 12:40 on 16 May"),
            ("tomorrow", Span(begin=NOW + 30 * HOUR), Level.CLEAR, None),
        )
        for name, span, level, words in rows:
            with self.subTest(name):
                found = judged(near(spans=(span,)))
                self.assertEqual(max((f.level for f in found), default=Level.CLEAR), level)
                if words:
                    self.assertIn(words, said(found[0]))

    @given(
        st.lists(st.tuples(st.integers(-20, 20), st.integers(0, 10)), min_size=1, max_size=5),
        st.integers(-20, 20),
        st.integers(0, 10),
    )
    def test_active_hour_by_hour(self, spans: list[tuple[int, int]], begin: int, long: int) -> None:
        """Against walking through the time in quarters of an hour."""
        made = tuple(Span(begin=NOW + HOUR * b, end=NOW + HOUR * (b + n)) for b, n in spans)
        walked = any(b <= t / 4 <= b + n for b, n in spans for t in range(begin * 4, (begin + long) * 4 + 1))
        self.assertEqual(active(made, NOW + HOUR * begin, NOW + HOUR * (begin + long)), walked)

    def test_every_answer_defers_to_the_authority(self) -> None:
        for airspace in (
            near(),
            near(Rule.ASK),
            near(Rule.CARE),
            near(away=200),
            near(away=2000),
            Airspace(near=(), sets=(("N", NOW, True),)),
        ):
            for finding in judged(airspace):
                words = f"{said(finding)} {finding.remedy}"
                self.assertTrue("authority" in words or "no permission" in words, words)

    def test_old_data_is_care(self) -> None:
        for service, fresh in ((True, FRESH), (False, FRESH_FILE)):
            for age, level in ((fresh - HOUR, Level.CLEAR), (fresh + HOUR, Level.CARE)):
                found = judged(Airspace(near=(), sets=(("Set", NOW - age, service),)))
                self.assertEqual(max(f.level for f in found), level, f"{service} {age}")
