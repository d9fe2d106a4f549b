"""Senses: is the position good enough to set home by."""

from datetime import datetime

from walkround.core.base.finding import OUR_CHOICE, PRACTICE, Finding, Level, margin_above, margin_below, measured
from walkround.core.base.geodesy import Position, distance_m
from walkround.core.base.phrase import Phrase, count, degree, distance, ratio, second, speed
from walkround.core.sensors.nmea import Fix

CAREFUL_SATELLITES = 10
"""What careful pilots want. Source: common practice, no source."""
PUBLISHED_SATELLITES = 4
"""The published minimum. Source: FAA AC 107-2A, preflight inspection list (from memory)."""
DILUTION_GO, DILUTION_GOOD = 2.0, 1.5
"""Horizontal dilution of precision: below the first to go, below the second good. Source: common practice, no source."""
REST_SPEED_MS = 0.5
"""Ground speed shown at rest stays below this, in m/s. Source: common practice, no source."""
FIX_CARE_S, FIX_GROUND_S = 10.0, 60.0
"""Age of the fix in seconds: past the first care, past the second no longer *here and now*. Source: our choice."""
FAR_FROM_FIELD_M = 2_000.0
"""A position this far (m) from the field's own is another place. Source: our choice."""
DAMAGED_SHARE = 0.1
"""More damaged lines than this share of all is care. Source: our choice."""
HEADING_GOOD_DEG, HEADING_GROUND_DEG = 5.0, 15.0
"""Difference between heading on screen and a hand compass, in degrees. Source: our choice."""


def judge_fix(fix: Fix, practice: str, site: Position, now: datetime) -> tuple[Finding, ...]:
    """Judge a fix under the satellites practice ("ten", "four" or "ready") at a field and time.

    Dilutions without unit, speed in m/s, ages in s, distances in m. Source: the constants of this module.
    """
    if fix.quality < 1 or fix.position is None:
        return (
            Finding(
                name="Fix",
                level=Level.GROUNDED,
                reason=Phrase.of("The receiver has no position yet. Close enough isn't good enough."),
                remedy="Off, move into the open, start again, and give a cold receiver five to eight minutes.",
            ),
        )
    findings = [_satellites(fix, practice), _dilution(fix, practice), _rest(fix), _age(fix, now)]
    if fix.bad:
        findings.append(_damaged(fix))
    away_m = distance_m(fix.position, site)
    if away_m > FAR_FROM_FIELD_M:
        value = distance(away_m)
        findings.append(
            Finding(
                name="Place",
                level=Level.GROUNDED,
                value=value,
                limit=distance(FAR_FROM_FIELD_M),
                sense="max",
                margin=margin_below(away_m, FAR_FROM_FIELD_M),
                reason=Phrase.of("The receiver thinks it is {value} from this field.", value=value),
                remedy="Choose the right field, or wait for a true fix before home is set.",
                source=OUR_CHOICE,
            )
        )
    return tuple(findings)


def _satellites(fix: Fix, practice: str) -> Finding:
    if practice == "ready":
        value = count(fix.satellites or 0)
        return Finding(
            name="Satellites",
            level=Level.CLEAR,
            value=value,
            reason=Phrase.of("{value} in use; your practice trusts the aircraft's ready state.", value=value),
        )
    least = CAREFUL_SATELLITES if practice == "ten" else PUBLISHED_SATELLITES
    source = PRACTICE if practice == "ten" else "FAA AC 107-2A, at least four (from memory)"
    if fix.satellites is None:
        return Finding(
            name="Satellites",
            level=Level.GROUNDED,
            reason=Phrase.of("The sentences do not say how many satellites are in use."),
            remedy="Take a reading with GGA sentences.",
            source=source,
        )
    value, limit = count(fix.satellites), count(least)
    if fix.satellites < least:
        level, words = Level.GROUNDED, "{value} satellites in use, your practice asks for {limit}."
    elif fix.satellites == least:
        level, words = Level.CARE, "{value} satellites in use: just what your practice asks for, none to spare."
    else:
        level, words = Level.CLEAR, "{value} satellites in use."
    return measured(
        "Satellites",
        level,
        value,
        limit,
        sense="min",
        margin=margin_above(fix.satellites, least),
        words=words,
        remedy="Wait in the open, away from walls and your own body.",
        source=source,
    )


