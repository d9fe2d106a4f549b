"""What could be flown, and what is chosen: the same on Today and wherever a list of checks is shown for an aircraft."""

from datetime import datetime
from zoneinfo import ZoneInfo

from starlette.datastructures import FormData, QueryParams

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Trait
from walkround.core.base.errors import DeviceError, InputError
from walkround.core.checklist.check import Occasion
from walkround.core.field.site import Site
from walkround.core.packs.pack import Pack
from walkround.core.packs.summary import Summary
from walkround.core.packs.upkeep import grounding, next_packs
from walkround.core.round.context import Context
from walkround.core.round.situation import Situation
from walkround.core.weather.metar import decode_report
from walkround.core.weather.weather import Weather
from walkround.store import flights, hangar
from walkround.store import packs as store_packs
from walkround.store import snags as store_snags
from walkround.store.settings import Settings
from walkround.store.situation import situation_of
from walkround.web.desk import Desk


class Choice:
    """What could be flown, and what is chosen."""

    def __init__(self, desk: Desk, asked: QueryParams | FormData) -> None:
        self.aircraft = hangar.everything(Aircraft)
        self.sites = hangar.everything(Site)
        packs = [pack for pack in hangar.everything(Pack) if pack.usable]
        last = flights.latest()
        self.plane = _chosen(self.aircraft, asked.get("aircraft"), last.aircraft_id if last else None)
        self.site = _chosen(self.sites, asked.get("site"), last.site_id if last else None)
        self.smart = self.plane is not None and self.plane.has(Trait.SMART_PACK)
        self.packs = [p for p in packs if p.fits(self.plane)] if self.plane else []
        now = desk.now()
        box = store_packs.box(now, self.packs)
        self.grounded = store_snags.grounded_packs() | {pack.id for pack, known in box if grounding(pack, known, now)}
        self.pack = _chosen(self.packs, asked.get("pack"), None) if asked.get("pack") else self._next(box, now)
        self.day = desk.now().astimezone(ZoneInfo(self.site.timezone if self.site else "UTC")).date()
        self.asked_day = str(asked.get("day") or self.day.isoformat())

    def _next(self, box: list[tuple[Pack, Summary]], now: datetime) -> Pack | None:
        """The pack that flies next; where none may, the first."""
        held = [(pack, known, known.charge_now(pack, now)) for pack, known in box]
        turns = next_packs(held, now, down=frozenset(self.grounded))
        return turns[0].pack if turns else _chosen(self.packs, None, None)


def _chosen(things, asked, default):  # type: ignore[no-untyped-def]
    """The thing asked for, else the default, else the first."""
    for wanted in (str(asked or ""), str(default or "")):
        for thing in things:
            if str(thing.id) == wanted:
                return thing
    return things[0] if things else None


def weather_now(desk: Desk, settings: Settings, site: Site) -> tuple[Weather | None, str]:
    """The weather of the station in use, or the reason why there is none."""
    try:
        text = desk.weather_station(settings.devices).report(site.station, desk.now())
        return decode_report(text, desk.now(), site.station), ""
    except (DeviceError, InputError) as error:
        return None, error.message


def occasions_asked(asked: QueryParams | FormData) -> tuple[Occasion, ...]:
    """The occasions ticked; names that are none of ours are passed over."""
    return tuple(o for o in Occasion if o.value in asked.getlist("occasion"))


def situation_for(
    desk: Desk, settings: Settings, choice: Choice, weather: Weather | None = None, occasions: tuple[Occasion, ...] = ()
) -> Situation | None:
    """The situation for what is chosen, or None while something is missing."""
    if not (choice.plane and choice.pack and choice.site):
        return None
    return situation_of(
        choice.plane, choice.pack, choice.site, now=desk.now(), settings=settings, weather=weather, occasions=occasions
    )


def field_context(desk: Desk, settings: Settings, site: Site) -> Context | None:
    """What is known of the next flight at a field, with the aircraft flown last; None while there is none."""
    choice = Choice(desk, QueryParams([("site", str(site.id))]))
    weather, _ = weather_now(desk, settings, site)
    situation = situation_for(desk, settings, choice, weather)
    return None if situation is None else Context(situation, {})
