"""What is due: packs, season, papers; as a page and as a calendar."""

from datetime import date
from zoneinfo import ZoneInfo

from fastapi import Request
from starlette.responses import Response

from walkround.core.base.errors import PilotError
from walkround.core.base.later import Later
from walkround.core.field.site import Site
from walkround.core.pilot.dues import Due, Paper, pack_dues, paper_dues, season_dues
from walkround.store import box, hangar
from walkround.store import settings as store_settings
from walkround.web.app_context import AppContext, AppContextDep, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router

icalendar = Later("icalendar")

router = Router()
ROWS = 6
"""So many papers fit the form."""


def _today(ctx: AppContext) -> date:
    sites = hangar.everything(Site)
    return ctx.now().astimezone(ZoneInfo(sites[0].timezone) if sites else ctx.now().tzinfo).date()


def all_dues(ctx: AppContext) -> list[Due]:
    """Everything that is due, by day."""
    settings, today = ctx.settings(), _today(ctx)
    known = [
        (pack.id, pack.label, summary.looked_at, summary.full_at)
        for pack, summary in box.known_packs(ctx.now())
        if pack.usable and not pack.retired
    ]
    limits = settings.limits
    packs = pack_dues(known, full_days=limits.full_days, look_days=limits.look_days, today=today)
    found = [*season_dues(limits.season_days, today), *paper_dues(settings.papers), *packs]
    return sorted(found, key=lambda due: (due.day, due.title))


def _show(request: Request, ctx: AppContext, status: int = 200, **extra: object) -> Response:
    settings = ctx.settings()
    papers = [(paper.name, paper.expires.isoformat()) for paper in settings.papers]
    rows = [*papers, *[("", "")] * (ROWS - len(papers))]
    return page(
        request,
        "due/page.html",
        settings,
        status,
        dues=all_dues(ctx),
        today=_today(ctx),
        rows=list(enumerate(rows, 1)),
        **extra,
    )


@router.get("/due", name="due")
def show(request: Request, ctx: AppContextDep) -> Response:
    """The page."""
    return _show(request, ctx)


@router.post("/due/papers", name="save_papers")
def save_papers(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """Keep the papers with their last days."""
    typed, papers = Typed(form, ctx.settings().units), []
    for i in range(1, ROWS + 1):
        name, text = typed.text(f"name_{i}", "Paper", longest=60), typed.get(f"expires_{i}").strip()
        if not name and not text:
            continue
        if not name or not text:
            typed.errors[f"name_{i}"] = "Enter both: the paper and its last day."
            continue
        try:
            papers.append(Paper(name=name, expires=date.fromisoformat(text)))
        except ValueError:
            typed.errors[f"name_{i}"] = "Enter a day, for example 2027-03-31."
    try:
        typed.check()
        with ctx.book.write():
            store_settings.save(papers=[paper.model_dump(mode="json") for paper in papers])
    except PilotError as error:
        return _show(request, ctx, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "due", query="saved=1")


@router.get("/due.ics", name="due_calendar")
def as_calendar(ctx: AppContextDep) -> Response:
    """The same for a calendar. Source: RFC 5545, written by its library."""
    calendar = icalendar.Calendar()
    calendar.add("prodid", "-//Walk Round//due//EN")
    calendar.add("version", "2.0")
    for due in all_dues(ctx):
        event = icalendar.Event()
        event.add("uid", f"{due.uid}@walkround")
        event.add("dtstamp", ctx.now())
        event.add("dtstart", due.day)
        event.add("summary", due.title)
        event.add("description", due.words)
        event.add("transp", "TRANSPARENT")
        calendar.add_component(event)
    return Response(
        calendar.to_ical(),
        media_type="text/calendar; charset=utf-8",
        headers={"Content-Disposition": 'attachment; filename="walk-round-due.ics"'},
    )
