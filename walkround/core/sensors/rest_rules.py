"""What a whole reading says beside its last fix: how it wanders at rest, jumps, drops out, whether its geometry and height agree, and whether one receiver speaks."""

from walkround.core.base.finding import OUR_CHOICE, Finding, Level, measured
from walkround.core.base.phrase import Phrase, count, height, ratio
from walkround.core.sensors.nmea import Fix
from walkround.core.sensors.scatter import Rest

SCATTER_GOOD_M, SCATTER_GROUND_M = 3.0, 10.0
"""95 of a hundred fixes at rest within the first (m) is good, past the second no place to come home to. Source: the launch circle of 3 m, common practice, no source; the second our choice."""
JUMP_GOOD_M, JUMP_GROUND_M = 3.0, 10.0
"""From one second to the next, in m. Source: our choice."""
HEIGHT_OFF_M = 50.0
"""A height so far (m) from the field's own. Source: our choice; 95 of a hundred are within 13 m, Standard Positioning Service Performance Standard (from memory)."""
BETTER_SHARE = 0.7
"""A reported HDOP below this share of what the geometry gives is not believed. Source: our choice."""
RANGE_ERROR_M = 2.5
"""Error of one range with corrections as broadcast, in m, one standard deviation. Source: our choice, after the 8 m (95 %, global average) of the Standard Positioning
Service Performance Standard (from memory) under an open sky."""


def fix_spread_m(fix: Fix | None) -> float | None:
    """How far a fix may be from the truth, 95 of a hundred, in m: twice HDOP times the range error, or what it did at rest if that is more. None where neither is known.

    Source: 2DRMS, textbook; ``RANGE_ERROR_M``. A minute at rest shows less than an hour does, so it never makes the figure smaller.
    """
    if fix is None:
        return None
    dilution = max((one for one in (fix.hdop, fix.hdop_sky) if one is not None), default=None)
    seen = None if fix.rest is None else fix.rest.spread_95_m
    told = [value for value in (None if dilution is None else 2 * dilution * RANGE_ERROR_M, seen) if value is not None]
    return max(told, default=None) if dilution is not None else None


def judge_rest(fix: Fix, elevation_m: float | None = None) -> tuple[Finding, ...]:
    """Judge all fixes of a reading at rest, at a field of an elevation in m (None: not compared). Source: the constants of this module."""
    found: list[Finding] = []
    if fix.receivers > 1:
        found.append(
            Finding(
                name="Receivers", level=Level.GROUNDED, reason=Phrase(text="Two receivers are mixed in this reading: places or times contradict each other."),
                remedy="Import the reading of the aircraft's receiver alone.", source=OUR_CHOICE,
            )
        )  # fmt: skip
    if fix.rest is not None:
        found += _steady(fix.rest)
    if fix.hdop is not None and fix.hdop_sky is not None and fix.hdop < BETTER_SHARE * fix.hdop_sky:
        found.append(_geometry(fix.hdop, fix.hdop_sky))
    if elevation_m is not None and fix.altitude_m is not None:
        off_m = abs(fix.altitude_m - elevation_m)
        if off_m > HEIGHT_OFF_M:
            found.append(
                measured(
                    "Height of the fix", height(off_m), height(HEIGHT_OFF_M), sense="max", level=Level.CAUTION,
                    words="The receiver's height is {value} from this field's elevation.",
                    remedy="Wait for a better fix. If it stays, check the elevation of the field.", source=OUR_CHOICE,
                )
            )  # fmt: skip
    return tuple(found)


def _steady(rest: Rest) -> list[Finding]:
    found = []
    if rest.spread_95_m is not None:
        found.append(
            measured(
                "Scatter at rest", height(rest.spread_95_m), height(SCATTER_GROUND_M), sense="max",
                level=_level(rest.spread_95_m, SCATTER_GOOD_M, SCATTER_GROUND_M),
                words="At rest 95 of 100 fixes lie within {value}.",
                remedy="Move away from walls and metal that reflect, and wait.", source=OUR_CHOICE,
            )
        )  # fmt: skip
    if rest.jump_m > JUMP_GOOD_M:
        found.append(
            measured(
                "Jump", height(rest.jump_m), height(JUMP_GROUND_M), sense="max", level=_level(rest.jump_m, JUMP_GOOD_M, JUMP_GROUND_M),
                words="At rest its position jumped by {value} in a second.", remedy="Move to open sky. If it goes on, check antenna and leads.", source=OUR_CHOICE,
            )
        )  # fmt: skip
    if rest.lost:
        found.append(
            Finding(
                name="Fix lost", level=Level.CAUTION, value=count(rest.lost),
                reason=Phrase.of("In the last minute it lost its fix for {value} of its sentences.", value=count(rest.lost)),
                remedy="Wait until it holds its fix for a minute.", source=OUR_CHOICE,
            )
        )  # fmt: skip
    return found


def _level(value: float, good: float, ground: float) -> Level:
    return Level.GROUNDED if value >= ground else Level.CAUTION if value > good else Level.CLEAR


def _geometry(told: float, worked_out: float) -> Finding:
    return Finding(
        name="Geometry", level=Level.CAUTION, value=ratio(worked_out),
        reason=Phrase.of("It reports HDOP {told}; the satellites it uses give {worked_out} from where they stand.", told=ratio(told), worked_out=ratio(worked_out)),
        remedy="Count with the higher one, and wait for more satellites.", source="(AᵀA)⁻¹ of the directions; a share of 0.7 is our choice",
    )  # fmt: skip
