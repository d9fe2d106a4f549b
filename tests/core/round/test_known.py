"""What is on record is not asked: only where it is known for sure, never on the full list, and never instead of what was found."""

import unittest
from datetime import timedelta

from tests.support import NOW, QUAD, calibrated, dry_weather, planned_ids, season_done, situation, with_history
from walkround.core.base.phrase import height
from walkround.core.checklist.check import Depth
from walkround.core.checklist.custom import CheckChange, CustomChecklist
from walkround.core.checklist.history import Done, Event, EventKind
from walkround.core.checklist.library import CHECKS
from walkround.core.field.marks import Spot
from walkround.core.field.site import GroundSurface
from walkround.core.round.context import Context
from walkround.core.round.known import MILD_C, NAMES, RESTED, on_record
from walkround.core.round.situation import ChosenDepth, Situation
from walkround.core.round.why import Day

BY_ID = {check.id: check for check in CHECKS}


def at(base: Situation, depth: Depth = Depth.NORMAL, **more: tuple[str, ...]) -> Situation:
    """A situation whose list goes so deep."""
    return base.model_copy(update={"depth": ChosenDepth(depth=depth, why=("Because",), **more)})


def known(check_id: str, case: Situation) -> str:
    """What is on record for a check, in plain words; "" where it is asked."""
    done = {d.check_id: d for d in case.history.done}
    found = on_record(BY_ID[check_id].known, Context(case, {}), done)
    return "" if found is None else found.text


