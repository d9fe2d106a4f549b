"""Within which numbers a flight controller arms: generic ones of our own to begin with, edited for each aircraft and exported with it. No maker's number is universal."""

from enum import StrEnum
from functools import cache
from typing import Any

from pydantic import Field, model_validator

from walkround.core.base.errors import InputError
from walkround.core.base.value import Value


class Arms(StrEnum):
    """How it is armed."""

    STICK = "with the sticks"
    SWITCH = "with a switch"


class Mode(Value):
    """A mode by its name: whether it may arm in it, and whether it needs a position for that."""

    name: str = Field(min_length=1, max_length=30)
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

    name: str = Field(default="Own numbers", max_length=40)
    arms: Arms = Arms.SWITCH
    satellites: bool = True
    ends_low_us: float = Field(default=1_300, ge=900, le=1_450)
    ends_high_us: float = Field(default=1_700, ge=1_550, le=2_100)
    centre_off_us: float = Field(default=100, ge=5, le=300)
    idle_most_us: float = Field(default=1_100, ge=900, le=1_400)
    silence_us: float = Field(default=900, ge=700, le=1_100)
    tilt_most_deg: float = Field(default=5, ge=0.5, le=45)
    turning_most_dps: float = Field(default=3, ge=0.2, le=50)
    offset_most_ut: float = Field(default=60, ge=5, le=500)
    field_off: float = Field(default=0.25, ge=0.05, le=1)
    hdop_most: float = Field(default=2.0, ge=0.5, le=10)
    board_least_v: float = Field(default=4.7, ge=2.5, le=12)
    board_most_v: float = Field(default=5.5, ge=3, le=14)
    cell_least_v: float = Field(default=3.5, ge=2.5, le=4.2)
    lean_least_deg: float = Field(default=10, ge=1, le=40)
    lean_most_deg: float = Field(default=60, ge=20, le=90)
    modes: tuple[Mode, ...] = Field(default=USUAL_MODES, min_length=1, max_length=12)

    @model_validator(mode="after")
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
