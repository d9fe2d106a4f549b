"""One what-if: percentiles against closed forms, its words, what is unknown."""

import math
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from msgspec.structs import replace
from scipy.stats import chi2

from tests.support import PACK, said
from walkround.core.aircraft.failsafe import Action
from walkround.core.aircraft.presets import PRESETS
from walkround.core.base.finding import Level, worst
from walkround.core.field.marks import spot
from walkround.core.flight.estimate import endurance
from walkround.core.lost_link.air import Air, Errors
from walkround.core.lost_link.area import Cell
from walkround.core.lost_link.bodies import body_of
from walkround.core.lost_link.flown import Lost, Plan
from walkround.core.lost_link.ground import ground_of
from walkround.core.lost_link.outcomes import Outcome, badness, worst_outcome
from walkround.core.lost_link.what_if import findings, landed_words, oval, radius_m, track, what_if, what_if_at
from walkround.demo.scenario import MEADOW

QUAD = PRESETS["camera-quad"]
KNOWN = endurance(QUAD, PACK)
AIR = Air(wind_ms=4, from_deg=270, gust_ms=1)
HERE = Lost(east_m=20, north_m=50, height_m=40, charge_percent=60)
PLAN = Plan(action=Action.RETURN, home=MEADOW.launch.xy)


def flown(action: Action = Action.RETURN, air: Air = AIR, lost: Lost = HERE, **more):  # type: ignore[no-untyped-def]
    return what_if(lost, replace(PLAN, action=action), body_of(QUAD, KNOWN, action), air, ground_of(MEADOW), **more)


class Spread(unittest.TestCase):
    def test_ovals_of_a_normal_scatter(self) -> None:
        """Half axes are ``sigma sqrt(chi2(2 df, share))``: 1.18 and 2.45 sigma (closed form; scipy's quantiles)."""
        places = np.random.default_rng(5).standard_normal((40_000, 2)) @ np.diag([9.0, 3.0])
        turn = math.radians(30)
        places = places @ np.array([[math.sin(turn), math.cos(turn)], [math.cos(turn), -math.sin(turn)]]) + (100, -40)
        for share in (0.5, 0.95):
            found, exact = oval(places, share), math.sqrt(chi2.ppf(share, 2))
            self.assertAlmostEqual(found.long_m / 9, exact, delta=0.03 * exact)
            self.assertAlmostEqual(found.short_m / 3, exact, delta=0.03 * exact)
            self.assertAlmostEqual(found.bearing_deg, 30, delta=1)
            self.assertAlmostEqual(found.east_m, 100, delta=0.3)

    def test_the_radius_of_an_even_scatter(self) -> None:
        """Rayleigh: 1.177 and 2.448 sigma (closed form)."""
        places = np.random.default_rng(6).standard_normal((40_000, 2)) * 4
        self.assertAlmostEqual(radius_m(places, 0.5), 4 * 1.177, delta=0.06)
        self.assertAlmostEqual(radius_m(places, 0.95), 4 * 2.448, delta=0.1)

    def test_landings_of_a_return_scatter_as_home_point_and_landing_do(self) -> None:
        """Independent errors add as squares: ``sqrt(2.5² + 1.5²)`` along each axis."""
        found = flown(runs=20_000)
        self.assertAlmostEqual(float(found.landings.std(axis=0).mean()), math.hypot(2.5, 1.5), delta=0.05)
        own = what_if(
            HERE, replace(PLAN, landing_m=0.5), body_of(QUAD, KNOWN, Action.RETURN), AIR, ground_of(MEADOW), runs=20_000
        )
        self.assertAlmostEqual(float(own.landings.std(axis=0).mean()), math.hypot(2.5, 0.5), delta=0.05)

    def test_the_share_inside_is_the_share_asked(self) -> None:
        found = flown(Action.STOP, runs=4_000)
        half, most = (radius_m(found.landings, share) for share in (0.5, 0.95))
        self.assertLess(half, most)
        self.assertEqual(len(found.most.outline()), 36)

    @given(st.floats(1, 3))
    @settings(max_examples=15)
    def test_larger_errors_never_shrink_the_radius(self, times: float) -> None:
        errors = Errors()
        wide = replace(
            errors, gust=errors.gust * times, position_m=errors.position_m * times, height_m=errors.height_m * times
        )
        near, far = (radius_m(flown(Action.STOP, errors=one).landings, 0.95) for one in (errors, wide))
        self.assertGreaterEqual(far, near * 0.999)


