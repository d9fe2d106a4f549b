"""Steps added while walking: on the list at once, for today or for good, for this aircraft or for all."""

from datetime import timedelta

from tests.support import WebCase, elements, plain
from walkround.store import rounds
from walkround.store import settings as store_settings


class OwnSteps(WebCase):
    def add(self, number: int, steps: str, **more: str):  # type: ignore[no-untyped-def]
        data = {"station": "airframe", "steps": steps, **more}
        return self.client.post(f"/rounds/{number}/steps", data=data, headers={"HX-Request": "true"})

    def titles(self, number: int) -> list[str]:
        walk = rounds.load(number, store_settings.load(), self.now).walk
        return [s.planned.check.title for s in walk.states if s.planned.check.origin == "custom"]

    def test_a_pasted_text_becomes_steps_of_today(self) -> None:
        number = self.start()
        answer = self.add(number, "1. Tape the nose\n2. Ask Jory for the mast", only_for="1")
        self.assertEqual(answer.status_code, 200)
        self.assertIn("Added to your list.", plain(answer.text))
        self.assertEqual(self.titles(number), ["Tape the nose", "Ask Jory for the mast"])
        self.assertIn("Tape the nose", plain(answer.text))
        why = plain(self.client.get(f"/rounds/{number}?check=custom.1").text)
        self.assertIn("For today only.", why)
        self.assertEqual(self.titles(self.start("Haymaker", "H1")), [], "only for that aircraft")
        self.now += timedelta(days=1)
        self.assertEqual(self.titles(self.start()), [], "gone tomorrow")

    def test_for_every_launch_and_every_aircraft(self) -> None:
        number = self.start()
        self.add(number, "Say hello", always="1")
        self.now += timedelta(days=1)
        self.assertEqual(self.titles(self.start("Haymaker", "H1")), ["Say hello"])

    def test_mistakes_stay_at_the_place(self) -> None:
        number = self.start()
        for steps, words in (("", "at least one step"), ("x" * 120, "max 100")):
            answer = self.add(number, steps)
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words, plain(answer.text))
            self.assertEqual(elements(answer.text, "#f-steps")[0].text(), steps)
        self.assertEqual(
            self.client.post(f"/rounds/{number}/steps", data={"station": "moon", "steps": "a"}).status_code, 422
        )
        self.assertEqual(self.titles(number), [])
