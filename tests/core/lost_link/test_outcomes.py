"""What becomes of a run, on fields drawn for the purpose: a wire, a road, water, people."""

import unittest
from itertools import pairwise

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.support import PACK, SITE
from walkround.core.aircraft.failsafe import Action
from walkround.core.aircraft.presets import PRESETS
from walkround.core.base.finding import Level
from walkround.core.field.marks import Mark, MarkKind, spot
from walkround.core.field.site import Site
from walkround.core.flight.estimate import endurance
from walkround.core.lost_link.air import EXACT, Air, Errors, draws
from walkround.core.lost_link.bodies import body_of
from walkround.core.lost_link.flown import Flown, Lost, Plan, fly
from walkround.core.lost_link.ground import Lies, ground_of
from walkround.core.lost_link.outcomes import (
    OUTCOME_LEVEL,
    OUTCOME_WORDS,
    TOLD_SHARE,
    Outcome,
    badness,
    level_of,
    outcomes,
    shares,
    worst_outcome,
)

QUAD = PRESETS["camera-quad"]
KNOWN = endurance(QUAD, PACK)
STILL = Air(wind_ms=0, from_deg=0, gust_ms=0)
RETURN = Plan(action=Action.RETURN, home=(0, 0), rth_altitude_m=30)


def area(*points: tuple[float, float]) -> tuple:  # type: ignore[type-arg]
    return tuple(spot(p) for p in points)


def field(*marks: Mark, line: tuple = ()) -> Site:  # type: ignore[type-arg]
    return SITE.model_copy(update={"marks": marks, "flight_radius_m": 150, "spectator_line": line})


def ending(
    site: Site,
    action: Action,
    east: float,
    north: float,
    *,
    rth_m: float = 30,
    height_m: float = 20,
    charge: float = 60,
    air: Air = STILL,
) -> Outcome:
    lost = Lost(east_m=east, north_m=north, height_m=height_m, charge_percent=charge)
    plan = replace(RETURN, action=action, rth_altitude_m=rth_m)
    found = fly(lost, plan, body_of(QUAD, KNOWN, action), air, EXACT, draws(1, 1))
    return Outcome(int(outcomes(found, ground_of(site)).outcome[0]))


WIRE = Mark(id=1, kind=MarkKind.WIRE, spots=area((60, -100), (60, 100)), height_m=25)
POND = Mark(id=2, kind=MarkKind.WATER, spots=area((80, -20), (120, -20), (120, 20), (80, 20)))
ROAD = Mark(id=3, kind=MarkKind.ROAD, spots=area((-100, 90), (100, 90)))
PRIVATE = Mark(id=4, kind=MarkKind.PRIVATE, spots=area((160, -40), (220, -40), (220, 40), (160, 40)))
LINE = area((-60, -40), (60, -40))


