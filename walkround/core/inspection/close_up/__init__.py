"""A stop drawn close up, from the aircraft's own traits: our own line drawings, and a target for each part."""

from functools import lru_cache

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Kind
from walkround.core.inspection.close_up import helicopter, multirotor, wing
from walkround.core.inspection.close_up.strokes import HEIGHT, MOST, WIDTH, CloseUp, Point, Spot, Stroke, box, spread
from walkround.core.inspection.touched import Stop


def _drawn(a: Aircraft, key: str) -> tuple[list[Stroke], dict[str, Point]]:
    name, _, number = key.partition("-")
    if name == "own":
        return [box(180, 150, 170, 140, round_=12)], {}
    if a.kind is Kind.MULTIROTOR:
        return (
            multirotor.arm(a, int(number))
            if name == "arm"
            else {"top": multirotor.top, "under": multirotor.under}[key](a)
        )
    if a.kind is Kind.HELICOPTER:
        draw = {
            "blades": helicopter.blades,
            "head": helicopter.head,
            "cabin": helicopter.cabin,
            "body": helicopter.body,
            "tail": helicopter.tail,
        }
        return draw[key](a)
    if name == "nose":
        return wing.nose(a, int(number or 1))
    if number == "wing":
        return wing.panel(a, name)
    return {"joint": wing.joint, "body": wing.body, "cabin": wing.cabin, "tail": wing.tail, "gear": wing.gear}[key](a)


@lru_cache(maxsize=512)
def close_up(aircraft: Aircraft, stop: Stop) -> CloseUp:
    """A stop of an aircraft, 360 by 300 picture units: the targets of its parts in the order of the hand, none over another."""
    strokes, places = _drawn(aircraft, stop.key)
    middle = (WIDTH / 2, HEIGHT / 2)
    shown = stop.parts[:MOST]
    return CloseUp(tuple(strokes), spread({part.id: places.get(part.id, middle) for part in shown}))


__all__ = ["CloseUp", "Spot", "Stroke", "close_up"]