class Said(unittest.TestCase):
    def test_the_same_seed_says_the_same(self) -> None:
        one, two = flown(Action.STOP), flown(Action.STOP)
        self.assertEqual((one.shares, one.seconds, one.path), (two.shares, two.seconds, two.path))

    def test_the_same_again_is_remembered_and_any_change_is_flown(self) -> None:
        body, site = body_of(QUAD, KNOWN, Action.STOP), MEADOW
        plan = replace(PLAN, action=Action.STOP)
        one = what_if_at(HERE, plan, body, AIR, site)
        self.assertIs(what_if_at(replace(HERE), replace(plan), body, replace(AIR), site), one)
        moved = site.model_copy(update={"launch": spot((0, 20))})
        for other in (
            what_if_at(replace(HERE, height_m=41), plan, body, AIR, site),
            what_if_at(HERE, replace(plan, delay_s=3), body, AIR, site),
            what_if_at(HERE, plan, body, replace(AIR, wind_ms=4.1), site),
            what_if_at(HERE, plan, body, AIR, moved),
        ):
            self.assertIsNot(other, one)
        self.assertEqual(one.shares, what_if(HERE, plan, body, AIR, ground_of(site)).shares)

    def test_in_words(self) -> None:
        found = flown()
        self.assertIs(found.worst, Outcome.HOME)
        self.assertIn(
            "In 100 % of the runs it lands at the launch point.",
            [said(f).replace("\u202f", " ") for f in findings(found)],
        )
        self.assertRegex(
            said(landed_words(found)), r"It comes down after \d+ to \d+ s, within [\d.]+.m of the launch point"
        )
        falls = " ".join(said(f) for f in findings(flown(Action.STOP)))
        self.assertIn("above 80 J", falls)
        empty = " ".join(said(f) for f in findings(flown(Action.HOVER)))
        self.assertIn("The pack is empty when it comes down", empty)

    def test_people_are_the_worst_and_first(self) -> None:
        found = flown(Action.LAND, lost=replace(HERE, east_m=0, north_m=-30))
        self.assertIs(found.level, Level.GROUNDED)
        self.assertIn("spectators", said(findings(found)[0]))

    @given(st.integers(1, 400), st.dictionaries(st.sampled_from(list(Outcome)), st.integers(1, 12)))
    def test_what_is_said_and_what_the_place_is_worth_agree(self, home: int, runs: dict[Outcome, int]) -> None:
        runs = {Outcome.HOME: home} | runs
        total = sum(runs.values())
        told = {outcome: many / total for outcome, many in runs.items()}
        found = replace(
            flown(runs=5),
            shares=told,
            worst=worst_outcome(told),
            over=(),
            hits=(),
            energy_j=0.0,
            charge=(50.0, 50.0, 50.0),
        )
        self.assertIs(worst(findings(found)), found.level)
        cell = Cell(east_m=0, north_m=0, outcome=found.worst, grounds=badness(told)[0], bad=badness(told)[1])
        self.assertIs(cell.level, found.level, "the area says what the place says")

    def test_unknown_wind_is_never_clear(self) -> None:
        still = Air(wind_ms=0, from_deg=0, gust_ms=0, known=False)
        for action in (Action.RETURN, Action.LAND, Action.STOP):
            found = flown(action, air=still)
            self.assertGreaterEqual(found.level, Level.CAUTION)
            self.assertGreaterEqual(worst(findings(found)), Level.CAUTION)

    def test_the_track_is_the_run_without_errors(self) -> None:
        body = body_of(QUAD, KNOWN, Action.RETURN)
        path = track(HERE, PLAN, body, AIR)
        self.assertEqual(path[0], (20.0, 50.0, 40.0))
        self.assertTrue(np.allclose(path[-1], (*MEADOW.launch.xy, 0.0)))
