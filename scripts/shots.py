"""Take the pictures in docs/screenshots anew, from demo data at a fixed hour."""

import shutil
import sys
import tempfile
from pathlib import Path

from PIL import Image
from playwright.sync_api import Page, sync_playwright

from tests.browser.support import CHROMIUM, FLAGS, LAPTOP, MORNING, PHONE, Server, answer_all
from walkround.web.catalogue import PAGES

FOLDER = Path(__file__).parent.parent / "docs" / "screenshots"


def start(page: Page, base: str, aircraft: str) -> str:
    """A new round; returns its address."""
    page.goto(base)
    if aircraft not in page.locator("h1").inner_text():
        page.select_option("select[name=aircraft]", label=aircraft)
        page.wait_for_selector(f"h1:has-text('{aircraft}')")
    page.click("button[form=pick]")
    page.wait_for_url("**/rounds/*")
    return page.url.split("?")[0]


def press(page: Page, address: str, keys: str) -> None:
    """Open a check and answer it by key."""
    page.goto(address)
    before = page.locator("#chip").inner_text()
    page.keyboard.press(keys)
    page.wait_for_function("before => document.querySelector('#chip').innerText !== before", arg=before)


def some_answers(page: Page, round_: str) -> None:
    """A round half walked, with one thing to mind."""
    for check in (
        "bench.charger_settings",
        "airframe.marks",
        "airframe.covers_off",
        "airframe.propeller_side",
        "airframe.gimbal",
        "field.sight",
    ):
        press(page, f"{round_}?check={check}", "p")
    for check in ("field.airspace", "field.path", "field.surface_rotor", "sky.look", "field.pilot"):
        press(page, f"{round_}?check={check}", "1")
    press(page, f"{round_}?check=field.people", "3")
    press(page, f"{round_}?check=sky.weather", "d")
    press(page, f"{round_}?station=airframe", "p")


def shoot(page: Page, name: str, *, whole: bool = False) -> None:
    """One picture."""
    page.evaluate("document.activeElement && document.activeElement.blur()")
    page.wait_for_timeout(250)
    page.screenshot(path=str(FOLDER / f"{name}.png"), full_page=whole)


def laptop(page: Page, base: str) -> str:
    """The pictures of the laptop; returns the round's address."""
    pictures = dict(entry.picture for entry in PAGES if entry.picture)
    page.goto(base + pictures.pop("today"))
    shoot(page, "today")
    round_ = start(page, base, "Sandpiper")
    some_answers(page, round_)
    page.goto(f"{round_}?station=airframe")
    shoot(page, "walk")
    for name, path in pictures.items():
        page.goto(base + path)
        shoot(page, name)
    drawn(page, base)
    return round_


def drawn(page: Page, base: str) -> None:
    """Where drawing beats ticking: parts under the hand, sticks, and the field card."""
    hexa = start(page, base, "Lapwing")
    page.goto(f"{hexa}/touch?stop=arm-3")
    page.click(".touch-gate button")
    for part in ("propeller-3/blade-1", "propeller-3/blade-2", "motor-3/mount"):
        page.click(f'.target[data-part="{part}"]')
        page.wait_for_selector(f'.target.ok[data-part="{part}"]')
    shoot(page, "touch")
    page.goto(f"{hexa}/card")
    page.emulate_media(media="print")
    page.set_viewport_size({"width": 794, "height": 1123})  # A4 at 96 dots an inch
    shoot(page, "card")
    page.goto(f"{base}/fields/1/brief")
    shoot(page, "brief")
    page.set_viewport_size(LAPTOP)  # type: ignore[arg-type]
    page.emulate_media(media="screen")
    wing = start(page, base, "Haymaker")
    for check in ("power.transmitter_on", "power.mode", "power.idle", "power.aircraft_on"):
        press(page, f"{wing}?check={check}", "p")
    page.goto(f"{wing}?check=power.still_short")
    page.click(".count [data-key=p]")
    page.wait_for_selector("#chip:has-text('5 of')")
    page.goto(f"{wing}?check=controls.surfaces")
    page.wait_for_timeout(1300)  # the surfaces stand out
    shoot(page, "sticks")


def flying(page: Page, base: str, folder: Path) -> str:
    """A round answered and signed, and its flight a few seconds old; its address."""
    address = start(page, base, "Sandpiper")
    answer_all(folder, int(address.rsplit("/", 1)[1]))
    page.request.post(f"{address}/sign", form={"signed_by": "Tamsin Rook"}, headers={"Origin": base})
    page.goto(f"{address}/flight")
    page.click("button:has-text('Take off')")
    page.wait_for_selector("[data-part=label]:has-text('Turn back in')")
    page.wait_for_timeout(2500)
    return f"{address}/flight"


def phones(page: Page, base: str, round_: str, folder: Path) -> None:
    """What a phone shows, side by side in one picture."""
    views = []

    def view(address: str) -> None:
        page.goto(address)
        if address.endswith("/read"):
            for i, value in enumerate(("4.18", "4.11", "4.17"), 1):
                page.fill(f"[name=cell_{i}]", value)
            page.wait_for_selector("#preview .finding")
        page.evaluate("document.activeElement && document.activeElement.blur()")
        page.wait_for_timeout(250)
        path = folder / f"phone{len(views)}.png"
        page.screenshot(path=str(path))
        views.append(path)

    for address in (base, f"{round_}?station=pack", f"{base}/packs/4/read"):
        view(address)
    view(flying(page, base, folder / "demo"))
    gap, wide, high = 24, PHONE["width"], PHONE["height"]
    sheet = Image.new("RGB", (len(views) * (wide + gap) - gap, high), "white")
    for i, path in enumerate(views):
        sheet.paste(Image.open(path), (i * (wide + gap), 0))
    sheet.save(FOLDER / "phones.png", optimize=True)


def main() -> int:
    """Start a demo of its own, take every picture, stop."""
    FOLDER.mkdir(parents=True, exist_ok=True)
    for old in FOLDER.glob("*.png"):
        old.unlink()
    folder = Path(tempfile.mkdtemp(prefix="walkround-shots-"))
    server = Server(folder / "demo", at=MORNING)
    try:
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
            round_ = laptop(browser.new_context(viewport=LAPTOP).new_page(), server.base)  # type: ignore[arg-type]
            phone = browser.new_context(viewport=PHONE, has_touch=True).new_page()  # type: ignore[arg-type]
            phones(phone, server.base, round_, folder)
            browser.close()
    finally:
        server.stop()
        shutil.rmtree(folder, ignore_errors=True)
    print(f"{len(list(FOLDER.glob('*.png')))} pictures in {FOLDER}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
