"""Occasions: each brings its own checks, some follow by themselves."""

import unittest
from datetime import timedelta

from tests.core.round.test_plan import why
from tests.support import (
    NOW,
    SITE,
    planned_ids,
    situation,
    with_history,
)
from walkround.core.checklist.check import Occasion


class Occasions(unittest.TestCase):
    def test_each_brings_its_own_on_top_of_the_base_list(self) -> None:
        base = planned_ids(situation())
        rows = (
            (Occasion.CREW, {"field.crew_brief", "field.public_line", "first.count_down"}),
            (Occasion.CLUB_DAY, {"field.crew_brief", "field.public_line", "field.club_order", "first.count_down"}),
            (Occasion.OVER_WATER, {"field.water_plan", "first.grass_first", "after.wet"}),
            (Occasion.VIDEO, {"field.shots", "airframe.camera_tight", "airframe.filter", "power.exposure", "after.card_out"}),
            (Occasion.MAIDEN, {"field.landing_soft", "first.full_pack", "first.buddy", "first.by_eye"}),
            (Occasion.AFTER_PAUSE, {"first.rust", "bench.how_it_works"}),
            (Occasion.GUEST, {"first.handover"}),
        )  # fmt: skip
        for occasion, expected in rows:
            with self.subTest(occasion):
                case = situation(occasions=(occasion,))
                self.assertEqual(planned_ids(case) - base, expected)
                self.assertLessEqual(base, planned_ids(case))
                for check_id in expected:
                    self.assertEqual(why(case, check_id), f"Selected: {occasion}.")

    def test_some_follow_by_themselves(self) -> None:
        wet = situation(site=SITE.model_copy(update={"over_water": True}))
        self.assertEqual(why(wet, "field.water_plan"), "Test Meadow is beside water.")
        maiden = with_history(situation(), aircraft_flown=False)
        self.assertEqual(why(maiden, "first.by_eye"), "No flight of Quad is in the logbook.")
        rusty = with_history(situation(), pilot_last_flight_at=NOW - timedelta(days=100))
        self.assertEqual(why(rusty, "first.rust"), "100 days since your last flight.")
