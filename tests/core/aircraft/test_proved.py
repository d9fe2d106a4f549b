"""What is kept of a proving programme."""

import unittest

from pydantic import ValidationError

from tests.support import NOW
from walkround.core.aircraft.proved import StageResult, Trims


class Kept(unittest.TestCase):
    def test_again_from_its_text(self) -> None:
        result = StageResult(
            stage="far", outcome="fine", at=NOW, seen=(("SPIN", "AS_DRAWN"),), trims=Trims(roll=-3), note="calm"
        )
        self.assertEqual((result.seen_at("SPIN"), result.seen_at("TILT_NOSE")), ("AS_DRAWN", ""))
        self.assertEqual(StageResult.model_validate_json(result.model_dump_json()), result)

    def test_impossible_clicks_are_refused(self) -> None:
        with self.assertRaises(ValidationError):
            Trims(pitch=101)
