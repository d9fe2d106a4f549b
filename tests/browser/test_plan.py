"""The plan of a field under hand: dragged, nudged, tapped in, bent, undone; on a laptop and with a thumb; and in print."""

import json
import re
import sqlite3

from playwright.sync_api import Page, expect

from tests.browser.support import PHONE, BrowserCase


class PlanCase(BrowserCase):
    def field(self, **how: object) -> Page:
        page = self.page(**how)  # type: ignore[arg-type]
        page.goto(f"{self.server.base}/fields/1")
        expect(page.locator(".scale-bar b")).to_contain_text("m")
        return page

    def spec(self) -> dict:  # type: ignore[type-arg]
        with sqlite3.connect(self.server.folder / "walkround.sqlite") as book:
            return json.loads(book.execute("SELECT spec FROM site WHERE id = 1").fetchone()[0])

    def mark(self, number: int) -> dict:  # type: ignore[type-arg]
        return next(m for m in self.spec()["marks"] if m["id"] == number)

    def metres(self, page: Page) -> float:
        return float(page.locator(".plan-svg").get_attribute("data-mpp") or "0")

    def pick(self, page: Page, key: str) -> None:
        page.locator(f'[data-thing="{key}"] .grip').focus()
        page.keyboard.press("Enter")
        expect(page.locator(f'[data-thing="{key}"].held')).to_have_count(1)


class Hand(PlanCase):
    def test_a_thing_in_hand_is_dragged_to_scale_and_undone(self) -> None:
        page = self.field()
        before = self.mark(3)["spots"][0]
        self.pick(page, "m3")
        box = page.locator('[data-thing="m3"] .crown').bounding_box()
        assert box is not None
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x + 60, y - 30, steps=6)
        page.mouse.up()
        expect(page.locator(".undo")).to_contain_text("old pear moved")
        after, scale = self.mark(3)["spots"][0], self.metres(page)
        self.assertAlmostEqual(after["east_m"] - before["east_m"], 60 * scale, delta=0.1)
        self.assertAlmostEqual(after["north_m"] - before["north_m"], 30 * scale, delta=0.1)
        page.keyboard.press("u")
        expect(page.locator(".plan-tools")).not_to_contain_text("old pear moved")
        self.assertEqual(self.mark(3)["spots"][0], before)

    def test_the_view_is_moved_and_nothing_else(self) -> None:
        page = self.field()
        before, seen = self.spec(), page.locator(".plan-svg").get_attribute("viewBox")
        box = page.locator(".plan-map").bounding_box()
        assert box is not None
        page.mouse.move(box["x"] + 60, box["y"] + 420)
        page.mouse.down()
        page.mouse.move(box["x"] + 160, box["y"] + 380, steps=4)
        page.mouse.up()
        self.assertNotEqual(page.locator(".plan-svg").get_attribute("viewBox"), seen)
        scale = self.metres(page)
        page.locator("[data-zoom=in]").click()
        page.wait_for_function(
            "mpp => Math.abs(Number(document.querySelector('.plan-svg').dataset.mpp) - mpp) < 1e-4", arg=scale / 1.5
        )
        page.locator("[data-zoom=fit]").click()
        self.assertEqual(self.spec(), before)

    def test_keys_alone(self) -> None:
        page = self.field()
        before = [s["north_m"] for s in self.mark(1)["spots"]]
        self.pick(page, "m1")
        page.keyboard.press("ArrowUp")
        page.keyboard.press("Shift+ArrowUp")
        expect(page.locator(".undo")).to_contain_text("row of trees moved")
        self.assertEqual([s["north_m"] for s in self.mark(1)["spots"]], [n + 11 for n in before])
        expect(page.locator('[data-thing="m1"] .grip')).to_be_focused()
        page.locator('[data-thing="m1"] .corner').nth(1).focus()
        page.keyboard.press("Delete")
        expect(page.locator(".undo")).to_contain_text("corner removed from the")
        self.assertEqual(len(self.mark(1)["spots"]), 2)
        page.locator('[data-thing="m1"] .grip').focus()
        page.keyboard.press("Delete")
        expect(page.locator('[data-thing="m1"]')).to_have_count(0)
        for _ in range(3):
            before_undo = page.locator(".undo").inner_text()
            page.keyboard.press("u")
            expect(page.locator(".undo")).not_to_have_text(before_undo)
        self.assertEqual([s["north_m"] for s in self.mark(1)["spots"]], before)

    def test_what_is_done_while_an_answer_is_under_way_is_seen_too(self) -> None:
        page = self.field()
        self.pick(page, "m1")
        page.evaluate(
            """() => { const send = XMLHttpRequest.prototype.send;
            XMLHttpRequest.prototype.send = function (body) { setTimeout(() => send.call(this, body), 700); }; }"""
        )
        page.keyboard.press("ArrowUp")
        page.wait_for_timeout(600)  # the move is sent, and not yet answered
        page.locator('[data-thing="m1"] .corner').nth(1).focus()
        page.keyboard.press("Delete")
        expect(page.locator(".undo")).to_contain_text("corner removed from the")
        self.assertEqual(len(self.mark(1)["spots"]), 2)

    def test_a_corner_is_bent_in_and_dragged(self) -> None:
        page = self.field()
        self.pick(page, "flight_area")
        page.locator('[data-thing="flight_area"] .middle').first.click()
        expect(page.locator(".undo")).to_contain_text("corner added to the flying box")
        self.assertEqual(len(self.spec()["flight_area"]), 5)
        corner = page.locator('[data-thing="flight_area"] .corner').nth(1).bounding_box()
        assert corner is not None
        page.mouse.move(corner["x"] + corner["width"] / 2, corner["y"] + corner["height"] / 2)
        page.mouse.down()
        page.mouse.move(corner["x"] + corner["width"] / 2, corner["y"] - 180, steps=5)
        page.mouse.up()
        expect(page.locator(".plan-side .wrong")).to_contain_text("crosses itself")
        self.assertEqual(len(self.spec()["flight_area"]), 5, "refused, and kept as it was")

    def test_an_outline_is_tapped_in(self) -> None:
        page = self.field()
        page.select_option("#f-kind", "building")
        page.fill("#f-name", "new shed")
        expect(page.locator("#f-radius")).to_be_hidden()
        page.click("[data-tap]")
        expect(page.locator(".plan-says")).to_contain_text("corners in order")
        box = page.locator(".plan-map").bounding_box()
        assert box is not None
        for dx, dy in ((120, 480), (180, 480), (180, 540)):
            page.mouse.click(box["x"] + dx, box["y"] + dy)
        page.click("[data-tapped]")
        expect(page.locator("#held-title")).to_have_text("new shed")
        shed = self.spec()["marks"][-1]
        self.assertEqual((shed["kind"], len(shed["spots"]), shed["height_m"]), ("building", 3, 8))
        scale = self.metres(page)
        self.assertAlmostEqual(shed["spots"][1]["east_m"] - shed["spots"][0]["east_m"], 60 * scale, delta=0.1)


