"""The sky over a field: what trees and buildings hide of it at the launch point, what that costs a position, and where near it the sky opens."""

import math

from fastapi import Request
from starlette.responses import Response

from walkround.core.field.site import Site
from walkround.core.field.sky_mask import MASK_DEG, WALK_M
from walkround.core.field.sky_rules import sky_report
from walkround.core.round.in_air import point_words
from walkround.core.sensors.nominal import TypicalDay, typical_sky
from walkround.store import hangar
from walkround.web import drawings
from walkround.web.app_context import AppContextDep, Number
from walkround.web.pages import page
from walkround.web.routes import Router

router = Router()


def _row(words: str, day: TypicalDay) -> tuple[str, str, str]:
    """A sky in a row of the table: satellites and HDOP, as usual and in the worst tenth of the day."""
    usual, worst = (f"{value:.1f}" if math.isfinite(value) else "none" for value in (day.hdop, day.hdop_worst))
    return words, f"{day.satellites} ({day.satellites_worst})", f"{usual} ({worst})"


@router.get("/fields/{site_id}/sky", name="sky")
def show(request: Request, ctx: AppContextDep, site_id: Number) -> Response:
    """The sky over the launch point of a field."""
    settings, now = ctx.settings(), ctx.now()
    site = hangar.get(Site, site_id)
    report = sky_report(site, now)
    found = report.opening
    rows = [_row("Nothing in the way", report.free), _row("At your launch point", report.here)]
    if report.there is not None:
        rows.append(_row("Where the sky opens", report.there))
    plan = drawings.site.site_plan(site, settings.units) if found is not None else None
    return page(
        request, "fields/sky.html", settings,
        site=site, findings=report.findings, found=found, towards=point_words(found.bearing_deg) if found is not None else "", rows=rows,
        sky=drawings.sky.draw_sky(typical_sky(site.position, now, 0), report.mask, all_used=True), plan=plan, walk=drawings.sky.draw_walk(site, found, plan.paper_m) if plan is not None else None, low_deg=MASK_DEG, walk_m=WALK_M,
        blockers=[(one.words, one.top_deg, point_words(one.bearing_deg)) for one in report.mask.blockers[:6]],
    )  # fmt: skip
