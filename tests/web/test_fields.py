"""The form of a field."""

from tests.web.test_hangar import FormCase
from walkround.core.field.site import Site
from walkround.store import hangar

FIELD = {
    "name": "New Place", "position": "48.1, 15.2", "elevation_m": "200", "timezone": "Europe/Vienna",
    "terrain": "open grass", "flight_radius_m": "100", "flight_height_m": "40",
}  # fmt: skip


class FieldForm(FormCase):
    def test_swapped_coordinates_are_offered(self) -> None:
        text = self.wrong("/fields", {**FIELD, "id": "0", "position": "95.5, 48.1"}, "Are the two swapped?")
        self.assertIn("Swap them: 48.1, 95.5", text)

    def test_mistakes(self) -> None:
        rows = (
            ({"name": ""}, "Name is empty"), ({"position": "north"}, "for example 48.2213, 15.3318"), ({"position": "48.1, 200"}, "outside -180"),
            ({"timezone": "Mars/Olympus"}, "not known"), ({"timezone": "../../etc/passwd"}, "not known"),
            ({"terrain": "lava"}, "choose one"), ({"flight_radius_m": "5"}, "between 10 m"), ({"station": "TOOLONG"}, "Weather station"),
            ({"strip_deg": "400"}, "Strip: between"),
            ({"name": "Teasel Common"}, "already a field"),
        )  # fmt: skip
        for changes, words in rows:
            with self.subTest(changes):
                self.wrong("/fields", {**FIELD, "id": "0", **changes}, words)

    def test_a_strip_is_kept_drawn_and_taken_away(self) -> None:
        for strip, kept in (("70", 70.0), ("", None), ("0", 0.0)):
            answer = self.client.post(
                "/fields", data={**FIELD, "id": "0", "name": f"Strip {strip}", "strip_deg": strip}
            )
            page = self.client.get(answer.headers["location"])
            number = int(answer.headers["location"].split("/")[-1].split("?")[0])
            self.assertEqual(hangar.get(Site, number).strip_deg, kept)
            self.assertEqual('class="landing"' in page.text, kept is not None)
