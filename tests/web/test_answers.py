"""Answers given on drawings and lists, through the walk page."""

from tests.support import WebCase, elements, plain
from walkround.core.answers.packed import AskPacked
from walkround.store import rounds, snags

AIRFRAME = "/checks/airframe.shell"


class Drawn(WebCase):
    """Answers given on drawings and lists, through the walk page."""

    def test_rotors(self) -> None:
        number = self.start()
        page = self.client.get(f"/rounds/{number}?check=airframe.propeller_side").text
        self.assertEqual(page.count('data-cycle="rotation-'), 8)  # in the large drawing, and in the map of the phone
        text = plain(
            self.answer(number, "airframe.propeller_side", action="shown", **{"rotation-2": "counter-clockwise"}).text
        )
        self.assertIn("Rear right would push down", text)
        self.assertIn("Fit a clockwise propeller from the bag at rear right.", text)
        self.assertEqual(len(snags.open_ones(self.numbers["Sandpiper"])), 1)
        seen = str(rounds.load(number, self.settings, self.now).walk.state("airframe.propeller_side").evidence.id)  # type: ignore[union-attr]
        text = plain(self.answer(number, "airframe.propeller_side", action="shown", seen=seen).text)
        self.assertNotIn("would push down", text)
        self.assertEqual(snags.open_ones(self.numbers["Sandpiper"]), [])

    def test_not_all_rotors_looked_at(self) -> None:
        number = self.start()
        answer = self.answer(
            number, "airframe.propeller_side", action="take", **{"rotation-1": "clockwise", "rotation-2": "odd"}
        )
        self.assertEqual(answer.status_code, 422)
        self.assertIn("Check Rear right, rear left and front left too", plain(answer.text))

    def test_moves(self) -> None:
        number = self.start("Haymaker", "H1")
        page = self.client.get(f"/rounds/{number}?check=controls.surfaces").text
        self.assertEqual(page.count('class="scene"'), 3)
        self.assertEqual(self.answer(number, "controls.surfaces", action="shown").status_code, 409)  # the gate holds
        for check in ("power.transmitter_on", "power.mode", "power.idle", "power.aircraft_on"):
            self.answer(number, check, action="pass")
        self.answer(number, "power.still_short", seconds="4")
        text = plain(
            self.answer(number, "controls.surfaces", action="shown", **{"move-right_aileron": "reversed"}).text
        )
        self.assertIn("Reverse the aileron channel in the transmitter", text)
        self.assertIn("Stay down", text)

    def test_bag_passes(self) -> None:
        number = self.start(depth="full")
        loaded = rounds.load(number, self.settings, self.now)
        state = loaded.walk.state("bag.first_pass")
        assert isinstance(state.planned.check.ask, AskPacked)
        page = plain(self.client.get(f"/rounds/{number}?check=bag.first_pass").text)
        self.assertIn("Spare propellers, counter-clockwise 2 to pack", page)
        text = plain(
            self.answer(number, "bag.first_pass", action="take", **{"bag-transmitter": "1", "bag-cards": "1"}).text
        )
        self.assertIn("Aircraft, complete: not in the bag. Without it: no flying today.", text)
        self.assertIn("Memory cards: 1 of 2", text)
        wrong = self.answer(number, "bag.second_pass", action="take", **{"bag-cards": "several"})
        self.assertEqual(wrong.status_code, 422)
        self.assertIn("“several” is not a number", plain(wrong.text))
        second = self.client.get(f"/rounds/{number}?check=bag.second_pass").text
        self.assertFalse(elements(second, "#panel form input[checked]"))  # nothing is prefilled

    def test_what_the_aircraft_is_held_in(self) -> None:
        number = self.start()
        self.assertIn(
            "Keep it inert until Power: unplugged, throttle locked", plain(self.client.get(f"/rounds/{number}").text)
        )
