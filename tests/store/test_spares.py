"""Spares: counted by the last pass through the bag, less what was fitted since; the new part at zero, its snags closed."""

from datetime import timedelta

from tests.store.test_rounds import RoundCase
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.bag import Packed
from walkround.core.answers.packed import BagPacked
from walkround.core.base.errors import ConflictError
from walkround.core.checklist.history import EventKind, SnagOn
from walkround.core.inspection.touched import TouchedPart, touched_part
from walkround.store import hangar, part_ages, parts, snags, spares


class Spares(RoundCase):
    @property
    def quad(self) -> Aircraft:
        return hangar.get(Aircraft, self.numbers["Sandpiper"])

    def part(self, part_id: str) -> TouchedPart:
        found = touched_part(self.quad, part_id)
        assert found is not None
        return found

    def count(self, **have: int) -> None:
        self.answer(
            "bag.first_pass", BagPacked(packed=Packed(have=tuple((k.replace("_", "-"), v) for k, v in have.items())))
        )

    def fit(self, part_id: str, *, from_bag: bool = True) -> str:
        with self.book.write():
            return spares.fit(self.quad, self.part(part_id), from_bag=from_bag, why="nick", at=self.now)

    def test_not_counted_is_not_known(self) -> None:
        fresh = hangar.get(Aircraft, self.numbers["Lapwing"])
        part = touched_part(fresh, "propeller-1/blade-1")
        assert part is not None
        found = spares.left(fresh, part)
        assert found is not None
        self.assertIsNone(found.left)
        self.assertIsNone(spares.left(self.quad, self.part("body")))

    def test_it_counts_down_and_stops_at_none(self) -> None:
        self.count(propellers_clockwise=1, propellers_counter_clockwise=2)
        spin = {part.id: part.spin for part in parts_with_spin(self.quad)}
        clockwise = next(i for i, s in spin.items() if str(s) == "clockwise")
        self.now += timedelta(minutes=1)
        self.assertEqual(self.fit(f"{clockwise}/blade-2"), clockwise)
        found = spares.left(self.quad, self.part(f"{clockwise}/blade-1"))
        assert found is not None
        self.assertEqual(found.left, 0)
        with self.assertRaises(ConflictError):
            self.fit(f"{clockwise}/blade-1")
        with self.assertRaises(ConflictError):
            self.fit("body")
        self.fit(f"{clockwise}/blade-1", from_bag=False)
        self.now += timedelta(minutes=1)
        self.round = self.begin()
        self.count(propellers_clockwise=3)
        again = spares.left(self.quad, self.part(f"{clockwise}/blade-1"))
        assert again is not None
        self.assertEqual(again.left, 3, "a new count is a new count")

    def test_the_new_part_is_at_zero_and_its_snags_are_closed(self) -> None:
        aircraft = self.numbers["Sandpiper"]
        for part_id in ("propeller-3/blade-1", "propeller-3", "propeller-2/blade-1"):
            snags.open_one(SnagOn.AIRCRAFT, aircraft, part_id, grounds=True, at=self.now, parts=(part_id,))
        before = part_ages.ages(self.quad, [self.part("propeller-3/blade-2")], self.now)["propeller-3/blade-2"]
        self.assertGreater(before.flights, 0)
        self.fit("propeller-3/blade-1", from_bag=False)
        self.assertEqual([snag.title for snag in snags.open_ones(aircraft)], ["propeller-2/blade-1"])
        after = part_ages.ages(self.quad, [self.part("propeller-3/blade-2")], self.now)["propeller-3/blade-2"]
        self.assertEqual((after.since, after.flights, after.minutes, after.uses), (self.now, 0, 0.0, 0))
        self.assertEqual(hangar.events(aircraft)[0].kind, EventKind.PART_REPLACED)

    def test_replaced_again_the_first_is_among_the_removed(self) -> None:
        aircraft = self.numbers["Sandpiper"]
        known = {part.id for part in parts.of_aircraft(aircraft, removed=True)}
        self.fit("arm-2/latch", from_bag=False)
        self.now += timedelta(days=1)
        self.fit("arm-2/latch", from_bag=False)
        gone = [part for part in parts.of_aircraft(aircraft, removed=True) if part.id not in known]
        self.assertEqual([(part.part_id, part.why_removed) for part in gone], [("arm-2/latch", "nick")])

    def test_what_belongs_to_what_was_replaced(self) -> None:
        self.assertEqual(
            spares.within(["arm-1", "arm-1/latch", "arm-10", "arm-10/latch"], "arm-1"), ["arm-1", "arm-1/latch"]
        )


def parts_with_spin(aircraft: Aircraft):  # type: ignore[no-untyped-def]
    from walkround.core.aircraft.part_list import part_list

    return [part for part in part_list(aircraft) if part.id.startswith("propeller-")]
