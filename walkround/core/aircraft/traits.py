"""The words an aircraft is described with: kinds, frames, power, and traits in the order of the form."""

from enum import StrEnum

from walkround.core.base.struct import Struct


class Kind(StrEnum):
    """What lifts it; kinds differ in nearly every check."""

    MULTIROTOR = "multirotor"
    WING = "fixed wing"
    HELICOPTER = "helicopter"


class Power(StrEnum):
    """What drives it."""

    ELECTRIC = "electric"
    LIQUID_FUEL = "liquid fuel"
    NONE = "no motor"


class Frame(StrEnum):
    """How it is laid out."""

    X = "X"
    PLUS = "plus"
    H = "H"
    Y_COAXIAL = "Y, coaxial"
    X_COAXIAL = "X, coaxial"
    HIGH_WING = "high wing"
    LOW_WING = "low wing"
    FLYING_WING = "flying wing"
    SINGLE_ROTOR = "single rotor"
    COAXIAL_ROTOR = "coaxial rotors"


FRAME_MOTORS: dict[Kind, dict[Frame, tuple[int, ...]]] = {
    Kind.MULTIROTOR: {
        Frame.X: (4, 3, 6, 8),
        Frame.PLUS: (4, 6, 8),
        Frame.H: (4, 6),
        Frame.Y_COAXIAL: (6,),
        Frame.X_COAXIAL: (8,),
    },
    Kind.WING: {Frame.HIGH_WING: (1, 2, 0), Frame.LOW_WING: (1, 2, 0), Frame.FLYING_WING: (1, 2, 0)},
    Kind.HELICOPTER: {Frame.SINGLE_ROTOR: (1,), Frame.COAXIAL_ROTOR: (2,)},
}
"""Frames of each kind with the numbers of motors they come with, the usual one first. Source: common practice."""


class Trait(StrEnum):
    """What an aircraft has or is. Checks apply by traits; the last group follows from the others and is never chosen."""

    FOLDING = "folding arms"
    LEGS = "legs or skids"
    GUARDS = "propeller guards"
    SEALED = "sealed against rain"
    SELF_BUILT = "self-built, armed by stick or switch"
    RACING = "built for racing"
    QUICK_RELEASE = "quick-release propellers"
    LOCK_NUT = "propellers under nyloc nuts"
    SCREWED = "propellers held by screws"
    FOLDING_BLADES = "folding propeller blades"
    PUSHER = "propeller behind the wing"
    FLIGHT_CONTROLLER = "flight controller"
    STABILISER = "gyro stabiliser"
    SATNAV = "GPS / GNSS"
    COMPASS = "compass"
    RETURN_HOME = "return to home (RTH)"
    HOME_AT_ARMING = "home point set when arming"
    HOME_IN_HOVER = "home point set in the hover"
    OBSTACLE_SENSORS = "obstacle sensors"
    GIMBAL_CAMERA = "camera on a gimbal"
    FIXED_CAMERA = "fixed camera or recorder"
    VIDEO_LINK = "video link"
    GOGGLES = "flown with goggles"
    PILOT_SCREEN = "flown with a phone or tablet"
    TELEMETRY = "telemetry of pack and link"
    REMOTE_ID = "remote ID"
    BEEPER = "lost-model beeper"
    TRACKER = "separate tracker"
    PAYLOAD = "carries a payload"
    PAYLOAD_WIFI = "payload with its own Wi-Fi"
    CHARGE_LEDS = "pack shows its charge by LEDs"
    CHARGE_BARS = "screen shows the charge as bars"
    SHOWS_HDOP = "screen shows HDOP"
    READY_LIGHT = "ready light, no number of satellites"
    SIGNAL_BARS = "signal shown as bars"
    SIGNAL_PERCENT = "signal shown in %"
    SIGNAL_DBM = "signal shown in dBm"
    UPDATABLE = "firmware can be updated"
    SMART_PACK = "smart packs with battery %"
    BANDS = "wing held by rubber bands"
    BOLTS = "wing held by bolts"
    NOSE_WHEEL = "steered nose wheel"
    TAIL_WHEEL = "tail wheel"
    RETRACTS = "retracts"
    AILERONS = "ailerons"
    ELEVONS = "elevons"
    ELEVATOR = "elevator"
    RUDDER = "rudder"
    V_TAIL = "V-tail"
    FLAPS = "flaps"
    GLIDER = "glider"
    HAND_LAUNCH = "hand launched"
    FLYBAR = "flybar"
    COLLECTIVE = "collective pitch"

    MOTOR = "a motor"
    NO_MOTOR = "no motor"
    ELECTRIC = "electric power"
    LIQUID_FUEL = "liquid fuel"
    PROPELLERS = "propellers"
    SEVERAL_MOTORS = "several motors"
    ROTOR_BLADES = "rotor blades"
    COAXIAL = "coaxial rotors"
    TAIL_ROTOR = "a tail rotor"
    TAIL = "a tail"
    TAILLESS = "a flying wing's fins"
    WHEELS = "wheels"
    SURFACES = "control surfaces"
    CAMERA = "a camera"
    REGISTRABLE = "registration required"


