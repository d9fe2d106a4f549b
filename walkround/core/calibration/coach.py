"""How a compass is turned, step by step in the aircraft's own way, and which turn comes next while it is measured."""

import math
from enum import StrEnum
from typing import TYPE_CHECKING

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.lights import Shows
from walkround.core.aircraft.traits import Trait
from walkround.core.base.later import Later
from walkround.core.base.struct import Struct
from walkround.core.calibration.ellipsoid import BANDS, ROUND

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")


class Way(StrEnum):
    """How it is turned."""

    TWO_TURNS = "two turns"
    SIX_SIDES = "six sides"
    ALL_AXES = "all axes"
    BY_HAND = "by hand"


class Turn(Struct, frozen=True, kw_only=True):
    """One step: what to do, and for about how many seconds."""

    words: str
    seconds: int = 0


WAYS: dict[Way, tuple[Turn, ...]] = {
    Way.TWO_TURNS: (
        Turn(words="Hold it level at chest height, arms out, and turn round once.", seconds=12),
        Turn(words="Point the nose straight down, and turn round once more.", seconds=12),
    ),
    Way.SIX_SIDES: (
        Turn(words="Level: turn round once.", seconds=9), Turn(words="Left side down: turn round once.", seconds=9), Turn(words="Right side down: turn round once.", seconds=9),
        Turn(words="Nose down: turn round once.", seconds=9), Turn(words="Nose up: turn round once.", seconds=9), Turn(words="Upside down: turn round once.", seconds=9),
    ),
    Way.ALL_AXES: (
        Turn(words="Turn it slowly in every direction, like wiping the inside of a ball.", seconds=40),
        Turn(words="Go on until no gap is left on the sphere.", seconds=20),
    ),
    Way.BY_HAND: (Turn(words="Turn it as you like, and follow what is asked next.", seconds=60),),
}  # fmt: skip
"""The ways makers ask for. Source: common practice, no source; the maker's manual prevails."""
SMALL_GAPS = 0.05
"""So small a share of the sectors may be missing. Source: our choice."""
KEEP_AWAY = (
    (
        "Phone, keys, watch, belt buckle, rings, magnets",
        "leave them away from you: in a pocket they are too close",
    ),
    ("Cars, fences, manhole covers, benches", "keep ten metres away"),
    ("Reinforced concrete, also under your feet", "walk onto grass or earth"),
    ("Speakers, transmitters, power lines", "keep twenty metres away"),
)
"""What disturbs, and what to do. Source: common practice, no source."""
WHY = "It measures the aircraft's own metal and currents, so that they can be subtracted. It does not teach the compass where north is, and it does not cure iron nearby."


def usual_way(aircraft: Aircraft) -> Way:
    """Its own way where that is on record, or how an aircraft like this is usually turned. Source: common practice, no source; the maker's manual prevails."""
    own = next((one for one in Way if one.value == aircraft.turning.way), None)
    if own is not None:
        return own
    if aircraft.has(Trait.SELF_BUILT):
        return Way.ALL_AXES
    return Way.TWO_TURNS if aircraft.has(Trait.GIMBAL_CAMERA) else Way.SIX_SIDES


SPEED = "One turn takes about ten seconds: slower is better than faster."
"""Source: common practice, no source."""


def lit(aircraft: Aircraft, step: int, steps: int) -> str:
    """What its light shows at a step (from 0) of so many, "" where that is not on record."""
    shows = Shows.TURN_LEVEL if step == 0 else Shows.TURN_ON
    light = aircraft.turning.light(shows)
    return f"Its light is {light.words}." if light is not None else ""


def after_failing(times: int) -> str:
    """What to do after its light showed "failed" so many times in a row. Source: common practice, no source."""
    if times <= 1:
        return "Move ten metres away from metal, power off and on, and repeat."
    if times == 2:
        return "Try once more on other ground, far from cars and concrete, with nothing magnetic on you."
    return "Do not fly. Look for what is magnetic on it: a screw, a tool, a speaker, a new mount."


def holding(aircraft: Aircraft) -> str:
    """Who holds it, and how. Source: common practice, no source."""
    off = " Take the propellers off if it can be armed in the hand." if aircraft.has(Trait.SELF_BUILT) else ""
    if aircraft.mass_g > 4_000:
        return f"Two people hold it, one on each side, disarmed.{off}"
    return f"Hold it at the body with both hands, disarmed, fingers away from the blades.{off}"


_DOWN_WORDS = {
    (0, 1): "nose down", (0, -1): "nose up", (1, 1): "right side down", (1, -1): "left side down", (2, 1): "level", (2, -1): "upside down",
}  # fmt: skip


def next_turn(sectors: tuple[int, ...], dip_deg: float) -> str:
    """Which turn fills most of what is missing, in words, from how many samples each of the 96 sectors has, and the dip at this place in degrees; "" when next to none is missing.

    The field dips: the side of the aircraft that looks at the missing directions is turned to where the field points. Source: geometry.
    """
    missing = [i for i, many in enumerate(sectors) if many == 0]
    if len(missing) <= SMALL_GAPS * len(sectors):
        return ""
    band, turn = np.array(missing) // ROUND, np.array(missing) % ROUND
    z, angle = (band + 0.5) / BANDS * 2 - 1, (turn + 0.5) / ROUND * 2 * math.pi
    level = np.sqrt(1 - z**2)
    directions = np.column_stack([level * np.cos(angle), level * np.sin(angle), z])
    best, words = 0, ""
    for (axis, sign), said in _DOWN_WORDS.items():
        many = int((directions[:, axis] * sign > 0.5).sum())
        if many > best:
            best, words = many, said
    if not words:
        return "Turn it on: gaps are left all round."
    if dip_deg < 0:
        words = {
            "nose down": "nose up",
            "nose up": "nose down",
            "right side down": "left side down",
            "left side down": "right side down",
            "level": "upside down",
            "upside down": "level",
        }[words]
    return f"Next: {words}, and turn it all round."
