"""The compass on its page: due, measured from a recording, typed or live, in a round; what cannot be is said at its place."""

import numpy as np

from tests.core.calibration.test_ellipsoid import directions
from tests.support import elements, plain, within
from tests.web.test_hangar import FormCase
from walkround.core.calibration.earth import field_at
from walkround.core.calibration.samples import as_csv
from walkround.core.checklist.history import EventKind
from walkround.core.field.site import Site
from walkround.store import calibrations, hangar, recordings, rounds
from walkround.store import settings as store_settings


class CompassCase(FormCase):
    @property
    def quad(self) -> int:
        return self.numbers["Sandpiper"]

    @property
    def at(self) -> str:
        return f"/hangar/aircraft/{self.quad}/compass"

    def recording(self, *, unit: float = 1.0, above: float = -1.0, n: int = 800, offset: float = 5.0) -> str:
        field = field_at(hangar.get(Site, self.numbers["Teasel Common"]), self.now)
        assert field is not None
        rng = np.random.default_rng(4)
        samples = field.strength_ut * directions(rng, n, above) + (offset, -8, 3) + rng.normal(size=(n, 3)) * 0.3
        return as_csv(samples / unit)


class CompassPage(CompassCase):
    def kept(self) -> int:
        return len(calibrations.compass_ones(self.quad))

    def test_due_where_and_how(self) -> None:
        text = plain(self.client.get(self.at).text)
        for words in ("Not due.", "World Magnetic Model 2025", "Phone, keys, watch", "Hold it level at chest height"):
            self.assertIn(words, text)
        other = plain(self.client.get(f"/hangar/aircraft/{self.numbers['Lapwing']}/compass").text)
        self.assertIn("Due. No compass calibration is on record", other)
        self.assertIn("The aircraft's own metal adds", other)
        self.assertIn("Upside down", plain(self.client.get(f"{self.at}?way=six sides").text))

    def test_a_recording_is_judged_and_kept_in_whatever_unit(self) -> None:
        before = self.kept()
        for unit in (1.0, 0.001, 100.0, 0.1):
            self.now += self.now.resolution * 1_000_000
            answer = self.client.post(self.at, data={"how": "samples", "samples": self.recording(unit=unit)})
            self.assertEqual(answer.status_code, 303, unit)
            text = plain(self.client.get(self.at).text)
            self.assertIn("The samples scatter by 1 % of the field.", text)
            self.assertRegex(text, r"The field measured is 4\d\.\d µT")
        self.assertEqual(self.kept(), before + 4)
        self.assertIs(hangar.events(self.quad)[0].kind, EventKind.COMPASS_CALIBRATED)

    def test_it_is_due_when_the_aircraft_asks(self) -> None:
        page = self.client.get(self.at).text
        reasons = [str(e.attributes["value"]) for e in elements(page, "input[name=event]")]
        self.assertEqual(reasons, ["it asks for a compass calibration", "metal, magnet or mount changed"])
        for reason in reasons:
            self.client.post(f"/hangar/aircraft/{self.quad}/events", data={"event": reason, "detail": ""})
            self.assertIn("Due.", plain(self.client.get(self.at).text))
        self.assertFalse(elements(self.client.get(self.at).text, "input[name=event]"))

    def test_half_a_sphere_is_never_good(self) -> None:
        self.client.post(self.at, data={"how": "samples", "samples": self.recording(above=0.3)})
        self.assertIn("enough for the offset only", plain(self.client.get(self.at).text))

    def test_bad_recordings_are_said_and_nothing_is_lost(self) -> None:
        before = self.kept()
        for text, words in (
            ("", "There is nothing to read"), ("1,2,3\n" * 90, "All samples are the same"), ("x,y,z\n1,2,3\n4,5,6", "are too few"), ("nan,nan,nan\n" * 60, "No row"), ("hello", "No row has three numbers"),
        ):  # fmt: skip
            answer = self.client.post(self.at, data={"how": "samples", "samples": text, "unit": "µT"})
            self.assertEqual(answer.status_code, 422, words)
            self.assertIn(words, " ".join(e.text() for e in elements(answer.text, ".wrong")))
            self.assertIn(text.strip()[:20], answer.text)
        odd = self.client.post(self.at, data={"how": "samples", "samples": self.recording(unit=1e-7)})
        self.assertTrue(elements(odd.text, "#wrong-unit"))
        self.assertEqual(self.kept(), before)

    def test_typed_from_the_screen(self) -> None:
        sent = {
            "how": "typed",
            "offset_x": "50",
            "offset_y": "-80",
            "offset_z": "30",
            "strength": "490",
            "typed_unit": "milligauss",
        }
        self.assertEqual(self.client.post(self.at, data=sent).status_code, 303)
        self.assertIn("The field measured is 49.0 µT", plain(self.client.get(self.at).text))
        for wrong, field in (
            ({"typed_unit": ""}, "typed_unit"), ({"offset_y": ""}, "offset_x"), ({"offset_x": "", "offset_y": "", "offset_z": "", "strength": ""}, "strength"), ({"strength": "many"}, "strength"),
        ):  # fmt: skip
            answer = self.client.post(self.at, data=sent | wrong)
            self.assertEqual(answer.status_code, 422)
            self.assertTrue(elements(answer.text, f"#wrong-{field}"), wrong)

    def test_only_its_light_is_care_and_a_failed_one_grounds(self) -> None:
        self.client.post(self.at, data={"how": "light", "light": "done"})
        self.assertIn("Its light shows that it is done: nothing was measured.", plain(self.client.get(self.at).text))
        for times in (1, 2, 3):
            self.now += self.now.resolution * 1_000_000
            self.client.post(self.at, data={"how": "light", "light": "failed"})
            text = plain(self.client.get(self.at).text)
            self.assertIn("Stay down. Its light shows that it failed.", text)
            self.assertEqual("Look for what is magnetic on it" in text, times == 3)

    def test_what_its_light_shows_is_entered_once_and_said(self) -> None:
        sent = {
            "way": "six sides", "colour_turn_level": "amber", "blink_turn_level": "steady", "colour_done": "green", "blink_done": "steady",
            "colour_failed": "red", "blink_failed": "blinking fast",
        }  # fmt: skip
        self.assertEqual(self.client.post(f"{self.at}/light", data=sent).status_code, 303)
        page = self.client.get(self.at)
        said = [str(e.attributes["data-say"]) for e in elements(page.text, "[data-say]")]
        self.assertEqual(len(said), 6, "its own way now")
        self.assertTrue(said[0].endswith("Its light is amber steady."))
        self.assertIn("Red, blinking fast: failed", plain(page.text))
        for wrong in (
            {"colour_failed": "green", "blink_failed": "steady"},
            {"colour_done": "pink"},
            {"way": "somehow"},
        ):
            answer = self.client.post(f"{self.at}/light", data=sent | wrong)
            self.assertEqual(answer.status_code, 422, wrong)
        alike = self.client.post(f"{self.at}/light", data=sent | {"colour_failed": "green", "blink_failed": "steady"})
        self.assertIn("cannot look like anything else", within(alike.text, "#wrong-light"))

    def test_one_of_an_unknown_kind_is_kept_and_said(self) -> None:
        before = len(recordings.of_aircraft(self.quad))
        answer = self.client.post(self.at, data={"how": "samples", "samples": "apples,pears\n1,2\n3,4"})
        self.assertEqual(answer.status_code, 422)
        self.assertIn("It is kept among its recordings as it came.", within(answer.text, "#wrong-samples"))
        kept = recordings.of_aircraft(self.quad)
        self.assertEqual((len(kept), kept[0].kind), (before + 1, recordings.Kind.UNKNOWN))

    def test_what_a_stand_in_recorded_never_counts(self) -> None:
        self.client.post(self.at, data={"how": "live", "way": "all axes", "seed": "3"})
        kept = recordings.of_aircraft(self.quad)[0]
        self.assertTrue(kept.simulated)
        before = len(hangar.events(self.quad))
        text = self.client.get(f"/hangar/aircraft/{self.quad}/controller/recordings/{kept.id}/text").text
        self.now += self.now.resolution * 1_000_000
        self.client.post(self.at, data={"how": "samples", "samples": text})
        self.assertIn("invented, it counts for nothing", plain(self.client.get(self.at).text))
        self.assertEqual(len(hangar.events(self.quad)), before)

    def test_live_kept_it_counts_for_nothing(self) -> None:
        before = len(hangar.events(self.quad))
        self.assertEqual(
            self.client.post(self.at, data={"how": "live", "way": "all axes", "seed": "3"}).status_code, 303
        )
        self.assertIn("invented, it counts for nothing", plain(self.client.get(self.at).text))
        self.assertEqual(len(hangar.events(self.quad)), before)
        store_settings.save(devices={"controller": "silent"})
        self.assertIn(
            "does not answer",
            plain(self.client.post(self.at, data={"how": "live", "way": "all axes", "seed": "31"}).text),
        )

    def test_in_a_round_it_answers_its_check(self) -> None:
        number = self.start(aircraft="Lapwing", pack="L1", depth="full")
        page = f"/hangar/aircraft/{self.numbers['Lapwing']}/compass"
        self.assertTrue(
            elements(self.client.get(f"/rounds/{number}?check=sensors.compass").text, f'a[href^="{page}?aircraft="]')
        )
        self.walk_all(number)
        self.client.post(f"/rounds/{number}/undo", data={"seen": "0"})
        self.client.post(page, data={"how": "samples", "samples": self.recording(), "round": str(number)})
        state = rounds.load(number, self.settings, self.now).walk.state("sensors.compass")
        self.assertIsNotNone(state.evidence)

    def test_what_current_does(self) -> None:
        rows = "\n".join(f"{t / 100},{48 + 10 * t / 100}" for t in range(101))
        flight = self.client.post(f"{self.at}/current", data={"how": "log", "log": f"throttle,strength\n{rows}"})
        self.assertIn(
            "At full throttle the current would change the field by 19 %.", plain(flight.text).replace("\u202f", " ")
        )
        self.assertIn(
            "Take the propellers off first", plain(self.client.post(f"{self.at}/current", data={"how": "bench"}).text)
        )
        bench = plain(self.client.post(f"{self.at}/current", data={"how": "bench", "off": "1"}).text)
        self.assertTrue("which proves nothing" in bench or "not told" in bench, bench[:200])
        self.assertIn(
            "needs a header", plain(self.client.post(f"{self.at}/current", data={"how": "log", "log": "1,2"}).text)
        )
