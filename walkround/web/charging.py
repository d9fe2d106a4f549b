"""The charging plan: which packs, how far, how fast; the charger; the drawn schedule."""

from datetime import datetime, time, timedelta
from zoneinfo import ZoneInfo

from fastapi import Request
from starlette.datastructures import FormData, QueryParams
from starlette.responses import Response

from walkround.core.base.errors import InputError, PilotError
from walkround.core.base.phrase import Phrase
from walkround.core.base.units import Measure
from walkround.core.packs.charging import ATTENDED, Charger, ChargeRequest, Schedule, plan_charging
from walkround.core.packs.lithium import why_not_charged
from walkround.core.packs.pack import Pack
from walkround.core.packs.summary import Summary
from walkround.store import box
from walkround.store import settings as store_settings
from walkround.store import snags as store_snags
from walkround.store.settings import Settings
from walkround.store.situation import home_zone
from walkround.web import drawings
from walkround.web.app_context import AppContext, AppContextDep, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import asks_fragment, go, page
from walkround.web.routes import Router
from walkround.web.stale import refuse_stale

router = Router()
MOST, SHOWN = 24, 24
START = time(8, 0)
UNKNOWN_PERCENT = 20.0
"""A pack of which nothing is known is planned from here: the plan is then rather too long. Source: our choice."""


def _start(asked: str, now: datetime, zone: str) -> datetime:
    """The start of the plan: a time of day, today if it is still to come, else tomorrow. Raises InputError."""
    local = now.astimezone(ZoneInfo(zone))
    try:
        clock = time.fromisoformat(asked) if asked else START
    except ValueError as error:
        raise InputError(f"Start: “{asked[:10]}” is not a time like 07:30.", "start") from error
    begin = datetime.combine(local.date(), clock, ZoneInfo(zone))
    return begin if begin > local - timedelta(minutes=5) else begin + timedelta(days=1)


Row = tuple[Pack, Summary, float | None]


def _rows(ctx: AppContext) -> tuple[list[Row], list[tuple[Pack, Phrase, str]]]:
    """Packs that may be charged, with the charge they are known to hold, the emptiest first; and those that may not be, why,
    and what to do with them."""
    now, down = ctx.now(), store_snags.grounded_packs()
    rows, refused = [], []
    for pack, known in box.known_packs(now):
        if not pack.usable or pack.id in down:
            continue
        against = why_not_charged(
            pack.chemistry, weakest_v=known.weakest_at_best_v, highest_v=known.highest_v, felt_c=known.felt_c(now)
        )
        if against is not None:
            refused.append((pack, *against))
            continue
        rows.append((pack, known, known.percent_now(pack, now)))
    return sorted(rows, key=lambda row: (row[2] if row[2] is not None else -1.0, row[0].label)), refused


def _requests(typed: Typed, rows: list[Row], chosen: set[str]) -> list[ChargeRequest]:
    requests = []
    for pack, known, held in rows:
        if str(pack.id) not in chosen:
            continue
        begin = typed.number(f"from-{pack.id}", f"{pack.label}, from", Measure.PERCENT, 0, 100, optional=True)
        end = typed.number(f"to-{pack.id}", f"{pack.label}, to", Measure.PERCENT, 0, 100, optional=True)
        rate = typed.number(f"rate-{pack.id}", f"{pack.label}, rate", Measure.RATIO, 0.1, 6, optional=True)
        begin = begin if begin is not None else held if held is not None else UNKNOWN_PERCENT
        end = 100.0 if end is None else end
        if end <= begin:
            typed.errors.setdefault(
                f"to-{pack.id}", f"{pack.label} is at {begin:.0f} %: choose a higher target, or leave it out."
            )
            continue
        fresh = held is not None and abs(begin - held) < 1
        requests.append(
            ChargeRequest(
                pack=pack,
                from_percent=begin,
                to_percent=end,
                rate_c=rate or 1.0,
                rest_v=known.weakest_v if fresh and known.charge_at == known.looked_at else None,
            )
        )
    return requests


