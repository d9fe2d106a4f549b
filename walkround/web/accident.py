"""Accident or near miss: what to do first, then the record, then who has to be told."""

from datetime import datetime
from zoneinfo import ZoneInfo

from fastapi import Request
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.emergency import emergency_card
from walkround.core.base.errors import InputError, PilotError
from walkround.core.base.wording import capital
from walkround.core.field.site import Site
from walkround.core.packs.lithium import NEVER_AGAIN
from walkround.core.pilot.accident import ACT_FIRST, PREVAILS, Occurrence, reports
from walkround.core.round.walk import parse_reason
from walkround.store import hangar, occurrences
from walkround.store.photos import Photo
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.choice import Choice
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router
from walkround.web.snags import photos_in

router = Router()


@router.get("/accident", name="accident")
def show(request: Request, ctx: AppContextDep) -> Response:
    """The page: act first."""
    return _show(request, ctx)


def _show(request: Request, ctx: AppContext, status: int = 200, **extra: object) -> Response:
    settings, choice = ctx.settings(), Choice(ctx, request.query_params)
    zone = ZoneInfo(choice.site.timezone) if choice.site else ctx.now().tzinfo
    return page(
        request,
        "accident/page.html",
        settings,
        status,
        first=ACT_FIRST,
        fire=NEVER_AGAIN,
        choice=choice,
        site=choice.site,
        card=emergency_card(choice.aircraft) if choice.aircraft else None,
        fleet=[(str(aircraft.id), aircraft.name) for aircraft in choice.fleet],
        sites=[(str(site.id), site.name) for site in choice.sites],
        kinds=[(kind.value, capital(kind.value)) for kind in Occurrence],
        at=ctx.now().astimezone(zone).strftime("%Y-%m-%dT%H:%M"),
        past=occurrences.everything()[:10],
        zones={site.id: site.timezone for site in choice.sites},
        **extra,
    )


@router.post("/accident", name="report_accident")
def report(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """Write it down."""
    typed, now = Typed(form, ctx.settings().units), ctx.now()
    try:
        kind = typed.choice("kind", "What it was", [kind.value for kind in Occurrence])
        aircraft_id, site_id = typed.whole("aircraft", "Aircraft"), typed.whole("site", "Field")
        what = typed.try_("what", lambda: parse_reason(typed.get("what"), "What happened", "what", needed=True), "")
        witnesses = typed.text("witnesses", "Who saw it", longest=300)
        none: list[Photo] = []
        photos = typed.try_("photo", lambda: photos_in(typed), none)
        typed.check()
        at = _moment(typed.get("at"), ZoneInfo(hangar.get(Site, site_id).timezone), now)
        with ctx.book.write():
            number = occurrences.keep(
                Occurrence(kind),
                aircraft_id=aircraft_id,
                site_id=site_id,
                at=at,
                what=what,
                witnesses=witnesses,
                photos=photos,
                now=now,
            )
    except PilotError as error:
        return _show(request, ctx, status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "accident_report", number=number)


def _moment(text: str, zone: ZoneInfo, now: datetime) -> datetime:
    """A typed local time. Raises InputError for one that cannot be read, or has not come yet."""
    try:
        at = datetime.fromisoformat(text).replace(tzinfo=zone)
    except ValueError:
        raise InputError("Enter day and time, for example 2026-05-16 10:20.", "at") from None
    if at > now:
        raise InputError("That time has not come yet.", "at")
    return at


@router.get("/accident/{number}", name="accident_report")
def one(request: Request, ctx: AppContextDep, number: Number) -> Response:
    """One report: what was written down, who has to be told by when."""
    return _one(request, ctx, number)


def _one(request: Request, ctx: AppContext, number: int, status: int = 200, **extra: object) -> Response:
    row, settings = occurrences.get(number), ctx.settings()
    site = hangar.get(Site, row.site_id) if row.site_id else None
    return page(
        request,
        "accident/report.html",
        settings,
        status,
        row=row,
        aircraft=hangar.get(Aircraft, row.aircraft_id),
        site=site,
        zone=site.timezone if site else "UTC",
        tell=reports(settings.region, Occurrence(row.kind)),
        kind=capital(row.kind),
        prevails=PREVAILS,
        grounded=Occurrence(row.kind) is not Occurrence.NEAR_MISS,
        photos=occurrences.photos_of(number),
        **extra,
    )


@router.post("/accident/{number}/photos", name="add_accident_photos")
def add_photos(request: Request, ctx: AppContextDep, form: SentForm, number: Number) -> Response:
    """Keep more photos of a report."""
    typed = Typed(form, ctx.settings().units)
    try:
        photos = photos_in(typed)
        if not photos:
            raise InputError("Choose a photo.", "photo")
        with ctx.book.write():
            occurrences.add_photos(number, photos, ctx.now())
    except PilotError as error:
        if not error.field:
            raise
        return _one(request, ctx, number, status_of(error), errors=error.by_field())
    return go(request, "accident_report", number=number)


@router.get("/accident/{number}/photos/{photo}.jpg", name="accident_photo")
def photo(number: Number, photo: Number) -> Response:
    """One photo of a report."""
    return Response(occurrences.photo(number, photo), media_type="image/jpeg")
