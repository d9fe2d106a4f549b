"""What an aircraft does when its link is lost: the settings as they were read, and which of them it can have."""

from datetime import datetime
from enum import StrEnum
from typing import Annotated

from walkround.core.aircraft.traits import Kind, Trait
from walkround.core.base.errors import InputError
from walkround.core.base.value import Allowed, Value, whole


class Action(StrEnum):
    """What it does when the signal is lost."""

    RETURN = "return home"
    HOVER = "hover"
    LAND = "land on the spot"
    STOP = "motors stop"
    LOITER = "circle at height"
    CIRCLE = "throttle cut, gentle turn"
    GLIDE = "throttle cut, straight glide"
    BRAKES = "airbrakes out"
    HOLD = "hold last position"


class Climb(StrEnum):
    """When it climbs to its RTH altitude."""

    FIRST = "it climbs first, then returns"
    ON_THE_WAY = "it climbs on the way"


class LowBattery(StrEnum):
    """What it does by itself when the pack is low."""

    UNKNOWN = "not known"
    WARN = "it warns only"
    RETURN = "it returns"
    LAND = "it lands"


class Controls(StrEnum):
    """Where the receiver puts the controls."""

    UNKNOWN = "not known"
    NEUTRAL = "neutral"
    TURN = "in a gentle turn"
    BRAKES = "airbrakes out"
    HELD = "where they were"


class StopBy(StrEnum):
    """How motors are stopped."""

    THROTTLE_DOWN = "throttle fully down"
    STICKS_IN = "both sticks down and in"
    STICKS_OUT = "both sticks down and out"
    SWITCH = "a switch"
    BUTTON = "a button, held"


class HomeBy(StrEnum):
    """How a return is started or cancelled."""

    BUTTON = "its button on the transmitter"
    SWITCH = "a mode switch"
    SCREEN = "the control on the screen"
    STICKS = "moving the sticks"


LONGEST_DELAY_S = 60.0


class Failsafe(Value):
    """The settings as they were last read.

    ``delay_s``: from the loss of the signal to the action; ``throttle_percent``: the throttle that the failsafe sets; ``rth_altitude_m``: above launch;
    ``rth_speed_ms``: airspeed on the way home; ``confirm_s``: a return wants to be confirmed every so many seconds, 0: never; each None where it
    is not known. ``low_percent``: charge at which ``low`` happens. ``read_at`` aware, ``read_by``: read in what; ``read_site``: at which field.
    """

    action: Action | None = None
    delay_s: Annotated[float | None, Allowed(ge=0, le=LONGEST_DELAY_S)] = None
    throttle_percent: Annotated[float | None, Allowed(ge=0, le=100)] = None
    controls: Controls = Controls.UNKNOWN
    rth_altitude_m: Annotated[float | None, Allowed(gt=0, le=1_000)] = None
    rth_speed_ms: Annotated[float | None, Allowed(gt=0, le=100)] = None
    climb: Climb = Climb.FIRST
    low: LowBattery = LowBattery.UNKNOWN
    low_percent: Annotated[float | None, Allowed(ge=0, le=100)] = None
    confirm_s: Annotated[float | None, Allowed(ge=0, le=600)] = None
    stop_air: StopBy | None = None
    stop_ground: StopBy | None = None
    stop_hold_s: Annotated[float | None, Allowed(ge=0, le=20)] = None
    home_start: tuple[HomeBy, ...] = ()
    home_cancel: tuple[HomeBy, ...] = ()
    read_at: datetime | None = None
    read_by: Annotated[str, Allowed(max_length=60)] = ""
    read_site: Annotated[str, Allowed(max_length=60)] = ""

    @whole
    def low_agrees(self) -> "Failsafe":
        """Refuse a charge at which nothing happens."""
        if self.low_percent is not None and self.low is LowBattery.UNKNOWN:
            raise InputError("Say what it does at that charge, or leave the charge empty.", "low")
        return self


def actions(kind: Kind, features: frozenset[Trait]) -> tuple[Action, ...]:
    """What an aircraft of a kind with these features can be set to, the usual one first; *hold last position* always, to be refused.

    Source: practice of failsafes; common practice, no source.
    """
    returns, board = Trait.RETURN_HOME in features, Trait.FLIGHT_CONTROLLER in features
    able: tuple[Action, ...]
    if kind is Kind.MULTIROTOR:
        able = (Action.RETURN, Action.HOVER, Action.LAND, Action.STOP) if returns else (Action.STOP, Action.LAND)
    elif kind is Kind.HELICOPTER:
        able = (Action.STOP, *((Action.RETURN, Action.HOVER, Action.LAND) if returns else ()))
    elif Trait.NO_MOTOR in features:
        able = (Action.BRAKES, Action.CIRCLE)
    else:
        able = (Action.CIRCLE, Action.GLIDE)
        if returns:
            able = (Action.RETURN, Action.LOITER, *able)
        elif board:
            able = (*able, Action.LOITER)
    return (*able, Action.HOLD)
