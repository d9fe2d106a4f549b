"""Never green before complete: no verdict, chip, head, print or JSON says clear while a check before take-off is open."""

import json
import re
import unittest

from hypothesis import given
from hypothesis import strategies as st

from tests import examples
from tests.support import NOW, QUAD, TRAINER, WebCase, plain, situation
from walkround.core.aircraft.presets import PRESETS
from walkround.core.answers.ways_out import Fault, Skipped
from walkround.core.base.finding import Level
from walkround.core.checklist.check import Phase
from walkround.core.round.evidence import Evidence
from walkround.core.round.plan import make_plan
from walkround.core.round.verdict import Word
from walkround.core.round.walk import walk
from walkround.demo.walker import good_answer, walked_evidence

CASES = [
    situation(a.model_copy(update={"id": 5}))
    for a in (QUAD, TRAINER, PRESETS["heli-coaxial"], PRESETS["glider"], PRESETS["low-wing"])
]
SKIP = Skipped(reason="no time")


class Core(unittest.TestCase):
    @given(st.sampled_from(CASES), st.data())
    @examples(40)
    def test_what_is_open_is_never_clear(self, case, data: st.DataObject) -> None:  # type: ignore[no-untyped-def]
        evidence = walked_evidence(case, NOW, pace_s=0)
        kept = data.draw(st.integers(0, len(evidence) - 1))
        order = data.draw(st.permutations(range(len(evidence))))
        some = tuple(evidence[i] for i in sorted(order[:kept]))
        verdict = walk(case, some).verdict
        self.assertFalse(verdict.complete)
        self.assertIn(verdict.word, (Word.OPEN, Word.GROUNDED))
        self.assertIn(verdict.tone, ("open", "grounded"))
        self.assertNotIn("within its limit", verdict.sentence)

    @given(st.sampled_from(CASES), st.data())
    @examples(60)
    def test_a_skipped_grounding_check_stays_down_unless_something_replaces_it(self, case, data: st.DataObject) -> None:  # type: ignore[no-untyped-def]
        before = [p.check for p in make_plan(case).checks if p.check.phase is Phase.BEFORE]
        check = data.draw(st.sampled_from(before))
        level = walk(case, walked_evidence(case, NOW, answers={check.id: SKIP}, pace_s=0)).verdict.level
        if check.grounds and not check.if_skipped:
            self.assertEqual(level, Level.GROUNDED, check.id)
        else:
            self.assertGreaterEqual(level, Level.CAUTION, check.id)

    @given(st.sampled_from(CASES), st.data())
    @examples(40)
    def test_what_is_seen_in_the_air_never_changes_the_verdict(self, case, data: st.DataObject) -> None:  # type: ignore[no-untyped-def]
        evidence = walked_evidence(case, NOW, pace_s=0)
        flight = [p.check for p in make_plan(case).checks if p.check.phase is not Phase.BEFORE]
        seen = []
        for check in data.draw(st.lists(st.sampled_from(flight), unique_by=lambda c: c.id, max_size=6)):
            answer = data.draw(st.sampled_from([Fault(note="x"), SKIP, good_answer(check, case, NOW)]))
            seen.append(Evidence(id=9_000 + len(seen), check_id=check.id, at=NOW, answer=answer))
        self.assertEqual(walk(case, (*evidence, *seen)).verdict, walk(case, evidence).verdict)

    def test_skipping_all_stays_down_for_every_preset(self) -> None:
        for aircraft in PRESETS.values():
            case = situation(aircraft.model_copy(update={"id": 5}))
            ids = [p.check.id for p in make_plan(case).checks]
            walked = walk(case, walked_evidence(case, NOW, answers=dict.fromkeys(ids, SKIP), pace_s=0))
            self.assertEqual((walked.verdict.complete, walked.verdict.word), (True, Word.GROUNDED), aircraft.name)


CLEAR = re.compile(r"Clear to fly|Fly with care|Clear so far|well inside")
GREEN = re.compile(r'class="(chip|verdict-head|hero) clear"')


class Pages(WebCase):
    def looks(self, number: int) -> None:
        for path in ("", "/verdict", "/card", "?station=sky", "?station=first-minute", "?check=pack.cells"):
            page = self.client.get(f"/rounds/{number}{path}")
            with self.subTest(path):
                self.assertEqual(page.status_code, 200)
                self.assertIsNone(CLEAR.search(plain(page.text)))
                self.assertIsNone(GREEN.search(page.text))
        self.assertEqual(self.client.get(f"/rounds/{number}/record.json").status_code, 404, "no verdict leaves as JSON")
        today = self.client.get("/")
        self.assertIsNone(CLEAR.search(plain(today.text)))

    def test_from_the_first_answer_to_the_last_but_one(self) -> None:
        number = self.start()
        self.looks(number)
        evidence = walked_evidence(situation_of(number, self), self.now, pace_s=0)
        from walkround.store.models import EvidenceRow

        for count, one in enumerate(evidence[:-1]):
            text = json.dumps(one.answer.model_dump(mode="json"))
            EvidenceRow.create(round=number, check_id=one.check_id, at=self.now, by="pilot", answer=text)
            if count in (0, 20, len(evidence) - 2):
                self.looks(number)

    def test_signed_it_says_what_was_signed(self) -> None:
        number = self.signed()
        page = self.client.get(f"/rounds/{number}/verdict")
        self.assertIsNotNone(CLEAR.search(plain(page.text)))
        record = json.loads(self.client.get(f"/rounds/{number}/record.json").text)
        self.assertEqual(record["verdict"]["open"], 0)


def situation_of(number: int, case: WebCase):  # type: ignore[no-untyped-def]
    from walkround.store import rounds

    return rounds.load(number, case.settings, case.now).walk.situation


if __name__ == "__main__":
    unittest.main()
