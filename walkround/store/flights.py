"""Flights: timer started, landed, logged."""

from datetime import datetime, timedelta
from typing import Any

from peewee import Select, fn

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.errors import InputError, MissingError, SignedError
from walkround.core.base.units import Units
from walkround.core.checklist.history import SnagOn
from walkround.core.packs.pack import Pack
from walkround.core.round.consequences import Happened, after_flight
from walkround.core.round.takeoff import judge_takeoff
from walkround.store import hangar, packs, part_ages, snags
from walkround.store.air_models import AirNoteRow
from walkround.store.models import FlightRow, RoundRow
from walkround.store.records import record_of
from walkround.store.statements import prepared, until_changed

LONGEST = timedelta(hours=24)
MOST_V = 70
SCRUB = timedelta(seconds=60)
"""So long after the countdown a take-off can be taken back. Source: our choice."""


def of_round(round_id: int) -> FlightRow | None:
    """The flight of a round, if it took off."""
    found: FlightRow | None = _of_round.one(round_id)
    return found


@prepared
def _of_round(round_: Any) -> Select:
    return FlightRow.select().where(FlightRow.round == round_)


def take_off(round_id: int, at: datetime, units: Units | None = None, *, countdown_s: float = 0.0) -> FlightRow:
    """Start the flight timer of a signed round, so many seconds after the tap. A second tap gives the same flight.

    ``units``: in which a refusal speaks, None: metric ones. Raises MissingError, and SignedError when the round is not signed, and when
    something keeps it down now: its verdict, an open snag, an old signature, the light, the weather or the pack.
    """
    row = RoundRow.get_or_none(RoundRow.id == round_id)
    if row is None:
        raise MissingError(f"There is no round number {round_id}.")
    if row.state != "signed":
        raise SignedError("Sign the round before you take off.")
    have = of_round(round_id)
    if have is not None:
        return have
    down = packs.why_down(hangar.get(Pack, row.pack_id))
    if down:
        raise SignedError(f"{down} Start a round with another pack.")
    record = record_of(round_id)
    signed = record.situation
    history = signed.history.model_copy(
        update={
            "snags": tuple(snags.open_ones(row.aircraft_id, row.pack_id)),
            "pack_summary": packs.in_short(row.pack_id, at),
        }
    )
    situation = signed.model_copy(update={"pack": hangar.get(Pack, row.pack_id), "history": history})
    against = judge_takeoff(situation, record.evidence, level=record.verdict.level, signed_at=record.signed_at, now=at)
    if against:
        said = " ".join(f"{f.reason.say(units or Units())} {f.remedy}".strip() for f in against)
        raise SignedError(f"Not now. {said}")
    mass_g = signed.aircraft.mass_g
    off_at = at + timedelta(seconds=countdown_s)
    return FlightRow.create(
        round=round_id, aircraft=row.aircraft_id, pack=row.pack_id, site=row.site_id, took_off_at=off_at, mass_g=mass_g
    )


def scrub(round_id: int, at: datetime) -> None:
    """Take a take-off back that did not happen: in its countdown and a minute after it. Without a flight nothing changes.

    Raises SignedError later, or once something was noted in the air.
    """
    flight = of_round(round_id)
    if flight is None:
        return
    noted = AirNoteRow.select().where(AirNoteRow.round == round_id).exists()
    if flight.landed_at is not None or noted or at - flight.took_off_at > SCRUB:
        raise SignedError("It is in the air already. Land, then log the flight.")
    flight.delete_instance()


def landed_after(round_id: int, minutes: float) -> FlightRow:
    """Correct a landing that was tapped late: it was so many minutes after take-off. Raises as ``fly_on``, and InputError for a time after the tap."""
    flight = of_round(round_id)
    if flight is None or flight.landed_at is None:
        raise MissingError("This round has not landed yet.")
    if flight.logged_at is not None:
        raise SignedError("This flight is in the logbook already.")
    if not 0 <= minutes <= (flight.minutes or 0.0) + 0.02:
        raise InputError("A landing can be corrected to an earlier time only.", "minutes")
    flight.minutes = minutes
    flight.landed_at = flight.took_off_at + timedelta(minutes=minutes)
    flight.save()
    return flight


def land(round_id: int, at: datetime) -> FlightRow:
    """Stop the timer. A second tap changes nothing. Raises MissingError when it never took off."""
    flight = of_round(round_id)
    if flight is None:
        raise MissingError("This round has no flight yet.")
    if flight.landed_at is None:
        flight.landed_at = max(at, flight.took_off_at)
        flight.minutes = (flight.landed_at - flight.took_off_at).total_seconds() / 60
        flight.save()
    return flight


def fly_on(round_id: int) -> FlightRow:
    """Take a tap on *landed* back: the timer has never stopped. A second tap changes nothing.

    Raises MissingError when it never took off, SignedError once the line is in the logbook.
    """
    flight = of_round(round_id)
    if flight is None:
        raise MissingError("This round has no flight yet.")
    if flight.logged_at is not None:
        raise SignedError("This flight is in the logbook already.")
    flight.landed_at = flight.minutes = None
    flight.save()
    return flight


