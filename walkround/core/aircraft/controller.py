"""Within which numbers a flight controller arms: generic ones of our own to begin with, edited for each aircraft and exported with it. No maker's number is universal."""

from enum import StrEnum
from functools import cache
from typing import Annotated, Any

from walkround.core.base.errors import InputError
from walkround.core.base.value import Allowed, Value, whole


class Arms(StrEnum):
    """How it is armed."""

    STICK = "with the sticks"
    SWITCH = "with a switch"


class Mode(Value):
    """A mode by its name: whether it may arm in it, and whether it needs a position for that."""

    name: Annotated[str, Allowed(min_length=1, max_length=30)]
    arms: bool = True
    position: bool = False


USUAL_MODES = (
    Mode.trusted(name="hold", arms=True, position=True),
    Mode.trusted(name="level", arms=True, position=False),
    Mode.trusted(name="manual", arms=True, position=False),
    Mode.trusted(name="return", arms=False, position=True),
)


class ControllerProfile(Value):
    """The numbers of one controller. Pulses in µs, volts in V, angles in degrees, field in µT; ``satellites``: whether it has a position and a compass.

    ``ends_low_us``, ``ends_high_us``: what the ends of each channel reach at least; ``centre_off_us``: how far a centre may be from the middle; ``idle_most_us``: the
    throttle counts as low up to here; ``silence_us``: below it a receiver says nothing; ``field_off``: how far the strength of the field may be from that of the place, as a share.
    """

    name: Annotated[str, Allowed(max_length=40)] = "Own numbers"
    arms: Arms = Arms.SWITCH
    satellites: bool = True
    ends_low_us: Annotated[float, Allowed(ge=900, le=1_450)] = 1_300.0
    ends_high_us: Annotated[float, Allowed(ge=1_550, le=2_100)] = 1_700.0
    centre_off_us: Annotated[float, Allowed(ge=5, le=300)] = 100.0
    idle_most_us: Annotated[float, Allowed(ge=900, le=1_400)] = 1_100.0
    silence_us: Annotated[float, Allowed(ge=700, le=1_100)] = 900.0
    tilt_most_deg: Annotated[float, Allowed(ge=0.5, le=45)] = 5.0
    turning_most_dps: Annotated[float, Allowed(ge=0.2, le=50)] = 3.0
    offset_most_ut: Annotated[float, Allowed(ge=5, le=500)] = 60.0
    field_off: Annotated[float, Allowed(ge=0.05, le=1)] = 0.25
    hdop_most: Annotated[float, Allowed(ge=0.5, le=10)] = 2.0
    board_least_v: Annotated[float, Allowed(ge=2.5, le=12)] = 4.7
    board_most_v: Annotated[float, Allowed(ge=3, le=14)] = 5.5
    cell_least_v: Annotated[float, Allowed(ge=2.5, le=4.2)] = 3.5
    lean_least_deg: Annotated[float, Allowed(ge=1, le=40)] = 10.0
    lean_most_deg: Annotated[float, Allowed(ge=20, le=90)] = 60.0
    modes: Annotated[tuple[Mode, ...], Allowed(min_length=1, max_length=12)] = USUAL_MODES

    @whole
    def _in_order(self) -> "ControllerProfile":
        """Refuse a range whose ends are exchanged, and two modes of one name."""
        for low, high, field in (
            (self.board_least_v, self.board_most_v, "board_most_v"),
            (self.lean_least_deg, self.lean_most_deg, "lean_most_deg"),
            (self.silence_us, self.idle_most_us, "idle_most_us"),
        ):
            if low >= high:
                raise InputError("The upper end must be higher than the lower end.", field)
        names = [mode.name.lower() for mode in self.modes]
        if len(set(names)) < len(names):
            raise InputError("Two modes have the same name.", "modes")
        return self

    def mode(self, name: str) -> Mode | None:
        """A mode by its name, however it is written; None where it is not known."""
        return next((mode for mode in self.modes if mode.name.lower() == name.strip().lower()), None)


WITHOUT = tuple(mode.model_copy(update={"position": False}) for mode in USUAL_MODES if not mode.position)
GENERIC: dict[str, dict[str, Any]] = {
    "switch, satellites": {},
    "switch, no satellites": {"satellites": False, "modes": WITHOUT},
    "stick, satellites": {"arms": Arms.STICK},
    "stick, no satellites": {"arms": Arms.STICK, "satellites": False, "modes": WITHOUT},
}
"""To begin with. Pulses below 1,300 and above 1,700 µs, 4.7 to 5.5 V, HDOP below 2: common practice, no source; the rest our choice. The maker's manual prevails."""


@cache
def generic(name: str) -> ControllerProfile:
    """One of ``GENERIC``. Raises KeyError for another name."""
    return ControllerProfile(name=name, **GENERIC[name])
