"""Every kind of answer, found and not listed: each judges its good example clear, refuses the others, and is stored whole."""

import unittest

from tests.support import NOW, QUAD, TRAINER, piece, situation
from walkround.core.aircraft.presets import PRESETS
from walkround.core.aircraft.traits import Trait
from walkround.core.answers import KINDS, AnyAnswer, AnyAsk
from walkround.core.answers.ways_out import Fault, Skipped, Undone
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Level
from walkround.core.base.struct import default_of
from walkround.core.base.value import Value
from walkround.core.checklist.check import Occasion
from walkround.core.checklist.library import CHECKS
from walkround.core.round.context import Context
from walkround.core.round.judge import RoundCase, judge
from walkround.core.round.plan import make_plan


class Holds(Value):
    ask: AnyAsk | None = None
    answer: AnyAnswer | None = None


class Kinds(unittest.TestCase):
    def test_each_is_asked_somewhere_and_every_check_asks_one_of_them(self) -> None:
        self.assertEqual({check.ask.kind for check in CHECKS}, set(KINDS))
        for name, kind in KINDS.items():
            self.assertEqual(kind.name, name)
            self.assertEqual(default_of(kind.ask, "kind"), name)

    def test_its_example_is_clear_wherever_it_is_asked(self) -> None:
        """But for what is judged by more than the answer: numbers with a rule of their own, and what a check adds."""
        met = set()
        shows = [
            QUAD.model_copy(update={"traits": QUAD.traits | {trait}})
            for trait in (Trait.SIGNAL_BARS, Trait.SIGNAL_PERCENT, Trait.SIGNAL_DBM)
        ]
        for aircraft in (QUAD, TRAINER, *PRESETS.values(), *shows):
            case = situation(aircraft, occasions=(Occasion.GUEST,) if aircraft is QUAD else ())
            if aircraft is QUAD:
                case = case.model_copy(update={"pack": case.pack.model_copy(update={"together": 2})})
            context = Context(case, {})
            for planned in make_plan(case).checks:
                check = planned.check
                if check.adds or (KINDS[check.ask.kind].subjects and aircraft not in (QUAD, TRAINER)):
                    continue
                if getattr(check.ask, "rule", "band") != "band":
                    continue
                met.add(check.ask.kind)
                answer = KINDS[check.ask.kind].example(check, RoundCase(context), NOW)
                worst = max(f.level for f in judge(check, piece(check.id, answer), context))
                self.assertEqual(worst, Level.CLEAR, f"{aircraft.name}: {check.id}")
        self.assertEqual(met, set(KINDS))

    def test_an_answer_of_another_kind_is_refused(self) -> None:
        """Nothing but a fault or a skip fits every check: a tick on a number would read as clear."""
        case = situation()
        context = Context(case, {})
        first = {check.ask.kind: check for check in reversed([p.check for p in make_plan(case).checks])}
        examples = {name: KINDS[name].example(check, RoundCase(context), NOW) for name, check in first.items()}
        for name, check in first.items():
            for other, answer in examples.items():
                if other != name:
                    with self.subTest(f"{other} for {name}"), self.assertRaises(InputError):
                        judge(check, piece(check.id, answer), context)
            for way_out in (Fault(note="x"), Skipped(reason="x")):
                self.assertTrue(judge(check, piece(check.id, way_out), context))

    def test_stored_and_read_back_it_is_the_same(self) -> None:
        context = Context(situation(), {})
        for planned in make_plan(context.situation).checks:
            ask = planned.check.ask
            answer = KINDS[ask.kind].example(planned.check, RoundCase(context), NOW)
            self.assertEqual(Holds.model_validate_json(Holds(answer=answer).model_dump_json()).answer, answer)
            self.assertEqual(Holds.model_validate_json(Holds(ask=ask).model_dump_json()).ask, ask)
        for other in (Fault(note="a crack"), Skipped(reason="rain"), Undone(of=4)):
            self.assertEqual(Holds.model_validate_json(Holds(answer=other).model_dump_json()).answer, other)

    def test_only_a_reading_is_one_of_the_pack(self) -> None:
        context = Context(situation(), {})
        for planned in make_plan(context.situation).checks:
            answer = KINDS[planned.check.ask.kind].example(planned.check, RoundCase(context), NOW)
            self.assertEqual(
                answer.pack_reading(NOW, "pilot") is not None, planned.check.ask.kind in ("cells", "charge")
            )
