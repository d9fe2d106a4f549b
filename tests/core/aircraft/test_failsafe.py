"""What a failsafe can be set to, by aircraft; settings that cannot be."""

import unittest

from pydantic import ValidationError

from tests.support import variants
from walkround.core.aircraft.failsafe import Action, Failsafe, LowBattery, actions
from walkround.core.aircraft.presets import PRESETS
from walkround.core.aircraft.traits import Trait
from walkround.core.base.errors import InputError


class Actions(unittest.TestCase):
    def test_by_what_the_aircraft_has(self) -> None:
        """Common practice, no source."""
        rows = (
            ("camera-quad", Action.RETURN, {Action.HOVER, Action.LAND, Action.STOP}, {Action.CIRCLE, Action.BRAKES}),
            ("race-quad", Action.STOP, {Action.LAND}, {Action.RETURN, Action.HOVER}),
            ("foam-trainer", Action.CIRCLE, {Action.GLIDE}, {Action.RETURN, Action.HOVER, Action.BRAKES}),
            ("low-wing", Action.CIRCLE, {Action.GLIDE}, {Action.LAND}),
            ("glider", Action.BRAKES, {Action.CIRCLE}, {Action.STOP, Action.RETURN}),
            ("heli-single", Action.STOP, set(), {Action.CIRCLE, Action.RETURN}),
        )
        for key, first, among, never in rows:
            found = actions(PRESETS[key].kind, PRESETS[key].features())
            self.assertIs(found[0], first, key)
            self.assertTrue(among <= {*found} and not never & {*found}, key)

    def test_holding_can_be_recorded_everywhere_and_returning_only_with_rth(self) -> None:
        for aircraft in variants():
            found = actions(aircraft.kind, aircraft.features())
            self.assertIs(found[-1], Action.HOLD)
            self.assertEqual(len(found), len({*found}))
            self.assertEqual(Action.RETURN in found, aircraft.has(Trait.RETURN_HOME, Trait.MOTOR), aircraft.name)


class Settings(unittest.TestCase):
    def test_what_cannot_be_is_refused(self) -> None:
        for wrong in (
            {"delay_s": -1},
            {"delay_s": 61},
            {"rth_altitude_m": 0},
            {"throttle_percent": 101},
            {"confirm_s": -2},
            {"low_percent": 120},
        ):
            with self.assertRaises(ValidationError, msg=str(wrong)):
                Failsafe(**wrong)
        with self.assertRaises(InputError):
            Failsafe(low_percent=20)
        self.assertEqual(Failsafe(low_percent=20, low=LowBattery.WARN).low_percent, 20)

    def test_it_is_kept_whole(self) -> None:
        full = Failsafe(action=Action.RETURN, delay_s=1.5, rth_altitude_m=40)
        self.assertEqual(Failsafe.model_validate(full.model_dump(mode="json")), full)
