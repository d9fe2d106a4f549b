"""What an answer replaces goes at once, and nothing of it goes on."""

from tests.browser.support import BrowserCase

TOLD = """() => {
  window.told_ = 0;
  document.addEventListener("htmx:beforeCleanupElement", () => { window.told_ += 1; }, true);
}"""
ASKS = """() => {
  const holds = document.createElement("div");
  holds.innerHTML = `<div id="leaves"><p><b>x</b><span hx-get="/due" hx-trigger="every 40ms" hx-swap="none"></span></p></div>`;
  document.querySelector("main").append(holds);
  window.htmx.process(holds);
  window.asked_ = 0;
  document.addEventListener("htmx:beforeRequest", () => { window.asked_ += 1; });
}"""


class Leaving(BrowserCase):
    def test_one_tap_tells_few_of_the_elements_that_leave(self) -> None:
        page = self.page()
        base = self.start_round(page)
        page.goto(f"{base}?check=airframe.shell")
        page.evaluate(TOLD)
        self.assertGreater(page.locator("#panel *").count(), 60)
        page.keyboard.press("p")
        page.wait_for_function("() => document.querySelector('#chip').textContent.includes('1 of')")
        self.assertIn(page.evaluate("window.told_"), range(3, 16))
        self.assertEqual(page.locator("#panel").count(), 1)

    def test_what_asks_by_itself_stops_when_it_leaves(self) -> None:
        page = self.page()
        page.goto(f"{self.server.base}/due")
        page.evaluate(ASKS)
        page.wait_for_function("() => window.asked_ > 2")
        page.evaluate(
            """() => window.htmx.swap("#leaves", '<div id="leaves">gone</div>', { swapStyle: "outerHTML" })"""
        )
        page.wait_for_function("() => document.querySelector('#leaves').textContent === 'gone'")
        asked = page.evaluate("window.asked_")
        page.wait_for_timeout(200)  # nothing is to be asked
        self.assertLessEqual(page.evaluate("window.asked_"), asked)
