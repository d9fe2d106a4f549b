"""The emergency card of an aircraft: how its motors are stopped in the air and on the ground, how RTH is started and cancelled."""

from walkround.core.aircraft.aircraft import Aircraft
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
    if aircraft.has(Trait.NO_MOTOR):
        return STOP_GLIDER
    return STOP_ENGINE if aircraft.has(Trait.LIQUID_FUEL) else STOPS[aircraft.kind]


def emergency_card(aircraft: Aircraft) -> EmergencyCard:
    """The card of an aircraft. Source: the pilot's own words; common practice, no source; the maker's manual prevails."""
    home: tuple[str, ...] = ()
    if aircraft.has(Trait.RETURN_HOME):
        told = (
            aircraft.home_words
            or "Its button on the transmitter, or the control on the screen. The same again cancels it on most."
        )
        home = (told, "While it returns, watch it, thumbs on the sticks.")
    return EmergencyCard(
        stop=stop_words(aircraft),
        own=bool(aircraft.stop_words),
        air="" if aircraft.has(Trait.NO_MOTOR) else FALLS[aircraft.kind],
        ground=ON_GROUND
        if not aircraft.has(Trait.NO_MOTOR)
        else "Wait until it lies still, then switch the receiver off.",
        home=home,
    )
