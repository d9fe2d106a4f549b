"""How deep the list goes: more risk never shortens it, the floor never drops, what is left out is listed, and every seeded fault still
has a row where it is seen."""

import unittest
from datetime import timedelta

from hypothesis import given
from hypothesis import strategies as st
from msgspec.structs import replace

from tests.support import NOW, QUAD, calibrated, planned_ids, situation, variants, with_history
from walkround.core.aircraft.traits import Trait
from walkround.core.checklist.check import Depth, Frequency, Occasion, Phase
from walkround.core.checklist.custom import CustomChecklist
from walkround.core.checklist.history import Done, Event, EventKind, Snag, SnagOn
from walkround.core.checklist.library import CHECKS
from walkround.core.field.marks import Spot
from walkround.core.pilot.methods import ChosenMethods
from walkround.core.round.depth import choose, deeper, least, on_floor
from walkround.core.round.plan import make_plan
from walkround.core.round.situation import ChosenDepth, Situation
from walkround.core.round.walk import walk
from walkround.core.round.why import Day

# Faults that must be seen before any launch, the section of the practice that tells of each, and the checks where it is seen or measured
# on one aircraft or another.
FAULTS: tuple[tuple[str, int, tuple[str, ...]], ...] = (
    ("a nick in a blade", 4, ("airframe.propellers", "airframe.rotor_blades")),
    ("a white stress line at a hub", 4, ("airframe.propellers", "airframe.rotor_blades")),
    ("a lug of a push-and-twist mount is gone", 4, ("airframe.propellers", "airframe.propeller_seat")),
    ("a clockwise propeller on a counter-clockwise motor", 4, ("airframe.propeller_side", "airframe.handed_pair")),
    ("a quick-release did not click", 4, ("airframe.propeller_seat",)),
    ("a propeller nut is loose", 4, ("airframe.propeller_nut",)),
    ("a propeller screw is missing", 4, ("airframe.propeller_screws",)),
    ("the spinner is loose", 4, ("airframe.spinner",)),
    ("a chunk is missing from a rotor blade", 4, ("airframe.rotor_blades",)),
    ("a blade bolt is loose", 4, ("airframe.blade_bolts", "airframe.rotor_head")),
    ("the tail rotor drags", 4, ("airframe.tail_rotor",)),
    ("an arm is not latched", 4, ("airframe.arms",)),
    ("the wing gives at its centre joint", 4, ("airframe.wing_joint",)),
    ("seven rubber bands instead of eight", 4, ("airframe.bands",)),
    ("a wing bolt is loose", 4, ("airframe.wing_bolts",)),
    ("the canopy is not locked", 4, ("airframe.canopy",)),
    ("the hatch is loose", 4, ("airframe.loose",)),
    ("a link is pushed through its ball", 4, ("airframe.links", "airframe.rotor_head")),
    ("a gap between the swashplate halves", 4, ("airframe.swashplate", "airframe.rotor_head")),
    ("the flybar sticks", 4, ("airframe.flybar", "airframe.rotor_head")),
    ("the rotors come too close to each other", 4, ("airframe.coaxial_gap",)),
    ("a pack strap is open", 4, ("airframe.straps",)),
    ("the lens cover is still on", 4, ("airframe.covers_off",)),
    ("the registration mark is gone", 4, ("airframe.marks",)),
    ("the pack sits with a gap", 4, ("pack.latched", "pack.again")),
    ("the pack of another aircraft", 5, ("pack.right_one", "pack.again")),
    ("a swollen pack", 5, ("pack.body", "pack.again")),
    ("a pack rocks on the table", 5, ("pack.body", "pack.again")),
    ("a sweet smell", 5, ("pack.body", "pack.again")),
    ("a pack that was not charged", 5, ("pack.cells", "pack.percent", "pack.again", "pack.fuel_level")),
    ("a cell lags", 5, ("pack.cells", "pack.percent", "pack.again", "pack.fuel_level")),
    ("too little fuel", 4, ("pack.fuel_level",)),
    ("fuel drips", 4, ("pack.fuel_leaks",)),
    ("the kill switch does not stop the engine", 4, ("power.kill_switch",)),
    ("the aircraft is powered before the transmitter", 6, ("power.transmitter_on", "power.inert_again")),
    ("another model's memory", 6, ("power.mode", "power.inert_again")),
    ("sport mode is on", 6, ("power.mode", "power.inert_again")),
    ("throttle is not at idle", 6, ("power.idle", "power.inert_again")),
    ("moved while its gyros learn still", 6, ("power.still_long", "power.still_short")),
    ("it refuses to arm", 7, ("power.ready_to_arm",)),
    ("the home point is somewhere else", 7, ("sensors.home_point",)),
    ("the RTH altitude is below the trees", 8, ("link.rth_altitude",)),
    ("on signal loss it holds the last position of the sticks", 8,
     ("link.lost_action", "link.lost_action_wing", "link.lost_action_heli", "link.lost_action_board")),
    ("ailerons are reversed", 9, ("controls.surfaces",)),
    ("cyclic is reversed", 9, ("controls.swashplate",)),
    ("throttle hold does not hold", 9, ("controls.throttle_hold",)),
    ("how to stop the motors is not known", 9, ("first.stop_aloud",)),
    ("somebody stands beside the propellers", 10, ("first.step_back", "first.around_again")),
    ("walkers and a dog on the flight path", 3, ("field.people", "first.around_again")),
    ("a zone is closed today", 3, ("field.airspace",)),
    ("the height limit of the law is exceeded", 3, ("field.max_height",)),
    ("trees hide part of the flight", 3, ("field.sight", "first.around_again")),
    ("gusts over the limit", 3, ("sky.weather",)),
    ("rain on an unsealed aircraft", 3, ("sky.weather",)),
    ("a thundercloud behind the wood", 3, ("sky.look", "first.around_again")),
    ("a crewed aircraft comes in low", 3, ("first.look_listen", "first.around_again")),
    ("remote ID does not send", 14, ("sensors.id_live",)),
)  # fmt: skip

