"""The settings of a failsafe: what contradicts itself grounds, what is not known is never clear, and the arithmetic of a held position."""

import re
import unittest
from datetime import UTC, datetime

from hypothesis import given
from hypothesis import strategies as st

from tests.support import PACK, PLAIN_PACK, said, variants
from walkround.core.aircraft.failsafe import Action, Controls, Failsafe, LowBattery
from walkround.core.aircraft.presets import PRESETS
from walkround.core.base.finding import Level, worst
from walkround.core.base.struct import default_of
from walkround.core.base.units import MILE_M
from walkround.core.flight.estimate import endurance
from walkround.core.flight.power import usual_cruise_ms
from walkround.core.lost_link.bodies import hold_minutes
from walkround.core.lost_link.failsafe_rules import judge_hold, judge_settings, last_read_words

QUAD, TRAINER, GLIDER = PRESETS["camera-quad"], PRESETS["foam-trainer"], PRESETS["glider"]
WHOLE = Failsafe(
    action=Action.RETURN, delay_s=1.5, confirm_s=0, low=LowBattery.RETURN, low_percent=20, rth_altitude_m=40
)


def level(settings: Failsafe, aircraft=QUAD) -> Level:  # type: ignore[no-untyped-def]
    return worst(judge_settings(aircraft, settings))


class Settings(unittest.TestCase):
    def test_each_setting(self) -> None:
        cut = Failsafe(action=Action.CIRCLE, delay_s=1, throttle_percent=0, controls=Controls.TURN)
        rows = (
            (Level.CLEAR, WHOLE, QUAD),
            (Level.CAUTION, WHOLE.model_copy(update={"delay_s": None}), QUAD),
            (Level.CAUTION, WHOLE.model_copy(update={"delay_s": 12.0}), QUAD),
            (Level.CAUTION, WHOLE.model_copy(update={"confirm_s": None}), QUAD),
            (Level.CAUTION, WHOLE.model_copy(update={"confirm_s": 6.0}), QUAD),
            (Level.CAUTION, WHOLE.model_copy(update={"low": LowBattery.UNKNOWN}), QUAD),
            (Level.GROUNDED, WHOLE.model_copy(update={"controls": Controls.HELD}), QUAD),
            (Level.CLEAR, cut, TRAINER),
            (Level.GROUNDED, cut.model_copy(update={"throttle_percent": 40.0}), TRAINER),
        )
        for expected, settings, aircraft in rows:
            self.assertIs(level(settings, aircraft), expected, settings)

    def test_nothing_known_is_never_clear(self) -> None:
        for aircraft in variants():
            self.assertGreaterEqual(level(Failsafe(), aircraft), Level.CAUTION, aircraft.name)

    @given(st.sampled_from(["delay_s", "confirm_s", "low"]))
    def test_forgetting_a_setting_never_reads_better(self, name: str) -> None:
        default = default_of(Failsafe, name)
        self.assertGreaterEqual(level(WHOLE.model_copy(update={name: default})), level(WHOLE))

    def test_when_it_was_read(self) -> None:
        at = datetime(2026, 5, 3, 9, tzinfo=UTC)
        read = WHOLE.model_copy(update={"read_at": at, "read_by": "transmitter", "read_site": "Old Mill"})
        self.assertEqual(last_read_words(read, "Old Mill", at), "Last read in the transmitter on 3 May 2026.")
        self.assertEqual(
            last_read_words(read, "Meadow", at), "Last read in the transmitter on 3 May 2026 at Old Mill, not here yet."
        )
        self.assertEqual(last_read_words(None, "Meadow", None), "Never read, according to your records.")


class Held(unittest.TestCase):
    def test_it_grounds_with_minutes_and_distance(self) -> None:
        """15 to 20 minutes and miles at half throttle: common practice, no source. The words say minutes times speed."""
        known = endurance(TRAINER, PLAIN_PACK)
        (finding,) = judge_hold(TRAINER, known, 100, 3.0)
        self.assertIs(finding.level, Level.GROUNDED)
        minutes = hold_minutes(TRAINER, known, None)
        far_m = 60 * minutes * (usual_cruise_ms(TRAINER) + 3)
        self.assertGreater(far_m, 3 * MILE_M)
        words = said(finding)
        self.assertIn(f"{far_m / 1000:.1f}", words)
        self.assertTrue(re.search(r"at 50.% throttle", words), words)

    def test_more_charge_wind_or_less_throttle_is_never_nearer(self) -> None:
        known = endurance(TRAINER, PLAIN_PACK)

        def far(charge: float, wind: float, throttle: float) -> float:
            (finding,) = judge_hold(TRAINER, known, charge, wind, throttle_percent=throttle)
            return finding.reason.numbers["far"].value

        self.assertLess(far(50, 3, 50), far(80, 3, 50))
        self.assertLess(far(50, 3, 50), far(50, 6, 50))
        self.assertLess(far(50, 3, 50), far(50, 3, 30))

    def test_a_glider_glides_straight_away(self) -> None:
        (finding,) = judge_hold(GLIDER, endurance(GLIDER, PACK), 100, 4.0, height_m=100)
        self.assertIs(finding.level, Level.GROUNDED)
        self.assertIn("glides straight on", said(finding))
        self.assertNotIn("motor", finding.remedy)
