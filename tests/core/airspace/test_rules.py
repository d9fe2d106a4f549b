"""What zones say for a flight: inside, under, near, now and later, and how old it all is."""

import unittest
from datetime import timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests.support import NOW, SITE, said
from walkround.core.airspace.rules import FRESH, FRESH_FILE, Airspace, active, free_height_m, judge_airspace
from walkround.core.airspace.zone import ActivePeriod, Edge, Nearby, Ref, Rule, Terms
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
            ("asked", near(Rule.ASK), 50, True, Level.CAUTION),
            ("caution", near(Rule.CAUTION), 50, False, Level.CAUTION),
            ("up to, below", near(Rule.UP_TO, up_to_m=80), 50, False, Level.CLEAR),
            ("up to, close", near(Rule.UP_TO, up_to_m=55), 50, False, Level.CAUTION),
            ("up to, above", near(Rule.UP_TO, up_to_m=40), 50, False, Level.GROUNDED),
            ("closed from 100 m up", near(floor=Edge(height_m=100)), 50, False, Level.CLEAR),
            ("closed from 40 m up", near(floor=Edge(height_m=40)), 50, False, Level.GROUNDED),
            ("to be asked from 40 m up, asked", near(Rule.ASK, floor=Edge(height_m=40)), 50, True, Level.CAUTION),
            ("from 300 m above sea at 200 m", near(floor=sea), 50, False, Level.CLEAR),
            ("from 300 m above sea at 200 m, high", near(floor=sea), 101, False, Level.GROUNDED),
            ("ends below the field", near(max_height=Edge(height_m=150, ref=Ref.SEA)), 50, False, Level.CLEAR),
            ("near", near(away=200), 50, False, Level.CAUTION),
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
            ("over", ActivePeriod(begin=NOW - 3 * HOUR, end=NOW - HOUR), Level.CLEAR, None),
            ("now", ActivePeriod(begin=NOW - HOUR, end=NOW + HOUR), Level.GROUNDED, None),
            ("begins within the flight", ActivePeriod(begin=NOW + HOUR / 2), Level.GROUNDED, None),
            (
                "later today",
                ActivePeriod(begin=NOW + 3 * HOUR, end=NOW + 5 * HOUR),
                Level.CAUTION,
                "from 12:40 on 16 May",
            ),
            ("tomorrow", ActivePeriod(begin=NOW + 30 * HOUR), Level.CLEAR, None),
        )
        for name, period, level, words in rows:
            with self.subTest(name):
                found = judged(near(periods=(period,)))
                self.assertEqual(max((f.level for f in found), default=Level.CLEAR), level)
                if words:
                    self.assertIn(words, said(found[0]))

    @given(
        st.lists(st.tuples(st.integers(-20, 20), st.integers(0, 10)), min_size=1, max_size=5),
        st.integers(-20, 20),
        st.integers(0, 10),
    )
    def test_active_hour_by_hour(self, periods: list[tuple[int, int]], begin: int, long: int) -> None:
        """Against walking through the time in quarters of an hour."""
        made = tuple(ActivePeriod(begin=NOW + HOUR * b, end=NOW + HOUR * (b + n)) for b, n in periods)
        walked = any(b <= t / 4 <= b + n for b, n in periods for t in range(begin * 4, (begin + long) * 4 + 1))
        self.assertEqual(active(made, NOW + HOUR * begin, NOW + HOUR * (begin + long)), walked)

    def test_every_answer_defers_to_the_authority(self) -> None:
        for airspace in (
            near(),
            near(Rule.ASK),
            near(Rule.CAUTION),
            near(away=200),
            near(away=2000),
            Airspace(near=(), sets=(("N", NOW, True),)),
        ):
            for finding in judged(airspace):
                words = f"{said(finding)} {finding.remedy}"
                self.assertTrue("authority" in words or "not an authorisation" in words, words)

    def test_old_data_is_care(self) -> None:
        for service, fresh in ((True, FRESH), (False, FRESH_FILE)):
            for age, level in ((fresh - HOUR, Level.CLEAR), (fresh + HOUR, Level.CAUTION)):
                found = judged(Airspace(near=(), sets=(("Set", NOW - age, service),)))
                self.assertEqual(max(f.level for f in found), level, f"{service} {age}")

    def test_zones_dated_ahead_of_the_clock_are_not_fresh(self) -> None:
        for hours, wanted in ((23, 1), (25, 2), (24 * 90, 2)):
            found = judged(Airspace(near=(), sets=(("Set", NOW + timedelta(hours=hours), False),)))
            with self.subTest(hours):
                self.assertEqual(len(found), wanted)
                self.assertEqual(found[-1].level, Level.CAUTION if wanted == 2 else Level.CLEAR)

    def test_the_last_day_of_the_data_is_still_fresh(self) -> None:
        for service, days in ((True, 1), (False, 28)):
            exact = Airspace(near=(), sets=(("Set", NOW - timedelta(days=days), service),))
            self.assertEqual([f.name for f in judged(exact)], ["Airspace"])
            (_, old) = judged(Airspace(near=(), sets=(("Set", NOW - timedelta(days=days + 3), service),)))
            said_limit = f"Set is {days + 3} days old; zones and notices change."
            self.assertEqual((old.name, said(old)), ("Age of the zones", said_limit))
            assert old.limit is not None
            self.assertEqual(old.limit.value, days)