def _dilution(fix: Fix, practice: str) -> Finding:
    if fix.hdop is None:
        return Finding(
            name="Dilution",
            level=Level.CLEAR if practice == "ready" else Level.GROUNDED,
            reason=Phrase.of("The sentences do not say how good the geometry is."),
            remedy="" if practice == "ready" else "Take a reading with GGA or GSA sentences.",
        )
    value, limit = ratio(fix.hdop), ratio(DILUTION_GO)
    if fix.hdop >= DILUTION_GO:
        level = Level.CARE if practice == "ready" else Level.GROUNDED
        words = "Horizontal dilution {value}; it must be below {limit}: the satellites stand in one corner."
    elif fix.hdop >= DILUTION_GOOD:
        level, words = Level.CARE, "Horizontal dilution {value}: enough to go, not yet good."
    else:
        level, words = Level.CLEAR, "Horizontal dilution {value}: good geometry."
    return Finding(
        name="Dilution",
        level=level,
        value=value,
        limit=limit,
        sense="max",
        margin=margin_below(fix.hdop, DILUTION_GO),
        reason=Phrase.of(words, value=value, limit=limit),
        remedy="" if level is Level.CLEAR else "Wait for more sky; set home only with a solid fix.",
    )


def _rest(fix: Fix) -> Finding:
    if fix.speed_ms is None:
        return Finding(
            name="Speed at rest",
            level=Level.CARE,
            reason=Phrase.of("The sentences do not say how fast the receiver believes it moves."),
            remedy="Look at the speed on your screen; at rest it stays near zero.",
        )
    value, limit = speed(fix.speed_ms), speed(REST_SPEED_MS)
    over = fix.speed_ms >= REST_SPEED_MS
    return Finding(
        name="Speed at rest",
        level=Level.GROUNDED if over else Level.CLEAR,
        value=value,
        limit=limit,
        sense="max",
        margin=margin_below(fix.speed_ms, REST_SPEED_MS),
        reason=Phrase.of(
            "It stands still and believes it moves at {value}." if over else "At rest it reads {value}.", value=value
        ),
        remedy="Leave it still and wait; then move away from walls that reflect." if over else "",
    )


def _damaged(fix: Fix) -> Finding:
    total = len(fix.bad) + fix.sentences
    many = len(fix.bad) > total * DAMAGED_SHARE
    return Finding(
        name="Damaged lines",
        level=Level.CARE if many else Level.CLEAR,
        value=count(len(fix.bad)),
        reason=Phrase.of(
            f"{{bad}} of {{total}} lines could not be used ({fix.bad[0]}); the rest were.",
            bad=count(len(fix.bad)),
            total=count(total),
        ),
        remedy="Take a fresh reading; a lead may be loose." if many else "",
        source=OUR_CHOICE,
    )


def _age(fix: Fix, now: datetime) -> Finding:
    if fix.at is None:
        return Finding(
            name="Age of the fix",
            level=Level.CARE,
            reason=Phrase.of("The sentences carry no time, so they may be old."),
            remedy="Take a fresh reading.",
            source=OUR_CHOICE,
        )
    age_s = max(0.0, (now - fix.at).total_seconds())
    ahead_s = (fix.at - now).total_seconds()
    if ahead_s > FIX_GROUND_S:
        return Finding(
            name="Age of the fix",
            level=Level.GROUNDED,
            reason=Phrase.of("The fix carries a time in the future."),
            remedy="Check the clock of this computer, then take a fresh reading.",
            source=OUR_CHOICE,
        )
    level = Level.GROUNDED if age_s > FIX_GROUND_S else Level.CARE if age_s > FIX_CARE_S else Level.CLEAR
    value = second(age_s)
    return Finding(
        name="Age of the fix",
        level=level,
        value=value,
        limit=second(FIX_GROUND_S),
        sense="max",
        margin=margin_below(age_s, FIX_GROUND_S),
        reason=Phrase.of("The fix was {value} old when it was read.", value=value),
        remedy="" if level is Level.CLEAR else "Take a fresh reading here.",
        source=OUR_CHOICE,
    )


def judge_heading(difference_deg: float) -> tuple[Finding, ...]:
    """Judge the difference in degrees (0 to 180) between the heading on screen and a hand compass or map.

    Source: our choice; that they must agree is common practice, no source.
    """
    value, limit = degree(difference_deg), degree(HEADING_GROUND_DEG)
    if difference_deg > HEADING_GROUND_DEG:
        level, words = Level.GROUNDED, "Heading and hand compass differ by {value}: home will lie somewhere else."
    elif difference_deg > HEADING_GOOD_DEG:
        level, words = Level.CARE, "Heading and hand compass differ by {value}."
    else:
        level, words = Level.CLEAR, "Heading and hand compass agree within {value}."
    return (
        measured(
            "Heading",
            level,
            value,
            limit,
            sense="max",
            margin=margin_below(difference_deg, HEADING_GROUND_DEG),
            words=words,
            remedy="Walk away from iron, calibrate the compass, compare again.",
            source=OUR_CHOICE,
        ),
    )
