"""Region packs: numbers of law as defaults. They defer: the authority's current text and the club's rules prevail."""

from walkround.core.base.errors import InputError
from walkround.core.base.struct import Struct
from walkround.core.pilot.limits import Limits

WRITTEN = "2026-11"
"""When these were written down, from memory."""
DEFER = "From memory, as a starting point: the authority's current text and your club's rules prevail."


class Region(Struct, frozen=True, kw_only=True):
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
            "In sight (VLOS) at all times. With goggles you need a spotter.",
            "Registration from 250 g or with a camera. Number on the aircraft.",
            "Far from people (A3): 150 m from built-up areas, no uninvolved people below. Near people (A2): 30 m, 5 m in slow mode.",
            "At night a green flashing light. Walk Round grounds after civil twilight anyway.",
        ),
        source="Regulation (EU) 2019/947, Annex part A",
    ),
    Region(
        id="uk",
        name="United Kingdom, open category",
        limits={"height_max_m": 120, "people_m": 50},
        asks=(
            "In sight (VLOS) at all times.",
            "Flyer ID and operator ID. Operator ID on the aircraft.",
            "50 m from uninvolved people, unless it is light enough to be flown closer. Otherwise 150 m from built-up areas.",
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
            "In sight of you or of an observer beside you (VLOS). Give way to all crewed aircraft.",
            "Authorisation before flying in controlled airspace. Elsewhere 400 ft above ground.",
            "Carry proof of the safety test. From 250 g: registered, marked outside, with remote ID.",
            "Visibility and cloud limits are those of 14 CFR 107.51. The distance to people is our choice: the rules give no number.",
        ),
        source="49 USC 44809; 14 CFR 107.51 and 107.29",
    ),
)


def region(name: str) -> Region:
    """The region pack of a name. Raises InputError. Source: ``REGIONS``."""
    found = next((r for r in REGIONS if r.id == name), None)
    if found is None:
        raise InputError("Choose a region from the list.", "region")
    return found


def with_region(limits: Limits, name: str) -> Limits:
    """The pilot's limits (inside units) with the defaults of a region in place of theirs; what it does not name stays."""
    return Limits.model_validate({**limits.model_dump(), **region(name).limits})
