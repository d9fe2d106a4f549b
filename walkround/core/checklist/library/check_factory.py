"""How the checks of a station are made: one call each, the usual answers left unsaid."""

from typing import Any

from walkround.core.aircraft.aircraft import ANY, For
from walkround.core.aircraft.parts import PartKind
from walkround.core.answers.kind import Ask
from walkround.core.answers.tick import AskTick
from walkround.core.base.finding import PRACTICE
from walkround.core.checklist.check import Check, Frequency, Occasion, Phase, Station
from walkround.core.checklist.history import EventKind, SnagOn

LAUNCH, DAY, SEASON, EVENT = Frequency.LAUNCH, Frequency.DAY, Frequency.SEASON, Frequency.EVENT
ON_AIRCRAFT, ON_PACK = SnagOn.AIRCRAFT, SnagOn.PACK
AIR, AFTER_LANDING = Phase.AIR, Phase.AFTER_LANDING
LEAN_DEG = (20, 55)
LEAN_REMEDY = f"Set it between {LEAN_DEG[0]} and {LEAN_DEG[1]} degrees."
"""Within these a maximum lean angle is usual. Source: our choice; common practice, no source."""
BROKEN = (EventKind.CRASH, EventKind.HARD_LANDING)
"""After either everything of the cold aircraft is looked at again. Source: common practice, no source."""


class CheckFactory:
    """Makes the checks of one station; ids begin with ``prefix``."""

    def __init__(self, station: Station, prefix: str = "") -> None:
        self.station = station
        self.prefix = prefix or station.value

    def __call__(
        self,
        name: str,
        title: str,
        *,
        how: str,
        why: str,
        fault: str,
        remedy: str,
        ok: str = "Sound",
        ask: Ask | None = None,
        grounds: bool = True,
        when: Frequency = Frequency.LAUNCH,
        after: tuple[EventKind, ...] = (),
        on_parts: tuple[PartKind, ...] = (),
        occasions: tuple[Occasion, ...] = (),
        applies: For = ANY,
        snag: SnagOn | None = None,
        source: str = PRACTICE,
        **more: Any,
    ) -> Check:
        """One check: a tick with ``ok`` unless ``ask`` says otherwise; ``more`` as in ``Check``."""
        return Check(
            id=f"{self.prefix}.{name}",
            station=self.station,
            title=title,
            how=how,
            why=why,
            grounds=grounds,
            frequency=when,
            events=after,
            on_parts=on_parts,
            occasions=occasions,
            applies=applies,
            ask=ask or AskTick(ok=ok),
            fault=fault,
            remedy=remedy,
            snag_on=snag,
            source=source,
            **more,
        )
