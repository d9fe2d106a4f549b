"""The house: imports point downward only, files can be read in one sitting, nothing names another host."""

import ast
import re
import subprocess
import sys
import unittest
from functools import cache
from pathlib import Path

from jinja2 import nodes

from scripts import mutants, put_back
from walkround.web.pages import templates

ROOT = Path(__file__).parent.parent
CODE = ROOT / "walkround"
# What each floor may import of the house.
ALLOWED = {
    "core": {"core"},
    "store": {"core", "store"},
    "simulators": {"core", "simulators"},
    "demo": {"core", "store", "simulators", "demo"},
    "web": {"core", "store", "simulators", "web"},
}
# The rooms of the core, from the ground up: a room imports only rooms before it; those of one step do not know each other.
ROOMS = (
    ("base",),
    ("pilot", "aircraft", "sensors"),
    ("packs", "field", "inspection"),
    ("weather", "airspace"),
    ("flight", "calibration"),
    ("lost_link", "proving"),
    ("answers",),
    ("checklist",),
    ("round",),
    ("diagnosis",),
)
WHOLE_SUBJECTS = {
    "tests/core/test_docs.py": "the words of every module",
    "tests/store/test_ahead.py": "what is dated ahead of the clock, in every table",
    "tests/store/test_power.py": "power cuts, against the file system",
    "tests/web/test_fuzz.py": "every address at random",
    "tests/web/test_queries.py": "questions to the book, of every page",
}
"""Tests that belong to no one module, and to what instead."""
TESTED_IN = {
    "core/aircraft/parts.py": ("tests/store/test_parts.py", "a part is what the book keeps of it"),
    "core/aircraft/flaws.py": ("tests/core/inspection/test_damage.py", "words that the rules of damage are about"),
    "core/inspection/aspects.py": ("tests/core/inspection/test_touched.py", "words that the parts are described by"),
    "core/inspection/close_up/multirotor.py": (
        "tests/core/inspection/test_close_up.py",
        "close-ups of every kind are held to the same rules",
    ),
    "core/inspection/close_up/wing.py": (
        "tests/core/inspection/test_close_up.py",
        "close-ups of every kind are held to the same rules",
    ),
    "core/inspection/close_up/helicopter.py": (
        "tests/core/inspection/test_close_up.py",
        "close-ups of every kind are held to the same rules",
    ),
    "store/part_models.py": ("tests/store/test_touches.py", "tables that touches and spares are kept in"),
    "core/aircraft/presets.py": ("tests/core/aircraft/test_aircraft.py", "data that has to be an aircraft"),
    "core/diagnosis/symptoms.py": ("tests/core/diagnosis/test_ranking.py", "words that the ranking is about"),
    "core/aircraft/traits.py": ("tests/core/aircraft/test_aircraft.py", "data that an aircraft is described by"),
    "core/base/errors.py": ("tests/web/test_errors.py", "an error is what a pilot reads of it"),
    "core/base/finding.py": ("tests/properties/test_numbers.py", "its rules hold for the findings of every judge"),
    "core/base/phrase.py": ("tests/core/base/test_units.py", "a phrase says quantities in units"),
    "core/checklist/check.py": ("tests/core/checklist/test_library.py", "what the library is made of"),
    "core/checklist/history.py": ("tests/core/round/test_due.py", "what the rules of what is due look at"),
    "core/pilot/limits.py": ("tests/store/test_settings.py", "data that the pilot sets"),
    "core/pilot/methods.py": ("tests/core/round/test_plan.py", "data that the plan follows"),
    "core/round/context.py": ("tests/core/round/test_numbers.py", "what the rules of numbers look at"),
    "core/round/method_effects.py": ("tests/core/round/test_plan.py", "two plans compared"),
    "core/round/situation.py": ("tests/core/round/test_plan.py", "what a plan is made from"),
    "core/sensors/devices.py": (
        "tests/simulators/test_simulator.py",
        "interfaces: whoever stands behind them is tested",
    ),
    "store/disk.py": ("tests/store/test_backup.py", "a full disk is said in words"),
    "store/done.py": ("tests/store/test_rounds.py", "what a signed round leaves behind"),
    "store/exchange.py": ("tests/store/test_upgrade.py", "files of this version and of earlier ones"),
    "store/fields.py": ("tests/web/test_field_editor.py", "changes of the plan, and taking them back"),
    "store/air_models.py": ("tests/store/test_book.py", "the tables, against the schema that the migrations make"),
    "store/models.py": ("tests/store/test_book.py", "the tables, against the schema that the migrations make"),
    "store/round_list.py": ("tests/store/test_rounds.py", "lists of rounds"),
    "store/wholeness.py": ("tests/store/test_backup.py", "what is not whole is refused as a backup"),
    "web/app.py": ("tests/web/test_catalogue.py", "it puts the pages together"),
    "web/app_context.py": ("tests/web/test_settings.py", "which device is in use, as chosen on a page"),
    "web/choice.py": ("tests/web/test_today.py", "what is chosen on the page of today"),
    "web/devices.py": ("tests/web/test_settings.py", "a page of the settings"),
    "web/forms.py": ("tests/web/test_hangar.py", "reading the largest of the forms"),
    "web/pages.py": ("tests/web/test_catalogue.py", "rendering every page"),
    "web/sign_in.py": ("tests/web/test_security.py", "a passphrase asked for"),
    "web/snags.py": ("tests/web/test_hangar.py", "snags with their photos, on the pages of what carries them"),
    "web/drawings/aircraft.py": ("tests/web/test_today.py", "drawn there"),
    "web/drawings/airspace.py": ("tests/web/test_airspace.py", "drawn there"),
    "web/drawings/bars.py": ("tests/properties/test_numbers.py", "a bar never shows more to spare than there is"),
    "web/drawings/cells.py": ("tests/web/test_rounds.py", "drawn there"),
    "web/drawings/flight.py": ("tests/web/test_endurance.py", "drawn there"),
    "web/drawings/home.py": ("tests/web/test_home.py", "drawn there"),
    "web/drawings/minutes.py": ("tests/web/test_endurance.py", "drawn there"),
    "web/drawings/pack.py": ("tests/web/test_packs.py", "drawn there"),
    "web/drawings/path.py": ("tests/web/test_rounds.py", "drawn there"),
    "web/drawings/schedule.py": ("tests/web/test_charging.py", "drawn there"),
    "web/drawings/site.py": ("tests/web/test_field_editor.py", "drawn there"),
    "web/drawings/trend.py": ("tests/web/test_packs.py", "drawn there"),
    "web/drawings/window.py": ("tests/web/test_ahead.py", "drawn there"),
}
"""Modules without a test module of their name: where they are tested instead, and why there."""
OF_ONE_KIND = {
    "core/answers": "tests/core/test_answers.py",
    "core/aircraft/planform": "tests/core/aircraft/test_planform.py",
    "core/inspection/close_up": "tests/core/inspection/test_close_up.py",
    "core/checklist/library": "tests/core/checklist/test_library.py",
    "simulators": "tests/simulators/test_simulator.py",
    "store/migrations": "tests/store/test_book.py",
    "store/upgrade": "tests/store/test_upgrade.py",
    "web/answers": "tests/web/test_answers.py",
}
"""Folders of modules that are all alike: one test goes through all of them."""
ONLY_THROUGH_OTHERS = {
    "walkround.core.base.value",  # what everything is made of
    "walkround.core.sensors.devices",  # interfaces
    "walkround.core.round.reasons",  # by the plan's words
    "walkround.core.round.occasions",  # by the plan
}
"""Modules of the core that no test names."""
THIRD_PARTY_OF_CORE = {
    "pygeomag",
    "pydantic",
    "pydantic_core",
    "msgspec",
    "numpy",
    "pynmea2",
    "geographiclib",
    "astral",
    "gpxpy",
    "shapely",
}


