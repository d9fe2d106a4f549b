"""Every page, as it is seen: no violation of accessibility, light and dark, laptop and phone, with contrast held to 7:1; on a phone
nothing is wider than the screen, and targets are large.

Every rule is tried once on every page, on a laptop in daylight; what a size or a scheme can change, contrast and the size of targets, once
more on a phone in the dark.
"""

from playwright.sync_api import Page

from tests.browser.support import AXE, LAPTOP, PHONE, BrowserCase
from walkround.web.catalogue import PAGES

STRICT = {"color-contrast-enhanced": {"enabled": True}, "target-size": {"enabled": True}}
PLAIN = {"preload": False, "elementRef": False, "selectors": False, "resultTypes": ["violations"]}
EVERYTHING = {"rules": {**STRICT, "color-contrast": {"enabled": False}}, **PLAIN}  # the enhanced rule asks for more
SHOWN = {"runOnly": [*STRICT], "rules": STRICT, **PLAIN}


TARGETS = (
    "button, .primary, .plain, .option, .line, summary, select, .tabs a, .stop .touch, "
    "input:not([type=hidden]):not([type=radio]):not([type=checkbox]), label.tick, label.method"
)
SMALL = f"""() => [...document.querySelectorAll('{TARGETS}')]
  .filter(e => e.checkVisibility() && !e.closest('dialog'))
  .map(e => [e.outerHTML.slice(0, 80), e.getBoundingClientRect()])
  .filter(([, r]) => r.height < 47.9 || r.width < 47.9).map(([h, r]) => `${{h}} ${{r.width}}x${{r.height}}`)"""


class _Accessible(BrowserCase):
    SECONDS_A_TEST = 60

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

    def looked_at(self, page: Page, address: str, scheme: str, rules: dict[str, object]) -> None:
        page.emulate_media(color_scheme=scheme)  # type: ignore[arg-type]
        result = page.evaluate("rules => axe.run(document, rules)", rules)
        self.assertIn("color-contrast-enhanced", [p["id"] for p in result["passes"]], "axe did look")
        words = [
            f"{v['id']}: {n['html'][:140]} {n['any'][0]['message'][:160] if n['any'] else ''}"
            for v in result["violations"]
            for n in v["nodes"]
        ]
        with self.subTest(f"{address} {scheme} {page.viewport_size}"):
            self.assertEqual(words, [])

    def every_page(self, half: int) -> None:
        addresses = self.addresses(self.page())
        page = self.page(LAPTOP, own=True)
        page.context.add_init_script(AXE)
        for address in addresses[half::2]:
            page.set_viewport_size(LAPTOP)  # type: ignore[arg-type]
            page.goto(self.server.base + address)
            self.looked_at(page, address, "light", EVERYTHING)
            page.set_viewport_size(PHONE)  # type: ignore[arg-type]
            with self.subTest(f"{address} fits a phone"):
                self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth"), PHONE["width"])
                self.assertEqual(page.evaluate(SMALL), [])
            self.looked_at(page, address, "dark", SHOWN)


class OneHalf(_Accessible):
    def test_every_second_page(self) -> None:
        self.every_page(0)


class OtherHalf(_Accessible):
    def test_every_second_page(self) -> None:
        self.every_page(1)
