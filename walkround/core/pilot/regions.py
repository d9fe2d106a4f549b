"""Region packs: numbers of law as defaults. They defer: the authority's current text and the club's rules prevail."""

from dataclasses import dataclass

from walkround.core.base.errors import InputError
from walkround.core.pilot.limits import Limits

WRITTEN = "2026-11"
"""When these were written down, from memory."""
DEFER = "From memory, and only to start with: the authority's current text and your club's rules prevail."


@dataclass(frozen=True, slots=True, kw_only=True)
class Region:
    """A region: its name, the limits it brings (inside units, by name), what else it asks, and its source."""

    id: str
    name: str
    limits: dict[str, float]
    asks: tuple[str, ...]
    source: str


FOOT_M, MILE_M = 0.3048, 1609.344
REGIONS: tuple[Region, ...] = (
    Region(
        id="eu-open",
        name="European Union, open category",
        limits={"height_max_m": 120, "people_m": 30},
        asks=(
            "Within sight all through; a spotter when you fly by goggles.",
            "Registered from 250 g or with a camera; the number on the aircraft.",
            "Far from people (A3): 150 m from built-up areas, nobody uninvolved below. Near people (A2): 30 m, 5 m in slow mode.",
            "At night a green flashing light. Walk Round grounds after civil twilight all the same.",
        ),
        source="Regulation (EU) 2019/947, Annex part A",
    ),
    Region(
        id="uk",
        name="United Kingdom, open category",
        limits={"height_max_m": 120, "people_m": 50},
        asks=(
            "Within sight all through.",
            "Flyer and operator numbers; the operator number on the aircraft.",
            "50 m from people not involved, unless it is light enough to be let nearer; 150 m from built-up areas otherwise.",
        ),
        source="UK CAP 2320 and the retained Regulation 2019/947",
    ),
    Region(
        id="us-recreation",
        name="United States, recreation",
        limits={
            "height_max_m": 400 * FOOT_M,
            "people_m": 30,
            "visibility_m": 3 * MILE_M,
            "cloud_clearance_m": 500 * FOOT_M,
        },
        asks=(
            "Within sight, or within that of an observer beside you; give way to everything manned.",
            "In controlled airspace authorisation first; elsewhere 400 ft above ground.",
            "Safety test passed and its proof carried; registered from 250 g, marked outside, with remote identification.",
            "Visibility and cloud here are those of 14 CFR 107.51. The distance to people is our choice; no number is set.",
        ),
        source="49 USC 44809; 14 CFR 107.51 and 107.29",
    ),
)


def region(name: str) -> Region:
    """The region pack of a name. Raises InputError. Source: ``REGIONS``."""
    found = next((r for r in REGIONS if r.id == name), None)
    if found is None:
        raise InputError("Choose a region of the list.", "region")
    return found


def with_region(limits: Limits, name: str) -> Limits:
    """The pilot's limits (inside units) with the defaults of a region in place of theirs; what it does not name stays."""
    return Limits.model_validate({**limits.model_dump(), **region(name).limits})
