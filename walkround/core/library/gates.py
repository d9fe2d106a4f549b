"""Gates as data: what must come before what, and why."""

from walkround.core.check import Gate

_POWERED = (
    "senses.satellites",
    "senses.home_point",
    "senses.compass",
    "senses.level",
    "senses.heading",
    "controls.surfaces",
    "controls.throw",
    "controls.idle",
    "controls.lean",
)

GATES: tuple[Gate, ...] = (
    Gate(
        id="cover",
        blocks=("power.aircraft_on",),
        needs=("airframe.covers_off",),
        says="Gimbal cover off before the aircraft is powered. Left on, the motor overheats and must be recalibrated.",
    ),
    Gate(
        id="transmitter-first",
        blocks=("power.aircraft_on",),
        needs=("power.transmitter_on",),
        says="Transmitter on before the aircraft. Otherwise the receiver looks for any transmitter.",
    ),
    Gate(
        id="inert",
        blocks=("power.aircraft_on",),
        needs=("power.idle",),
        says="Throttle at idle and arm switch off before the aircraft is powered. Blades start without warning.",
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
        id="propellers-off",
        blocks=("bench.failsafe",),
        needs=("bench.propellers_off",),
        says="Propellers off before the bench failsafe test. If the failsafe is wrong the motors go on.",
    ),
    Gate(
        id="propellers-back",
        blocks=("bench.propellers_back",),
        needs=("bench.failsafe",),
        says="The propellers go back on after the bench failsafe test, with the power off.",
    ),
)
