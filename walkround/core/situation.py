"""Everything known now, in one value. The store gathers it; the core never fetches."""

from datetime import date, datetime
from zoneinfo import ZoneInfo

from pydantic import Field

from walkround.core.aircraft import Aircraft
from walkround.core.airspace.answer import Airspace
from walkround.core.base import Value
from walkround.core.check import Occasion
from walkround.core.history import History
from walkround.core.limits import Limits
from walkround.core.own import OwnList
from walkround.core.packs.pack import Pack
from walkround.core.schools import Practices
from walkround.core.sites.site import Site
from walkround.core.weather import Weather


class Situation(Value):
    """Aircraft, pack, site, weather, limits, practices, history, the pilot's own
    list, the occasions and the time. Same situation, same plan."""

    now: datetime
    aircraft: Aircraft
    pack: Pack
    site: Site
    planned_min: float = Field(default=8, gt=0, le=600)
    weather: Weather | None = None
    airspace: Airspace | None = None
    limits: Limits = Limits()
    practices: Practices = Practices()
    history: History = History()
    occasions: tuple[Occasion, ...] = ()
    own: OwnList = OwnList()

    def today(self) -> date:
        """The date at the field. Source: the site's time zone."""
        return self.local(self.now).date()

    def local(self, moment: datetime) -> datetime:
        """A moment in the field's own time. Source: IANA time zone of the site."""
        return moment.astimezone(ZoneInfo(self.site.timezone))
