"""The base of every value: equal values have one hash, whatever way they were made, and it is worked out once."""

import copy
import pickle
import subprocess
import sys
import unittest

from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import asdict

from tests.support import QUAD, variants
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.controller import USUAL_MODES
from walkround.core.aircraft.flaws import Bears, OwnPart
from walkround.core.airspace.zone import Terms
from walkround.core.base.struct import default_of
from walkround.core.base.value import Value
from walkround.core.field.site import HERE, USUAL_CREW


class Hashes(unittest.TestCase):
    @given(st.sampled_from(variants()), st.sampled_from(variants()))
    def test_equal_values_have_one(self, one: Value, other: Value) -> None:
        """Python's data model: what compares equal has the same hash. Asked before and after copying."""
        for made in (one.model_copy(), copy.deepcopy(one), pickle.loads(pickle.dumps(one)), type(one)(**asdict(one))):
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


class Trusted(unittest.TestCase):
    def test_what_the_modules_hold_ready_would_pass_the_check(self) -> None:
        for value in (
            *USUAL_MODES,
            *USUAL_CREW,
            HERE,
            default_of(Terms, "floor"),
            default_of(Aircraft, "turning"),
        ):
            checked = type(value).model_validate_json(value.model_dump_json())
            with self.subTest(repr(value)):
                self.assertEqual((checked, repr(checked)), (value, repr(value)))

    def test_nothing_is_checked_while_the_modules_load(self) -> None:
        """The first check of a kind of value makes its checker, which is slow: it waits for the first value from outside."""
        asked = (
            "import walkround.web.app; walkround.web.app.everything()\n"
            "from walkround.core.base.value import _CHECKED, Value\n"
            "def kinds(of):\n"
            "    for kind in of.__subclasses__():\n"
            "        yield kind\n"
            "        yield from kinds(kind)\n"
            "print(len(list(kinds(Value))), *(kind.__name__ for kind in _CHECKED))"
        )
        number, *made = subprocess.run(
            [sys.executable, "-c", asked], capture_output=True, text=True, check=True
        ).stdout.split()
        self.assertGreater(int(number), 50)
        self.assertEqual(made, [])