class Thumb(PlanCase):
    def test_tap_and_drag_on_a_phone(self) -> None:
        page = self.field(size=PHONE)
        page.locator("[data-tap]").scroll_into_view_if_needed()
        page.tap("[data-tap]")
        expect(page.locator(".tapping")).to_have_count(1)
        expect(page.locator(".plan-map")).to_be_in_viewport(ratio=0.98)
        box = page.locator(".plan-map").bounding_box()
        assert box is not None
        page.touchscreen.tap(box["x"] + 90, box["y"] + 60)
        expect(page.locator(".undo")).to_contain_text("tree added")
        tree = self.spec()["marks"][-1]
        self.assertEqual((tree["kind"], tree["height_m"]), ("tree", 12))

    def test_a_session_is_asked_and_a_spot_is_proposed(self) -> None:
        page = self.field(size=PHONE)
        page.fill("[name=from]", "19:10")
        page.dispatch_event("[name=from]", "change")
        expect(page.locator(".plan-side")).to_contain_text(re.compile(r"The sun goes from 28\d°"))
        page.click("text=Suggest a better launch point")
        expect(page.locator("#spot")).not_to_contain_text("Suggest a better launch point")


class Paper(PlanCase):
    def test_the_brief_prints_on_one_page(self) -> None:
        """Pages of the PDF that Chromium prints, counted in the file itself."""
        page = self.page()
        for field in (1, 2):
            page.goto(f"{self.server.base}/fields/{field}/brief")
            pdf = page.pdf(prefer_css_page_size=True)
            self.assertEqual(len(re.findall(rb"/Type\s*/Page\b", pdf)), 1)
