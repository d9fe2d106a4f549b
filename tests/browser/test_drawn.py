"""Where drawing beats ticking, and paper: rotor map, sticks, live set-up, the library's sieve, cards in print."""

import io
import re

from PIL import Image
from playwright.sync_api import Page, expect

from tests.browser.support import PHONE, BrowserCase


class Drawn(BrowserCase):
    def test_rotors_are_tapped_on_the_drawing_and_judged_at_once(self) -> None:
        page = self.page()
        base = self.start_round(page)
        page.goto(f"{base}?check=airframe.propeller_side")
        button = page.locator("button[form=ask]")
        expect(button).to_have_text("All match the drawing")
        page.locator(".rotor:visible").nth(0).click()
        page.locator(".rotor:visible").nth(1).click()
        expect(page.locator("#preview")).to_contain_text("Swap the propellers rear right and front right.")
        expect(page.locator(".rotor.differs:visible")).to_have_count(2)
        expect(button).to_have_text("The rest match the drawing")
        page.locator(".rotor:visible").nth(1).click()
        expect(page.locator("#preview")).to_contain_text(
            "Fit a counter-clockwise propeller from the bag at front right"
        )
        page.keyboard.press("p")
        expect(page.locator("#chip")).to_contain_text("Stay down: 1")
        expect(page.locator(".check")).to_contain_text("Front right would push down")

    def test_all_as_drawn_by_one_key(self) -> None:
        page = self.page()
        base = self.start_round(page)
        page.goto(f"{base}?check=airframe.propeller_side")
        page.keyboard.press("p")
        expect(page.locator("#check-title")).to_contain_text("Remove gimbal clamp")
        expect(page.locator("a.line[href$='airframe.propeller_side'] .clear")).to_have_count(1)

    def unlock(self, page: Page, base: str) -> None:
        page.clock.install()
        for check in ("power.transmitter_on", "power.mode", "power.idle", "power.aircraft_on"):
            page.goto(f"{base}?check={check}")
            page.keyboard.press("p")
            expect(page.locator(f"a.line[href$='{check}'] .clear")).to_have_count(1)
        page.goto(f"{base}?check=power.still_short")
        page.click("button:has-text('Start the count')")
        page.clock.run_for(4200)
        page.clock.resume()
        expect(page.locator("#chip")).to_contain_text("5 of")

    def test_sticks_one_after_the_other(self) -> None:
        page = self.page()
        base = self.start_round(page, "Haymaker")
        self.unlock(page, base)
        page.goto(f"{base}?check=controls.surfaces")
        expect(page.locator(".move:visible legend")).to_contain_text("Aileron stick right")
        expect(page.locator(".move:visible .must")).to_contain_text("Left aileron down, right aileron up")
        page.locator(".move:visible label:has-text('As shown')").click()
        expect(page.locator(".move:visible legend")).to_contain_text("Elevator stick back")
        expect(page.locator(".large-scene:visible")).to_have_attribute("aria-label", "Seen from behind: elevator up")
        page.locator(".move:visible label:has-text('Reversed')").click()
        expect(page.locator("#preview")).to_contain_text("Reverse the elevator channel")
        page.click("text=Previous stick")
        expect(page.locator(".move:visible legend")).to_contain_text("Elevator stick back")
        page.keyboard.press("p")
        expect(page.locator(".check")).to_contain_text("Elevator moves the wrong way")
        expect(page.locator("#chip")).to_contain_text("Stay down")

    def test_the_surfaces_move_and_stand_still_for_those_who_want_that(self) -> None:
        for motion, moving in (("no-preference", True), ("reduce", False)):
            page = self.page(reduced_motion=motion)
            base = self.start_round(page, "Haymaker")
            page.goto(f"{base}?check=controls.surfaces")
            name = page.evaluate("getComputedStyle(document.querySelector('.mover')).animationName")
            self.assertEqual(name != "none", moving)

    def test_a_bag_packed_with_a_thumb(self) -> None:
        page = self.page(PHONE)
        base = self.start_round(page)
        page.goto(f"{base}?check=bag.first_pass")
        page.tap("label:has-text('Transmitter')")
        page.tap("[aria-label='One more: Flight packs']")
        page.tap("[aria-label='One more: Flight packs']")
        page.tap("[aria-label='One less: Flight packs']")
        self.assertEqual(page.input_value("[name=bag-packs]"), "1")
        page.tap("button[form=ask]")
        expect(page.locator(".check")).to_contain_text("Aircraft, complete: not in the bag")


