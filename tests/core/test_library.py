"""The check library as a whole, and the published inspection list against it."""

import unittest
from collections import Counter

from tests.support import NOW, QUAD, TRAINER, situation, with_history
from walkround.core.aircraft import KIND_TRAITS, PRESETS, Kind, Trait
from walkround.core.check import AskChoice, AskNumber, Cadence, Station
from walkround.core.finding import Level
from walkround.core.history import Event, EventKind
from walkround.core.judge import RULES
from walkround.core.library import CHECKS
from walkround.core.outline import outline
from walkround.core.plan import make_plan

# FAA AC 107-2A, preflight inspection items; numbering and wording from memory, in our words.
# Each item: what it asks, and the checks that cover it for the camera quad and for the trainer.
AC_107_2A: tuple[tuple[int, str, tuple[str, ...], tuple[str, ...]], ...] = (
    (1, "condition of every component", ("airframe.shell", "airframe.loose"), ("airframe.loose", "airframe.inside")),
    (2, "airframe, undercarriage, surfaces, linkages", ("airframe.shell", "airframe.arms"), ("airframe.hinges", "airframe.tail", "airframe.nose_wheel", "airframe.inside")),
    (3, "registration marks shown and legible", ("bench.papers", "airframe.shell"), ("bench.papers",)),
    (4, "moving surfaces and their attachment", ("airframe.arms",), ("airframe.hinges", "airframe.tail", "airframe.bands")),
    (5, "servos and their attachment", (), ("airframe.inside",)),
    (6, "motors, propellers, rotors", ("airframe.propellers", "airframe.motors", "airframe.propeller_seat", "airframe.propeller_side"), ("airframe.propellers", "airframe.motors", "airframe.spinner")),
    (7, "energy enough for the plan, systems work", ("pack.plan", "pack.cells", "power.self_test"), ("pack.plan", "pack.cells", "controls.throw")),
    (8, "avionics: transceiver, navigation, antennas", ("airframe.antennas", "power.self_test", "senses.satellites"), ("airframe.antennas",)),
    (9, "compass calibrated before flight", ("senses.compass", "senses.heading"), ()),
    (10, "control station transceiver and antennas", ("link.antennas", "bench.transmitter"), ("link.antennas", "bench.transmitter")),
    (11, "display works", ("power.self_test", "bench.screen"), ()),
    (12, "ground support gear, take-off and landing aids", ("field.surface_rotor", "bag.list_quad"), ("field.surface_wing", "bag.list_wing")),
    (13, "control link established and correct", ("power.transmitter_on", "link.antennas", "power.mode"), ("power.transmitter_on", "link.antennas", "power.mode")),
    (14, "surfaces move rightly from the control station", (), ("controls.surfaces", "controls.throw")),
    (15, "on-board navigation and data links", ("senses.satellites", "senses.home_point"), ()),
    (16, "termination and lost-control programming", ("link.lost_action", "link.return_height", "bench.failsafe"), ("link.lost_action_wing", "bench.failsafe")),
    (17, "fuel type and quantity", (), ()),
    (18, "battery levels, aircraft and control station", ("pack.cells", "pack.percent", "bench.transmitter"), ("pack.cells", "bench.transmitter")),
    (19, "attached equipment secure", ("airframe.loose", "airframe.gimbal", "pack.latched"), ("airframe.loose", "pack.latched")),
    (20, "positioning from at least four satellites, written down", ("senses.satellites",), ()),
    (21, "propellers started and watched for imbalance", ("controls.idle",), ("controls.idle",)),
    (22, "heading and height control answer", ("first.moves", "first.holds"), ("first.moves", "first.trim")),
    (23, "obstructions on the path noted", ("field.path", "field.launch_circle"), ("field.path", "field.launch_circle")),
    (24, "low and close first, near suspected interference", ("first.moves", "first.hover", "field.interference"), ("first.moves", "field.interference")),
)  # fmt: skip
# An item may stay empty only where the aircraft has no such thing.
NOT_FOR_QUAD = {5: "no servos move surfaces", 14: "no control surfaces", 17: "electric"}
NOT_FOR_TRAINER = {
    9: "no compass",
    11: "flown without a display",
    15: "no navigation",
    17: "electric",
    20: "no receiver",
}


