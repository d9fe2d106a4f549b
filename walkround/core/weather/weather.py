"""The weather as one value: read from a report or entered by hand."""

from datetime import datetime

from walkround.core.base.errors import InputError
from walkround.core.base.value import KeptStruct, Value
from walkround.core.weather import atmosphere
from walkround.core.weather.beaufort import force

HAND_WIND_HEIGHT_M = 2.0
LOWEST_QNH_HPA, HIGHEST_QNH_HPA = 850, 1090
"""Height of a wind meter held up by hand, in m. Source: common practice, no source."""


class Phenomenon(KeptStruct, frozen=True, kw_only=True):
    """One present-weather group: its code, plain words, and what matters to us. ``severe``: it grounds every aircraft;
    ``blowing``: sand, dust or snow that the wind carries."""

    code: str
    words: str
    precipitation: bool = False
    nearby: bool = False
    thunder: bool = False
    freezing: bool = False
    severe: bool = False
    blowing: bool = False


class Weather(Value):
    """What is known of the weather. Missing parts are None and named in ``missing``.

    Wind in m/s at ``wind_height_m`` (m), direction in degrees true *from*; visibility and cloud base in m;
    temperatures in °C; altimeter setting in hPa. ``felt``: the force (``beaufort``) the wind was taken from; then
    ``wind_ms`` is the upper end of its range. ``wind_sector_deg``: from and to, clockwise, between which the direction
    varies. ``unread``: groups of a report that were not understood or contradict each other, each in its own words.
    """

    at: datetime
    wind_ms: float | None = None
    gust_ms: float | None = None
    wind_from_deg: float | None = None
    wind_sector_deg: tuple[float, float] | None = None
    felt: int | None = None
    wind_height_m: float = atmosphere.REPORT_WIND_HEIGHT_M
    visibility_m: float | None = None
    phenomena: tuple[Phenomenon, ...] | None = None
    ceiling_m: float | None = None
    ceiling_known: bool = False
    temperature_c: float | None = None
    dew_point_c: float | None = None
    qnh_hpa: float | None = None
    station: str = ""
    text: str = ""
    trend: str = ""
    missing: tuple[str, ...] = ()
    notes: tuple[str, ...] = ()
    unread: tuple[str, ...] = ()

    @property
    def steady_from_deg(self) -> float | None:
        """The direction of the wind in degrees true, None where it is not known or varies over a sector."""
        return None if self.wind_sector_deg is not None else self.wind_from_deg

    def strongest_ms(self) -> float | None:
        """The larger of mean wind and gust in m/s, or None."""
        known = [v for v in (self.wind_ms, self.gust_ms) if v is not None]
        return max(known, default=None)


HAND_PHENOMENA: dict[str, tuple[Phenomenon, ...]] = {
    "dry": (),
    "mist": (Phenomenon(code="BR", words="mist or fog"),),
    "drizzle": (Phenomenon(code="DZ", words="drizzle", precipitation=True),),
    "rain": (Phenomenon(code="RA", words="rain", precipitation=True),),
    "snow": (Phenomenon(code="SN", words="snow", precipitation=True),),
    "thunder": (Phenomenon(code="TS", words="thunderstorm", thunder=True),),
}
"""What a pilot may see and choose by hand. Source: present-weather codes of WMO-No. 306, table 4678."""


BY_HAND = "entered by hand"
"""The text of a weather that nobody reported."""
ONE_WIND = "Enter the wind measured or the wind felt, not both. Measured is better."


def by_hand(
    at: datetime,
    *,
    wind_ms: float | None,
    gust_ms: float | None,
    wind_from_deg: float | None,
    visibility_m: float | None,
    sky: str,
    ceiling_m: float | None,
    temperature_c: float,
    dew_point_c: float | None,
    qnh_hpa: float | None,
    felt: int | None = None,
) -> Weather:
    """Weather from values the pilot typed, all in inside units; ``sky`` is a key of ``HAND_PHENOMENA``. The wind is
    measured (at the height of a hand) or felt, as a force (0 to 8, at 10 m); of a force the upper end counts.

    Raises InputError when a value cannot be or two contradict each other. Source: physical ranges; our choice.
    """
    if (wind_ms is None) == (felt is None):
        raise InputError("Enter the measured wind, or choose what you see." if felt is None else ONE_WIND, "wind")
    if felt is not None:
        wind_ms = force(felt).most_ms
    assert wind_ms is not None
    if not 0 <= wind_ms <= 75:
        raise InputError("That wind speed is not plausible. Check the unit.", "wind")
    if gust_ms is not None and not wind_ms <= gust_ms <= 100:
        raise InputError("A gust cannot be below the mean wind. Leave it empty when there are none.", "gust")
    if wind_from_deg is not None and not 0 <= wind_from_deg <= 360:
        raise InputError(f"Wind direction {wind_from_deg:g} is outside 0° to 360°.", "wind_from")
    if not -60 <= temperature_c <= 60:
        raise InputError("That air temperature is not plausible. Check the unit.", "temperature")
    if dew_point_c is not None and dew_point_c > temperature_c + 0.5:
        raise InputError("The dew point cannot be above the temperature.", "dew_point")
    if visibility_m is not None and not 0 <= visibility_m <= 200_000:
        raise InputError("That visibility is not plausible.", "visibility")
    if ceiling_m is not None and not 0 <= ceiling_m <= 20_000:
        raise InputError("That cloud base is not plausible.", "ceiling")
    if qnh_hpa is not None and not LOWEST_QNH_HPA <= qnh_hpa <= HIGHEST_QNH_HPA:
        raise InputError(f"The pressure (QNH) must be between {LOWEST_QNH_HPA} and {HIGHEST_QNH_HPA} hPa.", "pressure")
    if sky not in HAND_PHENOMENA:
        raise InputError("Choose the present weather.", "sky")
    missing = tuple(name for name, value in (("visibility", visibility_m), ("pressure", qnh_hpa)) if value is None)
    return Weather(
        at=at,
        wind_ms=wind_ms,
        gust_ms=gust_ms,
        wind_from_deg=wind_from_deg,
        felt=felt,
        wind_height_m=HAND_WIND_HEIGHT_M if felt is None else atmosphere.REPORT_WIND_HEIGHT_M,
        visibility_m=visibility_m,
        phenomena=HAND_PHENOMENA[sky],
        ceiling_m=ceiling_m,
        ceiling_known=True,
        temperature_c=temperature_c,
        dew_point_c=dew_point_c,
        qnh_hpa=qnh_hpa,
        text=BY_HAND,
        missing=missing,
    )
