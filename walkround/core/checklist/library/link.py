"""Link, failsafe and coming home."""

from walkround.core.aircraft.aircraft import HELICOPTER, WING, For, any_of, having
from walkround.core.aircraft.parts import PartKind as P
from walkround.core.aircraft.traits import Kind
from walkround.core.aircraft.traits import Trait as T
from walkround.core.answers.choice import AskChoice, Option
from walkround.core.answers.number import AskNumber
from walkround.core.answers.signal import AskSignal
from walkround.core.base.finding import OUR_CHOICE, Level
from walkround.core.base.units import Measure
from walkround.core.checklist.check import Risk, Station, Wording
from walkround.core.checklist.history import EventKind as E
from walkround.core.checklist.library.check_factory import DAY, EVENT, ON_AIRCRAFT, SEASON, CheckFactory
from walkround.core.field.site import LaunchPlatform

check = CheckFactory(Station.LINK)

UPSETS = (E.FIRMWARE, E.REPAIR, E.BORROWED, E.BOARD_RESET)
"""Events that can reset the settings of a failsafe. Source: they reset after updates; common practice, no source."""
SETTINGS_IN = (P.RECEIVER, P.TRANSMITTER, P.FLIGHT_CONTROLLER)
"""Parts that hold them."""

HELD, SET_IT = "On signal loss it flies on as it was.", "Set the failsafe, then test it on the bench."

