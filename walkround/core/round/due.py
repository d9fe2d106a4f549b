"""What is due today, and why: events and what the logbook shows, calibrations, the season's look, long breaks."""

from datetime import UTC, date, datetime, time, timedelta
from functools import lru_cache
from zoneinfo import ZoneInfo

from walkround.core.aircraft.parts import PartKind
from walkround.core.base.geodesy import Position, distance_m
from walkround.core.base.phrase import Phrase, day, distance
from walkround.core.base.wording import capital
from walkround.core.calibration.earth import VALID, earth_field
from walkround.core.checklist.history import Done, Event, EventKind
from walkround.core.round.situation import Situation

UPSETS_COMPASS = (
    EventKind.FIRMWARE,
    EventKind.CRASH,
    EventKind.HARD_LANDING,
    EventKind.REPAIR,
    EventKind.NEW_BUILD,
    EventKind.CARRIED_FAR,
    EventKind.BOARD_RESET,
    EventKind.METAL_CHANGED,
    EventKind.COMPASS_ASKED,
)
NEVER_FLOWN = "no flight in the logbook"
BEFORE_ALL = datetime(1970, 1, 1, tzinfo=UTC)
"""When something happened of which only the order is known: before everything in this book."""
UPSETS_ACCELEROMETER = (
    EventKind.FIRMWARE,
    EventKind.CRASH,
    EventKind.HARD_LANDING,
    EventKind.NEW_BUILD,
    EventKind.BOARD_RESET,
    EventKind.UNSTEADY,
)
COMPASS_PARTS = (PartKind.FLIGHT_CONTROLLER, PartKind.SATNAV, PartKind.MOTOR)
"""Replacing one of these moves iron or the sensor itself. Source: after a metal change; common practice, no source."""


def day_words(moment: date, today: date) -> str:
    """A date in words: "today", "12 Nov", or with the year when it is not this one."""
    if moment == today:
        return "today"
    return f"{moment.day} {moment:%b}" if moment.year == today.year else f"{moment.day} {moment:%b %Y}"


def happened(situation: Situation) -> tuple[Event, ...]:
    """Events of this aircraft: those noted, and those that the logbook shows by itself (aware times, m).

    A long pause begins when the pilot's limit of days is over; transported a long way means farther from its last flight than the
    pilot's limit; a new site is one where the pilot has no flight yet, until the first of this day there.
    Source: events of the practice; common practice, no source.
    """
    history, noted = situation.history, list(situation.history.events)
    last = history.aircraft_last_flight_at
    if last is not None:
        until = last + timedelta(days=situation.limits.idle_days)
        if until <= situation.now:
            noted.append(Event(kind=EventKind.LONG_IDLE, at=until))
        if history.aircraft_last_position is not None:
            away_m = distance_m(history.aircraft_last_position, situation.site.position)
            if away_m > situation.limits.compass_far_m:
                km = f"{away_m / 1000:.0f} km since {history.aircraft_last_site or 'its last flight'}"
                noted.append(Event(kind=EventKind.CARRIED_FAR, at=last, detail=km))
    if history.site_flown is False:
        start = datetime.combine(situation.today(), time(), ZoneInfo(situation.site.timezone))
        at = max(start, last) if last is not None else start
        noted.append(Event(kind=EventKind.NEW_SITE, at=at, detail=situation.site.name))
    if history.aircraft_flown is False and not any(event.kind is EventKind.NEW_BUILD for event in noted):
        # Seen in the logbook, not noted: whatever was done since it is in this book counts.
        noted.append(Event(kind=EventKind.NEW_BUILD, at=BEFORE_ALL, detail=NEVER_FLOWN))
    return tuple(noted)


def event_words(event: Event, situation: Situation) -> str:
    """An event in words, with its day. Source: the event."""
    when = day_words(situation.local(event.at).date(), situation.today())
    if event.kind is EventKind.NEW_SITE:
        return f"Your first flight at {event.detail}"
    if event.detail == NEVER_FLOWN:
        return f"No flight of {situation.aircraft.name} is in the logbook"
    if event.kind is EventKind.LONG_IDLE:
        return f"Long break, {situation.limits.idle_days:.0f} days over on {when}"
    what = {
        EventKind.FIRMWARE: f"Firmware {event.detail or 'changed'}",
        EventKind.NEW_BUILD: "New build",
        EventKind.CRASH: "Crash",
        EventKind.HARD_LANDING: "Hard landing",
        EventKind.REPAIR: f"Repair or setting ({event.detail})" if event.detail else "Repair or setting changed",
        EventKind.PART_REPLACED: f"New {event.part or 'part'}",
        EventKind.CARRIED_FAR: f"Transported a long way ({event.detail})" if event.detail else "Transported a long way",
        EventKind.BORROWED: f"Borrowed ({event.detail})" if event.detail else "Borrowed aircraft",
    }.get(event.kind, capital(event.kind.value))
    return f"{what}, {when}"


def event_reason(event: Event, situation: Situation) -> Phrase:
    """Why an event raises a check, in words. Source: events of the practice."""
    return Phrase.of(f"{event_words(event, situation)}; not checked since.")


def _newest(situation: Situation, kinds: tuple[EventKind, ...], parts: tuple[PartKind, ...]) -> Event | None:
    """The newest noted event of these kinds, a replaced part of these kinds among them."""
    return max(
        (e for e in situation.history.events if e.kind in kinds or e.part in parts), key=lambda e: e.at, default=None
    )


