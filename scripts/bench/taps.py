"""What a round costs a thumb: a truthful pilot on a phone, from Today to the running flight clock.

A button counts 1, a number 2, a press that is held 1; a station is one card, and so is each answer with a card of its own; every value is entered, nothing is opened that need not be. The bench and the bag are done the evening
before and counted apart.
"""

import re
import time
from typing import NamedTuple

from playwright.sync_api import Browser, Locator, Page

from scripts.bench import fleet
from scripts.bench.rows import Part, Row
from tests.browser.support import PHONE, Server
from walkround.core.checklist.library import CHECKS

AT_HOME = ("bench", "bag")
FIRST_TAPS, FIRST_CARDS, HOME_TAPS, NEXT_TAPS, HALL_TAPS, HALL_CHECKS, RACE_TAPS = 40, 18, 15, 14, 20, 15, 8
"""What rounds may cost: first launch of the camera quad, its cards, the evening before, the next launch; the hall; the fifth pack."""
SPECIAL = ("cells", "timer", "rotors", "control_directions", "weather", "fix", "flight", "packed", "charge")
"""Answers with a card of their own; ticks, choices and numbers are rows on the card of their station."""
MOST_A_FAULT = 4
FAULTS = (
    ("airframe.marks", "", ""), ("field.people", "under", ""), ("field.path", "new", ""), ("sky.look", "thunder", ""),
    ("airframe.covers_off", "", ""), ("airframe.arms", "", ""), ("airframe.propellers", "", ""), ("pack.body", "out", ""),
    ("pack.percent", "", "61"), ("power.mode", "", ""),
)  # fmt: skip
"""Seeded faults of the floor: the check that sees each, and its option or number where it has one."""
STATION_OF = {check.id: check.station for check in CHECKS}
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
        self.checks = self.together = 0

    def where(self) -> str:
        """The station that is walked, "" outside the walk."""
        if "/touch" in self.page.url:
            return "airframe"
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


def _touch(thumb: Thumb) -> None:
    """Every part that is left at the stop, one after the other; the page goes on by itself."""
    page, left = thumb.page, ".target.left"
    thumb.cards.setdefault(thumb.where(), set()).add("touch")
    if page.locator(".touch-gate button").count():
        thumb.tap(page.locator(".touch-gate button"))
    before = page.url
    while page.url == before and page.locator(left).count():
        part = page.locator(left).first.get_attribute("data-part")
        thumb.tap(page.locator(left).first)
        page.wait_for_function(
            "([before, part]) => location.href !== before || document.querySelector(`.target.ok[data-part='${part}']`)",
            arg=[before, part],
        )
        page.wait_for_timeout(30)
    if page.url == before and page.locator(".by-touch .ways .primary").count():
        thumb.tap(page.locator(".by-touch .ways .primary"))
    page.wait_for_load_state()


def _answer(thumb: Thumb) -> None:
    """Answer what is in hand, truthfully and with what is simplest."""
    page = thumb.page
    if "/touch" in page.url:
        _touch(thumb)
        return
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
        thumb.together += card.locator(".rows > li").count()
        thumb.tap(together)
    elif card.locator(".offered").count():
        thumb.tap(card.locator(".offered"))
    elif card.locator("[name=number]").count():
        label = card.locator("label[for=f-number]").inner_text()
        known = re.search(r"held by (\d+)", card.inner_text())
        thumb.type(card.locator("[name=number]"), known.group(1) if known else NUMBERS.get(label, "5"))
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


def _today(page: Page, base: str, aircraft: str, pack: str, site: str) -> None:
    """Today, as it stands for these."""
    page.goto(base)
    for name, wanted in (("aircraft", aircraft), ("pack", pack), ("site", site)):
        option = page.locator(f"select[name={name}] option", has_text=re.compile(f"^{wanted}")).first
        page.goto(f"{page.url}{'&' if '?' in page.url else '?'}{name}={option.get_attribute('value')}")


def _launch(
    page: Page, base: str, aircraft: str, pack: str, site: str = "Teasel Common", *, take_off: bool = True
) -> Thumb:
    """One launch, from Today as it stands for these to the running clock, or to the signature."""
    thumb = Thumb(page)
    _today(page, base, aircraft, pack, site)
    thumb.tap(page.locator("button[form=pick]"))
    page.wait_for_url("**/rounds/*")
    thumb.checks = int(re.search(r"of (\d+)", page.locator("#chip").inner_text()).group(1))  # type: ignore[union-attr]
    while "/verdict" not in page.url:
        _answer(thumb)
    sign = page.locator("[x-data=signing] button.primary").first
    if sign.get_attribute("data-hold") is None:
        thumb.tap(sign)
        thumb.tap(page.locator("form button.primary:has-text('Sign and lock')"))
    else:
        thumb.hold(sign)
    page.wait_for_selector(".verdict:has-text('Signed by')")
    if take_off:
        thumb.tap(page.locator(".primary:has-text('Take off')"))
        page.wait_for_selector("[data-part=label]:has-text('Take off in')")
    return thumb


