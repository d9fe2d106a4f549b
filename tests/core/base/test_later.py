"""What is seldom needed is not imported before it is used."""

import subprocess
import sys
import unittest

from walkround.core.base.later import Later

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

    def test_the_first_use_imports(self) -> None:
        self.assertEqual(
            self.imported("from walkround.core.base.later import Later\nLater('segno').make('x')"), {"segno"}
        )
        self.assertEqual(Later("math").hypot(3, 4), 5)
        with self.assertRaises(AttributeError):
            str(Later("math").nothing)
