"""The rotor map on the pages."""

from typing import Any

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.propeller_check import RotorSeen
from walkround.core.aircraft.rotors import Rotation, rotor_layout
from walkround.core.answers.kind import Answer
from walkround.core.answers.rotors import AskRotors, RotorsSeen
from walkround.core.round.walk import CheckState
from walkround.store.rounds import OpenRound
from walkround.web import drawings
from walkround.web.answers.kind import AnswerPage, Sent
from walkround.web.forms import Typed


def _spin(text: str) -> Rotation | None:
    return Rotation(text) if text in set(Rotation) else None


def _seen(ask: AskRotors, loaded: OpenRound, typed: Typed) -> tuple[RotorSeen, ...]:
    """What was tapped at each rotor; with "the rest as drawn" what was not tapped is as the drawing has it."""
    rest = typed.get("action") == "shown"
    seen = []
    for rotor in rotor_layout(loaded.walk.situation.aircraft):
        drawn = rotor.spin if rest else None
        if ask.look == "motors":
            seen.append(RotorSeen(number=rotor.number, spin=_spin(typed.get(f"spin-{rotor.number}")) or drawn))
            continue
        edge = typed.get(f"edge-{rotor.number}")
        rotation = _spin(typed.get(f"rotation-{rotor.number}")) or drawn
        seen.append(
            RotorSeen(
                number=rotor.number,
                rotation=rotation,
                edge_leads={"thick": True, "thin": False}.get(edge, True if rest else None),
            )
        )
    return tuple(seen)


def _read(sent: Sent) -> tuple[Answer, str]:
    assert isinstance(sent.ask, AskRotors)
    return RotorsSeen(seen=_seen(sent.ask, sent.loaded, sent.typed)), "pilot"


def _shown(loaded: OpenRound, state: CheckState) -> dict[str, Any]:
    return {"rotor_map": drawings.rotors.rotor_map(loaded.walk.situation.aircraft)}


def _scene(aircraft: Aircraft, middle: tuple[float, float], half_width: float, half_height: float) -> dict[str, Any]:
    """The rotors of the large drawing, to be tapped there."""
    return {"big_rotors": drawings.rotors.rotors_on(aircraft, middle, half_width, half_height)}


PAGE = AnswerPage(
    "rotors", "the rotor map", _read, button=lambda ask: "All match the drawing", rest="The rest match the drawing", action="shown",
    first=True, near_thumb=True, advances=True, judged_as_tapped=True, shown=_shown, scene=_scene,
)  # fmt: skip
