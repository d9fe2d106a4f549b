"""The check library: what is on today's list and why, what is not and why not, and the pilot's own changes to it."""

from collections.abc import Sequence
from typing import Any

from fastapi import Request
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft, For
from walkround.core.aircraft.traits import KIND_TRAITS, Kind, Trait
from walkround.core.answers.choice import AskChoice, Option
from walkround.core.answers.number import AskNumber
from walkround.core.base.errors import ConflictError, InputError, MissingError, PilotError
from walkround.core.base.plain import whole
from walkround.core.base.units import Measure
from walkround.core.base.wording import capital, listed
from walkround.core.checklist.check import STATION_TITLES, Check, Frequency, Occasion, Station
from walkround.core.checklist.custom import (
    CheckChange,
    CustomChecklist,
    add,
    change,
    checklist_of,
    move,
    set_back,
    stays,
)
from walkround.core.checklist.exchange import ListFile, list_file, text_of
from walkround.core.checklist.history import REPORTABLE, EventKind
from walkround.core.checklist.library import CHECKS
from walkround.core.checklist.own_checks import LONGEST_COUNT_S, TEXT_CHARS, TITLE_CHARS, custom_check, read_options
from walkround.core.round.situation import Situation
from walkround.core.round.why import Day
from walkround.store import hangar, rounds
from walkround.store import settings as store_settings
from walkround.store.exchange import read_file, take_list
from walkround.store.settings import Settings
from walkround.web.answers import PAGES
from walkround.web.app_context import AppContext, AppContextDep, SentForm
from walkround.web.choice import Choice, occasions_asked, situation_for
from walkround.web.errors import status_of
from walkround.web.forms import Typed, uploaded_text
from walkround.web.pages import download, go, page
from walkround.web.routes import Router

router = Router()
MAX_FILE_BYTES = 400_000
MEASURES = (
    Measure.COUNT, Measure.PERCENT, Measure.VOLT, Measure.MILLIMETRE, Measure.HEIGHT, Measure.MINUTE, Measure.DEGREE,
    Measure.TEMPERATURE,
)  # fmt: skip


class CheckRow:
    """One check of the library page: on today's list with its reason, or off it with its reason."""

    def __init__(self, check: Check, reason: str, today: bool, off: bool = False) -> None:
        self.id, self.title, self.reason, self.today = check.id, check.title, reason, today
        self.weight = "grounds" if check.grounds else "advisory"
        self.sign, self.sign_words = (
            ("clear", "Today") if today else ("skipped", "Off") if off else ("open", "Not today")
        )
        checklist = {"custom": ["yours"], "changed": ["changed by you"]}.get(check.origin, [])
        self.notes = [*checklist, "switched off"] if off else checklist


def rows_of(settings: Settings, day: Day | None) -> dict[Station, list[CheckRow]]:
    """Every check of the library and of the pilot's own by station, in the pilot's order, the switched-off ones last."""
    custom = settings.custom_checklist
    mine = checklist_of(custom if day is None else custom.of(day.situation.aircraft.id))
    found: dict[Station, list[CheckRow]] = {station: [] for station in Station}
    for check in mine.checks:
        if day is None:
            found[check.station].append(CheckRow(check, "", today=False))
            continue
        aircraft = day.situation.aircraft
        shown = check if check.origin == "changed" else check.worded(aircraft.kind, aircraft.features())
        why = day.why(check)
        reason = why if why is not None else day.absence(check)
        found[check.station].append(CheckRow(shown, reason.say(settings.units), today=why is not None))
    for changed, built_in in mine.changed:
        if changed.off:
            words = f"You switched it off: {changed.reason or 'no reason given'}."
            found[built_in.station].append(CheckRow(built_in, words, today=False, off=True))
    return found


