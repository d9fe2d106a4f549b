"""Damage on its page: the verdict at once, the snag that follows, what cannot be."""

from datetime import timedelta

from tests.store.test_photos import photo
from tests.support import elements, plain, within
from tests.web.test_hangar import FormCase
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.bag import bag_list
from walkround.core.aircraft.flaws import Damage
from walkround.store import hangar, snags
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

    def test_the_drawing_leads_to_it_and_back(self) -> None:
        number = self.start(depth="full")
        self.client.post(f"/rounds/{number}/touch/unplugged", data={"stop": "arm-1"})
        back = f"/rounds/{number}/touch?stop=arm-1"
        query = f"part=propeller-1/blade-1&round={number}&stop=arm-1"
        self.assertTrue(elements(self.client.get(back).text, f'a.target[href$="{query}"]'))
        self.assertTrue(elements(self.client.get(self.address(query)).text, f'a[href="{back}"]'))
        sent = {"part": "propeller-1/blade-1", "damage": "NICK", "round": str(number), "stop": "arm-1"}
        saved = self.client.post(self.address(), data=sent)
        self.assertEqual((saved.status_code, saved.headers["location"]), (303, back))
        self.assertTrue(elements(self.client.get(back).text, '.target.damaged[data-part="propeller-1/blade-1"]'))
        self.assertRegex(
            plain(self.client.get(f"/rounds/{number}?station=airframe").text), "Open snag: .*blade 1: nick or dent"
        )
        self.assertIn("Open snag", plain(self.client.get(f"/rounds/{number}/verdict").text))
        for wrong in ("999", "-1", "9" * 40, "a", ""):
            other = self.client.get(self.address(f"round={wrong}&stop=x")).text
            self.assertNotIn("Back to the drawing", other)
            self.assertEqual(self.client.get(self.address(f"round={wrong}")).status_code, 200)

    def test_fixed_on_the_spot_is_a_fix_on_record(self) -> None:
        sent = {"part": "arm-1/latch", "damage": "LOOSE", "done": "fixed"}
        saved = self.client.post(self.address(), data=sent)
        self.assertIn("/part?part_id=arm-1%2Flatch&then=", saved.headers["location"])
        self.assertFalse(snags.open_ones(self.numbers["Sandpiper"]))
        page = plain(self.client.get(saved.headers["location"]).text)
        self.assertIn("Check now: Pull at it.", page)
        self.assertRegex(page, "arm latch: loose.* Fixed on the spot")

    def test_what_must_be_replaced_is_not_fixed_on_the_spot(self) -> None:
        sent = {"part": "propeller-1/blade-1", "damage": "CRACK", "done": "fixed"}
        self.assertEqual(self.client.post(self.address(), data=sent).status_code, 422)
        page = self.client.get(self.address("part=propeller-1/blade-1&damage=CRACK"), headers=FRAGMENT).text
        self.assertFalse(elements(page, '[value="fixed"]'))
        self.assertTrue(elements(page, '[value="other"]'))

    def test_a_replacement_begins_at_zero_and_the_bag_counts_down(self) -> None:
        number = self.start()
        have = {
            f"bag-{thing.id}": str(thing.wanted) for thing in bag_list(hangar.get(Aircraft, self.numbers["Sandpiper"]))
        }
        counted = self.answer(number, "bag.first_pass", action="take", **have)
        self.assertEqual(counted.status_code, 200)
        asked = self.address("part=propeller-2/blade-1&damage=CHIP&place=TIP")
        self.assertIn("2 in the bag", plain(self.client.get(asked, headers=FRAGMENT).text))
        sent = {"part": "propeller-2/blade-1", "damage": "CHIP", "done": "from_bag"}
        for left in (1, 0):
            self.now += timedelta(minutes=1)
            self.assertEqual(self.client.post(self.address(), data=sent).status_code, 303)
            text = plain(self.client.get(asked, headers=FRAGMENT).text)
            self.assertIn("1 in the bag" if left else "none left in the bag", text)
        gone = self.client.post(self.address(), data=sent)
        self.assertEqual(gone.status_code, 409)
        self.assertIn("none left in the bag", plain(gone.text))
        self.assertEqual(self.client.post(self.address(), data=sent | {"done": "other"}).status_code, 303)
        page = within(
            self.client.get(f"/hangar/aircraft/{self.numbers['Sandpiper']}/part?part_id=propeller-2/blade-1").text,
            ".facts",
        )
        self.assertRegex(page, "^Flights, with as many starts and landings 0 ")

    def test_the_last_photo_is_beside_the_new_one(self) -> None:
        sent = {"part": "body", "damage": "CHAFE", "place": "MIDDLE"}
        self.client.post(self.address(), data=sent, files={"photo": ("a.jpg", photo(), "image/jpeg")})
        page = self.client.get(self.address("part=body&damage=CHAFE")).text
        self.assertTrue(elements(page, ".last-photos img[src]"))

    def test_a_part_that_fails_across_the_hangar_is_named(self) -> None:
        self.assertNotIn("Fails often", self.client.get("/snags").text)
        for name in ("Sandpiper", "Lapwing"):
            self.client.post(self.address("", name), data={"part": "gimbal", "damage": "LOOSE"})
        self.assertRegex(plain(self.client.get("/snags").text), r"Fails often .*: on 2 of \d \(multirotor\)")
