"""Gates and holds as data: what must come before what, what state the aircraft is kept in, and why.

Powered work hangs on the state of the aircraft ("powered", "blades can turn"), that is on the checks that bring it about
and that every aircraft has, never only on one that another aircraft lacks.
"""

from walkround.core.aircraft.aircraft import having
from walkround.core.aircraft.traits import Trait
from walkround.core.checklist.check import Gate, SafeState

POWERED = ("power.aircraft_on", "power.still_long", "power.still_short")
"""What brings the state *powered* about: switched on, and still for as long as its gyros need, where it has any."""
NEEDS_POWER = (
    "power.self_test",
    "sensors.satellites",
    "sensors.home_point",
    "sensors.compass",
    "sensors.accelerometer",
    "sensors.heading",
    "sensors.barometer",
    "sensors.obstacle_sensors",
    "sensors.gyro_sense",
    "sensors.tail_gyro",
    "sensors.horizon",
    "sensors.telemetry",
    "sensors.id_live",
    "power.ready_to_arm",
    "link.range",
    "controls.surfaces",
    "controls.swashplate",
    "controls.throw",
    "controls.throttle_cut",
    "controls.throttle_hold",
)
"""Work on a powered aircraft whose blades must not turn yet."""
BLADES_TURN = (
    "controls.idle",
    "controls.lean",
    "controls.arm_disarm",
    "controls.full_power",
    "controls.tracking",
    "power.engine_start",
)
"""Work in the state *blades can turn*."""
DIRECTIONS = ("controls.surfaces", "controls.swashplate")
_BLADES_OFF = ("bench.failsafe", "bench.motors_stop", "bench.motor_spin", "bench.motor_order")

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
        blocks=("power.aircraft_on", "power.mode", "power.trims"),
        needs=("power.transmitter_on",),
        says="Transmitter on first. Otherwise the receiver looks for any transmitter, and model and mode cannot be read.",
    ),
    Gate(
        id="inert",
        blocks=("power.aircraft_on", "power.engine_start"),
        needs=("power.idle", "power.mode"),
        says="Right model, throttle at idle and arm switch off before the aircraft is powered. Blades start without warning.",
    ),
    Gate(
        id="power-first",
        blocks=("power.still_long", "power.still_short"),
        needs=("power.aircraft_on",),
        says="The count starts the moment the aircraft is powered and set down.",
    ),
    Gate(
        id="powered",
        blocks=(*NEEDS_POWER, *BLADES_TURN),
        needs=POWERED,
        says="Powered first, and still for the count. It is learning what still means; touch it and it flies horribly.",
    ),
    Gate(
        id="directions",
        blocks=BLADES_TURN,
        needs=DIRECTIONS,
        says="Control directions before anything turns. A reversed control is found with the blades still.",
    ),
    Gate(
        id="hold-tried",
        blocks=BLADES_TURN,
        needs=("controls.throttle_cut", "controls.throttle_hold"),
        says="Throttle cut or hold is tried before anything turns.",
    ),
    Gate(
        id="engine-last",
        blocks=("power.engine_start",),
        needs=("controls.throw", "link.range", "link.lost_action_wing", "link.lost_action_heli", "pack.fuel_leaks"),
        says="The engine is started last: behind surfaces, range, failsafe and leaks.",
    ),
    Gate(
        id="engine-runs",
        blocks=("controls.idle", "controls.full_power", "controls.tracking", "power.kill_switch"),
        needs=("power.engine_start",),
        says="The engine is started first, with the model held.",
    ),
    Gate(
        id="kill-switch",
        blocks=("controls.full_power",),
        needs=("power.kill_switch",),
        says="The kill switch is tried before full power. An engine that cannot be stopped is not run up.",
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
    Gate(
        id="off-first",
        blocks=("after.look", "after.heat", "after.pack_heat", "after.engine_cold", "after.drain", "after.covers_on"),
        needs=("after.off",),
        says="Stopped, disarmed and unplugged before you touch it.",
    ),
)

SAFE_STATES: tuple[SafeState, ...] = (
    SafeState(
        id="unplugged",
        says="Inert until Power: unplugged, throttle locked.",
        until=("power.aircraft_on",),
        applies=having(Trait.MOTOR, Trait.ELECTRIC),
    ),
    SafeState(
        id="engine-off",
        says="Engine off until the last step: igniter off, throttle closed.",
        until=("power.engine_start",),
        applies=having(Trait.LIQUID_FUEL),
    ),
    SafeState(
        id="blades-still",
        says="Powered: throttle locked, nothing turns yet.",
        until=("controls.idle",),
        applies=having(Trait.MOTOR, Trait.ELECTRIC),
    ),
    SafeState(
        id="blades-can-turn",
        says="Blades can turn: keep clear of their plane, and disarm and unplug before you touch it.",
        until=("after.off",),
        applies=having(Trait.MOTOR),
    ),
)
"""What state the aircraft is kept in while the list runs, in order; the first that is not over is shown.
Source: the model must stay inert until the list allows it; common practice, no source."""
