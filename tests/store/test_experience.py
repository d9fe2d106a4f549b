"""What the logbook and the last rounds say of an aircraft."""

import json
from datetime import timedelta

from tests.support import BookCase
from walkround.store.experience import LAST_ROUNDS, flights_with, found_lately
from walkround.store.models import EvidenceRow, FlightRow, RoundRow


class Experience(BookCase):
    def setUp(self) -> None:
        super().setUp()
        self.quad = self.numbers["Sandpiper"]

    def signed(self, days: float, **answers: str) -> dict[str, int]:
        """A signed round so many days ago with answers of these kinds; the number of each."""
        base = RoundRow.select().first()
        at = self.now - timedelta(days=days)
        made = RoundRow.create(aircraft=self.quad, pack=base.pack_id, site=base.site_id, started_at=at, state="signed", signed_at=at, situation=base.situation)  # fmt: skip
        return {
            check: EvidenceRow.create(round=made, check_id=check.replace("__", "."), at=at, by="pilot", answer=json.dumps(answer)).id
            for check, answer in answers.items()
        }  # fmt: skip

    def test_flights_that_ended_with_this_aircraft(self) -> None:
        flown = FlightRow.select().where((FlightRow.aircraft == self.quad) & FlightRow.landed_at.is_null(False)).count()
        self.assertEqual(flights_with(self.quad), flown)
        self.assertGreater(flown, 2)
        self.assertEqual(flights_with(10**6), 0)

    def test_faults_of_the_last_rounds_that_were_not_undone(self) -> None:
        fault, fine = {"kind": "fault", "note": "x"}, {"kind": "passed"}
        self.assertEqual(found_lately(self.quad), ())
        self.signed(9, airframe__shell=fault)
        self.assertEqual(found_lately(self.quad), ("airframe.shell",))
        mistaken = self.signed(8, airframe__motors=fault, airframe__arms=fine)
        self.assertEqual(found_lately(self.quad), ("airframe.motors", "airframe.shell"))
        EvidenceRow.create(
            round=EvidenceRow.get_by_id(mistaken["airframe__motors"]).round_id, check_id="airframe.motors", at=self.now,
            by="pilot", answer=json.dumps({"kind": "undone", "of": mistaken["airframe__motors"]}),
        )  # fmt: skip
        self.assertEqual(found_lately(self.quad), ("airframe.shell",))
        RoundRow.update(state="left", signed_at=None).where(
            RoundRow.id.in_(EvidenceRow.select(EvidenceRow.round).where(EvidenceRow.check_id == "airframe.shell"))
            & (RoundRow.aircraft == self.quad)
            & (RoundRow.started_at == self.now - timedelta(days=9))
        ).execute()
        self.assertEqual(found_lately(self.quad), ("airframe.shell",), "an abandoned round found it all the same")
        for days in range(LAST_ROUNDS):
            self.signed(days, airframe__arms=fine)
        self.assertEqual(found_lately(self.quad), ())
        self.assertEqual(found_lately(self.numbers["Haymaker"]), ())
