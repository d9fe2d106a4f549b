"""What would be safer: each proposal is better than what is, by the same runs, and can be flown."""

import unittest

from msgspec.structs import replace

from tests.support import PACK
from walkround.core.aircraft.failsafe import Action, actions
from walkround.core.aircraft.presets import PRESETS
from walkround.core.field.site import LaunchPlatform, Site
from walkround.core.flight.estimate import endurance
from walkround.core.lost_link.air import Air
from walkround.core.lost_link.area import Area
from walkround.core.lost_link.flown import Plan
from walkround.core.lost_link.proposals import (
    TRIED_POINTS,
    TRIED_RUNS,
    Setup,
    area_of,
    candidates,
    proposals,
    whole_area,
)
from walkround.demo.scenario import MEADOW, QUAY

AIR = Air(wind_ms=5, from_deg=270, gust_ms=1)


def setup(key: str, action: Action, site: Site = MEADOW, **more) -> Setup:  # type: ignore[no-untyped-def]
    aircraft = PRESETS[key]
    return Setup(
        site=site, aircraft=aircraft, known=endurance(aircraft, PACK), air=AIR, plan=Plan(action=action, home=site.launch.xy), height_m=45,
        speed_ms=0 if key == "camera-quad" else 10, charge_percent=60, **more,
    )  # fmt: skip


class Proposals(unittest.TestCase):
    def test_each_is_better_by_its_own_count(self) -> None:
        for one in (
            setup("camera-quad", Action.STOP),
            setup("foam-trainer", Action.GLIDE),
            setup("camera-quad", Action.LAND, QUAY),
        ):
            now = whole_area(one, points=TRIED_POINTS, runs=TRIED_RUNS)
            found = proposals(one, 30)
            self.assertTrue(found, one.plan.action)
            for better in found:
                self.assertLess(better.area.badness, now.badness, better.words)
            self.assertEqual([b.area.badness for b in found], sorted(b.area.badness for b in found))

    def test_only_what_the_aircraft_can_do_and_never_holding(self) -> None:
        for key in PRESETS:
            able = actions(PRESETS[key].kind, PRESETS[key].features())
            tried = [made.plan.action for _, made in candidates(setup(key, able[0]), 30)]
            self.assertTrue({*tried} <= {*able} - {Action.HOLD} | {able[0]}, key)

    def test_a_return_that_is_too_low_is_raised(self) -> None:
        low = setup("camera-quad", Action.RETURN)
        low = replace(low, plan=replace(low.plan, rth_altitude_m=10))
        words = [text for text, made in candidates(low, 29) if made.plan.rth_altitude_m == 29]
        self.assertEqual(words, ["Set the RTH altitude to 29 m"])

    def test_no_return_from_what_moves(self) -> None:
        boat = MEADOW.model_copy(update={"launch_platform": LaunchPlatform.MOVING})
        self.assertNotIn(
            Action.RETURN, [made.plan.action for _, made in candidates(setup("camera-quad", Action.HOVER, boat), 30)]
        )

    def test_a_moved_launch_point_is_farther_from_the_spectators(self) -> None:
        moved = [made for words, made in candidates(setup("camera-quad", Action.STOP), 30) if "launch point" in words]
        self.assertEqual(len(moved), 1)
        self.assertGreater(moved[0].site.launch.north_m, MEADOW.launch.north_m)
        self.assertEqual(moved[0].plan.home, moved[0].site.launch.xy)

    def test_the_area_of_a_setup_is_told_part_by_part(self) -> None:
        *parts, area = area_of(setup("camera-quad", Action.LAND))
        self.assertIsInstance(area, Area)
        self.assertGreater(len(parts), 2)
