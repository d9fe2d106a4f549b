"""Rounds in the book: answers, conflicts, undo with what follows from it, signing."""

from datetime import timedelta
from unittest import mock

from msgspec.structs import replace
from peewee import IntegrityError

from tests.support import BookCase, broken_records
from walkround.core.answers.choice import Chosen
from walkround.core.answers.kind import Answer
from walkround.core.answers.number import Measured
from walkround.core.answers.tick import Passed
from walkround.core.answers.timer import Counted
from walkround.core.answers.ways_out import Fault, Skipped
from walkround.core.base.errors import BlockedError, InputError, MissingError, SignedError
from walkround.core.base.finding import Level
from walkround.core.checklist.check import Phase
from walkround.core.checklist.history import EventKind
from walkround.core.pilot.limits import Limits
from walkround.core.round.plan import make_plan
from walkround.core.round.record import content_hash
from walkround.store import hangar, records, round_list, rounds, snags, withdrawals
from walkround.store.models import DoneRow, EvidenceRow, RecordRow, RoundRow, SnagRow
from walkround.store.rounds import OpenRound
from walkround.store.situation import gather


class RoundCase(BookCase):
    def setUp(self) -> None:
        super().setUp()
        self.round = self.begin()

    def begin(self, aircraft: str = "Sandpiper", pack: str = "S1", site: str = "Teasel Common") -> int:
        n = self.numbers
        with self.book.write():
            situation = gather(n[aircraft], n[pack], n[site], now=self.now, settings=self.settings)
            return rounds.start(situation, self.now)

    def answer(self, check_id: str, given: Answer, seen: int = 0, round_id: int = 0) -> OpenRound:
        with self.book.write():
            return rounds.answer(
                round_id or self.round, check_id, given, at=self.now, settings=self.settings, seen=seen
            )

    def newest(self) -> int:
        last = rounds.load(self.round, self.settings, self.now).walk.last
        return last.id if last else 0

    def undo(self) -> tuple[OpenRound, str]:
        with self.book.write():
            return withdrawals.undo(self.round, at=self.now, settings=self.settings, seen=self.newest())

    def last_id(self) -> int:
        return EvidenceRow.select().order_by(EvidenceRow.id.desc()).first().id

    def snags(self) -> list[str]:
        return [s.title for s in snags.open_ones(self.numbers["Sandpiper"], self.numbers["S1"])]

    def walk(self) -> None:
        self.walk_all(self.round)

    def sign(self, name: str = "Tamsin Rook"):  # type: ignore[no-untyped-def]
        with self.book.write():
            return rounds.sign(self.round, name, at=self.now, settings=self.settings)


class Answers(RoundCase):
    def test_kept_and_judged(self) -> None:
        loaded = self.answer("airframe.shell", Passed())
        self.assertEqual(loaded.walk.state("airframe.shell").level, Level.CLEAR)
        again = rounds.load(self.round, self.settings, self.now)
        self.assertEqual(again.walk, loaded.walk)

    def test_a_correction_is_a_new_row(self) -> None:
        self.answer("airframe.shell", Fault(note="crack"))
        loaded = self.answer("airframe.shell", Passed(), seen=self.last_id())
        self.assertEqual(loaded.walk.state("airframe.shell").level, Level.CLEAR)
        self.assertEqual(EvidenceRow.select().where(EvidenceRow.round == self.round).count(), 2)

    def test_another_device_sees_that_it_has_gone_on(self) -> None:
        before = rounds.stamp(self.round)
        loaded = self.answer("airframe.shell", Passed())
        self.assertNotEqual(rounds.stamp(self.round), before)
        self.assertEqual(rounds.stamp(self.round), rounds.stamp_of(loaded.state, loaded.evidence))
        with self.assertRaises(MissingError):
            rounds.stamp(99_999)

    def test_the_same_answer_twice_is_kept_once(self) -> None:
        self.answer("airframe.shell", Passed())
        self.answer("airframe.shell", Passed(), seen=0)
        self.assertEqual(EvidenceRow.select().where(EvidenceRow.round == self.round).count(), 1)

    def test_refused_answers_leave_nothing(self) -> None:
        for check_id, given, error in (
            ("power.aircraft_on", Passed(), BlockedError),
            ("no.such", Passed(), MissingError),
            ("field.people", Chosen(option="x"), InputError),
            ("first.hover", Passed(), InputError),
        ):
            with self.subTest(check_id), self.assertRaises(error):
                self.answer(check_id, given)
        self.assertEqual(EvidenceRow.select().where(EvidenceRow.round == self.round).count(), 0)

    def test_limits_of_today_are_those_of_an_open_round(self) -> None:
        self.answer("sky.wind_meter", Measured(value=5))
        strict = self.settings.model_copy(update={"limits": Limits(wind_ms=4)})
        self.assertEqual(rounds.load(self.round, self.settings, self.now).walk.verdict.level, Level.CLEAR)
        self.assertEqual(rounds.load(self.round, strict, self.now).walk.verdict.level, Level.GROUNDED)

    def test_no_such_round(self) -> None:
        with self.assertRaises(MissingError):
            rounds.load(999, self.settings, self.now)


