"""Everything known now, in one value. The store gathers it; the core never fetches."""

from datetime import date, datetime
from typing import Annotated
from zoneinfo import ZoneInfo

from msgspec import field

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.airspace.rules import Airspace
from walkround.core.base.value import Allowed, Value
from walkround.core.checklist.check import Depth, Occasion
from walkround.core.checklist.custom import CustomChecklist
from walkround.core.checklist.history import History
from walkround.core.field.site import Site
from walkround.core.packs.pack import Pack
from walkround.core.pilot.limits import Limits
from walkround.core.pilot.methods import ChosenMethods
from walkround.core.weather.weather import Weather


class ChosenDepth(Value):
    """How deep today's list goes and why, in words; ``found``: checks that found a fault in the last three rounds; ``asked``: those
    the pilot wants besides; ``left_at_home``: those that can only be done at home, were open when the pilot was at the field, and do not
    ground."""

    depth: Depth
    why: tuple[str, ...]
    found: tuple[str, ...] = ()
    asked: tuple[str, ...] = ()
    left_at_home: tuple[str, ...] = ()


class Situation(Value):
    """Aircraft, pack, site, weather, limits, methods, history, the pilot's own
    list, the occasions, the depth of the list (None: everything that is due) and the time. Same situation, same plan."""

    now: datetime
    aircraft: Aircraft
    pack: Pack
    site: Site
    planned_min: Annotated[float, Allowed(gt=0, le=600)] = 8.0
    weather: Weather | None = None
    airspace: Airspace | None = None
    limits: Limits = field(default_factory=Limits)
    methods: ChosenMethods = field(default_factory=ChosenMethods)
    history: History = field(default_factory=History)
    occasions: tuple[Occasion, ...] = ()
    depth: ChosenDepth | None = None
    custom_checklist: CustomChecklist = field(default_factory=CustomChecklist)

    def today(self) -> date:
        """The date at the field."""
        return self.local(self.now).date()

    def local(self, moment: datetime) -> datetime:
        """A moment in the field's own time. Source: IANA time zone of the site."""
        return moment.astimezone(ZoneInfo(self.site.timezone))


USUAL_SHARE = 0.4
"""Of the minutes that a full pack is said to give, a usual flight takes this share where no flight is logged. Source: our
choice, below half the pack; common practice, no source."""


def usual_minutes(history: History, aircraft: Aircraft) -> float:
    """Minutes of a usual flight with this pack: as logged, else a share of what the aircraft is said to fly.

    Source: the logbook; ``USUAL_SHARE``.
    """
    return round(history.pack_typical_min or aircraft.flight_min * USUAL_SHARE, 1)
