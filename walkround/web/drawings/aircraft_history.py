"""The history of an aircraft as a path: a bar a flight, as high as its minutes, and flags for what happened."""

from collections.abc import Sequence
from datetime import datetime, timedelta

from walkround.core.base.struct import Struct
from walkround.core.base.wording import capital
from walkround.core.checklist.history import Event, EventKind

WIDE, BASE, HIGH, LEFT = 1220.0, 62.0, 46.0, 10.0
ROWS, ROW, LETTER = 3, 17.0, 7.4
"""Rows of words below the path, their distance, and how wide a letter is, in picture units."""
LEAST, LETTERS = timedelta(days=30), 34
BAD = (EventKind.CRASH, EventKind.HARD_LANDING, EventKind.FAILSAFE_FAILED)


class Flag(Struct, frozen=True):
    """An event: where it stands, its words and where they begin and stand (y 0: no room), and whether it was bad."""

    x: float
    words: str
    text_x: float
    y: float
    bad: bool


class HistoryDrawn(Struct, frozen=True):
    """Bars as one path, the flags, the height of the picture, when it begins and ends, and its words."""

    bars: str
    flags: tuple[Flag, ...]
    high: float
    begins: str
    words: str


def draw_history(
    flights: Sequence[tuple[datetime, float]], events: Sequence[Event], now: datetime
) -> HistoryDrawn | None:
    """Flights (aware time, minutes) and events on one line of time; None where there is nothing."""
    times = [at for at, _ in flights] + [event.at for event in events if event.at <= now]
    if not times:
        return None
    begin = min(*times, now - LEAST)
    span = max((now - begin).total_seconds(), 1.0)

    def x(at: datetime) -> float:
        return round(LEFT + (WIDE - 2 * LEFT) * (at - begin).total_seconds() / span, 1)

    most = max((minutes for _, minutes in flights), default=1.0) or 1.0
    bars = " ".join(f"M{x(at)},{BASE} v-{max(2.0, HIGH * minutes / most):.1f}" for at, minutes in flights if at <= now)
    free = [0.0] * ROWS
    flags = []
    for event in sorted((e for e in events if e.at <= now), key=lambda e: e.at):
        full = capital(f"{event.kind.value} {event.detail}".strip())
        words = full if len(full) <= LETTERS else f"{full[: LETTERS - 1].rstrip()}…"
        wide, at = LETTER * len(words), x(event.at)
        text_x = min(at + 6, WIDE - LEFT - wide)
        row = next((number for number, taken in enumerate(free) if text_x >= taken), None)
        if row is not None:
            free[row] = text_x + wide + 12
        flags.append(
            Flag(at, words, round(text_x, 1), 0.0 if row is None else BASE + 36 + ROW * row, event.kind in BAD)
        )
    return HistoryDrawn(
        bars=bars, flags=tuple(flags), high=BASE + 40 + ROW * ROWS, begins=f"{begin:%B %Y}",
        words=f"{len(flights)} flights and {len(flags)} events since {begin:%B %Y}.",
    )  # fmt: skip