class Undo(RoundCase):
    def test_last_in_first_out(self) -> None:
        self.answer("airframe.shell", Passed())
        self.answer("airframe.arms", Passed())
        self.assertEqual(self.undo()[1], "airframe.arms")
        loaded, check_id = self.undo()
        self.assertEqual((check_id, loaded.walk.verdict.done), ("airframe.shell", 0))
        with self.assertRaises(InputError):
            self.undo()
        self.assertEqual(EvidenceRow.select().where(EvidenceRow.round == self.round).count(), 4)

    def test_a_calibration_is_an_event_while_its_answer_stands(self) -> None:
        aircraft = self.numbers["Sandpiper"]
        with self.book.write():
            hangar.add_event(aircraft, EventKind.CRASH, self.now - timedelta(hours=2))
        self.round = self.begin()
        for check_id in (
            "airframe.covers_off",
            "power.transmitter_on",
            "power.mode",
            "power.idle",
            "power.aircraft_on",
        ):
            self.answer(check_id, Passed())
        self.answer("power.still_long", Counted(seconds=20))

        def newest():  # type: ignore[no-untyped-def]
            return next(e for e in hangar.events(aircraft) if e.kind is EventKind.COMPASS_CALIBRATED)

        before = newest().at
        self.answer("sensors.compass", Passed())
        self.assertEqual((newest().at, newest().site), (self.now, "Teasel Common"))
        self.answer("sensors.compass", Fault(note="no"), seen=self.last_id())
        self.assertEqual(newest().at, before)
        self.undo()
        self.assertEqual(newest().at, self.now)
        self.undo()
        self.assertEqual(newest().at, before)


