"""Level, still start and heading on their pages."""

from unittest import mock

from tests.support import elements, plain, within
from tests.web.test_hangar import FormCase
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Trait
from walkround.core.calibration.level import DOWN, Position6
from walkround.store import calibrations, hangar
from walkround.store import settings as store_settings


class LevelPage(FormCase):
    @property
    def at(self) -> str:
        return f"/hangar/aircraft/{self.numbers['Sandpiper']}/level"

    def six(self, **form: str):  # type: ignore[no-untyped-def]
        """Every position, one after the other, by what ``form`` says."""
        page = self.client.get(self.at)
        for position in Position6:
            carried = next(f.attributes["value"] or "" for f in elements(page.text, "input[name=carried]"))
            up = [-x for x in DOWN[position]]
            typed = {f"acc_{axis}": str(value) for axis, value in zip("xyz", up, strict=True)}
            page = self.client.post(
                self.at, data={"carried": carried, **(typed if form["how"] == "typed" else {}), **form}
            )
        return page

    def test_six_positions_typed(self) -> None:
        self.assertEqual(self.six(how="typed").status_code, 303)
        self.assertIn("The six positions agree within 0 thousandths", plain(self.client.get(self.at).text))
        found = calibrations.level_ones(self.numbers["Sandpiper"])[0]
        self.assertFalse(found.simulated)
        self.assertLess(found.residual_g or 0, 1e-9)

    def test_six_positions_read(self) -> None:
        self.assertEqual(self.six(how="read").status_code, 303)
        self.assertIn("invented, it counts for nothing", plain(self.client.get(self.at).text))

    def test_a_repeated_position_is_refused_and_the_others_are_kept(self) -> None:
        first = self.client.post(self.at, data={"how": "typed", "acc_x": "0", "acc_y": "0", "acc_z": "-1"})
        carried = elements(first.text, "input[name=carried]")[0].attributes["value"] or ""
        again = self.client.post(
            self.at, data={"how": "typed", "carried": carried, "acc_x": "0", "acc_y": "0", "acc_z": "-1"}
        )
        self.assertEqual(again.status_code, 422)
        self.assertIn("is the position “level” again", within(again.text, ".wrong"))
        self.assertEqual(len(elements(again.text, ".six .done")), 1)
        for wrong in ("nonsense", "[1]", '[{"position": "level"}]', "{}"):
            self.assertEqual(
                self.client.post(self.at, data={"how": "typed", "carried": wrong, "acc_x": "x"}).status_code, 422
            )

    def test_a_tilt(self) -> None:
        self.assertEqual(self.client.post(self.at, data={"how": "tilt", "tilt": "3"}).status_code, 303)
        self.assertIn("It stands 3.0° from level.", plain(self.client.get(self.at).text))
        wrong = self.client.post(self.at, data={"how": "tilt", "tilt": "steep"})
        self.assertTrue(elements(wrong.text, "#wrong-tilt"))

    def test_height_at_rest(self) -> None:
        sent = {"first": "0", "last": "-6", "minutes": "2"}
        text = plain(self.client.post(f"{self.at}/rest", data=sent).text)
        self.assertIn("It shows 0 m and -6 m on the ground.", text.replace("\u2212", "-"))
        self.assertIn("Stay down.", text)
        for wrong, field in (({"first": ""}, "first"), ({"minutes": "0.1"}, "minutes"), ({"last": "high"}, "last")):
            answer = self.client.post(f"{self.at}/rest", data=sent | wrong)
            self.assertEqual(answer.status_code, 422)
            self.assertTrue(elements(answer.text, f"#wrong-{field}"), wrong)

    def test_what_obstacle_sensors_see_now(self) -> None:
        self.assertNotIn("Obstacle sensors here and now", plain(self.client.get(self.at).text))
        quad = hangar.get(Aircraft, self.numbers["Sandpiper"])
        hangar.save(quad.model_copy(update={"traits": quad.traits | {Trait.OBSTACLE_SENSORS}}), self.now)
        self.assertIn("Obstacle sensors here and now", plain(self.client.get(self.at).text))

    def test_a_still_start(self) -> None:
        with mock.patch("walkround.web.level.FASTER", 1e6):
            quiet = self.client.get(f"/hangar/aircraft/{self.numbers['Sandpiper']}/still").text
            self.assertIn('"done": true', quiet)
            store_settings.save(devices={"controller": "bumped"})
            bumped = self.client.get(f"/hangar/aircraft/{self.numbers['Sandpiper']}/still").text
        self.assertIn('"moved": 1', bumped)

    def test_height_read_from_the_controller(self) -> None:
        self.assertNotIn("Stay down.", plain(self.client.post(f"{self.at}/rest", data={"how": "read"}).text))
        store_settings.save(devices={"controller": "draught"})
        self.assertIn("Stay down.", plain(self.client.post(f"{self.at}/rest", data={"how": "read"}).text))
        store_settings.save(devices={"controller": "silent"})
        answer = self.client.post(f"{self.at}/rest", data={"how": "read"})
        self.assertIn("does not answer", plain(answer.text))

    def test_a_start_is_timed_learned_and_a_slow_one_noticed(self) -> None:
        at = f"/hangar/aircraft/{self.numbers['Lapwing']}/level"
        self.assertIn("After three starts its usual time is known", plain(self.client.get(at).text))
        for seconds in ("20", "21", "22"):
            self.now += self.now.resolution * 1_000_000
            self.assertEqual(self.client.post(f"{at}/start", data={"start_s": seconds}).status_code, 303)
        self.assertIn("It usually takes 21 s.", plain(self.client.get(at).text))
        self.now += self.now.resolution * 1_000_000
        self.client.post(f"{at}/start", data={"start_s": "40"})
        self.assertIn("Caution. Its own signal came after 40", plain(self.client.get(at).text))
        for wrong in ("", "soon", "-3", "4000"):
            answer = self.client.post(f"{at}/start", data={"start_s": wrong})
            self.assertTrue(elements(answer.text, "#wrong-start_s"), wrong)

    def test_the_walk_times_it_too(self) -> None:
        number = self.start(depth="full")
        self.walk_all(number)
        quad, before = self.numbers["Sandpiper"], len(calibrations.starts(self.numbers["Sandpiper"]))
        page = self.client.get(f"/rounds/{number}?check=power.still_long&edit=1")
        self.assertEqual(elements(page.text, "[data-late]")[0].attributes["data-late"], "20.775")
        self.assertIn("Its own signal usually comes after 14", plain(page.text))
        seen = next(e.attributes["value"] for e in elements(page.text, "input[name=seen]"))
        sent = {"seen": str(seen), "seconds": "60", "signal_s": "60"}
        answer = self.client.post(f"/rounds/{number}/checks/power.still_long", data=sent)
        self.assertIn("Its own signal came after 60", plain(answer.text))
        self.assertIn("Stay down.", plain(answer.text))
        self.assertEqual(calibrations.starts(quad)[0].seconds, 60)
        self.assertEqual(len(calibrations.starts(quad)), before + 1)
        wrong = {"seen": "0", "seconds": "20", "signal_s": "soon"}
        self.assertEqual(self.client.post(f"/rounds/{number}/checks/power.still_long", data=wrong).status_code, 422)

    def test_obstacle_sensors_have_a_history(self) -> None:
        quad = hangar.get(Aircraft, self.numbers["Sandpiper"])
        hangar.save(quad.model_copy(update={"traits": quad.traits | {Trait.OBSTACLE_SENSORS}}), self.now)
        self.assertIn("No calibration of them is on record", plain(self.client.get(self.at).text))
        events = f"/hangar/aircraft/{quad.id}/events"
        self.client.post(events, data={"event": "hard landing", "detail": ""})
        self.assertIn("Hard landing, today: not calibrated since.", plain(self.client.get(self.at).text))
        self.now += self.now.resolution * 1_000_000
        self.client.post(events, data={"event": "obstacle sensors calibrated", "detail": ""})
        text = plain(self.client.get(self.at).text)
        self.assertIn("Last calibrated", text)
        self.assertNotIn("not calibrated since", text)


