"""What a flight controller says in words: each line told apart by what it is about and whether it is trouble. What is not understood is kept, and never clear."""

import re
from enum import StrEnum

from walkround.core.base.errors import InputError
from walkround.core.base.finding import OUR_CHOICE, Finding, Level, worst
from walkround.core.base.later import pattern
from walkround.core.base.phrase import Phrase
from walkround.core.base.struct import Struct
from walkround.core.checklist.history import EventKind

MOST_LINES, LONGEST = 500, 200


class Subject(StrEnum):
    """What a line is about."""

    COMPASS = "compass"
    LEVEL = "accelerometer"
    GYRO = "gyro"
    BAROMETER = "barometer"
    SATELLITES = "satellites"
    HOME = "home point"
    POWER = "voltage"
    STICKS = "sticks and channels"
    SIGNAL = "signal of the transmitter"
    FAILSAFE = "failsafe"
    LEAN = "lean angle"
    MODE = "mode"
    FENCE = "geofence"
    SWITCH = "arm switch"


class Meaning(Struct, frozen=True, kw_only=True):
    """How a subject is known by its words, what to do when it is trouble, and which event it is then."""

    words: str
    remedy: str
    event: EventKind | None = None


MEANINGS: dict[Subject, Meaning] = {
    Subject.FAILSAFE: Meaning(words=r"fail-?\s?safe", remedy="Switch the transmitter on with the right model, and wait for the signal."),
    Subject.COMPASS: Meaning(words=r"compass|magnetometer|\bmag\b|heading|yaw", remedy="Move away from metal and power off and on. If it stays, calibrate the compass.", event=EventKind.COMPASS_ASKED),
    Subject.LEVEL: Meaning(words=r"accel|\bacc\b|not level|horizon|attitude|\bimu\b|inertial", remedy="Set it level and still. If it stays, calibrate the accelerometer.", event=EventKind.UNSTEADY),
    Subject.GYRO: Meaning(words=r"gyro|moved|moving|keep still|vibration", remedy="Power off, set it down, and power on without touching it."),
    Subject.BAROMETER: Meaning(words=r"\bbaro|altimeter|pressure sensor|altitude", remedy="Shade it from sun and wind, and power off and on at the launch point."),
    Subject.SATELLITES: Meaning(words=r"gps|gnss|satellite|\bsats?\b|\bfix\b|dop\b|position", remedy="Wait under open sky until it has a fix."),
    Subject.HOME: Meaning(words=r"home", remedy="Wait for a good fix, then set home again in the open."),
    Subject.POWER: Meaning(words=r"batter|volt|\bcell|power|\bboard\b|brown", remedy="Power off and measure pack and leads."),
    Subject.STICKS: Meaning(words=r"throttle|stick|channel|\brc\b calibration|trim|endpoint|roll|pitch|rudder", remedy="Throttle to idle, trims centred. If it stays, check the travel of each channel."),
    Subject.SIGNAL: Meaning(words=r"\brc\b|receiver|radio|transmitter|\brx\b|signal|link|telemetry", remedy="Check that the transmitter is on, with the right model, and bound."),
    Subject.LEAN: Meaning(words=r"lean|\bangle", remedy="Set the largest lean angle to what its manual says."),
    Subject.MODE: Meaning(words=r"\bmode", remedy="Select a mode in which it may arm."),
    Subject.FENCE: Meaning(words=r"fence|\bzone|no.?fly", remedy="Check the geofence: launch inside it, or set it for this field."),
    Subject.SWITCH: Meaning(words=r"safety|arm(ing)? switch|\bswitch", remedy="Switch the arm switch off, then on again."),
}  # fmt: skip
"""In this order: the first that fits counts. Source: words of the trade; common practice, no source."""
TROUBLE = pattern(
    r"\b(no|not|never|without|cannot|can't|un\w+|in\w*valid|inconsistent|incomplete|inactive|missing|lost|loss|bad|poor|low|weak|high|strong|large|small|excessive|over|under|out of|"
    r"err\w*|fail\w*|fault\w*|warn\w*|critical|emergency|variance|differ\w*|mismatch\w*|drift\w*|jump\w*|glitch\w*|wait\w*|need\w*|require\w*|request\w*|recalibrate|check|reset|timeout|stuck|disabled|denied|refused|busy|old|stale|moved|moving|too|active|triggered|breach\w*|outside|inside)\b|dop high",
    re.IGNORECASE,
)
GOOD = pattern(
    r"\b(ok|okay|cleared|good|ready|done|complete|completed|calibrated|healthy|normal|found|acquired|connected|3d fix|set|passed|success\w*)\b",
    re.IGNORECASE,
)
PLAIN = pattern(
    r"\b(sensors?|calibration|compass(es)?|magnetometers?|accelerometers?|gyros?|gyroscopes?|barometers?|gps|gnss|satellites?|sats?|fix|2d|3d|hdop|home|point|position|home point|battery|voltage|pack|"
    r"cells?|throttle|receiver|radio|signal|link|mode|geofence|fence|failsafe|fail-?safe|arm|switch|all|is|are|and|the|with|at|level|baro|mag|acc|rc|rx|imu|initialised|initialized|health)\b|[\d.,:;!%()\[\]-]+",
    re.IGNORECASE,
)
"""Words and numbers that change nothing in a good message. Source: our choice."""
_TIME = pattern(r"^\s*(?:[\[(]\s*\d[\d:.,\s]*(?:s|ms)?\s*[\])]\s*[-:]?|\d+:\d[\d:.]*|\d[\d.]*\s*[,;|])\s*")
"""A time before a line: in brackets, with colons, or as the first column. A number of something else stays."""