@cache
def import_nodes(path: Path) -> tuple[ast.Import | ast.ImportFrom, ...]:
    return tuple(n for n in ast.walk(ast.parse(path.read_text())) if isinstance(n, ast.Import | ast.ImportFrom))


def imports_of(path: Path) -> set[str]:
    names = set()
    for node in import_nodes(path):
        if isinstance(node, ast.Import):
            names |= {alias.name for alias in node.names}
        elif node.module:
            names |= (
                {f"{node.module}.{alias.name}" for alias in node.names} if node.module == "walkround" else {node.module}
            )
    return names


def named_in(path: Path) -> set[str]:
    """Modules that a file imports, those taken from a room by ``from room import module`` included."""
    nodes = [node for node in import_nodes(path) if isinstance(node, ast.ImportFrom)]
    return imports_of(path) | {f"{n.module}.{alias.name}" for n in nodes for alias in n.names}


def tracked(*patterns: str) -> list[Path]:
    checklist_of = subprocess.run(
        ["git", "ls-files", "-co", "--exclude-standard", *patterns],
        cwd=ROOT,
        capture_output=True,
        text=True,
        check=True,
    )
    return [
        ROOT / line for line in checklist_of.stdout.splitlines() if "vendor/" not in line and (ROOT / line).exists()
    ]


