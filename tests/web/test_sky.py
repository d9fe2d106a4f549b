"""The sky over a field, the sky of a reading, and the home point measured, on screen."""

from tests.support import WebCase, elements, plain
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Trait
from walkround.core.answers.fix import FixRead
from walkround.core.answers.home import HomeSeen
from walkround.core.field import field_editor
from walkround.core.field.marks import MarkKind
from walkround.core.field.site import Site
from walkround.core.round.evidence import current
from walkround.store import hangar, rounds


class Page(WebCase):
    def test_open(self) -> None:
        number = self.numbers["Teasel Common"]
        text = plain(self.client.get(f"/fields/{number}/sky").text)
        self.assertIn("Sky 100 % (min 92 %)", text)
        self.assertNotIn("It opens", text)

    def test_an_empty_plan_and_a_hall(self) -> None:
        number = self.numbers["Teasel Common"]
        site = hangar.get(Site, number)
        hangar.save(site.model_copy(update={"marks": ()}), self.now)
        self.assertIn("what hides the sky is not known", plain(self.client.get(f"/fields/{number}/sky").text))
        hangar.save(site.model_copy(update={"indoors": True}), self.now)
        self.assertIn("Indoors there is no sky", plain(self.client.get(f"/fields/{number}/sky").text))

    def test_hidden(self) -> None:
        number = self.numbers["Teasel Common"]
        self._wall(number)
        page = self.client.get(f"/fields/{number}/sky").text
        text = plain(page)
        self.assertIn("It opens", text)
        self.assertIn("Where the sky opens", text)
        self.assertIn("row of trees", text.lower())
        self.assertTrue(elements(page, "svg.sky-plot .hides") and elements(page, ".walk-to"))

    def _wall(self, number: int) -> None:
        site = hangar.get(Site, number)
        east, north = site.launch.xy
        walled = field_editor.added(site, MarkKind.TREES, [(east - 80, north + 6), (east + 80, north + 6)], 20)
        hangar.save(walled, self.now)


class Reading(WebCase):
    def powered(self) -> int:
        number = self.start()
        for check_id in (
            "airframe.covers_off",
            "power.transmitter_on",
            "power.idle",
            "power.mode",
            "power.aircraft_on",
        ):
            self.assertEqual(self.answer(number, check_id, action="pass").status_code, 200)
        self.assertEqual(self.answer(number, "power.still_long", action="take", seconds="20").status_code, 200)
        return number

    def given(self, number: int, check_id: str) -> object:
        return current(rounds.load(number, self.settings, self.now).evidence)[check_id].answer

    def test_the_sky_of_a_reading(self) -> None:
        number = self.powered()
        before = self.client.get(f"/rounds/{number}?check=sensors.satellites").text
        self.assertIn("First fix: up to", plain(before))
        self.assertEqual(self.answer(number, "sensors.satellites", action="device").status_code, 200)
        read = self.given(number, "sensors.satellites")
        assert isinstance(read, FixRead) and read.fix.rest is not None
        self.assertGreaterEqual(len(read.fix.sky), 12)
        page = self.client.get(f"/rounds/{number}?check=sensors.satellites").text
        self.assertEqual(len(elements(page, "svg.sky-plot path.used")), sum(s.used for s in read.fix.sky))
        self.assertIn("GPS", plain(page))
        self.assertIn("Scatter at rest", plain(page))
        self.assertEqual(len(elements(page, "svg.scatter circle.fix")), len(read.fix.rest.spots))

    def test_home_by_a_tap_and_measured(self) -> None:
        number = self.powered()
        self.answer(number, "sensors.satellites", action="device")
        self.answer(number, "field.launch_circle", number="7")
        self.assertEqual(self.answer(number, "sensors.home_point", option="here").status_code, 200)
        page = plain(self.client.get(f"/rounds/{number}?check=sensors.home_point").text)
        self.assertIn("Landing circle 7 m (min 4.", page)
        self.assertRegex(page, r"Keep 4.7 m clear all round the home point: a circle 9.4 m across")
        self.answer(number, "sensors.home_point", option="here", offset="5", toward="90")
        seen = self.given(number, "sensors.home_point")
        assert isinstance(seen, HomeSeen)
        self.assertEqual((seen.offset_m, seen.toward_deg), (5, 90))
        text = self.client.get(f"/rounds/{number}?check=sensors.home_point").text
        self.assertIn("Where it would land only 2 m are clear", plain(text))
        (dot,) = elements(text, "svg.landing .home-dot")
        self.assertEqual((dot.attributes["cx"], dot.attributes["cy"]), ("5.0", "0.0"))

    def test_home_by_its_position_and_what_cannot_be(self) -> None:
        number = self.powered()
        # 0.00036 degrees of latitude are 40 m.
        self.answer(number, "sensors.home_point", option="here", position="48.22166, 15.33180")
        seen = self.given(number, "sensors.home_point")
        assert isinstance(seen, HomeSeen) and seen.offset_m is not None
        self.assertAlmostEqual(seen.offset_m, 40, delta=1)
        self.assertAlmostEqual((seen.toward_deg or 0) % 360, 0, delta=0.5)
        self.assertIn(
            "it would come back to another place",
            plain(self.client.get(f"/rounds/{number}?check=sensors.home_point").text),
        )
        for form, words in (
            ({"offset": "far"}, "is not a number"),
            ({"toward": "90"}, "Enter the distance too"),
            ({"position": "somewhere"}, "position"),
            ({"option": ""}, "Choose one of the answers"),
        ):
            with self.subTest(words):
                answer = self.answer(number, "sensors.home_point", **({"option": "here"} | form))
                self.assertEqual(answer.status_code, 422, answer.text[:200])
                self.assertIn(words, plain(answer.text))
        self.assertEqual(self.given(number, "sensors.home_point"), seen, "nothing lost")

    def test_one_that_sets_home_later_is_not_asked_how_far_off_it_is(self) -> None:
        quad = hangar.get(Aircraft, self.numbers["Sandpiper"])
        hangar.save(quad.model_copy(update={"traits": quad.traits | {Trait.HOME_AT_ARMING}}), self.now)
        page = self.client.get(f"/rounds/{self.powered()}?check=sensors.home_point").text
        self.assertIn("Its home point is set when it arms: check then", plain(page))
        self.assertEqual(elements(page, "#f-offset"), [])
