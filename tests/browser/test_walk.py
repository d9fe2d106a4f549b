"""The main job in the real interface: walked with the keyboard on a laptop, with a thumb on a phone."""

import re

from playwright.sync_api import Page, expect

from tests.browser.support import PHONE, BrowserCase


class Laptop(BrowserCase):
    def chip(self, page: Page):  # type: ignore[no-untyped-def]
        return expect(page.locator("#chip"))

    def fast_forward(self, page: Page, milliseconds: int) -> None:
        """Let time run, then flow on by itself."""
        page.clock.run_for(milliseconds)
        page.clock.resume()

    def test_cells_are_judged_while_typed_and_the_verdict_follows_without_a_page_load(self) -> None:
        page = self.page()
        base = self.start_round(page, depth="full")
        page.goto(f"{base}?check=pack.cells")
        page.evaluate("window.stillHere = true")
        page.keyboard.press("p")
        page.keyboard.type("4.20")
        page.keyboard.press("Tab")
        page.keyboard.type("4,15")
        page.keyboard.press("Tab")
        page.keyboard.type("4.19")
        expect(page.locator("#preview")).to_contain_text("Cell 2 lags")
        self.chip(page).to_contain_text("0 of")
        page.keyboard.press("Enter")
        self.chip(page).to_contain_text("Not complete: 1 caution")
        expect(page.locator(".check")).to_contain_text("Balance charge")
        self.assertTrue(page.evaluate("window.stillHere"))
        page.keyboard.press("u")
        self.chip(page).to_contain_text("0 of")
        expect(page.locator(".notice")).to_contain_text("Undone: Measure each cell")

    def test_millivolts_offered_with_one_tap(self) -> None:
        page = self.page()
        base = self.start_round(page, depth="full")
        page.goto(f"{base}?check=pack.cells")
        for i, value in enumerate(("4200", "4180", "4190"), 1):
            page.fill(f"[name=cell_{i}]", value)
        page.click("button:has-text('Save')")
        expect(page.locator(".wrong")).to_contain_text("millivolts")
        page.click(".offer")
        self.assertEqual(page.input_value("[name=cell_2]"), "4.18")
        page.click("button:has-text('Save')")
        expect(page.locator(".notice.good")).to_contain_text("Measure each cell")
        self.chip(page).to_contain_text("1 of")

    def test_gates_hold_and_lead_to_what_is_missing(self) -> None:
        page = self.page()
        base = self.start_round(page)
        page.goto(f"{base}?check=power.aircraft_on")
        expect(page.locator(".barrier")).to_contain_text("Not yet")
        expect(page.locator(".ways .primary")).to_be_disabled()
        page.keyboard.press("p")
        self.chip(page).to_contain_text("0 of")
        page.click(".barrier a")
        expect(page.locator("#check-title")).to_contain_text("gimbal clamp")

    def test_a_timer_runs_and_completes_itself(self) -> None:
        page = self.page(own=True)
        base = self.start_round(page, "Haymaker")
        for check in ("power.transmitter_on", "power.mode", "power.idle", "power.aircraft_on"):
            page.goto(f"{base}?check={check}")
            page.keyboard.press("p")
            expect(page.locator(f"a.line[href$='{check}'] .clear")).to_have_count(1)
        page.clock.install()
        page.goto(f"{base}?check=power.still_short")
        page.click("button:has-text('Start the count')")
        self.fast_forward(page, 2000)
        expect(page.locator(".digits")).to_have_text(re.compile("[12]"))
        page.click("button:has-text('Stop and')")
        expect(page.locator(".digits")).to_have_text("4")
        page.click("button:has-text('Start the count')")
        self.fast_forward(page, 4500)
        self.chip(page).to_contain_text("5 of")

    def test_fault_skip_and_their_words(self) -> None:
        page = self.page()
        base = self.start_round(page)
        page.goto(f"{base}?check=airframe.shell")
        page.keyboard.press("f")
        expect(page.locator("#f-fault")).to_be_focused()
        page.keyboard.type("crack at the rear arm")
        page.keyboard.press("Enter")
        self.chip(page).to_contain_text("Stay down: 1")
        expect(page.locator(".check")).to_contain_text("crack at the rear arm")
        expect(page.locator("#check-title")).to_contain_text("Inspect the airframe")
        page.keyboard.press("p")
        expect(page.locator("#check-title")).to_contain_text("Remove gimbal clamp")
        page.keyboard.press("s")
        expect(page.locator("#f-reason")).to_be_focused()
        page.keyboard.type("hinge pin at the workshop")
        page.keyboard.press("Enter")
        expect(page.locator(".check")).to_contain_text("Not done: hinge pin at the workshop")
        page.goto(f"{self.server.base}/snags")
        expect(page.locator("main")).to_contain_text("crack at the rear arm")
        page.goto(base)
        page.keyboard.press("u")
        self.chip(page).to_contain_text("1 of")
        page.keyboard.press("u")
        self.chip(page).to_contain_text("Not complete")

    def test_a_group_is_confirmed_once_its_rows_were_seen(self) -> None:
        page = self.page(PHONE)
        base = self.start_round(page)
        page.goto(f"{base}?check=airframe.covers_off")
        page.tap(".ways .primary")
        button = page.locator("#group-form .primary")
        expect(button).to_contain_text("Airframe: 4 checks OK")
        expect(page.locator(".small-craft .part-here")).to_have_count(3)
        page.locator(".rows > li:last-of-type").scroll_into_view_if_needed()
        expect(button).to_be_enabled()
        button.tap()
        expect(page.locator("#chip")).to_contain_text("5 of")
        expect(page.locator("#check-title")).to_contain_text("Match CW and CCW")

    def test_what_is_wrong_in_a_group_is_said_in_three_taps(self) -> None:
        page = self.page(PHONE)
        base = self.start_round(page)
        page.goto(f"{base}?station=pack")
        page.tap("[data-key=f]")
        expect(page.locator(".which")).to_be_visible()
        page.tap("[data-row][href$='pack.right_one']")
        expect(page.locator("#fault-form")).to_be_visible()
        page.tap("#fault-form .primary")
        self.chip(page).to_contain_text("Stay down: 1")
        page.goto(f"{base}?station=pack")
        expect(page.locator("#group-form")).to_have_count(0)  # a marked part is looked at piece by piece

    def test_a_count_begins_when_what_it_waits_for_is_done(self) -> None:
        page = self.page(own=True)
        base = self.start_round(page, "Haymaker")
        for check in ("power.transmitter_on", "power.mode", "power.idle"):
            page.goto(f"{base}?check={check}")
            page.keyboard.press("p")
            expect(page.locator(f"a.line[href$='{check}'] .clear")).to_have_count(1)
        page.clock.install()
        page.goto(f"{base}?check=power.aircraft_on")
        page.keyboard.press("p")
        expect(page.locator(".count[data-begun]")).to_have_count(1)
        self.fast_forward(page, 4500)
        self.chip(page).to_contain_text("5 of")

    def test_enter_in_a_note_chooses_no_answer(self) -> None:
        page = self.page()
        base = self.start_round(page)
        page.goto(f"{base}?check=field.path")
        page.fill("[name=note]", "a new wire at the mill")
        page.keyboard.press("Enter")
        expect(page.locator(".wrong")).to_contain_text("Choose one of the answers.")
        self.chip(page).to_contain_text("0 of")
        self.assertEqual(page.input_value("[name=note]"), "a new wire at the mill")

    def test_what_another_device_answers_shows_here(self) -> None:
        page, other = self.page(own=True), self.page(PHONE)
        page.clock.install()
        base = self.start_round(page)
        page.goto(f"{base}?station=field")
        other.goto(f"{base}?check=field.sight")
        other.tap(".ways .primary")
        self.chip(other).to_contain_text("1 of")
        self.chip(page).to_contain_text("0 of")
        self.fast_forward(page, 8_500)
        self.chip(page).to_contain_text("1 of")

    def test_enter_takes_what_is_typed_and_not_what_is_on_record(self) -> None:
        page = self.page()
        base = self.start_round(page)
        page.goto(f"{base}?check=pack.percent")
        expect(page.locator(".offered")).to_contain_text("On record: 100")
        page.fill("[name=number]", "61")
        page.keyboard.press("Enter")
        self.chip(page).to_contain_text("Stay down: 1")
        page.goto(f"{base}?check=field.max_height")
        page.click(".offered")
        self.chip(page).to_contain_text("2 of")

    def test_help_and_stations_by_key(self) -> None:
        page = self.page()
        page.goto(self.start_round(page))
        page.keyboard.press("?")
        expect(page.locator("dialog#keys")).to_be_visible()
        page.keyboard.press("Escape")
        page.keyboard.press("n")
        expect(page.locator("#station-title")).to_have_text("Bag")
        page.keyboard.press("j")
        expect(page.locator("#check-title")).to_contain_text("fire-resistant bags")
        page.keyboard.press("k")
        expect(page.locator("#check-title")).to_contain_text("Pack from the list")
        page.keyboard.press("b")
        expect(page.locator("#station-title")).to_have_text("Bench")

    def test_stations_on_the_path_can_be_clicked(self) -> None:
        page = self.page()
        page.goto(self.start_round(page))
        page.locator("#path a[href$='station=link']").click()
        expect(page.locator("#station-title")).to_have_text("Link")
        self.assertIn("station=link", page.url)
        page.go_back()
        page.wait_for_url(lambda url: "station=link" not in url)
        expect(page.locator("#station-title")).not_to_have_text("Link")
        for part in ("#path", "#chip", "header"):  # the whole page, not the panel alone
            expect(page.locator(part).first).to_be_visible()

    def test_links_of_the_walk_are_links(self) -> None:
        """A plain click changes the panel and the address; with Ctrl it opens a tab of its own and leaves this one as it is."""
        page = self.page(own=True)
        page.goto(self.start_round(page))
        page.evaluate("document.body.dataset.same = 'yes'")
        line = page.locator("#panel .line").first
        asked = str(line.get_attribute("href"))
        line.click()
        expect(page).to_have_url(self.server.base + asked)
        self.assertEqual(page.evaluate("document.body.dataset.same"), "yes", "the page was not loaded anew")
        with page.context.expect_page() as opened:
            page.locator("#panel .line").first.click(modifiers=["Control"])
        self.assertIn("?check=", opened.value.url)
        expect(page).to_have_url(self.server.base + asked)

    def test_a_part_of_the_drawing_leads_to_its_check(self) -> None:
        page = self.page()
        page.goto(self.start_round(page))
        page.locator("#path a.part[aria-label^='Pack'] .m-pack").click()
        expect(page.locator("#station-title")).to_have_text("Pack")
        expect(page.locator("#check-title")).to_contain_text("by its label")

    def test_the_server_gone_is_said_and_nothing_typed_is_lost(self) -> None:
        page = self.page()
        base = self.start_round(page)
        page.goto(f"{base}?check=sky.wind_meter")
        page.fill("[name=number]", "3.5")
        page.route("**/checks/**", lambda route: route.abort())
        page.click("button:has-text('Save')")
        expect(page.locator("#notices")).to_contain_text("was not saved")
        self.assertEqual(page.input_value("[name=number]"), "3.5")
        self.complaints.clear()

    def test_from_first_check_to_logbook(self) -> None:
        """Every check answered through the interface, signed, flown, logged, and known to the next plan."""
        page = self.page(own=True)
        page.clock.install()
        base = self.started_by_hand(page, "Haymaker", "H1")
        total = int(re.search(r"of (\d+)", page.locator("#chip").inner_text()).group(1))  # type: ignore[union-attr]
        for _ in range(total * 2 + 5):
            if "/verdict" in page.url:
                break
            self.answer_one(page)
        page.goto(f"{base}/verdict")
        expect(page.locator("#verdict-word")).to_contain_text("Fly with care")
        expect(page.locator(".verdict")).to_contain_text("Hairline crack")
        page.keyboard.press("p")
        expect(page.locator("form button.primary:has-text('Sign and lock')")).to_be_focused()
        page.keyboard.press("Enter")
        expect(page.locator(".verdict")).to_contain_text("Signed by Tamsin Rook")
        page.keyboard.press("p")
        page.wait_for_url("**/flight")
        self.fast_forward(page, 6000)
        expect(page.locator("[data-part=label]")).to_have_text("Turn back in", timeout=9000)
        self.assertTrue(page.url.endswith("/flight"))
        page.keyboard.press("l")
        page.fill("[name=minutes]", "6")
        page.fill("[name=left_v]", "11.7")
        page.click("button:has-text('Save to logbook')")
        page.click("button:has-text('Save it as it is')")
        expect(page.locator("main")).to_contain_text("Flight logged")
        page.goto(self.server.base)
        again = self.started_by_hand(page, "Haymaker", "H1")
        page.goto(f"{again}?check=pack.cells")
        expect(page.locator(".why-today")).to_contain_text("has flown 1 time today")

    def answer_one(self, page: Page) -> None:
        """Answer the check in hand as a pilot would."""
        if "/touch" in page.url:
            self.touch_all(page)
            return
        expect(page.locator(".htmx-request")).to_have_count(0)  # the panel in hand is not about to be replaced
        card = page.locator("#panel .check")
        before = page.locator("#panel").inner_text()
        if card.locator("a.primary").count():
            card.locator("a.primary").first.click()
        elif card.locator("[name=number]").count():
            known = re.search(r"held by (\d+)", card.inner_text())
            value = known.group(1) if known else self.NUMBERS[card.locator("label[for=f-number]").inner_text()]
            card.locator("[name=number]").fill(value)
            page.keyboard.press("Enter")
        elif card.locator(".bag").count():
            for box in card.locator(".bag [type=checkbox]").all():
                box.check()
            for number in card.locator(".bag [inputmode=numeric]").all():
                number.fill("9")
            page.keyboard.press("Escape")
            page.keyboard.press("p")
        elif card.locator("[data-key=d]").count():
            page.keyboard.press("d")
        elif card.locator(".count").count():
            if not card.locator(".count[data-begun]").count():
                page.keyboard.press("p")
            self.fast_forward(page, 21_000)
        elif card.locator(".option").count():
            page.keyboard.press(card.locator(".option:not([data-note])").first.get_attribute("data-key") or "1")
        else:
            page.keyboard.press("p")
        page.wait_for_function(
            "(before) => location.pathname.endsWith('/verdict') || document.querySelector('#panel')?.innerText !== before",
            arg=before,
        )

    def touch_all(self, page: Page) -> None:
        """Every part that is left at the stop, by keys; the page goes on by itself."""
        page.wait_for_load_state()  # a key pressed before the page listens is lost
        if page.locator(".touch-gate button").count():
            page.keyboard.press("p")
            expect(page.locator(".touch-gate button")).to_have_count(0)
        before = page.url
        for target in page.evaluate("[...document.querySelectorAll('.target.left')].map((t) => t.dataset.part)"):
            page.locator(f'.target[data-part="{target}"]').focus()
            page.keyboard.press("Enter")
        page.wait_for_function("(before) => location.href !== before", arg=before)

    NUMBERS = {
        "Charged packs": "2", "Transmitter battery": "90", "Spare propellers": "3", "Nearest obstacle": "12",
        "Nearest source": "150", "Strongest in a minute": "3", "Rubber bands": "8", "Behind the leading edge": "76",
        "Pack temperature": "20", "Planned minutes": "4", "Highest point of the plan": "60", "Alarm voltage per cell": "3.7",
        "Supply voltage": "5.0",
    }  # fmt: skip


