"""From where a stop is drawn, what is felt of a part there, and what such a part does."""

from enum import StrEnum

from walkround.core.aircraft.flaws import Bears


class View(StrEnum):
    """From where a stop is drawn."""

    ABOVE = "from above"
    BELOW = "from below"
    SIDE = "from the side"
    CABIN = "inside"
    HEAD = "rotor head from the side"


class Aspect(StrEnum):
    """What is felt or looked at, by which the checks of the day find their parts."""

    BLADE = "blade"
    HUB = "hub"
    LOCK = "lock"
    SPINNER = "spinner"
    BELL = "bell"
    SHAFT = "shaft"
    MOUNT = "mount"
    ENGINE = "engine"
    TANK = "tank"
    ARM = "arm"
    LATCH = "latch"
    LEG = "leg"
    GUARD = "guard"
    SHELL = "shell"
    HATCH = "hatch"
    VENT = "vent"
    STRAP = "strap"
    WIRES = "wires"
    STANDOFF = "standoff"
    ANTENNA = "antenna"
    VIDEO_ANTENNA = "video antenna"
    SENSOR = "sensor"
    GIMBAL = "gimbal"
    PAYLOAD = "payload"
    PANEL = "panel"
    JOINT = "joint"
    DOWEL = "dowel"
    BOLT = "bolt"
    LEAD = "lead"
    SURFACE = "surface"
    FLAP = "flap"
    SERVO = "servo"
    CONNECTOR = "connector"
    TAIL = "tail"
    FIN = "fin"
    WHEEL = "wheel"
    NOSE_WHEEL = "nose wheel"
    TAIL_WHEEL = "tail wheel"
    ROTOR_BLADE = "rotor blade"
    GRIP = "grip"
    LINK = "link"
    FLYBAR = "flybar"
    SWASHPLATE = "swashplate"
    MAST = "mast"
    GEAR = "gear"
    TAIL_ROTOR = "tail rotor"
    BOOM = "boom"
    CANOPY = "canopy"
    OWN = "own part"


A, B = Aspect, Bears
DOES: dict[Aspect, Bears] = {
    A.BLADE: B.ROTATES, A.HUB: B.ROTATES, A.LOCK: B.ROTATES, A.SPINNER: B.ROTATES, A.ROTOR_BLADE: B.ROTATES, A.GRIP: B.ROTATES,
    A.LINK: B.ROTATES, A.FLYBAR: B.ROTATES, A.SWASHPLATE: B.ROTATES, A.MAST: B.ROTATES, A.TAIL_ROTOR: B.ROTATES,
    A.BELL: B.DRIVES, A.SHAFT: B.DRIVES, A.MOUNT: B.DRIVES, A.ENGINE: B.DRIVES, A.GEAR: B.DRIVES,
    A.ARM: B.CARRIES, A.PANEL: B.CARRIES, A.JOINT: B.CARRIES, A.SURFACE: B.CARRIES, A.FLAP: B.CARRIES, A.SERVO: B.CARRIES,
    A.TAIL: B.CARRIES, A.FIN: B.CARRIES, A.BOOM: B.CARRIES,
    A.LATCH: B.HOLDS, A.STRAP: B.HOLDS, A.STANDOFF: B.HOLDS, A.DOWEL: B.HOLDS, A.BOLT: B.HOLDS, A.PAYLOAD: B.HOLDS, A.CANOPY: B.HOLDS, A.HATCH: B.HOLDS,
    A.LEG: B.STANDS, A.WHEEL: B.STANDS, A.NOSE_WHEEL: B.STANDS, A.TAIL_WHEEL: B.STANDS,
    A.TANK: B.CONDUCTS, A.WIRES: B.CONDUCTS, A.ANTENNA: B.CONDUCTS, A.VIDEO_ANTENNA: B.CONDUCTS, A.LEAD: B.CONDUCTS, A.CONNECTOR: B.CONDUCTS,
    A.GUARD: B.COVERS, A.SHELL: B.COVERS, A.VENT: B.COVERS, A.SENSOR: B.COVERS, A.GIMBAL: B.COVERS, A.OWN: B.CARRIES,
}  # fmt: skip
"""What a part does, by what is felt of it. Source: common practice, no source."""
