"""Gates and holds as data: what must come before what, what the aircraft is held in, and why."""

from walkround.core.aircraft.aircraft import having
from walkround.core.aircraft.traits import Trait
from walkround.core.checklist.check import Gate, Hold

_POWERED = (
    "senses.satellites",
    "senses.home_point",
    "senses.compass",
    "senses.level",
    "senses.heading",
    "senses.barometer",
    "senses.obstacle_sensors",
    "senses.gyro_sense",
    "senses.tail_gyro",
    "senses.horizon",
    "power.ready_to_arm",
    "controls.surfaces",
    "controls.swashplate",
    "controls.throw",
    "controls.idle",
    "controls.lean",
    "controls.arm_disarm",
    "controls.full_power",
    "controls.tracking",
)
_BLADES_OFF = ("bench.failsafe", "bench.motors_stop", "bench.motor_spin")

GATES: tuple[Gate, ...] = (
    Gate(
        id="cover",
        blocks=("power.aircraft_on",),
        needs=("airframe.covers_off",),
        says="Gimbal cover off before the aircraft is powered. Left on, the motor overheats and must be recalibrated.",
    ),
    Gate(
        id="video-antenna",
        blocks=("power.aircraft_on",),
        needs=("airframe.video_antennas",),
        says="Video antennas on before the aircraft is powered. Without them the transmitter burns out.",
    ),
    Gate(
        id="transmitter-first",
        blocks=("power.aircraft_on",),
        needs=("power.transmitter_on",),
        says="Transmitter on before the aircraft. Otherwise the receiver looks for any transmitter.",
    ),
    Gate(
        id="inert",
        blocks=("power.aircraft_on", "power.engine_start"),
        needs=("power.idle",),
        says="Throttle at idle and arm switch off before the aircraft is powered. Blades start without warning.",
    ),
    Gate(
        id="kill-switch",
        blocks=("controls.full_power",),
        needs=("power.kill_switch",),
        says="The kill switch is tried before full power. An engine that cannot be stopped is not run up.",
    ),
    Gate(
        id="power-first",
        blocks=("power.still_long", "power.still_short"),
        needs=("power.aircraft_on",),
        says="The count starts the moment the aircraft is powered and set down.",
    ),
    Gate(
        id="still",
        blocks=_POWERED,
        needs=("power.still_long", "power.still_short"),
        says="Still for the count after power. It is learning what still means; touch it and it flies horribly.",
    ),
    Gate(
        id="directions",
        blocks=("controls.full_power", "controls.tracking"),
        needs=("controls.surfaces", "controls.swashplate"),
        says="Control directions before the motor runs. A reversed control is found on the ground.",
    ),
    Gate(
        id="propellers-off",
        blocks=_BLADES_OFF,
        needs=("bench.propellers_off",),
        says="Propellers off before motors run on the bench. If something is wrong the motors go on.",
    ),
    Gate(
        id="propellers-back",
        blocks=("bench.propellers_back",),
        needs=_BLADES_OFF,
        says="The propellers go back on after the bench tests, with the power off.",
    ),
)

HOLDS: tuple[Hold, ...] = (
    Hold(
        id="unplugged",
        says="Inert until Power: unplugged, throttle locked.",
        until=("power.aircraft_on",),
        applies=having(Trait.MOTOR, Trait.ELECTRIC),
    ),
    Hold(
        id="engine-off",
        says="Inert until started: igniter off, throttle closed.",
        until=("power.engine_start",),
        applies=having(Trait.LIQUID_FUEL),
    ),
    Hold(
        id="blades-still",
        says="Powered: throttle locked, blades still.",
        until=("controls.idle",),
        applies=having(Trait.MOTOR),
    ),
)
"""What the aircraft is held in while the list runs, in order; the first that is not over is shown.
Source: the model must stay inert until the list allows it; common practice, no source."""