def compass_due(situation: Situation) -> Phrase | None:
    """Why the compass is to be calibrated today, or None.

    Never calibrated; firmware, crash, hard landing, repair or build since; carried farther (geodesic, m) than the
    pilot's limit; or by the pilot's practice. Source: first flight, after firmware, after hundreds of km, after a
    crash: common practice, no source.
    """
    history = situation.history
    last = history.latest(EventKind.COMPASS_CALIBRATED)
    if last is None:
        return Phrase.of("No compass calibration is on record for this aircraft.")
    upset = _newest(situation, UPSETS_COMPASS, COMPASS_PARTS)
    if upset is not None and upset.at > last.at:
        return Phrase.of(f"{event_words(upset, situation)}: the last compass calibration is older.")
    if last.position is not None:
        away_m = distance_m(last.position, situation.site.position)
        if away_m > situation.limits.compass_far_m:
            where = f" at {last.site}" if last.site else ""
            return Phrase.of(f"{{away}} from the last compass calibration{where}.", away=distance(away_m))
        turned = _field_changed(last.position, situation) if away_m > FIELD_KM * 1000 else None
        if turned is not None:
            return turned
    method = situation.methods.compass
    last_day = situation.local(last.at).date()
    if method == "day" and last_day != situation.today():
        return Phrase.of("Your method: every day.")
    if method == "site" and last.site != situation.site.name:
        return Phrase.of(f"Your method: every new field. The last was {last.site or 'elsewhere'}.")
    return None


FIELD_KM, FIELD_SHARE, FIELD_DIP_DEG = 20.0, 0.05, 3.0
"""Nearer than the first the field is the same; by so much its strength (a share) or its dip may differ before the compass is calibrated anew. Source: our choice."""


def _field_changed(there: Position, situation: Situation) -> Phrase | None:
    """Why the Earth's field here is another than where the compass was calibrated, or None. Source: World Magnetic Model 2025."""
    day = situation.today()
    if not VALID[0] <= day <= VALID[1]:
        return None
    then, here = earth_field(there, day), earth_field(situation.site.position, day)
    if (
        abs(here.strength_ut - then.strength_ut) <= FIELD_SHARE * then.strength_ut
        and abs(here.inclination_deg - then.inclination_deg) <= FIELD_DIP_DEG
    ):
        return None
    return Phrase(text="The Earth's field is another here than where the compass was calibrated.")


def accelerometer_due(situation: Situation) -> Phrase | None:
    """Why the accelerometer is to be calibrated today, or None.

    Source: first flight, after firmware, after a crash or hard landing: common practice, no source.
    """
    history = situation.history
    last = history.latest(EventKind.ACCELEROMETER_CALIBRATED)
    if last is None:
        return Phrase.of("No level calibration is on record for this aircraft.")
    upset = _newest(situation, UPSETS_ACCELEROMETER, (PartKind.FLIGHT_CONTROLLER,))
    if upset is not None and upset.at > last.at:
        return Phrase.of(f"{event_words(upset, situation)}: the last level calibration is older.")
    return None


UPSETS_OPTICAL = (EventKind.CRASH, EventKind.HARD_LANDING, EventKind.FIRMWARE, EventKind.BOARD_RESET)


def optical_due(situation: Situation) -> Phrase | None:
    """Why the sensors that look down and round are to be calibrated by the manual, or None.

    Source: after a crash, a hard landing or new firmware: common practice, no source; many never need it otherwise.
    """
    upset = _newest(situation, UPSETS_OPTICAL, ())
    last = situation.history.latest(EventKind.OPTICAL_CALIBRATED)
    if upset is None or (last is not None and last.at >= upset.at):
        return None
    return Phrase.of(f"{event_words(upset, situation)}: not calibrated since.")


def set_due(situation: Situation) -> Phrase | None:
    """Why the packs of a set are compared, or None where one pack flies alone. Source: matched in charge; common practice, no source."""
    packs = situation.pack.together
    return None if packs == 1 else Phrase(text=f"{situation.pack.label} is a set of {packs} packs that fly together.")


def season_date(situation: Situation) -> date:
    """The newest season date (month and day of the pilot's two) that is not after today.

    Source: season start and mid-season, 1 April and 1 July by default; common practice, no source.
    """
    return _season_date(situation.today(), situation.limits.season_days)


@lru_cache(maxsize=32)
def _season_date(today: date, days: tuple[str, ...]) -> date:
    dates = []
    for text in days:
        month, month_day = (int(part) for part in text.split("-"))
        dates += [date(today.year, month, month_day), date(today.year - 1, month, month_day)]
    return max(d for d in dates if d <= today)


def next_season_date(situation: Situation) -> date:
    """The next season date after today. Source: as ``season_date``."""
    today = situation.today()
    dates = []
    for text in situation.limits.season_days:
        month, month_day = (int(part) for part in text.split("-"))
        dates += [date(today.year, month, month_day), date(today.year + 1, month, month_day)]
    return min(d for d in dates if d > today)


SEASON_EARLY_DAYS = 28
"""A season inspection counts when it was done up to so many days before its date. Source: our choice."""


def season_due(done: Done | None, situation: Situation) -> Phrase | None:
    """Why a season check is due today, or None. ``done``: when it was last passed.

    Source: as ``season_date``.
    """
    start = season_date(situation)
    if done is not None and situation.local(done.at).date() >= start - timedelta(days=SEASON_EARLY_DAYS):
        return None
    ago = "never done" if done is None else f"last done {day_words(situation.local(done.at).date(), situation.today())}"
    return Phrase(text=f"Season inspection of {start.day} {start:%b}; {ago}.")


def idle_reason(situation: Situation) -> Phrase | None:
    """What a long pause of the pilot means today, or None; days. Source: rust shows; the days are our choice."""
    last = situation.history.pilot_last_flight_at
    if last is None:
        return Phrase.of("No flight is in your logbook yet.")
    days = (situation.today() - situation.local(last).date()).days
    if days >= situation.limits.idle_days:
        return Phrase.of("{days} since your last flight: you may be rusty.", days=day(days))
    return None
