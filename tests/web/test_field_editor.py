"""The plan of a field in the browser's hands: added, moved, undone, files in and out, and every mistake in words."""

import json

from tests.support import WebCase, plain
from walkround.core.field.site import Site
from walkround.store import fields, hangar

SCRIPT = {"HX-Request": "true"}


class PlanCase(WebCase):
    def undo(self):  # type: ignore[no-untyped-def]
        """The button as the page shows it now."""
        path = f"{self.path}/undo"
        return self.client.post(path, data=self.hidden(self.path, path), headers=SCRIPT)

    def setUp(self) -> None:
        super().setUp()
        self.number = self.numbers["Teasel Common"]
        self.path = f"/fields/{self.number}"

    @property
    def site(self) -> Site:
        return hangar.get(Site, self.number)

    def edit(self, **form: str):  # type: ignore[no-untyped-def]
        return self.client.post(f"{self.path}/plan", data=form, headers=SCRIPT)

    def mark(self, status: int = 200, **form: str) -> str:
        answer = self.client.post(f"{self.path}/marks", data={"kind": "mast", **form}, headers=SCRIPT)
        self.assertEqual(answer.status_code, status, answer.text[:300])
        return plain(answer.text)


class Page(PlanCase):
    def test_what_is_said(self) -> None:
        text = plain(self.client.get(self.path).text)
        for words in (
            "mill pond", "footpath gate: walkers", "48° 13' 16.7\" N", "Access: Gate on the mill lane", "Lowest safe RTH altitude 29 m",
            "The sun stays out of the flying box", "Sunrise 05:16, sunset 20:32, too dark from 21:10", "Last walked 07 May 2026",
        ):  # fmt: skip
            self.assertIn(words, text)

    def test_a_session_towards_the_evening_and_nonsense(self) -> None:
        page = plain(self.client.get(self.path, params={"from": "19:00", "minutes": "90"}).text)
        self.assertIn("The sun goes from 28", page)
        for query in ({"from": "25:00"}, {"minutes": "-3"}, {"minutes": "9" * 30}, {"sel": "m99"}, {"sel": "'"}):
            self.assertEqual(self.client.get(self.path, params=query).status_code, 200, query)

    def test_without_the_script_each_thing_has_its_own_page(self) -> None:
        text = plain(self.client.get(self.path, params={"sel": "m3"}).text)
        self.assertIn("old pear", text)
        answer = self.client.post(
            f"{self.path}/marks/3", data={"kind": "tree", "height": "16", "radius": "5", "name": "pear"}
        )
        self.assertEqual(answer.headers["location"], f"{self.path}?saved=1&sel=m3")
        self.assertEqual(self.site.marks[2].height_m, 16)

    def test_walked_just_now(self) -> None:
        self.client.post(f"{self.path}/walked")
        self.assertIn("Last walked 16 May 2026", plain(self.client.get(self.path).text))


