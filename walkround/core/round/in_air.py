"""A flight as it is spoken: the countdown, the routine of this aircraft and day, half, turn back, before landing, land.

Texts and times stand here; the page only says them. Nothing here flies the aircraft.
"""

from collections.abc import Collection, Iterable
from enum import StrEnum

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Kind, Trait
from walkround.core.base.struct import Struct
from walkround.core.base.units import Measure, Units, to_pilot
from walkround.core.flight.flight_clock import ChargeRead, FlightClock
from walkround.core.flight.flight_plan import winds_at
from walkround.core.round.context import Context

COUNTDOWN_S, HAND_COUNTDOWN_S = 5, 10
"""From the tap to the take-off, so that thumbs are on the sticks; longer where the aircraft has to be picked up. Source: our choice."""
BEFORE_LANDING_S = 25.0
APART_S = 4.0
"""So much time a sentence has. Source: our choice."""
WARN_S = 60.0
ROUTINE_S = 120.0
"""The routine is over by then. Source: our choice."""
OVERDUE = 5
POINTS = ("north", "north-east", "east", "south-east", "south", "south-west", "west", "north-west")
ROSE = tuple((name, 45 * i) for i, name in enumerate(POINTS))
"""The eight directions with their bearings in degrees."""
_SPOKEN_UNITS = {"m/s": "metres a second", "kt": "knots", "mph": "miles an hour", "km/h": "kilometres an hour"}


class Tone(StrEnum):
    """What a call is, where nothing can speak: so many tones."""

    ROUTINE = "routine"
    TIME = "time"
    TURN = "turn"
    LAND = "land"


class Call(Struct, frozen=True, kw_only=True):
    """What is said, and when: seconds after take-off, before it less than 0."""

    at_s: float
    text: str
    tone: Tone = Tone.ROUTINE


class InAir(Struct, frozen=True, kw_only=True):
    """A flight: its clock, the seconds of its countdown, what is said, the charge in per cent at which it turns back at the
    latest, and what its times do not know."""

    clock: FlightClock
    countdown_s: int
    calls: tuple[Call, ...]
    turn_percent: float | None
    unknown: tuple[str, ...]


def countdown_s(aircraft: Aircraft, launch: str) -> int:
    """Seconds from the tap to the take-off. Source: our choice."""
    return HAND_COUNTDOWN_S if aircraft.has(Trait.HAND_LAUNCH) or launch == "hand" else COUNTDOWN_S


def routine(aircraft: Aircraft, asked: Collection[str]) -> tuple[tuple[float, str], ...]:
    """What is said in the first minute, with the seconds each takes, from the checks of the round (by id) that are done in the air.

    Hands off only where it holds position and height. Source: practice of the first minute; common practice, no source.
    """
    lines: list[tuple[float, str]] = []
    if "first.grass_first" in asked:
        lines.append((5, "Stay over land for the first minute."))
    if "first.by_eye" in asked:
        lines.append((5, "By eye, low and close."))
    if "first.low_hop" in asked:
        lines.append((8, "Climb straight ahead until you can recover from a stall."))
    elif aircraft.kind is Kind.WING:
        lines.append((8, "Climb straight ahead."))
    if "first.hover" in asked:
        lines += [(5, "Hover at head height. Listen."), (5, "Five."), (4, "Ten.")]
    if "first.home_armed" in asked:
        lines.append((2, "Home point confirmed?"))
    if "first.home_hover" in asked:
        lines.append((5, "Is the home point confirmed?"))
    if "first.holds" in asked and aircraft.has(Trait.SATNAV) and aircraft.has(Trait.FLIGHT_CONTROLLER):
        lines += [(6, "Hands off the sticks, thumbs ready. Does it hold?"), (4, "Thumbs back.")]
    if "first.trim" in asked:
        lines.append((8, "At a safe height: trim it, straight and level."))
    if "first.moves" in asked:
        lines += _moves(aircraft)
    if "first.rth_trial" in asked:
        lines += [(9, "Start return to home. Does it turn to you, or climb?"), (5, "Cancel it.")]
    if "first.rust" in asked:
        lines.append((6, "Squares and turns both ways, low and close, for two minutes."))
    return tuple(lines)


def _moves(aircraft: Aircraft) -> list[tuple[float, str]]:
    if aircraft.kind is not Kind.WING:
        return [
            (5, "Small moves. Forward and back."),
            (5, "Left and right."),
            (5, "Turn left and right."),
            (5, "Up and down."),
        ]
    moves = []
    if aircraft.has(Trait.AILERONS) or aircraft.has(Trait.ELEVONS):
        moves.append((5.0, "Small moves. Roll left and right."))
    if aircraft.has(Trait.ELEVATOR) or aircraft.has(Trait.ELEVONS) or aircraft.has(Trait.V_TAIL):
        moves.append((5.0, "Nose up and down."))
    if aircraft.has(Trait.RUDDER) or aircraft.has(Trait.V_TAIL):
        moves.append((5.0, "Rudder left and right."))
    return moves


def before_landing(aircraft: Aircraft) -> str:
    """What is looked at before landing. Source: spot, wind, gear, people; common practice, no source."""
    gear = "Gear down. " if aircraft.has(Trait.RETRACTS) else ""
    flaps = "Flaps. " if aircraft.has(Trait.FLAPS) else ""
    return f"Before landing: spot clear? Wind? {gear}{flaps}People?"


def point_words(degrees: float) -> str:
    """The direction of a bearing in degrees true, as one of eight."""
    return POINTS[round(degrees / 45) % 8]


