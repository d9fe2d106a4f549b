"""By touch under the hand: targets tapped on a phone, keys, damage on the way, a lost connection, two devices, axe."""

from playwright.sync_api import Page, expect

from tests.browser.support import LAPTOP, PHONE, BrowserCase


class ByTouch(BrowserCase):
    SECONDS_A_TEST = 8

    def begun(self, page: Page, aircraft: int = 1, stop: str = "arm-1") -> str:
        page.goto(f"{self.server.base}/?aircraft={aircraft}")
        page.click("button[form=pick]")
        page.wait_for_url("**/rounds/*")
        address = page.url.split("?")[0] + "/touch"
        page.goto(f"{address}?stop={stop}")
        page.click(".touch-gate button")
        expect(page.locator(".touch-gate")).to_have_count(0)
        return address

    def tap(self, page: Page, part: str) -> None:
        page.locator(f'.target[data-part="{part}"]').tap()

    def test_a_tap_is_saved_and_the_drawing_and_the_list_agree(self) -> None:
        page = self.page(PHONE)
        self.begun(page)
        self.tap(page, "arm-1")
        for shown in (
            '.target.ok[data-part="arm-1"]',
            'li.ok[data-row="arm-1"]',
            'button.say-ok[data-part="arm-1"][aria-pressed=true]',
        ):
            expect(page.locator(shown)).to_have_count(1)
        expect(page.locator(".touch-left")).to_have_text("38 parts left")
        page.reload()
        expect(page.locator('.target.ok[data-part="arm-1"]')).to_have_count(1)
        page.wait_for_timeout(750)
        self.tap(page, "arm-1")
        expect(page.locator('.target.left[data-part="arm-1"]')).to_have_count(1)

    def test_every_target_is_large_enough_and_none_covers_another(self) -> None:
        page = self.page(PHONE)
        address = self.begun(page)
        for stop in ("top", "arm-1", "under"):
            page.goto(f"{address}?stop={stop}")
            small = page.evaluate(
                """() => [...document.querySelectorAll(".target")].filter((t) => {
                  const box = t.querySelector(".reach").getBoundingClientRect();
                  const hit = document.elementFromPoint(box.x + box.width / 2, box.y + box.height / 2);
                  return box.width < 48 || box.height < 48 || hit?.closest(".target") !== t; }).map((t) => t.dataset.part)"""
            )
            self.assertEqual(small, [], stop)

    def test_a_key_does_what_a_tap_does(self) -> None:
        page = self.page(LAPTOP)
        self.begun(page)
        page.keyboard.press("2")
        expect(page.locator('.target.ok[data-part="propeller-1/blade-2"]')).to_have_count(1)
        page.locator('.target[data-part="arm-1"]').focus()
        page.keyboard.press("Enter")
        expect(page.locator('.target.ok[data-part="arm-1"]')).to_have_count(1)

    def test_the_last_part_of_a_stop_leads_on(self) -> None:
        page = self.page(PHONE)
        self.begun(page, stop="under")
        for part in ("gimbal", "gimbal/lens"):
            self.tap(page, part)
        page.wait_for_url("**/touch?stop=top")

    def test_damage_on_the_way_and_replaced_at_once(self) -> None:
        page = self.page(PHONE)
        self.begun(page)
        page.click("[data-damage-mode]")
        self.tap(page, "propeller-1/blade-1")
        page.wait_for_url("**/damage?**")
        page.locator("label.damage", has_text="Nick").click()
        expect(page.locator("#damage-verdict")).to_contain_text("Grounded until it is replaced.")
        page.click("button[value=other]")
        page.wait_for_url("**/touch?stop=arm-1&then=**")
        expect(page.locator(".notice[role=status]")).to_contain_text("Check now:")
        expect(page.locator('.target.fixed[data-part="propeller-1/blade-1"]')).to_have_count(1)

    def test_without_a_connection_it_says_so_and_nothing_is_shown_as_saved(self) -> None:
        page = self.page(PHONE, own=True)
        self.begun(page)
        page.context.set_offline(True)
        self.tap(page, "arm-1")
        expect(page.locator(".touch-wrong")).to_contain_text("Not saved: no connection.")
        self.complaints[:] = [c for c in self.complaints if "ERR_INTERNET_DISCONNECTED" not in c]
        expect(page.locator('.target.left[data-part="arm-1"]')).to_have_count(1)
        page.context.set_offline(False)
        page.wait_for_timeout(750)
        self.tap(page, "arm-1")
        expect(page.locator('.target.ok[data-part="arm-1"]')).to_have_count(1)
        expect(page.locator(".touch-wrong")).to_be_hidden()

    def test_two_devices(self) -> None:
        one, other = self.page(PHONE), self.page(LAPTOP)
        address = self.begun(one)
        other.goto(f"{address}?stop=arm-1")
        other.locator('li[data-row="arm-1"] a', has_text="Damaged").click()
        other.locator("label.damage", has_text="Crack").click()
        other.click("button[value=record]")
        other.wait_for_url("**/touch?stop=arm-1")
        self.tap(one, "arm-1")
        expect(one.locator(".touch-wrong")).to_contain_text("was reported damaged")
        expect(one.locator('.target.ok[data-part="arm-1"]')).to_have_count(0)
