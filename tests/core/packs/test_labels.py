"""Labels that go on from one another."""

import unittest

from hypothesis import given
from hypothesis import strategies as st

from walkround.core.base.errors import InputError
from walkround.core.packs.labels import LABEL_CHARS, MOST_ALIKE, labels_on


class Labels(unittest.TestCase):
    def test_they_go_on_and_pass_over_what_is_taken(self) -> None:
        self.assertEqual(labels_on("S1", 3, ()), ("S1", "S2", "S3"))
        self.assertEqual(labels_on("S1", 3, {"S1", "S3"}), ("S2", "S4", "S5"))
        self.assertEqual(labels_on("Race 07", 2, ()), ("Race 07", "Race 08"))
        self.assertEqual(labels_on("Blue ", 2, ()), ("Blue1", "Blue2"))

    def test_what_cannot_be(self) -> None:
        for label, many in (("S1", 0), ("S1", MOST_ALIKE + 1), ("x" * LABEL_CHARS, 2)):
            with self.assertRaises(InputError):
                labels_on(label, many, ())

    @given(st.text("abS -", max_size=8), st.integers(1, MOST_ALIKE), st.sets(st.integers(1, 40)))
    def test_as_many_as_asked_all_different_none_taken(self, stem: str, many: int, used: set[int]) -> None:
        taken = {f"{stem.strip()}{n}" for n in used}
        found = labels_on(f"{stem}1", many, taken)
        self.assertEqual((len(found), len(set(found))), (many, many))
        self.assertFalse(set(found) & taken)
