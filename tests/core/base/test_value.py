"""The base of every value: equal values have one hash, whatever way they were made, and it is worked out once."""

import copy
import pickle
import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests.support import QUAD, variants
from walkround.core.aircraft.flaws import Bears, OwnPart
from walkround.core.base.value import Value


class Hashes(unittest.TestCase):
    @given(st.sampled_from(variants()), st.sampled_from(variants()))
    def test_equal_values_have_one(self, one: Value, other: Value) -> None:
        """Python's data model: what compares equal has the same hash. Asked before and after copying."""
        for made in (one.model_copy(), copy.deepcopy(one), pickle.loads(pickle.dumps(one)), type(one)(**dict(one))):
            self.assertEqual(made, one)
            self.assertEqual(hash(made), hash(one))
        if one == other:
            self.assertEqual(hash(one), hash(other))

    def test_a_changed_copy_has_its_own(self) -> None:
        """Also where the first was asked for its hash before; and a value within counts."""
        hash(QUAD)
        renamed = QUAD.model_copy(update={"name": "Other"})
        more = QUAD.model_copy(update={"own_parts": (OwnPart(id="own-1", name="Mast", does=Bears.HOLDS),)})
        self.assertEqual(len({QUAD, renamed, more}), 3)
        self.assertEqual(len({hash(QUAD), hash(renamed), hash(more)}), 3)

    def test_it_is_no_part_of_the_value(self) -> None:
        hash(QUAD)
        self.assertEqual(QUAD, QUAD.model_copy())
        self.assertNotIn("_hash", QUAD.model_dump())

    def test_what_cannot_have_one_says_so(self) -> None:
        class Listed(Value):
            rows: list[int]

        with self.assertRaises(TypeError):
            hash(Listed(rows=[1]))
