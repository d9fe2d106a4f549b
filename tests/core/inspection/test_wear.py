"""How long parts last: rows with their sources, older never lighter, a new part at zero, an unknown age never clear and never taken for its limit."""

import unittest
from datetime import timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests.support import NOW, said, variants
from walkround.core.aircraft.flaws import Life
from walkround.core.aircraft.presets import PRESETS
from walkround.core.base.finding import Level
from walkround.core.inspection.damage import STRICT
from walkround.core.inspection.touched import touched_part, touched_parts
from walkround.core.inspection.wear import LIVES, NEAR, Counted, PartAge, judge_life, limit_of, worn_parts

QUAD, TRAINER, RACER = PRESETS["camera-quad"], PRESETS["foam-trainer"], PRESETS["race-quad"]
BLADE = touched_part(QUAD, "propeller-1/blade-1")
assert BLADE is not None
AGES = st.builds(
    PartAge,
    since=st.just(NOW - timedelta(days=1)) | st.none(),
    flights=st.integers(0, 900),
    minutes=st.floats(0, 30_000),
    hard_landings=st.integers(0, 9),
    uses=st.integers(0, 30),
)


class Rows(unittest.TestCase):
    def test_rules_with_their_sources(self) -> None:
        self.assertEqual(len({rule.name for rule in LIVES}), len(LIVES))
        for rule in LIVES:
            self.assertTrue(rule.source and rule.limit > 0)
            self.assertTrue(
                any(rule.fits(p, a) for a in (*variants(), *PRESETS.values()) for p in touched_parts(a)), rule.name
            )

    def level(self, aircraft, part_id: str, **age: object) -> Level | None:  # type: ignore[no-untyped-def]
        part = touched_part(aircraft, part_id)
        assert part is not None, part_id
        found = worn_parts(aircraft, (part,), {part_id: PartAge(**({"since": NOW - timedelta(days=3)} | age))}, NOW)  # type: ignore[arg-type]
        return found[0].level if found else None

    def test_propellers_nuts_bands_bearings(self) -> None:
        """The numbers are our choice."""
        for aircraft, part_id, age, expected in (
            (QUAD, "propeller-1/blade-1", {"flights": 100}, None),
            (QUAD, "propeller-1/blade-1", {"flights": 170}, Level.CAUTION),
            (QUAD, "propeller-1/blade-1", {"flights": 200}, Level.GROUNDED),
            (RACER, "propeller-1/nut", {"uses": 5}, Level.GROUNDED),
            (RACER, "propeller-1/nut", {"uses": 3}, None),
            (TRAINER, "wing-joint", {"since": NOW - timedelta(days=200)}, Level.GROUNDED),
            (TRAINER, "wing-joint", {"flights": 21}, Level.GROUNDED),
            (QUAD, "motor-1", {"minutes": 50 * 60.0}, Level.GROUNDED),
            (TRAINER, "rudder/clevis", {"hard_landings": 2}, Level.GROUNDED),
        ):
            self.assertEqual(self.level(aircraft, part_id, **age), expected, (part_id, age))

    def test_in_words(self) -> None:
        found = worn_parts(QUAD, (BLADE,), {BLADE.id: PartAge(since=NOW, flights=212)}, NOW)[0]
        self.assertEqual(found.words(), "Front right propeller: 212 of 200 flights")
        self.assertEqual(said(found.finding()), "Front right propeller: 212 of 200 flights.")
        self.assertEqual(found.finding().source, "our choice")

    def test_the_pilots_own_number_counts(self) -> None:
        mine = QUAD.model_copy(update={"lives": (Life(rule="propeller-flights", limit=50),)})
        found = worn_parts(mine, (BLADE,), {BLADE.id: PartAge(since=NOW, flights=60)}, NOW)
        self.assertIs(found[0].level, Level.GROUNDED)
        self.assertEqual(found[0].finding().source, "the pilot's own limit")
        self.assertEqual(limit_of(LIVES[0], ()), LIVES[0].limit)


class Properties(unittest.TestCase):
    @given(AGES, st.sampled_from(list(Counted)), st.integers(1, 500))
    def test_older_is_never_lighter(self, age: PartAge, counted: Counted, more: int) -> None:
        from msgspec.structs import replace

        older = replace(
            age,
            flights=age.flights + more,
            minutes=age.minutes + more,
            hard_landings=age.hard_landings + more,
            uses=age.uses + more,
        )
        for aircraft in (QUAD, TRAINER, RACER):
            parts = touched_parts(aircraft)
            now = {w.part.id: w.level for w in worn_parts(aircraft, parts, {p.id: age for p in parts}, NOW)}
            then = {w.part.id: w.level for w in worn_parts(aircraft, parts, {p.id: older for p in parts}, NOW)}
            for part_id, level in now.items():
                self.assertGreaterEqual(then[part_id], level, part_id)

    def test_a_new_part_is_at_zero(self) -> None:
        for aircraft in variants():
            parts = touched_parts(aircraft)
            self.assertEqual(worn_parts(aircraft, parts, {p.id: PartAge(since=NOW) for p in parts}, NOW), ())

    @given(st.floats(0.1, 1e5), st.floats(0.1, 1e5))
    def test_past_it_what_turns_or_carries_stays_down(self, behind: float, limit: float) -> None:
        assert BLADE is not None
        for part in touched_parts(TRAINER):
            found = judge_life(part, LIVES[0], behind, limit)
            if behind >= limit:
                assert found is not None
                self.assertEqual(found.level is Level.GROUNDED, part.does in STRICT)
            elif behind < NEAR * limit:
                self.assertIsNone(found)
            unknown = judge_life(part, LIVES[0], behind, limit, known=False)
            self.assertTrue(unknown is None or unknown.level is Level.CAUTION, "the most it can be is not what it is")
            if unknown is not None:
                self.assertIn("age not known", unknown.words())
