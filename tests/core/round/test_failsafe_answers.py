"""Answers and actions: each option of the checks stands for what the aircraft can do, and back again."""

import unittest

from tests.support import variants
from walkround.core.aircraft.failsafe import Action, actions
from walkround.core.answers.choice import AskChoice
from walkround.core.checklist.library import CHECKS
from walkround.core.round.failsafe_answers import ANSWERS, action_of

BY_ID = {check.id: check for check in CHECKS}


class Answers(unittest.TestCase):
    def test_every_action_of_an_aircraft_has_its_option_and_comes_back(self) -> None:
        met = 0
        for aircraft in variants():
            for check_id, options in ANSWERS.items():
                check = BY_ID[check_id]
                if not check.applies.fits(aircraft):
                    continue
                assert isinstance(check.ask, AskChoice)
                known = {option.id for option in check.ask.options}
                for action in actions(aircraft.kind, aircraft.features()):
                    self.assertIn(options.get(action), known, (aircraft.name, action))
                    as_set = aircraft.model_copy(update={"failsafe": {"action": action}})
                    as_set = type(aircraft).model_validate(as_set.model_dump())
                    self.assertIs(action_of(check_id, options[action], as_set), action, (aircraft.name, action))
                    met += 1
        self.assertGreater(met, 50)

    def test_what_is_not_known_stands_for_nothing(self) -> None:
        aircraft = variants()[0]
        for check_id in ANSWERS:
            for option in ("unknown", "unset"):
                self.assertIsNone(action_of(check_id, option, aircraft))

    def test_an_option_of_two_is_what_the_aircraft_can(self) -> None:
        from walkround.core.aircraft.presets import PRESETS

        self.assertIs(action_of("link.lost_action_wing", "home", PRESETS["foam-trainer"]), Action.LOITER)
