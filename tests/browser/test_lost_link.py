"""A lost link under hand: the aircraft dragged, moved by keys and by numbers, the area with progress and a stop, the bench test with its timers."""

import re

from playwright.sync_api import Page, expect

from tests.browser.support import LAPTOP, PHONE, BrowserCase


class OnThePlan(BrowserCase):
    SECONDS_A_TEST = 8

    def shown(self, page: Page, query: str = "") -> str:
        page.goto(f"{self.server.base}/fields/1/link-lost?{query}")
        expect(page.locator(".lost-craft")).to_be_visible()
        return page.locator(".lost-words").inner_text()

    def drag(self, page: Page, dx: float, dy: float) -> None:
        box = page.locator(".lost-craft .disc").bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        for i in range(1, 9):
            page.mouse.move(x + dx * i / 8, y + dy * i / 8)
        page.mouse.up()

    def test_dragged_it_says_another_answer_and_the_numbers_follow(self) -> None:
        page = self.page(LAPTOP)
        before = self.shown(page, "aircraft=1&action=STOP")
        away, path = page.input_value("[name=away]"), page.locator(".lost-path").get_attribute("d")
        self.drag(page, -80, 30)
        expect(page.locator(".lost-words")).not_to_have_text(before)
        self.assertNotEqual(page.input_value("[name=away]"), away)
        self.assertNotEqual(page.locator(".lost-svg .lost-path").get_attribute("d"), path)
        self.assertEqual(page.locator("#lost-over").count(), 1)

    def test_keys_and_numbers_do_the_same(self) -> None:
        page = self.page(LAPTOP)
        before = self.shown(page, "aircraft=1&action=STOP&away=50&bearing=0")
        page.locator(".lost-craft").focus()
        for _ in range(4):
            page.keyboard.press("ArrowUp")
        expect(page.locator("[name=away]")).to_have_value("70")
        expect(page.locator(".lost-words")).not_to_have_text(before)
        by_keys = page.locator(".lost-words").inner_text()
        page.fill("[name=away]", "50")
        page.keyboard.press("Tab")
        expect(page.locator(".lost-words")).to_have_text(before)
        page.fill("[name=away]", "70")
        page.keyboard.press("Tab")
        expect(page.locator(".lost-words")).to_have_text(by_keys)

    def test_bad_input_stands_at_its_place(self) -> None:
        page = self.page(PHONE)
        self.shown(page, "aircraft=1")
        page.fill("[name=rth]", "0")
        page.keyboard.press("Tab")
        expect(page.locator("#wrong-rth")).to_contain_text("RTH altitude: between")
        expect(page.locator("[name=rth]")).to_have_value("0")

    def test_the_area_comes_with_progress_and_can_be_tried(self) -> None:
        page = self.page(PHONE)
        self.shown(page, "aircraft=1&action=STOP")
        page.click("[data-whole]")
        expect(page.locator("#lost-cells rect").first).to_be_attached(timeout=15_000)
        expect(page.locator("#lost-progress")).to_be_hidden()
        page.click("[data-try] >> nth=0")
        expect(page.locator("[name=action]")).not_to_have_value("STOP")
        expect(page.locator("#lost-cells rect")).to_have_count(0)

    def test_another_aircraft_brings_its_own_actions(self) -> None:
        page = self.page(PHONE)
        self.shown(page, "aircraft=1&action=RETURN&away=50&bearing=90")
        page.select_option("[name=aircraft]", "2")
        expect(page.locator("[name=action] option[value=GLIDE]")).to_be_attached()
        expect(page.locator("[name=away]")).to_have_value("50")
        expect(page.locator("[name=rth]")).to_have_count(0)

    def test_a_stop_is_a_stop(self) -> None:
        page = self.page(LAPTOP)
        self.shown(page, "aircraft=2")
        page.click("[data-whole]")
        page.click("[data-stop]")
        expect(page.locator("#lost-progress")).to_be_hidden()
        page.wait_for_timeout(600)
        self.assertEqual(page.locator("#lost-cells rect").count(), 0)


class OnTheBench(BrowserCase):
    def test_gates_then_the_clock_then_the_answer(self) -> None:
        page = self.page(PHONE)
        page.goto(f"{self.server.base}/hangar/aircraft/2/failsafe/test")
        expect(page.locator("[data-off]")).to_be_disabled()
        page.check("[value=blades]")
        expect(page.locator("[data-off]")).to_be_disabled()
        page.check("[value=clear]")
        expect(page.locator("[data-off]")).to_be_enabled()
        page.click("[data-off]")
        page.wait_for_timeout(700)
        page.check("[name=seen][value=STOPPED]")
        timed = float(page.input_value("[name=after]"))
        self.assertTrue(0.6 <= timed <= 3, timed)
        page.uncheck("[value=clear]")
        expect(page.locator("[data-off]")).to_be_disabled()
        page.check("[value=clear]")
        page.click("[data-save]")
        expect(page.locator("main")).to_contain_text(re.compile("Last test: The motors stopped"))

    def test_the_simulated_bench_times_it(self) -> None:
        page = self.page(LAPTOP)
        page.goto(f"{self.server.base}/hangar/aircraft/2/failsafe/test")
        page.check("[value=blades]")
        page.check("[value=clear]")
        page.check("[data-simulated]")
        page.click("[data-off]")
        expect(page.locator("[name=seen][value=STOPPED]")).to_be_checked(timeout=5000)
        expect(page.locator("[name=after]")).to_have_value("1.0")
        page.click("[data-save]")
        expect(page.locator("main")).to_contain_text("simulated")
        expect(page.locator("main")).to_contain_text("not kept")
