"""How full a pack is: resting voltages against published cells, ranges that widen when they should."""

import math
import unittest
from datetime import timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests.core.packs.cell_sets import resting_curve
from tests.support import NOW, PACK
from walkround.core.base.errors import InputError
from walkround.core.packs import charge
from walkround.core.packs.charge import FULL, from_lights, from_reading, from_volts, standing
from walkround.core.packs.chemistry import Chemistry, charge_percent, resting_v
from walkround.core.packs.reading import After, CellReading, Reading

SETS = (
    # name of the set, chemistry here, empty and full as a hobby pack counts them (V at rest), from which charge on
    ("Ecker2015", Chemistry.LIPO, 3.27, 4.20, 25),
    ("Ai2020", Chemistry.LIPO, 3.27, 4.20, 10),
    ("Chen2020", Chemistry.LIION, 2.80, 4.18, 5),
    ("NCA_Kim2011", Chemistry.LIION, 2.80, 4.18, 5),
    ("Mohtat2020", Chemistry.LIION, 2.80, 4.18, 15),
    ("Prada2013", Chemistry.LIFE, 2.60, 3.40, 15),
)
"""Sources, as the sets themselves cite them: Ecker et al., J. Electrochem. Soc. 162 (2015), a 7.5 Ah pouch cell;
Ai et al., J. Electrochem. Soc. 167 (2020), a cobalt-oxide pouch cell, its curves measured; Chen et al., J. Electrochem. Soc. 167 (2020),
a 5 Ah round cell; Kim et al., J. Electrochem. Soc. 158 (2011), nickel-cobalt-aluminium; Mohtat et al. 2020, a nickel-
manganese-cobalt pouch cell; Prada et al., J. Electrochem. Soc. 160 (2013), iron-phosphate. How discharged: not at all,
the resting balance of the electrodes is read, which is what a rested pack shows. High-voltage lithium and nickel-metal
hydride have no set there; their curves stand on memory alone."""


class AgainstPublishedCells(unittest.TestCase):
    def test_the_range_holds_the_charge_of_published_cells(self) -> None:
        """Every five per cent of six cells: the true charge lies in the range that a rested reading gives."""
        checked = 0
        for name, kind, low_v, high_v, least in SETS:
            curve = resting_curve(name, low_v, high_v)
            for share in range(least, 101, 5):
                volts = curve(share / 100)
                with self.subTest(f"{name} at {share} %, {volts:.3f} V"):
                    charge = from_volts(volts, kind)
                    self.assertLessEqual(charge.low, share)
                    self.assertGreaterEqual(charge.high, share)
                    checked += 1
        self.assertGreater(checked, 100)

    def test_lights_and_volts_of_one_published_cell_agree(self) -> None:
        """A gauge that counts the true charge lights a segment for each quarter begun (four) or fifth (five); so do the gas gauges of the
        trade: bq2050H data sheet, table of its LED display, four and five segments of equal share (from memory)."""
        for name, kind, low_v, high_v, least in SETS:
            curve = resting_curve(name, low_v, high_v)
            for of in (4, 5):
                for share in range(least, 101, 5):
                    shown = from_lights(math.ceil(share * of / 100), of)
                    read = from_volts(curve(share / 100), kind)
                    with self.subTest(f"{name}, {share} %, {of} LEDs"):
                        self.assertTrue(shown.low <= share <= shown.high)
                        self.assertTrue(shown.low <= read.high and read.low <= shown.high)

    def test_near_empty_it_errs_on_the_safe_side(self) -> None:
        """Below a quarter the hobby chart gives the other pouch cell less than it holds, never more."""
        curve = resting_curve("Ecker2015", 3.27, 4.20)
        for share in range(5, 25, 5):
            self.assertLess(from_volts(curve(share / 100), Chemistry.LIPO).mid, share)

    def test_the_middle_of_the_range_is_near(self) -> None:
        """The likeliest charge is off by at most this many points, on the average of a set from 20 to 95 %."""
        rows = {"Ecker2015": 9, "Ai2020": 8, "Chen2020": 3, "NCA_Kim2011": 7, "Mohtat2020": 6, "Prada2013": 14}
        for name, kind, low_v, high_v, _ in SETS:
            curve = resting_curve(name, low_v, high_v)
            off = [abs(charge_percent(curve(s / 100), kind) - s) for s in range(20, 96, 5)]
            with self.subTest(name):
                self.assertLess(sum(off) / len(off), rows[name])

    def test_a_set_rests_where_its_own_paper_says(self) -> None:
        """The reading of the sets itself: Chen et al. 2020 print 2.5 and 4.2 V as the ends of their cell."""
        curve = resting_curve("Chen2020")
        self.assertAlmostEqual(curve(0), 2.5, places=6)
        self.assertAlmostEqual(curve(1), 4.2, places=6)