class Message(Struct, frozen=True, kw_only=True):
    """One line as it was said, what it is about (None: not known here), how it is to be taken, what to do, and which event it is."""

    text: str
    subject: Subject | None
    level: Level
    remedy: str = ""
    event: EventKind | None = None


UNKNOWN = "Not known here. Look it up in its manual; where several stand, begin at the top."
UNSURE = "Read in its manual what it means."


def _without_failsafe(text: str) -> str:
    """A line without that word, which holds one of trouble."""
    return re.sub(MEANINGS[Subject.FAILSAFE].words, "", text, flags=re.IGNORECASE)


def understood(text: str) -> Message:
    """One line, taken apart. Trouble is never clear, and what is not understood is never clear either. Source: ``MEANINGS``, ``TROUBLE``, ``GOOD``."""
    subject = next((one for one, meaning in MEANINGS.items() if re.search(meaning.words, text, re.IGNORECASE)), None)
    if subject is None:
        return Message(text=text, subject=None, level=Level.CAUTION, remedy=UNKNOWN)
    meaning = MEANINGS[subject]
    # Good only where every word is understood: one that is not may be the trouble itself.
    good = GOOD.search(text) is not None and not PLAIN.sub("", GOOD.sub("", text)).strip()
    if TROUBLE.search(_without_failsafe(text)) or (subject is Subject.FAILSAFE and not good):
        return Message(text=text, subject=subject, level=Level.GROUNDED, remedy=meaning.remedy, event=meaning.event)
    if good:
        return Message(text=text, subject=subject, level=Level.CLEAR)
    return Message(text=text, subject=subject, level=Level.CAUTION, remedy=UNSURE)


def read_messages(text: str) -> tuple[Message, ...]:
    """The lines of a pasted list in their order, each once; times before them are passed over. Raises InputError where there are none, or far too many."""
    lines = [_TIME.sub("", line, count=1).strip() for line in text.splitlines() if line.strip()]
    lines = list(dict.fromkeys(line for line in lines if line))
    if not lines:
        raise InputError("Paste what it says, one message a line.", "messages")
    if len(lines) > MOST_LINES:
        raise InputError(f"More than {MOST_LINES} different lines. The newest ones are enough.", "messages")
    return tuple(understood(line[:LONGEST]) for line in lines)


def message_findings(messages: tuple[Message, ...]) -> tuple[Finding, ...]:
    """Each message as a finding, the worst first, otherwise in their order. Source: ``understood``."""
    ordered = sorted(messages, key=lambda one: -one.level)
    return tuple(
        Finding(
            name=one.subject.value.capitalize() if one.subject is not None else "Not known",
            level=one.level,
            reason=Phrase(text=f"“{one.text}”"),
            remedy=one.remedy,
            source=OUR_CHOICE,
        )
        for one in ordered
    )


def said_level(messages: tuple[Message, ...]) -> Level:
    """The worst of a list; nothing said is not clear. Source: ``understood``."""
    return worst(message_findings(messages)) if messages else Level.CAUTION
