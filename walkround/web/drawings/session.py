"""A session as a picture: flights in a row above, a bar for each thing below them, as long as it lasts."""

from walkround.core.base.struct import Struct
from walkround.core.flight.session import Lasts, Session

WIDE, LEFT, TOP, STEP = 720.0, 0.0, 78.0, 72.0
AFTER = 1.25
"""The picture goes on so far past the session (no unit)."""


class ThingDrawn(Struct, frozen=True):
    """A bar in picture units: what it surely lasts, what it may last on top, and whether that is enough."""

    name: str
    y: float
    text_y: float
    sure: float
    maybe_x: float
    maybe: float
    short: bool
    words: str


class SessionDrawn(Struct, frozen=True):
    """The whole picture: flights (place, width, middle, number), the end of the session, bars, height."""

    flights: tuple[tuple[float, float, float, int], ...]
    end_x: float
    things: tuple[ThingDrawn, ...]
    high: float
    words: str


def _lasts(thing: Lasts) -> str:
    if thing.per_hour and thing.charge is None:
        return f"{thing.name}: charge not known"
    low, high = (f"{h:.1f}" for h in thing.hours)
    long = low if low == high else f"{low} to {high}"
    return f"{thing.name}: {long} h" + (f", may run out in flight {thing.out_in}" if thing.out_in else "")


def draw_session(session: Session, flight_min: float) -> SessionDrawn:
    """A session with flights of so many minutes."""
    span_h = session.hours * AFTER
    scale = (WIDE - LEFT) / span_h
    flights = tuple(
        (
            round(LEFT + ((i + 1) * session.each_h - flight_min / 60) * scale, 1),
            round(flight_min / 60 * scale, 1),
            round(LEFT + ((i + 1) * session.each_h - flight_min / 120) * scale, 1),
            i + 1,
        )
        for i in range(session.flights)
    )
    things = []
    for i, thing in enumerate(session.things):
        low, high = (min(hours, span_h) * scale for hours in thing.hours)
        y = TOP + i * STEP
        things.append(
            ThingDrawn(
                thing.name,
                y,
                y - 8,
                round(low, 1),
                round(LEFT + low, 1),
                round(max(0.0, high - low), 1),
                bool(thing.out_in),
                _lasts(thing),
            )
        )
    return SessionDrawn(
        flights=flights, end_x=round(LEFT + session.hours * scale, 1), things=tuple(things),
        high=TOP + len(things) * STEP - 44, words="; ".join(thing.words for thing in things),
    )  # fmt: skip
