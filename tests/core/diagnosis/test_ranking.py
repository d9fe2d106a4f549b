"""Causes of odd behaviour: forty cases, what may never be named, evidence that never lowers its cause."""

import unittest

from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.core.diagnosis.cases import FIRST_TWENTY, GLIDER, HELI, QUAD, RACER, SECOND_TWENTY, WING
from walkround.core.aircraft.traits import Kind
from walkround.core.checklist.library import CHECKS
from walkround.core.diagnosis.ranking import FIRST_GUESS, MOST, TESTS, cheapest_first, rank, two_changes
from walkround.core.diagnosis.symptoms import Cause, Symptom

SYMPTOMS = st.lists(st.sampled_from(list(Symptom)), min_size=1, max_size=4, unique=True)
BASES = st.sampled_from([QUAD, RACER, WING, HELI, GLIDER])


class Cases(unittest.TestCase):
    def test_the_cause_ranks_among_the_first_two(self) -> None:
        for symptoms, facts, cause in (*FIRST_TWENTY, *SECOND_TWENTY):
            with self.subTest(symptoms=[s.value for s in symptoms], cause=cause.value):
                self.assertIn(cause, [one.cause for one in rank(symptoms, facts)[:2]])

    def test_there_are_forty(self) -> None:
        self.assertEqual((len(FIRST_TWENTY), len(SECOND_TWENTY)), (20, 20))
        self.assertEqual({s for symptoms, _, _ in (*FIRST_TWENTY, *SECOND_TWENTY) for s in symptoms}, {*Symptom})


class Ranking(unittest.TestCase):
    @given(SYMPTOMS, BASES)
    def test_nothing_is_named_that_the_aircraft_has_not(self, symptoms: list[Symptom], facts) -> None:  # type: ignore[no-untyped-def]
        found = {one.cause for one in rank(symptoms, facts)}
        self.assertTrue(found)
        self.assertLessEqual(len(found), MOST)
        if not facts.compass:
            self.assertFalse(found & {Cause.COMPASS, Cause.IRON})
        if not facts.rotors:
            self.assertFalse(found & {Cause.PROPELLER, Cause.MOTOR})
        if facts.kind is not Kind.HELICOPTER:
            self.assertNotIn(Cause.HEAD, found)

    @given(SYMPTOMS, st.floats(0.3, 0.74))
    def test_a_pack_that_is_worse_never_ranks_lower(self, symptoms: list[Symptom], health: float) -> None:
        def place(facts) -> int:  # type: ignore[no-untyped-def]
            causes = [one.cause for one in rank(symptoms, facts)]
            return causes.index(Cause.PACK_AGED) if Cause.PACK_AGED in causes else MOST

        self.assertLessEqual(place(replace(QUAD, pack_health=health)), place(QUAD))

    @given(SYMPTOMS, BASES)
    def test_every_cause_has_evidence_or_is_a_first_guess_and_a_test(self, symptoms: list[Symptom], facts) -> None:  # type: ignore[no-untyped-def]
        for one in rank(symptoms, facts):
            self.assertTrue(any(one.cause in FIRST_GUESS[symptom] for symptom in symptoms))
            self.assertIs(TESTS[one.cause], one.test)

    def test_the_tests_are_checks_of_the_library(self) -> None:
        known = {check.id for check in CHECKS}
        self.assertEqual({check for test in TESTS.values() for check in test.check_ids} - known, set())
        self.assertEqual({*TESTS}, {*Cause})

    def test_the_cheapest_test_comes_first(self) -> None:
        found = rank((Symptom.CIRCLES,), replace(QUAD, compass_days=3, iron_m=10.0))
        self.assertEqual({o.cause for o in cheapest_first(found)}, {o.cause for o in found})
        self.assertIs(cheapest_first(found)[0].cause, Cause.IRON, "one minute against four")

    def test_two_changes_at_once_are_said(self) -> None:
        self.assertEqual(two_changes(replace(QUAD, new_parts=("motor",))), "")
        self.assertIn("new motor and firmware", two_changes(replace(QUAD, new_parts=("motor",), firmware_days=2)))
