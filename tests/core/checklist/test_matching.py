"""A list of a maker or a club, matched to our checks: in its own order, nothing lost, nothing matched that asks something else."""

import os
import subprocess
import sys
import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.support import QUAD, TRAINER, situation
from walkround.core.checklist.check import Station
from walkround.core.checklist.custom import CustomChecklist, belonging, checklist_of
from walkround.core.checklist.matching import Match, match, taken_as_list
from walkround.core.checklist.own_checks import steps_of

NOTHING = CustomChecklist()
CHECKS = checklist_of(NOTHING).checks


def ids(text: str) -> list[str]:
    """The checks that the lines of a text are matched to, "" where a line stays its own."""
    every = [check for aircraft in (QUAD, TRAINER) for check in belonging(NOTHING, aircraft)]
    return [found.check.id if found.check else "" for found in match(steps_of(text), every)]


class Matching(unittest.TestCase):
    def test_lines_as_clubs_write_them(self) -> None:
        """Written down as such lists read; common practice, no source."""
        for line, wanted in (
            ("Unfold arms, all latched", "airframe.arms"),
            ("Inspect propeller blades for nicks and cracks", "airframe.propellers"),
            ("Remove gimbal clamp", "airframe.covers_off"),
            ("Compass calibration", "sensors.compass"),
            ("Battery swelling or damage?", "pack.body"),
            ("Home point on the map", "sensors.home_point"),
            ("Check the RTH altitude", "link.rth_altitude"),
            ("Count the rubber bands", "airframe.bands"),
        ):
            self.assertEqual(ids(line), [wanted], line)

    def test_what_we_do_not_ask_stays_a_step(self) -> None:
        for line in (
            "Sign the club book at the hut",
            "Feed the donkey",
            "Put the frequency peg on the board",
            "Coffee",
        ):
            self.assertEqual(ids(line), [""], line)

    def test_no_check_is_given_twice(self) -> None:
        found = ids("Remove gimbal clamp\nRemove gimbal clamp and lens cover")
        self.assertEqual(found[0], "airframe.covers_off")
        self.assertNotEqual(found[0], found[1])

    @given(st.lists(st.sampled_from([check.title for check in CHECKS]), min_size=1, max_size=12, unique=True))
    def test_our_own_titles_find_themselves_and_every_line_is_kept(self, titles: list[str]) -> None:
        found = match(titles, CHECKS)
        self.assertEqual([one.line for one in found], titles)
        alone = [match([title], CHECKS)[0].check for title in titles]
        self.assertEqual([check.title for check in alone if check], titles)

    def test_in_whatever_order_words_are_kept(self) -> None:
        """Python orders a set anew at every start; 55 is a start at which sums over one used to fall short of a whole line."""
        told = (
            "from tests.core.checklist.test_matching import CHECKS, match\n"
            "print([c.title for c in CHECKS if (found := match([c.title], CHECKS)[0].check) and found.title != c.title])"
        )
        for seed in ("55", "1"):
            ran = subprocess.run(
                [sys.executable, "-c", told], env={**os.environ, "PYTHONHASHSEED": seed}, capture_output=True, text=True, check=True
            )  # fmt: skip
            self.assertEqual(ran.stdout.strip(), "[]", seed)


class WorkedIn(unittest.TestCase):
    def test_it_keeps_its_order_and_loses_nothing(self) -> None:
        case = situation()
        walking = belonging(NOTHING, case.aircraft)
        lines = (
            "Check the antennas",
            "Wipe the hull",
            "Unfold the arms until they latch",
            "Pick the pack by its label",
        )
        found = match(lines, walking)
        self.assertEqual([one.check is None for one in found], [False, True, False, False])
        mine = taken_as_list(NOTHING, found, walking, only_for=(), today=case.today())
        here = [check for check in belonging(mine, case.aircraft) if check.station is Station.AIRFRAME]
        self.assertEqual(
            [check.title for check in here[:3]],
            ["Check the antennas", "Wipe the hull", "Unfold the arms until they latch"],
        )
        before = {check.id for check in checklist_of(NOTHING).checks}
        self.assertLessEqual(before, {check.id for check in checklist_of(mine).checks})
        self.assertEqual(mine.revision, NOTHING.revision + 1)

    def test_a_list_we_know_nothing_of(self) -> None:
        case = situation()
        mine = taken_as_list(NOTHING, [Match("Feed the donkey", None)], CHECKS, only_for=(3,), today=case.today())
        self.assertEqual(
            [(c.title, c.station, c.only_for) for c in mine.added], [("Feed the donkey", Station.AIRFRAME, (3,))]
        )
