"""Packs: numbers of the practice, properties, and every way to mistype a reading."""

import unittest

from hypothesis import assume, given
from hypothesis import strategies as st

from tests.support import NOW, PACK, said
from walkround.core.base.finding import Level
from walkround.core.packs import bands, chemistry, lithium
from walkround.core.packs.bands import judge_cells
from walkround.core.packs.chemistry import Chemistry
from walkround.core.packs.reading import CellReading, Reading

FULL = {"planned_percent": 33.3, "second_hop": False}


def read(*cells_v: float) -> CellReading:
    return CellReading(cells_v=cells_v, total_v=round(sum(cells_v), 3))


class PracticeNumbers(unittest.TestCase):
    """Source of every row: numbers of the trade (12.4 V, 12.0 V, 0.02 V, 4.00 V a cell); common practice, no source.
    0.05 and 0.10 V are our choice."""

    def test_cells(self) -> None:
        rows = (
            ("spread just good", (4.20, 4.18, 4.19), Level.CLEAR, Level.CLEAR, Level.CLEAR),
            ("one lags", (4.20, 4.15, 4.19), Level.CAUTION, Level.CLEAR, Level.CLEAR),
            ("lags well", (4.20, 4.12, 4.19), Level.CAUTION, Level.CLEAR, Level.CAUTION),
            ("exactly a tenth", (4.20, 4.10, 4.20), Level.CAUTION, Level.CLEAR, Level.CAUTION),
            ("is far below the others: imbalance", (4.20, 4.09, 4.20), Level.GROUNDED, Level.CLEAR, Level.CAUTION),
            ("below four volts", (4.16, 3.98, 4.16), Level.GROUNDED, Level.GROUNDED, Level.GROUNDED),
            ("just under full", (4.10, 4.10, 4.10), Level.CLEAR, Level.CLEAR, Level.CAUTION),
            ("at four volts", (4.00, 4.00, 4.00), Level.CLEAR, Level.CLEAR, Level.CAUTION),
        )
        for name, cells, spread, weakest, charge in rows:
            with self.subTest(name):
                found = judge_cells(read(*cells), PACK, "full", **FULL)
                self.assertEqual([f.name for f in found], ["Imbalance", "Weakest cell", "Charge"])
                self.assertEqual([f.level for f in found], [spread, weakest, charge])

    def test_the_lagging_cell_is_named_and_balance_charge_is_the_remedy(self) -> None:
        spread = judge_cells(read(4.20, 4.15, 4.19), PACK, "full", **FULL)[0]
        self.assertEqual(said(spread), "Cell 2 lags: the cells differ by 0.05 V (aim for 0.02 V or less).")
        self.assertIn("Balance charge", spread.remedy)
        self.assertAlmostEqual(spread.margin or 0, -1.5)

    def test_totals_by_volts(self) -> None:
        rows = (
            ("flies at 12.4", 12.40, False, Level.CLEAR),
            ("just under", 12.39, False, Level.GROUNDED),
            ("recharge at 12.25", 12.25, False, Level.GROUNDED),
            ("12.25 on its second short hop", 12.25, True, Level.CAUTION),
            ("12.0 on its second short hop", 12.00, True, Level.CAUTION),
            ("11.9 grounding", 11.90, False, Level.GROUNDED),
            ("11.9 grounding on a second hop too", 11.90, True, Level.GROUNDED),
        )
        for name, total, hop, level in rows:
            with self.subTest(name):
                found = judge_cells(CellReading(total_v=total), PACK, "volts", **{**FULL, "second_hop": hop})
                self.assertEqual(found[-1].level, level)
                self.assertEqual(found[0].level, Level.CAUTION, "a total alone hides a weak cell")

    def test_recharge_is_not_the_same_as_do_not_fly(self) -> None:
        recharge = judge_cells(CellReading(total_v=12.25), PACK, "volts", **FULL)[-1]
        down = judge_cells(CellReading(total_v=11.9), PACK, "volts", **FULL)[-1]
        self.assertIn("Recharge", recharge.remedy)
        self.assertIn("not charged", said(recharge))
        self.assertIn("do not fly", said(down))

    def test_a_second_hop_counts_only_under_by_volts(self) -> None:
        found = judge_cells(CellReading(total_v=12.25), PACK, "full", **{**FULL, "second_hop": True})
        self.assertEqual(said(found[-1]), "12.25 V at rest is below 12.40 V: not quite full.")

    def test_enough_for_the_plan_is_half_the_pack(self) -> None:
        rows = ((50.0, Level.CLEAR), (50.4, Level.GROUNDED), (83.0, Level.GROUNDED), (25.0, Level.CLEAR))
        for share, level in rows:
            with self.subTest(share):
                found = judge_cells(read(4.2, 4.2, 4.2), PACK, "plan", **{**FULL, "planned_percent": share})
                self.assertEqual(found[-1].name, "Planned use")
                self.assertEqual(found[-1].level, level)

    def test_a_short_hop_on_a_half_pack_flies_only_under_the_plan(self) -> None:
        half = read(3.86, 3.86, 3.85)
        plan = judge_cells(half, PACK, "plan", **{**FULL, "planned_percent": 20.8})
        full = judge_cells(half, PACK, "full", **{**FULL, "planned_percent": 20.8})
        self.assertEqual(max(f.level for f in plan), Level.CLEAR)
        self.assertEqual(max(f.level for f in full), Level.GROUNDED)

    def test_high_voltage_lithium_is_judged_against_its_own_full(self) -> None:
        pack = PACK.model_copy(update={"chemistry": Chemistry.LIHV})
        self.assertEqual(judge_cells(read(4.34, 4.34, 4.34), pack, "full", **FULL)[-1].level, Level.CLEAR)
        self.assertEqual(judge_cells(read(4.20, 4.20, 4.20), pack, "full", **FULL)[-1].level, Level.CAUTION)
        self.assertEqual(judge_cells(read(4.20, 4.20, 4.20), pack, "volts", **FULL)[-1].level, Level.GROUNDED)

    def test_a_dead_cell_or_a_loose_lead_is_said(self) -> None:
        weakest = judge_cells(read(4.2, 0.0, 4.2), PACK, "full", **FULL)[1]
        self.assertIn("lead may be loose", weakest.remedy)
        self.assertIn("Do not charge it", weakest.remedy)

    def test_one_cell_has_no_spread(self) -> None:
        found = judge_cells(read(4.2), PACK.model_copy(update={"cells": 1}), "full", **FULL)
        self.assertEqual([f.name for f in found], ["Weakest cell", "Charge"])

    def test_shown_per_cent(self) -> None:
        rows = (("full", 95, 0), ("full", 80, 1), ("full", 60, 2), ("plan", 60, 0), ("plan", 40, 1), ("plan", 20, 2))
        for method, shown, level in rows:
            with self.subTest(f"{method} {shown}"):
                self.assertEqual(bands.judge_charge_percent(shown, method, PACK)[0].level, level)

    def test_temperature(self) -> None:
        rows = ((-5, 2), (0, 1), (9, 1), (20, 0), (40, 0), (43, 1), (46, 2))
        for value, level in rows:
            with self.subTest(value):
                self.assertEqual(bands.judge_pack_temperature(value)[0].level, level)

    def test_use_past_the_reserve_always_grounds(self) -> None:
        self.assertEqual(bands.judge_use(120, grounds=False).level, Level.GROUNDED)
        self.assertEqual(bands.judge_use(60, grounds=False).level, Level.CAUTION)
        self.assertEqual(bands.judge_use(60, grounds=True).level, Level.GROUNDED)
        self.assertEqual(bands.used_share(50, 0), 999.0)


