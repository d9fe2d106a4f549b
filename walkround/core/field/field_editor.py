"""Changing the plan of a field: every edit gives a new field, or a sentence why not."""

from collections.abc import Sequence

from walkround.core.base.errors import InputError, MissingError
from walkround.core.field import planar_geometry
from walkround.core.field.marks import MOST_SPOTS, NATURES, Mark, MarkKind, MarkShape, Spot, mark_at, spot
from walkround.core.field.site import HERE, MOST_MARKS, Site, next_id

LAUNCH, PILOT, FLIGHT_AREA, SPECTATOR_LINE = "launch", "pilot", "flight_area", "spectator_line"
WORDS = {LAUNCH: "launch point", PILOT: "pilot's position", FLIGHT_AREA: "flying box", SPECTATOR_LINE: "spectator line"}
"""What can be moved besides the marks, by its key. A mark's key is m and its number."""
LEAST = {FLIGHT_AREA: 3, SPECTATOR_LINE: 2}


def key_of(mark: Mark) -> str:
    """The key of a thing on the plan: m and its number, without unit."""
    return f"m{mark.id}"


def mark_of(site: Site, key: str) -> Mark:
    """The thing with a key ("m7"), without unit. Raises MissingError."""
    found = next((mark for mark in site.marks if key_of(mark) == key), None)
    if found is None:
        raise MissingError("That is no longer on the plan.")
    return found


def spots_of(site: Site, key: str) -> tuple[Spot, ...]:
    """Where the thing with a key lies: its spots, in m from the field's position. Raises MissingError."""
    if key == LAUNCH:
        return (site.launch,)
    if key == PILOT:
        return (site.pilot_spot,)
    if key == FLIGHT_AREA:
        return site.flight_area
    if key == SPECTATOR_LINE:
        return site.spectator_line
    return mark_of(site, key).spots


def words_of(site: Site, key: str) -> str:
    """What the thing with a key is called, without unit. Raises MissingError."""
    return WORDS[key] if key in WORDS else mark_of(site, key).words


def laid(site: Site, key: str, points: Sequence[planar_geometry.Point]) -> Site:
    """The field with the thing of a key lying at these points (m east and north), checked as a whole.

    Raises InputError in words where it cannot lie so, MissingError where there is none.
    """
    spots = tuple(spot(point) for point in points)
    if len(spots) > (30 if key in LEAST else MOST_SPOTS):
        raise InputError(f"That has {len(spots)} corners (max {30 if key in LEAST else MOST_SPOTS}).", "plan")
    if key in (LAUNCH, PILOT):
        return _checked(site, **{key: spots[0]})
    if key in LEAST:
        return _checked(site, **{key: spots})
    mark = mark_of(site, key)
    fresh = Mark.model_validate({**mark.model_dump(), "spots": spots})
    return _checked(site, marks=tuple(fresh if m.id == mark.id else m for m in site.marks))


def moved(site: Site, key: str, east_m: float, north_m: float, corner: int | None = None) -> Site:
    """The field with a thing shifted by so many m, or one of its corners brought to that place (m east and north).

    Raises InputError and MissingError as ``laid``.
    """
    points = [s.xy for s in spots_of(site, key)]
    if corner is None:
        return laid(site, key, [(x + east_m, y + north_m) for x, y in points])
    if not 0 <= corner < len(points):
        raise MissingError("That corner is no longer on the plan.")
    points[corner] = (east_m, north_m)
    return laid(site, key, points)


def placed(site: Site, key: str, bearing_deg: float, distance_m: float) -> Site:
    """The field with a thing of one spot at a bearing (degrees true) and distance (m) from the launch point; its own
    radius is counted from there. Raises as ``laid``. Source: ``site.Site.away``."""
    mark = mark_of(site, key)
    now = site.away(mark)
    if round(now[0], 1) == round(distance_m, 1) and round(now[1]) == round(bearing_deg):
        return site
    return laid(site, key, [planar_geometry.ahead(site.launch.xy, bearing_deg, distance_m + mark.radius_m)])


def flight_area_turned(site: Site, by_deg: float) -> Site:
    """The field with its flying box turned clockwise about the pilot by degrees. Raises as ``laid``. Source: ``planar_geometry.turned``."""
    if not site.flight_area:
        raise InputError("No flying box is drawn.", "plan")
    return laid(site, FLIGHT_AREA, planar_geometry.turned([s.xy for s in site.flight_area], site.pilot_spot.xy, by_deg))


def corner_added(site: Site, key: str, after: int) -> Site:
    """The field with a new corner in the middle of the edge that follows a corner (m). Raises as ``laid``. Source: midpoint."""
    points = [s.xy for s in spots_of(site, key)]
    if not 0 <= after < len(points) or len(points) < 2:
        raise MissingError("That corner is no longer on the plan.")
    a, b = points[after], points[(after + 1) % len(points)]
    points.insert(after + 1, ((a[0] + b[0]) / 2, (a[1] + b[1]) / 2))
    return laid(site, key, points)


