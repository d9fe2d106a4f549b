"""The house: imports point downward only, files can be read in one sitting, nothing names another host."""

import ast
import re
import subprocess
import sys
import unittest
from pathlib import Path

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
    ("packs", "field"),
    ("weather", "airspace"),
    ("flight",),
    ("answers",),
    ("checklist",),
    ("round",),
)
WHOLE_SUBJECTS = {
    "tests/core/field/test_launch.py",
    "tests/core/test_docs.py",
    "tests/simulators/test_simulators.py",
    "tests/store/test_ahead.py",
    "tests/store/test_power.py",
    "tests/web/test_fuzz.py",
    "tests/web/test_queries.py",
}
ONLY_THROUGH_OTHERS = {
    "walkround.core.base.value",  # what everything is made of
    "walkround.core.round.reasons",  # by the plan's words
    "walkround.core.round.occasions",  # by the plan
    *(
        f"walkround.core.aircraft.planform.{name}" for name in ("multirotor", "wing", "shapes", "helicopter")
    ),  # by the drawing
}
"""Modules of the core that no test names."""
THIRD_PARTY_OF_CORE = {"pydantic", "numpy", "metar", "pynmea2", "geographiclib", "astral", "gpxpy", "shapely"}


def imports_of(path: Path) -> set[str]:
    names = set()
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            names |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module:
            names |= (
                {f"{node.module}.{alias.name}" for alias in node.names} if node.module == "walkround" else {node.module}
            )
    return names


def named_in(path: Path) -> set[str]:
    """Modules that a file imports, those taken from a room by ``from room import module`` included."""
    nodes = [n for n in ast.walk(ast.parse(path.read_text())) if isinstance(n, ast.ImportFrom)]
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

    def test_tests_mirror_the_code(self) -> None:
        """A test lies where its code lies; those of a whole subject are named here."""
        strays = {path.relative_to(ROOT).as_posix() for floor in ALLOWED for path in (ROOT / "tests" / floor).rglob("test_*.py")
                  if not any((CODE / path.relative_to(ROOT / "tests").with_name(name)).exists()
                             for name in (path.name[5:], path.stem[5:]))}  # fmt: skip
        self.assertEqual(strays, WHOLE_SUBJECTS)

    def test_every_module_of_the_core_is_met_by_a_test(self) -> None:
        met = {name for path in (ROOT / "tests").rglob("*.py") for name in named_in(path)}
        for path in (CODE / "core").rglob("*.py"):
            name = ".".join(path.relative_to(ROOT).with_suffix("").parts)
            if path.name != "__init__.py" and name not in ONLY_THROUGH_OTHERS and ".library." not in name:
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
        theme = (CODE / "web" / "static" / "theme.css").read_text()
        plain = dict(re.findall(r"^  (--[a-z-]+): ([^;]+);$", theme, re.MULTILINE))
        pairs = re.findall(r"^    (--[a-z-]+): light-dark\((.+), (?:rgb.+|#\w+)\);$", theme, re.MULTILINE)
        self.assertGreater(len(pairs), 20)
        for name, light in pairs:
            self.assertEqual(plain[name], light, name)

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

    def test_requirements_are_exact(self) -> None:
        for name in ("requirements.txt", "requirements-dev.txt"):
            for line in (ROOT / name).read_text().splitlines():
                if line and not line.startswith(("#", "-r")):
                    self.assertRegex(line, r"^[A-Za-z0-9_.-]+==[0-9][0-9A-Za-z.+]*$", f"{name}: {line}")


if __name__ == "__main__":
    unittest.main()
