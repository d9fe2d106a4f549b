"""Zones of airspace from above, north up, in metres about a field."""

from collections.abc import Sequence
from datetime import datetime

from walkround.core.airspace.rules import NEAR_M, active
from walkround.core.airspace.zone import Rule, Zone, flat
from walkround.core.base.geodesy import to_plane
from walkround.core.base.struct import Struct
from walkround.core.field.site import Site
from walkround.web.drawings.site import path_of

HALF_M = NEAR_M * 1.04
LOOKS = {Rule.CLOSED: "closed", Rule.ASK: "ask", Rule.UP_TO: "up-to", Rule.CAUTION: "mind"}


class ZoneDrawn(Struct, frozen=True):
    """One zone: its outline with holes, its look, its words, where they stand."""

    path: str
    look: str
    words: str
    x: float
    y: float


def draw_zones(
    zones: Sequence[Zone], site: Site, begin: datetime, end: datetime, half_m: float = HALF_M
) -> tuple[ZoneDrawn, ...]:
    """Zones about a field, those that do not hold between two aware times marked as resting."""
    drawn = []
    for zone in zones:
        if zone.centre is not None:
            x, y = to_plane(site.position, zone.centre)
            r = zone.radius_m
            path = f"M{x - r:.0f},{-y:.0f} a{r:.0f},{r:.0f} 0 1 0 {2 * r:.0f},0 a{r:.0f},{r:.0f} 0 1 0 {-2 * r:.0f},0Z"
            middle = (x, y)
        else:
            rings = [[flat(ring, site.position) for ring in rings] for rings in zone.polygons]
            path = " ".join(path_of(ring, closed=True) for group in rings for ring in group)
            seen = [(max(-half_m, min(half_m, x)), max(-half_m, min(half_m, y))) for x, y in rings[0][0]]
            middle = (sum(x for x, _ in seen) / len(seen), sum(y for _, y in seen) / len(seen))
        resting = "" if active(zone.terms.periods, begin, end) else " resting"
        inside = 0.82 * half_m
        drawn.append(
            ZoneDrawn(
                path=path,
                look=LOOKS[zone.terms.rule] + resting,
                words=zone.terms.name,
                x=round(max(-inside, min(inside, middle[0])), 1),
                y=round(-max(-inside, min(inside, middle[1])), 1),
            )
        )
    return tuple(drawn)
