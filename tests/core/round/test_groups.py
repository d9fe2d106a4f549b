"""What one tap may confirm together: never more than it names, never what is measured, gated, legal, marked or found faulty."""

import unittest
from datetime import timedelta

from tests.support import NOW, calibrated, piece, situation, variants, with_history
from walkround.core.answers.choice import Chosen
from walkround.core.answers.tick import Passed
from walkround.core.answers.ways_out import Fault
from walkround.core.checklist.check import Depth, Phase, Risk
from walkround.core.checklist.history import Event, EventKind, Snag, SnagOn
from walkround.core.checklist.library import CHECKS
from walkround.core.pilot.methods import ChosenMethods
from walkround.core.round.depth import HELD_BY_GATES, choose
from walkround.core.round.evidence import Evidence
from walkround.core.round.groups import FEWEST, IN_THE_AIR, Group, confirmed, good_option, group_of, ok_words
from walkround.core.round.situation import ChosenDepth, Situation
from walkround.core.round.walk import walk


def at(base: Situation, depth: Depth = Depth.NORMAL, **more: tuple[str, ...]) -> Situation:
    """A situation whose list goes so deep."""
    return base.model_copy(update={"depth": ChosenDepth(depth=depth, why=("Because",), **more)})


def groups(case: Situation, *evidence: Evidence) -> list[Group]:
    """Every group of a round, each once."""
    round_ = walk(case, evidence)
    found = (group_of(round_, state.planned.check.id) for state in round_.states)
    return list({group.ids: group for group in found if group is not None}.values())


class Groups(unittest.TestCase):
    def test_a_measurement_keeps_what_follows_it_apart(self) -> None:
        case = at(situation())
        by_name = {group.ids: group.name for group in groups(case) if group.name == "pack"}
        self.assertEqual(list(by_name), [("pack.right_one", "pack.body", "pack.leads")])
        self.assertIsNone(group_of(walk(case, ()), "pack.latched"), "the pack goes in after it was measured")

    def test_a_fault_found_by_a_check_that_stands_for_several_marks_them_all(self) -> None:
        case = situation()
        self.assertIn("pack.body", self.ids(at(case)))
        chosen = choose(case, flights=40, found=("pack.again",))
        marked = case.model_copy(update={"depth": chosen})
        self.assertLessEqual({"pack.right_one", "pack.body", "pack.latched"}, set(chosen.found))
        self.assertFalse({"pack.right_one", "pack.body", "pack.leads"} & self.ids(marked), "piece by piece")

    def test_a_choice_is_confirmed_by_its_one_good_answer(self) -> None:
        checks = {check.id: check for check in CHECKS}
        self.assertEqual(confirmed(checks["pack.body"]), Chosen(option="sound"))
        self.assertEqual(confirmed(checks["airframe.shell"]), Passed())
        for several in ("field.people", "field.surface_rotor", "link.lost_action", "pack.cells"):
            self.assertIsNone(good_option(checks[several]), several)

    def test_what_they_never_hold(self) -> None:
        many = 0
        for aircraft in variants():
            for depth in (Depth.SHORT, Depth.NORMAL):
                taken: list[str] = []
                for group in groups(at(situation(aircraft), depth)):
                    many += 1
                    checks = [state.planned.check for state in group.states]
                    self.assertGreaterEqual(len(checks), FEWEST)
                    self.assertEqual(len({check.station for check in checks}), 1, group.ids)
                    for check in checks:
                        self.assertIn(check.ask.kind, ("tick", "choice"), check.id)
                        self.assertTrue(ok_words(check), check.id)
                        self.assertFalse(check.grounds and check.risk is Risk.LAW, check.id)
                        self.assertNotIn(check.id, HELD_BY_GATES)
                    self.assertEqual(group.words, f"{group.title}: {len(checks)} checks OK")
                    taken += group.ids
                self.assertEqual(len(taken), len(set(taken)), "no check is in two groups")
            for whole in (at(situation(aircraft), Depth.FULL), situation(aircraft)):
                self.assertLessEqual({group.name for group in groups(whole)}, {IN_THE_AIR})
        self.assertGreater(many, 20)

    def ids(self, case: Situation, *evidence: Evidence) -> set[str]:
        return {check_id for group in groups(case, *evidence) for check_id in group.ids}

    def test_what_takes_a_check_out(self) -> None:
        case = at(situation())
        body = {state.planned.check.id for state in walk(case, ()).states if state.planned.check.part == "body"}
        self.assertLessEqual({"airframe.shell", "airframe.loose"}, self.ids(case))
        self.assertNotIn("airframe.shell", self.ids(case, piece("airframe.shell", Passed())))
        for marked in (
            self.ids(case, piece("airframe.shell", Fault(note="crack"))),
            self.ids(at(situation(), found=("airframe.shell",))),
        ):
            self.assertFalse(marked & body, "the whole part is looked at piece by piece")
        self.assertTrue(self.ids(at(situation(), found=("pack.cells",))) & body, "another part is not")
        crash = with_history(
            situation(), events=(*calibrated(9), Event(kind=EventKind.CRASH, at=NOW - timedelta(days=1)))
        )
        self.assertNotIn("airframe.shell", self.ids(at(crash)))
        snag = Snag(
            id=3,
            on=SnagOn.AIRCRAFT,
            title="Scratch",
            grounds=False,
            check_id="airframe.shell",
            opened_at=NOW - timedelta(days=9),
        )
        self.assertFalse(self.ids(at(with_history(situation(), snags=(snag,)))) & body)
        every = case.model_copy(update={"methods": ChosenMethods(round="every")})
        self.assertLessEqual({group.name for group in groups(every)}, {IN_THE_AIR})
        self.assertIsNone(group_of(walk(case, ()), "pack.percent"))
        self.assertIsNone(group_of(walk(case, ()), "airframe.covers_off"))

    def test_the_air_is_one_sweep_of_what_was_done_there(self) -> None:
        case = at(situation(), Depth.FULL)
        (sweep,) = (group for group in groups(case) if group.name == IN_THE_AIR)
        self.assertEqual(
            set(sweep.ids), {s.planned.check.id for s in walk(case, ()).states if s.planned.check.phase is Phase.AIR}
        )
        self.assertEqual(sweep.words, f"In the air: {len(sweep.ids)} checks OK")
        drifts = walk(case, (piece("first.holds", Fault(note="drifts")),))
        left = group_of(drifts, "first.hover")
        self.assertTrue(left is None or "first.holds" not in left.ids)

    def test_it_shrinks_as_its_checks_are_answered(self) -> None:
        case = at(situation())
        (whole,) = (group for group in groups(case) if "airframe.shell" in group.ids)
        for i in range(1, len(whole.ids)):
            answered = [piece(check_id, Passed(), number=n) for n, check_id in enumerate(whole.ids[:i], 1)]
            left = group_of(walk(case, answered), whole.ids[i])
            if len(whole.ids) - i < FEWEST:
                self.assertIsNone(left)
            else:
                assert left is not None
                self.assertEqual(left.ids, whole.ids[i:])
