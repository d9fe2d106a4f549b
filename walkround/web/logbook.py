"""The logbook and the past rounds; the logbook as CSV."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.field.site import Site
from walkround.core.packs.pack import Pack
from walkround.core.round.consequences import HAPPENED_WORDS, Happened
from walkround.core.round.verdict import WORDS
from walkround.store import box, flights, hangar, round_list
from walkround.store.export import logbook_csv
from walkround.web.app_context import AppContext, AppContextDep
from walkround.web.pages import page

router = APIRouter()
PAGE = 25


@router.get("/logbook", name="logbook")
def show(request: Request, ctx: AppContextDep, page_number: int = 1, new: bool = False) -> Response:
    """Flights, newest first, and the rounds walked."""
    number = max(1, min(page_number, 100_000))
    lines = flights.logbook(PAGE + 1, (number - 1) * PAGE)
    count, minutes = flights.totals()
    return page(
        request,
        "logbook/page.html",
        ctx.settings(),
        lines=lines[:PAGE],
        more=len(lines) > PAGE,
        number=number,
        newer=number - 1,
        older=number + 1,
        zones={site.id: site.timezone for site in hangar.everything(Site)},
        count=count,
        hours=minutes / 60,
        new=new,
        next_launch=_next_launch(ctx) if new else None,
        happened={h.value: words for h, words in HAPPENED_WORDS.items()},
        nothing=Happened.NOTHING.value,
        past=round_list.recent(12),
        words={int(level): word for level, word in WORDS.items()},
    )


def _next_launch(ctx: AppContext) -> tuple[Aircraft, Pack, Site] | None:
    """What flies next: the aircraft that has just landed, with the next charged pack, at the same field; None without a charged pack."""
    last = flights.latest()
    if last is None:
        return None
    aircraft = hangar.get(Aircraft, last.aircraft_id)
    pack = next((turn.pack for turn in box.flying_order(aircraft, ctx.now()) if turn.charged), None)
    return None if pack is None else (aircraft, pack, hangar.get(Site, last.site_id))


@router.get("/logbook.csv", name="logbook_csv")
def as_csv() -> Response:
    """All flights as CSV."""
    return Response(
        logbook_csv(),
        media_type="text/csv; charset=utf-8",
        headers={"Content-Disposition": 'attachment; filename="walk-round-logbook.csv"'},
    )