@router.get("/packs/charging", name="charging")
def show(request: Request, ctx: AppContextDep) -> Response:
    """The plan as asked for; what is not filled in is taken from what is known."""
    return _show(request, ctx, ctx.settings(), request.query_params)


def _show(
    request: Request,
    ctx: AppContext,
    settings: Settings,
    query: QueryParams | FormData,
    status: int = 200,
    **extra: object,
) -> Response:
    rows, refused = _rows(ctx)
    typed = Typed(query, settings.units)  # type: ignore[arg-type]
    picked = set(typed.many("pack"))
    if not query.get("asked"):
        picked = {str(p.id) for p, _, held in rows if held is None or held < 90}
        picked = picked if len(picked) <= MOST else {str(p.id) for p, _, _ in rows[:MOST]}
    elif len(picked) > MOST:
        typed.errors[""] = f"Plan at most {MOST} packs at once. You chose {len(picked)}."
        picked = set()
    zone, plan = home_zone(), None
    begin = typed.try_("start", lambda: _start(typed.get("start"), ctx.now(), zone), _start("", ctx.now(), zone))
    requests = _requests(typed, rows, picked)
    if requests and not typed.errors:
        plan = plan_charging(requests, settings.charger)
    errors = typed.errors | dict(extra.pop("errors", {}))  # type: ignore[call-overload]
    context: dict[str, object] = {
        "rows": [row for i, row in enumerate(rows) if i < SHOWN or str(row[0].id) in picked],
        "unseen": sum(i >= SHOWN and str(row[0].id) not in picked for i, row in enumerate(rows)),
        "picked": picked,
        "refused": refused,
        "plan": plan,
        "begin": begin,
        "zone": zone,
        "ready": begin + timedelta(minutes=plan.ready_min) if plan else None,
        "drawn": drawings.schedule.draw_schedule(plan, settings.charger, begin, zone) if plan else None,
        "slow": _slow(plan, settings.charger) if plan else (),
        "attended": ATTENDED,
        "charger": settings.charger,
        "errors": errors,
        "typed": typed.raw() | dict(extra.pop("typed", {})),  # type: ignore[call-overload]
    }
    name = "charging/_main.html" if asks_fragment(request) else "charging/page.html"
    return page(request, name, settings, 422 if errors and status == 200 else status, **context, **extra)


def _slow(plan: Schedule, charger: Charger) -> tuple[str, ...]:
    """Jobs that the charger, not the rate, holds back."""
    words = []
    for slot in plan.slots:
        wanted = sum(ask.rate_c * ask.pack.capacity_mah / 1000 for ask in slot.job.requests)
        if slot.job.current_a < wanted * 0.97:
            words.append(f"{slot.job.labels} would take {wanted:.1f} A; the charger gives {slot.job.current_a:.1f} A.")
    return tuple(words)


@router.post("/packs/charger", name="save_charger")
def save(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """Describe the charger."""
    settings = ctx.settings()
    typed = Typed(form, settings.units)
    try:
        charger = typed.build(
            Charger,
            name=typed.text("name", "Name", longest=40),
            channels=int(typed.needed("channels", "Outlets", Measure.COUNT, 1, 8)),
            channel_a=typed.needed("channel_a", "Current per channel in A", Measure.RATIO, 0.1, 60),
            channel_w=typed.needed("channel_w", "Power per channel in W", Measure.COUNT, 1, 3000),
            total_w=typed.needed("total_w", "Total power in W", Measure.COUNT, 1, 6000),
            parallel=int(typed.needed("parallel", "Packs on a parallel board", Measure.COUNT, 1, 8)),
        )
        with ctx.book.write():
            now = ctx.settings().charger
            refuse_stale(typed, now, charger, "charger")
            store_settings.save(charger=charger)
    except PilotError as error:
        return _show(
            request, ctx, settings, QueryParams(), status_of(error), errors=error.by_field(), typed=typed.raw()
        )
    return go(request, "charging", query="saved=1")
