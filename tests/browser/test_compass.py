"""The compass turned in the browser: the ball fills, the next turn is said, the age of the values, and what is kept."""

from playwright.sync_api import expect

from tests.browser.support import LAPTOP, PHONE, BrowserCase


class Turned(BrowserCase):
    SECONDS_A_TEST = 16

    def test_live_until_it_is_kept(self) -> None:
        page = self.page(PHONE)
        page.goto(f"{self.server.base}/hangar/aircraft/1/compass?way=all axes")
        page.click("[data-live] [data-begin]")
        expect(page.locator(".flat path.seen").first).to_be_attached()
        expect(page.locator(".live-next")).to_contain_text("Next:")
        expect(page.locator(".live-age")).to_contain_text("s old")
        filled = page.locator(".flat path.seen").count()
        page.wait_for_function("(before) => document.querySelectorAll('.flat path.seen').length > before", arg=filled)
        expect(page.locator("[data-keep]")).to_be_visible(timeout=25_000)
        painted = page.evaluate(
            "() => { const c = document.querySelector('.ball'); return new Set(c.getContext('2d').getImageData(60, 60, 180, 180).data).size; }"
        )
        self.assertGreater(painted, 10, "the ball is drawn")
        page.click("[data-keep]")
        page.wait_for_url("**saved=1**")
        expect(page.locator("main")).to_contain_text("invented, it counts for nothing")

    def test_a_still_start_runs_out(self) -> None:
        page = self.page(LAPTOP)
        page.goto(f"{self.server.base}/hangar/aircraft/1/level")
        page.click("[data-still] [data-begin]")
        expect(page.locator(".still-clock")).to_have_text("Still long enough", timeout=15_000)
