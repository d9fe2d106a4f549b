"""A stop of the walk round as it is shown: the close-up with its targets as they stand, and the whole aircraft with what is left."""

from collections.abc import Iterable
from datetime import datetime

from msgspec.structs import replace

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.struct import Struct
from walkround.core.base.wording import capital
from walkround.core.checklist.history import Snag
from walkround.core.inspection.close_up import CloseUp, Spot, close_up
from walkround.core.inspection.touched import Stop
from walkround.core.round.touches import RoutePart, RouteStop
from walkround.web.drawings.aircraft import DrawnShape, place

MAP = (300, 170)
"""Width and height of the whole aircraft beside the close-up."""


class Mark(Struct, frozen=True):
    """An open snag on a part: its words, its number, and whether it is newer than the last flight."""

    words: str
    snag_id: int
    new: bool


class Target(Struct, frozen=True):
    """A part as a target: where, its number at this stop, how it stands, and its marks."""

    spot: Spot
    number: int
    row: RoutePart
    marks: tuple[Mark, ...]

    @property
    def name(self) -> str:
        """What it is called."""
        return capital(self.row.part.name)

    @property
    def state(self) -> str:
        """How it stands, as a class of the drawing: "left", "ok", "fixed", "damaged"."""
        return "left" if self.row.state is None else self.row.state.value


class Drawn(Struct, frozen=True):
    """A stop drawn, with its targets."""

    close: CloseUp
    targets: tuple[Target, ...]


class MapShape(Struct, frozen=True):
    """A shape of the whole aircraft, with how its part stands: "" (not today), "left", "done", "damaged"; and whether it is in hand."""

    shape: DrawnShape
    state: str
    here: bool


def _marks(part_id: str, unit: str, snags: Iterable[Snag], flown_at: datetime | None) -> tuple[Mark, ...]:
    return tuple(
        Mark(snag.title, snag.id, flown_at is None or snag.opened_at > flown_at)
        for snag in snags
        if part_id in snag.parts or (unit in snag.parts and part_id == unit)
    )


def draw_stop(aircraft: Aircraft, stop: RouteStop, snags: Iterable[Snag], flown_at: datetime | None) -> Drawn:
    """A stop with the parts that matter today as its targets; ``flown_at``: the last flight, since which a mark is new (aware)."""
    drawn = close_up(aircraft, replace(stop.stop, parts=tuple(row.part for row in stop.parts)))
    rows, on = {row.part.id: row for row in stop.parts}, list(snags)
    targets = tuple(
        Target(spot, number, rows[spot.part_id], _marks(spot.part_id, rows[spot.part_id].part.unit, on, flown_at))
        for number, spot in enumerate(drawn.spots, 1)
    )
    return Drawn(drawn, targets)


def draw_map(aircraft: Aircraft, route: Iterable[RouteStop], here: Stop | None) -> tuple[MapShape, ...]:
    """The whole aircraft from above, each part as it stands: the picture shows what is left."""
    width, height = MAP
    picture = place(aircraft, (width / 2, height / 2), width / 2 - 6, height / 2 - 6)
    states: dict[str, set[str]] = {}
    for stop in route:
        for row in stop.parts:
            state = (
                "left" if row.left else "damaged" if row.state is not None and row.state.value == "damaged" else "done"
            )
            states.setdefault(row.part.unit, set()).add(state)
    hand = {part.unit for part in here.parts} if here is not None else set()
    shapes = []
    for part in picture.parts:
        for shape in part.shapes:
            key = shape.part or part.key
            found = states.get(key, set())
            worst = next((one for one in ("damaged", "left", "done") if one in found), "")
            shapes.append(MapShape(shape, worst, key in hand))
    return tuple(shapes)
