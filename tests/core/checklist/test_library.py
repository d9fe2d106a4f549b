"""The check library as a whole, and the published inspection list against it."""

import unittest
from collections import Counter
from collections.abc import Callable

from tests.support import NOW, PACK, SITE, planned_ids, situation, variants, with_history
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.parts import PartKind
from walkround.core.aircraft.planform import planform
from walkround.core.aircraft.presets import PRESETS
from walkround.core.aircraft.traits import Kind, Trait
from walkround.core.answers.choice import AskChoice
from walkround.core.answers.number import AskNumber
from walkround.core.base.finding import Level
from walkround.core.checklist.check import Depth, Frequency, Occasion, Station
from walkround.core.checklist.history import Event, EventKind
from walkround.core.checklist.library import CHECKS
from walkround.core.pilot.methods import METHODS, ChosenMethods
from walkround.core.round.numbers import RULES
from walkround.core.round.plan import make_plan
from walkround.core.round.situation import ChosenDepth

# FAA AC 107-2A, preflight inspection items; numbering and wording from memory, in our words.
# Each item: what it asks, and the checks any of which covers it, one at least for every aircraft not exempt.
AC_107_2A: tuple[tuple[int, str, tuple[str, ...]], ...] = (
    (1, "condition of every component", ("airframe.shell", "airframe.loose", "airframe.inside", "airframe.screws")),
    (2, "airframe, undercarriage, surfaces, linkages", ("airframe.arms", "airframe.shell", "airframe.hinges", "airframe.nose_wheel", "airframe.links", "airframe.legs")),
    (3, "registration marks shown and legible", ("bench.papers", "airframe.marks")),
    (4, "moving surfaces and their attachment", ("airframe.hinges", "airframe.swashplate", "airframe.blade_bolts")),
    (5, "servos and their attachment", ("airframe.inside",)),
    (6, "motors, propellers, rotors", ("airframe.propellers", "airframe.rotor_blades")),
    (7, "energy enough for the plan, systems work", ("pack.plan", "pack.fuel_level")),
    (8, "avionics: transceiver, navigation, antennas", ("airframe.antennas",)),
    (9, "compass calibrated before flight", ("sensors.compass",)),
    (10, "control station transceiver and antennas", ("link.antennas", "bench.transmitter")),
    (11, "display works", ("power.screen_works", "power.goggles_on")),
    (12, "ground support gear, take-off and landing aids", ("field.surface_rotor", "field.surface_wing", "field.throw_line")),
    (13, "control link established and correct", ("power.transmitter_on",)),
    (14, "surfaces move rightly from the control station", ("controls.surfaces", "controls.swashplate")),
    (15, "on-board navigation and data links", ("sensors.satellites", "sensors.home_point")),
    (16, "termination and lost-control programming", ("link.lost_action", "link.lost_action_wing", "link.lost_action_heli", "link.lost_action_board")),
    (17, "fuel type and quantity", ("pack.fuel_type",)),
    (18, "battery levels, aircraft and control station", ("pack.cells",)),
    (19, "attached equipment secure", ("airframe.loose", "airframe.payload", "pack.latched")),
    (20, "positioning from at least four satellites, written down", ("sensors.satellites",)),
    (21, "propellers started and watched for imbalance", ("controls.idle",)),
    (22, "heading and height control answer", ("first.moves", "first.trim")),
    (23, "obstructions on the path noted", ("field.path",)),
    (24, "low and close first, near suspected interference", ("first.moves", "field.interference")),
)  # fmt: skip
# An item may stay open only where the aircraft has no such thing.
EXEMPT: dict[int, tuple[str, Callable[[Aircraft], bool]]] = {
    4: ("no moving surfaces", lambda a: a.kind is Kind.MULTIROTOR),
    5: ("no servos move surfaces", lambda a: a.kind is Kind.MULTIROTOR),
    6: ("nothing turns", lambda a: a.rotors == 0),
    9: ("no compass", lambda a: not a.has(Trait.COMPASS)),
    11: ("flown without a display", lambda a: not (a.has(Trait.PILOT_SCREEN) or a.has(Trait.GOGGLES))),
    14: ("no surfaces and no swashplate", lambda a: a.kind is Kind.MULTIROTOR),
    15: ("no navigation", lambda a: not a.has(Trait.SATNAV)),
    17: ("no fuel", lambda a: not a.has(Trait.LIQUID_FUEL)),
    20: ("no receiver", lambda a: not a.has(Trait.SATNAV)),
    21: ("no motor", lambda a: a.rotors == 0),
}


# Done where they belong in the order of work: balance with the pack in, the engine started last.
MOVED_HERE = {
    "airframe.cg": Station.PACK,
    "airframe.hangs_level": Station.PACK,
    "airframe.marks": Station.BENCH,
    "link.both_ways": Station.FIRST_MINUTE,
    "power.engine_start": Station.CONTROLS,
    "power.kill_switch": Station.CONTROLS,
}


