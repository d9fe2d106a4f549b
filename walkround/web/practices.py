"""Practices: the schools a pilot can follow, and what each would change for an aircraft today."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from walkround.core.base.errors import PilotError
from walkround.core.pilot.methods import PRACTICES, Practices, PracticeTopic
from walkround.core.round.practices import Effect, every_effect
from walkround.store import settings as store_settings
from walkround.web.choice import Choice, situation_for
from walkround.web.desk import AtDesk, Desk, Sent
from walkround.web.errors import status_of
from walkround.web.forms import Typed
from walkround.web.pages import go, page

router = APIRouter()


def _show(request: Request, desk: Desk, status: int = 200, **extra: object) -> Response:
    settings = desk.settings()
    choice = Choice(desk, request.query_params)
    situation = situation_for(desk, settings, choice)
    effects: dict[PracticeTopic, tuple[Effect, ...]] = every_effect(situation) if situation else {}
    return page(
        request,
        "practices/page.html",
        settings,
        status,
        choice=choice,
        topics=[(topic, PRACTICES[topic][0], PRACTICES[topic][1], effects.get(topic, ())) for topic in PracticeTopic],
        **extra,
    )


@router.get("/practices", name="practices")
def show(request: Request, desk: AtDesk) -> Response:
    """All topics with their schools, and what would change."""
    return _show(request, desk)


@router.post("/practices", name="follow_school")
def follow(request: Request, desk: AtDesk, form: Sent) -> Response:
    """Follow another school of one topic."""
    settings = desk.settings()
    typed = Typed(form, settings.units)
    topic = typed.choice("topic", "Topic", [t.value for t in PracticeTopic])
    schools = [s.id for s in PRACTICES[PracticeTopic(topic)][1]] if topic in set(PracticeTopic) else []
    school = typed.choice("school", "School", schools)
    try:
        with desk.book.write():
            practices = typed.build(Practices, **(desk.settings().practices.model_dump() | {topic: school}))
            store_settings.save(practices=practices)
    except PilotError as error:
        return _show(request, desk, status_of(error), errors=error.by_field())
    aircraft = typed.get("aircraft")
    query = f"aircraft={aircraft}&saved=1" if aircraft.isdecimal() else "saved=1"
    return go(request, "practices", query=f"{query}#{topic}")
