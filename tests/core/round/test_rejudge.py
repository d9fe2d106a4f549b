"""Judging again only what an answer can change comes to the same as judging everything."""

import copy
import unittest
from datetime import timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests import examples
from tests.support import NOW, QUAD, TRAINER, dry_weather, situation
from walkround.core.answers.number import Measured
from walkround.core.answers.ways_out import Fault, Skipped, Undone
from walkround.core.round.evidence import Evidence
from walkround.core.round.plan import make_plan
from walkround.core.round.rejudge import Watched, judged
from walkround.core.round.situation import Situation
from walkround.core.round.walk import walk
from walkround.demo.walker import walked_evidence


def anew(case: Situation, evidence: tuple[Evidence, ...]) -> object:
    """The walk of an equal situation that nothing was judged in yet."""
    return walk(copy.deepcopy(case), evidence)


def others(piece: Evidence, number: int, how: int) -> Evidence:
    """Another answer to the same check: a number a little off, a fault, a skip."""
    answer = piece.answer
    if isinstance(answer, Measured) and how % 3 == 0:
        answer = answer.model_copy(update={"value": answer.value * (0.5, 0.9, 1.3)[how % 9 // 3]})
    else:
        answer = (Fault(note="worn"), Skipped(reason="no time"))[how % 2]
    return Evidence(id=number, check_id=piece.check_id, at=NOW + timedelta(seconds=number), answer=answer)


class Sequences(unittest.TestCase):
    @given(st.data())
    @examples(80)
    def test_as_if_everything_were_judged_anew(self, data: st.DataObject) -> None:
        case = situation(data.draw(st.sampled_from([QUAD, TRAINER])), weather=dry_weather())
        right = walked_evidence(case, NOW, answers={}, pace_s=0)
        order = data.draw(st.permutations(range(len(right))))[: data.draw(st.integers(5, 40))]
        told: tuple[Evidence, ...] = ()
        for number, (place, how) in enumerate(
            zip(order, data.draw(st.lists(st.integers(0, 30), min_size=40, max_size=40)), strict=False), 1
        ):
            piece = right[place].model_copy(update={"id": 3 * number})
            told = (*told, piece)
            if how % 4 == 0:
                told = (*told, others(piece, 3 * number + 1, how))
            if how % 7 == 0:
                told = (
                    *told,
                    Evidence(id=3 * number + 2, check_id=told[-1].check_id, at=NOW, answer=Undone(of=told[-1].id)),
                )
            now = walk(case, told)
        self.assertEqual(now, anew(case, told))
        # And what is kept for one situation says nothing of another.
        windy = case.model_copy(update={"weather": dry_weather(wind_ms=14)})
        self.assertEqual(walk(windy, told), anew(windy, told))

    def test_an_answer_that_others_look_at_changes_them(self) -> None:
        case = situation(weather=dry_weather())
        right = walked_evidence(case, NOW, answers={}, pace_s=0)
        before = walk(case, right)
        height = next(p for p in right if p.check_id == "field.max_height")
        higher = height.model_copy(update={"id": 900, "answer": height.answer.model_copy(update={"value": 118.0})})
        after = walk(case, (*right, higher))
        self.assertNotEqual(before.state("link.rth_altitude").findings, after.state("link.rth_altitude").findings)
        self.assertEqual(after, anew(case, (*right, higher)))


class Looking(unittest.TestCase):
    def test_what_nobody_looked_at_is_not_judged_again(self) -> None:
        case = situation(weather=dry_weather())
        right = walked_evidence(case, NOW, answers={}, pace_s=0)
        answers = {p.check_id: p for p in right}
        checks = {p.check.id: p.check for p in make_plan(case).checks}
        first = judged(case, checks["airframe.shell"], answers["airframe.shell"], answers)
        fewer = {k: v for k, v in answers.items() if k in ("airframe.shell", "sky.weather")}
        self.assertIs(judged(case, checks["airframe.shell"], answers["airframe.shell"], fewer), first)
        home = judged(case, checks["link.rth_altitude"], answers["link.rth_altitude"], answers)
        self.assertIsNot(
            judged(
                case,
                checks["link.rth_altitude"],
                answers["link.rth_altitude"],
                {"link.rth_altitude": answers["link.rth_altitude"]},
            ),
            home,
        )

    def test_answers_are_asked_for_by_name(self) -> None:
        answers = {p.check_id: p for p in walked_evidence(situation(), NOW, answers={}, pace_s=0)}
        watched = Watched(answers)
        self.assertIs(watched.get("sky.wind_meter"), answers.get("sky.wind_meter"))
        self.assertIsNone(watched.get("nothing.here"))
        self.assertNotIn("nothing.there", watched)
        self.assertEqual(set(watched.seen), {"sky.wind_meter", "nothing.here", "nothing.there"})
        for whole in (lambda: list(watched), lambda: len(watched), lambda: {**watched}):
            with self.assertRaises(TypeError):
                whole()
