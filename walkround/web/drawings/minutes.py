"""Minutes as ranges under each other: what physics says, what was described, what was flown, and today."""

from walkround.core.base.struct import Struct
from walkround.core.base.wording import counted
from walkround.core.flight.estimate import Endurance
from walkround.core.flight.power import Estimate

WIDE, ROW, LEFT, TOP = 430.0, 38.0, 116.0, 8.0


class MinutesBar(Struct, frozen=True):
    """One range in picture units; a point has no width."""

    name: str
    y: float
    x: float
    width: float
    mid: float
    text: str
    text_x: float
    today: bool


class MinutesDrawn(Struct, frozen=True):
    """The bars, the scale, and the words."""

    width: float
    height: float
    floor: float
    bars: tuple[MinutesBar, ...]
    scale: tuple[tuple[float, str], ...]
    words: str


def draw_minutes(known: Endurance) -> MinutesDrawn:
    """What is known of the minutes of a full pack, today last and largest."""
    rows: list[tuple[str, Estimate, bool]] = []
    if known.physics is not None:
        rows.append(("Physics", known.physics, False))
    if known.basis == "current":
        rows.append(("By the current", known.first, False))
    told = known.described_min
    rows.append(("As entered", Estimate(low=told, mid=told, high=told), False))
    if known.logged is not None:
        rows.append((f"{counted(known.flights, 'flight')} logged", known.logged, False))
    rows.append(("Today", known.today, True))
    most = max(span.high for _, span, _ in rows) * 1.08
    step = next(s for s in (1, 2, 5, 10, 20, 50, 100, 1_000) if most / s <= 5)

    def x(minutes: float) -> float:
        return round(LEFT + (WIDE - LEFT - 98) * minutes / most, 1)

    bars = []
    for index, (name, span, today) in enumerate(rows):
        text = f"{span.mid:.0f} min" if span.low == span.high else f"{span.low:.0f} to {span.high:.0f} min"
        bars.append(
            MinutesBar(
                name=name,
                y=TOP + ROW * index,
                x=x(span.low),
                width=round(x(span.high) - x(span.low), 1),
                mid=x(span.mid),
                text=text,
                text_x=x(span.high) + 8,
                today=today,
            )
        )
    return MinutesDrawn(
        width=WIDE,
        height=TOP + ROW * len(rows) + 22,
        floor=TOP + ROW * len(rows) + 2,
        bars=tuple(bars),
        scale=tuple((x(m), str(m)) for m in range(0, int(most) + 1, step)),
        words="; ".join(f"{b.name}: {b.text}" for b in bars),
    )