class Ranges(unittest.TestCase):
    def test_lights_are_a_range(self) -> None:
        """Four lights are three quarters to full: the practice; the rest follows."""
        self.assertEqual([(from_lights(n).low, from_lights(n).high) for n in range(5)],
                         [(0, 12.5), (0, 25), (25, 50), (50, 75), (75, 100)])  # fmt: skip
        with self.assertRaisesRegex(InputError, "0 to 4 LEDs"):
            from_lights(5)

    def test_it_widens(self) -> None:
        rested = from_volts(3.82, Chemistry.LIPO)
        rows = (
            ("just flown reads low", {"after": After.FLIGHT, "since_min": 2.0}, 0, 1),
            ("just charged reads high", {"after": After.CHARGE, "since_min": 2.0}, 1, 0),
            ("The rest time is not known", {"after": After.FLIGHT}, 0, 1),
            ("cold", {"temperature_c": -2.0}, 1, 1),
        )
        for name, how, down, up in rows:
            with self.subTest(name):
                wide = from_volts(3.82, Chemistry.LIPO, **how)  # type: ignore[arg-type]
                self.assertEqual(wide.mid, rested.mid)
                self.assertEqual((wide.low < rested.low, wide.high > rested.high), (bool(down), bool(up)))
                self.assertTrue(wide.why)
        hour = from_volts(3.82, Chemistry.LIPO, after=After.FLIGHT, since_min=75)
        self.assertEqual((hour.low, hour.high, hour.why), (rested.low, rested.high, ()))

    def ends(self, volts: float, kind: Chemistry, **how: object) -> tuple[float, float]:
        """How far the ends of the range lie from the reading, in V, by the curve itself; five points of the chart taken off."""
        found = from_volts(volts, kind, **how)  # type: ignore[arg-type]
        self.assertTrue(5 < found.low < found.high < 95, "not held at an end")
        return volts - resting_v(found.low + 5, kind), resting_v(found.high - 5, kind) - volts

    def test_widths_by_hand(self) -> None:
        """Make and checker, by hand: 0.035 + 0.01 V for lithium-polymer, 0.05 + 0.01 V for lithium-ion; half as much again in
        the cold; unrested 0.05 V at once, 0.05 e^(-t/20) after t minutes (14 where that is not said), nothing from 60 on."""
        lipo, ion, nickel = Chemistry.LIPO, Chemistry.LIION, Chemistry.NIMH
        rows = (
            (3.97, lipo, {}, 0.045, 0.045), (4.00, Chemistry.LIHV, {}, 0.045, 0.045), (3.80, ion, {}, 0.060, 0.060),
            (1.25, nickel, {}, 0.040, 0.040),
            (3.97, lipo, {"temperature_c": 9.9}, 0.0675, 0.0675), (3.97, lipo, {"temperature_c": 10.0}, 0.045, 0.045),
            (3.97, lipo, {"after": After.CHARGE, "since_min": 0.0}, 0.095, 0.045),
            (3.97, lipo, {"after": After.FLIGHT, "since_min": 0.0}, 0.045, 0.095),
            (3.97, lipo, {"after": After.FLIGHT, "since_min": 20.0}, 0.045, 0.045 + 0.05 / math.e),
            (3.97, lipo, {"after": After.FLIGHT}, 0.045, 0.045 + 0.05 * math.exp(-0.7)),
            (3.97, lipo, {"after": After.FLIGHT, "since_min": 59.9}, 0.045, 0.045 + 0.05 * math.exp(-59.9 / 20)),
            (3.97, lipo, {"after": After.FLIGHT, "since_min": 60.0}, 0.045, 0.045),
            # full less the lowest for a plan: 0.70 V polymer, 0.78 V ion; its unrest goes with it
            (3.80, ion, {"after": After.FLIGHT, "since_min": 0.0}, 0.060, 0.060 + 0.05 * 0.78 / 0.70),
        )  # fmt: skip
        for volts, kind, how, down, up in rows:
            with self.subTest(f"{kind} {how}"):
                for ours, theirs in zip(self.ends(volts, kind, **how), (down, up), strict=True):
                    self.assertAlmostEqual(ours, theirs, places=6)

    def test_why_it_is_wide(self) -> None:
        rows = (
            ({"after": After.FLIGHT, "since_min": 2.0}, "Read 2 minutes after it was flown: the pack has not rested."),
            (
                {"after": After.CHARGE, "since_min": 2.0},
                "Read 2 minutes after it was charged: the pack has not rested.",
            ),
            ({"after": After.CHARGE}, "The rest time is not known."),
            ({"temperature_c": 4.0}, "Cold pack: voltage takes longer to settle."),
            ({"after": After.FLIGHT, "since_min": 60.0}, ""),
            ({}, ""),
        )
        for how, words in rows:
            self.assertEqual(from_volts(4.15, Chemistry.LIPO, **how).why, (words,) if words else ())  # type: ignore[arg-type]

    def test_a_shown_per_cent_is_within_five_points(self) -> None:
        for shown, low, high in ((50, 45, 55), (3, 0, 8), (98, 93, 100), (0, 0, 5), (100, 95, 100)):
            found = charge.from_percent(shown)
            self.assertEqual((found.low, found.mid, found.high), (low, shown, high))
        self.assertEqual((FULL.low, FULL.mid, FULL.high), (95, 100, 100))
        self.assertEqual([from_lights(n).mid for n in range(5)], [6.25, 12.5, 37.5, 62.5, 87.5])

    def test_cells_read_in_a_round(self) -> None:
        reading = CellReading(cells_v=(3.9, 3.8, 4.0), total_v=11.7)
        self.assertEqual(charge.from_cells(reading, PACK), from_volts(3.9, Chemistry.LIPO))

    def test_ten_days_by_hand(self) -> None:
        """Nickel 1 point a day, lithium 0.1 (from memory); the lower end twice that, the upper end none."""
        half, later = charge.from_percent(50), NOW + timedelta(days=10)
        for kind, low, mid in ((Chemistry.NIMH, 25, 40), (Chemistry.LIPO, 43, 49)):
            stood = standing(half, NOW, later, kind)
            for ours, theirs in zip((stood.low, stood.mid, stood.high), (low, mid, 55), strict=True):
                self.assertAlmostEqual(ours, theirs)
        empty = standing(charge.from_percent(6), NOW, later, Chemistry.NIMH)
        self.assertEqual((empty.low, empty.mid), (0, 0))

    def test_the_flat_middle_says_little(self) -> None:
        self.assertGreater(from_volts(3.82, Chemistry.LIPO).width, 1.5 * from_volts(4.15, Chemistry.LIPO).width)
        flat = from_volts(3.29, Chemistry.LIFE)
        self.assertGreater(flat.width, 40)
        self.assertIn("flat", flat.why[-1])

    @given(st.floats(2.5, 4.4), st.floats(0, 0.2), st.sampled_from(Chemistry))
    def test_more_volts_never_mean_less(self, volts: float, more: float, kind: Chemistry) -> None:
        one, other = from_volts(volts, kind), from_volts(volts + more, kind)
        self.assertTrue(one.low <= other.low and one.mid <= other.mid and one.high <= other.high)
        self.assertTrue(0 <= one.low <= one.mid <= one.high <= 100)

    def test_what_counts_first(self) -> None:
        both = Reading(at=NOW, cells_v=(3.8, 3.8, 3.8), percent=61, lights=1)
        self.assertEqual(from_reading(both, PACK).mid, 61)  # type: ignore[union-attr]
        volts = Reading(at=NOW, total_v=11.4, lights=1)
        self.assertAlmostEqual(from_reading(volts, PACK).mid, charge_percent(3.8))  # type: ignore[union-attr]
        self.assertEqual(from_reading(Reading(at=NOW, lights=2), PACK), from_lights(2))
        self.assertIsNone(from_reading(Reading(at=NOW, temperature_c=20), PACK))

    def test_it_stands_and_loses(self) -> None:
        """Nickel loses about a third in a month, lithium next to nothing: from memory."""
        month = NOW + timedelta(days=30)
        self.assertAlmostEqual(standing(FULL, NOW, month, Chemistry.NIMH).mid, 70, delta=1)
        self.assertAlmostEqual(standing(FULL, NOW, month, Chemistry.LIPO).mid, 97, delta=1)
        self.assertEqual(standing(FULL, NOW, NOW - timedelta(days=3), Chemistry.LIPO), FULL)

    def test_rest_times_are_in_order(self) -> None:
        self.assertLess(charge.REST_MIN, charge.RESTED_MIN)
