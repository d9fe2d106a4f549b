"""Damage by rule: rows of the trade, nothing lighter for more, a doubt that grounds where it turns or carries."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from walkround.core.aircraft.flaws import Bears, Damage, Material, Place, Tolerance
from walkround.core.aircraft.presets import PRESETS
from walkround.core.base.finding import Level
from walkround.core.inspection.damage import (
    STRICT,
    Verdict,
    damage_finding,
    damage_words,
    fixed_before,
    rule,
    same_fixes,
)
from walkround.core.inspection.touched import damageable

PLACES = st.none() | st.sampled_from(list(Place))
MATERIALS = st.none() | st.sampled_from(list(Material))


class Rows(unittest.TestCase):
    def test_rows_of_the_trade(self) -> None:
        """Common practice, no source."""
        rows = (
            (Bears.ROTATES, Damage.CRACK, Place.ROOT, Material.PLASTIC, Verdict.REPLACE),
            (Bears.ROTATES, Damage.WHITE, Place.MIDDLE, Material.PLASTIC, Verdict.REPLACE),
            (Bears.ROTATES, Damage.NICK, Place.EDGE, Material.PLASTIC, Verdict.REPLACE),
            (Bears.ROTATES, Damage.CHIP, Place.TIP, Material.WOOD, Verdict.REPLACE),
            (Bears.ROTATES, Damage.MISSING, Place.LUG, Material.PLASTIC, Verdict.REPLACE),
            (Bears.ROTATES, Damage.DIRT, Place.EDGE, None, Verdict.CLEAN),
            (Bears.DRIVES, Damage.PLAY, None, Material.METAL, Verdict.REPLACE),
            (Bears.DRIVES, Damage.DIRT, None, None, Verdict.CLEAN),
            (Bears.DRIVES, Damage.HEAT, None, None, Verdict.GROUNDS),
            (Bears.CARRIES, Damage.CRACK, Place.MIDDLE, Material.FOAM, Verdict.GROUNDS),
            (Bears.CARRIES, Damage.NICK, Place.EDGE, Material.FOAM, Verdict.FIX),
            (Bears.CARRIES, Damage.NICK, Place.ROOT, Material.FOAM, Verdict.GROUNDS),
            (Bears.CARRIES, Damage.DELAMINATED, Place.MIDDLE, Material.CARBON, Verdict.GROUNDS),
            (Bears.CARRIES, Damage.LOOSE, None, None, Verdict.FIX),
            (Bears.HOLDS, Damage.WORN, None, Material.RUBBER, Verdict.REPLACE),
            (Bears.CONDUCTS, Damage.HEAT, None, None, Verdict.GROUNDS),
            (Bears.COVERS, Damage.CHAFE, Place.MIDDLE, Material.PLASTIC, Verdict.FLIES),
            (Bears.COVERS, Damage.CHAFE, Place.LUG, Material.PLASTIC, Verdict.FIX),
            (Bears.STANDS, Damage.BEND, None, Material.METAL, Verdict.FIX),
        )
        for does, damage, place, material, expected in rows:
            self.assertIs(rule(does, damage, place, material).verdict, expected, (does, damage, place))


class Properties(unittest.TestCase):
    @given(st.sampled_from(list(Bears)), st.sampled_from(list(Damage)), PLACES, MATERIALS)
    def test_what_turns_or_carries_never_just_flies(
        self, does: Bears, damage: Damage, place: Place | None, material: Material | None
    ) -> None:
        found = rule(does, damage, place, material)
        if does in STRICT:
            self.assertIsNot(found.verdict, Verdict.FLIES)
            self.assertIs(damage_finding(found).level, Level.GROUNDED)
        self.assertEqual(damage_finding(found).level is Level.GROUNDED, found.grounds)
        self.assertGreater(damage_finding(found).level, Level.CLEAR, "damage is never clear")
        self.assertTrue(found.reason and found.after)

    @given(st.sampled_from([Bears.ROTATES, Bears.CARRIES, Bears.DRIVES, Bears.HOLDS]), PLACES, MATERIALS)
    def test_a_doubt_is_as_strict_as_anything(
        self, does: Bears, place: Place | None, material: Material | None
    ) -> None:
        doubt = rule(does, Damage.UNSURE, place, material).verdict
        self.assertTrue(all(doubt >= rule(does, damage, place, material).verdict for damage in Damage))

    @given(
        st.sampled_from(list(Bears)),
        st.sampled_from(list(Damage)),
        st.sampled_from(list(Place)),
        st.sampled_from(list(Material)),
    )
    def test_knowing_less_is_never_lighter(self, does: Bears, damage: Damage, place: Place, material: Material) -> None:
        known = rule(does, damage, place, material).verdict
        for less in (rule(does, damage), rule(does, damage, place), rule(does, damage, None, material)):
            self.assertGreaterEqual(less.verdict, known)

    @given(st.sampled_from(list(Bears)), st.sampled_from(list(Damage)), PLACES, MATERIALS, st.integers(0, 9))
    def test_fixed_before_is_never_lighter(
        self, does: Bears, damage: Damage, place: Place | None, material: Material | None, fixes: int
    ) -> None:
        first = rule(does, damage, place, material)
        again = fixed_before(first, fixes)
        self.assertGreaterEqual(again.verdict, first.verdict)
        if fixes:
            self.assertIsNot(again.verdict, Verdict.FIX, "what did not hold is not fixed once more")
        else:
            self.assertEqual(again, first)

    @given(st.sampled_from(list(Bears)), st.sampled_from(list(Damage)), MATERIALS)
    def test_at_a_joint_never_lighter_than_elsewhere(
        self, does: Bears, damage: Damage, material: Material | None
    ) -> None:
        for joint in (Place.ROOT, Place.LUG):
            self.assertTrue(
                all(
                    rule(does, damage, joint, material).verdict >= rule(does, damage, other, material).verdict
                    for other in Place
                )
            )


class ByTheMaker(unittest.TestCase):
    """A tolerance holds for exactly what the maker says, and names the page."""

    ALLOWED = Tolerance(
        does=Bears.ROTATES,
        damage=Damage.NICK,
        place=Place.TIP,
        words="a nick of up to 1 mm at the tip",
        source="Manual, page 12",
    )

    @given(st.sampled_from(list(Bears)), st.sampled_from(list(Damage)), PLACES, MATERIALS)
    def test_nothing_else_gets_lighter(
        self, does: Bears, damage: Damage, place: Place | None, material: Material | None
    ) -> None:
        found, plain = rule(does, damage, place, material, (self.ALLOWED,)), rule(does, damage, place, material)
        if (does, damage, place) == (Bears.ROTATES, Damage.NICK, Place.TIP):
            self.assertIs(found.verdict, Verdict.FLIES)
            self.assertEqual(damage_finding(found).source, "Manual, page 12")
            self.assertIs(damage_finding(found).level, Level.CAUTION, "allowed is not undamaged")
        else:
            self.assertEqual(found, plain)


class Words(unittest.TestCase):
    def test_in_words(self) -> None:
        part = next(one for one in damageable(PRESETS["camera-quad"]) if one.id == "propeller-1/blade-1")
        self.assertRegex(damage_words(part, Damage.NICK, Place.EDGE), r"^[A-Z].* blade 1: nick or dent, edge$")

    def test_the_same_fix_is_known_by_its_words(self) -> None:
        arm = next(part for part in damageable(PRESETS["camera-quad"]) if part.id == "arm-1")
        loose = damage_words(arm, Damage.LOOSE, Place.LUG)
        titles = [loose, damage_words(arm, Damage.DIRT, None), "wobbles"]
        self.assertEqual(same_fixes(arm, Damage.LOOSE, titles), 2, "and the pilot's own words may be the same")
        self.assertEqual(same_fixes(arm, Damage.CRACK, titles), 1)
