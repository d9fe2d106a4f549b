"""What the answers to the checks of the failsafe stand for, and which answer an action is."""

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.failsafe import Action
from walkround.core.aircraft.traits import Trait

ANSWERS: dict[str, dict[Action, str]] = {
    "link.lost_action": {
        Action.RETURN: "return", Action.HOVER: "hover", Action.LAND: "land", Action.STOP: "drop", Action.HOLD: "hold",
    },
    "link.lost_action_wing": {
        Action.RETURN: "home", Action.LOITER: "home", Action.CIRCLE: "circle", Action.GLIDE: "glide", Action.BRAKES: "brakes", Action.HOLD: "hold",
    },
    "link.lost_action_heli": {
        Action.STOP: "cut", Action.RETURN: "board", Action.HOVER: "board", Action.LAND: "board", Action.HOLD: "hold",
    },
    "link.lost_action_board": {Action.STOP: "drop", Action.LAND: "land", Action.RETURN: "home", Action.HOLD: "hold"},
}  # fmt: skip
"""The option of each check for each action. Where two share one, the first that the aircraft can do is meant."""
FAILSAFE_CHECKS, RTH_CHECK = tuple(ANSWERS), "link.rth_altitude"


def action_of(check_id: str, option: str, aircraft: Aircraft) -> Action | None:
    """The action that an option of a check stands for; None for one that says nothing is known."""
    meant = [action for action, chosen in ANSWERS[check_id].items() if chosen == option]
    able = [
        action
        for action in meant
        if aircraft.has(Trait.RETURN_HOME) or action is not Action.RETURN or check_id == "link.lost_action_board"
    ]
    kept = aircraft.failsafe.action if aircraft.failsafe is not None else None
    return kept if kept in able else next(iter(able), None)