class Edits(PlanCase):
    def test_add_by_bearing_and_by_taps(self) -> None:
        self.assertIn("Mast", self.mark(bearing="200", distance="50", height="33"))
        mast = self.site.marks[-1]
        self.assertAlmostEqual(self.site.away(mast)[0], 50, delta=0.02)
        self.mark(kind="building", at="10,10 20,10 20,22", height="")
        self.assertEqual((self.site.marks[-1].height_m, len(self.site.marks[-1].spots)), (8, 3))

    def test_move_bend_remove_and_undo_each(self) -> None:
        before = self.site
        for form in (
            {"do": "move", "key": "m1", "at": "5,5"},
            {"do": "move", "key": "flight_area", "corner": "0", "at": "-100,14"},
            {"do": "bend", "key": "m2", "corner": "0"},
            {"do": "straighten", "key": "m2", "corner": "1"},
            {"do": "remove", "key": "m4"},
            {"do": "move", "key": "launch", "at": "3,4"},
            {"do": "remove", "key": "spectator_line"},
            {"do": "begin", "key": "spectator_line"},
            {"do": "remove", "key": "flight_area"},
            {"do": "begin", "key": "flight_area"},
        ):
            now = self.site
            self.assertEqual(self.edit(**form).status_code, 200, form)
            self.assertNotEqual(self.site, now, form)
        for _ in range(10):
            self.assertTrue(fields.last_change(self.number)[1])
            self.undo()
        self.assertEqual(self.site, before)
        self.assertEqual(self.undo().status_code, 200, "nothing is left to undo")

    def test_the_box_is_turned_out_of_the_sun(self) -> None:
        page = self.client.get(self.path, params={"from": "18:40", "minutes": "90"}).text
        self.assertIn("The sun is in the flying box", plain(page))
        by = page.split('name="by" value="')[1].split('"')[0]
        self.edit(do="turn", by=by)
        page = plain(self.client.get(self.path, params={"from": "18:40", "minutes": "90"}).text)
        self.assertIn("The sun stays out of the flying box", page)
        self.assertEqual(self.edit(do="turn", by="900").status_code, 422)
        self.edit(do="remove", key="flight_area")
        self.assertIn("Draw a flying box to compare it with", plain(self.edit(do="turn", by="10").text))

    def test_undo_keeps_what_was_walked_since(self) -> None:
        self.edit(do="remove", key="m1")
        self.client.post(f"{self.path}/walked")
        walked = self.site.walked_at
        self.undo()
        self.assertEqual((self.site.walked_at, len(self.site.marks)), (walked, 8))

    def test_details_keep_the_plan_and_can_be_undone(self) -> None:
        before = self.site
        form = {
            "id": str(self.number), "name": "Teasel Common", "position": "48.2213, 15.3318", "elevation_m": "250", "timezone": "Europe/Vienna",
            "terrain": "open grass", "flight_radius_m": "140", "flight_height_m": "45", "surface": "long grass", "uphill_deg": "20", "ground_rise_m": "6",
            "does_0": "Flies", "who_0": "Tamsin", "does_1": "", "who_1": "",
        }  # fmt: skip
        self.assertEqual(
            self.client.post("/fields", data=form | self.hidden(f"{self.path}/details", "/fields")).status_code, 303
        )
        self.assertEqual(
            (self.site.marks, self.site.flight_area, self.site.walked_at),
            (before.marks, before.flight_area, before.walked_at),
        )
        self.assertEqual((self.site.surface.value, self.site.uphill_deg, len(self.site.crew)), ("long grass", 20, 1))
        self.undo()
        self.assertEqual(self.site, before)

    def test_mistakes_change_nothing(self) -> None:
        before = self.site
        rows = (
            ({"do": "move", "key": "m1", "at": "x,y"}, 422, "could not be read"),
            (
                {"do": "move", "key": "m1", "at": "1e9,0"},
                422,
                "That is outside the plan, which reaches 6 km from the field",
            ),
            ({"do": "move", "key": "m1", "at": "1,1 2,2"}, 422, "Choose its place"),
            ({"do": "move", "key": "m77", "at": "1,1"}, 404, "no longer on the plan"),
            ({"do": "move", "key": "flight_area", "corner": "2", "at": "0,-90"}, 422, "crosses itself"),
            (
                {"do": "straighten", "key": "spectator_line", "corner": "0"},
                422,
                "needs these corners. Remove it as a whole",
            ),
            ({"do": "fly"}, 422, "That change is not possible"),
            ({"do": "bend", "key": "m2", "corner": "x"}, 422, ""),
        )
        for form, status, words in rows:
            with self.subTest(form):
                answer = self.edit(**form)
                self.assertEqual(answer.status_code, status)
                self.assertIn(words, plain(answer.text))
        for form, words in (
            ({"bearing": "400", "distance": "5"}, "between"), ({"bearing": "40", "distance": "far"}, "not a number"),
            ({"kind": "castle", "bearing": "1", "distance": "5"}, "choose one"), ({"bearing": "4", "distance": "5", "height": "0"}, "between"),
            ({"kind": "water", "at": "0,0 5,5"}, "at least three corners"),
        ):  # fmt: skip
            with self.subTest(form):
                text = self.mark(422, **form)
                self.assertIn(words, text)
        self.assertEqual(self.site, before)
        self.assertEqual(self.client.post("/fields/99/plan", data={"do": "move"}).status_code, 404)


class Files(PlanCase):
    def test_out_and_in(self) -> None:
        text = self.client.get(f"{self.path}/plan.geojson").text
        self.assertEqual(len(json.loads(text)["features"]), 12)
        gpx = self.client.get(f"{self.path}/plan.gpx")
        self.assertIn("Teasel-Common.gpx", gpx.headers["content-disposition"])
        answer = self.client.post(f"{self.path}/map", data={"otherwise": "tree"}, files={"map": ("a.gpx", gpx.content)})
        self.assertEqual(answer.status_code, 303)
        self.assertEqual(len(self.site.marks), 16)
        self.undo()
        self.assertEqual(len(self.site.marks), 8)

    def test_a_broken_file_keeps_what_was_pasted(self) -> None:
        answer = self.client.post(f"{self.path}/map", data={"otherwise": "tree", "pasted": '{"type": "Featur'})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("it breaks off in line 1", plain(answer.text))
        self.assertIn("&#34;Featur", answer.text)


class Spot(PlanCase):
    def test_a_better_launch_spot_is_offered_and_taken(self) -> None:
        self.edit(do="move", key="launch", at="54,-30")
        self.assertIn("only", plain(self.client.get(self.path).text))
        offer = self.client.get(f"{self.path}/spot").text
        self.assertIn("Away from the", plain(offer))
        at = offer.split('name="at" value="')[1].split('"')[0]
        self.edit(do="move", key="launch", at=at)
        self.assertNotIn("Move the launch point away", plain(self.client.get(self.path).text))
        self.assertIn(
            "No better point within a short walk, according to the plan",
            plain(self.client.get(f"{self.path}/spot").text),
        )