def _log(page: Page) -> None:
    """Landed, and in the logbook."""
    page.locator("[data-key=l]").first.click()
    page.fill("[name=minutes]", "6")
    page.fill("[name=left_percent]", "45")
    page.click("button:has-text('Save to logbook')")
    page.click("button:has-text('Save it as it is')")  # six minutes that took a second
    page.wait_for_selector("main:has-text('Flight logged')")


def _report(page: Page, base: str, check: str, option: str, number: str) -> int:
    """Taps to report a fault at its station: ``option`` of a choice, or a ``number``, or else as a fault."""
    page.goto(f"{base}?station={STATION_OF[check].value}")
    thumb = Thumb(page)
    row = page.locator(f"[data-row][href$='check={check}']")
    if row.count():
        if not option:
            thumb.tap(page.locator("[data-key=f]").first)
        thumb.tap(row)
    elif page.locator(f".line[href$='check={check}']").count():
        thumb.tap(page.locator(f".line[href$='check={check}']"))
    page.wait_for_selector(f".check form[action$='checks/{check}']", state="attached")
    if option:
        thumb.tap(page.locator(f".option[value={option}]"))
    elif number:
        thumb.type(page.locator("[name=number]"), number)
        page.locator("[name=number]").press("Enter")
    else:
        if page.locator("#fault-form").is_hidden():
            thumb.tap(page.locator("[data-key=f]").first)
        thumb.tap(page.locator("#fault-form .primary"))
    page.wait_for_selector("#panel .check.is-grounded, #panel .check.is-caution")
    return sum(thumb.taps.values())


def _faults_row(page: Page, base: str) -> Row:
    """Ten faults, each met on a fresh round."""
    _today(page, base, fleet.FAULTY, "F1", "Teasel Common")
    page.click("button[form=pick]")
    page.wait_for_url("**/rounds/*")
    address = page.url.split("?")[0]
    dearest = max(_report(page, address, *fault) for fault in FAULTS)
    return Row(
        "Ten seeded faults, the dearest to report",
        (str(dearest), "", "", ""),
        f"{MOST_A_FAULT} taps",
        dearest <= MOST_A_FAULT,
    )


class Bar(NamedTuple):
    """What a round may cost; None where nothing is asked of it."""

    taps: int | None
    cards: int | None = None
    checks: int | None = None


def _row(what: str, thumb: Thumb, bar: Bar, *, home: bool | None = False) -> Row:
    """``home``: of the bench and the bag only, of all but them, or of everything (None)."""
    parts = (True, False) if home is None else (home,)
    taps, cards = (sum(pair) for pair in zip(*(thumb.sum(home=part) for part in parts), strict=True))
    spent = ((taps, bar.taps, "taps"), (cards, bar.cards, "cards"), (thumb.checks, bar.checks, "checks"))
    words = ", ".join(f"{most} {unit}" for _, most, unit in spent if most is not None)
    kept = all(most is None or used <= most for used, most, _ in spent)
    return Row(what, (str(taps), str(cards), str(thumb.checks), str(thumb.together)), words or "all of it", kept)


def taps_part(server: Server, browser: Browser) -> Part:
    """Taps and cards of rounds in Chromium, on a demo book with ``fleet.add_others``."""
    page = browser.new_context(viewport=PHONE, has_touch=True).new_page()
    page.set_default_timeout(8000)
    page.clock.install()
    base = server.base
    # The evening before: the next pack comes off the charger.
    page.goto(f"{base}/packs/2")
    page.click("form[action$=charged] [value=full]")
    page.wait_for_url("**saved=1")
    first = _launch(page, base, "Sandpiper", "S1")
    page.goto(page.url)
    _log(page)
    later = _launch(page, base, "Sandpiper", "S2")
    racer = _launch(page, base, fleet.RACER, fleet.RACING_PACKS[-1], fleet.TRACK.name)
    hall = _launch(page, base, fleet.HELICOPTER, "W1", fleet.HALL.name)
    maiden = _launch(page, base, fleet.MAIDEN, "B1", take_off=False)
    faults = _faults_row(page, base)
    page.context.close()
    rows = (
        _row("Camera quad, first launch of the day", first, Bar(FIRST_TAPS, FIRST_CARDS)),
        _row("The same, bench and bag the evening before", first, Bar(HOME_TAPS), home=True),
        _row("The same, second launch with the next pack", later, Bar(NEXT_TAPS)),
        _row("Helicopter of 240 g in a hall, first launch", hall, Bar(HALL_TAPS, None, HALL_CHECKS), home=None),
        _row("Self-built racing quad, fifth pack", racer, Bar(RACE_TAPS), home=None),
        _row("Maiden of a 3 kg model, everything", maiden, Bar(None), home=None),
        faults,
    )
    return Part("A round under the thumb, on a phone", ("taps", "cards", "checks", "in groups"), rows)