class Floors(unittest.TestCase):
    def test_imports_point_downward(self) -> None:
        for floor, allowed in ALLOWED.items():
            for path in (CODE / floor).rglob("*.py"):
                for name in imports_of(path):
                    parts = name.split(".")
                    if parts[0] == "walkround" and len(parts) > 1 and parts[1] != "VERSION":
                        self.assertIn(parts[1], allowed, f"{path.relative_to(ROOT)} imports {name}")

    def test_rooms_of_the_core_import_downward(self) -> None:
        step = {room: number for number, rooms in enumerate(ROOMS) for room in rooms}
        found = {path.name for path in (CODE / "core").iterdir() if path.is_dir() and path.name != "__pycache__"}
        self.assertEqual(found, set(step), "every room has its place in the order")
        for room in step:
            for path in (CODE / "core" / room).rglob("*.py"):
                for name in imports_of(path):
                    parts = name.split(".")
                    if parts[:2] == ["walkround", "core"] and len(parts) > 2 and parts[2] != room:
                        self.assertLess(step[parts[2]], step[room], f"{path.relative_to(ROOT)} imports {name}")

    def test_the_core_knows_no_interface_and_no_storage(self) -> None:
        standard = sys.stdlib_module_names - {
            "sqlite3",
            "socket",
            "urllib",
            "http",
            "os",
            "random",
            "logging",
            "threading",
        }
        for path in (CODE / "core").rglob("*.py"):
            for name in imports_of(path):
                root = name.split(".")[0]
                self.assertIn(root, standard | THIRD_PARTY_OF_CORE | {"walkround"}, f"{path.name} imports {name}")

    def test_the_core_asks_no_clock(self) -> None:
        for path in (CODE / "core").rglob("*.py"):
            text = path.read_text()
            self.assertNotRegex(text, r"\.now\(\)|utcnow|\.today\(\)\s*-\s*date|time\.time|datetime\.now", path.name)

    def test_templates_and_routers_stay_in_their_place(self) -> None:
        for path in (CODE / "web").rglob("*.py"):
            self.assertNotRegex(path.read_text(), r"execute_sql|<div|<p ", f"{path.name} writes SQL or HTML")