def log(
    round_id: int,
    *,
    left_percent: float | None,
    left_v: float | None,
    happened: str,
    note: str,
    minutes: float,
    at: datetime,
) -> FlightRow:
    """Write the logbook line of a landed flight, with the event and snag that follow from what happened.

    ``minutes`` may correct the timer. Raises InputError or MissingError; a line once written stays.
    """
    flight = of_round(round_id)
    if flight is None or flight.landed_at is None:
        raise MissingError("Land before you log the flight.")
    if flight.logged_at is not None:
        raise SignedError("This flight is in the logbook already.")
    if happened not in set(Happened):
        raise InputError("Choose what happened.", "happened")
    what = Happened(happened)
    if what is not Happened.NOTHING and not note:
        raise InputError("Describe in a few words what happened.", "note")
    if not 0 < minutes <= LONGEST.total_seconds() / 60:
        raise InputError("Minutes must be more than 0 and less than a day.", "minutes")
    if left_percent is not None and not 0 <= left_percent <= 100:
        raise InputError("The percentage left must be between 0 and 100.", "left_percent")
    if left_v is not None and not 0 < left_v <= MOST_V:
        raise InputError(f"The voltage left must be above 0 and below {MOST_V} V.", "left_v")
    if left_percent is None and left_v is None:
        raise InputError("Enter what is left in the pack: percentage or voltage.", "left_percent")
    flight.minutes = minutes
    flight.landed_at = flight.took_off_at + timedelta(minutes=minutes)
    flight.left_percent, flight.left_v = left_percent, left_v
    flight.happened, flight.note, flight.logged_at = what.value, note, at
    flight.save()
    event, opened = after_flight(what, note)
    if event is not None:
        hangar.add_event(flight.aircraft_id, event, flight.landed_at, detail=note)
    for snag in opened:
        owner = flight.pack_id if snag.on is SnagOn.PACK else flight.aircraft_id
        snags.open_one(snag.on, owner, snag.title, grounds=snag.grounds, at=at)
    packs.refresh(flight.pack_id, at)
    part_ages.note_wear(hangar.get(Aircraft, flight.aircraft_id), at)
    return flight


def ever_flown(aircraft: Aircraft) -> bool:
    """Whether an aircraft was ever flown, here or before this book."""
    flown = FlightRow.select().where((FlightRow.aircraft == aircraft.id) & FlightRow.landed_at.is_null(False))
    return aircraft.flown_before > 0 or bool(flown.exists())


def last_landed(aircraft_id: int) -> datetime | None:
    """When an aircraft landed last (aware), None where it never did."""
    landed = FlightRow.select(fn.MAX(FlightRow.landed_at)).where(FlightRow.aircraft == aircraft_id).scalar()
    return None if landed is None else datetime.fromisoformat(landed) if isinstance(landed, str) else landed


def flown_since(moment: datetime) -> int:
    """How many flights took off since then."""
    return FlightRow.select().where(FlightRow.took_off_at >= moment).count()


def latest() -> FlightRow | None:
    """The newest flight, if any."""
    found: FlightRow | None = _latest.one()
    return found


@prepared
def _latest() -> Select:
    return FlightRow.select().order_by(FlightRow.took_off_at.desc()).limit(1)


@until_changed
def unfinished() -> tuple[int, bool] | None:
    """The round of the newest flight that is not in the logbook yet, and whether it has landed; None where all are written."""
    open_ones = FlightRow.logged_at.is_null() & FlightRow.round.is_null(False)
    row = FlightRow.select().where(open_ones).order_by(FlightRow.took_off_at.desc()).first()
    return None if row is None else (int(row.round_id), row.landed_at is not None)


@prepared
def _of_aircraft(aircraft: Any, most: Any) -> Select:
    flown = (FlightRow.aircraft == aircraft) & FlightRow.minutes.is_null(False)
    return (
        FlightRow.select(FlightRow.took_off_at, FlightRow.minutes)
        .where(flown)
        .order_by(FlightRow.took_off_at.desc())
        .limit(most)
    )


@prepared
def _totals(aircraft: Any) -> Select:
    flown = (FlightRow.aircraft == aircraft) & FlightRow.minutes.is_null(False)
    return FlightRow.select(fn.COUNT(FlightRow.id), fn.COALESCE(fn.SUM(FlightRow.minutes), 0.0)).where(flown)


def of_aircraft(aircraft_id: int, most: int = 300) -> list[tuple[datetime, float]]:
    """The newest flights of an aircraft: when they took off (aware) and their minutes."""
    return [(at, minutes) for at, minutes in _of_aircraft(aircraft_id, most)]


def totals(aircraft_id: int) -> tuple[int, float]:
    """How many flights an aircraft has in the logbook, and their minutes."""
    row = _totals.first(aircraft_id)
    return (int(row[0]), float(row[1])) if row is not None else (0, 0.0)