# fmt: off
CHECKS = (
    check("rth_altitude", "Check the RTH altitude",
          outdoors=True, when=DAY, after=(E.FIRMWARE, E.NEW_SITE, E.REPAIR, E.BORROWED, E.BOARD_RESET), on_parts=SETTINGS_IN, applies=having(T.RETURN_HOME),
          how="Read the setting from the aircraft: it is compared with the obstacles at this field.",
          why="A setting left over from another place, or reset by an update, flies it into an obstacle.",
          ask=AskNumber(measure=Measure.HEIGHT, label="RTH altitude", low=0, high=1000, rule="rth_altitude"),
          fault="The RTH altitude cannot be read.", remedy="Do not fly until you can read it.",
          source="FAA AC 107-2A, lost-control programming (from memory); margin: common practice, no source", short=True),
    check("lost_action", "Check the failsafe action",
          when=DAY, after=UPSETS, on_parts=SETTINGS_IN, applies=having(T.RETURN_HOME, kind=Kind.MULTIROTOR),
          how="Read the setting. Choose return on firm land and hover from a boat; do not fly under cover.",
          why="The wrong action flies it to a place that you have left, or into a roof.",
          ask=AskChoice(options=(
            Option(id="return", label="Return home", grounds_at=(LaunchPlatform.MOVING.value, LaunchPlatform.COVER.value), at_reason="it returns to a place that you have left, or into the roof."),
            Option(id="hover", label="Hover", grounds_at=(LaunchPlatform.COVER.value,), caution_at=(LaunchPlatform.LAND.value,), at_reason="it hovers until the pack is empty."),
            Option(id="land", label="Land on the spot", level=Level.CAUTION,
                   reason="On signal loss it lands wherever it is.", remedy="Fly only over ground that you can walk to.", grounds_at=(LaunchPlatform.COVER.value,), at_reason="do not launch there."),
            Option(id="drop", label="Motors stop", level=Level.CAUTION,
                   reason="On signal loss it falls from where it is.", remedy="Set it to return, or stay away from people.", grounds_at=(LaunchPlatform.COVER.value,), at_reason="do not launch there."),
            Option(id="hold", label="Hold last position", rule="hold_last", level=Level.GROUNDED, reason=HELD, remedy=SET_IT),
            Option(id="unknown", label="Not known or not set", level=Level.GROUNDED,
                   reason="The failsafe action is not known.", remedy="Read it in the aircraft's settings and set it."))),
          fault="The failsafe action is not known.", remedy="Set it for where you launch from, or launch from open, firm ground.", short=True),
    check("lost_action_wing", "Check the failsafe settings",
          when=DAY, after=UPSETS, on_parts=SETTINGS_IN, applies=WING,
          how="Read them in the transmitter or receiver: throttle cut, surfaces neutral or in a gentle turn.",
          wordings=(Wording(has=T.NO_MOTOR, how="Read them in the transmitter or receiver: airbrakes out, or surfaces in a gentle turn.", why="With hold last position a glider flies straight away."),
                    Wording(has=T.FLIGHT_CONTROLLER, how="Read them in the flight controller: return, circle, or throttle cut with a gentle turn.")),
          why="With hold last position it flies on for miles at half throttle.",
          ask=AskChoice(options=(
            Option(id="circle", label="Cut and gentle circle", caution_under="lost_link=glide"),
            Option(id="glide", label="Cut and glide", caution_under="lost_link=circle"),
            Option(id="home", label="Returns or circles by itself, home is set"),
            Option(id="brakes", label="Airbrakes out"),
            Option(id="hold", label="Hold last position", rule="hold_last", level=Level.GROUNDED, reason=HELD, remedy=SET_IT),
            Option(id="unset", label="Not known or not set", rule="hold_last", level=Level.GROUNDED, reason=HELD, remedy=SET_IT))),
          fault="The failsafe is not set.", remedy="Set it, then test it with the propeller off.", short=True),
    check("lost_action_heli", "Check the failsafe of the helicopter",
          when=DAY, after=UPSETS, on_parts=SETTINGS_IN, applies=HELICOPTER,
          how="Read it in the transmitter or receiver: throttle idle or cut, cyclic centred.",
          why="A rotor that holds its last throttle hits whoever is below.",
          ask=AskChoice(options=(
            Option(id="cut", label="Throttle cut or idle"),
            Option(id="board", label="Returns, hovers or lands by itself"),
            Option(id="hold", label="Hold last position, or not known", level=Level.GROUNDED,
                   reason="On signal loss the rotor keeps turning.", remedy="Set throttle cut. Test it with the blades off or the pinion out of mesh."))),
          fault="The helicopter's failsafe is not set.", remedy="Set it, then test it with blades off.", short=True),
    check("lost_action_board", "Check the failsafe of the flight controller",
          when=DAY, after=UPSETS, on_parts=SETTINGS_IN, applies=For(kinds=frozenset({Kind.MULTIROTOR}), has=frozenset({T.SELF_BUILT}), unless=frozenset({T.RETURN_HOME})),
          how="Read its failsafe page: drop, land, or return if it has GPS.",
          why="Factory settings differ: some stop the motors, some hold the last stick positions.",
          ask=AskChoice(options=(
            Option(id="drop", label="Motors stop"),
            Option(id="land", label="Lands by itself", level=Level.CAUTION,
                   reason="On signal loss it descends wherever it is.", remedy="Fly only over ground that is yours."),
            Option(id="home", label="Returns to home, home is set"),
            Option(id="hold", label="Holds the last stick positions", rule="hold_last", level=Level.GROUNDED, reason=HELD, remedy=SET_IT),
            Option(id="unset", label="Not known or not set", rule="hold_last", level=Level.GROUNDED, reason=HELD, remedy=SET_IT))),
          fault="The failsafe page cannot be read.", remedy="Read it before the next flight.", short=True),
    check("polling", "Find out whether RTH needs confirming",
          grounds=False, ok="Known", when=EVENT, after=(E.NEW_BUILD, E.BORROWED), applies=having(T.RETURN_HOME),
          how="Say whether this aircraft asks you to confirm during RTH, and how often.",
          why="Without the confirmation some aircraft stop the return and stay where they are.",
          fault="It is not known how it behaves.", remedy="Read the manual, then try it close and low."),
    check("turn_back", "Set the battery level for turning back",
          outdoors=True, applies=any_of(T.SMART_PACK, T.TELEMETRY), part="pack",
          how="Set it as an alarm, for today's wind at flying height. Say it aloud.",
          why="Against the wind the way back takes more battery than the way out.",
          ask=AskNumber(measure=Measure.PERCENT, label="Turn back at", low=0, high=100, rule="turn_back"),
          fault="No alarm can be set.", remedy="Set an alarm on the transmitter or phone before it flies.",
          source=OUR_CHOICE),
    check("antennas", "Point the transmitter antennas correctly",
          ok="Correct, signal full",
          how="Turn the flat side of the antennas to the aircraft, never the tips. Tilt them halfway when it is overhead.",
          why="An antenna radiates least from its tip, and the link gets weak.",
          fault="The link is weak or drops.", remedy="Turn, step away from metal and check again. If the link is weak at 10 m, do not fly.",
          source="FAA AC 107-2A, data links and antennas (from memory)", deep=True),
    check("signal", "Read the signal at 10 m",
          when=DAY, applies=any_of(T.SIGNAL_BARS, T.SIGNAL_PERCENT, T.SIGNAL_DBM), snag=ON_AIRCRAFT,
          how="Walk 10 m away with the transmitter and point its antennas. Read what the screen shows.",
          why="A broken antenna or a loose connector shows here, before it causes signal loss in flight.",
          ask=AskSignal(),
          fault="No signal is shown, or it drops.", remedy="Check antennas and connectors. Do not fly until it is full at 10 m.",
          source="Recommendation ITU-R P.525 for free space; the steps are our choice", deep=True),
    check("range", "Do a range check at reduced power",
          ok="Full control all the way", when=EVENT, after=(E.NEW_BUILD, E.CRASH, E.REPAIR, E.BORROWED), on_parts=(P.RECEIVER, P.TRANSMITTER), snag=ON_AIRCRAFT,
          how="Set the transmitter to range-check mode. Walk as far as its manual says while a helper watches the surfaces.",
          why="A weak receiver shows in the range check before it causes signal loss in flight.",
          fault="Control fails within the range.", remedy="Check antennas, connectors and receiver. Do not fly until it passes.",
          caution="The helper stays clear of anything that can turn."),
    check("alarms", "Test the telemetry alarms",
          grounds=False, ok="Heard", when=SEASON, after=(E.NEW_BUILD,), applies=having(T.TELEMETRY),
          how="Lower each limit until the alarm sounds, then reset it. Test pack and signal strength.",
          why="An alarm that you have never heard is easily taken for somebody else's.",
          fault="An alarm does not sound.", remedy="Check volume, switch and value, then test it again."),
    check("short_test", "Switch the transmitter off once",
          ok="Acts as set", outdoors=True, when=DAY, method="failsafe_test=daily", applies=any_of(T.SURFACES, T.SELF_BUILT, T.NO_MOTOR, T.LIQUID_FUEL), snag=ON_AIRCRAFT, risk=Risk.PEOPLE,
          how="Disarm, then switch the transmitter off. Check that the flight controller shows it and refuses to arm.",
          wordings=(Wording(kind=Kind.WING, how="Close the throttle and lock it, then switch the transmitter off. Check that surfaces go where you set them and the motor stays off."),
                    Wording(has=T.LIQUID_FUEL, how="Open the throttle halfway before the engine runs, then switch the transmitter off. Check that it closes and the surfaces go where you set them.", caution="Plug off, engine cold."),
                    Wording(has=T.NO_MOTOR, how="Hold a stick to one side and switch the transmitter off. Check that the airbrakes come out, or the surfaces go into a gentle turn.", caution="Fingers clear of surfaces and horns.")),
          why="A receiver that lost its settings shows it here, not in flight.",
          fault="It does not do what is set.", remedy="Set the failsafe again, then test it on the bench.",
          caution="With a wrong failsafe it starts by itself: aircraft held down, everyone clear.",
          source="common practice, no source"),
    check("tracker", "Check that the tracker reports",
          ok="This place, just now", grounds=False, when=DAY, applies=having(T.TRACKER),
          how="Check its battery and its last report: this place, this minute.",
          why="A tracker that is not reporting cannot lead you to the aircraft.",
          fault="The tracker is silent.", remedy="Charge it and restart it, or remove it.", deep=True),
    check("beeper", "Test the lost-model beeper",
          ok="Heard", grounds=False, when=SEASON, after=(E.NEW_BUILD,), applies=having(T.BEEPER), snag=ON_AIRCRAFT,
          how="Flip its switch and listen. Find the switch without looking.",
          why="In tall crop you will not find the model without it.",
          fault="The beeper stays silent.", remedy="Repair it at home, and stay close today."),
    check("lost_plan", "Say what you do when it is lost",
          ok="Said", grounds=False, when=SEASON,
          how="Watch it and note two landmarks. Check recording, last coordinates, telemetry and beeper.",
          why="What you see in the first ten seconds decides where you search.",
          fault="There is no plan.", remedy="Read the steps once more, aloud."),
)
