"""How long a first fix may take. Four hours, 30 s, 12.5 min: IS-GPS-200, from memory; five to eight minutes cold: common practice, no source."""

import unittest

from walkround.core.sensors.first_fix import first_fix, late_words


class FirstFix(unittest.TestCase):
    def test_what_to_expect(self) -> None:
        rows = (
            (None, None, False, 480, "cold"), (1.0, 0.0, False, 15, "hot"), (3.9, 1e5, False, 15, "hot"), (4.1, 0.0, False, 90, "warm"), (24 * 59, 0.0, False, 90, "warm"),
            (24 * 61, 0.0, False, 480, "cold"), (1.0, 4e5, False, 480, "cold"), (1.0, 0.0, True, 480, "cold"),
        )  # fmt: skip
        for hours, away, changed, most, word in rows:
            with self.subTest(f"{hours} {away} {changed}"):
                found = first_fix(hours, away, changed=changed)
                self.assertEqual((found.most_s, found.why.split(":")[0]), (most, word))
        self.assertEqual(first_fix(1, 0).words, "First fix: up to 15 s (hot: used within four hours).")
        self.assertIn("up to 8 min", first_fix(None, None).words)

    def test_a_longer_break_is_never_expected_to_be_quicker(self) -> None:
        most = [first_fix(hours, 0).most_s for hours in (0, 1, 4, 5, 100, 1_000, 2_000, 20_000)]
        self.assertEqual(most, sorted(most))

    def test_late(self) -> None:
        self.assertEqual(late_words(15, first_fix(1, 0)), "")
        self.assertIn("Longer than expected", late_words(16, first_fix(1, 0)))
        self.assertIn("ever needs", late_words(751, first_fix(None, None)))
