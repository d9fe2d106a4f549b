"""Gates and holds as data: what must come before what, what state the aircraft is kept in, and why.

Powered work hangs on the state of the aircraft ("powered", "blades can turn"), that is on the checks that bring it about
and that every aircraft has, never only on one that another aircraft lacks.
"""

from walkround.core.aircraft.aircraft import having
from walkround.core.aircraft.traits import Trait
from walkround.core.checklist.check import Gate, SafeState

POWERED = ("power.aircraft_on", "power.still_long", "power.still_short")
"""What brings the state *powered* about: switched on, and still for as long as its gyros need, where it has any."""
AGAIN = "power.inert_again"
"""What stands for transmitter, mode and throttle on a later launch."""
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
        says="Remove the gimbal cover before you power the aircraft. Left on, the gimbal motors overheat.",
    ),
    Gate(
        id="video-antenna",
        blocks=("power.aircraft_on",),
        needs=("airframe.video_antennas", AGAIN),
        says="Fit the video antennas before you power the aircraft. Without them the video transmitter burns out.",
    ),
    Gate(
        id="transmitter-first",
        blocks=("power.aircraft_on", "power.mode", "power.trims"),
        needs=("power.transmitter_on", AGAIN),
        says="Switch the transmitter on first. Without a signal the receiver goes into failsafe.",
    ),
    Gate(
        id="inert",
        blocks=("power.aircraft_on", "power.engine_start"),
        needs=("power.idle", "power.mode", AGAIN),
        says="Select the model, throttle at idle, arm switch off before you power the aircraft. Blades can start without warning.",
    ),
    Gate(
        id="power-first",
        blocks=("power.still_long", "power.still_short"),
        needs=("power.aircraft_on",),
        says="The count starts when the aircraft is powered and set down.",
    ),
    Gate(
        id="powered",
        blocks=(*NEEDS_POWER, *BLADES_TURN),
        needs=POWERED,
        says="Power it and keep it still for the count. If it moves while the gyros calibrate, it will not fly straight.",
    ),
    Gate(
        id="directions",
        blocks=BLADES_TURN,
        needs=DIRECTIONS,
        says="Check control directions before anything turns.",
    ),
    Gate(
        id="hold-tried",
        blocks=BLADES_TURN,
        needs=("controls.throttle_cut", "controls.throttle_hold"),
        says="Test the throttle cut or hold before anything turns.",
    ),
    Gate(
        id="engine-last",
        blocks=("power.engine_start",),
        needs=("controls.throw", "link.range", "link.lost_action_wing", "link.lost_action_heli", "pack.fuel_leaks"),
        says="Start the engine last, after surfaces, range, failsafe and leaks.",
    ),
    Gate(
        id="engine-runs",
        blocks=("controls.idle", "controls.full_power", "controls.tracking", "power.kill_switch"),
        needs=("power.engine_start",),
        says="Start the engine first, with the model restrained.",
    ),
    Gate(
        id="kill-switch",
        blocks=("controls.full_power",),
        needs=("power.kill_switch",),
        says="Test the kill switch before full power.",
    ),
    Gate(
        id="propellers-off",
        blocks=_BLADES_OFF,
        needs=("bench.propellers_off",),
        says="Remove the propellers before motors run on the bench. If the failsafe is wrong, the motors keep running.",
    ),
    Gate(
        id="propellers-back",
        blocks=("bench.propellers_back",),
        needs=_BLADES_OFF,
        says="Refit the propellers after the bench tests, with the power off.",
    ),
    Gate(
        id="off-first",
        blocks=("after.look", "after.heat", "after.pack_heat", "after.engine_cold", "after.drain", "after.covers_on"),
        needs=("after.off",),
        says="Stop, disarm and unplug it before you touch it.",
    ),
)

SAFE_STATES: tuple[SafeState, ...] = (
    SafeState(
        id="unplugged",
        says="Keep it inert until Power: unplugged, throttle locked.",
        until=("power.aircraft_on",),
        applies=having(Trait.MOTOR, Trait.ELECTRIC),
    ),
    SafeState(
        id="engine-off",
        says="Keep the engine off until the last step: igniter off, throttle closed.",
        until=("power.engine_start",),
        applies=having(Trait.LIQUID_FUEL),
    ),
    SafeState(
        id="blades-still",
        says="Powered: throttle locked, nothing may turn yet.",
        until=("controls.idle",),
        applies=having(Trait.MOTOR, Trait.ELECTRIC),
    ),
    SafeState(
        id="blades-can-turn",
        says="Blades can turn: keep out of their plane. Disarm and unplug before you touch it.",
        until=("after.off",),
        applies=having(Trait.MOTOR),
    ),
)
"""What state the aircraft is kept in while the list runs, in order; the first that is not over is shown.
Source: the model must stay inert until the list allows it; common practice, no source."""