class Files(unittest.TestCase):
    def test_readable_in_one_sitting(self) -> None:
        for path in tracked("*.py", "*.html", "*.js"):
            lines = len(path.read_text().splitlines())
            most = 150 if path.suffix == ".html" else 400
            self.assertLessEqual(lines, most, path.relative_to(ROOT))

    def test_templates_compute_nothing_and_stay_narrow(self) -> None:
        """Numbers come ready from Python: no sum, no product, no range; no line over 160 characters."""
        computing = (nodes.Add, nodes.Sub, nodes.Mul, nodes.Div, nodes.FloorDiv, nodes.Mod, nodes.Pow)
        for path in tracked("walkround/web/templates/*.html", "walkround/web/templates/**/*.html"):
            text = path.read_text()
            for number, line in enumerate(text.splitlines(), 1):
                self.assertLessEqual(len(line), 160, f"{path.name}:{number}")
            tree = templates.env.parse(text)
            found = [node.lineno for node in tree.find_all(computing)]
            found += [c.lineno for c in tree.find_all(nodes.Call) if getattr(c.node, "name", "") == "range"]
            self.assertEqual(found, [], path.relative_to(ROOT))

    def test_assertions_look_at_what_the_code_gave(self) -> None:
        """Never at constants alone, and never at an item of a list that the test itself wrote down."""
        for path in tracked("tests/*.py", "tests/**/*.py"):
            for node in ast.walk(ast.parse(path.read_text())):
                if not (isinstance(node, ast.Call) and isinstance(node.func, ast.Attribute)):
                    continue
                if not node.func.attr.startswith("assert") or not node.args:
                    continue
                where = f"{path.relative_to(ROOT)}:{node.lineno}"
                self.assertFalse(all(isinstance(arg, ast.Constant) for arg in node.args), where)
                for arg in node.args:
                    literal = isinstance(arg, ast.Subscript) and isinstance(arg.value, ast.List | ast.Tuple | ast.Dict)
                    self.assertFalse(literal, where)

    def test_every_module_has_its_test(self) -> None:
        """A test module of its name, or the one named here, which has to be there and has to be needed."""
        for floor in ("core", "store", "simulators", "web"):
            for path in (CODE / floor).rglob("*.py"):
                module = path.relative_to(CODE)
                own = ROOT / "tests" / module.parent / f"test_{module.name}"
                with self.subTest(module.as_posix()):
                    if module.as_posix() in TESTED_IN:
                        self.assertFalse(own.exists(), "it has a test of its own")
                        self.assertTrue((ROOT / TESTED_IN[module.as_posix()][0]).exists())
                    elif path.name != "__init__.py" and module.parent.as_posix() not in OF_ONE_KIND:
                        self.assertTrue(own.exists(), f"{own.relative_to(ROOT)} is missing")
        for module in TESTED_IN:
            self.assertTrue((CODE / module).exists(), module)
        for folder, test in OF_ONE_KIND.items():
            self.assertTrue((CODE / folder).is_dir() and (ROOT / test).exists(), folder)

    def test_every_test_has_its_module(self) -> None:
        strays = set()
        for floor in ALLOWED:
            for path in (ROOT / "tests" / floor).rglob("test_*.py"):
                module = CODE / path.relative_to(ROOT / "tests").with_name(path.name[5:])
                if not module.exists() and not module.with_suffix("").is_dir():
                    strays.add(path.relative_to(ROOT).as_posix())
        self.assertEqual(strays, set(WHOLE_SUBJECTS))

    def test_every_module_of_the_core_is_met_by_a_test(self) -> None:
        met = {name for path in (ROOT / "tests").rglob("*.py") for name in named_in(path)}
        for path in (CODE / "core").rglob("*.py"):
            name = ".".join(path.relative_to(ROOT).with_suffix("").parts)
            alike = any(path.is_relative_to(CODE / room) for room in OF_ONE_KIND)
            if path.name != "__init__.py" and name not in ONLY_THROUGH_OTHERS and not alike:
                self.assertIn(name, met)

    def test_no_registry_host_is_named(self) -> None:
        hosts = re.compile(r"(pypi|pythonhosted|npmjs|debian)\.(org|com)|registry\.[a-z]+\.[a-z]+", re.IGNORECASE)
        for path in tracked():
            if path.suffix in {".png", ".woff2", ".ico"} or path == Path(__file__):
                continue
            self.assertIsNone(hosts.search(path.read_text(errors="replace")), path.relative_to(ROOT))

    def test_pages_name_no_other_host(self) -> None:
        for path in tracked("walkround/web/*.html", "walkround/web/*.css", "walkround/web/*.js", "walkround/web/*.svg"):
            text = re.sub(r"http://www\.w3\.org/\d+/svg", "", path.read_text())
            self.assertNotRegex(text, r"https?://|//[a-z]+\.[a-z]+/", path.relative_to(ROOT))

    def test_light_colours_for_older_tablets_are_those_of_the_pairs(self) -> None:
        theme = (CODE / "web" / "static" / "css" / "theme.css").read_text()
        plain = dict(re.findall(r"^  (--[a-z-]+): ([^;]+);$", theme, re.MULTILINE))
        pairs = re.findall(r"^    (--[a-z-]+): light-dark\((.+), (?:rgb.+|#\w+)\);$", theme, re.MULTILINE)
        self.assertGreater(len(pairs), 20)
        for name, light in pairs:
            self.assertEqual(plain[name], light, name)

    def test_a_level_has_no_look_of_its_own(self) -> None:
        """A class like ``caution`` says how grave a thing is; what it looks like depends on what wears it."""
        for sheet in (CODE / "web" / "static" / "css").glob("*.css"):
            found = re.findall(
                r"(?:^|[},])\s*\.(?:clear|caution|grounded|open|skipped)(?=[\s,{]*\{|,|\s+\.icon)", sheet.read_text()
            )
            self.assertEqual(found, [], sheet.name)

    def test_every_vendored_file_is_listed_with_its_licence(self) -> None:
        text = (CODE / "web" / "static" / "vendor" / "LICENCES.md").read_text()
        for path in (CODE / "web" / "static" / "vendor").iterdir():
            if path.name != "LICENCES.md":
                self.assertIn(path.name, text)

    def test_guides_name_files_that_exist(self) -> None:
        for guide in (ROOT / "README.md", *(ROOT / "docs").rglob("*.md")):
            for target in re.findall(r"\]\(([^)#]+)\)", guide.read_text()):
                self.assertTrue((guide.parent / target).exists(), f"{guide.name}: {target}")
            for target in re.findall(r"`((?:walkround|tests|scripts|core)/[\w/.]+)`", guide.read_text()):
                inside = CODE / target if target.startswith("core/") else ROOT / target
                self.assertTrue(inside.exists(), f"{guide.name}: {target}")

    def test_pictures_are_few_and_linked(self) -> None:
        pictures = list((ROOT / "docs" / "screenshots").glob("*.png"))
        self.assertTrue(0 < len(pictures) < 20)
        for picture in pictures:
            self.assertIn(f"docs/screenshots/{picture.name}", (ROOT / "README.md").read_text())

    def test_what_the_scripts_change_is_still_there(self) -> None:
        self.assertEqual(put_back.lost(), [])
        for module, names in mutants.ALSO.items():
            self.assertTrue((CODE / "core" / f"{module.replace('.', '/')}.py").exists(), module)
            for name in names:
                self.assertTrue((ROOT / "tests" / f"{name.replace('.', '/')}.py").exists(), name)

    def test_requirements_are_exact(self) -> None:
        for name in ("requirements.txt", "requirements-dev.txt"):
            for line in (ROOT / name).read_text().splitlines():
                if line and not line.startswith(("#", "-r")):
                    self.assertRegex(line, r"^[A-Za-z0-9_.-]+==[0-9][0-9A-Za-z.+]*$", f"{name}: {line}")


if __name__ == "__main__":
    unittest.main()
