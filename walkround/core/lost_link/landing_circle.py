"""Where it lands when it comes home by itself: how far landings spread, whether the home point is where it should be, and whether the clear circle holds both."""

import math

from walkround.core.base.finding import OUR_CHOICE, Finding, Level, measured
from walkround.core.base.phrase import height
from walkround.core.base.struct import Struct
from walkround.core.field import planar_geometry
from walkround.core.field.site import LAUNCH_CIRCLE_M, Site
from walkround.core.lost_link.rehearsals import OwnReturn
from walkround.core.sensors.nmea import Fix
from walkround.core.sensors.rest_rules import RANGE_ERROR_M, fix_spread_m
from walkround.core.sensors.satellites import CAREFUL_SATELLITES, DILUTION_GO, DILUTION_GOOD, ScreenSeen

HOME_CAUTION_M, HOME_GROUND_M = 10.0, 30.0
"""A home point so far (m) from the launch point is not where it should be, even on open ground. Source: our choice."""


class LandingSpread(Struct, frozen=True, kw_only=True):
    """Within how many m of the home point 95 of a hundred landings lie. ``fix_m``: of the fix, ``assumed`` where HDOP is not known; ``own_m``: of the aircraft's own landings, from so
    many ``rehearsals``, 0: the usual ones."""

    fix_m: float
    own_m: float
    assumed: bool
    rehearsals: int

    @property
    def radius_m(self) -> float:
        """Both together. Source: independent errors add by their squares."""
        return math.hypot(self.fix_m, self.own_m)


def landing_spread(fix: Fix | None, screen: ScreenSeen | None, own: OwnReturn) -> LandingSpread:
    """How far landings spread with this fix (m). Where HDOP is not known it counts as the worst one that the number of satellites lets through, and never
    as less than what the fix did at rest.

    Source: ``fix_spread_m``; ``OwnReturn.within_m``.
    """
    told = fix_spread_m(fix)
    if screen is not None and screen.hdop is not None:
        told = 2 * screen.hdop * RANGE_ERROR_M
    many = screen is not None and screen.satellites is not None and screen.satellites >= CAREFUL_SATELLITES
    usual = 2 * (DILUTION_GOOD if many else DILUTION_GO) * RANGE_ERROR_M
    seen = 0.0 if fix is None or fix.rest is None else fix.rest.spread_95_m or 0.0
    return LandingSpread(
        fix_m=max(usual, seen) if told is None else told,
        own_m=own.within_m,
        assumed=told is None,
        rehearsals=own.rehearsals,
    )


def clear_at_m(site: Site, paced_m: float | None, offset_m: float, toward_deg: float | None) -> float | None:
    """How far (m) the nearest obstacle is from a landing so far (m) from the launch point, towards a bearing (degrees true; None: not known, the worst counts).

    ``paced_m``: the clear radius as paced round the launch point, None: not paced. None where neither plan nor paces tell. Source: the field's plan; what was paced holds within its
    circle only.
    """
    told = []
    if paced_m is not None:
        told.append(paced_m - offset_m)
    if site.standing:
        if toward_deg is None:
            nearest = min(site.away(mark)[0] for mark in site.standing)
            told.append(nearest - offset_m)
        else:
            spot = planar_geometry.ahead(site.launch.xy, toward_deg, offset_m)
            told.append(min(mark.nearest(spot)[0] for mark in site.standing))
    return max(0.0, min(told)) if told else None


def judge_landing(
    site: Site, spread: LandingSpread, paced_m: float | None, offset_m: float | None, toward_deg: float | None
) -> tuple[Finding, ...]:
    """Judge where it would land: the offset of the home point where it was measured, and the clear ground there against the spread of its landings, all in m.

    Source: ``landing_spread``; 10 ft (3 m) common practice, no source.
    """
    found = [] if offset_m is None else [_offset(offset_m)]
    clear_m = clear_at_m(site, paced_m, offset_m or 0.0, toward_deg)
    if clear_m is None:
        return tuple(found)
    radius = spread.radius_m
    off = offset_m is not None and offset_m > 0
    level = Level.CLEAR if clear_m >= radius else Level.CAUTION
    if off and clear_m < LAUNCH_CIRCLE_M:
        level = Level.GROUNDED
    own = f"{spread.rehearsals} returns of its own" if spread.rehearsals else "usual landings"
    fix = "an HDOP that is not known" if spread.assumed else "today's fix"
    words = f"Its landings spread {{radius}} round the home point ({{across}} across): {fix} and {own}."
    where = "there" if off else "round the launch point"
    found.append(
        measured(
            "Landing circle", height(clear_m), height(radius), sense="min", level=level,
            words={
                Level.CLEAR: f"{words} {{value}} {where} are clear.",
                Level.CAUTION: f"{words} Only {{value}} {where} are clear.",
                Level.GROUNDED: f"Where it would land only {{value}} are clear. {words}",
            },
            remedy="Set home again at the launch point." if off else "Move to a wider clear circle, or land by hand.",
            source="2DRMS of the fix and Rayleigh spread of its landings; 10 ft (3 m): common practice, no source",
            numbers={"radius": height(radius), "across": height(2 * radius)},
        )
    )  # fmt: skip
    return tuple(found)


def _offset(offset_m: float) -> Finding:
    level = Level.GROUNDED if offset_m >= HOME_GROUND_M else Level.CAUTION if offset_m > HOME_CAUTION_M else Level.CLEAR
    return measured(
        "Home point", height(offset_m), height(HOME_GROUND_M if level is Level.GROUNDED else HOME_CAUTION_M), sense="max", level=level,
        words={
            Level.CLEAR: "The home point is {value} from the launch point.",
            Level.CAUTION: "The home point is {value} from the launch point.",
            Level.GROUNDED: "The home point is {value} from the launch point: it would come back to another place.",
        },
        remedy="Wait for a good fix, and set home again at the launch point.", source=OUR_CHOICE,
    )  # fmt: skip