class Endings(unittest.TestCase):
    def test_each_in_its_place(self) -> None:
        open_field = field()
        rows = (
            (Outcome.HOME, open_field, Action.RETURN, 100, 0, {}),
            (Outcome.AREA, open_field, Action.LAND, 100, 0, {}),
            (Outcome.OUTSIDE, open_field, Action.LAND, 200, 0, {}),
            (Outcome.WATER, field(POND), Action.LAND, 100, 0, {}),
            (Outcome.ROAD, field(ROAD), Action.LAND, 0, 90, {}),
            (Outcome.PRIVATE, field(PRIVATE), Action.LAND, 190, 0, {}),
            (Outcome.PEOPLE, field(line=LINE), Action.LAND, 0, -55, {}),
            (Outcome.OBSTACLE, field(WIRE), Action.RETURN, 100, 0, {"rth_m": 22}),
            (Outcome.HOME, field(WIRE), Action.RETURN, 100, 0, {"rth_m": 28}),
            (Outcome.AWAY, open_field, Action.HOLD, 100, 0, {}),
            (Outcome.AWAY, open_field, Action.RETURN, 100, 0, {"charge": 0.5}),
            (Outcome.AWAY, open_field, Action.RETURN, 100, 0, {"air": Air(wind_ms=30, from_deg=270, gust_ms=0)}),
        )
        for expected, site, action, east, north, more in rows:
            with self.subTest(outcome=expected.name, action=action.value):
                self.assertIs(ending(site, action, east, north, **more), expected)

    @given(st.floats(-60, 60), st.floats(26, 29), st.floats(0.5, 40))
    @settings(max_examples=40)
    def test_a_higher_return_never_clears_less(self, north: float, low_m: float, more_m: float) -> None:
        """Over a wire of 25 m, lost on its far side: the number of runs that hit it, and what hits at the higher altitude hits at the lower."""
        ground, chance = ground_of(field(WIRE)), draws(80, 3)
        body, hits = body_of(QUAD, KNOWN, Action.RETURN), []
        for altitude in (low_m - 4, low_m - 4 + more_m):
            lost = Lost(east_m=100, north_m=north, height_m=15, charge_percent=60)
            found = fly(
                lost, replace(RETURN, rth_altitude_m=altitude), body, STILL, replace(Errors(), home_m=0), chance
            )
            hits.append(outcomes(found, ground).outcome == Outcome.OBSTACLE)
        self.assertTrue(np.all(hits[0] | ~hits[1]))

    def test_what_it_passes_over(self) -> None:
        lost = Lost(east_m=0, north_m=130, height_m=30, charge_percent=60)
        found = outcomes(
            fly(lost, RETURN, body_of(QUAD, KNOWN, Action.RETURN), STILL, EXACT, draws(1, 1)), ground_of(field(ROAD))
        )
        self.assertTrue(int(found.over[0]) & int(Lies.ROAD))
        self.assertFalse(int(found.over[0]) & int(Lies.WATER))

    def test_no_thing_is_flown_through_between_two_looks(self) -> None:
        """A mast crossed at any angle, on a path of one long straight part."""
        mast = Mark(id=1, kind=MarkKind.MAST, spots=area((40, 10)), height_m=40)
        ground = ground_of(field(mast))
        angles = np.radians(np.arange(0, 360, 3))
        a = np.stack([40 + 200 * np.sin(angles), 10 + 200 * np.cos(angles), np.full(len(angles), 20.0)], axis=1)
        b = np.stack([40 - 90 * np.sin(angles), 10 - 90 * np.cos(angles), np.full(len(angles), 20.0)], axis=1)
        n, no = len(angles), np.zeros(len(angles), dtype=bool)
        found = Flown(
            path=np.stack([a, b]),
            seconds=np.ones(n),
            charge_percent=np.ones(n),
            end_ms=np.ones(n),
            home=no,
            empty=no,
            away=no,
        )
        self.assertTrue(np.all(outcomes(found, ground).hit == 0))


class Worth(unittest.TestCase):
    def test_the_worse_the_higher(self) -> None:
        levels = [OUTCOME_LEVEL[outcome] for outcome in Outcome]
        self.assertTrue(all(a <= b for a, b in pairwise(levels)))
        self.assertEqual({*OUTCOME_WORDS}, {*Outcome})
        self.assertIs(OUTCOME_LEVEL[Outcome.PEOPLE], Level.GROUNDED)

    @given(st.lists(st.sampled_from(list(Outcome)), min_size=1, max_size=300))
    def test_shares_add_up_and_people_count_at_once(self, ends: list[Outcome]) -> None:
        found = shares(np.array([int(o) for o in ends]))
        self.assertAlmostEqual(sum(found.values()), 1.0)
        worst = worst_outcome(found)
        self.assertIn(worst, found)
        if found.get(Outcome.PEOPLE, 0) >= 0.01:
            self.assertIs(worst, Outcome.PEOPLE)
        more = worst_outcome(shares(np.array([*(int(o) for o in ends), *[int(Outcome.PEOPLE)] * len(ends)])))
        self.assertGreaterEqual(more, worst, "a worse run never reads better")

    @given(st.integers(0, 400), st.lists(st.sampled_from(list(Outcome)), min_size=1, max_size=12), st.data())
    def test_a_run_that_ends_worse_never_makes_the_place_better(
        self, home: int, others: list[Outcome], data: st.DataObject
    ) -> None:
        ends = [*others, *[Outcome.HOME] * home]

        def level(of: list[Outcome]) -> Level:
            found = shares(np.array([int(o) for o in of]))
            return level_of(worst_outcome(found), *badness(found))

        at = data.draw(st.integers(0, len(ends) - 1))
        worse = data.draw(st.sampled_from([o for o in Outcome if o >= ends[at]]))
        self.assertGreaterEqual(level([*ends[:at], worse, *ends[at + 1 :]]), level(ends))
        bad = sum(OUTCOME_LEVEL[o] is not Level.CLEAR for o in ends) / len(ends)
        self.assertEqual(level(ends) is Level.CLEAR, bad < TOLD_SHARE, "what ends badly now and then is never clear")

    def test_many_rare_bad_endings_ground_as_one_frequent_one(self) -> None:
        each = dict.fromkeys((Outcome.ROAD, Outcome.OBSTACLE, Outcome.AWAY), 0.04) | {Outcome.HOME: 0.88}
        self.assertIs(worst_outcome(each), Outcome.HOME)
        self.assertIs(level_of(Outcome.HOME, *badness(each)), Level.GROUNDED)
