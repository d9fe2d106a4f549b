"""Packs in the real browser: judged while typing, plans redrawn, a table that is heard to come in."""

from playwright.sync_api import expect

from tests.browser.support import PHONE, BrowserCase


class Packs(BrowserCase):
    def test_a_reading_on_the_phone(self) -> None:
        page = self.page(PHONE)
        page.goto(f"{self.server.base}/packs/4/read")
        for i, value in enumerate(("4.18", "4.11", "4.17"), 1):
            page.fill(f"[name=cell_{i}]", value)
        page.wait_for_selector("#preview :text('Cell 2 lags well behind')")
        page.fill("[name=cell_2]", "4111")
        page.click("text=Save reading")
        page.click("button.offer")
        self.assertEqual(page.input_value("[name=cell_2]"), "4.111")
        page.click("text=Save reading")
        page.wait_for_selector("text=4.18 · 4.11 · 4.17 V")
        page.goto(f"{self.server.base}/packs/4/read")
        page.click("text=Read the simulated checker")
        page.wait_for_selector("text=simulated cell checker", state="attached")

    def test_lights_by_thumb(self) -> None:
        page = self.page(PHONE)
        page.goto(f"{self.server.base}/packs/2/read")
        page.click(".lights label:has-text('3')")
        page.wait_for_selector("#preview :text('50 to 75 %')")

    def test_the_plan_on_the_walk_is_redrawn_and_taken(self) -> None:
        page = self.page()
        base = self.start_round(page)
        page.goto(f"{base}?check=pack.plan")
        page.wait_for_selector("#preview .flight-drawn")
        page.fill("[name=out_m]", "200")
        page.wait_for_selector("#preview :text('turn back at')")
        page.wait_for_selector("#preview :text('Way home')")
        page.fill("[name=work_min]", "40")
        page.wait_for_selector("#preview :text('Stay down')")
        page.fill("[name=work_min]", "3")
        page.wait_for_selector("#preview :text('Stay down')", state="detached")
        page.keyboard.press("Enter")
        page.wait_for_selector(".notice.good:has-text('Plan the flight time')")

    def test_endurance_follows_what_is_changed(self) -> None:
        page = self.page()
        page.goto(f"{self.server.base}/endurance?pack=1")
        page.fill("[name=out_m]", "300")
        page.wait_for_selector("#plan-result :text('turn back at')")
        page.fill("[name=pack_c]", "-5")
        page.keyboard.press("Tab")
        page.wait_for_selector("text=Warm this pack to")
        page.select_option("select[name=aircraft]", label="Haymaker")
        page.wait_for_selector("text=Flight plan for pack H")

    def test_the_charging_plan_is_redrawn(self) -> None:
        page = self.page()
        page.goto(f"{self.server.base}/packs/charging")
        before = page.locator(".block").count()
        page.uncheck(".to-charge li:first-child [name=pack]")
        expect(page.locator(".block")).to_have_count(before - 1)

    def test_a_table_is_heard_to_come_in(self) -> None:
        page = self.page()
        page.goto(f"{self.server.base}/packs/table")
        rows = "".join(
            f"M1;2025-{1 + i // 8000:02d}-{1 + i // 300 % 28:02d} {i // 15 % 24:02d}:{i % 60:02d};4.1;4.1\n"
            for i in range(30_000)
        )
        page.set_input_files(
            "[name=file]",
            {"name": "log.csv", "mimeType": "text/csv", "buffer": f"Pack;Date;Cell 1;Cell 2\n{rows}".encode()},
        )
        page.click("text=Preview")
        page.click("button:has-text('Import')")
        page.wait_for_selector("text=new readings for 1 pack", timeout=30_000)
