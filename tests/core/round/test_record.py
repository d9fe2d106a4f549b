"""Signing: the record, its hash, and what refuses a signature."""

import json
import unittest

from tests.support import NOW, QUAD, TRAINER, situation
from walkround.core.answers.ways_out import Skipped
from walkround.core.base.errors import InputError
from walkround.core.round.plan import make_plan
from walkround.core.round.record import content_hash, sign
from walkround.core.round.verdict import Word
from walkround.core.round.walk import walk
from walkround.demo.walker import walked_evidence


class Signing(unittest.TestCase):
    def test_whole_rounds(self) -> None:
        for aircraft in (QUAD, TRAINER):
            case = situation(aircraft)
            evidence = walked_evidence(case, NOW)
            record = sign(walk(case, evidence), 5, evidence, "  Tamsin   Rook ", NOW)
            self.assertEqual((record.signed_by, record.verdict.word), ("Tamsin Rook", Word.CLEAR))
            self.assertEqual(len(record.plan), record.verdict.done)
            self.assertEqual(record.sha256(), content_hash(record.canonical()))
            again = type(record).model_validate_json(record.canonical())
            self.assertEqual(again.canonical(), record.canonical())

    def test_the_hash_is_sha_256_of_sorted_json(self) -> None:
        """FIPS 180-4 example: SHA-256 of "abc"."""
        self.assertEqual(content_hash("abc"), "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad")
        case = situation()
        evidence = walked_evidence(case, NOW)
        text = sign(walk(case, evidence), 5, evidence, "T", NOW).canonical()
        self.assertEqual(json.dumps(json.loads(text), sort_keys=True, separators=(",", ":"), ensure_ascii=False), text)

    def test_one_changed_character_changes_the_hash(self) -> None:
        case = situation()
        evidence = walked_evidence(case, NOW)
        one, two = (sign(walk(case, evidence), 5, evidence, name, NOW).sha256() for name in ("Ann", "Anm"))
        self.assertNotEqual(one, two)

    def test_refusals(self) -> None:
        case = situation()
        evidence = walked_evidence(case, NOW)
        rows = (
            ("open", evidence[:-1], "Tamsin", "1 check is still open"),
            ("two open", evidence[:-2], "Tamsin", "2 checks are still open"),
            ("no name", evidence, "  ", "Sign with your name"),
            ("long name", evidence, "x" * 61, "60 characters"),
        )
        for name, given_pieces, signer, words in rows:
            with self.subTest(name), self.assertRaises(InputError) as caught:
                sign(walk(case, given_pieces), 5, tuple(given_pieces), signer, NOW)
            self.assertIn(words, caught.exception.message)

    def test_skips_can_be_signed_and_stay(self) -> None:
        case = situation()
        evidence = walked_evidence(case, NOW, answers={"airframe.shell": Skipped(reason="no light")})
        record = sign(walk(case, evidence), 5, evidence, "T", NOW)
        self.assertEqual(record.verdict.word, Word.GROUNDED)
        self.assertIn("no light", record.canonical())

    def test_what_replaces_a_skipped_check_makes_it_care(self) -> None:
        case = situation()
        evidence = walked_evidence(case, NOW, answers={"sky.wind_meter": Skipped(reason="meter at home")})
        record = sign(walk(case, evidence), 5, evidence, "T", NOW)
        self.assertEqual(record.verdict.word, Word.CAUTION)
        self.assertIn("the wind of the report counts", record.canonical())

    def test_skipping_everything_stays_down(self) -> None:
        for aircraft in (QUAD, TRAINER):
            case = situation(aircraft)
            every = {p.check.id: Skipped(reason="no time") for p in make_plan(case).checks}
            evidence = walked_evidence(case, NOW, answers=every)
            self.assertEqual(walk(case, evidence).verdict.word, Word.GROUNDED)
