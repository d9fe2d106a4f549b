"""On paper: the field card of a round, the blank list of an aircraft, and entering a pencilled card afterwards."""

from fastapi import Request
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.emergency import emergency_card
from walkround.core.answers.kind import Answer
from walkround.core.answers.ways_out import Fault, Skipped
from walkround.core.base.errors import PilotError
from walkround.core.checklist.check import STATION_TITLES, Check, Station
from walkround.core.checklist.custom import belonging
from walkround.core.round.walk import CheckState, parse_reason
from walkround.store import hangar, rounds
from walkround.store.rounds import OpenRound
from walkround.store.settings import Settings
from walkround.web import drawings
from walkround.web.answers import PAGES, page_of
from walkround.web.answers.kind import CardRow
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.errors import status_of
from walkround.web.forms import FormErrors, Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router
from walkround.web.security import LOOPBACK, host_name

router = Router()
PAPERS = ("A4", "A5")


def phone_address(request: Request, route: str, **params: object) -> str:
    """The address under which a phone on the same network finds a page, or "" when this book is not open to it."""
    if request.app.state.passphrase is None:
        return ""
    host = request.url.netloc
    if host_name(host) in LOOPBACK:
        if not request.app.state.network_host:
            return ""
        host = f"{request.app.state.network_host}:{request.url.port or 80}"
    return f"{request.url.scheme}://{host}{request.app.url_path_for(route, **params)}"


def density(rows: int) -> str:
    """How small the rows must be written so that they fit on one sheet."""
    return "roomy" if rows <= 85 else "full" if rows <= 112 else "dense"


@router.get("/rounds/{round_id}/card", name="card")
def card(request: Request, ctx: AppContextDep, round_id: Number, paper: str = "A4") -> Response:
    """Today's round on one sheet, to be ticked with a pencil."""
    settings = ctx.settings()
    loaded = rounds.load(round_id, settings, ctx.now())
    address = phone_address(request, "walk", round_id=round_id)
    stations = [
        (STATION_TITLES[station][0], [(s.planned.check, s) for s in loaded.walk.at(station)]) for station in Station
    ]
    return page(
        request,
        "cards/card.html",
        settings,
        round=loaded,
        situation=loaded.walk.situation,
        aircraft=loaded.walk.situation.aircraft,
        stations=[(title, checks) for title, checks in stations if checks],
        gates=loaded.walk.plan.gates,
        left_out=[check.title for check in loaded.walk.plan.shorter_by],
        density=density(len(loaded.walk.states)),
        code=drawings.qr_code.qr_code(address) if address else None,
        paper=paper if paper in PAPERS else "A4",
        picture=drawings.aircraft.place(loaded.walk.situation.aircraft, (130, 92), 118, 82),
        emergency=emergency_card(loaded.walk.situation.aircraft),
        figures=drawings.sticks.draw_stops(loaded.walk.situation.aircraft.failsafe, settings.stick_mode),
    )


@router.get("/hangar/aircraft/{aircraft_id}/card", name="master_card")
def master(request: Request, ctx: AppContextDep, aircraft_id: Number, paper: str = "A4") -> Response:
    """The blank master list of an aircraft: everything that can ever come up for it, by station."""
    settings = ctx.settings()
    aircraft = hangar.get(Aircraft, aircraft_id)
    stations: list[tuple[str, list[tuple[Check, None]]]] = []
    for station in Station:
        checks = [c for c in belonging(settings.custom_checklist, aircraft) if c.station is station]
        stations.append((STATION_TITLES[station][0], [(check, None) for check in checks]))
    return page(
        request,
        "cards/card.html",
        settings,
        round=None,
        situation=None,
        aircraft=aircraft,
        stations=[(title, checks) for title, checks in stations if checks],
        gates=(),
        left_out=(),
        density=density(sum(len(checks) for _, checks in stations)),
        code=None,
        paper=paper if paper in PAPERS else "A4",
        picture=drawings.aircraft.place(aircraft, (130, 92), 118, 82),
        emergency=emergency_card(aircraft),
        figures=drawings.sticks.draw_stops(aircraft.failsafe, settings.stick_mode),
    )


