"""The pages: one table that navigation, titles, accessibility, phone, query count, benchmark and screenshots read.

A page is listed once, by its template; a test fails for a page that is not here.
"""

from enum import StrEnum

from walkround.core.base.struct import Struct
from walkround.core.base.wording import capital


class Place(StrEnum):
    """The six places of the navigation: the name of its first page, and of its icon."""

    TODAY = "today"
    HANGAR = "hangar"
    FIELDS = "fields"
    PACKS = "packs"
    LOGBOOK = "logbook"
    SETTINGS = "settings"

    @property
    def words(self) -> str:
        """Its name."""
        return capital(self.value)


MOVING = frozenset({"walk", "flight", "verdict", "library"})
"""Modules that describe parts of a page for Alpine."""


EVERYWHERE = ("theme", "pages")
"""Style sheets of every page."""


class Page(Struct, frozen=True):
    """One page: its template, its title, the place it belongs to, and the names of the addresses that answer with it.

    ``examples``: addresses in the demo, ``{round}`` being a round in progress and ``{wing}`` one of a fixed wing; the first
    is the usual one. ``queries``: questions to the book that the first may ask at most, 0 where none are counted.
    ``measured``: addresses for the benchmark by their names there; ``picture``: the name of its screenshot and its address;
    ``scripts``: modules of ``static/js`` that it needs besides those of every page; ``sheets``: the same of ``static/css``.
    """

    template: str
    title: str
    place: Place | None
    routes: tuple[str, ...]
    examples: tuple[str, ...]
    queries: int = 0
    measured: tuple[tuple[str, str], ...] = ()
    picture: tuple[str, str] | None = None
    scripts: tuple[str, ...] = ()
    sheets: tuple[str, ...] = ()

    @property
    def styled_by(self) -> tuple[str, ...]:
        """Its style sheets, in their order."""
        return (*EVERYWHERE, *self.sheets)

    @property
    def moves(self) -> bool:
        """Whether parts of it move by themselves, described in the template."""
        return any(script in MOVING for script in self.scripts)