class Words(unittest.TestCase):
    def one(self, airspace: Airspace, words: str, name: str = "Zone", **how: object) -> None:
        (finding,) = judged(airspace, **how)  # type: ignore[arg-type]
        self.assertEqual((finding.name, said(finding)), (name, words))

    def test_each_rule_in_its_words(self) -> None:
        self.one(near(), "Z is closed, and this flight is inside it.")
        self.one(near(asks="Ring 1."), "Z is closed, and this flight is inside it. Ring 1.")
        self.one(near(Rule.ASK), "Z needs permission first.")
        self.one(near(Rule.ASK, asks="Ring 1."), "Z needs permission first. Ring 1.")
        self.one(near(Rule.ASK), "You say you have permission for Z.", asked=True)
        self.one(near(Rule.CAUTION), "Z asks for caution.")
        self.one(near(Rule.CAUTION, floor=Edge(height_m=40)), "Z asks for caution from 40 m up.")
        self.one(
            near(Rule.UP_TO, up_to_m=80),
            "Z allows 80 m above ground; this flight goes up to 50 m.",
            "Height in the zone",
        )
        self.one(
            near(floor=Edge(height_m=90)),
            "Z begins at 90 m above ground; this flight goes up to 50 m.",
            "Height in the zone",
        )
        self.one(near(away=200), "Z is closed and begins 200 m from the flight, towards 90°.", "Zone near")

    def test_nothing_near(self) -> None:
        """Zones are looked for within 5 km; one that drifts in from 300 m is a caution, from 300 m on it is not."""
        self.one(
            Airspace(near=(), sets=(("N", NOW, True),)),
            "No zone within 5.0 km of here is in the data. This is not an authorisation.",
            "Airspace",
        )
        two = Airspace(near=(*near(away=4000).near, *near(away=2000).near), sets=(("N", NOW, True),))
        self.one(
            two,
            "No zone overlaps your flight. The nearest is Z, 2.0 km towards 90°. This data is not an authorisation.",
            "Airspace",
        )
        self.assertEqual(judged(Airspace(near=(), sets=())), ())
        self.assertEqual([judged(near(away=a))[0].name for a in (299, 300, 301)], ["Zone near", "Airspace", "Airspace"])
        self.assertEqual(judged(near(Rule.ASK, away=200))[0].level, Level.CLEAR)
        asleep = ActivePeriod(begin=NOW + 3 * HOUR, end=NOW + 5 * HOUR)
        self.assertEqual(judged(near(away=200, periods=(asleep,)))[0].name, "Airspace")

    def test_later_today(self) -> None:
        later = ActivePeriod(begin=NOW + 3 * HOUR, end=NOW + 5 * HOUR)
        self.one(near(periods=(later,), asks="Ring 1."), "Z is closed from 12:40 on 16 May on. Ring 1.", "Zone later")
        self.one(near(Rule.ASK, periods=(later,)), "Z needs permission from 12:40 on 16 May on.", "Zone later")
        self.assertEqual(judged(near(periods=(ActivePeriod(begin=NOW + 27 * HOUR),)))[0].level, Level.CLEAR)

    def test_under_a_ceiling_that_cuts_the_field(self) -> None:
        """The launch lies at 200 m: a ceiling at 200 m ends below every flight, one at 201 m does not, however the ground rises."""
        for height, level in ((199, Level.CLEAR), (200, Level.CLEAR), (201, Level.GROUNDED)):
            airspace = near(max_height=Edge(height_m=height, ref=Ref.SEA))
            self.assertEqual(judged(airspace)[0].level, level, height)
        hilly = FLAT.model_copy(update={"ground_rise_m": 40.0})
        rows = ((190, Level.CLEAR), (200, Level.CLEAR), (201, Level.GROUNDED), (239, Level.GROUNDED))
        for height, level in rows:
            found = judged(near(max_height=Edge(height_m=height, ref=Ref.SEA)), site=hilly)
            self.assertEqual(max(f.level for f in found), level, height)

    def test_care_at_its_floor(self) -> None:
        for top, names in ((39, ["Airspace"]), (40, ["Zone"]), (41, ["Zone"])):
            self.assertEqual([f.name for f in judged(near(Rule.CAUTION, floor=Edge(height_m=40)), top)], names)

    def test_asking_about_a_zone_that_begins_higher(self) -> None:
        """Asked and above its floor: care. Asked and below: as if not asked. Closed: asking changes nothing."""
        floor = Edge(height_m=40)
        self.one(near(Rule.ASK, floor=floor), "You say you have permission for Z.", asked=True, top=60)
        self.one(
            near(Rule.ASK, floor=floor),
            "Z begins at 40 m above ground; this flight goes up to 10 m.",
            "Height in the zone",
            asked=True,
            top=10,
        )
        self.one(
            near(floor=floor),
            "Z begins at 40 m above ground; this flight goes up to 60 m.",
            "Height in the zone",
            asked=True,
            top=60,
        )
        self.one(
            near(Rule.ASK, floor=floor),
            "Z begins at 40 m above ground; this flight goes up to 60 m.",
            "Height in the zone",
            top=60,
        )


class Free(unittest.TestCase):
    """How high it is free, by hand."""

    def test_by_hand(self) -> None:
        sea = Edge(height_m=300, ref=Ref.SEA)
        later = ActivePeriod(begin=NOW + 3 * HOUR)
        rows = (
            (near(), 0), (near(Rule.ASK), 0), (near(Rule.CAUTION), None), (near(Rule.UP_TO, up_to_m=80), 80), (near(floor=sea), 100),
            (near(Rule.CAUTION, floor=sea), None), (near(away=1), None), (near(periods=(later,)), None),
            (near(floor=Edge(height_m=150, ref=Ref.SEA)), 0), (near(Rule.UP_TO, up_to_m=0), 0),
        )  # fmt: skip
        for airspace, free in rows:
            with self.subTest(airspace.near[0].terms):
                self.assertEqual(free_height_m(airspace, FLAT, NOW, NOW + HOUR), free)

    def test_the_lowest_of_many(self) -> None:
        zones = (*near(Rule.UP_TO, up_to_m=80).near, *near(floor=Edge(height_m=60)).near, *near(Rule.CAUTION).near)
        self.assertEqual(free_height_m(Airspace(near=zones, sets=()), FLAT, NOW, NOW), 60)
