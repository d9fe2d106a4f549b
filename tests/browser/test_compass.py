"""The compass turned in the browser: the ball fills, the next turn is said, the age of the values, and what is kept."""

from playwright.sync_api import Page, expect

from tests.browser.support import LAPTOP, PHONE, BrowserCase

HELD_AT_S = 600
"""A clock that is held stands here, in seconds from its start: later than it takes to come to the page."""


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
        expect(page.locator("[data-still] .still-clock")).to_have_text("Still long enough", timeout=15_000)

    def test_a_recording_played_and_a_start_timed(self) -> None:
        page = self.page(PHONE, own=True)
        page.goto(f"{self.server.base}/hangar/aircraft/1/compass?recording=1")
        page.select_option("[data-speed]", "50")
        page.click("[data-live] [data-begin]")
        expect(page.locator("[data-keep]")).to_be_visible()
        expect(page.locator(".live-words")).to_contain_text("Enough for a full fit")
        expect(page.locator(".flat path.seen").nth(60)).to_be_attached()
        page.clock.install(time=0)
        page.goto(f"{self.server.base}/hangar/aircraft/1/level")
        page.clock.pause_at(HELD_AT_S)  # however slow this machine is
        page.click("[data-powered]")
        page.clock.run_for(40_000)
        expect(page.locator("[data-slow]")).to_be_visible()
        page.click("[data-powered]")
        page.wait_for_url("**saved=1**")
        expect(page.locator("main")).to_contain_text("Caution. Its own signal came after 40")

    def test_a_phone_on_the_surface_says_its_tilt(self) -> None:
        page = self.page(PHONE)
        page.goto(f"{self.server.base}/hangar/aircraft/1/level")
        expect(page.locator("[data-use-tilt]")).to_be_hidden()
        page.evaluate(
            "dispatchEvent(new DeviceOrientationEvent('deviceorientation', { alpha: 0, beta: -1.24, gamma: 0.4 }))"
        )
        expect(page.locator("[data-tilt]")).to_have_text("This phone lies 1.2° from level.")
        page.click("[data-use-tilt]")
        page.click("section:has(#surface-title) button.primary")
        page.wait_for_url("**saved=1**")
        expect(page.locator("main")).to_contain_text("It stands 1.2° from level.")

    def test_values_as_they_come(self) -> None:
        page = self.page(PHONE)
        page.goto(f"{self.server.base}/hangar/aircraft/1/controller")
        page.click("[data-values] [data-begin]")
        expect(page.locator("[data-value=Board]")).to_have_text("5.10 V")
        expect(page.locator("[data-values] .live-age")).to_contain_text("s old")
        page.click("[data-values] [data-end]")
        expect(page.locator("[data-values] .live-age")).to_contain_text("Stopped")

    def at_the_count(self) -> Page:
        """A walk of a trainer whose usual start is known, with the count in hand and the clock held."""
        page = self.page(own=True)
        for seconds in ("4", "4.2", "3.9"):
            page.request.post(
                f"{self.server.base}/hangar/aircraft/2/level/start", form={"start_s": seconds}, headers={"Origin": self.server.base}
            )  # fmt: skip
        base = self.start_round(page, "Haymaker")
        for check in ("power.transmitter_on", "power.mode", "power.idle", "power.aircraft_on"):
            page.request.post(f"{base}/checks/{check}", form={"action": "pass", "seen": "0"}, headers={"Origin": self.server.base})  # fmt: skip
        page.clock.install(time=0)
        page.goto(f"{base}?check=power.still_short")
        expect(page.locator(".count")).to_contain_text("usually comes after 4 s")
        page.clock.pause_at(HELD_AT_S)
        return page

    def test_a_count_told_to_wait_for_the_signal_says_when_it_is_late(self) -> None:
        page = self.at_the_count()
        page.keyboard.press("p")
        page.click("button:has-text('Not yet: wait for it')")
        page.clock.run_for(6000)
        expect(page.locator("button:has-text('It gives no signal')")).to_be_visible()
        expect(page.locator(".count .notice")).to_be_hidden()
        page.clock.run_for(6000)
        expect(page.locator(".count .notice")).to_be_visible()
        page.clock.resume()
        page.click("button:has-text('Its own signal came')")
        expect(page.locator("#panel")).to_contain_text("usually it takes 4")

    def test_a_count_that_nobody_touches_completes_itself(self) -> None:
        """However long the aircraft usually takes: what is learned asks for no tap more."""
        page = self.at_the_count()
        page.keyboard.press("p")
        page.clock.run_for(4_500)
        page.clock.resume()
        expect(page.locator("a.line[href$='power.still_short'] .clear, #chip:has-text('5 of')").first).to_be_attached()
