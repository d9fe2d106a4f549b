"""What is seldom needed is not imported before it is used."""

import re
import subprocess
import sys
import unittest

from walkround.core.base.later import LatePattern, Later, pattern
from walkround.web.app import everything

HEAVY = ("numpy", "shapely", "PIL", "gpxpy", "astral", "cryptography", "argon2", "segno", "scipy", "pygeomag")


class Imports(unittest.TestCase):
    def imported(self, code: str) -> set[str]:
        asked = f"{code}\nimport sys\nprint(*(n for n in {HEAVY} if n in sys.modules))"
        return set(
            subprocess.run([sys.executable, "-c", asked], capture_output=True, text=True, check=True).stdout.split()
        )

    def test_neither_the_core_nor_the_application_imports_what_is_heavy(self) -> None:
        self.assertEqual(self.imported("import walkround.core.round.record"), set())
        self.assertEqual(self.imported("import walkround.web.app; walkround.web.app.everything()"), set())
        self.assertEqual(self.imported("import walkround.cli, walkround.serving, walkround.demo.opening"), set())

    def test_the_core_loads_no_checker(self) -> None:
        """What checks values from outside comes with the first of them."""
        asked = "import sys, walkround.core.round.record; print([n for n in sys.modules if n.startswith('pydantic')])"
        self.assertEqual(
            subprocess.run([sys.executable, "-c", asked], capture_output=True, text=True, check=True).stdout, "[]\n"
        )

    def test_the_first_use_imports(self) -> None:
        self.assertEqual(
            self.imported("from walkround.core.base.later import Later\nLater('segno').make('x')"), {"segno"}
        )
        self.assertEqual(Later("math").hypot(3, 4), 5)
        with self.assertRaises(AttributeError):
            str(Later("math").nothing)


class Patterns(unittest.TestCase):
    def test_compiled_at_the_first_use(self) -> None:
        code = pattern(r"(\d+)([a-z])", re.IGNORECASE)
        self.assertNotIn("match", vars(code))
        self.assertEqual(code.match("12K").groups(), ("12", "K"))  # type: ignore[union-attr]
        self.assertEqual(code.sub("", "a1b"), "a")
        self.assertIn("match", vars(code))

    def test_a_mistake_is_found_by_the_first_use(self) -> None:
        wrong = pattern("(")
        with self.assertRaises(re.error):
            wrong.match("x")

    def test_every_one_can_be_compiled(self) -> None:
        everything()
        found = {
            f"{name}.{key}": value
            for name, module in list(sys.modules.items())
            if name.startswith("walkround.")
            for key, value in vars(module).items()
            if isinstance(value, LatePattern)
        }
        self.assertGreater(len(found), 30)
        for name, late in found.items():
            with self.subTest(name):
                self.assertIsNone(late.fullmatch("no such text\0"))
