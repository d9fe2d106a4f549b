"""The pilot's own limits and methods, with their defaults, bounds and reasons."""

from dataclasses import dataclass
from typing import Any

from pydantic import model_validator

from walkround.core.base.errors import InputError
from walkround.core.base.units import Measure
from walkround.core.base.value import Value


@dataclass(frozen=True, slots=True, kw_only=True)
class LimitSpec:
    """One limit: feeds the settings page, the command line and the help. Numbers in inside units."""

    name: str
    label: str
    measure: Measure
    default: float
    low: float
    high: float
    help: str
    source: str


LIMITS: tuple[LimitSpec, ...] = (
    LimitSpec(
        name="wind_ms",
        label="Wind and gusts, at most",
        measure=Measure.SPEED,
        default=6.7056,
        low=1,
        high=25,
        help="Mean wind, gusts and the wind at flying height must all stay below it.",
        source="15 mph; common practice, no source",
    ),
    LimitSpec(
        name="crosswind_ms",
        label="Wind across the strip, at most",
        measure=Measure.SPEED,
        default=3.3528,
        low=0.5,
        high=20,
        help="For aircraft on wheels at a field with a strip: the part of the strongest wind that comes from the side.",
        source="half of the wind limit; our choice",
    ),
    LimitSpec(
        name="temperature_min_c",
        label="Air temperature, at least",
        measure=Measure.TEMPERATURE,
        default=0,
        low=-30,
        high=20,
        help="Cold packs sag and cold fingers slip.",
        source="32 °F; common practice, no source",
    ),
    LimitSpec(
        name="temperature_max_c",
        label="Air temperature, at most",
        measure=Measure.TEMPERATURE,
        default=40,
        low=20,
        high=55,
        help="Heat wears packs, motors and the pilot.",
        source="our choice; common practice, no source",
    ),
    LimitSpec(
        name="visibility_m",
        label="Visibility, at least",
        measure=Measure.DISTANCE,
        default=4828.032,
        low=500,
        high=20_000,
        help="Three statute miles unless you set another.",
        source="14 CFR 107.51 (from memory); the authority's current text prevails",
    ),
    LimitSpec(
        name="cloud_clearance_m",
        label="Stay below cloud by",
        measure=Measure.HEIGHT,
        default=152.4,
        low=0,
        high=600,
        help="Cloud base less planned height.",
        source="14 CFR 107.51, 500 ft (from memory); the authority's current text prevails",
    ),
    LimitSpec(
        name="height_max_m",
        label="Ceiling above ground",
        measure=Measure.HEIGHT,
        default=120,
        low=10,
        high=500,
        help="The legal ceiling where you fly, or your club's.",
        source="Regulation (EU) 2019/947, 120 m; 400 ft elsewhere (from memory)",
    ),
    LimitSpec(
        name="signature_min",
        label="A signature holds for",
        measure=Measure.MINUTE,
        default=60,
        low=5,
        high=240,
        help="A round is signed for one launch; later than this it has to be walked again.",
        source="our choice; common practice, no source",
    ),
    LimitSpec(
        name="people_m",
        label="People kept away by at least",
        measure=Measure.HEIGHT,
        default=30,
        low=5,
        high=500,
        help="From the nearest edge of the flight to the nearest person who is not with you, along the ground.",
        source="Regulation (EU) 2019/947, A2: 30 m (from memory); the authority and the club prevail",
    ),
    LimitSpec(
        name="density_altitude_m",
        label="Density altitude, at most",
        measure=Measure.HEIGHT,
        default=2500,
        low=0,
        high=6000,
        help="Thin air costs thrust and minutes.",
        source="our choice; common practice, no source",
    ),
    LimitSpec(
        name="return_margin_m",
        label="Return height above the tallest obstacle",
        measure=Measure.HEIGHT,
        default=10,
        low=3,
        high=60,
        help="Added to the tallest thing between any point of the flight and home.",
        source="our choice; common practice, no source",
    ),
    LimitSpec(
        name="position_allowance_m",
        label="Sideways allowance for position error",
        measure=Measure.HEIGHT,
        default=15,
        low=3,
        high=100,
        help="An obstacle this far outside the flying circle still counts.",
        source="our choice; common practice, no source",
    ),
    LimitSpec(
        name="compass_far_m",
        label="Compass: far from the last calibration",
        measure=Measure.DISTANCE,
        default=200_000,
        low=10_000,
        high=2_000_000,
        help="Carried farther than this, the compass is calibrated again.",
        source="“hundreds of km”; common practice, no source",
    ),
    LimitSpec(
        name="idle_days",
        label="Long idle after",
        measure=Measure.DAY,
        default=60,
        low=7,
        high=400,
        help="After so many days without a flight the round asks for rust, in you and in the aircraft.",
        source="our choice; common practice, no source",
    ),
    LimitSpec(
        name="reserve_percent",
        label="Pack left at landing, at least",
        measure=Measure.PERCENT,
        default=20,
        low=5,
        high=60,
        help="The reserve of every plan: turn-back charge, timer and alarm count from it.",
        source="common practice, no source",
    ),
    LimitSpec(
        name="capacity_percent",
        label="Pack: usable capacity, at least",
        measure=Measure.PERCENT,
        default=80,
        low=40,
        high=100,
        help="Share of the label; below it a pack is worn out.",
        source="80 %, common practice, no source",
    ),
    LimitSpec(
        name="resistance_times",
        label="Pack: resistance, times its first, at most",
        measure=Measure.RATIO,
        default=2,
        low=1.2,
        high=5,
        help="A cell whose resistance has grown so much sags under load and warms.",
        source="twice, common practice, no source",
    ),
    LimitSpec(
        name="full_days",
        label="Pack: full for at most",
        measure=Measure.DAY,
        default=3,
        low=1,
        high=30,
        help="Left full longer, a lithium pack ages fast: fly it or bring it to storage charge.",
        source="a few days; common practice, no source",
    ),
    LimitSpec(
        name="look_days",
        label="Pack: looked at every",
        measure=Measure.DAY,
        default=30,
        low=7,
        high=180,
        help="Idle packs are looked at every few weeks.",
        source="every few weeks; common practice, no source",
    ),
)


