"""What a round costs a thumb: a truthful pilot on a phone, from Today to the running flight clock.

A button counts 1, a number 2, a press that is held 1; a station is one card, and so is each answer with a card of its own; every value is entered, nothing is opened that need not be. The bench and the bag are done the evening
before and counted apart.
"""

import re
import time
from collections.abc import Iterator

from playwright.sync_api import Browser, Locator, Page

from scripts.bench.rows import Part, Row
from tests.browser.support import PHONE, Server

AT_HOME = ("bench", "bag")
FIRST_TAPS, FIRST_CARDS, HOME_TAPS, NEXT_TAPS = 40, 18, 15, 14
"""What a round of the camera quad may cost: first launch, its cards, the evening before, the next launch."""
SPECIAL = ("cells", "timer", "rotors", "control_directions", "weather", "fix", "flight", "packed", "charge")
"""Answers with a card of their own; ticks, choices and numbers are rows on the card of their station."""
NUMBERS = {
    "Charged packs": "3", "Transmitter battery": "90", "Phone or tablet": "95", "Free space": "20", "Maximum height": "60",
    "Nearest source": "150", "Nearest obstacle": "12", "Strongest in a minute": "3", "Charge shown": "98", "Pack temperature": "20",
    "RTH altitude": "60", "Turn back at": "45", "Off by": "3", "Height shown": "0", "Alarm voltage per cell": "3.7",
    "Highest point of the plan": "60",
}  # fmt: skip


class Thumb:
    """Taps, counted by station, on a page."""

    def __init__(self, page: Page) -> None:
        self.page = page
        self.taps: dict[str, int] = {}
        self.cards: dict[str, set[str]] = {}

    def where(self) -> str:
        """The station that is walked, "" outside the walk."""
        title = self.page.locator("#station-title")
        return title.inner_text().lower() if title.count() else ""

    def tap(self, what: Locator, count: int = 1) -> None:
        """Tap a thing."""
        here = self.where()
        self.taps[here] = self.taps.get(here, 0) + count
        what.click()

    def type(self, what: Locator, text: str) -> None:
        """Enter a number."""
        here = self.where()
        self.taps[here] = self.taps.get(here, 0) + 2
        what.fill(text)

    def hold(self, what: Locator) -> None:
        """Press and hold: one touch."""
        self.taps[self.where()] = self.taps.get(self.where(), 0) + 1
        what.hover()
        self.page.mouse.down()
        self.page.clock.run_for(1_000)
        self.page.mouse.up()

    def sum(self, *, home: bool) -> tuple[int, int]:
        """Taps and cards at home, or of all the rest."""
        return (
            sum(n for station, n in self.taps.items() if (station in AT_HOME) is home),
            sum(len(cards) for station, cards in self.cards.items() if (station in AT_HOME) is home),
        )