class ChargeCurve(unittest.TestCase):
    def test_ends_and_middle(self) -> None:
        """Full 4.20 V, storage 3.85 V about half, 3.27 V empty: resting chart of hobby packs, from memory."""
        for volts, percent in ((4.30, 100), (4.20, 100), (3.84, 50), (3.27, 0), (2.0, 0)):
            self.assertAlmostEqual(chemistry.charge_percent(volts), percent, delta=0.01)

    def test_high_voltage_cells_are_shifted(self) -> None:
        self.assertAlmostEqual(chemistry.charge_percent(4.35, Chemistry.LIHV), 100)

    @given(st.floats(3.0, 4.3), st.floats(0, 0.5))
    def test_more_volts_never_mean_less(self, volts: float, more: float) -> None:
        self.assertGreaterEqual(chemistry.charge_percent(volts + more), chemistry.charge_percent(volts))


class Properties(unittest.TestCase):
    @given(
        st.floats(0.9, 4.3), st.floats(0, 0.3), st.sampled_from(["full", "plan", "volts"]), st.sampled_from(Chemistry)
    )
    def test_more_charge_never_judges_worse(self, volts: float, more: float, method: str, kind: Chemistry) -> None:
        pack, high_v = PACK.model_copy(update={"chemistry": kind}), volts + more
        assume(high_v <= lithium.overcharged_above_v(kind))  # above full more is worse
        low = max(f.level for f in judge_cells(read(volts, volts, volts), pack, method, **FULL))
        high = max(f.level for f in judge_cells(read(high_v, high_v, high_v), pack, method, **FULL))
        self.assertLessEqual(high, low)

    @given(st.floats(0, 100), st.floats(0, 100), st.sampled_from(["full", "plan"]))
    def test_more_per_cent_never_judges_worse(self, shown: float, more: float, method: str) -> None:
        less = bands.judge_charge_percent(shown, method, PACK)[0].level
        self.assertLessEqual(bands.judge_charge_percent(min(100, shown + more), method, PACK)[0].level, less)

    @given(st.floats(0.01, 60), st.floats(0, 60), st.floats(1, 100))
    def test_more_minutes_never_judge_better(self, planned: float, more: float, charge: float) -> None:
        less = bands.judge_use(bands.used_share(planned, charge), grounds=True).level
        self.assertGreaterEqual(bands.judge_use(bands.used_share(planned + more, charge), grounds=True).level, less)


