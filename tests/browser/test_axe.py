"""Accessibility: no violation on any page, light and dark, laptop and phone, with contrast held to 7:1."""

from playwright.sync_api import Page

from tests.browser.support import AXE, LAPTOP, PHONE, BrowserCase

RULES = {
    "rules": {"color-contrast-enhanced": {"enabled": True}, "target-size": {"enabled": True}},
    "resultTypes": ["violations"],
}


class Accessible(BrowserCase):
    def addresses(self, page: Page) -> list[str]:
        base = self.start_round(page).removeprefix(self.server.base)
        page.goto(f"{self.server.base}{base}?check=airframe.propellers")
        page.click("[data-key=f]")
        page.click("button:has-text('It is a fault')")
        page.wait_for_selector(".check.is-grounded")
        page.goto(f"{self.server.base}{base}?check=pack.cells")
        for i, value in enumerate(("4.20", "4.14", "4.19"), 1):
            page.fill(f"[name=cell_{i}]", value)
        page.click("button:has-text('Take these')")
        page.wait_for_selector(".check.is-caution")
        checks = (
            "bench.packs_ready", "sky.weather", "airframe.propellers", "pack.cells", "power.aircraft_on", "power.still_long",
            "field.people", "sensors.satellites", "first.hover", "airframe.propeller_side", "bag.first_pass",
            "pack.plan", "pack.body",
        )  # fmt: skip
        wing = self.start_round(page, "Haymaker").removeprefix(self.server.base)
        return [
            "/", "/?aircraft=2&pack=4", "/hangar", "/hangar/aircraft/1", "/hangar/aircraft/2", "/hangar/aircraft/new/camera-quad",
            "/hangar/aircraft/new", "/hangar/aircraft/1/bag", "/hangar/aircraft/1/parts", "/hangar/aircraft/3/card",
            "/checks?aircraft=4", "/checks/airframe.shell", "/checks/new", "/methods", f"{base}/card", f"{base}/entry",
            f"{wing}?check=controls.surfaces",
            "/packs", "/packs?aircraft=2", "/packs/1", "/packs/5", "/packs/7", "/packs/new", "/packs/1/read", "/packs/4/read",
            "/packs/4/look", "/packs/charging", "/packs/table", "/endurance?pack=1", "/endurance?pack=4", "/ahead", "/fields/1", "/fields/1?sel=m1", "/fields/1?sel=box", "/fields/1/airspace", "/fields/1/brief", "/fields/1/details", "/fields/1/home", "/fields/2/home?height=22", "/fields/new", "/snags", "/logbook", "/settings", "/devices", "/nowhere",
            "/rounds/1/verdict", "/rounds/1/flight", f"{base}/verdict", *(f"{base}?check={c}" for c in checks),
        ]  # fmt: skip

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
