"""Coming home on screen: the side view, the height that is dragged, and odd questions."""

from tests.support import WebCase, elements, plain
from walkround.core.field.site import LaunchPlatform, Site
from walkround.store import hangar


class Page(WebCase):
    def get(self, **query: str):  # type: ignore[no-untyped-def]
        query.setdefault("aircraft", str(self.numbers["Sandpiper"]))
        return self.client.get(f"/fields/{self.numbers['Teasel Common']}/home", params=query)

    def test_what_is_said(self) -> None:
        page = self.get(height="60").text
        text = plain(page)
        for words in (
            "Return to home at Teasel Common",
            "60 m",
            "above the tallest obstacle",
            "Turn back at",
            "On signal loss",
            "Way home",
        ):
            self.assertIn(words, text)
        self.assertEqual(page.count("thing-drawn"), 5, "what stands within the circle and the allowance")

    def test_too_low_grounds(self) -> None:
        self.assertIn("Stay down", plain(self.get(height="20").text))
        self.assertNotIn("Stay down", plain(self.get(height="60").text))

    def test_one_way_counts_what_stands_on_it(self) -> None:
        """At 50 m: 31 m over the row of trees any way, 48.7 m over the fence on the way from the south."""
        self.assertIn("31 m above the tallest", plain(self.get(height="50").text))
        self.assertIn("49 m above the tallest", plain(self.get(height="50", bearing="180").text).replace("48.7", "49"))

    def test_mistakes(self) -> None:
        for changes, words in (
            ({"distance": "far"}, "is not a number"),
            ({"height": "9000"}, "between"),
            ({"flown": "-2"}, "between"),
        ):
            with self.subTest(changes):
                answer = self.get(**changes)
                self.assertEqual(answer.status_code, 422)
                self.assertIn(words, plain(answer.text))

    def test_odd_questions(self) -> None:
        for query in ({"bearing": "x"}, {"bearing": "400"}, {"aircraft": "99999"}, {"pack": "'"}):
            self.assertEqual(self.get(**query).status_code, 200, query)
        self.assertEqual(self.client.get("/fields/99/home").status_code, 404)

    def test_where_you_stand(self) -> None:
        number = self.numbers["Teasel Common"]
        site = hangar.get(Site, number)
        hangar.save(site.model_copy(update={"launch_platform": LaunchPlatform.MOVING, "ground_rise_m": 40.0}), self.now)
        text = plain(self.get().text)
        self.assertIn("hover: the home point moves with the boat", text)
        self.assertIn("50 m", text)
        form = self.client.get(f"/fields/{number}/details").text
        self.assertTrue(elements(form, 'option[value="a boat or a vehicle"][selected]'))


class OnTheWalk(WebCase):
    def test_the_return_height_is_judged_with_the_way_home(self) -> None:
        number = self.start()
        self.answer(number, "link.rth_altitude", action="take", number="60")
        text = plain(self.client.get(f"/rounds/{number}?check=link.rth_altitude").text)
        self.assertIn("Way home", text)

    def test_reasons_name_the_charge_and_the_action(self) -> None:
        number = self.start()
        self.assertIn(
            "From the farthest point (", plain(self.client.get(f"/rounds/{number}?check=link.turn_back").text)
        )
        self.assertIn("As set: return home.", plain(self.client.get(f"/rounds/{number}?check=link.lost_action").text))