class Fields(BrowserCase):
    def test_a_new_field_starts_with_the_zone_of_the_device(self) -> None:
        page = self.page(timezone_id="America/Bogota")
        page.goto(f"{self.server.base}/fields/new")
        self.assertEqual(page.input_value("[name=timezone]"), "America/Bogota")
        page.goto(f"{self.server.base}/fields/1/details")
        self.assertEqual(page.input_value("[name=timezone]"), "Europe/Vienna")


class Paper(BrowserCase):
    def test_the_verdict_prints_on_one_page_however_much_there_is_to_mind(self) -> None:
        """Pages of the PDF that Chromium prints, counted in the file itself."""
        page = self.page()
        base = self.start_round(page)
        for check in (
            "airframe.shell",
            "airframe.arms",
            "airframe.propellers",
            "airframe.motors",
            "airframe.loose",
            "pack.body",
        ):
            page.goto(f"{base}?check={check}")
            page.click("[data-key=f]")
            page.fill("#f-fault", "a longer note about what was found here, in some detail, for the record")
            page.click("button:has-text('Record fault')")
            expect(page.locator(".check.is-grounded")).to_have_count(1)
        page.goto(f"{base}/verdict")
        pdf = page.pdf(prefer_css_page_size=True)
        self.assertEqual(len(re.findall(rb"/Type\s*/Page\b", pdf)), 1)

    def test_twenty_megabytes_are_refused_in_words(self) -> None:
        page = self.page()
        base = self.start_round(page, "Sandpiper")
        page.goto(f"{base}?check=sensors.satellites")
        page.click("summary")
        big = self.folder / "big.txt"
        big.write_bytes(b"$" * 20_000_000)
        page.set_input_files("[name=file]", big)
        page.evaluate("document.querySelector('form[enctype] button').disabled = false")
        page.click("form[enctype] button")
        expect(page.locator("#notices")).to_contain_text("more than 1.5 MB")


class Phone(BrowserCase):
    def test_one_thumb(self) -> None:
        page = self.page(PHONE)
        base = self.start_round(page)
        page.goto(f"{base}?check=airframe.shell")
        box = page.locator(".ways .primary").bounding_box()
        self.assertGreater(box["y"], 844 / 2.5, "the answer lies where the thumb is")
        page.tap(".ways .primary")
        expect(page.locator("#check-title")).to_contain_text("Remove gimbal clamp")
        top = page.locator("#check-title").bounding_box()["y"]
        self.assertTrue(62 <= top < 500, f"the next check is in view, below the bar: {top}")
        page.tap("#strip a[href$='station=pack']")
        expect(page.locator("#station-title")).to_have_text("Pack")
