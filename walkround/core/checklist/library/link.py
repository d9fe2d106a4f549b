"""Link, failsafe and coming home."""

from walkround.core.aircraft.aircraft import HELICOPTER, WING, For, any_of, having
from walkround.core.aircraft.parts import PartKind as P
from walkround.core.aircraft.traits import Kind
from walkround.core.aircraft.traits import Trait as T
from walkround.core.answers.choice import AskChoice, Option
from walkround.core.answers.number import AskNumber
from walkround.core.base.finding import OUR_CHOICE, Level
from walkround.core.base.units import Measure
from walkround.core.checklist.check import Station, Wording
from walkround.core.checklist.history import EventKind as E
from walkround.core.checklist.library.check_factory import DAY, EVENT, ON_AIRCRAFT, SEASON, CheckFactory
from walkround.core.field.site import LaunchPlatform

check = CheckFactory(Station.LINK)

# fmt: off
CHECKS = (
    check("rth_altitude", "Read the return height from the aircraft",
          outdoors=True, applies=having(T.RETURN_HOME),
          how="Read the setting on the screen; it is compared with the obstacles of this field.",
          why="It is often left over from another place; updates reset it.",
          ask=AskNumber(measure=Measure.HEIGHT, label="Return height set", low=0, high=1000, rule="rth_altitude"),
          fault="The return height cannot be read.", remedy="Do not launch until you can read it.",
          source="FAA AC 107-2A, lost-control programming (from memory); margin: common practice, no source"),
    check("lost_action", "Check what it does when the link is lost",
          when=DAY, applies=having(T.RETURN_HOME, kind=Kind.MULTIROTOR),
          how="Read the setting. On firm land: return. From a boat or a moving launch: hover. Under cover: do not launch.",
          why="The wrong action flies it to a place you have left, or through a roof.",
          ask=AskChoice(options=(
            Option(id="return", label="Return home", grounds_at=(LaunchPlatform.MOVING.value, LaunchPlatform.COVER.value), at_reason="it returns to where you no longer are, or through the roof."),
            Option(id="hover", label="Hover", grounds_at=(LaunchPlatform.COVER.value,), caution_at=(LaunchPlatform.LAND.value,), at_reason="it hovers until the pack is empty."),
            Option(id="land", label="Land where it is", level=Level.CAUTION,
                   reason="On lost link it lands wherever it is.", remedy="Keep it over ground you can walk to.", grounds_at=(LaunchPlatform.COVER.value,), at_reason="do not launch there."),
            Option(id="unknown", label="Not known or not set", level=Level.GROUNDED,
                   reason="Nobody knows what it does when the link is lost.", remedy="Read it in the aircraft's settings and set it."))),
          fault="The lost-link action is not known.", remedy="Set it for where you launch from, or launch from open, firm ground."),
    check("lost_action_wing", "Read the failsafe of the wing",
          when=DAY, applies=WING,
          how="Throttle cut, surfaces to a gentle turn or neutral. Read it in the transmitter or receiver.",
          wordings=(Wording(has=T.NO_MOTOR, how="Airbrakes out, or surfaces to a gentle turn. Read it in the transmitter or receiver.", why="Hold-last-position is the mistake: a glider flies straight away."),
                    Wording(has=T.FLIGHT_CONTROLLER, how="Return or circle by the flight controller, or throttle cut with a gentle turn. Read it in its settings.")),
          why="Hold-last-position is the mistake: at half throttle it flies on for miles.",
          ask=AskChoice(options=(
            Option(id="circle", label="Cut and gentle circle", caution_under="lost_link=glide"),
            Option(id="glide", label="Cut and glide", caution_under="lost_link=circle"),
            Option(id="home", label="Returns or circles by itself, home is set"),
            Option(id="hold", label="Hold last position, or not set", level=Level.GROUNDED,
                   reason="Hold-last-position flies on 15 to 20 minutes, miles away.", remedy="Set the failsafe to throttle cut, then test it with the propeller off."))),
          fault="The failsafe is not set.", remedy="Set it, then test it with the propeller off."),
    check("lost_action_heli", "Read the failsafe of the helicopter",
          when=DAY, applies=HELICOPTER,
          how="Throttle to idle or cut, cyclic centred, in transmitter or receiver.",
          why="A rotor that holds its last throttle lands on whoever is below.",
          ask=AskChoice(options=(
            Option(id="cut", label="Throttle cut or idle"),
            Option(id="hold", label="Hold, or nobody knows", level=Level.GROUNDED,
                   reason="On lost link the rotor goes on turning.", remedy="Set throttle cut; test it with blades off or the pinion out of mesh."))),
          fault="The helicopter's failsafe is not set.", remedy="Set it, then test it with blades off."),
    check("lost_action_board", "Read what the board does when the link is lost",
          when=DAY, applies=For(kinds=frozenset({Kind.MULTIROTOR}), has=frozenset({T.SELF_BUILT}), unless=frozenset({T.RETURN_HOME})),
          how="In the board's failsafe page: drop, land, or come home if it has a position.",
          why="Factory settings differ: some drop, some hold the last sticks.",
          ask=AskChoice(options=(
            Option(id="drop", label="Motors stop"),
            Option(id="land", label="Lands by itself", level=Level.CAUTION,
                   reason="On lost link it sinks down wherever it is.", remedy="Keep it over ground that is yours."),
            Option(id="home", label="Comes home, and has a home"),
            Option(id="hold", label="Holds the last sticks, or not set", level=Level.GROUNDED,
                   reason="On lost link it goes on with the last sticks.", remedy="Set it to drop, then test it with propellers off."))),
          fault="The failsafe page cannot be read.", remedy="Read it before it flies."),
    check("both_ways", "Say how to call it home, and how to cancel",
          outdoors=True, ok="Both known", when=DAY, applies=having(T.RETURN_HOME),
          how="Button and screen: point at both, and at the way to cancel.",
          why="When it is needed nobody reads a manual.",
          fault="A way home is not known.", remedy="Look it up now."),
    check("polling", "Know whether it asks you to confirm",
          grounds=False, ok="Known", when=EVENT, after=(E.NEW_BUILD, E.BORROWED), applies=having(T.RETURN_HOME),
          how="Some ask the pilot to confirm every few seconds while they return, others accept a stale link. Say which this is.",
          why="One that waits for an answer turns round while you wonder.",
          fault="Nobody knows how it behaves.", remedy="Read it in the manual, try it near and low."),
    check("turn_back", "Set the charge at which it turns for home",
          outdoors=True, applies=any_of(T.SMART_PACK, T.TELEMETRY), part="pack",
          how="Against today's wind at flying height; set it as an alarm and say it aloud.",
          why="The way home costs more than the way out when the wind has turned.",
          ask=AskNumber(measure=Measure.PERCENT, label="Turn for home at", low=0, high=100, rule="turn_back"),
          fault="No alarm can be set.", remedy="Set an alarm on the transmitter or phone before it flies.",
          source=OUR_CHOICE),
    check("antennas", "Point the transmitter antennas broadside",
          ok="Broadside, link full",
          how="Flat faces parallel to the aircraft, never the tips towards it. Overhead: split the difference.",
          why="An antenna sends and hears almost nothing in the direction of its tip.",
          fault="The link is weak or drops.", remedy="Turn, step away from metal, look again; weak at 10 m means stay down.",
          source="FAA AC 107-2A, data links and antennas (from memory)"),
    check("range", "Walk the range check at reduced power",
          ok="Full control all the way", when=EVENT, after=(E.NEW_BUILD, E.CRASH, E.REPAIR, E.BORROWED), on_parts=(P.RECEIVER, P.TRANSMITTER), snag=ON_AIRCRAFT,
          how="Transmitter in range-check mode; walk away as far as its manual says while a helper watches the surfaces.",
          why="A weak receiver shows at thirty paces on the ground, not at three hundred in the air.",
          fault="Control fails within the range.", remedy="Antennas, plugs, receiver; it stays down until it passes.",
          caution="The helper keeps clear of anything that can turn."),
    check("alarms", "Hear the telemetry alarms once",
          grounds=False, ok="Heard", when=SEASON, after=(E.NEW_BUILD,), applies=having(T.TELEMETRY),
          how="Lower each limit until it speaks, then set it back: pack, link strength.",
          why="An alarm never heard is taken for the neighbour's.",
          fault="An alarm does not speak.", remedy="Volume, switch, value; hear it before you fly."),
    check("tracker", "See the tracker report its place",
          ok="Here, just now", grounds=False, when=DAY, applies=having(T.TRACKER),
          how="Its own battery read; the last report is this place and this minute.",
          why="A tracker that does not report cannot lead you to the aircraft.",
          fault="The tracker is silent.", remedy="Charge it, wake it, or leave its weight at home."),
    check("beeper", "Sound the lost-model beeper",
          ok="Heard", grounds=False, when=SEASON, after=(E.NEW_BUILD,), applies=having(T.BEEPER), snag=ON_AIRCRAFT,
          how="Flip its switch and hear it; know the switch without looking.",
          why="It is how you find it in tall crop.",
          fault="The beeper stays silent.", remedy="Mend it at home; today keep it close."),
    check("lost_plan", "Say what you do when it is lost",
          ok="Said", grounds=False, when=SEASON,
          how="Eyes on it, two landmarks and its attitude, do not look away; then recording, last coordinates, telemetry, beeper.",
          why="The first ten seconds decide where you search.",
          fault="There is no plan.", remedy="Read the list once more, aloud."),
)
