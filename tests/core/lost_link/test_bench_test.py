"""The bench test: gates before anything runs, what kept on grounds, the measured delay against the setting."""

import unittest
from itertools import takewhile

from hypothesis import given
from hypothesis import strategies as st

from tests.support import NOW, said, variants
from walkround.core.aircraft.failsafe import Action, Failsafe
from walkround.core.aircraft.link_trials import BenchTest, Seen
from walkround.core.aircraft.presets import PRESETS
from walkround.core.aircraft.traits import Power, Trait
from walkround.core.base.finding import Level, worst
from walkround.core.checklist.library import CHECKS
from walkround.core.lost_link.bench_test import LONGEST_S, check_of, judge_test, options, steps, watch_s

QUAD = PRESETS["camera-quad"]
RACER = PRESETS["race-quad"]
SET = Failsafe(action=Action.STOP, delay_s=1.0)


def level(
    seen: Seen, after: float | None = None, beeper: bool | None = None, settings: Failsafe | None = SET, aircraft=RACER
) -> Level:  # type: ignore[no-untyped-def]
    return worst(judge_test(BenchTest(at=NOW, seen=seen, after_s=after, beeper=beeper), aircraft, settings))


class Steps(unittest.TestCase):
    def test_nothing_runs_before_the_gates(self) -> None:
        """Propellers or blades off, engines cold: a gate, and it comes first; only a glider has nothing that turns."""
        for aircraft in variants():
            found = steps(aircraft, None)
            gates = list(takewhile(lambda step: step.gate, found))
            self.assertEqual(bool(gates), not aircraft.has(Trait.NO_MOTOR), aircraft.name)
            self.assertEqual(len(gates), sum(step.gate for step in found))
            if gates:
                self.assertTrue(gates[0].caution, "the caution is at the act")
                words = gates[0].words + gates[0].caution
                self.assertRegex(
                    words, "propeller is off|blade is off" if aircraft.power is Power.ELECTRIC else "plug is off"
                )
            self.assertEqual([s.asks for s in found if s.asks != "done"], ["off", "seen"])

    def test_the_check_it_answers_belongs_to_the_aircraft(self) -> None:
        by_id = {check.id: check for check in CHECKS}
        for aircraft in variants():
            self.assertTrue(by_id[check_of(aircraft)].applies.fits(aircraft), aircraft.name)
            self.assertTrue(
                any(seen.acted for seen in options(aircraft)) and any(not seen.acted for seen in options(aircraft))
            )

    def test_it_is_watched_longer_than_the_delay(self) -> None:
        for delay in (0.0, 0.5, 3.0, 20.0):
            self.assertGreater(watch_s(Failsafe(delay_s=delay)), delay)
        self.assertEqual(watch_s(None), watch_s(Failsafe()))


class Judged(unittest.TestCase):
    def test_what_was_seen(self) -> None:
        rows = (
            (Level.CLEAR, Seen.STOPPED, 1.2, True, SET),
            (Level.CLEAR, Seen.ACTED, 1.9, None, SET),
            (Level.GROUNDED, Seen.KEPT_ON, None, True, SET),
            (Level.GROUNDED, Seen.NOTHING, None, None, SET),
            (Level.CAUTION, Seen.STOPPED, 5.0, True, SET),
            (Level.CAUTION, Seen.STOPPED, 1.0, False, SET),
            (Level.CLEAR, Seen.STOPPED, 1.0, None, None),
            (Level.CAUTION, Seen.STOPPED, LONGEST_S + 1, None, None),
        )
        for expected, seen, after, beeper, settings in rows:
            self.assertIs(level(seen, after, beeper, settings), expected, (seen, after, beeper))

    @given(st.sampled_from(list(Seen)), st.floats(0, 100), st.booleans(), st.floats(0, 60))
    def test_what_kept_on_always_grounds(self, seen: Seen, after: float, beeper: bool, delay: float) -> None:
        found = level(seen, after, beeper, Failsafe(delay_s=delay))
        self.assertEqual(found is Level.GROUNDED, seen not in (Seen.STOPPED, Seen.ACTED))

    def test_a_silent_beeper_counts_only_where_there_is_one(self) -> None:
        self.assertIs(level(Seen.STOPPED, 1.0, False, SET, QUAD), Level.CLEAR)
        self.assertIn(
            "stayed silent",
            " ".join(said(f) for f in judge_test(BenchTest(at=NOW, seen=Seen.STOPPED, beeper=False), RACER, SET)),
        )
