"""The box and one pack on screen: what is asked for stands there, a reason is wanted, nothing dangerous comes back."""

from datetime import timedelta
from zoneinfo import ZoneInfo

from tests.support import WebCase, elements, plain, within
from walkround.core.packs import table
from walkround.core.packs.pack import Pack, PackState, PackUse
from walkround.core.packs.reading import Reading
from walkround.store import hangar, packs

FORM = {"id": "0", "label": "N1", "use": "flight", "chemistry": "lithium-polymer", "cells": "4", "capacity_mah": "1500"}


class Box(WebCase):
    def test_what_each_needs(self) -> None:
        text = plain(self.client.get("/packs").text)
        for words in (
            "11 packs",
            "Full for 6 days",
            "Retired for good: rocks on the table",
            "At storage charge",
            "balance charge",
            "monitor",
            "6 months old",
        ):
            self.assertIn(words, text.replace("\u202f", " "))

    def test_for_one_aircraft_it_says_what_flies_next(self) -> None:
        text = plain(self.client.get("/packs", params={"aircraft": self.numbers["Haymaker"]}).text)
        self.assertIn("Fly next H1", text)
        self.assertNotIn("S1", text)

    def test_after_flying_it_says_what_goes_to_storage(self) -> None:
        packs.add_reading(self.numbers["S2"], Reading(at=self.now - timedelta(hours=2), percent=9), self.now)
        text = plain(self.client.get("/packs").text).replace("\u202f", " ")
        self.assertIn("to storage charge S2 At 9 %: charge to about", text)

    def test_a_reading_dated_ahead_is_shown_as_such_and_can_be_taken_back(self) -> None:
        number, said = self.numbers["S2"], "Dated ahead of the clock: it does not count."
        self.assertNotIn(said, plain(self.client.get(f"/packs/{number}").text))
        kept = packs.add_reading(number, Reading(at=self.now + timedelta(days=2), percent=100), self.now)
        self.assertIn(said, plain(self.client.get(f"/packs/{number}").text))
        self.client.post(f"/readings/{kept}/drop")
        self.assertNotIn(said, plain(self.client.get(f"/packs/{number}").text))

    def test_pages_of_it(self) -> None:
        for i in range(60):
            hangar.save(Pack(label=f"X{i:02d}", cells=2, capacity_mah=500), self.now)
        self.assertIn("1 of 2", within(self.client.get("/packs").text, ".pager"))
        for odd in ("2", "99", "0", "-1", "x", "99999999999"):
            self.assertEqual(self.client.get("/packs", params={"page": odd, "aircraft": odd}).status_code, 200)


class FormCase(WebCase):
    def wrong(self, path: str, form: dict[str, str], words: str) -> str:
        answer = self.client.post(path, data=form)
        self.assertEqual(answer.status_code, 422, answer.text[:300])
        self.assertIn(words, within(answer.text, ".wrong"))
        return answer.text