class TraitGroup(Struct, frozen=True, kw_only=True):
    """Traits that stand together on the form; ``one``: at most one of them can be true."""

    title: str
    traits: tuple[Trait, ...]
    one: bool = False


_CAMERA = TraitGroup(
    title="Camera and picture",
    traits=(Trait.GIMBAL_CAMERA, Trait.FIXED_CAMERA, Trait.VIDEO_LINK, Trait.GOGGLES, Trait.PILOT_SCREEN),
)
_LINK = TraitGroup(
    title="Link and finding it again",
    traits=(Trait.TELEMETRY, Trait.REMOTE_ID, Trait.BEEPER, Trait.TRACKER),
)
_MOUNT = TraitGroup(
    title="How propellers are held", traits=(Trait.QUICK_RELEASE, Trait.LOCK_NUT, Trait.SCREWED), one=True
)
_LOAD = TraitGroup(title="Payload", traits=(Trait.PAYLOAD, Trait.PAYLOAD_WIFI))
_SERVICE = TraitGroup(title="Packs and firmware", traits=(Trait.SMART_PACK, Trait.UPDATABLE))
_CHARGE_SHOWN = TraitGroup(
    title="Charge of a smart pack, if not in %", traits=(Trait.CHARGE_LEDS, Trait.CHARGE_BARS), one=True
)
_SATELLITES_SHOWN = TraitGroup(
    title="What shows the satellites", traits=(Trait.SHOWS_HDOP, Trait.READY_LIGHT), one=True
)
_SIGNAL_SHOWN = TraitGroup(
    title="What shows the signal", traits=(Trait.SIGNAL_BARS, Trait.SIGNAL_PERCENT, Trait.SIGNAL_DBM), one=True
)

KIND_GROUPS: dict[Kind, tuple[TraitGroup, ...]] = {
    Kind.MULTIROTOR: (
        TraitGroup(
            title="Build",
            traits=(
                Trait.FOLDING, Trait.LEGS, Trait.GUARDS, Trait.SEALED, Trait.SELF_BUILT, Trait.RACING, Trait.HAND_LAUNCH,
            ),
        ),
        _MOUNT,
        TraitGroup(title="Blades", traits=(Trait.FOLDING_BLADES,)),
        TraitGroup(
            title="Senses",
            traits=(
                Trait.FLIGHT_CONTROLLER, Trait.SATNAV, Trait.COMPASS, Trait.RETURN_HOME, Trait.HOME_AT_ARMING,
                Trait.HOME_IN_HOVER, Trait.OBSTACLE_SENSORS,
            ),
        ),
        _CAMERA,
        _LINK,
        _LOAD,
        _SERVICE,
        _CHARGE_SHOWN,
        _SATELLITES_SHOWN,
        _SIGNAL_SHOWN,
    ),
    Kind.WING: (
        TraitGroup(title="Wing held by", traits=(Trait.BANDS, Trait.BOLTS), one=True),
        TraitGroup(title="Roll", traits=(Trait.AILERONS, Trait.ELEVONS), one=True),
        TraitGroup(title="Tail and flaps", traits=(Trait.ELEVATOR, Trait.RUDDER, Trait.V_TAIL, Trait.FLAPS)),
        TraitGroup(title="Wheels", traits=(Trait.NOSE_WHEEL, Trait.TAIL_WHEEL), one=True),
        TraitGroup(
            title="Build",
            traits=(
                Trait.RETRACTS, Trait.GLIDER, Trait.HAND_LAUNCH, Trait.PUSHER, Trait.FOLDING_BLADES, Trait.SEALED,
                Trait.SELF_BUILT,
            ),
        ),
        _MOUNT,
        TraitGroup(
            title="Senses",
            traits=(
                Trait.STABILISER, Trait.FLIGHT_CONTROLLER, Trait.SATNAV, Trait.COMPASS, Trait.RETURN_HOME,
                Trait.HOME_AT_ARMING,
            ),
        ),
        _CAMERA,
        _LINK,
        _LOAD,
        _SERVICE,
        _CHARGE_SHOWN,
        _SATELLITES_SHOWN,
        _SIGNAL_SHOWN,
    ),
    Kind.HELICOPTER: (
        TraitGroup(title="Head", traits=(Trait.FLYBAR, Trait.COLLECTIVE)),
        TraitGroup(title="Build", traits=(Trait.LEGS, Trait.SEALED, Trait.SELF_BUILT)),
        TraitGroup(
            title="Senses",
            traits=(
                Trait.STABILISER, Trait.FLIGHT_CONTROLLER, Trait.SATNAV, Trait.COMPASS, Trait.RETURN_HOME,
                Trait.HOME_AT_ARMING,
            ),
        ),
        _CAMERA,
        _LINK,
        _LOAD,
        _SERVICE,
        _CHARGE_SHOWN,
        _SATELLITES_SHOWN,
        _SIGNAL_SHOWN,
    ),
}  # fmt: skip
"""Traits that can be chosen for each kind, in the order of the form."""

KIND_TRAITS: dict[Kind, tuple[Trait, ...]] = {
    kind: tuple(trait for group in groups for trait in group.traits) for kind, groups in KIND_GROUPS.items()
}
"""The same, without the groups."""
