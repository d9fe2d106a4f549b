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
          how="Touch each item as it goes in. Count items that have a number.",
          why="One missing item, such as a card, a propeller or a cable, can end the session.",
          fault="The bag cannot be packed.", remedy="Fetch what is missing before you leave."),
    check("fire", "Pack the batteries in fire-resistant bags",
          ok="Cased and separate", risk=Risk.PEOPLE, when=DAY,
          how=lithium.TRANSPORT,
          why="A punctured lithium pack can burn in the car.",
          fault="The packs travel loose.", remedy="Case them before you drive.",
          caution=lithium.FIRE),
    check("first_aid", "Take first aid and an extinguisher",
          ok="Within reach", grounds=False, when=DAY,
          how="Pack a bandage, an extinguisher, sand or plenty of water. Take a charged phone.",
          why="Cuts and pack fires happen at the field, far from help.",
          fault="There is no first-aid kit or extinguisher.", remedy="Keep a kit in the car."),
    check("transmitter_case", "Case the transmitter with its sticks free",
          ok="Cased", grounds=False, when=DAY,
          how="Switch it off and put it in its case. Check that nothing presses on sticks or switches.",
          why="A switch that is pressed on the way empties the battery before the session begins.",
          fault="A stick or antenna was bent in transport.", remedy="Move every stick to its endpoints before you fly.", deep=True),
    check("gimbal_cover", "Fit the gimbal cover for transport",
          ok="Cover on", grounds=False, when=DAY, applies=having(T.GIMBAL_CAMERA), part="gimbal",
          how="Fit the clamp and the lens cover. Remove both before you power the aircraft.",
          why="A gimbal that swings in the car wears or breaks.",
          fault="The cover does not fit or is lost.", remedy="Pad the gimbal with a soft wipe for today.", deep=True),
    check("magnets", "Keep it away from speakers and magnets",
          ok="Apart", grounds=False, when=DAY, applies=having(T.COMPASS), part="compass",
          how="Keep the aircraft away from speakers, magnetic tools and phone mounts.",
          why="Magnetised parts disturb the compass for months.",
          fault="It travelled beside a magnet.", remedy="Calibrate the compass and compare the heading.", deep=True),
    check("second_pass", "Check the bag a second time",
          grounds=False,
          when=DAY, ask=AskPacked(turn=2),
          how="Check every item again before you leave, without looking at the first pass. Ask a second person if there is one.",
          why="In a hurry you skip an item, and the second pass finds it.",
          fault="Something is missing.", remedy="Put it in, then check the bag again.", deep=True),
    check("arrival", "Check for transport damage",
          ok="No damage", when=EVENT, after=(E.CARRIED_FAR,), part="body", snag=ON_AIRCRAFT,
          how="Inspect hinges, antennas and connectors. Feel whether any pack has become warm.",
          why="Vibration on the road loosens parts that held in flight.",
          fault="Something broke or came loose on the way.", remedy="Repair it here, or leave it in the case."),
)
