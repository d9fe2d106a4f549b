"""Answers given on drawings and lists, through the walk page."""

from tests.support import WebCase, elements, plain
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Trait
from walkround.core.answers.charge import ChargeShown
from walkround.core.answers.fix import FixRead
from walkround.core.answers.packed import AskPacked
from walkround.core.answers.signal import SignalShown
from walkround.core.packs.pack import Pack
from walkround.store import hangar, rounds, snags

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
        self.assertFalse(elements(second, "#panel .bag input[checked]"))  # nothing is prefilled

    def test_what_the_aircraft_is_held_in(self) -> None:
        number = self.start()
        self.assertIn(
            "Keep it inert until Power: unplugged, throttle locked", plain(self.client.get(f"/rounds/{number}").text)
        )


class Screens(WebCase):
    def started(self, *traits: Trait, **changes: object) -> int:
        """A round of Sandpiper, with these traits more."""
        quad = hangar.get(Aircraft, self.numbers["Sandpiper"])
        hangar.save(quad.model_copy(update={"traits": quad.traits | set(traits), **changes}), self.now)
        return self.start()

    def given(self, number: int, check: str) -> tuple[object, str]:
        kept = rounds.load(number, self.settings, self.now).walk.state(check).evidence
        assert kept is not None
        return kept.answer, kept.by

    def test_leds_are_tapped_and_judged_at_their_low_end(self) -> None:
        number = self.started(Trait.CHARGE_LEDS, charge_steps=5)
        page = self.client.get(f"/rounds/{number}?check=pack.percent").text
        self.assertEqual([key.attributes["value"] for key in elements(page, ".lit-keys button")], list("012345"))
        self.assertEqual(len(elements(page, ".lit-keys button:last-child .on")), 5)
        answer = self.answer(number, "pack.percent", action="take", lit="5")
        self.assertIn("5 of 5 lit: 80 % to 100 %, judged at 80 %.", plain(answer.text).replace("\u202f", " "))
        self.assertEqual(self.given(number, "pack.percent"), (ChargeShown(lit=5, of=5), "screen"))
        self.assertEqual(len(elements(answer.text, ".range .held")), 1)
        wrong = self.answer(number, "pack.percent", action="take", lit="6", seen="0")
        self.assertEqual(wrong.status_code, 422)
        self.assertIn("Choose how many of the 5 are lit.", plain(wrong.text))

    def test_a_percentage_is_typed_or_taken_from_the_record(self) -> None:
        number = self.started()
        page = self.client.get(f"/rounds/{number}?check=pack.percent").text
        self.assertEqual((elements(page, ".lit-keys"), len(elements(page, ".keypad button"))), ([], 12))
        for text, words in (("", "Enter"), ("120", "between 0"), ("lots", "is not a number")):
            answer = self.answer(number, "pack.percent", action="take", number=text)
            self.assertEqual(answer.status_code, 422)
            self.assertIn(words, plain(answer.text))
        self.answer(number, "pack.percent", action="take", offered="1")
        self.assertEqual(self.given(number, "pack.percent"), (ChargeShown(percent=100), "record"))
        self.assertIn("from the record", plain(self.client.get(f"/rounds/{number}?check=pack.percent").text))

    def test_a_signal_is_asked_as_the_screen_shows_it(self) -> None:
        number = self.started(Trait.SIGNAL_DBM)
        page = self.client.get(f"/rounds/{number}?check=link.signal").text
        self.assertEqual([unit.text().strip() for unit in elements(page, ".with-unit .unit")], ["−", "dBm"])
        for typed in ("48", "-48", "−48"):
            self.answer(number, "link.signal", action="take", number=typed)
            self.assertEqual(self.given(number, "link.signal"), (SignalShown(dbm=-48), "screen"))
        wrong = self.answer(number, "link.signal", action="take", number="300")
        self.assertEqual(wrong.status_code, 422)
        weak = self.answer(number, "link.signal", action="take", number="80")
        self.assertIn(
            "-80 dBm so near is weaker than -75 dBm.",
            plain(weak.text),
        )

    def test_bars_of_a_signal_are_tapped(self) -> None:
        number = self.started(Trait.SIGNAL_BARS, signal_bars=4)
        page = self.client.get(f"/rounds/{number}?check=link.signal").text
        self.assertEqual([key.attributes["value"] for key in elements(page, ".lit-keys button")], list("01234"))
        self.answer(number, "link.signal", action="take", lit="3")
        self.assertEqual(self.given(number, "link.signal"), (SignalShown(bars=3, of=4), "screen"))
        wrong = self.answer(number, "link.signal", action="take", lit="5", seen="0")
        self.assertIn("Choose how many of the 4 bars are shown.", plain(wrong.text))

    def test_the_packs_of_a_set_are_entered_one_by_one(self) -> None:
        pack = hangar.get(Pack, self.numbers["S1"])
        hangar.save(pack.model_copy(update={"together": 2}), self.now)
        number = self.start()
        page = self.client.get(f"/rounds/{number}?check=pack.matched").text
        self.assertEqual(len(elements(page, "input[name^=pack_]")), 2)
        self.assertIn("S1 is a set of 2 packs that fly together.", plain(page))
        wrong = self.answer(number, "pack.matched", action="take", pack_1="98", **{"in": "%"})
        self.assertEqual(wrong.status_code, 422)
        self.assertTrue(elements(wrong.text, 'input[name=pack_1][value="98"]'))
        answer = self.answer(number, "pack.matched", action="take", pack_1="98", pack_2="80", **{"in": "%"})
        self.assertIn("The packs are 18 % apart (max 10 %).", plain(answer.text))

    def powered(self, *traits: Trait) -> int:
        number = self.started(*traits)
        for check in ("airframe.covers_off", "power.transmitter_on", "power.mode", "power.idle", "power.aircraft_on"):
            self.answer(number, check, action="pass")
        self.answer(number, "power.still_long", seconds="20.1")
        return number

    def test_satellites_by_number_as_they_climb(self) -> None:
        number = self.powered()
        watched = {"way": "screen", "satellites": "7", "counts": "0:5 12:7", "stood": "61"}
        seen = self.client.post(f"/rounds/{number}/checks/sensors.satellites/preview", data=watched)
        self.assertIn("Stuck at 7 for 61 s", plain(seen.text))
        answer = self.answer(number, "sensors.satellites", **watched)
        self.assertIn("7 satellites in use (min 10).", plain(answer.text))
        given, by = self.given(number, "sensors.satellites")
        assert isinstance(given, FixRead) and given.screen is not None
        self.assertEqual((given.screen.satellites, len(given.screen.counts), by), (7, 2, "screen"))
        for text in ("", "many", "99"):
            wrong = self.answer(number, "sensors.satellites", way="screen", satellites=text, seen="0")
            self.assertIn(wrong.status_code, (409, 422))

    def test_hdop_is_asked_where_it_is_shown(self) -> None:
        number = self.powered(Trait.SHOWS_HDOP)
        page = self.client.get(f"/rounds/{number}?check=sensors.satellites").text
        self.assertEqual(len(elements(page, "#f-hdop")), 1)
        missing = self.answer(number, "sensors.satellites", way="screen", satellites="14")
        self.assertEqual(missing.status_code, 422)
        self.assertIn("HDOP", plain(missing.text))
        self.answer(number, "sensors.satellites", way="screen", satellites="14", hdop="0.9")
        self.assertIsInstance(self.given(number, "sensors.satellites")[0], FixRead)

    def test_a_ready_light(self) -> None:
        number = self.powered(Trait.READY_LIGHT)
        page = self.client.get(f"/rounds/{number}?check=sensors.satellites").text
        self.assertEqual([key.attributes["value"] for key in elements(page, "[name=ready]")], ["yes", "no"])
        answer = self.answer(number, "sensors.satellites", way="screen", ready="no")
        self.assertIn("The ready light is not steady.", plain(answer.text))
