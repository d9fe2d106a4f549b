"""The bag: the aircraft's own list, two passes, and what is missing says what it costs."""

import unittest

from tests.support import QUAD, TRAINER, piece, said, situation, variants
from walkround.core.aircraft.bag import Packed, bag_list, custom_lines, judge_bag
from walkround.core.aircraft.presets import PRESETS
from walkround.core.answers.packed import BagPacked
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Level
from walkround.core.checklist.library import CHECKS
from walkround.core.round.context import Context
from walkround.core.round.judge import judge


def full(aircraft, **counts: int) -> Packed:  # type: ignore[no-untyped-def]
    have = {t.id: t.wanted for t in bag_list(aircraft)} | {k.replace("__", "-"): v for k, v in counts.items()}
    return Packed(have=tuple(have.items()))


# The bag of the practice, item by item: who carries it. Common practice, no source.
PRACTICE = (
    ("aircraft", "all"), ("transmitter", "all"), ("packs", "all"), ("fire-bag", "all"), ("checker", "all"), ("papers", "all"),
    ("first-aid", "all"), ("water", "all"), ("buddy", "all"), ("accessories", "all"),
    ("propellers-clockwise", "camera-quad"), ("propellers-counter-clockwise", "camera-quad"), ("cards", "camera-quad"),
    ("screen", "camera-quad"), ("cable", "camera-quad"), ("mat", "camera-quad"), ("lens-cloth", "camera-quad"),
    ("filters", "camera-quad"), ("goggles", "race-quad"), ("nuts", "race-quad"), ("prop-tool", "race-quad"),
    ("beeper", "race-quad"), ("propellers", "foam-trainer"), ("clevises", "foam-trainer"), ("bands", "foam-trainer"),
    ("tape", "foam-trainer"), ("blades", "heli-coaxial"), ("fuel", "low-wing"), ("starter", "low-wing"),
)  # fmt: skip


class Lists(unittest.TestCase):
    def test_what_the_practice_names_is_on_the_list_it_belongs_to(self) -> None:
        for thing, who in PRACTICE:
            for key in PRESETS if who == "all" else (who,):
                self.assertIn(thing, {t.id for t in bag_list(PRESETS[key])}, key)

    def test_a_list_fits_its_aircraft(self) -> None:
        trainer = {t.id for t in bag_list(TRAINER)}
        self.assertFalse(trainer & {"mat", "cards", "screen", "propellers-clockwise", "fuel"})
        self.assertFalse({t.id for t in bag_list(PRESETS["glider"])} & {"propellers", "fuel"})

    def test_how_many_of_each(self) -> None:
        """Two of what breaks or gets lost, eight bands, one of the rest: our choice."""
        wanted = {t.id: t.wanted for key in PRESETS for t in bag_list(PRESETS[key])}
        twos = {
            "cable",
            "cards",
            "links",
            "clevises",
            "bolts",
            "propellers",
            "propellers-clockwise",
            "propellers-counter-clockwise",
        }
        for thing, number in wanted.items():
            if thing != "packs":
                self.assertEqual(number, 8 if thing == "bands" else 2 if thing in twos else 1, thing)
        self.assertEqual(next(t for t in bag_list(PRESETS["low-wing"]) if t.id == "packs").title, "Receiver packs")
        self.assertEqual([t.id for t in bag_list(QUAD)][2], "packs")
        self.assertEqual(
            [t.title for t in bag_list(QUAD.model_copy(update={"bag_extra": ("A", "B")}))][-2:], ["A", "B"]
        )

    def test_own_lines_at_their_bounds(self) -> None:
        self.assertEqual(custom_lines("x" * 60), ("x" * 60,))
        self.assertEqual(len(custom_lines("\n".join(str(i) for i in range(30)))), 30)
        with self.assertRaises(InputError) as caught:
            custom_lines("y" * 61)
        self.assertIn("“yyyyyyyyyyyyyyyyyyyy…” has 61 characters", caught.exception.message)

    def test_no_thing_twice(self) -> None:
        for aircraft in variants():
            ids = [t.id for t in bag_list(aircraft)]
            self.assertEqual(len(ids), len(set(ids)), aircraft.name)

    def test_own_lines_and_what_stays_at_home(self) -> None:
        mine = QUAD.model_copy(
            update={"bag_extra": ("Folding chair",), "bag_leaves": frozenset({"water", "transmitter"})}
        )
        things = {t.id: t for t in bag_list(mine)}
        self.assertEqual(things["own-1"].title, "Folding chair")
        self.assertNotIn("water", things)
        self.assertIn("transmitter", things)  # what the flight cannot be without is never left out
        self.assertEqual(custom_lines(" a \n\n b  c\na"), ("a", "b c"))
        with self.assertRaisesRegex(InputError, r"70 characters \(max 60"):
            custom_lines("x" * 70)
        with self.assertRaisesRegex(InputError, "You can add up to thirty items of your own"):
            custom_lines("\n".join(str(i) for i in range(31)))