ONCE_A_DAY = frozenset(
    {
        "a clockwise propeller on a counter-clockwise motor", "the wing gives at its centre joint", "a pack strap is open",
        "the lens cover is still on", "the registration mark is gone", "the RTH altitude is below the trees",
        "on signal loss it holds the last position of the sticks", "a zone is closed today", "the height limit of the law is exceeded",
        "gusts over the limit", "rain on an unsealed aircraft", "remote ID does not send", "the kill switch does not stop the engine",
        "throttle hold does not hold",
        "it refuses to arm",
        "how to stop the motors is not known",
    }
)  # fmt: skip
"""Seen once a day and after whatever can change it; take-off judges weather and light again."""

CALM = with_history(
    situation(),
    aircraft_last_flight_at=NOW - timedelta(days=2),
    pilot_last_flight_at=NOW - timedelta(days=2),
    site_flown=True,
)


def at(base: Situation, depth: Depth, **more: tuple[str, ...]) -> Situation:
    """A situation whose list goes so deep."""
    return base.model_copy(update={"depth": ChosenDepth(depth=depth, why=("Because",), **more)})


def light(**changes: object) -> Situation:
    """A small aircraft that is known, with a small pack, alone."""
    small = QUAD.model_copy(update={"mass_g": 180.0, **changes})
    pack = CALM.pack.model_copy(update={"capacity_mah": 600})
    return CALM.model_copy(update={"aircraft": small, "pack": pack, "methods": ChosenMethods(round="short")})