class HeadingPage(FormCase):
    @property
    def at(self) -> str:
        return f"/hangar/aircraft/{self.numbers['Sandpiper']}/heading"

    def compare(self, **form: str) -> str:
        return plain(
            self.client.post(self.at, data={"against": "COMPASS", "shown_is": "true", "known_is": "true"} | form).text
        )

    def test_with_a_hand_compass_over_north(self) -> None:
        self.assertIn("The heading is 4° to the left of the hand compass.", self.compare(shown="358", known="2"))
        self.assertIn("Stay down.", self.compare(shown="180", known="2"))

    def test_declination_is_applied(self) -> None:
        self.assertIn("The heading is 5°", self.compare(shown="90", known="90", known_is="magnetic"))

    def test_the_shadow_now(self) -> None:
        text = plain(self.client.get(self.at).text)
        self.assertRegex(text, r"Its shadow points to \d+° true now")
        self.assertIn("Never look at the sun", text)
        bearing = text.split("points to ")[1].split("°")[0]
        self.assertIn("Clear", self.compare(against="SHADOW", shown=bearing) + "Clear")
        self.assertRegex(self.compare(against="SHADOW", shown=bearing), r"The heading is [01]°")
        self.now = self.now.replace(hour=23)
        self.assertIn("too low or too high", self.compare(against="SHADOW", shown="10"))

    def test_a_landmark_of_the_plan(self) -> None:
        page = self.client.get(f"{self.at}?against=LANDMARK").text
        mark = next(str(e.attributes["value"]) for e in elements(page, "input[name=mark]") if e.attributes["value"])
        self.assertIn("Old pear, 292°", plain(page))
        text = self.compare(against="LANDMARK", mark=mark, shown="296", known="")
        self.assertIn("The heading is 4° to the right of the bearing of a landmark.", text)
        self.assertIn("not on the plan any more", self.compare(against="LANDMARK", mark="999", shown="10", known=""))

    def test_bad_input(self) -> None:
        for form, field in (
            ({"shown": "", "known": "3"}, "shown"),
            ({"shown": "3", "known": "north"}, "known"),
            ({"shown": "361", "known": "3"}, "shown"),
        ):
            answer = self.client.post(self.at, data={"against": "COMPASS", **form})
            self.assertEqual(answer.status_code, 422)
            self.assertTrue(elements(answer.text, f"#wrong-{field}"), form)

    def test_in_a_round_it_answers_its_check(self) -> None:
        number = self.start(depth="full")
        self.walk_all(number)
        text = self.compare(shown="92", known="90", round=str(number))
        self.assertIn("Entered in the round.", text)
