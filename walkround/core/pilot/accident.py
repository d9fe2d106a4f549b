"""An accident or a near miss: what to do first, what to write down, who has to be told and by when."""

from enum import StrEnum

from walkround.core.base.struct import Struct
from walkround.core.pilot.regions import DEFER


class Occurrence(StrEnum):
    """What it was."""

    INJURY = "somebody was hurt"
    FIRE = "fire, or a pack that smokes"
    CRASH = "crash, nobody hurt"
    LOST = "lost model"
    NEAR_MISS = "near miss"


ACT_FIRST: tuple[tuple[str, str], ...] = (
    ("Stop it.", "Throttle closed, motors stopped. If it flies: land at once, away from people."),
    ("The person first.", "Send one to call, one to help, one to guide the ambulance in. Press on what bleeds."),
    ("Keep everybody away.", "Nobody touches the aircraft while a blade can turn or a pack can burn."),
    ("A pack smokes or burns:", "Upwind and well away. Much water or sand, from a distance. Do not breathe the smoke."),
    ("Then make it safe.", "Disarm, unplug, take the pack outdoors on its own. Transmitter off last."),
    (
        "Leave it as it lies",
        "if somebody was hurt. Take photos first: the place, the aircraft, the sticks and switches.",
    ),
)
"""What is done first, in order. Source: common practice, no source; first aid and fire brigade prevail."""


class Report(Struct, frozen=True, kw_only=True):
    """Who has to be told, by when, of which occurrences, and where that stands."""

    who: str
    by_when: str
    of: tuple[Occurrence, ...]
    source: str


ALWAYS: tuple[Report, ...] = (
    Report(
        who="Emergency services", by_when="At once", of=(Occurrence.INJURY, Occurrence.FIRE), source="common practice, no source"
    ),
    Report(
        who="Air traffic service or club controller", by_when="At once, if it flew off towards other aircraft",
        of=(Occurrence.LOST, Occurrence.NEAR_MISS), source="common practice, no source",
    ),
    Report(who="Your liability insurer", by_when="As its policy says, mostly within a week", of=(Occurrence.INJURY, Occurrence.FIRE, Occurrence.CRASH), source="common practice, no source"),
    Report(who="Your club, and the owner of the land", by_when="The same day", of=tuple(Occurrence), source="common practice, no source"),
)  # fmt: skip
BY_REGION: dict[str, tuple[Report, ...]] = {
    "eu-open": (
        Report(
            who="Safety investigation authority", by_when="Without delay, if somebody died or was seriously hurt",
            of=(Occurrence.INJURY,), source="Regulation (EU) No 996/2010, Article 9",
        ),
        Report(
            who="Aviation authority, occurrence report", by_when="Within 72 hours",
            of=(Occurrence.INJURY, Occurrence.NEAR_MISS), source="Regulation (EU) No 376/2014, Article 4; 2019/947, Article 19",
        ),
    ),
    "uk": (
        Report(
            who="Air Accidents Investigation Branch", by_when="Without delay, if somebody died or was seriously hurt",
            of=(Occurrence.INJURY,), source="retained Regulation (EU) No 996/2010, Article 9",
        ),
        Report(
            who="Civil Aviation Authority, occurrence report", by_when="Within 72 hours",
            of=(Occurrence.INJURY, Occurrence.NEAR_MISS), source="retained Regulation (EU) No 376/2014",
        ),
    ),
    "us-recreation": (
        Report(
            who="National Transportation Safety Board", by_when="At once, if somebody died or was seriously hurt",
            of=(Occurrence.INJURY,), source="49 CFR 830.2 and 830.5",
        ),
        Report(
            who="Federal Aviation Administration", by_when="Within 10 days, when flown under part 107 and somebody was seriously hurt, or damage above 500 dollars",
            of=(Occurrence.INJURY, Occurrence.CRASH), source="14 CFR 107.9",
        ),
    ),
}  # fmt: skip
"""Reports that a region asks for, by its id. All from memory; the authority's current text prevails."""
PREVAILS = DEFER


def reports(region: str, what: Occurrence) -> tuple[Report, ...]:
    """Who has to be told of an occurrence, the most urgent first; without a region what holds everywhere.

    Source: ``ALWAYS``, ``BY_REGION``.
    """
    own = [report for report in BY_REGION.get(region, ()) if what in report.of]
    usual = [report for report in ALWAYS if what in report.of]
    at_once = [report for report in usual if report.by_when.startswith("At once")]
    return (*at_once, *own, *(report for report in usual if report not in at_once))