class Floor(unittest.TestCase):
    def test_every_seeded_fault_has_its_row_on_every_list(self) -> None:
        self.assertGreaterEqual(len(FAULTS), 40)
        seen = dict.fromkeys((fault for fault, _, _ in FAULTS), False)
        for aircraft in variants():
            lists = {depth: planned_ids(at(situation(aircraft), depth)) for depth in Depth}
            for fault, _, ids in FAULTS:
                if lists[Depth.FULL].isdisjoint(ids):
                    continue  # this aircraft cannot have it
                seen[fault] = True
                for depth in Depth:
                    self.assertFalse(lists[depth].isdisjoint(ids), f"{fault}: {aircraft.name}, {depth} list")
        self.assertEqual([fault for fault, here in seen.items() if not here], [])

    def test_a_later_launch_still_sees_what_can_have_changed_since(self) -> None:
        morning = tuple(Done(check_id=c.id, at=NOW - timedelta(hours=1)) for c in CHECKS)
        asked = 0
        for aircraft in variants():
            first = planned_ids(at(situation(aircraft), Depth.SHORT))
            later = planned_ids(at(with_history(situation(aircraft), done=morning, rounds_today=1), Depth.SHORT))
            for fault, _, ids in FAULTS:
                if fault not in ONCE_A_DAY and not first.isdisjoint(ids):
                    asked += 1
                    self.assertFalse(later.isdisjoint(ids), f"{fault}: {aircraft.name}, later launch")
        self.assertGreater(asked, 200)

    def test_lists_lie_in_each_other_and_what_is_left_out_is_listed(self) -> None:
        for aircraft in variants():
            plans = {depth: make_plan(at(situation(aircraft), depth)) for depth in Depth}
            together = {check.id: set(check.replaces) for check in CHECKS if check.replaces}
            stands_for = set().union(*(together[name] for name in together if name in plans[Depth.SHORT].ids()))
            self.assertLess(plans[Depth.SHORT].ids() - set(together), plans[Depth.NORMAL].ids())
            self.assertLessEqual(plans[Depth.NORMAL].ids(), plans[Depth.FULL].ids())
            self.assertEqual(plans[Depth.FULL].ids(), make_plan(situation(aircraft)).ids())
            for depth, plan in plans.items():
                left = [check.id for check in plan.shorter_by]
                known = {check.id for check, _ in plan.on_record}
                within = stands_for & plans[Depth.FULL].ids() if depth is Depth.SHORT else set()
                asked = plan.ids() - set(together)
                self.assertEqual(asked | set(left) | known | within, plans[Depth.FULL].ids(), depth)
                self.assertFalse(within & (plan.ids() | set(left)), "asked within another check, and not again")
                self.assertFalse(known & (plan.ids() | set(left)))
                self.assertEqual((len(left), plan.ids() & set(left)), (len(set(left)), set()))
                self.assertFalse(
                    [c.id for c in plan.shorter_by if on_floor(c, aircraft) or c.phase is not Phase.BEFORE]
                )

    def test_what_the_law_asks_and_gates_wait_for_is_on_the_floor(self) -> None:
        floor = {check.id for check in CHECKS if on_floor(check, QUAD)}
        self.assertLessEqual(
            {"field.max_height", "airframe.marks", "sensors.id_live", "power.aircraft_on", "power.mode"}, floor
        )
        self.assertEqual([check.id for check in CHECKS if check.short and check.deep], ["pack.cells"])
        smart = QUAD.model_copy(update={"traits": QUAD.traits | {Trait.SMART_PACK}})
        plain = QUAD.model_copy(update={"traits": QUAD.traits - {Trait.SMART_PACK}})
        cells = next(check for check in CHECKS if check.id == "pack.cells")
        self.assertEqual(
            (least(cells, smart), least(cells, plain)), (Depth.FULL, Depth.SHORT), "it says its charge itself"
        )
        self.assertTrue(all(least(check, QUAD) is Depth.SHORT for check in CHECKS if check.id in floor))

    def test_left_out_counts_for_nothing(self) -> None:
        short, full = (walk(at(CALM, depth), ()) for depth in (Depth.SHORT, Depth.FULL))
        self.assertLess(short.verdict.asked, full.verdict.asked)
        self.assertEqual(short.verdict.asked, sum(p.check.phase is Phase.BEFORE for p in short.plan.checks))
        self.assertEqual((short.verdict.grounds, short.verdict.cautions), (full.verdict.grounds, full.verdict.cautions))

    def test_why_it_is_left_out_in_words(self) -> None:
        case = at(CALM, Depth.NORMAL)
        screws = next(check for check in CHECKS if check.id == "airframe.screws")
        self.assertEqual(Day(case).absence(screws).text, "Not on the normal list. Because.")


class OnTop(unittest.TestCase):
    """What no depth takes away: what was found, what was asked for, what an event raises, occasions, a pilot's own checks."""

    def reason(self, case: Situation, check_id: str) -> str:
        return next((p.why_today.text for p in make_plan(case).checks if p.check.id == check_id), "")

    def test_found_and_asked(self) -> None:
        self.assertEqual(self.reason(at(CALM, Depth.SHORT), "airframe.screws"), "")
        found = at(CALM, Depth.SHORT, found=("airframe.screws",))
        self.assertEqual(self.reason(found, "airframe.screws"), "It found a fault in one of the last three rounds.")
        asked = at(CALM, Depth.SHORT, asked=("airframe.screws",))
        self.assertEqual(self.reason(asked, "airframe.screws"), "You asked for it today.")

    def test_events_and_occasions(self) -> None:
        crash = with_history(CALM, events=(*calibrated(9), Event(kind=EventKind.CRASH, at=NOW - timedelta(days=1))))
        raised = {c.id for c in CHECKS if EventKind.CRASH in c.events} & planned_ids(crash)
        self.assertTrue(raised)
        self.assertLessEqual(raised, planned_ids(at(crash, Depth.SHORT)))
        water = CALM.model_copy(update={"occasions": (Occasion.OVER_WATER,)})
        self.assertIn("field.water_plan", planned_ids(at(water, Depth.SHORT)))

    def test_a_check_of_ones_own(self) -> None:
        tick = next(check for check in CHECKS if check.id == "bag.first_aid")
        own = replace(tick, id="custom.1", origin="custom", frequency=Frequency.LAUNCH)
        mine = CALM.model_copy(update={"custom_checklist": CustomChecklist(added=(own,))})
        self.assertIn("custom.1", planned_ids(at(mine, Depth.SHORT)))

    def test_deeper_adds_and_never_takes(self) -> None:
        chosen = ChosenDepth(depth=Depth.NORMAL, why=("Because",))
        self.assertEqual(deeper(chosen, wish=Depth.SHORT), chosen)
        self.assertEqual(deeper(deeper(chosen, ask="a"), ask="a").asked, ("a",))
        full = deeper(chosen, wish=Depth.FULL)
        self.assertEqual((full.depth, full.why), (Depth.FULL, ("You chose it",)))