class OnePack(FormCase):
    def test_everything_about_it_is_kept(self) -> None:
        more = {**FORM, "use": "goggles", "chemistry": "nickel-metal hydride", "c_rate": "30", "mass_g": "185", "connector": "two pins",
                "bought": "2025-03-01", "cycles_before": "40", "firmware": "1.2", "mark": "warm once", "smart": "1",
                "only_for": ["1", "2"]}  # fmt: skip
        where = self.client.post("/packs", data=more).headers["location"]
        pack = hangar.get(Pack, int(where.split("/")[2].split("?")[0]))
        self.assertEqual((pack.use, pack.c_rate, pack.mass_g, pack.cycles_before, pack.only_for, pack.mark),
                         (PackUse.GOGGLES, 30, 185, 40, frozenset({1, 2}), "warm once"))  # fmt: skip
        self.assertIn("two pins", self.client.get(where).text)

    def test_a_chemistry_that_is_not_known_grounds_it_everywhere(self) -> None:
        where = self.client.post("/packs", data={**FORM, "chemistry": "not known"}).headers["location"]
        number = int(where.split("/")[2].split("?")[0])
        packs.add_reading(number, Reading(at=self.now, cells_v=(3.9, 3.9, 3.9, 3.9)), self.now)
        for path in (where, "/packs"):
            text = plain(self.client.get(path).text)
            self.assertIn("4 cells, chemistry not known", text)
            self.assertIn("its voltage cannot be judged", text)
        charging = plain(self.client.get("/packs/charging").text)
        self.assertIn("Its chemistry is not known.", charging)
        self.assertIn("Find the chemistry on the label", charging)
        self.assertIn("of them not fit to fly", plain(self.client.get("/hangar").text))

    def test_a_total_far_too_low_is_not_in_the_charging_plan(self) -> None:
        packs.add_reading(self.numbers["H1"], Reading(at=self.now, total_v=6.0), self.now)
        self.assertIn(
            "A cell is at 2.00 V: too low, the cell is probably damaged.",
            plain(self.client.get("/packs/charging").text),
        )

    def test_an_overcharged_pack_does_not_fly_next(self) -> None:
        before = plain(self.client.get("/hangar").text)
        packs.add_reading(self.numbers["H1"], Reading(at=self.now, cells_v=(4.3, 4.3, 4.3)), self.now)
        text = plain(self.client.get("/packs", params={"aircraft": self.numbers["Haymaker"]}).text)
        self.assertNotIn("Fly next H1", text)
        self.assertNotEqual(plain(self.client.get("/hangar").text), before, "one more does not fly")

    def test_a_change_of_the_label_keeps_its_state(self) -> None:
        number = self.numbers["H3"]
        self.client.post(
            "/packs", data={**FORM, **self.hidden(f"/packs/{number}", "/packs"), "cells": "3", "label": "H3b"}
        )
        self.assertEqual((hangar.get(Pack, number).label, hangar.get(Pack, number).state), ("H3b", PackState.MONITOR))
        out = self.numbers["H2"]
        self.client.post(
            "/packs", data={**FORM, **self.hidden(f"/packs/{out}", "/packs"), "cells": "3", "label": "H2b"}
        )
        self.assertTrue(hangar.get(Pack, out).condemned)

    def test_mistakes(self) -> None:
        rows = (
            ({"capacity_mah": "0"}, "between"),
            ({"capacity_mah": "-2200"}, "between"),
            ({"cells": "0"}, "between"),
            ({"chemistry": "lead"}, "choose one from the list"),
            ({"label": "S1"}, "already a pack called S1"),
            ({"label": ""}, "Label is empty"),
            ({"bought": "2031-01-01"}, "That day is in the future"),
            ({"bought": "yesterday"}, "not a date"),
            ({"c_rate": "fast"}, "not a number"),
        )
        for changes, words in rows:
            with self.subTest(changes):
                self.wrong("/packs", {**FORM, **changes}, words)

    def test_its_history_is_drawn(self) -> None:
        page = self.client.get(f"/packs/{self.numbers['S1']}").text
        text = plain(page)
        for words in (
            "Ageing",
            "Usable capacity",
            "At this rate it reaches your limit about",
            "nine times in ten",
        ):
            self.assertIn(words, text)
        self.assertTrue(elements(page, "figure.trend path.band"))
        jumped = plain(self.client.get(f"/packs/{self.numbers['L1']}").text)
        self.assertIn("It jumped by", jumped)
        self.assertIn("too few readings for a trend", plain(self.client.get(f"/packs/{self.numbers['M1']}").text))

    def test_a_state_wants_a_reason(self) -> None:
        number = self.numbers["S2"]
        self.wrong(f"/packs/{number}/state", {"state": "quarantined", "state_reason": ""}, "Reason is empty")
        self.wrong(f"/packs/{number}/state", {"state": "loved", "state_reason": "x"}, "choose one from the list")
        answer = self.client.post(f"/packs/{number}/state", data={"state": "quarantined", "state_reason": "dropped"})
        self.assertEqual(answer.status_code, 303)
        self.assertIn("Quarantined: dropped", plain(self.client.get(f"/packs/{number}").text))
        self.assertNotIn(
            "S2", within(self.client.get("/", params={"aircraft": self.numbers["Sandpiper"]}).text, "select[name=pack]")
        )

    def test_out_for_good_stays_out_whatever_is_sent(self) -> None:
        number = self.numbers["H2"]
        page = self.client.get(f"/packs/{number}").text
        self.assertIn("It can burn without warning", page)
        self.assertTrue(elements(page, "form"))
        self.assertEqual(elements(page, f'form[action="/packs/{number}/state"]'), [])
        self.wrong(
            f"/packs/{number}/state",
            {"state": "in service", "state_reason": "looks fine"},
            "is retired for good. It cannot return to service",
        )

    def test_off_the_charger(self) -> None:
        number = self.numbers["S2"]
        self.client.post(f"/packs/{number}/charged", data={"to": "full", "recharged_mah": "1650"})
        newest = packs.readings(number)[-1]
        self.assertEqual((newest.percent, newest.recharged_mah), (100, 1650))
        self.assertEqual(hangar.get(Pack, number).charged_at, self.now)
        self.now += timedelta(minutes=1)
        self.client.post(f"/packs/{number}/charged", data={"to": "storage"})
        self.assertIn("At storage charge", plain(self.client.get(f"/packs/{number}").text))
        self.wrong(f"/packs/{number}/charged", {"to": "full", "recharged_mah": "lots"}, "not a number")


class Out(WebCase):
    def test_readings_leave_as_a_table_that_can_be_taken_again(self) -> None:
        """What is written is read back by our own reader: the same moments and volts."""
        number = self.numbers["H1"]
        answer = self.client.get(f"/packs/{number}/readings.csv")
        self.assertIn("H1.readings.csv", answer.headers["content-disposition"])
        sheet = table.look(answer.text)
        columns = table.guess(sheet, [])
        self.assertEqual(columns.fields[:4], ("pack", "at", "cell_1", "cell_2"))
        taken = table.take(answer.text, sheet, columns, [hangar.get(Pack, number)], zone=ZoneInfo("UTC"), now=self.now)
        kept = {r.at.replace(microsecond=0): r.cells_v for r in packs.readings(number) if r.cells_v}
        self.assertEqual({r.at: r.cells_v for r in taken.rows[number] if r.cells_v}, kept)
        self.assertEqual(self.client.get("/packs/999/readings.csv").status_code, 404)
