"""How deep a round goes and what one tap confirms, through the pages."""

from tests.support import WebCase, elements, plain, within
from walkround.core.checklist.check import Station
from walkround.core.packs.pack import Pack, PackState
from walkround.core.round.groups import group_of
from walkround.store import hangar, rounds


class Deeper(WebCase):
    """What the list of today leaves out can be asked with a tap, and the longer list walked."""

    def asked(self, number: int) -> set[str]:
        return set(rounds.load(number, self.settings, self.now).walk.plan.ids())

    def test_one_more_check_and_then_all_of_them(self) -> None:
        number = self.start()
        was = self.asked(number)
        self.answer(number, "airframe.shell", action="pass")
        page = self.client.get(f"/rounds/{number}?station=airframe").text
        offered = {node.attributes["value"] for node in elements(page, ".left-here button[name=ask]")}
        self.assertIn("airframe.screws", offered)
        self.assertFalse(offered & was)
        answer = self.client.post(f"/rounds/{number}/deepen", data={"ask": "airframe.screws", "station": "airframe"})
        self.assertEqual(within(answer.text, "#check-title"), "Count the screws")
        self.assertIn("You asked for it today.", plain(answer.text))
        self.assertEqual(self.asked(number), was | {"airframe.screws"})
        self.client.post(f"/rounds/{number}/deepen", data={"depth": "full", "station": "airframe"})
        full = self.start(depth="full")
        self.assertEqual(self.asked(number), self.asked(full))
        self.assertEqual(self.client.get(f"/rounds/{number}?check=airframe.shell").status_code, 200)

    def test_the_paper_checklist_says_what_is_left_out(self) -> None:
        number = self.start()
        card = plain(self.client.get(f"/rounds/{number}/card").text)
        self.assertRegex(card, r"Normal list\. Left out today: .*Count the screws")
        full = plain(self.client.get(f"/rounds/{self.start(depth='full')}/card").text)
        self.assertNotIn("Left out today", full)

    def test_nothing_makes_it_shorter_and_a_signed_round_stays(self) -> None:
        number = self.start()
        was = self.asked(number)
        for data in ({"depth": "short"}, {"depth": "none"}, {"ask": "no.such"}, {}):
            self.assertEqual(self.client.post(f"/rounds/{number}/deepen", data=data).status_code, 200)
            self.assertEqual(self.asked(number), was)
        chosen = rounds.load(number, self.settings, self.now).walk.situation.depth
        assert chosen is not None
        self.assertEqual(chosen.asked, (), "nothing is kept of what was never left out")
        self.walk_all(number)
        self.client.post(f"/rounds/{number}/sign", data={"signed_by": "Tamsin Rook"})
        late = self.client.post(f"/rounds/{number}/deepen", data={"depth": "full"})
        self.assertEqual(late.status_code, 409)
        self.assertIn("Only an open round takes more checks.", plain(late.text))
        self.assertEqual(self.client.post("/rounds/99999/deepen", data={}).status_code, 404)


class AtTheField(WebCase):
    def test_what_does_not_ground_is_left_at_home_with_one_tap(self) -> None:
        number = self.start()
        page = self.client.get(f"/rounds/{number}?station=bench").text
        words = within(page, ".leave-home")
        self.assertRegex(words, r"At the field already\? Leave \d+ checks at home")
        before = set(rounds.load(number, self.settings, self.now).walk.plan.ids())
        answer = self.client.post(f"/rounds/{number}/at-the-field", headers={"HX-Request": "true"})
        self.assertEqual(answer.status_code, 200)
        after = set(rounds.load(number, self.settings, self.now).walk.plan.ids())
        self.assertIn("bench.packs_ready", before - after)
        self.assertIn("bench.charger_settings", after, "a fault in it grounds")
        bench = self.client.get(f"/rounds/{number}?station=bench").text
        self.assertIn("can only be done at home, and a fault in it grounds", plain(bench))
        self.assertEqual(elements(bench, ".leave-home"), [])
        self.assertIn("Count the charged packs", within(bench, ".left-here"))
        self.client.post(f"/rounds/{number}/deepen", data={"ask": "bench.packs_ready", "station": "bench"})
        self.assertIn("bench.packs_ready", rounds.load(number, self.settings, self.now).walk.plan.ids())
        self.assertEqual(self.client.post("/rounds/99999/at-the-field").status_code, 404)


