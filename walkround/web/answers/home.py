"""The home point on the pages: a tap, or its place measured."""

from typing import Any

from walkround.core.aircraft.how_it_works import HomeSet, home_set
from walkround.core.answers.home import MOST_OFF_M, HomeSeen
from walkround.core.answers.kind import Answer
from walkround.core.base.errors import InputError
from walkround.core.base.geodesy import course, from_plane, parse_position
from walkround.core.base.units import Measure
from walkround.core.round.context import Context
from walkround.core.round.evidence import current
from walkround.core.round.in_air import ROSE
from walkround.core.round.walk import CheckState
from walkround.store.rounds import OpenRound
from walkround.web import drawings
from walkround.web.answers.kind import AnswerPage, CardRow, Sent


def _read(sent: Sent) -> tuple[Answer, str]:
    typed, site = sent.typed, sent.situation.site
    option = typed.get("option") or ("here" if typed.get("offset") or typed.get("position").strip() else "")
    if not option:
        raise InputError("Choose one of the answers.", "option")
    offset = typed.number("offset", "Distance", Measure.HEIGHT, 0, MOST_OFF_M, optional=True)
    toward = typed.number("toward", "Direction", Measure.DEGREE, 0, 360, optional=True)
    place = (
        typed.try_("position", lambda: parse_position(typed.get("position")), None)
        if typed.get("position").strip()
        else None
    )
    typed.check()
    if place is not None and offset is None:
        offset, toward = course(from_plane(site.position, site.launch.xy), place)
        offset, toward = round(offset, 1), round(toward, 1)
    return typed.build(HomeSeen, option=option, offset_m=offset, toward_deg=toward, position=place), "pilot"


def _shown(loaded: OpenRound, state: CheckState) -> dict[str, Any]:
    """The landing drawn, once it was answered; directions to choose from."""
    sets = home_set(loaded.walk.situation.aircraft.features())
    found: dict[str, Any] = {"towards": ROSE, "sets": "" if sets is HomeSet.AT_FIX else sets.value}
    piece = state.evidence
    if piece is None or not isinstance(piece.answer, HomeSeen):
        return found
    context = Context(loaded.walk.situation, current(loaded.evidence))
    found["landing"] = drawings.landing.draw_landing(
        context.situation.site,
        context.landing_spread.radius_m,
        context.paced_clear_m,
        piece.answer.offset_m,
        piece.answer.toward_deg,
    )
    return found


def _row(row: CardRow) -> Answer | None:
    return HomeSeen(option=row.said) if row.said else None


PAGE = AnswerPage(
    "home", "one of a few answers", _read, advances=True, row=_row, shown=_shown, seen="rounds/answers/home_seen.html"
)
