"""Control directions on the pages, stick by stick."""

from typing import Any

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.control_directions import SHOWN, StickSeen, stick_tests
from walkround.core.answers.control_directions import ControlDirectionsSeen
from walkround.core.answers.kind import Answer
from walkround.core.round.walk import CheckState
from walkround.store.rounds import OpenRound
from walkround.web import drawings
from walkround.web.answers.kind import AnswerPage, Sent
from walkround.web.forms import Typed


def _seen(loaded: OpenRound, typed: Typed) -> tuple[StickSeen, ...]:
    """What was said for each stick movement; one not said is not there, unless the rest is as shown."""
    rest = SHOWN if typed.get("action") == "shown" else ""
    given = [
        (c.stick, typed.get(f"move-{c.stick.name.lower()}") or rest)
        for c in stick_tests(loaded.walk.situation.aircraft)
    ]
    return tuple(StickSeen(stick=stick, result=result) for stick, result in given if result)


def _read(sent: Sent) -> tuple[Answer, str]:
    return ControlDirectionsSeen(seen=_seen(sent.loaded, sent.typed)), "pilot"


def _shown(loaded: OpenRound, state: CheckState) -> dict[str, Any]:
    return {"stick_tests": drawings.control_directions.draw_stick_tests(loaded.walk.situation.aircraft)}


def _scene(aircraft: Aircraft, middle: tuple[float, float], half_width: float, half_height: float) -> dict[str, Any]:
    """Every stick large, beside the panel."""
    return {"big_stick_tests": drawings.control_directions.draw_stick_tests(aircraft)}


PAGE = AnswerPage(
    "control_directions", "the sticks, one after the other", _read, button=lambda ask: "All as shown",
    rest="The rest as shown", action="shown", first=True, near_thumb=True, advances=True, judged_as_tapped=True,
    shown=_shown, scene=_scene,
)  # fmt: skip
