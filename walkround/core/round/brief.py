"""The crew brief: what everybody on the field has to know before anything is plugged in, from what the round knows."""

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.emergency import EmergencyCard, emergency_card
from walkround.core.aircraft.failsafe import Action
from walkround.core.aircraft.traits import Trait
from walkround.core.base.finding import Finding, Level
from walkround.core.base.geodesy import decimal, sexagesimal
from walkround.core.base.phrase import Phrase, degree, height, minute, percent
from walkround.core.base.struct import Struct
from walkround.core.base.wording import capital
from walkround.core.field import planar_geometry
from walkround.core.field.marks import Mark, MarkKind
from walkround.core.field.site import USUAL_CREW, Role, Site
from walkround.core.flight.rth_altitude import rth_altitude
from walkround.core.flight.speed_home import when_link_lost
from walkround.core.round.context import Context

MOST_HAZARDS = 10
EMERGENCY: tuple[str, ...] = (
    "Somebody walks in: whoever sees it calls “people”. The pilot turns away, stays high and lands elsewhere.",
    "Crewed aircraft: whoever sees it calls “aircraft” and points. The pilot descends at once, out of its path.",
    "Out of control: the pilot calls “heads up”. Everyone watches it and moves out from under it.",
    "Crash: motors off, aircraft off, transmitter last. Nobody touches it while a blade can turn.",
    "A pack smokes or burns: move away upwind and keep others away. Call for help. Use plenty of water or sand, from a distance.",
    "Somebody is hurt: one person calls, one helps, one guides the emergency services in.",
)
"""What is said for the worst. Source: common practice, no source; the maker, the club and the authority prevail."""


class Brief(Struct, frozen=True, kw_only=True):
    """The brief of one flight: the findings that say the conditions, what to mind, who does what, lost link, emergency."""

    aircraft: Aircraft
    site: Site
    conditions: tuple[Finding, ...]
    hazards: tuple[Phrase, ...]
    crew: tuple[Role, ...]
    lost_link: tuple[Phrase, ...]
    card: EmergencyCard
    handover: str
    emergency: tuple[str, ...]
    rescue: tuple[str, ...]


def _hazard(site: Site, mark: Mark) -> Phrase:
    away, bearing = site.away(mark)
    tall = ", {tall} high" if mark.height_m else ""
    numbers = {"away": height(away), "where": degree(bearing)}
    if mark.height_m:
        numbers["tall"] = height(mark.height_m)
    name = capital(mark.words)
    return Phrase.of(f"{name}{tall}: {{away}} towards {{where}}.", **numbers)


def hazards(site: Site) -> tuple[Phrase, ...]:
    """What lies in or beside the flight, hazards first, then what stands highest and nearest; m and degrees true."""
    area = site.flight_polygon()
    box, near = planar_geometry.bounding_box(area), []
    for mark in site.marks:
        if not mark.within(box, 100) and site.away(mark)[0] >= 50:
            continue
        gap = mark.gap_m(area, closed=True)
        if gap < 100 or site.away(mark)[0] < 50:
            near.append((mark.kind is not MarkKind.HAZARD, mark.kind is not MarkKind.WIRE, gap, mark.id, mark))
    return tuple(_hazard(site, mark) for *_, mark in sorted(near, key=lambda row: row[:4])[:MOST_HAZARDS])


def _lost(context: Context) -> tuple[Phrase, ...]:
    s = context.situation
    site = s.site
    lines = [Phrase(text=when_link_lost(s.aircraft, site, context.failsafe.action))]
    if not s.aircraft.has(Trait.RETURN_HOME):
        return tuple(lines)
    needs = rth_altitude(site, s.aircraft, s.limits, context.weather)
    set_m = context.rth_altitude_m or needs.lowest_m
    words = (
        "It climbs to {set} and flies straight to the launch point. Keep the circle there clear. Lowest safe: {least}."
    )
    if context.failsafe.action in (None, Action.RETURN):
        lines.append(Phrase.of(words, set=height(set_m), least=needs.lowest))
    if context.turn_percent is not None:
        lines.append(Phrase.of("Turn back from the farthest point at {charge}.", charge=percent(context.turn_percent)))
    return tuple(lines)


def make_brief(context: Context, conditions: tuple[Finding, ...]) -> Brief:
    """The brief for what a round knows; ``conditions``: findings of weather and airspace (inside units), worst first in it.

    Source: conditions, hazards, roles, lost link and emergency plan: 14 CFR 107.49 (from memory); common practice.
    """
    s = context.situation
    told = sorted(conditions, key=lambda f: (-f.level, f.margin if f.margin is not None else 1.0))
    shown = [f for f in told if f.level is not Level.CLEAR] or told[:3]
    rescue = [f"{decimal(s.site.position)}, which is {sexagesimal(s.site.position)}"]
    rescue += [text for text in (s.site.access, s.site.emergency) if text]
    return Brief(
        aircraft=s.aircraft,
        site=s.site,
        conditions=tuple(shown[:6]),
        hazards=hazards(s.site),
        crew=s.site.crew or USUAL_CREW,
        lost_link=_lost(context),
        card=emergency_card(s.aircraft),
        handover=context.handover.words() if context.handover is not None else "",
        emergency=EMERGENCY,
        rescue=tuple(rescue),
    )


def planned_words(context: Context) -> Phrase:
    """How long and how far the flight goes, in minutes and m. Source: the plan of the round and the field's box."""
    site = context.situation.site
    sector = planar_geometry.bearing(site.pilot_spot.xy, _middle(site))
    return Phrase.of(
        "{minutes} in the air, up to {top}, at most {far} away, towards {where}.",
        minutes=minute(round(context.planned_min)),
        top=height(context.top_m),
        far=height(site.farthest_m()),
        where=degree(sector),
    )


def _middle(site: Site) -> planar_geometry.Point:
    area = site.flight_polygon()
    return (sum(x for x, _ in area) / len(area), sum(y for _, y in area) / len(area))
