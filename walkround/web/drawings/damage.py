"""Damage drawn, good beside bad: our own line drawings, 48 by 30 units each."""

from walkround.core.aircraft.flaws import Damage
from walkround.core.base.struct import Struct

_BLADE = "M4,16 C12,6 34,5 44,12 C36,22 14,25 4,16Z"
_SCREW = "M24,5 a10,10 0 1 0 .1,0 M18,9 L30,21"
_BAND = "M6,11 H42 V19 H6Z"
_TUBE = "M4,11 H44 M4,19 H44"


class DamageDrawn(Struct, frozen=True):
    """One kind of damage: the sound shape, the shape that is not, and what is wrong with it, as paths."""

    good: str
    bad: str
    mark: str


DRAWN: dict[Damage, DamageDrawn] = {
    Damage.NICK: DamageDrawn(
        _BLADE, "M4,16 C10,8 18,6 22,6 L24,11 L27,6 C34,6 40,8 44,12 C36,22 14,25 4,16Z", "M22,6 L24,11 L27,6"
    ),
    Damage.CRACK: DamageDrawn(_BLADE, _BLADE, "M26,6 L23,11 L27,14 L24,22"),
    Damage.WHITE: DamageDrawn(_BLADE, _BLADE, "M20,7 C19,12 19,18 21,22 M23,7 C22,12 22,18 24,22"),
    Damage.CHIP: DamageDrawn(
        _BLADE, "M4,16 C12,6 30,5 37,8 L34,12 L38,15 L35,18 C26,22 12,23 4,16Z", "M37,8 L34,12 L38,15 L35,18"
    ),
    Damage.BEND: DamageDrawn(_BLADE, "M4,20 C10,9 20,8 28,11 L42,4 L44,10 L30,18 C20,22 10,24 4,20Z", "M26,10 L30,18"),
    Damage.PLAY: DamageDrawn(
        _TUBE,
        "M4,11 H22 M4,19 H22 M26,7 L44,4 M26,15 L44,12 M26,15 L44,18 M26,23 L44,26",
        "M34,9 V21 M31,12 L34,9 L37,12 M31,18 L34,21 L37,18",
    ),
    Damage.LOOSE: DamageDrawn(
        _SCREW, "M24,2 a10,10 0 1 0 .1,0 M18,6 L30,18 M10,26 H38", "M40,6 C45,10 45,16 40,20 M43,17 L40,20 L37,17"
    ),
    Damage.MISSING: DamageDrawn(_SCREW, "", "M24,5 a10,10 0 1 0 .1,0"),
    Damage.DIRT: DamageDrawn(
        _BLADE, _BLADE, "M14,10 C20,20 24,6 30,16 C33,21 36,10 40,14 M12,18 h.1 M20,20 h.1 M32,9 h.1"
    ),
    Damage.CHAFE: DamageDrawn(_TUBE, _TUBE, "M18,12 L22,18 M22,12 L26,18 M26,12 L30,18 M30,12 L34,18"),
    Damage.CORROSION: DamageDrawn(_SCREW, _SCREW, "M19,11 h.1 M28,9 h.1 M22,18 h.1 M29,19 h.1 M25,14 h.1"),
    Damage.HEAT: DamageDrawn(
        _TUBE, _TUBE, "M16,8 C14,4 18,3 16,0 M24,8 C22,4 26,3 24,0 M32,8 C30,4 34,3 32,0 M18,15 H32"
    ),
    Damage.DELAMINATED: DamageDrawn(
        _BAND, "M6,11 H42 M6,19 H42 M6,11 V19", "M22,15 C30,13 36,8 42,6 M22,15 C30,17 36,22 42,24"
    ),
    Damage.WORN: DamageDrawn(
        _BAND,
        "M6,11 H18 C22,13 26,13 30,11 H42 V19 H30 C26,17 22,17 18,19 H6Z",
        "M21,12 L20,18 M24,13 L24,17 M27,12 L28,18",
    ),
    Damage.UNSURE: DamageDrawn(_BLADE, "", "M18,10 C18,3 30,3 30,10 C30,15 24,14 24,20 M24,26 h.1"),
}
"""Every kind of damage."""