class SetUp(BrowserCase):
    def test_the_drawing_changes_as_one_chooses_and_nothing_jumps(self) -> None:
        page = self.page(PHONE)
        page.goto(f"{self.server.base}/hangar/aircraft/new/twin")
        page.fill("#f-name", "Half typed")
        page.locator("#trait-flaps").scroll_into_view_if_needed()
        before = page.evaluate("scrollY")
        flaps = page.locator(".m-flap")
        self.assertEqual(flaps.count(), 2)
        page.locator("#trait-flaps").click()
        expect(flaps).to_have_count(0)
        self.assertLess(abs(page.evaluate("scrollY") - before), 40)
        expect(page.locator("#trait-flaps")).to_be_focused()
        self.assertEqual(page.input_value("#f-name"), "Half typed")

    def test_described_in_a_few_choices_and_added(self) -> None:
        page = self.page()
        page.goto(f"{self.server.base}/hangar/aircraft/new")
        page.click("text=Folding camera quad")
        page.select_option("#f-frame", "Y, coaxial")
        expect(page.locator(".setup .craft")).to_have_attribute(
            "aria-label", re.compile("six rotors, two on each of three")
        )
        page.fill("#f-name", "Peewit")
        page.click("button:has-text('Add to the hangar')")
        expect(page.locator("h1")).to_have_text("Peewit")
        page.goto(f"{self.server.base}/checks?aircraft=6")
        expect(page.locator("main")).to_contain_text("Checks for Peewit")

    def test_a_snag_with_a_photo(self) -> None:
        kept = io.BytesIO()
        Image.new("RGB", (3000, 2000), (90, 120, 60)).save(kept, "JPEG", quality=95)
        page = self.page()
        page.goto(f"{self.server.base}/hangar/aircraft/1")
        page.fill("#f-title", "Dent in the arm")
        page.set_input_files("#f-photo", {"name": "dent.jpg", "mimeType": "image/jpeg", "buffer": kept.getvalue()})
        page.click("button:has-text('Report snag')")
        picture = page.locator("img.snag-photo")
        expect(picture).to_be_visible()
        self.assertEqual(picture.evaluate("i => i.decode().then(() => i.naturalWidth)"), 1600)


class Library(BrowserCase):
    def test_the_sieve(self) -> None:
        page = self.page()
        page.goto(f"{self.server.base}/checks?aircraft=1")
        rows = page.locator(".library li:visible")
        everything = rows.count()
        self.assertGreater(everything, 200)
        page.fill("input[type=search]", "propeller")
        self.assertTrue(0 < rows.count() < 60)
        page.click("label:has-text('Not today')")
        expect(rows.filter(has_text="Tighten each propeller nut")).to_have_count(1)
        self.assertEqual(rows.filter(has_text="Inspect every propeller blade").count(), 0)
        expect(page.locator("[role=status]").first).to_contain_text("checks shown")

    def test_reordered_in_two_tabs(self) -> None:
        one, two = self.page(), self.page()
        for page in (one, two):
            page.goto(f"{self.server.base}/checks/sky.look")
        one.click("button:has-text('Move up')")
        expect(one.locator("#notices")).to_contain_text("Saved")
        two.click("button:has-text('Move down')")
        expect(two.locator(".notice[role=alert]")).to_contain_text("in another tab")

    def test_another_school_followed(self) -> None:
        page = self.page()
        page.goto(f"{self.server.base}/methods?aircraft=1")
        row = page.locator("#propellers .methods > li").nth(1)
        expect(row).to_contain_text("adds: Remove the propellers and check underneath")
        row.locator("button").click()
        expect(page.locator("#propellers .mine")).to_contain_text("Remove and check them")
        expect(page.locator("#propellers .methods > li").nth(0)).to_contain_text("which grounds")


class Paper(BrowserCase):
    def pages(self, page: Page) -> int:
        return len(re.findall(rb"/Type\s*/Page\b", page.pdf(prefer_css_page_size=True)))

    def test_every_card_fits_one_sheet(self) -> None:
        page = self.page()
        for aircraft in ("Lapwing", "Mayfly", "Haymaker"):
            base = self.start_round(page, aircraft)
            for paper in ("A4", "A5"):
                page.goto(f"{base}/card?paper={paper}")
                self.assertEqual(self.pages(page), 1, f"{aircraft} {paper}")
        for number in (1, 3, 4):
            page.goto(f"{self.server.base}/hangar/aircraft/{number}/card")
            self.assertEqual(self.pages(page), 1, f"master list {number}")
        page.goto(f"{self.server.base}/hangar/aircraft/3/bag")
        self.assertLessEqual(self.pages(page), 2)

    def test_a_pencilled_card_is_entered_by_keyboard(self) -> None:
        page = self.page()
        base = self.start_round(page, "Whinchat")
        page.goto(f"{base}/entry")
        page.locator("[name='say-airframe.fins'][value=ok]").focus()
        page.keyboard.press("Space")
        page.fill("[name='number-sky.wind_meter']", "2,5")
        page.select_option("[name='say-field.people']", "none")
        page.keyboard.press("Tab")
        page.click("button:has-text('Save answers')")
        expect(page.locator("#chip")).to_contain_text("3 of")
