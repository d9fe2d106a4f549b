"""The plan of a flight drawn on the pack: what each leg takes, what is left, the reserve, where to turn back."""

from walkround.core.base.struct import Struct
from walkround.core.flight.flight_clock import FlightClock
from walkround.core.flight.flight_plan import FlightNeeds, FlightPlan
from walkround.core.packs.charge import ChargeRange
from walkround.core.round.context import Context
from walkround.core.round.evidence import current
from walkround.store.rounds import OpenRound

WIDE, TOP, TALL = 600.0, 34.0, 54.0
LEFT = 8.0


class Piece(Struct, frozen=True):
    """One leg on the pack, in picture units."""

    name: str
    words: str
    x: float
    width: float
    middle: float
    show: bool
    role: str


class FlightDrawn(Struct, frozen=True):
    """The whole picture: pieces from right (take-off) to left (landing), marks, and the words."""

    width: float
    pieces: tuple[Piece, ...]
    held_x: float
    low_x: float
    high_x: float
    reserve_x: float
    reserve_width: float
    left_text_x: float
    turn_text_x: float
    turn_x: float | None
    turn_words: str
    timer_words: str
    left_words: str
    words: str
    short: bool


def _x(percent: float) -> float:
    return round(LEFT + (WIDE - 2 * LEFT) * min(100.0, max(0.0, percent)) / 100, 1)


def draw_flight(asked: FlightNeeds, held: ChargeRange, clock: FlightClock) -> FlightDrawn:
    """A plan on the charge that the pack holds."""
    pieces: list[Piece] = []
    at = held.mid
    for leg in asked.legs:
        low = at - leg.percent
        x, end = _x(low), _x(at)
        words = f"{leg.name} {leg.minutes:.1f} min, {leg.percent:.0f} %"
        if leg.ground_ms:
            words += f", {leg.ground_ms:.0f} m/s over the ground"
        pieces.append(
            Piece(
                name=leg.name,
                words=words,
                x=x,
                width=round(max(0.0, end - x), 1),
                middle=round((x + end) / 2, 1),
                show=end - x > 62,
                role=leg.name.lower(),
            )
        )
        at = low
    low, mid, high = asked.left
    goes_out = any(leg.name == "Back" for leg in asked.legs)
    return FlightDrawn(
        width=WIDE,
        pieces=tuple(pieces),
        held_x=_x(held.mid),
        low_x=_x(max(0.0, low)),
        high_x=_x(max(0.0, high)),
        reserve_x=_x(asked.reserve_percent),
        reserve_width=round(_x(asked.reserve_percent) - LEFT - 1, 1),
        left_text_x=min(330.0, _x(max(0.0, low))),
        turn_text_x=min(380.0, _x(asked.turn_back_percent) + 4),
        turn_x=_x(asked.turn_back_percent) if goes_out else None,
        turn_words=f"turn back at {asked.turn_back_percent:.0f} %" if goes_out else "",
        timer_words=f"{clock.timer_min:g}",
        left_words=f"{max(0.0, mid):.0f} % left ({max(0.0, low):.0f} to {max(0.0, high):.0f})",
        words="; ".join(p.words for p in pieces) + f"; about {max(0.0, mid):.0f} % left at landing",
        short=mid < asked.reserve_percent,
    )


def draw_plan(loaded: OpenRound, plan: FlightPlan) -> FlightDrawn:
    """A plan of a round on what its pack holds."""
    context = Context(loaded.walk.situation, current(loaded.evidence))
    return draw_flight(context.flight_needs(plan), context.charge, context.flight_clock(plan=plan))
