"""The charging plan drawn: one lane for each channel, jobs as blocks on a clock."""

from datetime import datetime, timedelta
from zoneinfo import ZoneInfo

from walkround.core.base.struct import Struct
from walkround.core.packs.charging import Charger, Schedule

WIDE, LANE, LEFT, TOP = 640.0, 58.0, 66.0, 30.0


class Block(Struct, frozen=True):
    """One job in its lane, in picture units, with its words."""

    x: float
    y: float
    width: float
    label: str
    times: str
    words: str
    show_label: bool
    show_times: bool


class ScheduleDrawn(Struct, frozen=True):
    """Lanes, blocks, hours, and the words for the whole."""

    width: float
    height: float
    floor: float
    lanes: tuple[tuple[float, str], ...]
    blocks: tuple[Block, ...]
    hours: tuple[tuple[float, str], ...]
    words: str


def draw_schedule(plan: Schedule, charger: Charger, start: datetime, zone: str) -> ScheduleDrawn:
    """A plan from its start (aware), on the pilot's clock."""
    local = start.astimezone(ZoneInfo(zone))
    total = max(plan.ready_min, 10.0)

    def x(minutes: float) -> float:
        return round(LEFT + (WIDE - LEFT - 12) * minutes / total, 1)

    def clock(minutes: float) -> str:
        return f"{local + timedelta(minutes=minutes):%H:%M}"

    blocks = tuple(
        Block(
            x=x(s.start_min),
            y=TOP + LANE * (s.channel - 1) + 5,
            width=max(4.0, round(x(s.end_min) - x(s.start_min) - 2, 1)),
            label=s.job.labels,
            times=f"{clock(s.start_min)} to {clock(s.end_min)}",
            words=f"{s.job.labels}: channel {s.channel}, {clock(s.start_min)} to {clock(s.end_min)}, {s.job.current_a:.1f} A",
            show_label=x(s.end_min) - x(s.start_min) > 34,
            show_times=x(s.end_min) - x(s.start_min) > 118,
        )
        for s in plan.slots
    )
    step = next(m for m in (10, 15, 30, 60, 120, 240, 480, 1440, 10_000) if total / m <= 7)
    hours = tuple((x(m), clock(m)) for m in range(0, int(total) + 1, step))
    return ScheduleDrawn(
        width=WIDE,
        height=TOP + LANE * charger.channels + 8,
        floor=TOP + LANE * charger.channels + 2,
        lanes=tuple((TOP + LANE * i, f"channel {i + 1}") for i in range(charger.channels)),
        blocks=blocks,
        hours=hours,
        words="; ".join(b.words for b in blocks),
    )
