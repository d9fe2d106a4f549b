"""The check library: one file a station, in walking order."""

from walkround.core.checklist.check import Check, Gate, SafeState
from walkround.core.checklist.library import (
    airframe,
    bag,
    bench,
    controls,
    field,
    first_minute,
    link,
    pack,
    power,
    sensors,
    sky,
)
from walkround.core.checklist.library.gates import GATES, SAFE_STATES

CHECKS: tuple[Check, ...] = (
    *bench.CHECKS,
    *bag.CHECKS,
    *field.CHECKS,
    *sky.CHECKS,
    *airframe.CHECKS,
    *pack.CHECKS,
    *power.CHECKS,
    *sensors.CHECKS,
    *link.CHECKS,
    *controls.CHECKS,
    *first_minute.CHECKS,
)

__all__ = ["CHECKS", "GATES", "SAFE_STATES", "Check", "Gate", "SafeState"]
