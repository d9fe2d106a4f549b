"""Every page, as it is seen: no violation of accessibility, light and dark, laptop and phone, with contrast held to 7:1; nothing
is wider than the screen, no target stands beside it, and on a phone targets are large.

Every rule is tried once on every page, on a laptop in daylight and on a phone in the dark by turns; what a size or a scheme can
change, contrast and the size of targets, once more on the other.
"""

from playwright.sync_api import Page, expect

from tests.browser.support import AXE, LAPTOP, PHONE, BrowserCase
from walkround.web.catalogue import PAGES

STRICT = {"color-contrast-enhanced": {"enabled": True}, "target-size": {"enabled": True}}
PLAIN = {"preload": False, "elementRef": True, "selectors": False, "resultTypes": ["violations"]}
EVERYTHING = {"rules": {**STRICT, "color-contrast": {"enabled": False}}, **PLAIN}  # the enhanced rule asks for more
SHOWN = {"runOnly": [*STRICT], "rules": STRICT, **PLAIN}
LOOK = """async rules => {
  const found = await axe.run(document, rules);
  const scrolledClear = async element => {
    element.scrollIntoView({block: 'center'});
    const again = await axe.run(document, {...rules, runOnly: ['target-size']});
    return again.violations.every(v => v.nodes.every(n => n.element !== element));
  };
  const words = [];
  for (const v of found.violations) {
    for (const n of v.nodes) {
      if (v.id === 'target-size' && n.any[0]?.message.includes('obscured') && await scrolledClear(n.element)) continue;
      words.push(`${v.id}: ${n.html.slice(0, 140)} ${n.any[0]?.message.slice(0, 160) ?? ''}`);
    }
  }
  return [found.passes.some(p => p.id === 'color-contrast-enhanced'), words];
}"""
"""Whether contrast was looked at, and every violation in words. A target that lies under what stays in place counts only where it cannot
be scrolled clear of it."""

TARGETS = (
    "button, .primary, .plain, .option, .line, summary, select, .tabs a, .stop .touch, "
    "input:not([type=hidden]):not([type=radio]):not([type=checkbox]), label.tick, label.method"
)
SMALL = f"""() => [...document.querySelectorAll('{TARGETS}')]
  .filter(e => e.checkVisibility() && !e.closest('dialog'))
  .map(e => [e.outerHTML.slice(0, 80), e.getBoundingClientRect()])
  .filter(([, r]) => r.height < 47.9 || r.width < 47.9).map(([h, r]) => `${{h}} ${{r.width}}x${{r.height}}`)"""
BESIDE = f"""() => [...document.querySelectorAll('{TARGETS}')]
  .filter(e => e instanceof HTMLElement && e.checkVisibility() && !e.closest('dialog'))
  .filter(e => {{
    const r = e.getBoundingClientRect();
    if (r.left > -0.6 && r.right < innerWidth + 0.6) return false;
    const along = box => ['auto', 'scroll'].includes(getComputedStyle(box).overflowX) && box.scrollHeight <= box.clientHeight + 1;
    for (let box = e.parentElement; box; box = box.parentElement) if (box.scrollWidth > box.clientWidth && along(box)) return false;
    return true;
  }}).map(e => e.outerHTML.slice(0, 80))"""
"""What stands beside the screen, and not in a table or a row that is scrolled along; a drawing may show a part of a longer path."""


class _Accessible(BrowserCase):
    SECONDS_A_TEST = 60

    def together(self, page: Page) -> str:
        """Checks that one tap confirms, on the drawing too: three answers side by side."""
        address = f"{self.start_round(page).removeprefix(self.server.base)}?station=airframe"
        page.goto(self.server.base + address)
        for title in ("Airframe", "Match CW and CCW propellers to motors", "Propellers and motors"):
            page.keyboard.press("p")
            expect(page.locator("#check-title")).to_have_text(title)
            for row in page.locator(".rows > li:last-of-type").all():  # they are confirmed once the last was seen
                row.scroll_into_view_if_needed()
            expect(page.locator(".ways .primary")).to_be_enabled()
        return address

    def addresses(self, page: Page) -> list[str]:
        """Every example of every page."""
        base = self.start_round(page, depth="full").removeprefix(self.server.base)
        page.goto(f"{self.server.base}{base}?check=airframe.propellers")
        page.click("[data-key=f]")
        page.click("button:has-text('Record fault')")
        page.wait_for_selector(".check.is-grounded")
        page.goto(f"{self.server.base}{base}?check=pack.cells")
        for i, value in enumerate(("4.20", "4.14", "4.19"), 1):
            page.fill(f"[name=cell_{i}]", value)
        page.click("button:has-text('Save')")
        page.wait_for_selector(".check.is-caution")
        wing = self.start_round(page, "Haymaker").removeprefix(self.server.base)
        return [example.format(round=base, wing=wing) for entry in PAGES for example in entry.examples]

    def see(self, page: Page, size: dict[str, int]) -> None:
        """The laptop stands in daylight, the phone is in the dark."""
        page.set_viewport_size(size)  # type: ignore[arg-type]
        page.emulate_media(color_scheme="light" if size is LAPTOP else "dark")

    def looked_at(self, page: Page, address: str, rules: dict[str, object]) -> None:
        did_look, words = page.evaluate(LOOK, rules)
        self.assertTrue(did_look, "axe did look")
        with self.subTest(f"{address} {page.viewport_size}"):
            self.assertEqual(words, [])

    def fits(self, page: Page, address: str, size: dict[str, int]) -> None:
        with self.subTest(f"{address} fits {size['width']} pixels"):
            self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), size["width"])
            self.assertEqual(page.evaluate(BESIDE), [])
            self.assertEqual(page.evaluate(SMALL) if size is PHONE else [], [])

    def every_page(self, half: int) -> None:
        first = self.page()
        page = self.page(LAPTOP, own=True)
        page.context.add_init_script(AXE)
        sizes = [LAPTOP, PHONE]
        self.see(page, LAPTOP)

        def seen(address: str) -> None:
            page.goto(self.server.base + address)
            for size, rules in zip(sizes, (EVERYTHING, SHOWN), strict=True):
                if rules is SHOWN:
                    self.see(page, size)
                self.fits(page, address, size)
                self.looked_at(page, address, rules)
            sizes.reverse()  # the next page is opened as this one was left

        if half == 0:
            seen(self.together(first))  # before there is a snag that comes first
        for address in self.addresses(first)[half::2]:
            seen(address)


class OneHalf(_Accessible):
    def test_every_second_page(self) -> None:
        self.every_page(0)


class OtherHalf(_Accessible):
    def test_every_second_page(self) -> None:
        self.every_page(1)
