"""Senses: is the position good enough to set home by, as the receiver reports it or as a screen shows it."""

from datetime import datetime
from typing import Annotated

import msgspec

from walkround.core.base.errors import InputError
from walkround.core.base.finding import OUR_CHOICE, PRACTICE, Finding, Level, measured
from walkround.core.base.geodesy import Position, distance_m
from walkround.core.base.phrase import Phrase, count, degree, distance, ratio, second, speed
from walkround.core.base.value import Allowed, Value, whole
from walkround.core.sensors.nmea import Fix
from walkround.core.sensors.rest_rules import judge_rest

SATELLITE_QUALITIES = frozenset({1, 2, 3, 4, 5})
"""Qualities of a GGA sentence that rest on satellites: plain, differential, precise, RTK fixed and float; not 6 to 8, which
are estimated, typed in or simulated. Source: NMEA 0183, GGA (from memory)."""
CAREFUL_SATELLITES = 10
"""What careful pilots want. Source: common practice, no source."""
PUBLISHED_SATELLITES = 4
"""The published minimum. Source: FAA AC 107-2A, preflight inspection list (from memory)."""
DILUTION_GO, DILUTION_GOOD = 2.0, 1.5
"""Horizontal dilution of precision: below the first to go, below the second good. Source: common practice, no source."""
REST_SPEED_MS = 0.5
"""Ground speed shown at rest stays below this, in m/s. Source: common practice, no source."""
FIX_CAUTION_S, FIX_GROUND_S = 10.0, 60.0
"""Age of the fix in seconds: past the first care, past the second no longer *here and now*. Source: our choice."""
FAR_FROM_FIELD_M = 2_000.0
"""A position this far (m) from the field's own is another place. Source: our choice."""
DAMAGED_SHARE = 0.1
"""More damaged lines than this share of all is a caution. Source: our choice."""
HEADING_GOOD_DEG, HEADING_GROUND_DEG = 5.0, 15.0
"""Difference between heading on screen and a hand compass, in degrees. Source: our choice."""


STEADY_S, STUCK_S = 30.0, 60.0
"""A number that stood so long is steady; one too low that stood so long is stuck. Source: our choice; common practice, no source."""
MOST_COUNTS = 200


class CountSeen(Value):
    """A number of satellites as it was shown, so many seconds after the first look."""

    after_s: Annotated[float, Allowed(ge=0, le=3_600)]
    satellites: Annotated[int, Allowed(ge=0, le=60)]


class ScreenSeen(Value):
    """What a screen or a light shows: the numbers one after the other, how long the last one has stood (s), HDOP where it is shown,
    and whether a ready light is steady, where there is no number."""

    counts: Annotated[tuple[CountSeen, ...], Allowed(max_length=MOST_COUNTS)] = ()
    stood_s: Annotated[float, Allowed(ge=0, le=3_600)] = 0.0
    hdop: Annotated[float | None, Allowed(ge=0, le=99)] = None
    ready: bool | None = None

    @whole
    def says_something(self) -> "ScreenSeen":
        """Refuse a look that saw nothing, and numbers out of order."""
        if not self.counts and self.ready is None:
            raise InputError("Enter the number of satellites that your screen shows.", "satellites")
        if list(self.counts) != sorted(self.counts, key=lambda seen: seen.after_s):
            raise InputError("The numbers are not in the order in which they were seen.", "satellites")
        return self

    @property
    def satellites(self) -> int | None:
        """The number that is shown now."""
        return self.counts[-1].satellites if self.counts else None


def trend_words(seen: ScreenSeen, method: str) -> str:
    """What the numbers do, in words: climbing, falling, steady, or stuck too low; "" for a single look. Source: ``STEADY_S``, ``STUCK_S``."""
    if len(seen.counts) < 2 and not seen.stood_s:
        return ""
    now, before = seen.counts[-1].satellites, seen.counts[-2].satellites if len(seen.counts) > 1 else None
    least = CAREFUL_SATELLITES if method == "ten" else PUBLISHED_SATELLITES
    if seen.stood_s >= STUCK_S and now < least:
        return f"Stuck at {now} for {seen.stood_s:.0f} s: move away from walls and metal, and restart."
    if seen.stood_s >= STEADY_S:
        return f"Steady at {now} for {seen.stood_s:.0f} s."
    if before is not None and now < before:
        return f"Falling, from {before} to {now}."
    return f"Still climbing: {now}." if before is not None else f"{now} so far."


