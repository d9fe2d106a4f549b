"""An existing fleet on one page: six aircraft and twenty packs, and what was flown elsewhere is no maiden."""

from tests.support import WebCase, plain
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.packs.pack import Pack
from walkround.store import hangar


class Fleet(WebCase):
    def send(self, **form: str):  # type: ignore[no-untyped-def]
        return self.client.post("/hangar/fleet", data={name.replace("_", "-"): text for name, text in form.items()})

    def labels(self) -> list[str]:
        return [pack.label for pack in hangar.everything(Pack)]

    def test_six_aircraft_and_twenty_packs_in_one_go(self) -> None:
        form = {f"type_{i}": "camera-quad" for i in range(1, 7)}
        form |= {f"name_{i}": f"Pipit {i}" for i in range(1, 7)} | {f"mass_{i}": "600" for i in range(1, 7)}
        form |= {
            "flown_1": "200",
            "label_1": "P1",
            "many_1": "12",
            "cells_1": "3",
            "capacity_1": "3500",
            "smart_1": "1",
        }
        form |= {"label_2": "Q7", "many_2": "8", "cells_2": "4", "capacity_2": "1500"}
        before = len(self.labels())
        self.assertEqual(self.send(**form).status_code, 303)
        self.assertEqual(len(self.labels()), before + 20)
        self.assertLessEqual({"P1", "P12", "Q7", "Q14"}, set(self.labels()))
        made = {one.name: one for one in hangar.everything(Aircraft)}
        self.assertEqual(
            (made["Pipit 1"].flown_before, made["Pipit 1"].mass_g, made["Pipit 6"].flown_before), (200, 600, 0)
        )
        packs = {pack.label: pack for pack in hangar.everything(Pack)}
        self.assertEqual((packs["P12"].smart, packs["Q14"].smart, packs["Q14"].capacity_mah), (True, False, 1500))
        shown = plain(self.client.get("/", params={"aircraft": made["Pipit 1"].id}).text)
        never = plain(self.client.get("/", params={"aircraft": made["Pipit 6"].id}).text)
        self.assertNotIn("is in the logbook", shown)
        self.assertNotIn("Maiden flight. No flight", shown)
        self.assertIn("No flight of Pipit 6 is in the logbook", never)

    def test_a_mistake_adds_nothing_and_keeps_what_was_typed(self) -> None:
        before = len(self.labels())
        rows = (
            ({"type_1": "camera-quad", "name_1": "Pipit", "mass_1": "heavy"}, "is not a number"),
            ({"type_1": "no-such", "name_1": "Pipit", "mass_1": "500"}, "Choose the closest type."),
            ({"label_1": "P1", "many_1": "31", "cells_1": "3", "capacity_1": "900"}, "between 1 and 30"),
            ({"label_1": "P1", "many_1": "3", "cells_1": "", "capacity_1": "900"}, "Cells"),
            ({}, "Enter at least one aircraft or one pack."),
        )
        for form, words in rows:
            answer = self.send(**form)
            self.assertEqual(answer.status_code, 422, form)
            self.assertIn(words, plain(answer.text))
            for text in form.values():
                self.assertIn(f'value="{text}"', answer.text) if text and text != "no-such" else None
        self.assertEqual(len(self.labels()), before)
        self.assertNotIn("Pipit", [one.name for one in hangar.everything(Aircraft)])

    def test_more_packs_like_one(self) -> None:
        number = self.numbers["S1"]
        self.assertEqual(self.client.post(f"/packs/{number}/more", data={"many": "3"}).status_code, 303)
        added = [pack for pack in hangar.everything(Pack) if pack.label in ("S4", "S5", "S6")]
        self.assertEqual(
            [(p.smart, p.capacity_mah, p.charged_at, p.usable) for p in added], [(True, 3500.0, None, True)] * 3
        )
        for odd in ("", "0", "99", "many"):
            self.assertEqual(self.client.post(f"/packs/{number}/more", data={"many": odd}).status_code, 422)