def _answer(thumb: Thumb) -> None:
    """Answer what is in hand, truthfully and with what is simplest."""
    page = thumb.page
    card = page.locator("#panel .check")
    kind = next((name for name in SPECIAL if card.and_(page.locator(f".ask-in-hand-{name}")).count()), "rows")
    thumb.cards.setdefault(thumb.where(), set()).add(kind)
    before = page.locator("#panel").inner_text()
    primary = card.locator(".ways .primary")
    together = card.locator("#group-form .primary")
    if card.locator("a.primary").count():
        thumb.tap(card.locator("a.primary").first)
    elif together.count():
        card.locator(".rows > li:last-of-type").scroll_into_view_if_needed()
        thumb.tap(together)
    elif card.locator(".offered").count():
        thumb.tap(card.locator(".offered"))
    elif card.locator("[name=number]").count():
        label = card.locator("label[for=f-number]").inner_text()
        known = re.search(r"held by (\d+)", card.inner_text())
        thumb.type(card.locator("[name=number]"), known.group(1) if known else NUMBERS[label])
        card.locator("[name=number]").press("Enter")  # the key that ends a number is part of it
    elif card.locator("[name=cell_1]").count():
        for cell in card.locator("[name^=cell_]").all():
            thumb.type(cell, "4.18")
        thumb.tap(primary)
    elif card.locator(".bag").count():
        for all_there in card.locator("[data-fill-all]").all():
            all_there.scroll_into_view_if_needed()
            thumb.tap(all_there)
        thumb.tap(primary)
    elif card.locator("[data-key=d]").count():
        thumb.tap(card.locator("[data-key=d]").first)
    elif card.locator(".count").count():
        if not card.locator(".count[data-begun]").count():
            thumb.tap(card.locator(".count [data-key=p]").first)
        page.clock.run_for(21_000)
        page.clock.resume()
    elif card.locator(".option").count():
        thumb.tap(card.locator(".option.clear:not([data-note]), .option:not([data-note])").first)
    else:
        thumb.tap(primary)
    deadline = time.monotonic() + 8
    while "/verdict" not in page.url and before in page.locator("body").inner_text():
        if time.monotonic() > deadline:
            raise RuntimeError(f"no answer: {before}")
        time.sleep(0.01)


def _launch(page: Page, base: str, pack: str) -> Thumb:
    """One launch, from Today to the running clock."""
    thumb = Thumb(page)
    page.goto(base)
    if page.locator("#f-pack option:checked").inner_text() != pack:
        thumb.tap(page.locator("#f-pack"), 2)
        page.select_option("#f-pack", label=pack)
        page.wait_for_selector(f"h1:has-text('with {pack}')")
    thumb.tap(page.locator("button[form=pick]"))
    page.wait_for_url("**/rounds/*")
    while "/verdict" not in page.url:
        _answer(thumb)
    sign = page.locator("button.primary:has-text('ign: '), button.primary:has-text('old to sign')").first
    if sign.get_attribute("data-hold") is None:
        thumb.tap(sign)
        thumb.tap(page.locator("form button.primary:has-text('Sign and lock')"))
    else:
        thumb.hold(sign)
    page.wait_for_selector(".verdict:has-text('Signed by')")
    thumb.tap(page.locator(".primary:has-text('Take off')"))
    page.wait_for_selector(".air-words:has-text('In the air since')")
    return thumb


def _rows(first: Thumb, later: Thumb) -> Iterator[Row]:
    for what, thumb, home, most, most_cards in (
        ("Camera quad, first launch of the day", first, False, FIRST_TAPS, FIRST_CARDS),
        ("The same, bench and bag the evening before", first, True, HOME_TAPS, None),
        ("The same, second launch with the next pack", later, False, NEXT_TAPS, None),
    ):
        taps, cards = thumb.sum(home=home)
        kept = taps <= most and (most_cards is None or cards <= most_cards)
        bar = f"{most} taps" + (f", {most_cards} cards" if most_cards else "")
        yield Row(what, (str(taps), str(cards)), bar, kept)


def taps_part(server: Server, browser: Browser) -> Part:
    """Taps and cards of rounds in Chromium."""
    page = browser.new_context(viewport=PHONE, has_touch=True).new_page()
    page.set_default_timeout(8000)
    page.clock.install()
    # The evening before: the next pack comes off the charger.
    page.goto(f"{server.base}/packs/2")
    page.click("form[action$=charged] [value=full]")
    page.wait_for_url("**saved=1")
    first = _launch(page, server.base, "S1")
    page.goto(page.url)
    page.locator("[data-key=l]").first.click()
    page.fill("[name=minutes]", "6")
    page.fill("[name=left_percent]", "45")
    page.click("button:has-text('Save to logbook')")
    page.wait_for_selector("main:has-text('Flight logged')")
    later = _launch(page, server.base, "S2")
    page.context.close()
    return Part("A round under the thumb, on a phone", ("taps", "cards"), tuple(_rows(first, later)))
