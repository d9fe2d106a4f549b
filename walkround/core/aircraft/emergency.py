"""The emergency card of an aircraft: how its motors are stopped in the air and on the ground, how RTH is started and cancelled."""

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.failsafe import Failsafe, HomeBy
from walkround.core.aircraft.traits import Kind, Trait
from walkround.core.base.struct import Struct

STOPS = {
    Kind.MULTIROTOR: "Stop the motors in this aircraft's own way, as agreed before take-off.",
    Kind.HELICOPTER: "Throttle hold, then wait until every blade has stopped.",
    Kind.WING: "Throttle closed and lock on. Stay clear of the propeller until it has stopped.",
}
"""How it is stopped. Source: common practice, no source; the maker's manual prevails."""
STOP_ENGINE = "Throttle closed and ignition off. Stay clear until every blade has stopped."
STOP_GLIDER = "Airbrakes out, and land into the wind, away from people."
FALLS = {
    Kind.MULTIROTOR: "Without motors it falls. Only away from people, or when it flies off.",
    Kind.HELICOPTER: "Without power it comes down at once. Only away from people.",
    Kind.WING: "Without power it glides. Turn it away from people and into the wind.",
}
"""What follows in the air. Source: common practice, no source."""
ON_GROUND = "Wait until every blade stands still. Come from behind, disarm, unplug, then touch."


HOME_WORDS = {
    HomeBy.BUTTON: "the button on the transmitter",
    HomeBy.SWITCH: "a mode switch",
    HomeBy.SCREEN: "the control on the screen",
    HomeBy.STICKS: "moving the sticks",
}


class EmergencyCard(Struct, frozen=True, kw_only=True):
    """``stop``: how it is stopped; ``own``: whether that is this aircraft's own way, as the pilot entered it; ``air`` and ``ground``: what to
    mind; ``home``: how RTH is started and cancelled, empty for aircraft without it."""

    stop: str
    own: bool
    air: str
    ground: str
    home: tuple[str, ...]


def stop_words(aircraft: Aircraft) -> str:
    """How this aircraft is stopped in an emergency: as the pilot entered it, else as its kind is. Source: ``STOPS``."""
    if aircraft.stop_words:
        return aircraft.stop_words
    settings = aircraft.failsafe
    if settings is not None and settings.stop_air is not None:
        held = f", held for {settings.stop_hold_s:g} s" if settings.stop_hold_s else ""
        ground = settings.stop_ground or settings.stop_air
        return f"In the air: {settings.stop_air.value}{held}. On the ground: {ground.value}."
    if aircraft.has(Trait.NO_MOTOR):
        return STOP_GLIDER
    return STOP_ENGINE if aircraft.has(Trait.LIQUID_FUEL) else STOPS[aircraft.kind]


def _home_words(settings: Failsafe | None) -> str:
    """How RTH is started and cancelled, as recorded; empty where it is not."""
    if settings is None or not settings.home_start:
        return ""
    start = " or ".join(HOME_WORDS[by] for by in settings.home_start)
    cancel = " or ".join(HOME_WORDS[by] for by in settings.home_cancel)
    confirm = f" Confirm it every {settings.confirm_s:g} s." if settings.confirm_s else ""
    return f"Start: {start}. Cancel: {cancel or 'not recorded'}.{confirm}"


def emergency_card(aircraft: Aircraft) -> EmergencyCard:
    """The card of an aircraft. Source: the pilot's own words; common practice, no source; the maker's manual prevails."""
    home: tuple[str, ...] = ()
    if aircraft.has(Trait.RETURN_HOME):
        told = (
            aircraft.home_words
            or _home_words(aircraft.failsafe)
            or "Its button on the transmitter, or the control on the screen. The same again cancels it on most."
        )
        home = (told, "While it returns, watch it, thumbs on the sticks.")
    return EmergencyCard(
        stop=stop_words(aircraft),
        own=bool(aircraft.stop_words) or (aircraft.failsafe is not None and aircraft.failsafe.stop_air is not None),
        air="" if aircraft.has(Trait.NO_MOTOR) else FALLS[aircraft.kind],
        ground=ON_GROUND
        if not aircraft.has(Trait.NO_MOTOR)
        else "Wait until it lies still, then switch the receiver off.",
        home=home,
    )
