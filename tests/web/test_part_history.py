"""A part on its page, and what a pilot says of the parts of an aircraft: added, gone, allowed, how long they last."""

from tests.support import elements, plain, within
from tests.web.test_hangar import FormCase
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.inspection.touched import touched_parts
from walkround.store import hangar, snags


class PartPage(FormCase):
    @property
    def at(self) -> str:
        return f"/hangar/aircraft/{self.numbers['Sandpiper']}"

    def quad(self) -> Aircraft:
        return hangar.get(Aircraft, self.numbers["Sandpiper"])

    def test_every_part_has_a_page(self) -> None:
        for part in touched_parts(self.quad())[::6]:
            page = self.client.get(f"{self.at}/part?part_id={part.id}")
            self.assertEqual(page.status_code, 200)
            self.assertIn("Last touched in a round", plain(page.text))
        for gone in ("nope", "", "arm-1/nope"):
            self.assertEqual(self.client.get(f"{self.at}/part?part_id={gone}").status_code, 404)

    def test_the_day_it_was_fitted(self) -> None:
        page = f"{self.at}/part?part_id=arm-2"
        self.assertIn("Age not known", plain(self.client.get(page).text))
        for wrong in ("", "2099-01-01", "yesterday"):
            answer = self.client.post(f"{self.at}/part", data={"part_id": "arm-2", "done": "fitted", "fitted": wrong})
            self.assertEqual(answer.status_code, 422)
            self.assertTrue(elements(answer.text, "#wrong-fitted"), wrong)
        sent = {"part_id": "arm-2", "done": "fitted", "fitted": "2026-05-01"}
        self.assertEqual(self.client.post(f"{self.at}/part", data=sent).status_code, 303)
        text = plain(self.client.get(page).text)
        self.assertIn("On it since 01 May 2026", text)

    def test_replaced_with_a_reason(self) -> None:
        self.wrong(f"{self.at}/part", {"part_id": "arm-2", "done": "other"}, "Reason")
        sent = {"part_id": "arm-2", "done": "other", "why": "bent"}
        self.assertEqual(self.client.post(f"{self.at}/part", data=sent).status_code, 303)
        facts = within(self.client.get(f"{self.at}/part?part_id=arm-2").text, ".facts")
        self.assertRegex(facts, "^Flights, with as many starts and landings 0 ")


class Inspection(PartPage):
    @property
    def page(self) -> str:
        return f"{self.at}/inspection"

    def send(self, change: str, **form: str) -> int:
        shown = self.hidden(self.page, self.page)["revision"]
        return int(self.client.post(self.page, data={"change": change, "revision": shown, **form}).status_code)

    def test_a_part_is_added_and_taken_away(self) -> None:
        self.assertEqual(self.send("add", name="tow hook", does="HOLDS"), 303)
        self.assertEqual([(one.id, one.name) for one in self.quad().own_parts], [("own-1", "tow hook")])
        self.assertIn("Tow hook", plain(self.client.get(self.page).text))
        self.assertEqual(self.send("away", part_id="own-1"), 303)
        self.assertEqual(self.send("away", part_id="body/vents"), 303)
        self.assertEqual((self.quad().own_parts, self.quad().without_parts), ((), frozenset({"body/vents"})))
        self.assertEqual(self.send("back", part_id="body/vents"), 303)
        self.assertFalse(self.quad().without_parts)

    def test_what_the_maker_allows_needs_its_source(self) -> None:
        given = {"allow_does": "ROTATES", "allow_damage": "NICK", "allow_place": "TIP", "words": "a small nick"}
        answer = self.client.post(
            self.page, data={"change": "allow", "revision": self.hidden(self.page, self.page)["revision"], **given}
        )
        self.assertEqual(answer.status_code, 422)
        self.assertTrue(elements(answer.text, "#wrong-source"))
        self.assertTrue(elements(answer.text, 'input[value="a small nick"]'), "nothing typed is lost")
        asked = f"{self.at}/damage?part=propeller-1/blade-1&damage=NICK&place="
        self.assertIn("Stay down.", plain(self.client.get(f"{asked}TIP", headers={"HX-Request": "true"}).text))
        self.assertEqual(self.send("allow", source="Manual, page 12", **given), 303)
        allowed = plain(self.client.get(f"{asked}TIP", headers={"HX-Request": "true"}).text)
        self.assertIn("The maker allows it: a small nick.", allowed)
        self.assertIn("Stay down.", plain(self.client.get(f"{asked}ROOT", headers={"HX-Request": "true"}).text))
        self.assertEqual(self.send("forbid", number="0"), 303)
        self.assertFalse(self.quad().tolerances)

    def test_lives_are_the_pilots_to_change(self) -> None:
        usual = self.filled_lives()
        self.assertEqual(self.send("lives", **usual), 303)
        self.assertEqual(self.quad().lives, (), "the usual ones are not kept")
        self.assertEqual(self.send("lives", **usual | {"life-propeller-flights": "50"}), 303)
        self.assertEqual([(one.rule, one.limit) for one in self.quad().lives], [("propeller-flights", 50)])
        self.assertIn("your own limit", plain(self.client.get(f"{self.at}/part?part_id=propeller-1/blade-1").text))
        self.assertEqual(self.send("lives", **usual | {"life-propeller-flights": "none"}), 422)

    def filled_lives(self) -> dict[str, str]:
        fields = elements(self.client.get(self.page).text, "input[name^=life-]")
        return {str(f.attributes["name"]): str(f.attributes["value"]) for f in fields}

    def test_overtaken_and_unknown(self) -> None:
        old = self.hidden(self.page, self.page)["revision"]
        self.send("add", name="tow hook", does="HOLDS")
        late = self.client.post(self.page, data={"change": "add", "revision": old, "name": "skid", "does": "STANDS"})
        self.assertEqual(late.status_code, 409)
        self.assertEqual(len(self.quad().own_parts), 1)
        self.assertEqual(self.send("nonsense"), 404)
        for wrong, field in (({"name": "", "does": "HOLDS"}, "name"), ({"name": "x", "does": ""}, "does")):
            answer = self.client.post(self.page, data={"change": "add", "revision": old, **wrong})
            self.assertTrue(elements(answer.text, f"#wrong-{field}"))
        self.assertFalse([snag for snag in snags.open_ones(self.quad().id) if "tow" in snag.title])
