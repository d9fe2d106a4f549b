"""The pilot's own limits, each with its default, bounds and reason: one field of ``Limits`` is one limit."""

from typing import Annotated, Any

from msgspec.structs import replace

from walkround.core.base.errors import InputError
from walkround.core.base.struct import Struct, default_of
from walkround.core.base.units import Measure
from walkround.core.base.value import Value, incoming, whole


class LimitSpec(Struct, frozen=True, kw_only=True):
    """What stands beside a limit on the settings page; bounds and default in the measure's inside unit."""

    label: str
    measure: Measure
    low: float
    high: float
    help: str
    source: str
    name: str = ""
    default: float = 0.0


class Limits(Value):
    """The pilot's minimums, in the unit of each name. A new field here is all that a new limit needs."""

    wind_ms: Annotated[
        float,
        LimitSpec(
            label="Wind and gusts, maximum",
            measure=Measure.SPEED,
            low=1,
            high=25,
            help="Mean wind, gusts and the wind at flying height must all stay below it.",
            source="15 mph; common practice, no source",
        ),
    ] = 6.7056
    crosswind_ms: Annotated[
        float,
        LimitSpec(
            label="Crosswind, maximum",
            measure=Measure.SPEED,
            low=0.5,
            high=20,
            help="For aircraft on wheels at a field with a runway: the crosswind part of the strongest wind.",
            source="half of the wind limit; our choice",
        ),
    ] = 3.3528
    temperature_min_c: Annotated[
        float,
        LimitSpec(
            label="Air temperature, minimum",
            measure=Measure.TEMPERATURE,
            low=-30,
            high=20,
            help="Cold packs sag under load, and cold fingers are slow.",
            source="32 °F; common practice, no source",
        ),
    ] = 0.0
    temperature_max_c: Annotated[
        float,
        LimitSpec(
            label="Air temperature, maximum",
            measure=Measure.TEMPERATURE,
            low=20,
            high=55,
            help="Heat ages packs, stresses motors and tires the pilot.",
            source="our choice; common practice, no source",
        ),
    ] = 40.0
    visibility_m: Annotated[
        float,
        LimitSpec(
            label="Visibility, minimum",
            measure=Measure.DISTANCE,
            low=500,
            high=20_000,
            help="Three statute miles unless you set another.",
            source="14 CFR 107.51 (from memory); the authority's current text prevails",
        ),
    ] = 4828.032
    cloud_clearance_m: Annotated[
        float,
        LimitSpec(
            label="Stay below cloud by",
            measure=Measure.HEIGHT,
            low=0,
            high=600,
            help="Cloud base minus planned height.",
            source="14 CFR 107.51, 500 ft (from memory); the authority's current text prevails",
        ),
    ] = 152.4
    height_max_m: Annotated[
        float,
        LimitSpec(
            label="Maximum height above ground",
            measure=Measure.HEIGHT,
            low=10,
            high=500,
            help="The legal limit where you fly, or your club's.",
            source="Regulation (EU) 2019/947, 120 m; 400 ft elsewhere (from memory)",
        ),
    ] = 120.0
    signature_min: Annotated[
        float,
        LimitSpec(
            label="A signature is valid for",
            measure=Measure.MINUTE,
            low=5,
            high=240,
            help="A round is signed for one launch. After this time you need a new round.",
            source="our choice; common practice, no source",
        ),
    ] = 60.0
    people_m: Annotated[
        float,
        LimitSpec(
            label="Distance to people, minimum",
            measure=Measure.HEIGHT,
            low=5,
            high=500,
            help="From the edge of the flight to the nearest uninvolved person, along the ground.",
            source="Regulation (EU) 2019/947, A2: 30 m (from memory); the authority and the club prevail",
        ),
    ] = 30.0
    density_altitude_m: Annotated[
        float,
        LimitSpec(
            label="Density altitude, maximum",
            measure=Measure.HEIGHT,
            low=0,
            high=6000,
            help="Thin air reduces thrust and flight time.",
            source="our choice; common practice, no source",
        ),
    ] = 2500.0
    return_margin_m: Annotated[
        float,
        LimitSpec(
            label="RTH altitude above the tallest obstacle",
            measure=Measure.HEIGHT,
            low=3,
            high=60,
            help="Added to the tallest obstacle between any point of the flight and home.",
            source="our choice; common practice, no source",
        ),
    ] = 10.0
    position_allowance_m: Annotated[
        float,
        LimitSpec(
            label="Sideways allowance for position error",
            measure=Measure.HEIGHT,
            low=3,
            high=100,
            help="An obstacle this close to the flying circle still counts.",
            source="our choice; common practice, no source",
        ),
    ] = 15.0
    compass_far_m: Annotated[
        float,
        LimitSpec(
            label="Compass: far from the last calibration",
            measure=Measure.DISTANCE,
            low=10_000,
            high=2_000_000,
            help="Transported farther than this, the compass is due for calibration.",
            source="“hundreds of km”; common practice, no source",
        ),
    ] = 200_000.0
    idle_days: Annotated[
        float,
        LimitSpec(
            label="Long break after",
            measure=Measure.DAY,
            low=7,
            high=400,
            help="After this many days the round adds checks for lack of practice and for a stored aircraft.",
            source="our choice; common practice, no source",
        ),
    ] = 60.0
    reserve_percent: Annotated[
        float,
        LimitSpec(
            label="Charge left at landing, minimum",
            measure=Measure.PERCENT,
            low=5,
            high=60,
            help="The reserve of every plan. Turn-back charge, timer and alarm are based on it.",
            source="common practice, no source",
        ),
    ] = 20.0
    capacity_percent: Annotated[
        float,
        LimitSpec(
            label="Pack: state of health, minimum",
            measure=Measure.PERCENT,
            low=40,
            high=100,
            help="Usable share of the rated capacity. Below it a pack is worn out.",
            source="80 %, common practice, no source",
        ),
    ] = 80.0
    resistance_times: Annotated[
        float,
        LimitSpec(
            label="Pack: internal resistance, at most × new",
            measure=Measure.RATIO,
            low=1.2,
            high=5,
            help="A cell with higher internal resistance sags under load and gets warm.",
            source="twice, common practice, no source",
        ),
    ] = 2.0
    full_days: Annotated[
        float,
        LimitSpec(
            label="Pack: fully charged for at most",
            measure=Measure.DAY,
            low=1,
            high=30,
            help="A lithium pack that stays full ages fast. Fly it or bring it to storage charge.",
            source="a few days; common practice, no source",
        ),
    ] = 3.0
    look_days: Annotated[
        float,
        LimitSpec(
            label="Pack: inspection every",
            measure=Measure.DAY,
            low=7,
            high=180,
            help="Inspect stored packs every few weeks.",
            source="every few weeks; common practice, no source",
        ),
    ] = 30.0
    season_days: tuple[str, str] = ("04-01", "07-01")

    @whole
    def cold_below_hot(self) -> "Limits":
        """Refuse a lowest temperature that is not below the highest."""
        if self.temperature_min_c >= self.temperature_max_c:
            raise InputError("The minimum temperature is higher than the maximum.", "temperature_min_c")
        return self

    @incoming
    @staticmethod
    def within_bounds(data: Any) -> Any:
        """Refuse a limit outside its bounds, in words."""
        if isinstance(data, dict):
            for spec in LIMITS:
                value = data.get(spec.name)
                if value is not None and not spec.low - 1e-9 <= float(value) <= spec.high + 1e-9:
                    raise InputError(f"{spec.label} is outside the allowed range.", spec.name)
        return data


LIMITS: tuple[LimitSpec, ...] = tuple(
    replace(spec, name=name, default=default_of(Limits, name))
    for name, hint in Limits.__annotations__.items()
    for spec in getattr(hint, "__metadata__", ())
)
"""Every limit that is a number, in the order of the settings page."""
