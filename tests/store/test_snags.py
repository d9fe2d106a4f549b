"""Snags that a round opens and closes, and those that change meanwhile."""

from datetime import datetime, timedelta

from tests.store.test_rounds import RoundCase
from walkround.core.aircraft.parts import Part, PartKind
from walkround.core.answers.choice import Chosen
from walkround.core.answers.tick import Passed
from walkround.core.answers.ways_out import Fault
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Level
from walkround.core.checklist.history import DECIDES, SnagOn
from walkround.store import parts, rounds, snags
from walkround.store.models import FlightRow, SnagRow


class Snags(RoundCase):
    def test_a_fault_becomes_a_snag_and_is_there_next_time(self) -> None:
        self.answer("airframe.propellers", Fault(note="chip, front left"))
        self.assertEqual(self.snags(), ["chip, front left"])
        later = rounds.load(self.begin(), self.settings, self.now)
        snag = next(s for s in later.walk.states if s.planned.snag)
        self.assertEqual(snag.planned.check.title, "Open snag: chip, front left")
        closed = self.answer(snag.planned.check.id, Chosen(option="fixed", note="new blade"), round_id=later.id)
        self.assertEqual(closed.walk.state(snag.planned.check.id).level, Level.CLEAR)
        self.assertEqual(self.snags(), [])
        self.assertEqual(SnagRow.get(SnagRow.title == "chip, front left").closed_how, "new blade")

    def test_closing_needs_words(self) -> None:
        self.answer("airframe.propellers", Fault(note="chip"))
        later = rounds.load(self.begin(), self.settings, self.now)
        snag = next(s for s in later.walk.states if s.planned.snag)
        with self.assertRaises(InputError):
            self.answer(snag.planned.check.id, Chosen(option="fixed"), round_id=later.id)
        self.assertEqual(self.snags(), ["chip"])

    def test_a_fault_on_the_pack_is_a_snag_of_the_pack(self) -> None:
        self.answer("pack.body", Fault())
        self.assertIn(self.numbers["S1"], snags.grounded_packs())

    def test_what_only_spoils_does_not_ground(self) -> None:
        trainer = self.begin("Haymaker", "H1")
        self.answer("airframe.collars", Fault(note="tyre worn"), round_id=trainer)
        self.assertFalse(SnagRow.get(SnagRow.title == "tyre worn").grounds)

    def test_weather_makes_no_snag(self) -> None:
        self.answer("sky.look", Chosen(option="thunder"))
        self.assertEqual(self.snags(), [])

    def test_put_right_in_the_same_round(self) -> None:
        self.answer("airframe.propellers", Fault(note="chip"))
        self.answer("airframe.propellers", Passed(), seen=self.last_id())
        self.assertEqual(self.snags(), [])

    def test_undo_takes_the_snag_with_it_and_brings_it_back(self) -> None:
        self.answer("airframe.propellers", Fault(note="chip"))
        self.answer("airframe.propellers", Passed(), seen=self.last_id())
        self.undo()
        self.assertEqual(self.snags(), ["chip"])
        self.undo()
        self.assertEqual(self.snags(), [])

    def test_undo_of_a_closing_reopens(self) -> None:
        self.answer("airframe.propellers", Fault(note="chip"))
        self.round = self.begin()
        snag = next(s for s in rounds.load(self.round, self.settings, self.now).walk.states if s.planned.snag)
        self.answer(snag.planned.check.id, Chosen(option="fixed", note="new blade"))
        self.undo()
        self.assertEqual(self.snags(), ["chip"])


