"""The logbook: a picture of the year, its lines with filters, what was flown lately; past rounds; the logbook as CSV."""

from datetime import timedelta

from fastapi import Request
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.later import pattern
from walkround.core.base.plain import whole
from walkround.core.field.site import Site
from walkround.core.packs.pack import Pack
from walkround.core.round.consequences import HAPPENED_WORDS, Happened
from walkround.core.round.verdict import WORDS
from walkround.store import box, flights, hangar, logbook, round_list
from walkround.store.export import logbook_csv
from walkround.store.logbook import Asked
from walkround.web import drawings
from walkround.web.app_context import AppContext, AppContextDep
from walkround.web.pages import page
from walkround.web.routes import Router

router = Router()
PAGE = 25
CURRENT_DAYS = 90
"""What currency looks back on, in days. Source: common practice, no source."""
_MONTH = pattern(r"\d{4}-(0[1-9]|1[0-2])")


def _asked(request: Request) -> Asked:
    """What the address asks for; what cannot be read asks for nothing."""
    query = request.query_params
    month, happened = query.get("month", ""), query.get("happened", "")
    return Asked(
        aircraft=whole(query.get("aircraft", "")) or 0,
        site=whole(query.get("field", "")) or 0,
        month=month if _MONTH.fullmatch(month) else "",
        happened=happened if happened in set(Happened) else "",
    )


@router.get("/logbook", name="logbook")
def show(request: Request, ctx: AppContextDep, page_number: int = 1, new: bool = False) -> Response:
    """Flights, newest first, and the rounds walked."""
    number = max(1, min(page_number, 100_000))
    asked, now = _asked(request), ctx.now()
    lines = logbook.lines(asked, PAGE + 1, (number - 1) * PAGE)
    count, minutes = logbook.totals(asked)
    fleet = {aircraft.id: aircraft.name for aircraft in hangar.everything(Aircraft)}
    sites = hangar.everything(Site)
    first = logbook.year_before(now)
    lately = logbook.since((now - timedelta(days=CURRENT_DAYS)).replace(minute=0, second=0, microsecond=0))
    kept = {"aircraft": asked.aircraft or "", "field": asked.site or "", "happened": asked.happened}
    return page(
        request,
        "logbook/page.html",
        ctx.settings(),
        lines=lines[:PAGE],
        more=len(lines) > PAGE,
        number=number,
        newer=number - 1,
        older=number + 1,
        zones={site.id: site.timezone for site in sites},
        count=count,
        hours=minutes / 60,
        asked=asked,
        narrowed=asked != Asked(),
        kept="&".join(f"{name}={value}" for name, value in kept.items() if value),
        kept_all="".join(f"&{name}={value}" for name, value in {**kept, "month": asked.month}.items() if value),
        year=drawings.logbook_year.draw_year(logbook.months(asked, first), first, fleet),
        fleet=[("", "Every aircraft"), *((str(number), name) for number, name in fleet.items())],
        fields=[("", "Every field"), *((str(site.id), site.name) for site in sites)],
        outcomes=[("", "Any outcome"), *((h.value, words) for h, words in HAPPENED_WORDS.items())],
        lately=lately,
        lately_flights=sum(flown for _, flown, _ in lately),
        current_days=CURRENT_DAYS,
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