class Choosing(unittest.TestCase):
    def depth(self, case: Situation, flights: int = 40, **more: object) -> Depth:
        return choose(case, flights=flights, **more).depth  # type: ignore[arg-type]

    def test_each_reason_alone(self) -> None:
        self.assertIs(self.depth(light()), Depth.SHORT)
        spectators = CALM.site.model_copy(
            update={"spectator_line": (Spot(east_m=0, north_m=-40), Spot(east_m=50, north_m=-40))}
        )
        heavy_pack = CALM.pack.model_copy(update={"capacity_mah": 5000})
        snag = Snag(id=1, on=SnagOn.AIRCRAFT, title="Scratch", grounds=False, opened_at=NOW - timedelta(days=3))
        crash = Event(kind=EventKind.CRASH, at=NOW - timedelta(days=1))
        for words, case, want in (
            ("It weighs 250 g", light(mass_g=250.0), Depth.NORMAL),
            ("It weighs 4000 g", light(mass_g=4000.0), Depth.FULL),
            ("Spectators at this field", light().model_copy(update={"site": spectators}), Depth.NORMAL),
            ("Its pack holds", light().model_copy(update={"pack": heavy_pack}), Depth.NORMAL),
            ("An open snag", with_history(light(), snags=(snag,)), Depth.NORMAL),
            ("Crash, 15 May", with_history(light(), events=(*calibrated(9), crash)), Depth.FULL),
            ("Club day", light().model_copy(update={"occasions": (Occasion.CLUB_DAY,)}), Depth.NORMAL),
            ("Flight with crew or public", light().model_copy(update={"occasions": (Occasion.CREW,)}), Depth.FULL),
            ("Your first flight at", with_history(light(), site_flown=False), Depth.NORMAL),
            ("Your method", light().model_copy(update={"methods": ChosenMethods(round="every")}), Depth.FULL),
        ):
            with self.subTest(words):
                chosen = choose(case, flights=40)
                self.assertIs(chosen.depth, want)
                self.assertIn(words, " ".join(chosen.why))
        self.assertIs(self.depth(light(), flights=9), Depth.NORMAL)
        self.assertIs(self.depth(light(), flights=2), Depth.FULL)
        self.assertIs(self.depth(light(), found=("airframe.shell",)), Depth.NORMAL)
        self.assertIs(self.depth(light(), wish=Depth.FULL), Depth.FULL)

    def test_at_the_edges(self) -> None:
        """First flights and known ones, the very energy, an event at the very take-off, a wish that changes nothing."""
        for flights, want, words in (
            (0, Depth.FULL, "0 flights with it so far"), (1, Depth.FULL, "1 flight with it so far"), (2, Depth.FULL, "2 flights"),
            (3, Depth.NORMAL, "3 flights"), (9, Depth.NORMAL, "9 flights"), (10, Depth.SHORT, "Light, known"),
        ):  # fmt: skip
            chosen = choose(light(), flights=flights)
            self.assertIs(chosen.depth, want, flights)
            self.assertIn(words, " ".join(chosen.why))
        pack = light().pack
        full_mah = 20.0 / pack.model_copy(update={"capacity_mah": 1000}).energy_wh() * 1000
        for mah, want in ((full_mah, Depth.NORMAL), (full_mah - 1, Depth.SHORT)):
            held = light().model_copy(update={"pack": pack.model_copy(update={"capacity_mah": mah})})
            self.assertIs(self.depth(held), want, mah)
        flown_at = light().history.aircraft_last_flight_at
        assert flown_at is not None
        crash = Event(kind=EventKind.CRASH, at=flown_at)
        self.assertIs(self.depth(with_history(light(), events=(*calibrated(9), crash))), Depth.SHORT)
        heavy = light(mass_g=900.0)
        self.assertEqual(choose(heavy, flights=40, wish=Depth.NORMAL), choose(heavy, flights=40))
        same = ChosenDepth(depth=Depth.NORMAL, why=("Because",))
        self.assertEqual(deeper(same, wish=Depth.NORMAL), same)

    def test_what_only_the_full_list_has(self) -> None:
        deep = {check.id for check in CHECKS if least(check, QUAD) is Depth.FULL}
        self.assertIn("airframe.screws", deep)
        self.assertFalse(deep & planned_ids(at(CALM, Depth.NORMAL)))
        self.assertTrue(deep & planned_ids(at(CALM, Depth.FULL)))

    def test_a_later_launch_is_one_step_shorter_unless_something_was_found(self) -> None:
        later = with_history(light(mass_g=900.0), rounds_today=1)
        self.assertIs(self.depth(later), Depth.SHORT)
        self.assertIs(self.depth(later, found=("airframe.shell",)), Depth.NORMAL)
        self.assertIs(self.depth(with_history(light(mass_g=5000.0), rounds_today=1)), Depth.NORMAL)
        every = later.model_copy(update={"methods": ChosenMethods(round="every")})
        self.assertIs(self.depth(every), Depth.FULL)

    def test_after_it_flew_again_an_event_is_over(self) -> None:
        crash = Event(kind=EventKind.CRASH, at=NOW - timedelta(days=3))
        self.assertIs(self.depth(with_history(light(), events=(*calibrated(9), crash))), Depth.SHORT)

    @given(
        st.floats(60, 24_000), st.floats(0, 5_000), st.integers(0, 60), st.integers(0, 60), st.integers(100, 9_000),
        st.sets(st.sampled_from(Occasion)), st.sampled_from(Occasion), st.booleans(), st.sampled_from(EventKind), st.sampled_from(Depth),
    )  # fmt: skip
    def test_more_risk_never_shortens(
        self, mass_g: float, more_g: float, flights: int, fewer: int, mah: int, occasions: set[Occasion], another: Occasion,
        later: bool, kind: EventKind, wish: Depth,
    ) -> None:  # fmt: skip
        base = with_history(light(mass_g=min(mass_g, 24_000.0)), rounds_today=int(later))
        base = base.model_copy(update={"occasions": tuple(sorted(occasions))})
        was = choose(base, flights=flights, wish=wish).depth.rank
        heavier = base.aircraft.model_copy(update={"mass_g": min(25_000.0, base.aircraft.mass_g + more_g)})
        fuller = base.pack.model_copy(update={"capacity_mah": base.pack.capacity_mah + mah})
        line = (Spot(east_m=0, north_m=-40), Spot(east_m=50, north_m=-40))
        event = Event(kind=kind, at=NOW - timedelta(hours=1), detail="x")
        for more in (
            base.model_copy(update={"aircraft": heavier}),
            base.model_copy(update={"pack": fuller}),
            base.model_copy(update={"occasions": tuple(sorted({*occasions, another}))}),
            base.model_copy(update={"site": base.site.model_copy(update={"spectator_line": line})}),
            with_history(base, events=(*base.history.events, event)),
        ):
            self.assertGreaterEqual(choose(more, flights=flights, wish=wish).depth.rank, was)
        self.assertGreaterEqual(choose(base, flights=max(0, flights - fewer), wish=wish).depth.rank, was)
        self.assertGreaterEqual(choose(base, flights=flights, wish=wish, found=("airframe.shell",)).depth.rank, was)
        self.assertGreaterEqual(choose(base, flights=flights, wish=Depth.FULL).depth.rank, was)


class Day_(unittest.TestCase):
    def test_the_second_launch_of_a_known_aircraft(self) -> None:
        morning = tuple(Done(check_id=c.id, at=NOW - timedelta(hours=1)) for c in CHECKS)
        second = at(with_history(CALM, done=morning, rounds_today=1), Depth.SHORT)
        ids = planned_ids(second)
        self.assertLessEqual(
            {"airframe.propellers", "airframe.arms", "pack.again", "first.around_again", "power.inert_again"}, ids
        )
        self.assertFalse(ids & {"field.people", "sky.look", "power.mode", "first.look_listen"})
        self.assertFalse(ids & {"airframe.shell", "airframe.screws", "field.airspace", "airframe.marks"})
        self.assertTrue({"first.hover", "after.look"} <= ids, "what follows the signature stays")