class Overcharged(unittest.TestCase):
    """A cell above the full voltage of its chemistry and the error of the checker grounds, however it was read."""

    def test_false_clears_of_before(self) -> None:
        rows = (
            ("polymer, 4.30 V", Chemistry.LIPO, read(4.30, 4.30, 4.30), Level.GROUNDED),
            ("polymer, one cell at 4.30 V", Chemistry.LIPO, read(4.20, 4.30, 4.20), Level.GROUNDED),
            ("polymer, 4.23 V is the checker", Chemistry.LIPO, read(4.23, 4.23, 4.23), Level.CLEAR),
            ("ion, 4.50 V", Chemistry.LIION, read(4.5, 4.5, 4.5), Level.GROUNDED),
            ("iron phosphate, 3.90 V", Chemistry.LIFE, read(3.9, 3.9, 3.9), Level.GROUNDED),
            ("high-voltage, 4.30 V", Chemistry.LIHV, read(4.30, 4.30, 4.30), Level.CLEAR),
            ("13.5 V in all on three cells", Chemistry.LIPO, CellReading(total_v=13.5), Level.GROUNDED),
        )
        for name, kind, reading, level in rows:
            with self.subTest(name):
                pack = PACK.model_copy(update={"chemistry": kind})
                found = judge_cells(reading, pack, "full", **FULL)
                self.assertEqual(max(f.level for f in found), level, [said(f) for f in found])
                if level is Level.GROUNDED:
                    over = next(f for f in found if f.name == "Overcharged")
                    self.assertIn("do not charge", over.remedy)
                    self.assertLess(over.margin, 0)

    def test_every_chemistry_at_every_cell(self) -> None:
        for kind in Chemistry:
            pack = PACK.model_copy(update={"chemistry": kind})
            top = lithium.overcharged_above_v(kind)
            for place in range(3):
                cells = [top - 0.03] * 3
                cells[place] = top + 0.01
                self.assertIn("Overcharged", [f.name for f in judge_cells(read(*cells), pack, "plan", **FULL)])