def wind_words(speed_ms: float, from_deg: float | None, units: Units) -> str:
    """The wind at flying height, to be spoken in the pilot's units; empty when it is calm. Speed in m/s, degrees true."""
    number = round(to_pilot(speed_ms, Measure.SPEED, units))
    if number < 1:
        return ""
    unit = _SPOKEN_UNITS[units.speed]
    come = "" if from_deg is None else f" from the {point_words(from_deg)}"
    return f"Wind up there {number} {unit}{come}."


CHARGE_UNKNOWN = "The charge was not read: these times count from a full pack. Land early."
WIND_UNKNOWN = "The wind is not known: these times are for still air. Turn back early."


def unknown(context: Context) -> tuple[str, ...]:
    """What the times of a flight do not know, in words: unknown is never clear. Source: the round."""
    found = []
    if not context.charge_known and not context.situation.aircraft.has(Trait.NO_MOTOR):
        found.append(CHARGE_UNKNOWN)
    if not context.situation.site.indoors and (context.weather is None or context.weather.wind_ms is None):
        found.append(WIND_UNKNOWN)
    return tuple(found)


def first_out(context: Context, clock: FlightClock) -> str:
    """What of the other gear sets the times of a flight, in words; empty where the pack or the plan does."""
    if clock.limit != "gear":
        return ""
    known = [one for one in context.situation.history.gear if one.minutes is not None]
    weakest = min(known, key=lambda one: one.minutes or 0.0)
    return f"{weakest.name} may be empty first: these times count from its charge."


def _timed(clock: FlightClock, aircraft: Aircraft, wind: str, turn_percent: float | None, after_s: float) -> list[Call]:
    """The calls of the clock that come after a second."""
    at_charge = "" if turn_percent is None else f" Or at {round(turn_percent)} percent."
    calls = [
        Call(at_s=clock.land_s / 2, text=f"Half. {wind}".strip(), tone=Tone.TIME),
        Call(at_s=clock.turn_s, text="Turn back now.", tone=Tone.TURN),
        Call(at_s=clock.land_s, text="Land now.", tone=Tone.LAND),
    ]
    if clock.turn_s > 2 * WARN_S:
        calls.append(Call(at_s=clock.turn_s - WARN_S, text=f"Turn back in one minute.{at_charge}", tone=Tone.TIME))
    before = max(clock.land_s - BEFORE_LANDING_S, clock.turn_s + APART_S)
    if before < clock.land_s - APART_S / 2:
        calls.append(Call(at_s=before, text=before_landing(aircraft), tone=Tone.TIME))
    for minute in range(1, OVERDUE + 1):
        at_s = clock.land_s + 60 * minute
        low = "The reserve is being used. " if at_s >= clock.reserve_s else ""
        over = f"{minute} minutes over. " if minute > 1 else "One minute over. "
        calls.append(Call(at_s=at_s, text=f"{over}{low}Land now.", tone=Tone.LAND))
    kept = [call for call in calls if call.at_s > after_s or call.tone in (Tone.TURN, Tone.LAND)]
    if kept and clock.land_s / 2 + APART_S > clock.turn_s:
        kept = [call for call in kept if not call.text.startswith("Half")]
    return sorted(kept, key=lambda call: call.at_s)


def _countdown(seconds: int) -> Iterable[Call]:
    words = {10: "Ten", 5: "Five", 4: "Four", 3: "Three", 2: "Two", 1: "One"}
    return (Call(at_s=-left, text=f"{word}.") for left, word in words.items() if left <= seconds)


def calls_of(
    clock: FlightClock,
    aircraft: Aircraft,
    asked: Collection[str],
    *,
    seconds: int,
    wind: str = "",
    turn_percent: float | None = None,
    after_s: float = 0.0,
) -> tuple[Call, ...]:
    """All that is said on a flight, in order. A line of the routine waits for a call of the clock, and none comes after the turn.

    ``seconds``: of the countdown; ``after_s``: the flight is that old already, in s.
    """
    timed = _timed(clock, aircraft, wind, turn_percent, after_s)
    said, at_s = [], 1.0
    for takes, text in routine(aircraft, asked):
        for call in timed:
            if abs(call.at_s - at_s) < APART_S:
                at_s = call.at_s + APART_S
        if at_s > min(ROUTINE_S, clock.turn_s - APART_S):
            break
        said.append(Call(at_s=at_s, text=text))
        at_s += takes
    return tuple(sorted([*_countdown(seconds), *said, *timed], key=lambda call: call.at_s))


def in_air(context: Context, asked: Collection[str], units: Units, read: ChargeRead | None = None) -> InAir:
    """The flight of a round: its plan flown in the weather it knows, with the checks (ids) to do in the air.

    ``read``: a charge read in the air. Source: ``flight_clock``.
    """
    s, clock = context.situation, context.flight_clock(read)
    wind_ms, _ = winds_at(context.weather, s.site, context.flight_plan.height_m)
    from_deg = context.weather.wind_from_deg if context.weather is not None else None
    turn = context.turn_percent
    seconds = countdown_s(s.aircraft, s.methods.launch)
    lacks = unknown(context)
    weakest = first_out(context, clock)
    wind = "The wind is not known." if WIND_UNKNOWN in lacks else wind_words(wind_ms, from_deg, units)
    calls = calls_of(
        clock, s.aircraft, asked,
        seconds=seconds, wind=wind, turn_percent=turn, after_s=read.at_s if read else 0.0,
    )  # fmt: skip
    return InAir(
        clock=clock,
        countdown_s=seconds,
        calls=calls,
        turn_percent=turn,
        unknown=(*lacks, *([weakest] if weakest else [])),
    )
