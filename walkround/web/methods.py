"""Methods: the methods a pilot can follow, and what each would change for an aircraft today."""

from fastapi import Request
from starlette.responses import Response

from walkround.core.base.errors import PilotError
from walkround.core.pilot.methods import METHODS, ChosenMethods, MethodTopic
from walkround.core.round.method_effects import MethodEffect, every_effect
from walkround.store import settings as store_settings
from walkround.web.app_context import AppContext, AppContextDep, SentForm
from walkround.web.choice import Choice, situation_for
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page
from walkround.web.routes import Router

router = Router()


def _show(request: Request, ctx: AppContext, status: int = 200, **extra: object) -> Response:
    settings = ctx.settings()
    choice = Choice(ctx, request.query_params)
    situation = situation_for(ctx, settings, choice)
    effects: dict[MethodTopic, tuple[MethodEffect, ...]] = every_effect(situation) if situation else {}
    return page(
        request,
        "methods/page.html",
        settings,
        status,
        choice=choice,
        topics=[(topic, METHODS[topic][0], METHODS[topic][1], effects.get(topic, ())) for topic in MethodTopic],
        **extra,
    )


@router.get("/methods", name="methods")
def show(request: Request, ctx: AppContextDep) -> Response:
    """All topics with their methods, and what would change."""
    return _show(request, ctx)


@router.post("/methods", name="follow_method")
def follow(request: Request, ctx: AppContextDep, form: SentForm) -> Response:
    """Follow another method of one topic."""
    settings = ctx.settings()
    typed = Typed(form, settings.units)
    topic = typed.choice("topic", "Topic", [t.value for t in MethodTopic])
    known = [s.id for s in METHODS[MethodTopic(topic)][1]] if topic in set(MethodTopic) else []
    method = typed.choice("method", "Method", known)
    try:
        with ctx.book.write():
            methods = typed.build(ChosenMethods, **(ctx.settings().methods.model_dump() | {topic: method}))
            store_settings.save(methods=methods)
    except PilotError as error:
        return _show(request, ctx, status_of(error), errors=error.by_field())
    aircraft = typed.get("aircraft")
    query = f"aircraft={aircraft}&saved=1" if aircraft.isdecimal() else "saved=1"
    return go(request, "methods", query=f"{query}#{topic}")