_DEFAULT = {spec.name: spec.default for spec in LIMITS}


class Limits(Value):
    """The pilot's minimums in inside units; each default is that of its ``LimitSpec``."""

    wind_ms: float = _DEFAULT["wind_ms"]
    crosswind_ms: float = _DEFAULT["crosswind_ms"]
    temperature_min_c: float = _DEFAULT["temperature_min_c"]
    temperature_max_c: float = _DEFAULT["temperature_max_c"]
    visibility_m: float = _DEFAULT["visibility_m"]
    cloud_clearance_m: float = _DEFAULT["cloud_clearance_m"]
    height_max_m: float = _DEFAULT["height_max_m"]
    signature_min: float = _DEFAULT["signature_min"]
    people_m: float = _DEFAULT["people_m"]
    density_altitude_m: float = _DEFAULT["density_altitude_m"]
    return_margin_m: float = _DEFAULT["return_margin_m"]
    position_allowance_m: float = _DEFAULT["position_allowance_m"]
    compass_far_m: float = _DEFAULT["compass_far_m"]
    idle_days: float = _DEFAULT["idle_days"]
    reserve_percent: float = _DEFAULT["reserve_percent"]
    capacity_percent: float = _DEFAULT["capacity_percent"]
    resistance_times: float = _DEFAULT["resistance_times"]
    full_days: float = _DEFAULT["full_days"]
    look_days: float = _DEFAULT["look_days"]
    season_days: tuple[str, str] = ("04-01", "07-01")

    @model_validator(mode="after")
    def cold_below_hot(self) -> "Limits":
        """Refuse a lowest temperature that is not below the highest."""
        if self.temperature_min_c >= self.temperature_max_c:
            raise InputError("The lowest temperature lies above the highest.", "temperature_min_c")
        return self

    @model_validator(mode="before")
    @classmethod
    def within_bounds(cls, data: Any) -> Any:
        """Refuse a limit outside its bounds, in words."""
        if isinstance(data, dict):
            for spec in LIMITS:
                value = data.get(spec.name)
                if value is not None and not spec.low - 1e-9 <= float(value) <= spec.high + 1e-9:
                    raise InputError(f"{spec.label} is outside what makes sense.", spec.name)
        return data
