"""The bag of an aircraft, changed and printed."""

from tests.support import plain
from tests.web.test_hangar import FormCase
from walkround.core.aircraft.aircraft import Aircraft
from walkround.store import hangar

AIRFRAME = "/checks/airframe.shell"


class Bag(FormCase):
    def test_changed_and_printed(self) -> None:
        path = f"/hangar/aircraft/{self.numbers['Sandpiper']}/bag"
        text = plain(self.client.get(path).text)
        self.assertIn("Without it: no recording.", text)
        form = {"bag_packs": "4", "bag_extra": "Folding chair\nThermos", "takes": ["cards", "mat"]}
        self.assertEqual(self.client.post(path, data=form | self.hidden(path, path)).status_code, 303)
        plane = hangar.get(Aircraft, self.numbers["Sandpiper"])
        self.assertEqual((plane.bag_packs, plane.bag_extra), (4, ("Folding chair", "Thermos")))
        text = plain(self.client.get(path).text)
        self.assertIn("Folding chair", text)
        self.assertIn("water", plane.bag_leaves)
        self.wrong(path, {"bag_packs": "0"}, "between 1 and 30")
        self.wrong(path, {"bag_packs": "2", "bag_extra": "x" * 80}, "(max 60")
