"""Channels drawn: what each reaches, between the marks that it has to pass."""

from collections.abc import Sequence

from walkround.core.aircraft.controller import ControllerProfile
from walkround.core.base.struct import Struct
from walkround.core.diagnosis.arming import CENTRE_US, Ends

LOW_US, HIGH_US, WIDE = 900.0, 2_100.0, 600.0


class Channel(Struct, frozen=True):
    """One channel, 600 picture units wide: from where to where it reaches, where it rests, where its marks are; whether it passes them; its words."""

    number: int
    x: float
    width: float
    centre: float
    marks: tuple[float, float, float]
    passes: bool
    words: str


def _x(us: float) -> float:
    return round(WIDE * min(1.0, max(0.0, (us - LOW_US) / (HIGH_US - LOW_US))), 1)


def draw_channels(ends: Sequence[Ends], profile: ControllerProfile) -> tuple[Channel, ...]:
    """A bar for each channel."""
    marks = (_x(profile.ends_low_us), _x(CENTRE_US), _x(profile.ends_high_us))
    return tuple(
        Channel(
            number=i,
            x=_x(one.low_us),
            width=round(_x(one.high_us) - _x(one.low_us), 1),
            centre=_x(one.centre_us),
            marks=marks,
            passes=one.low_us <= profile.ends_low_us and one.high_us >= profile.ends_high_us,
            words=f"{one.low_us:.0f}, {one.centre_us:.0f}, {one.high_us:.0f}",
        )
        for i, one in enumerate(ends, 1)
    )