class InspectionList(unittest.TestCase):
    """Every item of the published list is covered by checks that come up for the aircraft it applies to."""

    def covered(self, aircraft, column: int, exempt: dict[int, str]) -> None:  # type: ignore[no-untyped-def]
        new = Event(kind=EventKind.NEW_BUILD, at=NOW)
        plan = {p.check.id for p in make_plan(with_history(situation(aircraft), events=(new,), done=())).checks}
        for number, what, *ids in AC_107_2A:
            with self.subTest(f"{number} {what}"):
                if number in exempt:
                    self.assertEqual(ids[column], ())
                else:
                    self.assertTrue(ids[column])
                    self.assertLessEqual(set(ids[column]), plan)

    def test_24_items(self) -> None:
        self.assertEqual([row[0] for row in AC_107_2A], list(range(1, 25)))

    def test_camera_quad(self) -> None:
        self.covered(QUAD, 0, NOT_FOR_QUAD)

    def test_trainer(self) -> None:
        self.covered(TRAINER, 1, NOT_FOR_TRAINER)


class Library(unittest.TestCase):
    def test_size_and_stations(self) -> None:
        self.assertGreaterEqual(len(CHECKS), 45)
        self.assertEqual({c.station for c in CHECKS}, set(Station))

    def test_ids_are_one_of_a_kind_and_say_where_they_live(self) -> None:
        self.assertEqual([i for i, n in Counter(c.id for c in CHECKS).items() if n > 1], [])
        for check in CHECKS:
            prefix = check.id.split(".")[0]
            own = {"first": Station.FIRST_MINUTE, "after": Station.FIRST_MINUTE}.get(prefix)
            self.assertEqual(check.station, own or Station(prefix), check.id)

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
        for kind in Kind:
            base = QUAD if kind is Kind.MULTIROTOR else TRAINER
            everything = base.model_copy(update={"traits": frozenset(KIND_TRAITS[kind])})
            for event in EventKind:
                case = with_history(situation(everything), events=(Event(kind=event, at=NOW),), done=())
                seen |= {p.check.id for p in make_plan(case).checks}
        self.assertEqual({c.id for c in CHECKS} - seen, set())

    def test_event_checks_name_events_or_a_rule(self) -> None:
        for check in CHECKS:
            if check.cadence is Cadence.EVENT:
                self.assertTrue(check.events or check.due, check.id)


class Parts(unittest.TestCase):
    def test_parts_named_by_checks_are_drawn(self) -> None:
        drawn = {p.key for a in (QUAD, TRAINER) for p in outline(a).parts}
        self.assertLessEqual({c.part for c in CHECKS if c.part}, drawn)


class Outlines(unittest.TestCase):
    def test_it_follows_the_traits(self) -> None:
        keys = {p.key for p in outline(QUAD).parts}
        self.assertLessEqual({"propellers", "arms", "motors", "body", "pack", "gimbal", "compass", "antennas"}, keys)
        plain = QUAD.model_copy(update={"traits": QUAD.traits - {Trait.GIMBAL_CAMERA, Trait.COMPASS}})
        self.assertFalse({"gimbal", "compass"} & {p.key for p in outline(plain).parts})
        wing = {p.key for p in outline(TRAINER).parts}
        self.assertLessEqual({"wing", "tail", "wheels", "propellers", "pack", "body"}, wing)

    def test_one_disc_a_rotor_with_neighbours_turning_against_each_other(self) -> None:
        for rotors in (3, 4, 6, 8):
            shapes = next(
                p for p in outline(QUAD.model_copy(update={"rotors": rotors})).parts if p.key == "propellers"
            ).shapes
            self.assertEqual(sum(s.role == "disc" for s in shapes), rotors)

    def test_everything_lies_inside_its_box(self) -> None:
        for aircraft in (QUAD, TRAINER, *PRESETS.values(), QUAD.model_copy(update={"rotors": 6})):
            drawing = outline(aircraft)
            for part in drawing.parts:
                for shape in part.shapes:
                    for x, y in shape.points:
                        self.assertLessEqual(abs(x), drawing.half_width_mm * 1.03, part.key)
                        self.assertLessEqual(abs(y), drawing.half_height_mm * 1.03, part.key)

    def test_it_is_the_same_left_and_right(self) -> None:
        discs = [s.points[0] for p in outline(QUAD).parts for s in p.shapes if s.role == "disc"]
        mirrored = {(round(-x, 6), round(y, 6)) for x, y in discs}
        self.assertEqual({(round(x, 6), round(y, 6)) for x, y in discs}, mirrored)
