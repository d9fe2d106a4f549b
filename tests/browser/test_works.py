"""The card under the hand: the hold coach counts, drawings are tapped, the walk shows switches."""

from playwright.sync_api import expect

from tests.browser.support import PHONE, BrowserCase


class Card(BrowserCase):
    SECONDS_A_TEST = 5

    def test_the_coach_counts_a_hold_and_says_when_to_let_go(self) -> None:
        page = self.page(PHONE)
        page.goto(f"{self.server.base}/hangar/aircraft/1/works")
        coach = page.locator(".coach-hold")
        expect(coach).to_be_visible()
        coach.locator("button").hover()
        page.mouse.down()
        expect(coach.locator(".hold-words")).to_have_text("Too short: keep holding.")
        expect(coach).to_have_attribute("data-now", "right", timeout=3_000)
        page.mouse.up()
        held = coach.locator(".still-clock").inner_text()
        page.wait_for_timeout(150)
        self.assertEqual(coach.locator(".still-clock").inner_text(), held, "let go, it stands")
        self.assertGreaterEqual(float(held.split()[0]), 1.0)

    def test_a_drawing_is_tapped_and_kept(self) -> None:
        page = self.page(PHONE)
        page.goto(f"{self.server.base}/hangar/aircraft/2/works")
        page.locator(".drawn-option", has_text="A switch").first.tap()
        page.get_by_role("button", name="Save the card").tap()
        page.wait_for_url("**/works?saved=1")
        expect(page.locator(".sticks figcaption").first).to_contain_text("A switch")
