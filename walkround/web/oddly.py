"""It behaved oddly: what it did, what may be behind it by what is on record, and the test that decides."""

from fastapi import Request
from starlette.responses import Response

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.errors import InputError, PilotError
from walkround.core.checklist.history import DECIDES, SnagOn
from walkround.core.checklist.library import CHECKS
from walkround.core.diagnosis.facts import check_for, facts_of, snag_title
from walkround.core.diagnosis.ranking import cheapest_first, rank, two_changes
from walkround.core.diagnosis.symptoms import Cause, Facts, Symptom
from walkround.core.inspection.aspects import Aspect
from walkround.core.inspection.touched import touched_parts
from walkround.store import hangar, part_ages, snags
from walkround.store.settings import Settings
from walkround.web.app_context import AppContext, AppContextDep, Number, SentForm
from walkround.web.choice import aircraft_context
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router

router = Router()
TITLES = {check.id: check.title for check in CHECKS}


def _facts(ctx: AppContext, settings: Settings, aircraft: Aircraft) -> Facts | None:
    """What is on record; None without a pack or a field."""
    context = aircraft_context(ctx, settings, aircraft.id)
    if context is None:
        return None
    motors = [part for part in touched_parts(aircraft) if part.aspect is Aspect.BELL]
    hours = [age.minutes / 60 for age in part_ages.ages(aircraft, motors, ctx.now()).values()]
    return facts_of(context, hours, snags.fixes(aircraft.id))


def _asked(names: list[str]) -> list[Symptom]:
    return [symptom for symptom in Symptom if symptom.name in names]


def _belonging(aircraft: Aircraft) -> set[str]:
    """The checks (ids) that this aircraft can have."""
    return {check.id for check in CHECKS if check.applies.fits(aircraft)}


def _show(
    request: Request, ctx: AppContext, aircraft: Aircraft, symptoms: list[Symptom], status: int = 200, **extra: object
) -> Response:
    settings = ctx.settings()
    facts = _facts(ctx, settings, aircraft)
    found = rank(symptoms, facts) if symptoms and facts is not None else ()
    belonging = _belonging(aircraft)
    order = [one.cause for one in cheapest_first(found)]
    return page(
        request, "oddly/page.html", settings, status,
        aircraft=aircraft, kinds=list(Symptom), symptoms=symptoms, known=facts is not None,
        found=[(one, TITLES.get(check_for(one, belonging), ""), order.index(one.cause) + 1) for one in found],
        changes=two_changes(facts) if facts is not None and symptoms else "",
        open_now=[snag for snag in snags.open_ones(aircraft.id) if snag.decided_by],
        **extra,
    )  # fmt: skip


@router.get("/hangar/aircraft/{aircraft_id}/oddly", name="oddly")
def show(request: Request, ctx: AppContextDep, aircraft_id: Number) -> Response:
    """The symptoms, and what comes of those that are ticked."""
    return _show(request, ctx, hangar.get(Aircraft, aircraft_id), _asked(request.query_params.getlist("symptom")))


@router.post("/hangar/aircraft/{aircraft_id}/oddly", name="wait_for_test")
def wait_for_test(request: Request, ctx: AppContextDep, form: SentForm, aircraft_id: Number) -> Response:
    """Put a cause on record: its test is on the next list, and passing it closes the snag."""
    typed, aircraft = Typed(form, ctx.settings().units), hangar.get(Aircraft, aircraft_id)
    symptoms = _asked(typed.many("symptom"))
    named = typed.choice("cause", "Cause", [cause.name for cause in Cause])
    try:
        typed.check()
        if not symptoms:
            raise InputError("Tick what it did.", "symptom")
        facts = _facts(ctx, ctx.settings(), aircraft)
        one = next((r for r in rank(symptoms, facts) if r.cause is Cause[named]), None) if facts is not None else None
        if one is None:
            raise InputError("That cause does not fit what it did.", "cause")
        check, title = check_for(one, _belonging(aircraft)), snag_title(symptoms, one)
        with ctx.book.write():
            if not any(snag.title == title for snag in snags.open_ones(aircraft.id)):
                # Where no check decides, it is an ordinary snag, closed by what was done.
                snags.open_one(
                    SnagOn.AIRCRAFT,
                    aircraft.id,
                    title,
                    grounds=one.test.grounds and not check,
                    at=ctx.now(),
                    check_id=f"{DECIDES}{check}" if check else "",
                )
    except PilotError as error:
        return _show(request, ctx, aircraft, symptoms, status_of(error), errors=error.by_field(), typed=typed.raw())
    query = "&".join(["saved=1", *(f"symptom={symptom.name}" for symptom in symptoms)])
    return go(request, "oddly", query=query, aircraft_id=aircraft_id)
