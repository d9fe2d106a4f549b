"""Controls: each stick moves what it should, and motors sound right."""

from walkround.core.aircraft.aircraft import HELICOPTER, MULTIROTOR, having
from walkround.core.aircraft.parts import PartKind as P
from walkround.core.aircraft.traits import Kind
from walkround.core.aircraft.traits import Trait as T
from walkround.core.checklist.check import AskMoves, Station
from walkround.core.checklist.check import Occasion as O
from walkround.core.checklist.history import EventKind as E
from walkround.core.checklist.library.shelf import DAY, EVENT, ON_AIRCRAFT, Shelf

check = Shelf(Station.CONTROLS)

# fmt: off
CHECKS = (
    check("surfaces", "Move each stick and look from behind",
          applies=having(T.SURFACES), part="wing", snag=ON_AIRCRAFT, short=True,
          how="The stick movement is called; the drawing shows, from behind, what must move and which way.",
          why="Reversed ailerons are the classic maiden crash.",
          ask=AskMoves(),
          fault="A surface does not obey.", remedy="Find out why; it stays down until it does.",
          source="FAA AC 107-2A, surfaces move rightly from the control station (from memory)"),
    check("swashplate", "Move the cyclic and look from behind",
          applies=HELICOPTER, part="rotor", snag=ON_AIRCRAFT, short=True,
          how="The stick movement is called; the drawing shows how the swashplate must tilt. Motor unplugged or throttle hold on.",
          why="A swashplate that tilts the wrong way is over in a second.",
          ask=AskMoves(),
          fault="The swashplate does not follow.", remedy="Find the servo or link before anything turns.",
          caution="Throttle hold on; the head must not turn.",
          source="FAA AC 107-2A, surfaces move rightly from the control station (from memory)"),
    check("throw", "Let go: centred, free, full throw",
          ok="Centred, free, quiet", applies=having(T.SURFACES), part="wing", snag=ON_AIRCRAFT,
          how="Each surface comes back to centre, moves to its stop without buzzing, and touches nothing.",
          why="A buzzing servo is a binding one, and it drains the receiver.",
          fault="A surface binds, buzzes or is off centre.", remedy="Free the rod; set it by the clevis, not by the trim."),
    check("rates_felt", "See that low rates are on",
          ok="Low, throws small", when=EVENT, occasions=(O.MAIDEN, O.AFTER_PAUSE), applies=having(T.SURFACES), part="wing",
          how="Flip the switch and watch a surface: the small throw is the one you start with.",
          why="A first flight on high rates is flown by the wind.",
          fault="The rates switch does nothing.", remedy="Set it in this model's memory."),
    check("throttle_cut", "Try the throttle cut",
          ok="It holds", when=DAY, applies=having(T.ELECTRIC, kind=Kind.WING), part="motors",
          how="Cut on, stick up a little: nothing turns. Only then off again, stick down.",
          why="A sleeve on the stick is enough.",
          fault="The motor answers with the cut on.", remedy="Set the cut in the transmitter; until then the plug stays out.",
          caution="Model held, nobody in line with the disc."),
    check("arm_disarm", "Arm and disarm with the throttle down",
          ok="Arms, disarms, nothing jumps", when=EVENT, after=(E.NEW_BUILD, E.REPAIR, E.FIRMWARE), applies=having(T.SELF_BUILT, T.FLIGHT_CONTROLLER, T.MOTOR), part="motors", snag=ON_AIRCRAFT,
          how="Away from people and cars, on smooth ground, throttle at nought: arm, count three, disarm.",
          why="The first time it lives, it must be able to die.",
          fault="It jumps or will not disarm.", remedy="Plug out from behind; board settings before blades.",
          caution="Several paces away, plug within reach of a long arm from behind."),
    check("idle", "Run the motor at idle and listen",
          ok="Even and smooth", applies=having(T.MOTOR), part="motors", snag=ON_AIRCRAFT,
          how="Everyone clear. Start, idle a few seconds, listen and look for imbalance; stop.",
          why="An odd sound means stop and look.",
          fault="It sounds odd or shakes.", remedy="Stop. Propellers, motor, mounts.",
          caution="Hands, sleeves, cables and people away from the disc; never reach over a turning blade.",
          source="FAA AC 107-2A, propellers watched for imbalance (from memory)"),
    check("lean", "Lean it on the ground: forward, roll, yaw",
          when=EVENT, after=(E.NEW_BUILD, E.REPAIR, E.FIRMWARE, E.CRASH), on_parts=(P.MOTOR, P.SPEED_CONTROLLER, P.FLIGHT_CONTROLLER), applies=MULTIROTOR, part="motors", snag=ON_AIRCRAFT,
          how="Away from people and cars. Throttle down: a little forward until the tail lifts, a little roll, a little yaw. Each goes the way it was told and nothing jumps.",
          why="After a change the ground is the place to find a swapped motor.",
          ask=AskMoves(),
          fault="It leans the wrong way or jumps.", remedy="Disarm. Motor order, propellers, board direction.",
          caution="Blades turn. Several paces back, everyone behind you."),
    check("full_power", "Hold it and run it up",
          ok="Full and even", when=DAY, applies=having(T.PROPELLERS, kind=Kind.WING), part="motors", snag=ON_AIRCRAFT,
          how="A helper holds it by the wing roots: full power five seconds, nose level, then nose up.",
          why="It fades on the ground before it fades over the trees.",
          fault="It fades, shakes or will not hold full power.", remedy="Pack or needle, propeller, mounts.",
          caution="Nobody beside or in front of the propeller; the helper holds from behind it."),
    check("tracking", "Watch the blades track",
          ok="One disc", applies=having(T.ROTOR_BLADES), part="rotor", snag=ON_AIRCRAFT,
          how="Low revs, from several paces, at eye height: both tips run in one line.",
          why="Two lines shake every screw loose.",
          fault="The blades run in two lines.", remedy="Shorten the higher blade's link, a half turn at a time.",
          caution="Never with your eyes level and near: several paces, and to the side of nobody."),
)