class ChemistryNotKnown(unittest.TestCase):
    """The lowest full voltage of those it may be counts, and no voltage reads clear."""

    PACK = PACK.model_copy(update={"chemistry": Chemistry.UNKNOWN})

    def test_above_the_lowest_full_voltage_it_is_overcharged(self) -> None:
        """Iron phosphate is charged to 3.65 V (published type sheets, from memory); the checker may read 0.03 V high."""
        for volts, over in ((3.68, False), (3.69, True), (4.20, True)):
            names = [f.name for f in judge_cells(read(volts, volts, volts), self.PACK, "full", **FULL)]
            self.assertEqual("Overcharged" in names, over, volts)

    @given(st.floats(0.9, 4.5), st.sampled_from(["full", "plan", "volts"]))
    def test_no_reading_reads_clear_or_better_than_any_lithium_kind(self, volts: float, method: str) -> None:
        found = judge_cells(read(volts, volts, volts), self.PACK, method, **FULL)
        self.assertEqual(max(f.level for f in found), Level.GROUNDED)
        by_name = {f.name: f.level for f in found}
        for kind in Chemistry:
            if lithium.is_lithium(kind):
                pack = PACK.model_copy(update={"chemistry": kind})
                for f in judge_cells(read(volts, volts, volts), pack, method, **FULL):
                    self.assertGreaterEqual(by_name.get(f.name, Level.CLEAR), f.level, (kind, f.name))

    def test_a_full_smart_pack_and_a_kept_reading_ground_too(self) -> None:
        self.assertEqual(bands.judge_charge_percent(100, "full", self.PACK)[0].level, Level.GROUNDED)
        kept = bands.reading_findings(Reading(at=NOW, percent=100), self.PACK)
        self.assertEqual([f.name for f in kept], ["Chemistry"])
        self.assertIn("label", kept[0].remedy)


class OverDischarged(unittest.TestCase):
    def test_a_total_bounds_the_worst_cell(self) -> None:
        """6.0 V on three cells is 2.0 V a cell at best: not to be charged, whatever the practice."""
        for method in ("full", "plan", "volts"):
            found = judge_cells(CellReading(total_v=6.0), PACK, method, **FULL)
            self.assertEqual(max(f.level for f in found), Level.GROUNDED)
            self.assertTrue(any("Do not charge it" in f.remedy for f in found), method)

    def test_a_total_alone_is_never_clear(self) -> None:
        for total in (12.6, 12.4, 11.4):
            found = judge_cells(CellReading(total_v=total), PACK, "full", **FULL)
            self.assertGreaterEqual(max(f.level for f in found), Level.CAUTION)
            self.assertIn("Cells not measured", [f.name for f in found])

    def test_the_worst_cell_decides_the_charge(self) -> None:
        """4.20, 4.20 and 4.11 V add to 12.51 V, which would fly; three of the worst are 12.33 V, which does not."""
        self.assertEqual(judge_cells(read(4.20, 4.20, 4.11), PACK, "volts", **FULL)[-1].level, Level.GROUNDED)


class PublishedCells(unittest.TestCase):
    """Full and least voltages against published cells (see ``cell_sets``): we call nothing full above their upper cut-off,
    and nothing sound below their lower one."""

    def test_limits(self) -> None:
        from tests.core.packs.cell_sets import cut_offs

        rows = (
            ("Ai2020", Chemistry.LIPO),
            ("Chen2020", Chemistry.LIION),
            ("Prada2013", Chemistry.LIFE),
        )
        for name, kind in rows:
            low_v, high_v = cut_offs(name)
            ours = chemistry.CELLS[kind]
            with self.subTest(name):
                self.assertAlmostEqual(ours.charge_to_v, high_v, delta=0.05)
                self.assertAlmostEqual(ours.least_v, low_v, delta=0.05)
                self.assertGreater(ours.load_floor_v, low_v)


if __name__ == "__main__":
    unittest.main()
