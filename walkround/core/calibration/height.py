"""The barometer at rest: the height it shows on the ground, and how it drifts in sun and wind; and what optical sensors can see at this light and over this ground."""

from collections.abc import Sequence
from statistics import mean

from walkround.core.base.errors import InputError
from walkround.core.base.finding import OUR_CHOICE, Finding, Level
from walkround.core.base.phrase import Phrase, height, minute
from walkround.core.field.marks import MarkKind
from walkround.core.field.site import Site, Terrain
from walkround.core.field.sun import CIVIL_TWILIGHT_DEG
from walkround.core.weather.atmosphere import pressure_altitude_m, station_pressure_hpa

SHOWN_M, DRIFT_M_MIN = (3.0, 10.0), (0.5, 2.0)
"""The height shown on the ground, and its drift a minute: good up to the first, not to be flown with above the second. Source: our choice."""
SHORTEST_MIN = 1.0
LOW_SUN_DEG = 5.0
"""Below it the light is low and long shadows wander over the ground. Source: our choice."""


def rest_findings(first_m: float, last_m: float, minutes: float) -> tuple[Finding, ...]:
    """A height at rest on the ground, in m, read twice so many minutes apart; below zero counts as above. Raises InputError for less than a minute.

    Source: ``SHOWN_M``, ``DRIFT_M_MIN``.
    """
    if minutes < SHORTEST_MIN:
        raise InputError("Wait a minute or more between the two.", "minutes")
    shown, drift = max(abs(first_m), abs(last_m)), abs(last_m - first_m) / minutes
    return (
        Finding(
            name="Height shown", level=_level(shown, SHOWN_M), source=OUR_CHOICE, remedy="Power off and on at the launch point." if shown > SHOWN_M[0] else "",
            reason=Phrase.of("It shows {first} and {last} on the ground.", first=height(first_m), last=height(last_m)),
        ),
        Finding(
            name="Drift", level=_level(drift, DRIFT_M_MIN), source=OUR_CHOICE, remedy="Shade the sensor from sun and wind, and repeat." if drift > DRIFT_M_MIN[0] else "",
            reason=Phrase.of("It drifts by {drift} in {minutes}.", drift=height(abs(last_m - first_m)), minutes=minute(minutes)),
        ),
    )  # fmt: skip


ENDS_S = 5.0
"""So many s at either end of a reading are averaged. Source: our choice."""


def drift_findings(readings: Sequence[tuple[float, float]]) -> tuple[Finding, ...]:
    """Air pressure at rest, as moments in s and hPa, as the height that it shows when it was zeroed at the beginning. Raises InputError for less than a minute.

    Source: ICAO standard atmosphere; as ``rest_findings``.
    """
    if len(readings) < 2:
        raise InputError("This recording has no air pressure.", "minutes")
    begin, end = readings[0][0], readings[-1][0]
    first, last = (
        mean(hpa for at_s, hpa in readings if low <= at_s <= high)
        for low, high in ((begin, begin + ENDS_S), (end - ENDS_S, end))
    )
    return rest_findings(0.0, round(pressure_altitude_m(last) - pressure_altitude_m(first), 1), (end - begin) / 60)


ALTITUDE_M = (10.0, 30.0)
"""How far a height above the sea may be off. Source: our choice; a hectopascal is about eight metres."""


def altitude_finding(shown_m: float, elevation_m: float, set_hpa: float, qnh_hpa: float) -> Finding:
    """A height above the sea as shown, with the pressure setting it was shown with, against the elevation of the field, all in m and hPa; ``qnh_hpa``: the QNH now.

    Source: ICAO standard atmosphere; ``ALTITUDE_M``.
    """
    expected_m = pressure_altitude_m(station_pressure_hpa(qnh_hpa, elevation_m)) - pressure_altitude_m(set_hpa)
    off = abs(shown_m - expected_m)
    remedy = "Set the pressure to the QNH, or zero it at the launch point." if off > ALTITUDE_M[0] else ""
    words = Phrase.of(
        "It shows {shown}; with this setting {expected} is right.", shown=height(shown_m), expected=height(expected_m)
    )
    return Finding(
        name="Height above the sea", level=_level(off, ALTITUDE_M), reason=words, remedy=remedy, source=OUR_CHOICE
    )


def _level(value: float, band: tuple[float, float]) -> Level:
    return Level.CLEAR if value <= band[0] else Level.CAUTION if value <= band[1] else Level.GROUNDED


def optical_findings(site: Site, sun_deg: float, *, snow: bool) -> tuple[Finding, ...]:
    """What sensors that look down or round can do now: by the sun's height in degrees, water and snow under the flight. Never better than care where one of them speaks against it.

    Source: common practice, no source; the maker's manual prevails.
    """
    said = []
    if sun_deg < CIVIL_TWILIGHT_DEG:
        said.append(
            _care(
                "Light",
                "It is too dark for optical sensors: they see nothing.",
                "Fly it as if it had none: it will not stop by itself.",
            )
        )
    elif sun_deg < LOW_SUN_DEG:
        said.append(
            _care(
                "Light",
                "The sun is low: glare and long shadows mislead optical sensors.",
                "Keep more distance than they would.",
            )
        )
    if site.over_water or site.terrain is Terrain.WATER or any(mark.kind is MarkKind.WATER for mark in site.marks):
        said.append(
            _care(
                "Water",
                "Over water the sensors that look down follow the waves, or see a depth.",
                "Stay at three metres or higher over it, and switch landing protection off there.",
            )
        )
    if snow:
        said.append(
            _care(
                "Snow",
                "Over snow the sensors that look down find nothing to hold on to.",
                "Hold it by position: wait for a good fix, and land by hand.",
            )
        )
    if not said:
        said.append(
            Finding(
                name="Optical sensors",
                level=Level.CLEAR,
                reason=Phrase(text="Light and ground are good for optical sensors."),
                source=OUR_CHOICE,
            )
        )
    return tuple(said)


def _care(name: str, words: str, remedy: str) -> Finding:
    return Finding(name=name, level=Level.CAUTION, reason=Phrase(text=words), remedy=remedy, source=OUR_CHOICE)