class Rules(unittest.TestCase):
    def test_every_rule_is_named_and_every_name_is_a_rule(self) -> None:
        self.assertEqual({check.known for check in CHECKS if check.known}, NAMES)

    def test_the_sun(self) -> None:
        def boxed(north: float) -> Situation:
            far, near = 120 * north, 20 * north
            box = tuple(Spot(east_m=e, north_m=n) for e, n in ((-40, near), (40, near), (40, far), (-40, far)))
            case = situation()
            return case.model_copy(update={"site": case.site.model_copy(update={"flight_area": box})})

        # At noon in May at 51 degrees north the sun stands in the south: a box to the north is clear of it.
        noon = {"now": NOW.replace(hour=11, minute=0)}
        self.assertIn("Calculated", known("field.sun", boxed(1).model_copy(update=noon)))
        low = {"now": NOW.replace(hour=4, minute=30)}
        east = boxed(1)
        box = tuple(Spot(east_m=n, north_m=e) for e, n in ((-60, 20), (60, 20), (60, 200), (-60, 200)))
        towards = east.model_copy(update={"site": east.site.model_copy(update={"flight_area": box}), **low})
        self.assertEqual(known("field.sun", towards), "", "it rises in the box")
        bare = east.model_copy(update={"site": east.site.model_copy(update={"flight_area": ()}), **noon})
        self.assertEqual(known("field.sun", bare), "", "no box is drawn, so nothing is known")

    def test_the_last_flight(self) -> None:
        for clean, asked in ((True, False), (False, True), (None, True)):
            case = with_history(situation(), pack_last_flight_clean=clean)
            self.assertEqual(known("pack.last_error", case) == "", asked)

    def test_the_warmth_of_the_pack(self) -> None:
        def case(air_c: float | None, charged: timedelta | None, flown: timedelta | None) -> Situation:
            base = situation(weather=dry_weather(temperature_c=air_c))
            pack = base.pack.model_copy(update={"charged_at": None if charged is None else NOW - charged})
            history = with_history(base, pack_last_flight_at=None if flown is None else NOW - flown).history
            return base.model_copy(update={"pack": pack, "history": history})

        day = timedelta(days=1)
        for air_c, charged, flown, asked in (
            (MILD_C[0], day, day, False),
            (MILD_C[1], None, None, False),
            (MILD_C[0] - 0.1, day, day, True),
            (MILD_C[1] + 0.1, day, day, True),
            (None, day, day, True),
            (20.0, RESTED - timedelta(minutes=1), day, True),
            (20.0, day, RESTED - timedelta(minutes=1), True),
            (20.0, day, -timedelta(hours=1), True),
        ):
            self.assertEqual(
                known("pack.temperature", case(air_c, charged, flown)) == "", asked, (air_c, charged, flown)
            )
        self.assertEqual(known("pack.temperature", situation(weather=None)), "", "no weather, nothing known")

    def test_a_hall(self) -> None:
        case = situation()
        hall = case.site.model_copy(update={"indoors": True, "surface": GroundSurface.CARPET, "open_door": True})
        inside = at(case.model_copy(update={"site": hall}))
        self.assertLessEqual({"field.room", "field.door", "airframe.fluff"}, planned_ids(inside))
        self.assertFalse({"sky.weather", "field.sun", "field.airspace", "field.max_height"} & planned_ids(inside))
        bare = inside.model_copy(
            update={"site": hall.model_copy(update={"surface": GroundSurface.FLOOR, "open_door": False})}
        )
        self.assertFalse({"field.door", "airframe.fluff"} & planned_ids(bare))
        self.assertFalse({"field.room", "field.door", "airframe.fluff"} & planned_ids(at(case)), "only in a hall")

    def test_the_charge_is_confirmed_with_the_pack_only_where_the_pack_is_asked_as_a_whole(self) -> None:
        case = situation()  # its pack was charged this morning
        short = planned_ids(at(case, Depth.SHORT))
        self.assertIn("pack.again", short)
        self.assertFalse({"pack.percent", "pack.cells", "pack.right_one"} & short)
        self.assertIn("pack.percent", planned_ids(at(case)))
        unknown = with_history(case, pack_summary=None)
        self.assertIn("pack.percent", planned_ids(at(unknown, Depth.SHORT)), "what is not known is asked")
        off = CustomChecklist(changes=(CheckChange(check_id="pack.again", off=True, reason="one by one"),))
        mine = at(case.model_copy(update={"custom_checklist": off}), Depth.SHORT)
        self.assertLessEqual({"pack.percent", "pack.right_one", "pack.body", "pack.latched"}, planned_ids(mine))

    def test_what_was_paced_at_this_field(self) -> None:
        paced = Done(check_id="field.interference", at=NOW - timedelta(days=2), value=height(400))
        base = with_history(situation(), done=(*season_done(), paced), aircraft_last_flight_at=NOW - timedelta(days=2))
        here = with_history(base, aircraft_last_site=base.site.name)
        self.assertEqual(known("field.interference", here), "Still {value}, as last time here.")
        for other in (
            with_history(here, aircraft_last_site="Elsewhere"),
            with_history(here, aircraft_last_flight_at=NOW - timedelta(days=1)),
            with_history(here, done=(paced.model_copy(update={"value": height(3)}),)),
            with_history(here, done=(paced.model_copy(update={"value": None}),)),
        ):
            self.assertEqual(
                known("field.interference", other), "", "elsewhere, another day, too near, or not measured"
            )


class OnTheList(unittest.TestCase):
    def test_it_is_asked_on_the_full_list_and_where_it_was_found(self) -> None:
        case = with_history(situation(QUAD), pack_last_flight_clean=True)
        self.assertNotIn("pack.last_error", planned_ids(at(case)))
        self.assertIn("pack.last_error", planned_ids(at(case, Depth.FULL)))
        self.assertIn("pack.last_error", planned_ids(case))
        self.assertIn("pack.last_error", planned_ids(at(case, found=("pack.last_error",))))
        self.assertIn("pack.last_error", planned_ids(at(case, asked=("pack.last_error",))))
        words = Day(at(case)).absence(BY_ID["pack.last_error"]).text
        self.assertEqual(words, "In the logbook: nothing to report on the last flight of this pack.")

    def test_an_event_asks_it_all_the_same(self) -> None:
        firmware = (*calibrated(9), Event(kind=EventKind.FIRMWARE, at=NOW - timedelta(days=1)))
        case = with_history(situation(QUAD), pack_last_flight_clean=True, events=firmware)
        self.assertIn("pack.last_error", planned_ids(at(case)))
