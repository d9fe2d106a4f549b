"""The bag: packed from the aircraft's own list, checked twice, carried safely."""

from walkround.core.aircraft.aircraft import having
from walkround.core.aircraft.traits import Trait as T
from walkround.core.answers.packed import AskPacked
from walkround.core.checklist.check import Risk, Station
from walkround.core.checklist.history import EventKind as E
from walkround.core.checklist.library.check_factory import DAY, EVENT, ON_AIRCRAFT, CheckFactory
from walkround.core.packs import lithium

check = CheckFactory(Station.BAG)

# fmt: off
CHECKS = (
    check("first_pass", "Pack from the list",
          grounds=True, when=DAY, ask=AskPacked(turn=1),
          how="Touch each thing as it goes in; count what comes in numbers.",
          why="The one item that is missing costs the day: card, propellers, cable, mat.",
          fault="The bag cannot be packed.", remedy="Fetch what is missing before you leave."),
    check("fire", "Packs in hard cases or fire-resistant bags",
          ok="Cased and apart", risk=Risk.PEOPLE, when=DAY,
          how=lithium.TRANSPORT,
          why="A punctured pack burns, and it burns in the car.",
          fault="The packs travel loose.", remedy="Case them before you drive.",
          caution=lithium.FIRE),
    check("first_aid", "Take first aid and something against fire",
          ok="Within reach", grounds=False, when=DAY,
          how="Bandage for a cut finger, an extinguisher, sand or much water for a pack, a charged phone.",
          why="The cut and the fire both come at the far end of the field.",
          fault="There is none.", remedy="Put a kit into the car for good."),
    check("transmitter_case", "Case the transmitter, sticks free",
          ok="Cased", grounds=False, when=DAY,
          how="In its case, switched off, nothing lying on the sticks or switches.",
          why="A switch pressed for an hour empties it before the day begins.",
          fault="A stick or antenna was bent on the way.", remedy="Try every stick to its end before you trust it."),
    check("gimbal_cover", "Put the gimbal cover on for the way",
          ok="Cover on", grounds=False, when=DAY, applies=having(T.GIMBAL_CAMERA), part="gimbal",
          how="Clamp and lens cover on while it travels; both come off before power.",
          why="A gimbal that swings for an hour in the car wears out there.",
          fault="The cover does not fit or is lost.", remedy="Pad the gimbal with a soft cloth for today."),
    check("magnets", "Keep it away from loudspeakers and magnets",
          ok="Apart", grounds=False, when=DAY, applies=having(T.COMPASS), part="compass",
          how="Not beside the car's loudspeakers, magnetic tools, or a phone mount.",
          why="Iron that was magnetised on the way turns the compass for months.",
          fault="It travelled beside a magnet.", remedy="Calibrate the compass and compare the heading."),
    check("second_pass", "Go through the bag a second time",
          grounds=False,
          when=DAY, ask=AskPacked(turn=2),
          how="Before the door closes, from the list again, without looking at the first pass. A second pair of eyes is better still.",
          why="Excitement skips one item; the second pass finds it.",
          fault="The second pass found a gap.", remedy="Put it in and go through once more."),
    check("arrival", "Open the case and look for what the journey did",
          ok="Arrived whole", when=EVENT, after=(E.CARRIED_FAR,), part="body", snag=ON_AIRCRAFT,
          how="Hinges, antennas, plugs that crept out, packs that warmed.",
          why="A long way shakes out what a short flight never would.",
          fault="Something broke or came loose on the way.", remedy="Put it right here, or it stays in the case."),
)
