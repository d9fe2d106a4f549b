"""Parts of an aircraft, fitted, replaced and taken off through their page."""

from tests.support import plain
from tests.web.test_hangar import FormCase
from walkround.store import parts

AIRFRAME = "/checks/airframe.shell"


class PartsPage(FormCase):
    def test_fitted_replaced_taken_off(self) -> None:
        number = self.numbers["Haymaker"]
        path = f"/hangar/aircraft/{number}/parts"
        form = {"kind": "servo", "place": "left wing", "rotation": "", "size": "9 g", "part_name": "", "firmware": ""}
        self.assertEqual(self.client.post(path, data=form).status_code, 303)
        self.assertIn("Servo (left wing, 9 g)", plain(self.client.get(path).text))
        servo = next(p for p in parts.of_aircraft(number) if p.kind == "servo")
        self.wrong(f"{path}/{servo.id}", {"action": "replace", "why": ""}, "enter a few words")
        self.client.post(f"{path}/{servo.id}", data={"action": "replace", "why": "stripped gear", "firmware": ""})
        self.assertIn("stripped gear", plain(self.client.get(path).text))
        start = self.start("Haymaker", "H1")
        self.assertEqual(self.client.post(f"{path}/{servo.id}", data={"action": "off", "why": "x"}).status_code, 422)
        self.assertIsNotNone(start)
        receiver = next(p for p in parts.of_aircraft(number) if p.kind == "receiver")
        self.client.post(f"{path}/{receiver.id}", data={"action": "replace", "why": "range", "firmware": "2.0"})
        again = plain(self.client.get(f"/rounds/{self.start('Haymaker', 'H1')}?check=link.range").text)
        self.assertIn("New receiver, today; not checked since.", again)
        self.wrong(path, form | {"kind": "sail"}, "Part: choose one")
        self.wrong(path, form | {"size": "x" * 50}, "(max 20")
        self.assertEqual(self.client.post(f"{path}/9999", data={"action": "off", "why": "x"}).status_code, 404)