def _library(request: Request, ctx: AppContext, status: int = 200, **extra: object) -> Response:
    settings = ctx.settings()
    choice = Choice(ctx, request.query_params)
    text = request.query_params.get("round", "")
    asked_round = whole(text) or 0
    if asked_round:
        # Asked from a walk: its own aircraft, pack, field, day and occasions.
        situation: Situation | None = rounds.load(asked_round, settings, ctx.now()).walk.situation
    else:
        situation = situation_for(
            ctx, settings, choice, occasions=occasions_asked(request.query_params), asked=request.query_params
        )
    rows = rows_of(settings, Day(situation) if situation else None)
    every = [row for group in rows.values() for row in group]
    return page(
        request,
        "checks/page.html",
        settings,
        status,
        choice=choice,
        situation=situation,
        round_id=asked_round,
        rows=[(STATION_TITLES[station][0], station, group) for station, group in rows.items()],
        total=len(every),
        today=sum(row.today for row in every),
        custom_checklist=settings.custom_checklist,
        **extra,
    )


@router.get("/checks", name="checks")
def show(request: Request, ctx: AppContextDep) -> Response:
    """The whole library for an aircraft today: why, and why not."""
    return _library(request, ctx)


@router.get("/checks/list.json", name="export_list")
def export(ctx: AppContextDep) -> Response:
    """The pilot's changes and checks as a file to share."""
    checklist = ctx.settings().custom_checklist
    return download(text_of(list_file(checklist)), "application/json", "my.list.json")