class Fixes(RoundCase):
    def fixed(self, title: str, at: datetime, *parts: str, check_id: str = "") -> None:
        quad = self.numbers["Sandpiper"]
        number = snags.open_one(SnagOn.AIRCRAFT, quad, title, grounds=True, at=at, parts=parts, check_id=check_id)
        snags.close(number, "tightened", at)

    def test_they_count_by_part_since_the_fifth_newest_flight(self) -> None:
        quad, minute = self.numbers["Sandpiper"], timedelta(minutes=1)
        flights = FlightRow.select().where(FlightRow.aircraft == quad).order_by(FlightRow.took_off_at.desc())
        flown = [row.took_off_at for row in flights]
        self.assertGreaterEqual(len(flown), 5)
        self.fixed("long ago", flown[4] - minute, "arm-1")
        self.fixed("both", flown[4] + minute, "arm-1", "arm-2")
        self.fixed("once more", flown[0], "arm-2")
        self.fixed("tested", flown[0], "arm-2", check_id=DECIDES + "sensors.compass")
        snags.open_one(SnagOn.AIRCRAFT, quad, "open", grounds=True, at=flown[0], parts=("arm-1",))
        self.assertEqual(snags.fixed_lately(quad, "arm-1", 5), ["both"])
        self.assertEqual(snags.fixed_lately(quad, "arm-2", 5), ["both", "once more"])
        self.assertEqual(snags.fixed_lately(quad, "arm-1", len(flown) + 1), ["long ago", "both"], "fewer flights: ever")

    def test_what_was_closed_on_one_part(self) -> None:
        """By the whole id, whatever stands beside it; newest first; another aircraft and what is open are not among it."""
        quad, begun = self.numbers["Sandpiper"], self.now - timedelta(days=9)
        for days, title, on in (
            (1, "chip", ("motor-1", "arm-1")),
            (3, "play", ("motor-1",)),
            (2, "grit", ("motor-10", "motor-1/bell")),
        ):
            number = snags.open_one(SnagOn.AIRCRAFT, quad, title, grounds=False, at=begun, parts=on)
            snags.close(number, f"{title} gone", begun + timedelta(days=days))
        snags.open_one(SnagOn.AIRCRAFT, quad, "still", grounds=False, at=begun, parts=("motor-1",))
        found = snags.closed_on(quad, "motor-1")
        self.assertEqual([(s.title, s.closed_how) for s in found], [("play", "play gone"), ("chip", "chip gone")])
        self.assertEqual(found[0].closed_at, begun + timedelta(days=3))
        self.assertEqual(snags.closed_on(quad + 1, "motor-1"), [])
        self.assertEqual(len(snags.closed_on(quad, "motor-1", most=1)), 1)

    def test_a_new_part_starts_at_zero(self) -> None:
        quad, now = self.numbers["Sandpiper"], self.now
        self.fixed("wobbled", now, "arm-1")
        self.assertEqual(snags.fixed_lately(quad, "arm-1", 5), ["wobbled"])
        parts.fit(quad, Part(kind=PartKind.OTHER, part_id="arm-1", fitted_at=now + timedelta(minutes=1)))
        self.assertEqual(snags.fixed_lately(quad, "arm-1", 5), [])


class SnagsMeanwhile(RoundCase):
    """A snag opened or closed elsewhere while a round is in progress counts in it at once."""

    def ids(self) -> set[str]:
        return rounds.load(self.round, self.settings, self.now).walk.plan.ids()

    def test_opened_and_closed_elsewhere(self) -> None:
        number = snags.open_one(SnagOn.AIRCRAFT, self.numbers["Sandpiper"], "arm cracked", grounds=True, at=self.now)
        self.assertIn(f"snag.{number}", self.ids())
        snags.close(number, "glued", self.now)
        self.assertNotIn(f"snag.{number}", self.ids())

    def test_what_this_round_opens_is_not_asked_in_it_and_what_it_closes_stays(self) -> None:
        number = snags.open_one(SnagOn.AIRCRAFT, self.numbers["Sandpiper"], "arm cracked", grounds=True, at=self.now)
        before = self.ids()
        self.answer("airframe.shell", Fault(note="dent"))
        self.answer(f"snag.{number}", Chosen(option="fixed", note="glued"))
        self.assertEqual(self.ids(), before)