class Signing(RoundCase):
    def test_frozen_whole(self) -> None:
        self.walk()
        record = self.sign()
        row = RecordRow.get(RecordRow.round == self.round)
        self.assertEqual(content_hash(row.text), row.sha256)
        self.assertEqual(records.record_of(self.round), record)
        self.assertEqual(broken_records(), [])

    def test_signed_twice_is_signed_once(self) -> None:
        self.walk()
        self.assertEqual(self.sign(), self.sign("Somebody Else"))
        self.assertEqual(RecordRow.select().where(RecordRow.round == self.round).count(), 1)

    def test_nothing_before_take_off_changes_afterwards(self) -> None:
        self.walk()
        self.sign()
        seen = rounds.load(self.round, self.settings, self.now).walk.state("airframe.shell").evidence.id
        with self.assertRaises(SignedError) as caught:
            self.answer("airframe.shell", Fault(), seen=seen)
        self.assertIn("locked", caught.exception.message)
        with self.assertRaises(SignedError):
            self.undo()

    def test_a_clock_set_back_changes_nothing_that_was_signed(self) -> None:
        """A fault, the clock back a quarter of an hour, the signature, undo: nothing before the signature is taken back."""
        self.walk_all(self.round, **{"airframe.shell": Fault(note="cracked")})
        before = EvidenceRow.select().count()
        self.answer(
            "airframe.shell",
            Fault(note="cracked again"),
            seen=rounds.load(self.round, self.settings, self.now).walk.state("airframe.shell").evidence.id,
        )
        self.now -= timedelta(minutes=15)
        record = self.sign()
        title = next(t for t in self.snags() if "cracked again" in t)
        with self.assertRaises(SignedError):
            self.undo()
        self.assertIn(title, self.snags())
        loaded = rounds.load(self.round, self.settings, self.now)
        self.assertEqual(loaded.walk.verdict, record.verdict)
        self.assertEqual(loaded.walk.state("airframe.shell").level, Level.GROUNDED)
        # what comes after is an addendum whatever its clock says, and can be taken back
        flight = next(
            s
            for s in loaded.walk.states
            if s.planned.check.phase is not Phase.BEFORE and s.planned.check.ask.kind == "tick"
        )
        self.answer(flight.planned.check.id, Fault(note="hot"))
        self.assertEqual(self.undo()[1], flight.planned.check.id)
        with self.assertRaises(SignedError):
            self.undo()
        self.assertEqual(EvidenceRow.select().count(), before + 3)
        self.assertEqual(rounds.load(self.round, self.settings, self.now).walk.verdict, record.verdict)

    def test_the_book_itself_keeps_a_snag_that_signed_evidence_opened(self) -> None:
        self.walk_all(self.round)
        shell = rounds.load(self.round, self.settings, self.now).walk.state("airframe.shell").evidence.id
        self.answer("airframe.shell", Fault(note="cracked"), seen=shell)
        row = SnagRow.get(SnagRow.opened_by.is_null(False))
        self.sign()
        with self.assertRaisesRegex(IntegrityError, "stays"), self.book.write():
            SnagRow.delete().where(SnagRow.id == row.id).execute()
        flight = next(
            s
            for s in rounds.load(self.round, self.settings, self.now).walk.states
            if s.planned.check.phase is not Phase.BEFORE and s.planned.check.snag_on
        )
        self.answer(flight.planned.check.id, Fault(note="hot"))
        self.undo()
        self.assertEqual([s.id for s in SnagRow.select().where(SnagRow.opened_by.is_null(False))], [row.id])

    def test_a_signed_round_is_shown_as_it_was_asked_and_found(self) -> None:
        """Other words in the library, another limit, another rule: the page of a signed round says what the record says."""
        self.walk()
        record = self.sign()

        def other(situation):  # type: ignore[no-untyped-def]
            plan = make_plan(situation)
            words = {"title": "Something else", "how": "Otherwise", "why": "So", "grounds": False}
            return replace(plan, checks=tuple(
                replace(p, check=replace(p.check, **words)) for p in plan.checks if p.check.id != "airframe.screws"
            ))  # fmt: skip

        with mock.patch("walkround.core.round.record.make_plan", other):
            shown = rounds.load(
                self.round, self.settings.model_copy(update={"limits": Limits(wind_ms=1)}), self.now
            ).walk
        states = {s.planned.check.id: s for s in shown.before()}
        self.assertEqual([c.id for c in record.plan], [s.planned.check.id for s in shown.before()])
        for asked in record.plan:
            check = states[asked.id].planned.check
            self.assertEqual(
                (check.title, check.how, check.why, check.grounds), (asked.title, asked.how, asked.why, asked.grounds)
            )
        self.assertEqual(tuple(f for s in shown.before() for f in s.findings), record.findings)
        self.assertEqual(shown.verdict, record.verdict)

    def test_the_first_minute_follows_as_an_addendum(self) -> None:
        self.walk()
        self.sign()
        self.now += timedelta(minutes=1)
        self.answer("first.hover", Passed())
        self.assertEqual(rounds.load(self.round, self.settings, self.now).evidence[-1].check_id, "first.hover")
        self.assertNotIn("first.hover", [p.check_id for p in records.record_of(self.round).evidence])
        self.assertEqual(self.undo()[1], "first.hover")
        with self.assertRaises(SignedError):
            self.undo()

    def test_open_checks_refuse_the_signature(self) -> None:
        with self.assertRaises(InputError):
            self.sign()
        self.assertEqual(RoundRow.get_by_id(self.round).state, "open")
        for reader in (records.record_of, records.record_text):
            with self.assertRaises(MissingError):
                reader(self.round)

    def test_what_was_done_is_remembered_with_its_number(self) -> None:
        self.answer("airframe.antennas", Skipped(reason="dark"))
        self.answer("bench.transmitter", Measured(value=77))
        self.walk()
        self.sign()
        aircraft = self.numbers["Sandpiper"]
        done = {d.check_id: d for d in DoneRow.select().where(DoneRow.aircraft == aircraft)}
        self.assertEqual(done["airframe.shell"].at, self.now)
        self.assertLess(done["airframe.antennas"].at, self.now, "a skip is not done")
        self.assertIn("77", done["bench.transmitter"].value)

    def test_a_record_changed_from_outside_is_found_out(self) -> None:
        self.walk()
        self.sign()
        db = self.book.database
        db.execute_sql("DROP TRIGGER record_is_frozen")
        db.execute_sql("UPDATE record SET text = replace(text, 'Tamsin', 'Thomas') WHERE round_id = ?", (self.round,))
        self.assertEqual(broken_records(), [self.round])
        with self.assertRaises(InputError):
            records.record_of(self.round)

    def test_a_newer_round_leaves_the_open_one(self) -> None:
        self.answer("airframe.arms", Passed())
        first, self.round = self.round, self.begin()
        with self.assertRaises(SignedError) as caught:
            self.answer("airframe.shell", Passed(), round_id=first)
        self.assertIn("abandoned", caught.exception.message)
        other = self.begin("Haymaker", "H1")
        self.assertEqual(
            rounds.load(self.round, self.settings, self.now).state, "open", "another aircraft's round goes on"
        )
        self.assertEqual(round_list.open_round().id, other)


class Pages(RoundCase):
    def test_recent_rounds_name_their_things(self) -> None:
        newest = round_list.recent(5)[0]
        self.assertEqual(
            (newest.aircraft.name, newest.pack.label, newest.site.name), ("Sandpiper", "S1", "Teasel Common")
        )

    def test_phases(self) -> None:
        loaded = rounds.load(self.round, self.settings, self.now)
        for state in loaded.walk.states:
            self.assertEqual(loaded.takes(state), state.planned.check.phase is Phase.BEFORE)
