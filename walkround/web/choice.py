"""What could be flown, and what is chosen: the same on Today and wherever a list of checks is shown for an aircraft."""

from collections.abc import Sequence
from typing import TypeVar
from zoneinfo import ZoneInfo

from starlette.datastructures import FormData, QueryParams

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Trait
from walkround.core.base.errors import DeviceError, InputError
from walkround.core.base.kept import Same
from walkround.core.base.plain import whole
from walkround.core.calibration.earth import here_at
from walkround.core.checklist.check import Depth, Occasion
from walkround.core.checklist.library import CHECKS
from walkround.core.field.site import Site
from walkround.core.packs.pack import Pack
from walkround.core.round.context import Context
from walkround.core.round.depth import choose
from walkround.core.round.situation import Situation
from walkround.core.sensors.devices import Here, WeatherStation
from walkround.core.weather.metar import decode_report
from walkround.core.weather.weather import Weather
from walkround.simulators import device
from walkround.store import box, flights, hangar, rounds
from walkround.store.experience import flights_with, found_lately
from walkround.store.settings import Settings
from walkround.store.situation import situation_of
from walkround.web.app_context import AppContext

MOST_OFFERED = 24
NOTHING_ASKED = QueryParams()
T = TypeVar("T", Aircraft, Pack, Site)


class Choice:
    """What could be flown, and what is chosen."""

    def __init__(self, ctx: AppContext, asked: QueryParams | FormData) -> None:
        self.fleet = hangar.everything(Aircraft)
        self.sites = hangar.everything(Site)
        last = flights.latest()
        usual = last.aircraft_id if last else None
        self.aircraft = _chosen(
            self.fleet, asked.get("aircraft") or _flies(self.fleet, asked.get("pack"), usual), usual
        )
        self.site = _chosen(self.sites, asked.get("site"), last.site_id if last else None)
        self.smart = self.aircraft is not None and self.aircraft.has(Trait.SMART_PACK)
        self.packs = box.fitting(self.aircraft) if self.aircraft else ()
        now = ctx.now()
        self.turns = turns = box.flying_order(self.aircraft, now) if self.aircraft else ()
        self.grounded = {pack.id for pack in self.packs} - {turn.pack.id for turn in turns}
        self.ready = sum(turn.charged for turn in turns)
        next_one = turns[0].pack if turns else None  # the one that flies next; where none may, the first
        self.pack = _chosen(self.packs, asked.get("pack") or (next_one.id if next_one else None), None)
        self.offered = _offered(self.packs, [turn.pack for turn in turns], self.pack)
        self.pack_options = Same(*self.offered), frozenset(self.grounded), self.pack and self.pack.id
        self.day = ctx.now().astimezone(ZoneInfo(self.site.timezone if self.site else "UTC")).date()
        self.asked_day = str(asked.get("day") or self.day.isoformat())


def _flies(fleet: Sequence[Aircraft], pack_id: object, usual: int | None) -> int | None:
    """The number of an aircraft that a pack fits, the usual one if it does; None where no pack is asked for, or none fits."""
    fits = [one.id for one in fleet if pack_id and str(pack_id) in {str(pack.id) for pack in box.fitting(one)}]
    return usual if usual in fits or not fits else fits[0]


def _offered(packs: Sequence[Pack], in_order: Sequence[Pack], chosen: Pack | None) -> Sequence[Pack]:
    """The packs to choose from: all of them by label, or of many those that fly next, and the one chosen."""
    if len(packs) <= MOST_OFFERED:
        return packs
    offered = {pack.id for pack in in_order[:MOST_OFFERED]} | ({chosen.id} if chosen else set())
    return [pack for pack in packs if pack.id in offered]


def _chosen(things: Sequence[T], asked: object, default: object) -> T | None:
    """The thing asked for, else the default, else the first."""
    for wanted in (str(asked or ""), str(default or "")):
        for thing in things:
            if str(thing.id) == wanted:
                return thing
    return things[0] if things else None


def weather_now(ctx: AppContext, settings: Settings, site: Site) -> tuple[Weather | None, str]:
    """The weather of the station in use, or the reason why there is none."""
    try:
        text = device(WeatherStation, settings.devices).report(site.station, ctx.now())
        return decode_report(text, ctx.now(), site.station), ""
    except (DeviceError, InputError) as error:
        return None, error.message


def occasions_asked(asked: QueryParams | FormData) -> tuple[Occasion, ...]:
    """The occasions ticked; names that are none of ours are passed over."""
    return tuple(o for o in Occasion if o.value in asked.getlist("occasion"))


def with_depth(situation: Situation, asked: QueryParams | FormData) -> Situation:
    """The situation with the depth of its list: as deep as the day asks, deeper where the pilot wishes, with what they ask besides."""
    wish, besides = str(asked.get("depth") or ""), set(asked.getlist("ask"))
    chosen = choose(
        situation,
        flights=flights_with(situation.aircraft.id) + situation.aircraft.flown_before,
        found=found_lately(situation.aircraft.id),
        wish=Depth(wish) if wish in set(Depth) else Depth.SHORT,
        asked=tuple(check.id for check in CHECKS if check.id in besides) if besides else (),
    )
    return situation.model_copy(update={"depth": chosen})


def situation_for(
    ctx: AppContext,
    settings: Settings,
    choice: Choice,
    weather: Weather | None = None,
    occasions: tuple[Occasion, ...] = (),
    asked: QueryParams | FormData = NOTHING_ASKED,
) -> Situation | None:
    """The situation for what is chosen, or None while something is missing."""
    if not (choice.aircraft and choice.pack and choice.site):
        return None
    situation = situation_of(
        choice.aircraft,
        choice.pack,
        choice.site,
        now=ctx.now(),
        settings=settings,
        weather=weather,
        occasions=occasions,
        packs_ready=choice.ready,
    )
    return with_depth(situation, asked)


def field_context(ctx: AppContext, settings: Settings, site: Site) -> Context | None:
    """What is known of the next flight at a field, with the aircraft flown last; None while there is none."""
    choice = Choice(ctx, QueryParams([("site", str(site.id))]))
    weather, _ = weather_now(ctx, settings, site)
    situation = situation_for(ctx, settings, choice, weather)
    return None if situation is None else Context(situation, {})


def aircraft_context(ctx: AppContext, settings: Settings, aircraft_id: int) -> Context | None:
    """What is known of the next flight of an aircraft (id), at the field flown last; None while a pack that fits or a field is missing."""
    choice = Choice(ctx, QueryParams([("aircraft", str(aircraft_id))]))
    if choice.site is None or choice.aircraft is None or choice.aircraft.id != aircraft_id:
        return None
    weather, _ = weather_now(ctx, settings, choice.site)
    situation = situation_for(ctx, settings, choice, weather)
    return None if situation is None else Context(situation, {})


def here_of(ctx: AppContext, aircraft_id: int) -> Here:
    """Where the flight controller of an aircraft (id) is: at the field of its next flight, in its weather."""
    context = aircraft_context(ctx, ctx.settings(), aircraft_id)
    if context is None:
        return here_at(None, ctx.now(), None)
    weather = context.situation.weather
    return here_at(context.situation.site, ctx.now(), weather.qnh_hpa if weather is not None else None)


def round_asked(given: str, aircraft_id: int) -> int | None:
    """The round of an aircraft that a page was opened from, to go back to: in progress or signed; None where there is none."""
    number = whole(given)
    return number if number and rounds.is_of(number, aircraft_id) else None