@router.post("/checks/list", name="import_list")
def take_over(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """Add somebody's list to one's own."""
    try:
        text = uploaded_text(form, "file", MAX_FILE_BYTES)
        if not text.strip():
            raise InputError("Choose a file.", "file")
        file = read_file(text, ListFile)
        with ctx.book.write():
            take_list(file)
    except PilotError as error:
        return _library(request, ctx, status_of(error), errors=error.by_field())
    return go(request, "checks", query="saved=1")


@router.post("/checks/built-in", name="all_set_back")
def all_back(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """Every built-in check as it was; the pilot's own checks stay."""
    with ctx.book.write():
        checklist = ctx.settings().custom_checklist
        store_settings.save(custom_checklist=CustomChecklist(revision=checklist.revision + 1, added=checklist.added))
    return go(request, "checks", query="saved=1")


@router.get("/checks/new", name="new_check")
def new(request: Request, ctx: AppContextDep, station: str = "") -> Response:
    """The form for a check of the pilot's own."""
    return _new(request, ctx, station)


def _new(request: Request, ctx: AppContext, station: str = "", status: int = 200, **extra: object) -> Response:
    return page(
        request,
        "checks/new.html",
        ctx.settings(),
        status,
        stations=[(s.value, STATION_TITLES[s][0]) for s in Station],
        station=station,
        cadences=[(c.value, capital(c.value)) for c in Frequency if c is not Frequency.EVENT],
        kinds=[("", "Every aircraft"), *((k.value, f"{capital(k.value)}s") for k in Kind)],
        traits=[("", "Nothing more"), *((t.value, capital(t.value)) for t in _traits())],
        measures=[
            ("", "A tick"),
            ("choice", "A choice"),
            ("timer", "A count"),
            *((m.value, f"A number: {m.value}") for m in MEASURES),
        ],
        fleet=hangar.everything(Aircraft),
        occasions=[("", "Any day"), *((o.value, capital(o.value)) for o in Occasion)],
        events=[("", "No event"), *((e.value, capital(e.value)) for e in REPORTABLE)],
        **extra,
    )


def _traits() -> list[Trait]:
    return sorted({t for traits in KIND_TRAITS.values() for t in traits}, key=lambda t: t.value)


@router.post("/checks", name="add_check")
def create(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """Add a check of the pilot's own."""
    settings = ctx.settings()
    typed = Typed(form, settings.units)
    try:
        values = _read_own(typed)
        with ctx.book.write():
            checklist = ctx.settings().custom_checklist
            store_settings.save(
                custom_checklist=add(checklist, lambda number: custom_check(number, **values), checklist.revision)
            )
    except PilotError as error:
        return _new(request, ctx, typed.get("station"), status_of(error), errors=error.by_field(), typed=typed.raw())
    return go(request, "checks", query=f"saved=1#{values['station']}")


def _read_own(typed: Typed) -> dict:  # type: ignore[type-arg]
    """What the form of a new check says. Raises FormErrors."""
    kind = typed.choice("kind", "Aircraft", ["", *(k.value for k in Kind)])
    trait = typed.choice("trait", "And it has", ["", *(t.value for t in _traits())])
    named = typed.choice("measure", "Answer type", ["", "choice", "timer", *(m.value for m in MEASURES)])
    measure = Measure(named) if named in {m.value for m in MEASURES} else None
    options: tuple[Option, ...] = ()
    if named == "choice":
        options = typed.try_("options", lambda: read_options(typed.get("options")), options)
    seconds = int(typed.needed("seconds", "Count", Measure.SECOND, 1, LONGEST_COUNT_S)) if named == "timer" else 0
    bounds = {}
    for name in ("low", "high"):
        label = "Lowest" if name == "low" else "Highest"
        bounds[name] = typed.number(name, label, measure, -1e4, 1e6, optional=True) if measure else None
    occasion = typed.choice("occasion", "Only on", ["", *(o.value for o in Occasion)])
    event = typed.choice("event", "Only after", ["", *(e.value for e in REPORTABLE)])
    values: dict[str, Any] = {
        "station": typed.choice("station", "Station", [s.value for s in Station]),
        "title": typed.text("title", "What to do", longest=TITLE_CHARS, needed=True),
        "how": typed.text("how", "How", longest=TEXT_CHARS),
        "why": typed.text("why", "Why", longest=TEXT_CHARS),
        "grounds": bool(typed.get("grounds")),
        "frequency": typed.choice("frequency", "How often", [c.value for c in Frequency]),
    }
    typed.check()
    applies = For(kinds=frozenset({Kind(kind)} if kind else ()), has=frozenset({Trait(trait)} if trait else ()))
    return {
        **values,
        "station": Station(values["station"]),
        "frequency": Frequency(values["frequency"]),
        "applies": applies,
        "measure": measure,
        "options": options,
        "seconds": seconds,
        "only_for": _only_for(typed),
        "occasion": Occasion(occasion) if occasion else None,
        "event": EventKind(event) if event else None,
        **bounds,
    }


def _only_for(typed: Typed) -> tuple[int, ...]:
    """The aircraft that were ticked, by their numbers; none means all."""
    known = {aircraft.id for aircraft in hangar.everything(Aircraft)}
    return tuple(sorted({n for text in typed.many("only_for") if (n := whole(text)) in known and n is not None}))


def _find(
    settings: Settings, check_id: str, aircraft: Aircraft | None = None
) -> tuple[Check, Check | None, CheckChange | None]:
    """A check as the pilot has it, its built-in form, and what was changed. Raises MissingError."""
    checklist = settings.custom_checklist if aircraft is None else settings.custom_checklist.of(aircraft.id)
    changed = next((c for c in checklist.changes if c.check_id == check_id), None)
    built_in = next((c for c in CHECKS if c.id == check_id), None)
    mine = next((c for c in checklist_of(checklist).checks if c.id == check_id), built_in)
    if mine is None:  # a check of the pilot's own that is for other aircraft
        mine = next((c for c in settings.custom_checklist.added if c.id == check_id), None)
    if mine is None:
        raise MissingError("There is no such check.")
    return mine, built_in, changed


def _one(request: Request, ctx: AppContext, check_id: str, status: int = 200, **extra: object) -> Response:
    settings = ctx.settings()
    choice = Choice(ctx, request.query_params)
    check, built_in, changed = _find(settings, check_id, choice.aircraft)
    situation = situation_for(ctx, settings, choice)
    why = why_not = None
    if situation is not None:
        day = Day(situation)
        why, why_not = day.why(check), day.why_not(check, changed)
    return page(
        request,
        "checks/check.html",
        settings,
        status,
        check=check,
        built_in=built_in,
        changed=changed,
        situation=situation,
        why=None if changed is not None and changed.off else why,
        why_not=why_not,
        options=check.ask.options if isinstance(check.ask, AskChoice) else (),
        number=check.ask if isinstance(check.ask, AskNumber) else None,
        kind=PAGES[check.ask.kind],
        station_title=STATION_TITLES[check.station][0],
        built_in_station=STATION_TITLES[(built_in or check).station][0],
        cadences=[(c.value, capital(c.value)) for c in Frequency],
        stations=[] if stays(check) else [(s.value, STATION_TITLES[s][0]) for s in Station],
        custom_checklist=settings.custom_checklist,
        fleet=choice.fleet,
        only_for=changed.only_for if changed is not None else check.only_for,
        acts=_acts(settings, check_id, choice.fleet),
        **extra,
    )


def _acts(settings: Settings, check_id: str, fleet: Sequence[Aircraft]) -> list[str]:
    """Whose changes there are, in words: for every aircraft, and for some."""
    names = {aircraft.id: aircraft.name for aircraft in fleet}
    scopes = [c.only_for for c in settings.custom_checklist.changes if c.check_id == check_id]
    return [
        listed([names.get(n, "a retired aircraft") for n in scope]) if scope else "every aircraft" for scope in scopes
    ]


@router.get("/checks/{check_id}", name="check")
def one(request: Request, ctx: AppContextDep, check_id: str) -> Response:
    """One check: all of it, why today or why not, and what can be changed."""
    return _one(request, ctx, check_id)


@router.post("/checks/{check_id}", name="change_check")
def alter(request: Request, ctx: AppContextDep, form: SentForm, check_id: str) -> Response:
    """Reword, move, make rarer, switch off, set back, as the button says."""
    settings = ctx.settings()
    typed = Typed(form, settings.units)
    check, _, _ = _find(settings, check_id)
    action = typed.get("action")
    seen = whole(typed.get("seen"))
    try:
        wanted = _read_change(typed, check_id) if action == "keep" else None
        with ctx.book.write():
            checklist = ctx.settings().custom_checklist
            if wanted is not None:
                after = change(checklist, wanted, -1 if seen is None else seen)
            elif action in ("up", "down"):
                after = move(checklist, check_id, -1 if action == "up" else 1, -1 if seen is None else seen)
            elif action == "back":
                after = set_back(checklist, check_id, -1 if seen is None else seen)
            else:
                raise InputError("Choose what to do with this check.")
            store_settings.save(custom_checklist=after)
    except ConflictError as error:
        raw = {k: v for k, v in typed.raw().items() if k != "seen"}
        return _one(request, ctx, check_id, 409, errors=error.by_field(), typed=raw)
    except PilotError as error:
        return _one(request, ctx, check_id, status_of(error), errors=error.by_field(), typed=typed.raw())
    if action == "back" and check.origin == "custom":
        return go(request, "checks", query="saved=1")
    return go(request, "check", query="saved=1", check_id=check_id)


def _read_change(typed: Typed, check_id: str) -> CheckChange:
    values = {
        "title": typed.text("title", "What to do", longest=TITLE_CHARS),
        "how": typed.text("how", "How", longest=TEXT_CHARS),
        "why": typed.text("why", "Why", longest=TEXT_CHARS),
        "reason": typed.text("reason", "Your reason", longest=300),
    }
    frequency = typed.choice("frequency", "How often", [c.value for c in Frequency])
    station = typed.choice("station", "Where", ["", *(s.value for s in Station)])
    typed.check()
    return typed.build(
        CheckChange,
        station=Station(station) if station else None,
        check_id=check_id,
        frequency=Frequency(frequency),
        off=bool(typed.get("off")),
        only_for=_only_for(typed),
        **values,
    )
