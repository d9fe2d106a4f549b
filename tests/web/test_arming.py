"""Why it will not arm, on its page: read, typed and pasted; the first that blocks is said first, and its own numbers are kept."""

from tests.support import elements, plain, within
from tests.web.test_hangar import FormCase
from walkround.core.aircraft.aircraft import Aircraft
from walkround.store import hangar
from walkround.store import settings as store_settings

KNOWN = {"model_right": "yes", "arm_switch_on": "no", "calibrated": "yes", "inside_fence": "yes", "failsafe_us": "950"}


class ArmingPage(FormCase):
    @property
    def quad(self) -> int:
        return self.numbers["Sandpiper"]

    @property
    def at(self) -> str:
        return f"/hangar/aircraft/{self.quad}/arming"

    def said(self, **form: str) -> str:
        answer = self.client.post(self.at, data=form)
        self.assertEqual(answer.status_code, 200)
        return within(answer.text, ".remark")

    def test_read_from_the_stand_in(self) -> None:
        for condition, words in (
            ("good", "It should arm now."),
            ("board", "What blocks it first: voltage."),
            ("no fix", "What blocks it first: position."),
            ("alike", "What blocks it first: channels."),
        ):
            store_settings.save(devices={"controller": condition})
            self.assertIn(words, self.said(how="read", **KNOWN), condition)
        store_settings.save(devices={"controller": "silent"})
        self.assertEqual(self.client.post(self.at, data={"how": "read"}).status_code, 503)

    def test_read_alone_does_not_know_what_only_a_pilot_sees(self) -> None:
        words = self.said(how="read")
        self.assertIn("Nothing known blocks it. Not known yet: model, failsafe value, calibration, geofence.", words)

    def test_typed_prevails_and_the_first_that_blocks_is_said_first(self) -> None:
        answer = self.client.post(self.at, data={"how": "read", **KNOWN, "throttle_us": "1180", "board_v": "4.2"})
        self.assertIn("What blocks it first: throttle.", within(answer.text, ".remark"))
        self.assertIn("Then: voltage.", plain(answer.text))
        self.assertIn("Throttle stick and trim right down", within(answer.text, ".remark"))
        self.assertEqual(len(elements(answer.text, "svg.channel")), 4)

    def test_nothing_entered_is_not_armed(self) -> None:
        words = self.said()
        self.assertIn("Nothing known blocks it. Not known yet: model, receiver, throttle", words)

    def test_offsets_by_their_length_and_pasted_messages(self) -> None:
        self.assertIn(
            "What blocks it first: compass.",
            self.said(how="read", **KNOWN, offset_x="40", offset_y="40", offset_z="40"),
        )
        self.assertIn("should arm", self.said(how="read", **KNOWN, offset_x="40", offset_y="0", offset_z="0"))
        self.assertIn(
            "What blocks it first: error flags.", self.said(how="read", **KNOWN, messages="Barometer not healthy")
        )
        odd = plain(self.client.post(self.at, data={"how": "read", **KNOWN, "messages": "Blorp 17"}).text)
        self.assertIn("“Blorp 17”: Not known here.", odd)

    def test_channels_typed(self) -> None:
        ends = {
            f"{end}_{i}": value
            for i in range(1, 5)
            for end, value in (("low", "1000"), ("centre", "1500"), ("high", "2000"))
        }
        self.assertNotIn("channels", self.said(**ends))
        self.assertIn("What blocks it first: channels.", self.said(**(ends | {"high_2": "1600"})))
        answer = self.client.post(self.at, data=ends | {"high_2": ""})
        self.assertIn("Enter low, centre and high of channel 2.", within(answer.text, "#wrong-low_2"))

    def test_bad_input_is_said_at_its_place_and_nothing_is_lost(self) -> None:
        for field, value in (
            ("board_v", "much"),
            ("tilt_deg", "-4"),
            ("hdop", "1000"),
            ("offset_x", "3"),
            ("low_1", "1000"),
        ):
            answer = self.client.post(self.at, data={field: value, "failsafe_us": "951"})
            self.assertEqual(answer.status_code, 422, field)
            self.assertTrue(elements(answer.text, f"#wrong-{field}"), field)
            self.assertIn('value="951"', answer.text)

    def test_its_own_numbers(self) -> None:
        profile = f"{self.at}/profile"
        self.client.post(profile, data={"generic": "stick, no satellites"})
        self.assertNotIn("Geofence", plain(self.client.post(self.at, data={}).text))
        page = self.client.get(self.at).text
        (form,) = elements(page, f'details form[action="{profile}"]')
        sent = {
            str(f.attributes["name"]): f.attributes.get("value") or ""
            for f in form.css("input[name]")
            if f.attributes["name"] != "satellites"
        }
        sent |= {
            "arms": "with a switch",
            "modes": "hover, position\nreturn, no, position\nlevel",
            "satellites": "1",
            "board_least_v": "4.1",
        }
        self.assertEqual(self.client.post(profile, data=sent).status_code, 303)
        kept = hangar.get(Aircraft, self.quad).controller
        assert kept is not None
        self.assertEqual(
            [(mode.name, mode.arms, mode.position) for mode in kept.modes],
            [("hover", True, True), ("return", False, True), ("level", True, False)],
        )
        self.assertEqual((kept.board_least_v, kept.satellites), (4.1, True))
        for wrong, field in (
            ({"board_most_v": "4"}, "board_most_v"),
            ({"ends_low_us": "low"}, "ends_low_us"),
            ({"modes": "a\nA"}, "modes"),
            ({"modes": ""}, "modes"),
        ):
            answer = self.client.post(profile, data=sent | wrong)
            self.assertEqual(answer.status_code, 422, wrong)
            self.assertTrue(elements(answer.text, f"#wrong-{field}"), wrong)

    def test_they_go_with_the_aircraft(self) -> None:
        self.client.post(f"{self.at}/profile", data={"generic": "stick, satellites"})
        exported = self.client.get(f"/hangar/aircraft/{self.quad}/aircraft.json").text
        self.assertIn("stick, satellites", exported)