def judge_screen(seen: ScreenSeen, method: str) -> tuple[Finding, ...]:
    """Judge what a screen shows under the satellites practice ("ten", "four" or "ready"). HDOP is judged where it is shown.

    Source: as ``judge_fix``.
    """
    if seen.satellites is None:
        return (_ready_light(bool(seen.ready), method),)
    fix = Fix(satellites=seen.satellites, hdop=seen.hdop)
    found = [_satellites(fix, method)]
    words = trend_words(seen, method)
    if words and found[0].level is not Level.CLEAR:
        found[0] = msgspec.structs.replace(found[0], remedy=words)
    elif words.startswith("Falling"):
        found.append(
            Finding(
                name="Trend", level=Level.CAUTION, reason=Phrase(text=words), remedy="Wait until the number is steady.",
                source=OUR_CHOICE,
            )
        )  # fmt: skip
    if seen.hdop is not None:
        found.append(_hdop(fix, method))
    return tuple(found)


def _ready_light(ready: bool, method: str) -> Finding:
    level = Level.GROUNDED if not ready else Level.CLEAR if method == "ready" else Level.CAUTION
    words = {
        Level.GROUNDED: "The ready light is not steady.",
        Level.CAUTION: "The ready light is steady. Your method counts satellites, and this aircraft shows no number.",
        Level.CLEAR: "The ready light is steady. Your method trusts it.",
    }[level]
    remedy = {
        Level.GROUNDED: "Wait under open sky, away from walls and your own body.",
        Level.CAUTION: "Wait a minute longer.",
    }
    return Finding(name="Ready", level=level, reason=Phrase(text=words), remedy=remedy.get(level, ""), source=PRACTICE)


def judge_fix(
    fix: Fix, method: str, site: Position, now: datetime, elevation_m: float | None = None
) -> tuple[Finding, ...]:
    """Judge a fix and the reading it ends under the satellites practice ("ten", "four" or "ready") at a field, its elevation in m, and time.

    Dilutions without unit, speed in m/s, ages in s, distances in m. Source: the constants of this module; ``rest_rules``.
    """
    if fix.quality not in SATELLITE_QUALITIES or fix.position is None:
        words = {6: "estimated by dead reckoning", 7: "entered by hand", 8: "from a simulator"}.get(fix.quality, "")
        said = f"The position is {words}, not measured." if words else "The receiver has no position yet."
        return (
            Finding(
                name="Fix",
                level=Level.GROUNDED,
                reason=Phrase.of(f"{said} The home point is set from this fix."),
                remedy="Switch off, move to open sky and start again. A cold receiver needs five to eight minutes.",
            ),
        )
    if fix.void:
        return (
            Finding(
                name="Fix",
                level=Level.GROUNDED,
                reason=Phrase.of("The receiver marks its fix as not valid."),
                remedy="Wait under open sky until the fix is valid.",
                source="NMEA 0183, RMC status (from memory)",
            ),
        )
    if fix.dimensions in (1, 2):
        words = "no fix" if fix.dimensions == 1 else "a 2D fix only, without height"
        return (
            Finding(
                name="Fix",
                level=Level.GROUNDED,
                reason=Phrase.of(f"The receiver reports {words}."),
                remedy="Wait under open sky until it has a 3D fix.",
                source="NMEA 0183, GSA fix type (from memory)",
            ),
        )
    findings = [_satellites(fix, method), _hdop(fix, method), _rest(fix), _age(fix, now)]
    if fix.bad:
        findings.append(_damaged(fix))
    findings += judge_rest(fix, elevation_m)
    away_m = distance_m(fix.position, site)
    if away_m > FAR_FROM_FIELD_M:
        findings.append(
            measured(
                "Place",
                distance(away_m),
                distance(FAR_FROM_FIELD_M),
                sense="max",
                level=Level.GROUNDED,
                words="The receiver reports a position {value} from this field.",
                remedy="Choose the right field, or wait for a good fix before home is set.",
                source=OUR_CHOICE,
            )
        )
    return tuple(findings)


def _satellites(fix: Fix, method: str) -> Finding:
    if method == "ready":
        value = count(fix.satellites or 0)
        return Finding(
            name="Satellites",
            level=Level.CLEAR,
            value=value,
            reason=Phrase.of("{value} in use. Your method trusts the aircraft's ready state.", value=value),
        )
    least = CAREFUL_SATELLITES if method == "ten" else PUBLISHED_SATELLITES
    source = PRACTICE if method == "ten" else "FAA AC 107-2A, at least four (from memory)"
    if fix.satellites is None:
        return Finding(
            name="Satellites",
            level=Level.GROUNDED,
            reason=Phrase.of("The NMEA data has no number of satellites."),
            remedy="Import NMEA data with GGA sentences.",
            source=source,
        )
    return measured(
        "Satellites",
        count(fix.satellites),
        count(least),
        sense="min",
        caution=1e-9,
        words={
            Level.CLEAR: "{value} satellites in use.",
            Level.CAUTION: "{value} satellites in use: exactly what your method needs.",
            Level.GROUNDED: "{value} satellites in use (min {limit}).",
        },
        remedy="Wait under open sky, away from walls and your own body.",
        source=source,
    )


