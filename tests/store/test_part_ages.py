"""Ages of parts: counted from the logbook since they were fitted; a part at the end of its life becomes a snag, once."""

from datetime import datetime, timedelta

from tests.support import BookCase
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.flaws import Life
from walkround.core.aircraft.parts import Part, PartKind
from walkround.core.checklist.history import EventKind, SnagOn
from walkround.core.inspection.touched import touched_part
from walkround.core.inspection.wear import PartAge
from walkround.store import hangar, part_ages, parts, snags
from walkround.store.models import FlightRow


class Ages(BookCase):
    @property
    def quad(self) -> Aircraft:
        return hangar.get(Aircraft, self.numbers["Sandpiper"])

    def age(self, part_id: str) -> PartAge:
        part = touched_part(self.quad, part_id)
        assert part is not None
        return part_ages.ages(self.quad, [part], self.now)[part_id]

    def fly(self, at: datetime, minutes: float = 6) -> None:
        FlightRow.create(
            aircraft=self.quad.id,
            pack=self.numbers["S1"],
            site=self.numbers["Teasel Common"],
            took_off_at=at,
            minutes=minutes,
            logged_at=at,
        )

    def fit(self, part_id: str, at: datetime) -> None:
        parts.fit(self.quad.id, Part(kind=PartKind.OTHER, part_id=part_id, fitted_at=at))

    def test_since_it_was_fitted(self) -> None:
        at = self.now - timedelta(hours=5)
        self.fit("arm-3/latch", at)
        for hours in (6, 4, 3):
            self.fly(self.now - timedelta(hours=hours))
        hangar.add_event(self.quad.id, EventKind.HARD_LANDING, self.now - timedelta(hours=2))
        hangar.add_event(self.quad.id, EventKind.HARD_LANDING, self.now - timedelta(hours=9))
        found = self.age("arm-3/latch")
        self.assertEqual((found.since, found.flights, found.hard_landings), (at, 2, 1))
        self.assertAlmostEqual(found.minutes, 12)

    def test_never_replaced_it_has_what_the_aircraft_has(self) -> None:
        logged = (
            FlightRow.select().where((FlightRow.aircraft == self.quad.id) & FlightRow.minutes.is_null(False)).count()
        )
        found = self.age("arm-4")
        self.assertIsNone(found.since)
        self.assertEqual(found.flights, logged + self.quad.flown_before)

    def test_fixes_are_those_of_this_part(self) -> None:
        before = self.age("arm-4").fixes
        for part_id in ("arm-4", "arm-4", "arm-2"):
            number = snags.open_one(SnagOn.AIRCRAFT, self.quad.id, "loose", grounds=True, at=self.now, parts=(part_id,))
            snags.close(number, "tightened", self.now)
        self.assertEqual(self.age("arm-4").fixes, before + 2)

    def test_a_detail_is_as_new_as_its_part(self) -> None:
        parts.fit(self.quad.id, Part(kind=PartKind.PROPELLER, part_id="propeller-4", fitted_at=self.now))
        self.assertEqual(self.age("propeller-4/blade-1").since, self.now)

    def worn_snags(self) -> list[str]:
        return [snag.title for snag in snags.open_ones(self.quad.id) if snag.check_id.startswith(part_ages.LIFE)]

    def test_worn_out_it_is_a_snag_once(self) -> None:
        hangar.save(self.quad.model_copy(update={"lives": (Life(rule="propeller-flights", limit=2),)}), self.now)
        part_ages.note_wear(self.quad, self.now)
        fresh = self.worn_snags()
        self.fit("propeller-2", self.now - timedelta(hours=5))
        self.fly(self.now - timedelta(hours=4))
        part_ages.note_wear(self.quad, self.now)
        self.assertEqual(self.worn_snags(), fresh, "one of two flights")
        self.fly(self.now - timedelta(hours=3))
        for _ in range(2):
            part_ages.note_wear(self.quad, self.now)
        found = sorted(set(self.worn_snags()) - set(fresh))
        self.assertEqual(found, ["Worn out. Rear right propeller: 2 of 2 flights"])
        self.assertEqual(len(self.worn_snags()), len(fresh) + 1)
        worn = next(snag for snag in snags.open_ones(self.quad.id) if snag.title == found[0])
        self.assertTrue(worn.grounds)

    def test_an_unknown_age_opens_none(self) -> None:
        hangar.save(self.quad.model_copy(update={"flown_before": 9_000}), self.now)
        before = self.worn_snags()
        part_ages.note_wear(self.quad, self.now)
        self.assertEqual(self.worn_snags(), before)
        self.assertTrue(any(not one.known for one in part_ages.worn(self.quad, self.now)))
