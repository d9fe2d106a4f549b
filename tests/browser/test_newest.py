"""Answers that come late or out of their order, held back on purpose."""

from collections.abc import Callable

from playwright.sync_api import Page, Route, expect

from tests.browser.support import BrowserCase


class Newest(BrowserCase):
    def test_the_newest_choice_on_today_stands_though_an_older_answer_comes_in_between(self) -> None:
        page = self.page()
        page.goto(self.server.base)
        held = self.held(page, lambda url: "pack=" in url)
        day = page.input_value("#f-day")
        for name in ("site", "pack"):
            other = page.locator(f"select[name={name}] option:not(:checked):not([disabled])").first
            chosen = str(other.get_attribute("value")), other.inner_text().split(",")[0].strip()
            page.select_option(f"select[name={name}]", chosen[0])
        self.until_held(page, held, 2)
        title = page.locator("#next-title").element_handle()
        held[0].continue_()
        page.wait_for_function("(title) => !title.isConnected", arg=title)
        held[1].continue_()
        expect(page.locator("#next-title")).to_contain_text(f"with {chosen[1]} ")
        self.assertEqual(page.input_value("select[name=pack]"), chosen[0])
        self.assertEqual(page.input_value("#f-day"), day)

    def test_an_older_answer_that_comes_last_does_not_take_the_newest_choice_back(self) -> None:
        page = self.page()
        base = self.start_round(page)
        page.goto(base)
        held = self.held(page, lambda url: "station=" in url)
        for station in ("pack", "link"):
            page.locator(f"#path a[href$='station={station}']").click()
        self.until_held(page, held, 2)
        held[1].continue_()
        expect(page.locator("#station-title")).to_have_text("Link")
        with page.expect_response(lambda answer: answer.url == f"{base}?station=pack"):
            held[0].continue_()
        page.wait_for_timeout(200)  # nothing is to happen
        self.assertEqual(page.locator("#station-title").inner_text(), "Link")

    def test_a_station_tapped_while_a_check_is_saved_opens(self) -> None:
        page = self.page()
        base = self.start_round(page)
        page.goto(f"{base}?check=airframe.shell")
        held = self.held(page, lambda url: "/checks/airframe.shell" in url or "station=" in url)
        page.keyboard.press("p")
        self.until_held(page, held, 1)
        page.locator("#path a[href$='station=link']").click()
        self.until_held(page, held, 2)
        held[0].continue_()
        expect(page.locator("#chip")).to_contain_text("1 of")
        held[1].continue_()
        expect(page.locator("#station-title")).to_have_text("Link")
        expect(page.locator("#chip")).to_contain_text("1 of")

    def test_a_preview_that_comes_after_its_check_was_left_is_let_go(self) -> None:
        page = self.page()
        base = self.start_round(page)
        held = self.held(page, lambda url: url.endswith("/preview"))
        page.goto(f"{base}?check=pack.plan")
        self.until_held(page, held, 1)
        page.locator("#path a[href$='station=link']").click()
        expect(page.locator("#station-title")).to_have_text("Link")
        with page.expect_response("**/preview"):
            held[0].continue_()
        page.wait_for_timeout(200)  # nothing is to happen
        expect(page.locator(".flight-drawn")).to_have_count(0)

    def held(self, page: Page, which: Callable[[str], bool]) -> list[Route]:
        """The requests of some addresses, kept back until they are let go one by one."""
        held: list[Route] = []
        page.route(which, lambda route: held.append(route))
        return held

    def until_held(self, page: Page, held: list[Route], count: int) -> None:
        """Wait until as many requests are kept back."""
        for _ in range(100):
            if len(held) >= count:
                return
            page.wait_for_timeout(50)
        self.fail(f"{len(held)} of {count} requests came")