def enterable(loaded: OpenRound) -> list[CheckState]:
    """The open checks that a pencilled card can answer, in walking order."""
    return [s for s in loaded.walk.states if s.evidence is None and loaded.takes(s) and page_of(s).row is not None]


def _entry(
    request: Request,
    ctx: AppContext,
    settings: Settings,
    loaded: OpenRound,
    station: str,
    status: int = 200,
    **extra: object,
) -> Response:
    states = [s for s in enterable(loaded) if not station or s.planned.check.station == station]
    groups = [(STATION_TITLES[st][0], [s for s in states if s.planned.check.station is st]) for st in Station]
    drawn = [s for s in loaded.walk.states if s.evidence is None and loaded.takes(s)]
    return page(
        request,
        "cards/entry.html",
        settings,
        status,
        round=loaded,
        situation=loaded.walk.situation,
        kinds=PAGES,
        groups=[(title, group) for title, group in groups if group],
        station=station,
        elsewhere=[s for s in drawn if page_of(s).row is None],
        **extra,
    )


@router.get("/rounds/{round_id}/entry", name="entry")
def entry(request: Request, ctx: AppContextDep, round_id: Number, station: str = "") -> Response:
    """The open checks in short rows, to enter a pencilled card, or to audit what was walked from memory."""
    settings = ctx.settings()
    return _entry(request, ctx, settings, rounds.load(round_id, settings, ctx.now()), station)


@router.post("/rounds/{round_id}/entry", name="save_entry")
def save(request: Request, ctx: AppContextDep, form: SentForm, round_id: Number) -> Response:
    """Keep every row that was filled in; with one mistake nothing is kept and all mistakes are shown."""
    settings = ctx.settings()
    typed = Typed(form, settings.units)
    loaded = rounds.load(round_id, settings, ctx.now())
    try:
        with ctx.book.write():
            keep_rows(ctx, settings, loaded, typed)
    except PilotError as error:
        return _entry(
            request, ctx, settings, loaded, typed.get("station"), status_of(error), errors=error.by_field(),
            typed=typed.raw(),
        )  # fmt: skip
    return go(request, "walk", round_id=round_id)


def keep_rows(ctx: AppContext, settings: Settings, loaded: OpenRound, typed: Typed) -> None:
    """Keep the rows that were filled in, in walking order, gates holding as on the walk; in the caller's transaction.

    Raises FormErrors with one mistake a row, so that the transaction keeps none of them.
    """
    errors: dict[str, str] = {}
    after, filled = loaded, False
    for state in enterable(loaded):
        check_id = state.planned.check.id
        try:
            given = _row(state, loaded.walk.situation.aircraft, settings, typed)
            if given is None:
                continue
            filled = True
            after = rounds.answer(
                loaded.id, check_id, given, at=ctx.now(), settings=settings, seen=0, by="card", loaded=after
            )
        except PilotError as error:
            errors[check_id] = error.message
    if not filled and not errors:
        errors[""] = "Fill in at least one row."
    if errors:
        raise FormErrors(errors)


def _row(state: CheckState, aircraft: Aircraft, settings: Settings, typed: Typed) -> Answer | None:
    """The answer of one row, or None when it is blank. Raises InputError."""
    check = state.planned.check
    said, text = typed.get(f"say-{check.id}"), typed.get(f"text-{check.id}")
    note = parse_reason(text, "The note", check.id, needed=said == "skip")
    if said == "fault":
        return Fault(note=note)
    if said == "skip":
        return Skipped(reason=note)
    row = page_of(state).row
    number = typed.get(f"number-{check.id}").strip()
    return None if row is None else row(CardRow(check.ask, check.id, said, note, number, settings.units, aircraft))
