"""Pages agree: for the same moment Today, field, flight-time and return pages, brief and walk say the same of the same subject."""

from datetime import datetime, timedelta

from tests.support import WebCase
from walkround.core.base.finding import Finding, Level
from walkround.store import rounds
from walkround.store import settings as store_settings
from walkround.web import pages

HOURS = (2, 3, 4, 7, 12, 17, 18, 19, 22)
SKIES = ("breeze", "gusty", "rain", "mist", "half", "silent")
SUBJECTS = ("Way home", "Daylight", "Sun", "In sight", "People", "Zone", "Zone later", "Zone near", "Height in the zone", "Age of the zones",
            "Pack", "Planned use", "Left at landing", "Wind", "Gust", "Wind aloft", "Precipitation", "Visibility", "Cloud base", "Not read",
            "Near the compass", "Near the link")  # fmt: skip


class Agree(WebCase):
    def setUp(self) -> None:
        super().setUp()
        # What each page was given to show, as it is handed to its template.
        self.given: dict[str, object] = {}
        real = pages.templates.TemplateResponse

        def noting(request, name, context, *args, **kwargs):  # type: ignore[no-untyped-def]
            self.given = context
            return real(request, name, context, *args, **kwargs)

        pages.templates.TemplateResponse = noting  # type: ignore[method-assign]
        self.addCleanup(setattr, pages.templates, "TemplateResponse", real)

    def show(self, path: str) -> dict[str, object]:
        answer = self.client.get(path)
        self.assertEqual(answer.status_code, 200, path)
        return self.given

    def found(self, path: str, *names: str) -> dict[str, Level]:
        """The worst level of each finding by its name, from everything that a page was given to show."""
        given = self.show(path)
        levels: dict[str, Level] = {}

        def take(what: object) -> None:
            if isinstance(what, Finding):
                levels[what.name] = max(levels.get(what.name, Level.CLEAR), what.level)
            elif isinstance(what, list | tuple):
                for one in what:
                    take(one)

        for name in names:
            value = given[name]
            take(value.conditions if name == "brief" else value)  # type: ignore[attr-defined]
        return levels

    def agree(self, pages: dict[str, dict[str, Level]], told_all: set[str]) -> None:
        for subject in SUBJECTS:
            said = {page: levels[subject] for page, levels in pages.items() if subject in levels}
            self.assertLessEqual(len(set(said.values())), 1, f"{subject}: {said}")
            worst = max(said.values(), default=Level.CLEAR)
            if worst > Level.CLEAR:
                # Today tells everything that is not clear.
                self.assertIn(subject, pages["today"], f"{subject}: {said}")
        self.assertTrue(told_all <= set(pages))

    def pages(self) -> dict[str, dict[str, Level]]:
        quad, site = self.numbers["Sandpiper"], self.numbers["Teasel Common"]
        pack = self.show(f"/?aircraft={quad}&site={site}")["choice"].pack.id  # type: ignore[attr-defined]
        query = f"aircraft={quad}&pack={pack}&site={site}"
        return {
            "today": self.found(f"/?{query}", "between", "sky"),
            "field": self.found(f"/fields/{site}?{query}", "findings"),
            "airspace": self.found(f"/fields/{site}/airspace?{query}", "findings"),
            "flight time": self.found(f"/endurance?{query}", "findings"),
            "brief": self.found(f"/fields/{site}/brief?{query}", "brief"),
        }

    def test_at_every_hour_and_under_every_sky(self) -> None:
        seen: set[Level] = set()
        for hour in HOURS:
            for sky in SKIES:
                with self.subTest(f"{hour} h, {sky}"):
                    self.now = datetime(2026, 5, 16, hour, 35, tzinfo=self.now.tzinfo)
                    store_settings.save(
                        devices={"weather": sky, "checker": "fresh", "receiver": "open", "notices": "quiet"}
                    )
                    shown = self.pages()
                    self.agree(shown, {"today", "field", "airspace", "flight time", "brief"})
                    seen |= {level for levels in shown.values() for level in levels.values()}
        self.assertEqual(seen, set(Level))

    def test_dusk_minute_by_minute(self) -> None:
        """Round the minutes at which the light changes for a flight of its length: all change together."""
        start = datetime(2026, 5, 16, 18, 0, tzinfo=self.now.tzinfo)
        lights = []
        for minutes in range(0, 90, 6):
            self.now = start + timedelta(minutes=minutes)
            shown = self.pages()
            self.agree(shown, set())
            lights.append(shown["today"].get("Daylight", Level.CLEAR))
        self.assertEqual(lights, sorted(lights))
        self.assertEqual(set(lights), set(Level))

    def test_today_and_the_walk_begun_from_it(self) -> None:
        for hour in (7, 18, 19):
            with self.subTest(hour):
                self.now = datetime(2026, 5, 16, hour, 20, tzinfo=self.now.tzinfo)
                today = self.found(
                    f"/?aircraft={self.numbers['Sandpiper']}&pack={self.numbers['S1']}", "between", "sky"
                )
                number = self.start()
                for check, option in (
                    ("sky.look", "quiet"),
                    ("field.sun", "behind"),
                    ("field.airspace", "free"),
                    ("field.people", "none"),
                ):
                    self.answer(number, check, action="take", option=option)
                self.answer(number, "sky.weather", action="device")
                self.answer(number, "field.sight", action="pass")
                walk = rounds.load(number, store_settings.load(), self.now).walk
                levels: dict[str, Level] = {}
                for state in walk.states:
                    for finding in state.findings:
                        levels[finding.name] = max(levels.get(finding.name, Level.CLEAR), finding.level)
                for subject in SUBJECTS:
                    if subject in levels:
                        self.assertEqual(today.get(subject, Level.CLEAR), levels[subject], subject)

    def test_the_return_page_and_the_walk(self) -> None:
        site = self.numbers["Teasel Common"]
        for setting in (20, 30, 60, 130):
            number = self.start()
            self.answer(number, "sky.weather", action="device")
            self.answer(number, "link.rth_altitude", action="take", number=str(setting))
            state = rounds.load(number, self.settings, self.now).walk.state("link.rth_altitude")
            page = self.found(
                f"/fields/{site}/home?aircraft={self.numbers['Sandpiper']}&pack={self.numbers['S1']}&height={setting}",
                "findings",
            )
            for finding in state.findings:
                if finding.name in page:
                    self.assertEqual(page[finding.name], finding.level, f"{finding.name} at {setting}")
            self.assertIn("Way home", page)

    def test_today_without_a_weather_is_not_silent(self) -> None:
        """Taking the weather away from Today is noticed: the subject is named as not known."""
        store_settings.save(devices={})
        today = self.show("/")["between"]
        self.assertIn(("Weather", Level.CAUTION), [(f.name, f.level) for f in today])
        store_settings.save(devices={"weather": "gusty"})
        today = self.show("/")["between"]
        self.assertIn(("Gust", Level.GROUNDED), [(f.name, f.level) for f in today])
