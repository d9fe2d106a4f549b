"""A maker's or a club's list: pasted, matched, corrected, worked in with its own order."""

from tests.support import WebCase, elements, plain, within
from walkround.core.checklist.check import Station
from walkround.store import rounds
from walkround.store import settings as store_settings

LIST = "1. Check the antennas\n2. Sign the club book\n3. Unfold the arms until they latch"


class PastedList(WebCase):
    def send(self, action: str, **more: object):  # type: ignore[no-untyped-def]
        data = {"steps": LIST, "aircraft": str(self.numbers["Sandpiper"]), "action": action, **more}
        return self.client.post("/pasted-list", data=data)

    def walked(self) -> list[str]:
        walk = rounds.load(self.start(depth="full"), store_settings.load(), self.now).walk
        return [s.planned.check.title for s in walk.at(Station.AIRFRAME)]

    def test_it_is_shown_before_it_is_worked_in(self) -> None:
        shown = self.send("look")
        found = [" ".join(node.text().split()) for node in elements(shown.text, ".between-list .remedy")]
        self.assertEqual(
            found,
            ["Airframe: Check the antennas", "a new step of your own", "Airframe: Unfold the arms until they latch"],
        )
        self.assertEqual(store_settings.load().custom_checklist.added, ())
        self.assertIn("Sign the club book", within(shown.text, "#f-steps"))

    def test_it_keeps_its_order(self) -> None:
        self.assertEqual(self.send("keep", only_for="1").status_code, 303)
        self.assertEqual(
            self.walked()[:3], ["Check the antennas", "Sign the club book", "Unfold the arms until they latch"]
        )

    def test_a_line_that_is_not_the_same_stays_a_step(self) -> None:
        self.send("keep", own="Check the antennas")
        added = [check.title for check in store_settings.load().custom_checklist.added]
        self.assertEqual(added, ["Check the antennas", "Sign the club book"])

    def test_mistakes(self) -> None:
        for change, words in (({"steps": " "}, "at least one step"), ({"aircraft": ""}, "Choose the aircraft")):
            answer = self.send("look", **change)
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words, plain(answer.text))
