"""Starting points for a new aircraft: common shapes, every number invented and meant to be changed."""

from collections.abc import Iterator, Mapping
from typing import Any

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Frame, Kind, Power, Trait

T = Trait


class _Presets(Mapping[str, Aircraft]):
    """Each is made when it is first asked for; most days none is."""

    def __init__(self, described: dict[str, dict[str, Any]]) -> None:
        self._described = described
        self._made: dict[str, Aircraft] = {}

    def __getitem__(self, key: str) -> Aircraft:
        if key not in self._made:
            self._made[key] = Aircraft(**self._described[key])
        return self._made[key]

    def __iter__(self) -> Iterator[str]:
        return iter(self._described)

    def __len__(self) -> int:
        return len(self._described)


def _shape(
    name: str, kind: Kind, frame: Frame, rotors: int, traits: set[Trait], **numbers: float | str | Power
) -> dict[str, Any]:
    return {"name": name, "kind": kind, "frame": frame, "rotors": rotors, "traits": frozenset(traits), **numbers}


_CAMERA = {
    T.FOLDING, T.FOLDING_BLADES, T.QUICK_RELEASE, T.FLIGHT_CONTROLLER, T.SATNAV, T.COMPASS, T.RETURN_HOME, T.GIMBAL_CAMERA,
    T.PILOT_SCREEN, T.UPDATABLE, T.SMART_PACK,
}  # fmt: skip
_THREE = {T.AILERONS, T.ELEVATOR, T.RUDDER}

PRESETS: Mapping[str, Aircraft] = _Presets({
    "camera-quad": _shape(
        "Folding camera quad", Kind.MULTIROTOR, Frame.X, 4, _CAMERA,
        mass_g=780, span_mm=380, propeller_mm=206, top_speed_ms=16, cruise_ms=9, flight_min=24, cells=3, firmware="1.0", record_mbits=100,
    ),
    "race-quad": _shape(
        "Race quad with goggles", Kind.MULTIROTOR, Frame.X, 4,
        {T.SELF_BUILT, T.RACING, T.LOCK_NUT, T.FLIGHT_CONTROLLER, T.FIXED_CAMERA, T.VIDEO_LINK, T.GOGGLES, T.TELEMETRY,
         T.BEEPER, T.UPDATABLE},
        mass_g=620, span_mm=220, propeller_mm=127, top_speed_ms=38, flight_min=5, cells=4,
    ),
    "camera-hexa": _shape(
        "Six-rotor camera carrier", Kind.MULTIROTOR, Frame.X, 6,
        {T.FOLDING, T.LEGS, T.SCREWED, T.SELF_BUILT, T.FLIGHT_CONTROLLER, T.SATNAV, T.COMPASS, T.RETURN_HOME,
         T.GIMBAL_CAMERA, T.VIDEO_LINK, T.PAYLOAD, T.TELEMETRY, T.REMOTE_ID, T.BEEPER, T.UPDATABLE},
        mass_g=4200, bare_mass_g=3300, span_mm=900, propeller_mm=381, top_speed_ms=18, flight_min=16, cells=6, record_mbits=200,
    ),
    "coaxial-octo": _shape(
        "Coaxial X lifter", Kind.MULTIROTOR, Frame.X_COAXIAL, 8,
        {T.LEGS, T.SCREWED, T.SELF_BUILT, T.FLIGHT_CONTROLLER, T.SATNAV, T.COMPASS, T.RETURN_HOME, T.PAYLOAD,
         T.TELEMETRY, T.UPDATABLE},
        mass_g=6800, bare_mass_g=5200, span_mm=820, propeller_mm=406, top_speed_ms=17, flight_min=14, cells=6,
    ),
    "foam-trainer": _shape(
        "Foam high-wing trainer", Kind.WING, Frame.HIGH_WING, 1, _THREE | {T.BANDS, T.NOSE_WHEEL, T.STABILISER},
        mass_g=1150, span_mm=1400, top_speed_ms=22, flight_min=11, cells=3, bands=8, cg_min_mm=72,
        cg_max_mm=80,
    ),
    "low-wing": _shape(
        "Low-wing sport model, fuel", Kind.WING, Frame.LOW_WING, 1, _THREE | {T.BOLTS, T.TAIL_WHEEL, T.LOCK_NUT},
        power=Power.LIQUID_FUEL, mass_g=2900, span_mm=1550, top_speed_ms=32, flight_min=12, cells=4, bands=0,
        cg_min_mm=95, cg_max_mm=105,
    ),
    "twin": _shape(
        "Low-wing twin with flaps", Kind.WING, Frame.LOW_WING, 2,
        _THREE | {T.BOLTS, T.NOSE_WHEEL, T.RETRACTS, T.FLAPS, T.LOCK_NUT},
        mass_g=3400, span_mm=1800, top_speed_ms=30, flight_min=9, cells=4, bands=0, cg_min_mm=88, cg_max_mm=96,
    ),
    "flying-wing": _shape(
        "Flying wing, hand launch", Kind.WING, Frame.FLYING_WING, 1, {T.ELEVONS, T.PUSHER, T.HAND_LAUNCH, T.LOCK_NUT},
        mass_g=720, span_mm=1000, top_speed_ms=27, flight_min=14, cells=3, bands=0, cg_min_mm=180,
        cg_max_mm=190,
    ),
    "glider": _shape(
        "Glider without motor", Kind.WING, Frame.HIGH_WING, 0, {T.GLIDER, T.BOLTS, T.AILERONS, T.V_TAIL, T.HAND_LAUNCH},
        power=Power.NONE, mass_g=900, span_mm=2400, top_speed_ms=20, flight_min=60, cells=2, bands=0, cg_min_mm=82,
        cg_max_mm=88,
    ),
    "heli-single": _shape(
        "Single-rotor helicopter", Kind.HELICOPTER, Frame.SINGLE_ROTOR, 1, {T.COLLECTIVE, T.STABILISER, T.LEGS},
        mass_g=820, span_mm=720, top_speed_ms=25, flight_min=7, cells=3, bands=0,
    ),
    "heli-coaxial": _shape(
        "Coaxial helicopter", Kind.HELICOPTER, Frame.COAXIAL_ROTOR, 2, {T.FLYBAR, T.STABILISER, T.LEGS},
        mass_g=240, span_mm=340, top_speed_ms=6, flight_min=9, cells=2, bands=0,
    ),
})  # fmt: skip
"""By a short name. Source: invented."""
