"""A lost link: one what-if, the whole area, and the track under the finger."""

import math

from playwright.sync_api import Page

from scripts.bench.rows import Part, timed, times_row
from tests.browser.support import Server
from walkround.core.aircraft.failsafe import Action, actions
from walkround.core.aircraft.presets import PRESETS
from walkround.core.flight.estimate import endurance
from walkround.core.lost_link.air import Air
from walkround.core.lost_link.bodies import body_of
from walkround.core.lost_link.flown import Lost, Plan
from walkround.core.lost_link.ground import ground_of
from walkround.core.lost_link.proposals import Setup, area_of, proposals
from walkround.core.lost_link.what_if import what_if
from walkround.core.packs.pack import Pack
from walkround.demo.scenario import MEADOW

WHAT_IF_MS, AREA_MS, TRACK_MS = 50.0, 2_000.0, 50.0
AIR = Air(wind_ms=5, from_deg=270, gust_ms=1)
KINDS = ("camera-quad", "race-quad", "foam-trainer", "glider", "heli-single")


def lost_link_part() -> Part:
    """The dearest action of each kind of aircraft: 500 runs from one place, and 400 places of 100 runs."""
    ground, singles, areas, better = ground_of(MEADOW), [], [], []
    for key in KINDS:
        aircraft = PRESETS[key]
        known = endurance(aircraft, Pack(id=1, label="P", cells=aircraft.cells, capacity_mah=3000))
        for action in actions(aircraft.kind, aircraft.features()):
            if action is Action.HOLD:
                continue  # refused before it is flown
            plan, body = Plan(action=action, home=MEADOW.launch.xy), body_of(aircraft, known, action)
            speed_ms = 0.0 if action in (Action.RETURN, Action.HOVER, Action.LAND) else 10.0
            lost = Lost(east_m=40, north_m=60, height_m=45, speed_ms=speed_ms, heading_deg=40, charge_percent=60)
            singles += [timed(lambda p=plan, b=body, at=lost: what_if(at, p, b, AIR, ground)) for _ in range(5)]
            setup = Setup(
                site=MEADOW, aircraft=aircraft, known=known, air=AIR, plan=plan, height_m=45, speed_ms=speed_ms, charge_percent=60,
            )  # fmt: skip
            areas += [timed(lambda s=setup: list(area_of(s))) for _ in range(2)]
        better.append(timed(lambda s=setup: proposals(s, 30)))
    rows = (
        times_row("One what-if of 500 runs, any action", singles, WHAT_IF_MS),
        times_row("The whole area, 400 points of 100 runs, any action", areas, AREA_MS),
        times_row("What would be safer, five aircraft", [*better, *better], None),
    )
    return Part("Signal loss", ("p50 ms", "p95 ms", "at full speed"), rows)


def track_ms(page: Page, server: Server) -> list[float]:
    """From a move of the finger to the new track, while the aircraft is dragged over the plan."""
    page.goto(f"{server.base}/fields/1/link-lost?aircraft=2")
    page.wait_for_selector(".lost-craft")
    page.evaluate(
        """() => { window.moved_ = null; window.took_ = [];
        document.querySelector(".lost-svg").addEventListener("pointermove", () => { window.moved_ ??= performance.now(); });
        new MutationObserver(() => { if (window.moved_ !== null) { window.took_.push(performance.now() - window.moved_); window.moved_ = null; } })
          .observe(document.querySelector(".lost-path"), { attributes: true, attributeFilter: ["d"] }); }"""
    )
    box = page.locator(".lost-craft .disc").bounding_box()
    if box is None:
        raise RuntimeError("no aircraft is shown")
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    for i in range(60):
        page.mouse.move(x - 60 + 50 * math.cos(i / 5), y + 20 * math.sin(i / 5))
        page.wait_for_timeout(60)
    times: list[float] = page.evaluate("window.took_.slice()")
    page.mouse.up()
    return times[3:]