class InspectionList(unittest.TestCase):
    """Every item of the published list is covered by a check that comes up for every aircraft it applies to."""

    def test_24_items(self) -> None:
        self.assertEqual([row[0] for row in AC_107_2A], list(range(1, 25)))

    def test_every_preset_and_every_kind(self) -> None:
        for aircraft in (*PRESETS.values(), *variants()):
            new = Event(kind=EventKind.NEW_BUILD, at=NOW)
            plan = {p.check.id for p in make_plan(with_history(situation(aircraft), events=(new,), done=())).checks}
            for number, what, ids in AC_107_2A:
                reason, exempt = EXEMPT.get(number, ("", lambda a: False))
                with self.subTest(aircraft=aircraft.name, item=f"{number} {what}", exempt=reason):
                    self.assertEqual(bool(plan & set(ids)), not exempt(aircraft))

    def test_no_name_in_the_table_is_dead(self) -> None:
        known = {check.id for check in CHECKS}
        for _, what, ids in AC_107_2A:
            self.assertLessEqual(set(ids), known, what)


class Library(unittest.TestCase):
    def test_size_and_stations(self) -> None:
        self.assertGreaterEqual(len(CHECKS), 160)
        self.assertEqual({c.station for c in CHECKS}, set(Station))

    def test_ids_are_one_of_a_kind_and_say_where_they_live(self) -> None:
        self.assertEqual([i for i, n in Counter(c.id for c in CHECKS).items() if n > 1], [])
        for check in CHECKS:
            prefix = check.id.split(".")[0]
            own = {"first": Station.FIRST_MINUTE, "after": Station.FIRST_MINUTE}
            home = MOVED_HERE.get(check.id) or own.get(prefix) or Station(prefix)
            self.assertEqual(check.station, home, check.id)

    def test_no_text_is_written_twice(self) -> None:
        for field in ("title", "how", "why", "fault"):
            texts = Counter(getattr(c, field) for c in CHECKS)
            self.assertEqual([t for t, n in texts.items() if n > 1], [], field)

    def test_wording(self) -> None:
        for check in CHECKS:
            texts = (check.title, check.how, check.why, check.fault, check.remedy, check.caution)
            with self.subTest(check.id):
                self.assertNotIn("!", "".join(texts))
                self.assertTrue(check.title[0].isupper() and not check.title.endswith("."))
                for text in texts[1:]:
                    self.assertTrue(text == "" or text[-1] in ".”", text)
                self.assertTrue(check.source)

    def test_rules_exist(self) -> None:
        for check in CHECKS:
            if isinstance(check.ask, AskNumber):
                self.assertTrue((check.ask.band is not None) != (check.ask.rule in RULES), check.id)

    def test_choices_have_a_clear_answer_and_reasons_for_the_others(self) -> None:
        for check in CHECKS:
            if isinstance(check.ask, AskChoice):
                levels = {o.level for o in check.ask.options}
                self.assertIn(Level.CLEAR, levels, check.id)
                for option in check.ask.options:
                    if option.level is not Level.CLEAR:
                        self.assertTrue(option.reason and option.remedy, f"{check.id} {option.id}")

    def test_caution_stands_where_it_can_hurt(self) -> None:
        dangerous = {
            "bench.propellers_off", "bench.failsafe", "bench.propellers_back", "airframe.propellers", "airframe.motors",
            "power.idle", "power.aircraft_on", "controls.idle", "controls.lean", "pack.body", "bag.fire",
            "first.step_back", "after.off",
        }  # fmt: skip
        self.assertLessEqual(dangerous, {c.id for c in CHECKS if c.caution})

    def test_every_check_is_reachable(self) -> None:
        seen: set[str] = set()
        every = [ChosenMethods(**{t.value: s.id}) for t, (_, many) in METHODS.items() for s in many]
        for aircraft in (*variants(), PRESETS["race-quad"]):
            events = tuple(Event(kind=kind, at=NOW) for kind in EventKind if "calibrated" not in kind)
            parts = tuple(Event(kind=EventKind.PART_REPLACED, part=part, at=NOW) for part in PartKind)
            case = with_history(situation(aircraft), events=(*events, *parts), done=())
            seen |= planned_ids(case.model_copy(update={"occasions": tuple(Occasion)}))
        for methods in every:
            seen |= planned_ids(situation(methods=methods))
            seen |= planned_ids(with_history(situation(methods=methods), events=events))
        for aircraft in variants():
            seen |= planned_ids(situation(aircraft, depth=ChosenDepth(depth=Depth.SHORT, why=())))
            seen |= planned_ids(situation(aircraft, site=SITE.model_copy(update={"indoors": True})))
        seen |= planned_ids(situation(pack=PACK.model_copy(update={"together": 2})))
        self.assertEqual({c.id for c in CHECKS} - seen, set())

    def test_event_checks_name_events_or_a_rule(self) -> None:
        for check in CHECKS:
            if check.frequency is Frequency.EVENT:
                self.assertTrue(check.events or check.due or check.on_parts or check.occasions, check.id)


class Parts(unittest.TestCase):
    def test_parts_named_by_checks_are_drawn(self) -> None:
        for aircraft in variants():
            drawn = {p.key for p in planform(aircraft).parts}
            wanted = {c.part for c in CHECKS if c.part and c.applies.fits(aircraft)}
            self.assertEqual(wanted - drawn, set(), aircraft.name)