PAGES = (
    Page("today/page.html", "Today", Place.TODAY, ("today",), ("/", "/?aircraft=2&pack=4"), 36,
         measured=(("Today", "/"),), picture=("today", "/"),
         sheets=("craft", "today")),
    Page("ahead/page.html", "Hours ahead", Place.FIELDS, ("ahead",), ("/ahead", "/ahead?aircraft=1"), 38,
         measured=(("Hours ahead", "/ahead?aircraft=1"),), picture=("ahead", "/ahead?aircraft=1"),
         sheets=("ahead",)),
    Page("rounds/walk.html", "Walk round", None, ("walk",),
         ("{round}", "{round}?check=pack.cells", "{round}?check=sky.weather", "{round}?check=airframe.propellers",
          "{round}?check=power.aircraft_on", "{round}?check=power.still_long", "{round}?check=field.people",
          "{round}?check=sensors.satellites", "{round}?check=first.hover", "{round}?check=airframe.propeller_side",
          "{round}?check=bag.first_pass", "{round}?check=pack.plan", "{round}?check=pack.body",
          "{round}?check=bench.packs_ready", "{round}?check=pack.percent", "{wing}?station=airframe",
          "{wing}?check=controls.surfaces"), 10,
         measured=(("Walk page", "{round}?station=airframe"),), scripts=("walk",),
         sheets=("craft", "sticks", "walk", "endurance", "sky")),
    Page("cards/card.html", "Paper checklist", Place.HANGAR, ("card", "master_card"),
         ("{round}/card", "/hangar/aircraft/3/card"), 9, measured=(("Paper checklist", "{round}/card"),),
         sheets=("craft", "sticks", "paper")),
    Page("cards/entry.html", "Enter a paper checklist", Place.TODAY, ("entry",), ("{round}/entry",), 9,
         sheets=("paper",)),
    Page("verdicts/page.html", "Verdict", None, ("verdict",), ("/rounds/1/verdict", "{round}/verdict"), 7,
         measured=(("Verdict", "{round}/verdict"),), picture=("verdict-signed", "/rounds/1/verdict"), scripts=("verdict", "flight/main"),
         sheets=("craft", "verdict", "flight")),
    Page("flights/page.html", "Flight", None, ("flight",), ("/rounds/1/flight",), 8,
         measured=(("Flight", "/rounds/1/flight"),), scripts=("walk", "flight/main"),
         sheets=("craft", "sticks", "walk", "endurance", "sky", "flight")),
    Page("session/page.html", "Energy of the session", Place.TODAY, ("session",), ("/session", "/session?flights=8&bright=1"), 31,
         measured=(("Energy of the session", "/session"),),
         sheets=("session",)),
    Page("due/page.html", "What is due", Place.PACKS, ("due",), ("/due",), 8, measured=(("What is due", "/due"),)),
    Page("accident/page.html", "Accident or near miss", None, ("accident",), ("/accident",), 8),
    Page("accident/report.html", "Report", None, ("accident_report",), ("/accident/1",), 5),
    Page("hangar/page.html", "Hangar", Place.HANGAR, ("hangar",), ("/hangar",), 8, measured=(("Hangar", "/hangar"),),
         sheets=("craft", "hangar")),
    Page("hangar/choose.html", "Add an aircraft", Place.HANGAR, ("choose_aircraft",), ("/hangar/aircraft/new",), 2,
         sheets=("craft", "hangar")),
    Page("hangar/aircraft.html", "Aircraft", Place.HANGAR, ("aircraft", "new_aircraft"),
         ("/hangar/aircraft/1", "/hangar/aircraft/2", "/hangar/aircraft/new/camera-quad", "/hangar/aircraft/new/twin"), 41,
         measured=(("One aircraft", "/hangar/aircraft/1"),), picture=("aircraft", "/hangar/aircraft/2"),
         sheets=("craft", "aircraft")),
    Page("bag/page.html", "Bag", Place.HANGAR, ("bag",), ("/hangar/aircraft/1/bag",), 3,
         measured=(("Bag", "/hangar/aircraft/1/bag"),),
         sheets=("paper",)),
    Page("parts/page.html", "Parts", Place.HANGAR, ("parts",), ("/hangar/aircraft/1/parts",), 4,
         measured=(("Parts", "/hangar/aircraft/1/parts"),),
         sheets=("parts",)),
    Page("failsafe/page.html", "Failsafe", Place.HANGAR, ("failsafe",), ("/hangar/aircraft/1/failsafe", "/hangar/aircraft/3/failsafe"), 40,
         measured=(("Failsafe", "/hangar/aircraft/1/failsafe"),), picture=("failsafe", "/hangar/aircraft/1/failsafe"),
         sheets=("sticks", "lost")),
    Page("failsafe/bench.html", "Failsafe bench test", Place.HANGAR, ("bench_test",),
         ("/hangar/aircraft/2/failsafe/test", "/hangar/aircraft/3/failsafe/test"), 5, scripts=("lost/bench",),
         sheets=("lost",)),
    Page("oddly/page.html", "It behaved oddly", Place.HANGAR, ("oddly",),
         ("/hangar/aircraft/1/oddly?symptom=CIRCLES", "/hangar/aircraft/2/oddly?symptom=VIBRATES&symptom=NOISE"), 40,
         measured=(("It behaved oddly", "/hangar/aircraft/1/oddly?symptom=CIRCLES"),),
         sheets=("parts",)),
    Page("damage/page.html", "Damage", Place.HANGAR, ("damage",),
         ("/hangar/aircraft/1/damage?part=propeller-1&damage=NICK&place=EDGE", "/hangar/aircraft/2/damage"), 9,
         measured=(("Damage", "/hangar/aircraft/1/damage?part=propeller-1&damage=NICK&place=EDGE"),),
         sheets=("parts",)),
    Page("parts/part.html", "Part", Place.HANGAR, ("part",),
         ("/hangar/aircraft/1/part?part_id=arm-4/latch", "/hangar/aircraft/1/part?part_id=propeller-1/blade-1"), 14,
         measured=(("Part", "/hangar/aircraft/1/part?part_id=arm-4/latch"),)),
    Page("parts/setup.html", "Parts to inspect", Place.HANGAR, ("inspection",), ("/hangar/aircraft/1/inspection", "/hangar/aircraft/2/inspection"), 20,
         measured=(("Parts to inspect", "/hangar/aircraft/1/inspection"),),
         sheets=("parts",)),
    Page("compass/page.html", "Compass", Place.HANGAR, ("compass",),
         ("/hangar/aircraft/1/compass", "/hangar/aircraft/1/compass?way=all axes", "/hangar/aircraft/2/compass", "/hangar/aircraft/1/compass?recording=1"), 44,
         measured=(("Compass", "/hangar/aircraft/1/compass"),), scripts=("compass",),
         sheets=("compass",)),
    Page("compass/heading.html", "Heading", Place.HANGAR, ("heading",),
         ("/hangar/aircraft/1/heading", "/hangar/aircraft/1/heading?against=COMPASS", "/hangar/aircraft/1/heading?against=LANDMARK"), 44,
         measured=(("Heading", "/hangar/aircraft/1/heading"),)),
    Page("compass/level.html", "Level", Place.HANGAR, ("level",), ("/hangar/aircraft/1/level",), 44,
         measured=(("Level", "/hangar/aircraft/1/level"),), scripts=("compass",),
         sheets=("compass",)),
    Page("controller/page.html", "Flight controller", Place.HANGAR, ("controller", "recording"),
         ("/hangar/aircraft/1/controller", "/hangar/aircraft/1/controller/recordings/1"), 40,
         measured=(("Flight controller", "/hangar/aircraft/1/controller"),), scripts=("compass",),
         sheets=("compass",)),
    Page("arming/page.html", "Why it will not arm", Place.HANGAR, ("arming",), ("/hangar/aircraft/1/arming",), 40,
         measured=(("Why it will not arm", "/hangar/aircraft/1/arming"),),
         sheets=("compass",)),
    Page("works/page.html", "How it works", Place.HANGAR, ("works",), ("/hangar/aircraft/1/works", "/hangar/aircraft/2/works"), 4,
         measured=(("How it works", "/hangar/aircraft/1/works"),), scripts=("works",),
         sheets=("sticks", "lost", "compass")),
    Page("works/quiz.html", "Quiz", Place.HANGAR, ("works_quiz",), ("/hangar/aircraft/1/works/quiz",), 4),
    Page("proving/page.html", "Proving", Place.HANGAR, ("proving",), ("/hangar/aircraft/5/proving", "/hangar/aircraft/4/proving"), 5,
         measured=(("Proving", "/hangar/aircraft/5/proving"),),
         sheets=("compass",)),
    Page("touches/page.html", "By touch", Place.TODAY, ("touch",), ("{round}/touch", "{wing}/touch"), 20,
         measured=(("By touch", "{round}/touch"),), scripts=("touch",),
         sheets=("craft", "touch")),
    Page("snags/page.html", "Snags", Place.HANGAR, ("snags",), ("/snags",), 7, measured=(("Snags", "/snags"),),
         sheets=("parts",)),
    Page("fields/index.html", "Fields", Place.FIELDS, ("fields",), ("/fields",), 3),
    Page("fields/page.html", "Field", Place.FIELDS, ("field",),
         ("/fields/1", "/fields/1?sel=m1", "/fields/1?sel=flight_area"), 31, measured=(("Field with its plan", "/fields/1"),),
         picture=("field", "/fields/1?sel=m3&from=18:10&minutes=60"), scripts=("plan/main",),
         sheets=("plan",)),
    Page("fields/details.html", "Field", Place.FIELDS, ("field_details", "new_field"),
         ("/fields/1/details", "/fields/new"), 3),
    Page("airspace/page.html", "Airspace", Place.FIELDS, ("airspace",), ("/fields/1/airspace",), 31,
         measured=(("Airspace", "/fields/1/airspace"),), picture=("airspace", "/fields/2/airspace"),
         sheets=("plan", "airspace")),
    Page("fields/sky.html", "Sky", Place.FIELDS, ("sky",), ("/fields/1/sky", "/fields/2/sky"), 4, measured=(("Sky over a field", "/fields/1/sky"),),
         sheets=("plan", "sky")),
    Page("brief/page.html", "Crew brief", Place.FIELDS, ("brief",), ("/fields/1/brief",), 26,
         measured=(("Crew brief", "/fields/1/brief"),),
         sheets=("sticks", "plan", "paper")),
    Page("home/page.html", "Return to home", Place.FIELDS, ("home",), ("/fields/1/home", "/fields/2/home?height=22"), 32,
         measured=(("Return to home", "/fields/1/home?aircraft=1&height=60"),),
         picture=("home", "/fields/2/home?aircraft=1&height=60"),
         sheets=("home",)),
    Page("link_lost/page.html", "If the signal is lost", Place.FIELDS, ("link_lost",),
         ("/fields/1/link-lost", "/fields/1/link-lost?aircraft=2", "/fields/2/link-lost?action=HOVER"), 36,
         measured=(("If the signal is lost", "/fields/1/link-lost?aircraft=1"),),
         picture=("link-lost", "/fields/1/link-lost?aircraft=2&whole=1"), scripts=("lost/main",),
         sheets=("plan", "lost")),
    Page("packs/list.html", "Packs", Place.PACKS, ("packs",), ("/packs", "/packs?aircraft=2"), 9,
         measured=(("All packs", "/packs"),),
         sheets=("packs",)),
    Page("hangar/fleet.html", "Set up a fleet", Place.HANGAR, ("fleet",), ("/hangar/fleet",), 2,
         sheets=("hangar",)),
    Page("packs/page.html", "Pack", Place.PACKS, ("pack", "new_pack"),
         ("/packs/1", "/packs/5", "/packs/7", "/packs/new"), 12,
         measured=(("One pack with its history", "/packs/1"),), picture=("pack", "/packs/1"),
         sheets=("packs",)),
    Page("readings/page.html", "New reading", Place.PACKS, ("read_pack",), ("/packs/1/read", "/packs/4/read"), 3,
         sheets=("packs",)),
    Page("readings/look.html", "Inspect a pack", Place.PACKS, ("look_pack",), ("/packs/4/look",), 3,
         sheets=("packs",)),
    Page("charging/page.html", "Charging plan", Place.PACKS, ("charging",), ("/packs/charging",), 7,
         measured=(("Charging plan", "/packs/charging"),),
         sheets=("endurance",)),
    Page("tables/page.html", "Import readings", Place.PACKS, ("tables",), ("/packs/table",), 2),
    Page("tables/table.html", "Import readings", Place.PACKS, ("table",), (),
         sheets=("tables",)),
    Page("endurance/page.html", "Flight time", Place.PACKS, ("endurance",),
         ("/endurance", "/endurance?pack=1", "/endurance?pack=4"), 34,
         measured=(("Flight time", "/endurance?aircraft=1&pack=1"),),
         picture=("endurance", "/endurance?aircraft=1&pack=1&work_min=4&hover_min=0.5&out_m=300&height_m=45"),
         sheets=("endurance",)),
    Page("logbook/page.html", "Logbook", Place.LOGBOOK, ("logbook",), ("/logbook",), 8, picture=("logbook", "/logbook"),
         measured=(("Logbook", "/logbook"),),
         sheets=("logbook",)),
    Page("settings/page.html", "Settings", Place.SETTINGS, ("settings",), ("/settings",), 2),
    Page("methods/page.html", "Methods", Place.SETTINGS, ("methods",), ("/methods", "/methods?aircraft=1"), 26,
         measured=(("Methods, every effect", "/methods?aircraft=1"),),
         sheets=("library",)),
    Page("checks/page.html", "Checks", Place.SETTINGS, ("checks",), ("/checks", "/checks?aircraft=4"), 26,
         measured=(("Checks, all with why and why not", "/checks?aircraft=1"),), picture=("checks", "/checks?aircraft=2"), scripts=("library",),
         sheets=("library",)),
    Page("checks/list.html", "Work in a list", Place.SETTINGS, ("pasted_list",), ("/pasted-list",), 3),
    Page("checks/check.html", "Check", Place.SETTINGS, ("check",), ("/checks/airframe.shell",), 26),
    Page("checks/new.html", "Your own check", Place.SETTINGS, ("new_check",), ("/checks/new",), 2),
    Page("devices/page.html", "Devices", Place.SETTINGS, ("devices",), ("/devices",), 2,
         sheets=("library",)),
    Page("sign_in/page.html", "Sign in", None, ("sign_in",), ("/sign-in",)),
    Page("error.html", "Not found", None, (), ("/nowhere",)),
)  # fmt: skip
"""Every page, once."""
BY_TEMPLATE = {page.template: page for page in PAGES}
NO_PAGE = Page("", "Walk Round", None, (), ())
"""For fragments of a page."""
