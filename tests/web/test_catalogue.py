"""The catalogue of pages: every page is in it, under the right place and title, and everything it names is there."""

import re
from pathlib import Path

from tests.support import WebCase, elements
from walkround.web import pages
from walkround.web.app import everything
from walkround.web.catalogue import EVERYWHERE, PAGES, Place

FRAGMENTS_AND_FILES = {
    "stamp", "record_json", "snag_photo", "logbook_csv", "authority", "readings_csv", "export_aircraft", "schema", "plan_geojson",
    "plan_gpx", "better_spot", "export_list", "flight_state", "flight_worker", "due_calendar", "accident_photo",
    "bench_reading", "compass_live", "controller_live", "recording_text", "still_live", "link_lost_track", "link_lost_area",
}  # fmt: skip
"""Addresses that answer with a file, or with a part of a page."""
PSEUDO = re.compile(r":(?:not|has)\(.*?\)")
UNSEEN = {
    "tables/table.html": {"tables"},
    "rounds/walk.html": {"sky"},
    "flights/page.html": {"craft", "sky"},
    "brief/page.html": {"sticks"},
}
"""Sheets of what the examples of a page do not show: a table, a fix, the walk after landing, the sticks of a crew."""
STATIC = Path(pages.__file__).parent / "static"


class Catalogue(WebCase):
    def test_every_page_is_in_it_once(self) -> None:
        names = [route.name for route in everything() if "GET" in route.methods]  # type: ignore[attr-defined]
        listed = [name for page in PAGES for name in page.routes]
        self.assertEqual(sorted(names), sorted([*listed, *FRAGMENTS_AND_FILES]))
        self.assertEqual(len({page.template for page in PAGES}), len(PAGES))

    def test_every_whole_template_is_in_it(self) -> None:
        folder = Path(pages.__file__).parent / "templates"
        whole = {
            path.relative_to(folder).as_posix()
            for path in folder.rglob("*.html")
            if '{% extends "base.html" %}' in path.read_text()
        }
        self.assertEqual(whole, {page.template for page in PAGES})

    def test_each_has_its_title_and_its_place(self) -> None:
        number = self.start()
        icons = set(re.findall(r'<symbol id="([\w-]+)"', (STATIC / "icons.svg").read_text()))
        for page in PAGES:
            for example in page.examples:
                text = self.client.get(example.format(round=f"/rounds/{number}", wing=f"/rounds/{number}")).text
                with self.subTest(example):
                    self.assertRegex(text, r"<title>[^<]+ · Walk Round</title>")
                    here = re.findall(r'href="([^"]+)" aria-current="page">\s*<svg', text)
                    wanted = (
                        [] if page.place is None else ["/" if page.place is Place.TODAY else f"/{page.place.value}"]
                    )
                    self.assertEqual(here, wanted)
                    self.assertEqual(set(re.findall(r"icons\.svg#([\w-]+)", text)) - icons, set())

    def test_scripts(self) -> None:
        """Each page loads the modules that its parts are described in, and every module is there."""
        folder = STATIC.parent / "templates"

        def parts(name: str) -> str:
            text = (folder / name).read_text()
            inside = re.findall(r'{%-? (?:include|from) "([^"]+)"', text) + re.findall(
                r'"(rounds/answers/[^"]+)"', text
            )
            return text + "".join(parts(other) for other in inside if other != name)

        answers = "".join(path.read_text() for path in (folder / "rounds" / "answers").glob("*.html"))
        for page in PAGES:
            text = parts(page.template) + (answers if "walk" in page.scripts else "")
            modules = "".join((STATIC / "js" / f"{script}.js").read_text() for script in page.scripts)
            with self.subTest(page.template):
                described = set(re.findall(r'Alpine\.data\("(\w+)"', modules))
                self.assertEqual(set(re.findall(r'x-data="(\w+)"', text)) - described, set())
                self.assertEqual(page.moves, bool(described))

    def test_sheets(self) -> None:
        """What has a look in some sheet has one on each page it is used on, and each sheet is there and of use."""
        text = {path.stem: path.read_text() for path in (STATIC / "css").glob("*.css")}
        self.assertEqual(set(text), set(EVERYWHERE).union(*(page.sheets for page in PAGES)))
        named = {sheet: {name for one in heads(rules) for name in names(one)} for sheet, rules in text.items()}
        leading = {
            sheet: {names(PSEUDO.sub("", one).split()[0]) for one in heads(rules)} for sheet, rules in text.items()
        }
        number = self.start()
        wing = self.start("Haymaker", "H1")
        for page in PAGES:
            loaded = set().union(*(named[sheet] for sheet in page.styled_by))
            missed = {one for ones in leading.values() for one in ones if one - loaded}
            used: set[frozenset[str]] = set()
            for example in page.examples:
                shown = self.client.get(example.format(round=f"/rounds/{number}", wing=f"/rounds/{wing}")).text
                here = {frozenset(str(e.attributes["class"]).split()) for e in elements(shown, "[class]")}
                with self.subTest(example):
                    self.assertEqual([one for one in missed if any(one <= worn for worn in here)], [])
                used |= here
            for sheet in set(page.sheets) - UNSEEN.get(page.template, set()):
                with self.subTest(f"{page.template} has a use for {sheet}"):
                    self.assertTrue(any(worn & named[sheet] for worn in used))

    def test_modules_import_what_is_there(self) -> None:
        for path in (STATIC / "js").rglob("*.js"):
            for name in re.findall(r'import (?:[^"]+ from )?"([^"]+)";', path.read_text()):
                with self.subTest(f"{path.name} {name}"):
                    self.assertTrue((path.parent / name).is_file())

    def test_the_places_are_pages(self) -> None:
        first = {page.routes[0] for page in PAGES if page.routes}
        self.assertEqual({place.value for place in Place} - first, set())


def heads(sheet: str) -> list[str]:
    """The selectors of a style sheet, one by one."""
    found = re.findall(r"([^{}]+)\{", re.sub(r"/\*.*?\*/", "", sheet, flags=re.DOTALL))
    return [
        one.strip() for head in found if not head.strip().startswith("@") for one in re.split(r",(?![^(]*\))", head)
    ]


def names(selector: str) -> frozenset[str]:
    """The classes in a selector."""
    return frozenset(re.findall(r"\.([a-z][\w-]*)", PSEUDO.sub("", selector)))
