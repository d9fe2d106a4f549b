"""Damage on its page: the verdict at once, the snag that follows, what cannot be."""

from tests.support import elements, plain
from tests.web.test_hangar import FormCase
from walkround.core.aircraft.damage import Damage
from walkround.store import snags
from walkround.web.drawings.damage import DRAWN

FRAGMENT = {"HX-Request": "true"}


class DamagePage(FormCase):
    def address(self, query: str = "", name: str = "Sandpiper") -> str:
        return f"/hangar/aircraft/{self.numbers[name]}/damage?{query}"

    def test_every_kind_is_drawn_good_beside_bad(self) -> None:
        self.assertEqual({*DRAWN}, {*Damage})
        self.assertEqual(len({(d.bad, d.mark) for d in DRAWN.values()}), len(DRAWN))
        page = self.client.get(self.address()).text
        self.assertEqual(len(elements(page, ".damage")), len(Damage))
        self.assertIn("Choose the part and what is wrong", page)

    def test_the_verdict_comes_at_once(self) -> None:
        part = self.client.get(self.address("part=propeller-1&damage=NICK&place=EDGE"), headers=FRAGMENT)
        self.assertNotIn("<html", part.text)
        self.assertIn("Stay down.", plain(part.text))
        self.assertIn("Grounded until it is replaced.", plain(part.text))
        shell = plain(self.client.get(self.address("part=body&damage=CHAFE&place=MIDDLE"), headers=FRAGMENT).text)
        self.assertIn("It flies. Inspect it each time", shell)
        self.assertNotIn("Stay down.", shell)
        unsaid = plain(self.client.get(self.address("part=body&damage=CHAFE"), headers=FRAGMENT).text)
        self.assertIn("Stay down.", unsaid)
        self.assertIn("Say where it is", unsaid)

    def test_it_goes_on_record_as_the_rule_says(self) -> None:
        quad = self.numbers["Sandpiper"]
        for sent, grounds in (
            ({"part": "propeller-1", "damage": "CRACK", "place": "ROOT"}, True),
            ({"part": "body", "damage": "CHAFE", "place": "MIDDLE"}, False),
            ({"part": "arm-1", "damage": "UNSURE"}, True),
        ):
            self.assertEqual(self.client.post(self.address(), data=sent).status_code, 303)
            newest = max(snags.open_ones(quad), key=lambda snag: snag.id)
            self.assertEqual((newest.parts, newest.grounds), ((sent["part"],), grounds))
        self.assertIn("propeller: crack, root", plain(self.client.get("/snags").text))
        again = plain(self.client.get(self.address("part=propeller-1&damage=NICK")).text)
        self.assertIn("Already on record here:", again)

    def test_what_a_fix_did_not_hold_is_replaced(self) -> None:
        loose = self.address("part=arm-1&damage=LOOSE")
        self.assertIn("Fix it here", plain(self.client.get(loose, headers=FRAGMENT).text))
        self.client.post(loose, data={"part": "arm-1", "damage": "LOOSE"})
        newest = max(snags.open_ones(self.numbers["Sandpiper"]), key=lambda snag: snag.id)
        self.client.post(f"/snags/{newest.id}/close", data={"how": "tightened"})
        self.assertNotIn(newest.id, {snag.id for snag in snags.open_ones(self.numbers["Sandpiper"])})
        again = plain(self.client.get(loose, headers=FRAGMENT).text)
        self.assertIn("Grounded until it is replaced.", again)
        self.assertIn("It was fixed once within the last 5 flights", again)
        other = plain(self.client.get(self.address("part=arm-2&damage=LOOSE"), headers=FRAGMENT).text)
        self.assertIn("Fix it here", other)

    def test_a_photo_is_kept_and_what_is_none_is_said(self) -> None:
        sent = {"part": "body", "damage": "CHAFE"}
        wrong = self.client.post(self.address(), data=sent, files={"photo": ("a.jpg", b"not a photo", "image/jpeg")})
        self.assertEqual(wrong.status_code, 422)
        self.assertTrue(elements(wrong.text, "#wrong-photo"))
        self.assertTrue(elements(wrong.text, 'option[value="body"][selected]'), "nothing typed is lost")

    def test_bad_input_is_said_at_its_place(self) -> None:
        for sent, field in (
            ({"damage": "NICK"}, "part"),
            ({"part": "body"}, "damage"),
            ({"part": "tail-rotor", "damage": "NICK"}, "part"),
        ):
            answer = self.client.post(self.address(), data=sent)
            self.assertEqual(answer.status_code, 422)
            self.assertTrue(elements(answer.text, f"#wrong-{field}"), sent)
        self.assertFalse(snags.open_ones(self.numbers["Sandpiper"]))

    def test_a_wing_names_what_holds_it(self) -> None:
        text = plain(self.client.get(self.address(name="Haymaker")).text)
        self.assertIn("Rubber bands", text)
        worn = plain(self.client.get(self.address("part=wing-joint&damage=WORN", "Haymaker"), headers=FRAGMENT).text)
        self.assertIn("Grounded until it is replaced.", worn)

    def test_the_walk_leads_to_it(self) -> None:
        number = self.start(depth="full")
        card = self.client.get(f"/rounds/{number}?check=airframe.propellers").text
        self.assertIn(f'href="/hangar/aircraft/{self.numbers["Sandpiper"]}/damage?aircraft=', card)

    def test_and_back_to_the_walk_where_the_snag_is_asked(self) -> None:
        number = self.start(depth="full")
        back = f"/rounds/{number}?check=airframe.propellers"
        query = f"round={number}&check=airframe.propellers"
        self.assertTrue(elements(self.client.get(back).text, f'a[href$="&{query}"]'))
        page = self.client.get(self.address(query)).text
        self.assertTrue(elements(page, f'a[href="{back}"]'))
        sent = {"part": "propeller-1", "damage": "NICK", "round": str(number), "check": "airframe.propellers"}
        saved = self.client.post(self.address(), data=sent)
        self.assertEqual((saved.status_code, saved.headers["location"]), (303, back))
        walk = plain(self.client.get(back).text)
        self.assertRegex(walk, "Open snag: .*propeller: nick or dent")
        self.assertIn("Open snag", plain(self.client.get(f"/rounds/{number}/verdict").text))
        for wrong in ("999", "-1", "9" * 40, "a", ""):
            other = self.client.get(self.address(f"round={wrong}&check=x")).text
            self.assertNotIn("Back to the walk", other)
            self.assertEqual(self.client.get(self.address(f"round={wrong}")).status_code, 200)

    def test_a_part_that_fails_across_the_hangar_is_named(self) -> None:
        self.assertNotIn("Fails often", self.client.get("/snags").text)
        for name in ("Sandpiper", "Lapwing"):
            self.client.post(self.address("", name), data={"part": "gimbal", "damage": "LOOSE"})
        self.assertRegex(plain(self.client.get("/snags").text), r"Fails often .*: on 2 of \d \(multirotor\)")
