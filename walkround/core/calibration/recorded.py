"""A recording judged for what is in it: a rest on the ground, the height meanwhile, what current does to the compass; of each only where it is about that."""

import math
from collections.abc import Iterable

from walkround.core.base.finding import Finding
from walkround.core.calibration.compass import FEWEST_SPREAD, current_finding
from walkround.core.calibration.height import SHORTEST_MIN, drift_findings
from walkround.core.calibration.still import NEEDED_S, STILL_DPS, rest_finding, rest_of
from walkround.core.sensors.devices import Frame


def judged_recording(frames: Iterable[Frame]) -> tuple[Finding, ...]:
    """What frames tell of the still start, the height at rest and the current. Source: as each of them."""
    seen = list(frames)
    said: list[Finding] = []
    turning = [(f.at_s, f.turning_dps) for f in seen if f.turning_dps is not None]
    at_rest = sum(math.hypot(*rates) <= STILL_DPS for _, rates in turning) > len(turning) / 2
    if at_rest:
        said.append(rest_finding(rest_of(turning), NEEDED_S))
    pressure = [(f.at_s, f.pressure_hpa) for f in seen if f.pressure_hpa is not None]
    if at_rest and len(pressure) > 1 and pressure[-1][0] - pressure[0][0] >= 60 * SHORTEST_MIN:
        said += drift_findings(pressure)
    throttle, field = throttle_and_field(seen)
    if throttle and max(throttle) - min(throttle) >= FEWEST_SPREAD:
        said.append(current_finding(throttle, field, in_flight=True))
    return tuple(said)


def throttle_and_field(frames: Iterable[Frame], most: float = 1.0) -> tuple[list[float], list[float]]:
    """Throttle (a share, of so much at most) and strength of the field (µT) of the frames that have both. Source: the frames."""
    both = [(f.throttle, f.field_ut) for f in frames if f.throttle is not None and f.field_ut is not None]
    return [most * throttle for throttle, _ in both], [math.hypot(*field) for _, field in both]