class Groups(WebCase):
    """Inspections of one part, confirmed together: exactly those that were named, or none."""

    def named(self, number: int, check: str) -> list[str]:
        group = group_of(rounds.load(number, self.settings, self.now).walk, check)
        return [] if group is None else list(group.ids)

    def test_the_page_shows_the_rows_of_a_group_and_opens_each(self) -> None:
        number = self.start()
        self.answer(number, "airframe.covers_off", action="pass")
        page = self.client.get(f"/rounds/{number}?station=airframe").text
        ids = [str(node.attributes["value"]) for node in elements(page, "#group-form input[name=check]")]
        self.assertEqual(ids, self.named(number, "airframe.shell"))
        self.assertEqual(len(elements(page, ".rows [data-row]")), len(ids))
        self.assertEqual(len(elements(page, ".checks > li > .line")) + len(ids), len(self.here(number, "airframe")))
        opened = self.client.get(f"/rounds/{number}?check={ids[0]}").text
        self.assertEqual((elements(opened, "#group-form"), len(elements(opened, "#skip-form"))), ([], 1))
        faulty = self.client.get(f"/rounds/{number}?check={ids[0]}&fault=1").text
        self.assertEqual(elements(faulty, "article.check")[0].attributes["data-mode"], "fault")

    def here(self, number: int, station: str) -> list[str]:
        walk = rounds.load(number, self.settings, self.now).walk
        return [s.planned.check.id for s in walk.at(Station(station))]

    def test_one_tap_confirms_what_it_names(self) -> None:
        number = self.start()
        ids = self.named(number, "airframe.shell")
        self.assertEqual(ids[0], "airframe.shell")
        self.assertGreaterEqual(len(ids), 2)
        answer = self.client.post(f"/rounds/{number}/group", data={"check": ids})
        self.assertIn(f"Airframe: {len(ids)} checks OK.", plain(answer.text))
        done = {e.check_id: e.answer.kind for e in rounds.load(number, self.settings, self.now).evidence}
        self.assertEqual(done, dict.fromkeys(ids, "passed"))
        self.assertNotIn(within(answer.text, "#check-title"), ("", "Airframe"))

    def test_what_the_record_has_against_one_of_them_is_shown(self) -> None:
        number = self.start()
        pack = hangar.get(Pack, self.numbers["S1"])
        hangar.save(pack.model_copy(update={"state": PackState.QUARANTINED}), self.now)
        ids = self.named(number, "pack.right_one")
        answer = self.client.post(f"/rounds/{number}/group", data={"check": ids}, headers={"HX-Request": "true"})
        self.assertEqual(within(answer.text, "#check-title"), "Check for swelling, damage and smell")
        self.assertIn("Pack S1 is quarantined.", plain(answer.text))

    def test_anything_else_is_refused_and_keeps_nothing(self) -> None:
        number = self.start()
        ids = self.named(number, "airframe.shell")
        for wrong in (ids[:-1], [*ids, "pack.percent"], [*ids, "airframe.propellers"], ids[::-1], ["pack.percent"]):
            answer = self.client.post(f"/rounds/{number}/group", data={"check": wrong})
            self.assertEqual(answer.status_code, 409, wrong)
            self.assertIn("This group has changed meanwhile", plain(answer.text))
        self.assertEqual(self.client.post(f"/rounds/{number}/group", data={}).status_code, 404)
        self.assertEqual(rounds.load(number, self.settings, self.now).evidence, ())
        self.answer(number, ids[0], action="fault", note="crack")
        self.assertEqual(self.client.post(f"/rounds/{number}/group", data={"check": ids}).status_code, 409)
        self.assertEqual(len(rounds.load(number, self.settings, self.now).evidence), 1)

    def test_no_group_for_what_is_measured_or_gated_nor_on_the_full_list(self) -> None:
        number = self.start()
        for check in ("pack.percent", "airframe.covers_off", "airframe.marks", "field.people"):
            self.assertEqual(self.named(number, check), [], check)
        self.assertEqual(self.named(self.start(depth="full"), "airframe.shell"), [])


class CleanNumbers(WebCase):
    def test_a_number_on_record_is_one_tap_and_its_source_is_kept(self) -> None:
        number = self.start()
        page = self.client.get(f"/rounds/{number}?check=field.max_height").text
        self.assertIn("As planned for this field: 45 m", plain(page).replace("\u202f", " "))
        self.assertEqual(elements(page, "#f-number")[0].attributes["value"], "")  # never filled in unseen
        self.answer(number, "field.max_height", action="take", offered="1")
        kept = rounds.load(number, self.settings, self.now).walk.state("field.max_height").evidence
        assert kept is not None
        self.assertEqual((kept.by, kept.answer.value), ("plan of the field", 45.0))
        self.assertIn(
            "from the plan of the field", plain(self.client.get(f"/rounds/{number}?check=field.max_height").text)
        )
        wrong = self.answer(number, "sky.wind_meter", action="take", offered="1")
        self.assertEqual(wrong.status_code, 422)
        self.assertIn("It is no longer on record. Enter the number.", plain(wrong.text))

    def test_a_clean_number_moves_on_and_says_so_and_a_caution_stays(self) -> None:
        number = self.start()
        after = self.answer(number, "sky.wind_meter", action="take", number="3.2")
        self.assertIn("Measure the wind: 3.2 m/s, clear.", plain(after.text))
        self.assertNotEqual(within(after.text, "#check-title"), "Measure the wind")
        other = self.start("Haymaker", "H1")
        stays = self.answer(other, "sky.wind_meter", action="take", number="6.5")
        self.assertIn("Measure the wind", within(stays.text, "#check-title"))
