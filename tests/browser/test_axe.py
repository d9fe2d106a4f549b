"""Accessibility: no violation on any page, light and dark, laptop and phone, with contrast held to 7:1."""

from playwright.sync_api import Page

from tests.browser.support import AXE, LAPTOP, PHONE, BrowserCase
from walkround.web.catalogue import PAGES

RULES = {
    "rules": {"color-contrast-enhanced": {"enabled": True}, "target-size": {"enabled": True}},
    "resultTypes": ["violations"],
}


class Accessible(BrowserCase):
    def addresses(self, page: Page) -> list[str]:
        base = self.start_round(page).removeprefix(self.server.base)
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

    def test_every_page(self) -> None:
        addresses = self.addresses(self.page())
        for size in (LAPTOP, PHONE):
            page = self.page(size)
            for address in addresses:
                page.goto(self.server.base + address)
                page.evaluate(AXE)
                for scheme in ("light", "dark"):
                    page.emulate_media(color_scheme=scheme)  # type: ignore[arg-type]
                    result = page.evaluate("rules => axe.run(document, rules)", RULES)
                    self.assertIn("color-contrast-enhanced", [p["id"] for p in result["passes"]], "axe did look")
                    words = [
                        f"{v['id']}: {n['html'][:140]} {n['any'][0]['message'][:160] if n['any'] else ''}"
                        for v in result["violations"]
                        for n in v["nodes"]
                    ]
                    with self.subTest(f"{address} {scheme} {size['width']}"):
                        self.assertEqual(words, [])