def _hdop(fix: Fix, method: str) -> Finding:
    told = fix.hdop if fix.hdop is not None else fix.hdop_sky
    if told is None:
        return Finding(
            name="HDOP",
            level=Level.CAUTION if method == "ready" else Level.GROUNDED,
            reason=Phrase.of("The NMEA data has no HDOP (position accuracy)."),
            remedy="Import NMEA data with GGA or GSA sentences.",
        )
    over = told >= DILUTION_GO
    return measured(
        "HDOP",
        ratio(told),
        ratio(DILUTION_GO),
        sense="max",
        level=Level.GROUNDED if over else Level.CAUTION if told >= DILUTION_GOOD else Level.CLEAR,
        most=Level.CAUTION if method == "ready" else Level.GROUNDED,
        words="HDOP {value} (must be below {limit}): poor satellite geometry."
        if over
        else {
            Level.CLEAR: "HDOP (position accuracy) {value}: good geometry.",
            Level.CAUTION: "HDOP (position accuracy) {value}: usable, not yet good.",
        },
        remedy="Move to open sky and wait. Set home only with a good fix.",
        source=PRACTICE,
    )


def _rest(fix: Fix) -> Finding:
    """The fastest that it reported in its last minute at rest."""
    seen = [fix.speed_ms, None if fix.rest is None else fix.rest.speed_most_ms]
    fastest = max((one for one in seen if one is not None), default=None)
    if fastest is None or fix.speed_ms is None:
        return Finding(
            name="Speed at rest",
            level=Level.CAUTION,
            reason=Phrase.of("The NMEA data has no ground speed."),
            remedy="Check the speed on your screen: at rest it stays near zero.",
        )
    return measured(
        "Speed at rest",
        speed(fastest),
        speed(REST_SPEED_MS),
        sense="max",
        level=Level.GROUNDED if fastest >= REST_SPEED_MS else Level.CLEAR,
        words={
            Level.CLEAR: "It reports {value} at rest.",
            Level.GROUNDED: "It is at rest, but reports {value}.",
        },
        remedy="Leave it still and wait, or move away from walls that reflect.",
        source=PRACTICE,
    )


def _damaged(fix: Fix) -> Finding:
    total = len(fix.bad) + fix.nmea_lines
    many = len(fix.bad) > total * DAMAGED_SHARE
    grounds = many or fix.newest_damaged
    words = "the newest of them, so the fix may be older than it looks" if fix.newest_damaged else "the rest were"
    return Finding(
        name="Damaged lines",
        level=Level.GROUNDED if grounds else Level.CAUTION,
        value=count(len(fix.bad)),
        reason=Phrase.of(
            f"{{bad}} of {{total}} lines could not be used ({fix.bad[0]}); {words}.",
            bad=count(len(fix.bad)),
            total=count(total),
        ),
        remedy="Import a new reading. A lead may be loose.",
        source=OUR_CHOICE,
    )


def _age(fix: Fix, now: datetime) -> Finding:
    if fix.at is None:
        return Finding(
            name="Age of the fix",
            level=Level.GROUNDED if fix.bad else Level.CAUTION,
            reason=Phrase.of("The NMEA data has no time, so it may be old."),
            remedy="Import a new reading.",
            source=OUR_CHOICE,
        )
    age_s = max(0.0, (now - fix.at).total_seconds())
    ahead_s = (fix.at - now).total_seconds()
    if ahead_s > FIX_GROUND_S:
        return Finding(
            name="Age of the fix",
            level=Level.GROUNDED,
            reason=Phrase.of("The fix has a time in the future."),
            remedy="Check the clock of this computer, then import a new reading.",
            source=OUR_CHOICE,
        )
    return measured(
        "Age of the fix",
        second(age_s),
        second(FIX_GROUND_S),
        sense="max",
        level=Level.GROUNDED if age_s > FIX_GROUND_S else Level.CAUTION if age_s > FIX_CAUTION_S else Level.CLEAR,
        words="The fix was {value} old when it was read.",
        remedy="Import a new reading here.",
        source=OUR_CHOICE,
    )


def heading_finding(difference_deg: float) -> tuple[Finding, ...]:
    """Judge the difference in degrees (0 to 180) between the heading on screen and a hand compass or map.

    Source: our choice; that they must agree is common practice, no source.
    """
    return (
        measured(
            "Heading",
            degree(difference_deg),
            degree(HEADING_GROUND_DEG),
            sense="max",
            caution=1 - HEADING_GOOD_DEG / HEADING_GROUND_DEG - 1e-9,
            words={
                Level.CLEAR: "Heading and hand compass differ by {value}: OK.",
                Level.CAUTION: "Heading and hand compass differ by {value}.",
                Level.GROUNDED: "Heading and hand compass differ by {value}: the heading is wrong, and RTH may fly the wrong way.",
            },
            remedy="Move away from metal, calibrate the compass and compare again.",
            source=OUR_CHOICE,
        ),
    )
