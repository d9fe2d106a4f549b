"""Symptoms, what is known, and the causes they may have."""

from enum import StrEnum

from walkround.core.aircraft.traits import Kind
from walkround.core.base.struct import Struct


class Symptom(StrEnum):
    """What it did."""

    CIRCLES = "flies in circles"
    DRIFTS = "drifts"
    OFF_COURSE = "flies off course"
    CLIMBS = "climbs or sinks by itself"
    TWITCHY = "twitchy"
    VIBRATES = "vibrates"
    NOISE = "odd noise"
    SHORT_FLIGHT = "short flight"
    WEAK_LIFT = "weak lift"
    NO_LINK = "signal drops"
    WILL_NOT_ARM = "will not arm"


class Cause(StrEnum):
    """What may be behind it."""

    COMPASS = "compass not calibrated or upset"
    IRON = "iron or current near the launch point"
    WIND = "wind"
    FIX = "poor GPS fix"
    LEVEL = "level calibration"
    HEIGHT_SENSOR = "height sensor"
    SETTINGS = "settings or firmware"
    PROPELLER = "propeller or rotor blade"
    MOTOR = "motor, bearing or shaft"
    LOOSE = "a loose part"
    HEAD = "rotor head, bearing or shaft"
    BALANCE = "balance or trim"
    SURFACE = "control surface, linkage or servo"
    PACK_AGED = "aged pack"
    PACK_COLD = "cold pack"
    LOAD = "more mass"
    ANTENNA = "antenna"
    TRANSMITTER = "transmitter battery"
    RADIO = "radio noise at the field"
    THROTTLE = "throttle, switch or mode"


class Facts(Struct, frozen=True, kw_only=True):
    """What is known of an aircraft and its last flights; None: not known, or never.

    ``compass`` to ``rotors``: what it has (``levels``: a gyro or flight controller); ``flown``: flights; ``compass_days``, ``level_days``: days since the calibration; ``carried_km``: km from
    it; ``iron_m``, ``radio_m``: m to the nearest thing on the plan that upsets compass or radio; ``wind_share``: the strongest wind at its height over
    its top speed (0 to 1); ``satellites``, ``hdop``: as last read; ``firmware_days``, ``hard_landing_days``, ``crash_days``: since then; ``new_parts``:
    replaced since its last flight without trouble; ``motor_hours``: of its motors; ``pack_health``: usable capacity over the label (0 to 1); ``pack_c``:
    in °C; ``minutes_share``: minutes of its last flight over what was to be expected; ``fixed_often``: parts fixed twice and more in short time;
    ``added_g``: mass above what it was described with, in g; ``antenna_hurt``: a snag was on an antenna; ``transmitter_percent``: as last read; ``idle_days``.
    """

    kind: Kind
    compass: bool = False
    satnav: bool = False
    electric: bool = False
    levels: bool = False
    rotors: int = 0
    flown: int = 0
    compass_days: float | None = None
    level_days: float | None = None
    carried_km: float | None = None
    iron_m: float | None = None
    radio_m: float | None = None
    wind_share: float | None = None
    satellites: float | None = None
    hdop: float | None = None
    firmware_days: float | None = None
    hard_landing_days: float | None = None
    crash_days: float | None = None
    new_parts: tuple[str, ...] = ()
    motor_hours: float | None = None
    pack_health: float | None = None
    pack_c: float | None = None
    minutes_share: float | None = None
    fixed_often: tuple[str, ...] = ()
    added_g: float = 0.0
    cg_known: bool = True
    antenna_hurt: bool = False
    transmitter_percent: float | None = None
    idle_days: float | None = None

    @property
    def changes(self) -> tuple[str, ...]:
        """What was changed since it last flew without trouble."""
        lately = 14.0
        found = [f"new {part}" for part in self.new_parts]
        if self.firmware_days is not None and self.firmware_days <= lately:
            found.append("firmware")
        if self.added_g > 0:
            found.append("mass")
        return tuple(found)
