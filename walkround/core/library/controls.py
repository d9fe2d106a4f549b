"""Controls: each stick moves what it should, and motors sound right."""

from walkround.core.aircraft import MULTIROTOR, WING
from walkround.core.check import AskChoice, AskTick, Cadence, Check, Option, Station
from walkround.core.finding import Level
from walkround.core.history import EventKind, SnagOn

CHECKS = (
    Check(
        id="controls.surfaces",
        station=Station.CONTROLS,
        title="Move each stick and look from behind",
        how="Right aileron: right surface up, left down. Back stick: elevator up. Right rudder: rudder right.",
        why="Reversed ailerons are the classic maiden crash.",
        grounds=True,
        cadence=Cadence.LAUNCH,
        applies=WING,
        ask=AskChoice(
            options=(
                Option(id="right", label="Each as told"),
                Option(
                    id="reversed",
                    label="One goes the wrong way",
                    level=Level.GROUNDED,
                    reason="A surface moves the wrong way.",
                    remedy="Reverse that channel in the transmitter, or choose the right model memory.",
                ),
                Option(
                    id="dead",
                    label="One does not move",
                    level=Level.GROUNDED,
                    reason="A surface does not move.",
                    remedy="Look at lead, servo and clevis.",
                ),
            )
        ),
        fault="A surface does not obey.",
        remedy="Find out why; it stays down until it does.",
        part="wing",
        snag_on=SnagOn.AIRCRAFT,
        short=True,
        source="FAA AC 107-2A, surfaces move rightly from the control station (from memory)",
    ),
    Check(
        id="controls.throw",
        station=Station.CONTROLS,
        title="Let go: centred, free, full throw",
        how="Each surface comes back to centre, moves to its stop without buzzing, and touches nothing.",
        why="A buzzing servo is a binding one, and it drains the receiver.",
        grounds=True,
        cadence=Cadence.LAUNCH,
        applies=WING,
        ask=AskTick(ok="Centred, free, quiet"),
        fault="A surface binds, buzzes or is off centre.",
        remedy="Free the rod; set it by the clevis, not by the trim.",
        part="wing",
        snag_on=SnagOn.AIRCRAFT,
    ),
    Check(
        id="controls.lean",
        station=Station.CONTROLS,
        title="Lean it on the ground: forward, roll, yaw",
        how="Away from people and cars. Throttle down: a little forward until the tail lifts, a little roll, a little "
        "yaw. Each goes the way it was told and nothing jumps.",
        why="After a change the ground is the place to find a swapped motor.",
        grounds=True,
        cadence=Cadence.EVENT,
        events=(EventKind.NEW_BUILD, EventKind.REPAIR, EventKind.FIRMWARE, EventKind.CRASH),
        applies=MULTIROTOR,
        ask=AskTick(ok="Leans as told"),
        fault="It leans the wrong way or jumps.",
        remedy="Disarm. Motor order, propellers, board direction.",
        caution="Blades turn. Several paces back, everyone behind you.",
        part="motors",
        snag_on=SnagOn.AIRCRAFT,
    ),
    Check(
        id="controls.idle",
        station=Station.CONTROLS,
        title="Run the motor at idle and listen",
        how="Everyone clear. Start, idle a few seconds, listen and look for imbalance; stop.",
        why="An odd sound means stop and look.",
        grounds=True,
        cadence=Cadence.LAUNCH,
        ask=AskTick(ok="Even and smooth"),
        fault="It sounds odd or shakes.",
        remedy="Stop. Propellers, motor, mounts.",
        caution="Hands, sleeves, cables and people away from the disc; never reach over a turning blade.",
        part="motors",
        snag_on=SnagOn.AIRCRAFT,
        source="FAA AC 107-2A, propellers watched for imbalance (from memory)",
    ),
)