def corner_removed(site: Site, key: str, corner: int) -> Site:
    """The field without one corner of a thing (m). Raises as ``laid``, and where too few would stay."""
    points = [s.xy for s in spots_of(site, key)]
    if not 0 <= corner < len(points):
        raise MissingError("That corner is no longer on the plan.")
    if len(points) <= LEAST.get(key, 1):
        raise InputError(f"The {words_of(site, key)} needs these corners. Remove it as a whole.", "plan")
    del points[corner]
    return laid(site, key, points)


def added(
    site: Site,
    kind: MarkKind,
    points: Sequence[planar_geometry.Point],
    height_m: float,
    radius_m: float = 0.0,
    name: str = "",
) -> Site:
    """The field with one thing more, its spots in m east and north, its top and its radius in m.

    Raises InputError in words where it cannot be.
    """
    if len(site.marks) >= MOST_MARKS:
        raise InputError(f"{MOST_MARKS} features are on the plan. Remove one first.", "plan")
    if not points:
        raise InputError("Tap its place on the plan first.", "plan")
    if NATURES[kind].shape is MarkShape.AREA and len(points) == 2:
        raise InputError("An outline needs at least three corners. One tap marks a single place.", "plan")
    if len(points) > MOST_SPOTS:
        raise InputError(f"That has {len(points)} corners (max {MOST_SPOTS}).", "plan")
    mark = Mark(
        id=next_id(site),
        kind=kind,
        spots=tuple(spot(p) for p in points),
        height_m=height_m if NATURES[kind].stands else 0.0,
        radius_m=radius_m if NATURES[kind].round else 0.0,
        name=name,
    )
    return _checked(site, marks=(*site.marks, mark))


def paced(
    site: Site,
    kind: MarkKind,
    bearing_deg: float,
    distance_m: float,
    height_m: float,
    radius_m: float = 0.0,
    name: str = "",
) -> Site:
    """The field with one thing more, by bearing (degrees true) and distance (m) paced out from the launch point; top and
    radius in m. Raises InputError in words. Source: ``mark_at``."""
    place = mark_at(kind, bearing_deg, distance_m, max(height_m, 0.1), origin=site.launch.xy)
    return added(site, kind, [place.spots[0].xy], height_m, radius_m, name)


def changed(site: Site, number: int, *, kind: MarkKind, height_m: float, radius_m: float, name: str) -> Site:
    """The field with a thing of another kind, height (m), radius (m) or name. Raises InputError and MissingError."""
    mark = mark_of(site, f"m{number}")
    nature = NATURES[kind]
    if nature.shape is MarkShape.POINT and len(mark.spots) > 1:
        raise InputError(f"A {kind.value} is a single place, not a line or an area.", "kind")
    fresh = Mark(
        id=number,
        kind=kind,
        spots=mark.spots,
        height_m=height_m if nature.stands else 0.0,
        radius_m=radius_m if nature.round else 0.0,
        name=name,
    )
    return _checked(site, marks=tuple(fresh if m.id == number else m for m in site.marks))


def removed(site: Site, key: str) -> Site:
    """The field without the thing of a key: a mark; the box, then the circle holds; the line; the pilot's position, then the
    pilot stands at the launch point; the launch point goes back to the field's position (0 m). Raises MissingError."""
    if key in (FLIGHT_AREA, SPECTATOR_LINE):
        return _checked(site, **{key: ()})
    if key == PILOT:
        return _checked(site, pilot=None)
    if key == LAUNCH:
        return _checked(site, launch=HERE)
    mark = mark_of(site, key)
    return _checked(site, marks=tuple(m for m in site.marks if m.id != mark.id))


def flight_area_begun(site: Site) -> Site:
    """The field with a box to begin with: as wide and half as deep as the circle, in front of the pilot, away from the
    spectators, else to the north. m throughout."""
    stands, r = site.pilot_spot.xy, site.flight_radius_m
    facing = 0.0
    if site.spectator_line:
        facing = planar_geometry.bearing(
            planar_geometry.nearest([s.xy for s in site.spectator_line], stands)[1], stands
        )
    near, far = min(15.0, r / 4), r
    flat = [(-r, near), (r, near), (r, far), (-r, far)]
    return laid(
        site, FLIGHT_AREA, planar_geometry.turned([(stands[0] + x, stands[1] + y) for x, y in flat], stands, facing)
    )


def spectator_line_begun(site: Site) -> Site:
    """The field with a spectator line to begin with: 40 m long, 15 m behind the pilot as seen from the flight."""
    stands = site.pilot_spot.xy
    area = site.flight_polygon()
    middle = (sum(x for x, _ in area) / len(area), sum(y for _, y in area) / len(area))
    facing = planar_geometry.bearing(stands, middle) if planar_geometry.nearest([middle], stands)[0] > 1 else 0.0
    ends = [(stands[0] - 20, stands[1] - 15), (stands[0] + 20, stands[1] - 15)]
    return laid(site, SPECTATOR_LINE, planar_geometry.turned(ends, stands, facing))


def _checked(site: Site, **changes: object) -> Site:
    """The field with changes, its own rules asked again; what stays is not read anew."""
    fresh = site.model_copy(update=changes)
    if "flight_area" in changes or "spectator_line" in changes:
        Site.model_validate(fresh.model_dump(exclude={"marks"}))
    return fresh
