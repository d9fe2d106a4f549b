"""The rules for hurt, hot, cold, empty and overfull packs: against published cell data, and every place that tells them."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.core.packs.cell_sets import cut_offs
from tests.support import said
from walkround.core.packs import lithium
from walkround.core.packs.chemistry import CELLS, Chemistry, is_lithium
from walkround.core.packs.inspection import INSPECTION_POINTS, Severity
from walkround.core.packs.lithium import hurt_below_v, overcharged_above_v, why_not_charged

LITHIUM = [c for c in Chemistry if is_lithium(c)]
VOLTS = st.one_of(st.none(), st.floats(0.5, 5))


class Voltages(unittest.TestCase):
    def test_published_limits_of_the_cells(self) -> None:
        """Charge and discharge limits of type sheets: LiPo and Li-ion 4.20 V, high-voltage LiPo 4.35 V, LiFePO4 3.65 V; lower
        2.5 to 3.0 V and 2.0 V (from memory of common type sheets; IEC 61960 names the charging method)."""
        rows = (
            (Chemistry.LIPO, 4.20, 3.0),
            (Chemistry.LIHV, 4.35, 3.0),
            (Chemistry.LIION, 4.20, 2.5),
            (Chemistry.LIFE, 3.65, 2.0),
        )
        for chemistry, full_v, least_v in rows:
            with self.subTest(chemistry):
                self.assertEqual(CELLS[chemistry].charge_to_v, full_v)
                self.assertAlmostEqual(overcharged_above_v(chemistry), full_v + 0.03)
                self.assertEqual(hurt_below_v(chemistry), least_v)

    def test_published_cells_inside_their_own_limits_are_refused_nothing(self) -> None:
        """Cells of published parameter sets (Chen 2020, Li-ion; Ai 2019, LiPo pouch; Prada 2013, LiFePO4) at their cut-offs."""
        for name, chemistry in (
            ("Chen2020", Chemistry.LIION),
            ("Ai2020", Chemistry.LIPO),
            ("Prada2013", Chemistry.LIFE),
        ):
            low_v, high_v = cut_offs(name)
            with self.subTest(name):
                self.assertLessEqual(hurt_below_v(chemistry), low_v)
                self.assertLessEqual(high_v, overcharged_above_v(chemistry))
                self.assertIsNone(why_not_charged(chemistry, weakest_v=low_v, highest_v=high_v, felt_c=20))


class Charging(unittest.TestCase):
    def why(self, chemistry: Chemistry = Chemistry.LIPO, low: float | None = 3.8, high: float | None = 3.8,
            felt: float | None = None) -> tuple[str, str]:  # fmt: skip
        against = why_not_charged(chemistry, weakest_v=low, highest_v=high, felt_c=felt)
        return ("", "") if against is None else (said(against[0]), against[1])

    def test_each_reason_and_its_edge(self) -> None:
        rows = (
            ({}, ""), ({"low": 3.0}, ""), ({"high": 4.23}, ""), ({"felt": 5.0}, ""), ({"felt": 45.0}, ""), ({"low": None, "high": None}, ""),
            ({"low": 2.99}, "A cell is at 2.99 V: too low, the cell is probably damaged."),
            ({"high": 4.24}, "A cell is at 4.24 V: overcharged."),
            ({"felt": 4.0}, "At 4 °C it is too cold to charge (min 5 °C)."),
            ({"felt": 46.0}, "At 46 °C it is too hot to charge (max 45 °C)."),
        )  # fmt: skip
        for changes, words in rows:
            with self.subTest(changes):
                self.assertEqual(self.why(**changes)[0], words)  # type: ignore[arg-type]

    def test_what_to_do_instead(self) -> None:
        self.assertEqual(self.why(low=2.0)[1], lithium.TOO_LOW)
        self.assertEqual(self.why(high=4.4)[1], lithium.OVERCHARGED)
        self.assertEqual(self.why(low=2.0, high=4.4)[1], lithium.TOO_LOW, "the lower cell burns first")
        self.assertIn("room temperature", self.why(felt=-3)[1])
        self.assertIn("cool", self.why(felt=50)[1])

    @given(VOLTS, VOLTS, st.one_of(st.none(), st.floats(-20, 80)))
    def test_nickel_is_never_refused_for_what_hurts_lithium(
        self, low: float | None, high: float | None, felt: float | None
    ) -> None:
        self.assertIsNone(why_not_charged(Chemistry.NIMH, weakest_v=low, highest_v=high, felt_c=felt))

    @given(st.sampled_from(LITHIUM), st.floats(1.5, 4.2), st.floats(0, 1))
    def test_emptier_is_never_safer(self, chemistry: Chemistry, low: float, less: float) -> None:
        worse = why_not_charged(chemistry, weakest_v=low - less, highest_v=None, felt_c=None)
        better = why_not_charged(chemistry, weakest_v=low, highest_v=None, felt_c=None)
        self.assertFalse(worse is None and better is not None)


class Told(unittest.TestCase):
    def test_one_text_for_one_rule(self) -> None:
        """A crash or heat sets aside, what is torn or swollen is out for good: nowhere the other way round."""
        by_id = {look.id: look for look in INSPECTION_POINTS}
        for look in ("crash", "heat"):
            self.assertEqual((by_id[look].severity, by_id[look].remedy), (Severity.QUARANTINED, lithium.SET_ASIDE))
        for look in ("swelling", "smell", "puncture"):
            self.assertEqual(by_id[look].severity, Severity.CONDEMNED)

    def test_what_hurts_is_said(self) -> None:
        for text in (lithium.NEVER_AGAIN, lithium.TOO_LOW, lithium.OVERCHARGED):
            self.assertIn("not charge it", text)
            self.assertIn("utdoors", text)
        self.assertIn("smoke is poisonous", lithium.FIRE)
        self.assertIn("Never charge unattended.", lithium.CHARGE_ATTENDED)
