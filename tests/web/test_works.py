"""How an aircraft works on screen: entered, kept, shown at its place in the walk, asked."""

import json

from tests.support import WebCase, elements, plain
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.how_it_works import ArmBy, Lever, Means
from walkround.core.aircraft.lights import Colour
from walkround.core.aircraft.quiz import CHECK, questions
from walkround.store import hangar
from walkround.store.models import DoneRow


class Card(WebCase):
    def path(self, name: str = "Haymaker") -> str:
        return f"/hangar/aircraft/{self.numbers[name]}/works"

    def form(self, name: str = "Haymaker", **changes: str) -> dict[str, str]:
        return self.hidden(self.path(name), self.path(name)) | changes

    def test_entered_and_shown(self) -> None:
        sent = self.form(
            arm="SWITCH", disarm="SWITCH", arm_least_s="1", arm_most_s="3", colour_ready="green", blink_ready="blinking slowly", tones_low="three beeps", switch_0="A", up_0="armed",
            down_0="off", start_0="down", launch_0="up", confirm="The helper calls clear.",
        )  # fmt: skip
        self.assertEqual(self.client.post(self.path(), data=sent).status_code, 303)
        card = hangar.get(Aircraft, self.numbers["Haymaker"]).works
        assert card is not None
        self.assertEqual((card.arm, card.arm_most_s, card.switches[0].launch), (ArmBy.SWITCH, 3, Lever.UP))
        ready, low = card.sign(Means.READY), card.sign(Means.LOW)
        assert ready is not None and low is not None
        self.assertEqual((ready.colour, low.colour, low.tones), (Colour.GREEN, None, "three beeps"))
        page = self.client.get(self.path()).text
        for words in ("A up: armed", "green, blinking slowly", "The helper calls clear.", "Before launch"):
            self.assertIn(words, plain(page))
        self.assertEqual(len(elements(page, ".coach-hold")), 1)

    def test_it_goes_with_the_aircraft(self) -> None:
        number = self.numbers["Sandpiper"]
        text = self.client.get(f"/hangar/aircraft/{number}/aircraft.json").text
        aircraft = hangar.get(Aircraft, number)
        assert aircraft.works is not None
        self.assertEqual(json.loads(text)["aircraft"]["works"], aircraft.works.model_dump(mode="json"))

    def test_mistakes_keep_what_was_typed(self) -> None:
        for changes, words in (
            ({"arm_least_s": "5", "arm_most_s": "2"}, "longest hold must be longer"),
            ({"arm_least_s": "soon"}, "is not a number"),
            ({"switch_0": "A"}, "Enter what switch A selects"),
            ({"up_0": "armed"}, "Enter the name of this switch"),
            ({"switch_0": "A", "up_0": "on", "down_0": "off", "launch_0": "middle"}, "no place “middle”"),
        ):
            with self.subTest(words):
                answer = self.client.post(self.path(), data=self.form(confirm="kept", **changes))
                self.assertEqual(answer.status_code, 422)
                self.assertIn(words, plain(answer.text))
                self.assertIn("kept", answer.text)
        self.assertIsNone(hangar.get(Aircraft, self.numbers["Haymaker"]).works)

    def test_a_card_changed_elsewhere_is_not_saved_over(self) -> None:
        first, second = self.form(confirm="one"), self.form(confirm="two")
        self.assertEqual(self.client.post(self.path(), data=first).status_code, 303)
        answer = self.client.post(self.path(), data=second)
        self.assertIn("nothing was saved yet", plain(answer.text))
        card = hangar.get(Aircraft, self.numbers["Haymaker"]).works
        assert card is not None
        self.assertEqual(card.confirm, "one")

    def test_in_the_walk(self) -> None:
        number = self.start()
        page = self.client.get(f"/rounds/{number}?check=power.mode").text
        self.assertIn("Before power, switch by switch", plain(page))
        self.assertIn("Mode middle: hold", plain(page))
        self.assertEqual(len(elements(page, ".works-here .levers figure")), 2)
        self.assertEqual(elements(self.client.get(f"/rounds/{number}?check=pack.body").text, ".works-here"), [])

    def done_now(self) -> bool:
        return bool(DoneRow.select().where((DoneRow.check_id == CHECK) & (DoneRow.at == self.now)).exists())

    def test_quiz(self) -> None:
        at = f"{self.path('Sandpiper')}/quiz"
        asked = questions(hangar.get(Aircraft, self.numbers["Sandpiper"]))
        self.assertGreaterEqual(len(asked), 8)
        right = {f"q{i}": str(q.right) for i, q in enumerate(asked)}
        answer = self.client.post(at, data=right | {"q0": str((asked[0].right + 1) % 2)})
        self.assertIn("1 answer wrong or open", plain(answer.text))
        self.assertFalse(self.done_now())
        answer = self.client.post(at, data=right)
        self.assertIn("No mistake", plain(answer.text))
        self.assertTrue(self.done_now())
        self.assertIn("Nothing is on its card yet", plain(self.client.get(f"{self.path()}/quiz").text))