class Passes(unittest.TestCase):
    def test_full_is_clear(self) -> None:
        for aircraft in PRESETS.values():
            self.assertEqual([f.level for f in judge_bag(aircraft, full(aircraft), None)], [Level.CLEAR], aircraft.name)

    def test_what_is_missing_says_what_it_costs(self) -> None:
        (finding,) = judge_bag(QUAD, full(QUAD, cards=1), None)
        self.assertEqual(finding.level, Level.CAUTION)
        self.assertEqual(said(finding), "Memory cards: 1 of 2. Without it: no recording.")
        (finding,) = judge_bag(QUAD, full(QUAD, transmitter=0), None)
        self.assertEqual(finding.level, Level.GROUNDED)
        self.assertIn("Transmitter: not in the bag. Without it: no flying today.", said(finding))
        (finding,) = judge_bag(QUAD, full(QUAD, propellers__clockwise=0), None)
        self.assertIn("Spare propellers, clockwise: 0 of 2", said(finding))
        self.assertEqual(judge_bag(QUAD, full(QUAD, packs=1), None)[0].level, Level.CLEAR)  # fewer packs is no fault
        with self.assertRaisesRegex(InputError, "between 0 and 99"):
            judge_bag(QUAD, full(QUAD, packs=100), None)

    def test_edges_of_a_count(self) -> None:
        """As many as wanted is enough; of what is needed one is, however many are wanted; 0 to 99 are numbers."""
        for number, missing in ((2, False), (3, False), (99, False), (1, True), (0, True)):
            found = judge_bag(QUAD, full(QUAD, cards=number), None)
            self.assertEqual(found[0].level, Level.CAUTION if missing else Level.CLEAR)
            if missing:
                self.assertEqual((found[0].name, found[0].remedy), ("Memory cards", "Put it in if it is at hand."))
        five = QUAD.model_copy(update={"bag_packs": 5})
        for number, level in ((0, Level.GROUNDED), (1, Level.CLEAR), (5, Level.CLEAR)):
            found = judge_bag(five, full(five, packs=number), None)
            self.assertEqual(found[0].level, level)
        none = judge_bag(five, full(five, packs=0), None)[0]
        self.assertEqual(
            (said(none), none.remedy),
            ("Flight packs: 0 of 5. Without it: fewer flights.", "Fetch it before you leave."),
        )
        for number in (-1, 100):
            with self.assertRaises(InputError):
                judge_bag(QUAD, full(QUAD, cards=number), None)
        self.assertEqual(said(judge_bag(QUAD, full(QUAD), None)[0]), f"All {len(bag_list(QUAD))} items are in the bag.")
        empty = judge_bag(QUAD, Packed(), None)
        self.assertEqual(len(empty), len(bag_list(QUAD)), "a thing not named is not there")

    def test_a_pass_that_did_not_name_a_thing_counted_none(self) -> None:
        one, two = full(QUAD), Packed(have=tuple((i, n) for i, n in full(QUAD).have if i != "water"))
        (finding,) = judge_bag(QUAD, one, two)
        self.assertEqual(said(finding), "Water and a hat: this pass says 1, the other 0.")
        self.assertEqual((finding.level, finding.remedy), (Level.CAUTION, "Count again together."))
        both = judge_bag(QUAD, two, one)
        self.assertEqual([said(f) for f in both][1], "Water and a hat: this pass says 0, the other 1.")

    def test_the_second_pass_names_what_the_two_counted_differently(self) -> None:
        second = next(c for c in CHECKS if c.id == "bag.second_pass")
        first = next(c for c in CHECKS if c.id == "bag.first_pass")
        one, two = BagPacked(packed=full(QUAD)), BagPacked(packed=full(QUAD, cards=3))
        answers = {first.id: piece(first.id, one), second.id: piece(second.id, two)}
        context = Context(situation(), answers)
        (finding,) = judge(second, answers[second.id], context)
        self.assertEqual(said(finding), "Memory cards: this pass says 3, the other 2.")
        self.assertEqual([f.level for f in judge(first, answers[first.id], context)], [Level.CLEAR])
