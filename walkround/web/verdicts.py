"""The verdict sheet: what grounds, what to mind, what is closest to biting; sign it, print it, export it."""

from fastapi import Request
from starlette.responses import Response

from walkround.core.base.errors import PilotError
from walkround.core.checklist.check import STATION_TITLES, Phase, Station
from walkround.core.packs.pack import Pack
from walkround.core.round.in_air import countdown_s
from walkround.store import box, flights, records, rounds
from walkround.store import settings as store_settings
from walkround.store.rounds import OpenRound
from walkround.store.settings import Settings
from walkround.web import drawings
from walkround.web.app_context import AppContextDep, Number, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router

router = Router()


def _titles(loaded: OpenRound) -> dict[str, str]:
    return {s.planned.check.id: s.planned.check.title for s in loaded.walk.states}


def _next_pack(loaded: OpenRound) -> Pack | None:
    """Another pack that may fly now, the next in order; None where there is none."""
    situation = loaded.walk.situation
    turns = box.flying_order(situation.aircraft, situation.now)
    return next((turn.pack for turn in turns if turn.charged and turn.pack.id != situation.pack.id), None)


def _sheet(request: Request, settings: Settings, loaded: OpenRound, status: int = 200, **extra: object) -> Response:
    record = loaded.record
    sha = records.record_text(loaded.id)[1] if loaded.signed else ""
    walk = loaded.walk
    if record is not None and record.units is not None:
        settings = settings.model_copy(update={"units": record.units})
    context = {
        "round": loaded,
        "walk": walk,
        "situation": walk.situation,
        "record": record,
        "sha": sha,
        "verdict": walk.verdict,
        "titles": _titles(loaded),
        "next_pack": _next_pack(loaded) if record is None and walk.verdict.grounds else None,
        "of_pack": {s.planned.check.id for s in walk.at(Station.PACK)},
        "later": walk.situation.history.rounds_today > 0,
        "open_states": [s for s in walk.before() if s.evidence is None],
        "skipped": [s for s in walk.before() if s.skipped],
        "stations": [(STATION_TITLES[s][0], walk.at(s)) for s in Station],
        "simulated": sum(s.evidence is not None and s.evidence.simulated for s in walk.states),
        "flight": flights.of_round(loaded.id),
        "countdown": countdown_s(walk.situation.aircraft, walk.situation.methods.launch),
        "addendum": [s for s in walk.states if s.planned.check.phase is not Phase.BEFORE and s.evidence is not None],
        "picture": drawings.aircraft.place(walk.situation.aircraft, (130, 92), 118, 82),
    }
    return page(request, "verdicts/page.html", settings, status, **{**context, **extra})


@router.get("/rounds/{round_id}/verdict", name="verdict")
def show(request: Request, ctx: AppContextDep, round_id: Number) -> Response:
    """The sheet as it stands, or as it was signed, in the units it was signed in."""
    settings = ctx.settings()
    return _sheet(request, settings, rounds.load(round_id, settings, ctx.now()))


@router.post("/rounds/{round_id}/sign", name="sign")
def sign(request: Request, ctx: AppContextDep, form: SentForm, round_id: Number) -> Response:
    """Sign and freeze; a second tap finds it signed already."""
    settings = ctx.settings()
    typed = Typed(form, settings.units)
    try:
        with ctx.book.write():
            rounds.sign(round_id, typed.get("signed_by"), at=ctx.now(), settings=settings)
            if not settings.pilot:
                store_settings.save(pilot=" ".join(typed.get("signed_by").split())[:60])
    except PilotError as error:
        loaded = rounds.load(round_id, settings, ctx.now())
        return _sheet(
            request,
            settings,
            loaded,
            status_of(error),
            errors=error.by_field(),
            typed=typed.raw(),
        )
    return go(request, "verdict", round_id=round_id)


@router.get("/rounds/{round_id}/record.json", name="record_json")
def record_json(round_id: Number) -> Response:
    """The frozen record, exactly the text whose hash was kept."""
    text, sha = records.record_text(round_id)
    return Response(
        text,
        media_type="application/json",
        headers={
            "Content-Disposition": f'attachment; filename="walk-round-{round_id}.json"',
            "X-Content-SHA256": sha,
        },
    )
