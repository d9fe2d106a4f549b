"""The bag: packed from the aircraft's own list, checked twice."""

from walkround.core.aircraft import MULTIROTOR, WING
from walkround.core.check import AskNumber, AskTick, Band, Cadence, Check, Station
from walkround.core.finding import OUR_CHOICE
from walkround.core.units import Measure

CHECKS = (
    Check(
        id="bag.fire",
        station=Station.BAG,
        title="Packs in hard cases or fire-resistant bags",
        how="Each pack apart, terminals covered, away from anything sharp. Extinguishing means and first aid go along.",
        why="A punctured pack burns, and it burns in the car.",
        grounds=True,
        cadence=Cadence.DAY,
        ask=AskTick(ok="Cased and apart"),
        fault="The packs travel loose.",
        remedy="Case them before you drive.",
        caution="Lithium fire: outdoors, distance, let it burn out; the smoke is poison.",
    ),
    Check(
        id="bag.list_quad",
        station=Station.BAG,
        title="Pack the camera bag",
        how="Aircraft, transmitter, packs, cards, phone or tablet, cables and a spare, prop tool, mat, lens cloth, "
        "filters, cell checker, papers, water, the buddy's number.",
        why="The one item that is missing costs the day: card, propellers, cable, mat.",
        grounds=False,
        cadence=Cadence.DAY,
        applies=MULTIROTOR,
        ask=AskTick(ok="All packed"),
        fault="Something is missing from the bag.",
        remedy="Fetch it now; later it costs the day.",
    ),
    Check(
        id="bag.list_wing",
        station=Station.BAG,
        title="Pack the flight box",
        how="Wing and body, transmitter, packs, spare propeller, clevises with keepers, rubber bands, tape, cell "
        "checker, tools, papers, water, the buddy's number.",
        why="This aircraft breaks propellers, clevises and bands; a spare keeps the day.",
        grounds=False,
        cadence=Cadence.DAY,
        applies=WING,
        ask=AskTick(ok="Box is complete"),
        fault="Something is missing from the box.",
        remedy="Fetch it before you leave.",
    ),
    Check(
        id="bag.spare_propellers",
        station=Station.BAG,
        title="Count spare propellers",
        how="Count spares; for a multi-rotor one of each hand.",
        why="A nicked blade is changed, not flown; without a spare the day ends there.",
        grounds=False,
        cadence=Cadence.DAY,
        ask=AskNumber(
            measure=Measure.COUNT,
            label="Spare propellers",
            low=0,
            high=60,
            band=Band(
                care_below=2,
                low="{value} in the bag; one nick may end the day.",
                good="{value} in the bag.",
                remedy="Pack at least two, one of each hand.",
            ),
        ),
        fault="No usable spare.",
        remedy="Buy spares; fly what you have only if every blade is sound.",
        source=OUR_CHOICE,
    ),
    Check(
        id="bag.twice",
        station=Station.BAG,
        title="Go through the bag a second time",
        how="Before the door closes, touch each thing again. A second pair of eyes is better still.",
        why="Excitement skips one item; the second pass finds it.",
        grounds=False,
        cadence=Cadence.DAY,
        ask=AskTick(ok="Touched again"),
        fault="The second pass found a gap.",
        remedy="Put it in and go through once more.",
    ),
)
