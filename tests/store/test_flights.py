"""Flights: timer, landing, logbook line, and what follows from a crash."""

from datetime import timedelta

from tests.store.test_rounds import RoundCase
from walkround.core.answers.choice import Chosen
from walkround.core.base.errors import InputError, MissingError, PilotError, SignedError
from walkround.core.checklist.history import EventKind, SnagOn
from walkround.store import flights, hangar, logbook, snags
from walkround.store.models import FlightRow

LINE = {"left_percent": 52.0, "left_v": None, "happened": "nothing", "note": "", "minutes": 9.0}


class FlightCase(RoundCase):
    def setUp(self) -> None:
        super().setUp()
        self.walk()

    def fly(self, minutes: float = 9) -> None:
        self.sign()
        flights.take_off(self.round, self.now)
        self.now += timedelta(minutes=minutes)
        flights.land(self.round, self.now)

    def log(self, **changes: object) -> FlightRow:
        with self.book.write():
            return flights.log(self.round, at=self.now, **{**LINE, **changes})


class Timer(FlightCase):
    def test_take_off_land_log(self) -> None:
        count, minutes = logbook.totals()
        self.fly()
        self.log()
        line = logbook.lines(limit=1)[0]
        self.assertEqual((line.aircraft.name, line.pack.label, line.left_percent), ("Sandpiper", "S1", 52))
        self.assertEqual(logbook.totals()[0], count + 1)
        self.assertAlmostEqual(logbook.totals()[1], minutes + 9, delta=0.01)

    def test_second_taps_change_nothing(self) -> None:
        self.sign()
        first = flights.take_off(self.round, self.now)
        self.now += timedelta(minutes=2)
        self.assertEqual(flights.take_off(self.round, self.now).took_off_at, first.took_off_at)
        landed = flights.land(self.round, self.now).landed_at
        self.now += timedelta(minutes=2)
        self.assertEqual(flights.land(self.round, self.now).landed_at, landed)

    def test_a_tap_on_landed_is_taken_back(self) -> None:
        with self.assertRaises(MissingError):
            flights.fly_on(self.round)
        self.fly(minutes=3)
        for _ in range(2):
            self.assertIsNone(flights.fly_on(self.round).landed_at)
        self.now += timedelta(minutes=4)
        self.assertAlmostEqual(flights.land(self.round, self.now).minutes, 7)
        self.log()
        with self.assertRaises(SignedError):
            flights.fly_on(self.round)

    def test_refusals(self) -> None:
        with self.assertRaises(SignedError):
            flights.take_off(self.round, self.now)
        with self.assertRaises(MissingError):
            flights.take_off(999, self.now)
        with self.assertRaises(MissingError):
            flights.land(self.round, self.now)
        with self.assertRaises(MissingError):
            self.log()

    def test_a_grounding_snag_opened_after_signing_keeps_it_down(self) -> None:
        self.sign()
        number = snags.open_one(SnagOn.PACK, self.numbers["S1"], "bulges", grounds=True, at=self.now)
        with self.assertRaisesRegex(SignedError, "An open snag grounds it: bulges"):
            flights.take_off(self.round, self.now)
        snags.close(number, "it was the label", self.now)
        snags.open_one(SnagOn.AIRCRAFT, self.numbers["Sandpiper"], "scratch", grounds=False, at=self.now)
        self.assertIsNotNone(flights.take_off(self.round, self.now))

    def test_stay_down_means_no_flight(self) -> None:
        seen = self.last_id()
        state = self.answer("sky.look", Chosen(option="thunder"), seen=self.seen("sky.look"))
        self.assertGreater(self.last_id(), seen)
        self.assertEqual(state.walk.verdict.level, 2)
        self.sign()
        with self.assertRaises(SignedError) as caught:
            flights.take_off(self.round, self.now)
        self.assertIn("Stay down", caught.exception.message)

    def seen(self, check_id: str) -> int:
        from walkround.store import rounds

        return rounds.load(self.round, self.settings, self.now).walk.state(check_id).evidence.id


class Line(FlightCase):
    def test_mistakes(self) -> None:
        self.fly()
        rows = (
            ("nothing left", {"left_percent": None}, "left_percent"),
            ("120 %", {"left_percent": 120.0}, "left_percent"),
            ("no volts", {"left_percent": None, "left_v": 0.0}, "left_v"),
            ("no such thing", {"happened": "aliens"}, "happened"),
            ("a crash without words", {"happened": "crash"}, "note"),
            ("no time", {"minutes": 0.0}, "minutes"),
        )
        for name, changes, field in rows:
            with self.subTest(name), self.assertRaises(InputError) as caught:
                self.log(**changes)
            self.assertEqual(caught.exception.field, field)
        self.assertIsNone(flights.of_round(self.round).logged_at)

    def test_a_line_once_written_stays(self) -> None:
        self.fly()
        self.log()
        with self.assertRaises(SignedError):
            self.log(left_percent=10.0)

    def test_a_crash_grounds_aircraft_and_pack_and_raises_checks(self) -> None:
        self.fly()
        self.log(happened="crash", note="into the hedge")
        opened = snags.open_ones(self.numbers["Sandpiper"], self.numbers["S1"])
        self.assertEqual([(s.on.value, s.grounds) for s in opened], [("aircraft", True), ("pack", True)])
        self.assertIn(EventKind.CRASH, [e.kind for e in hangar.events(self.numbers["Sandpiper"])])

    def test_a_warning_is_minded_next_time(self) -> None:
        self.fly()
        self.log(happened="warning", note="battery error")
        opened = snags.open_ones(self.numbers["Sandpiper"])
        self.assertEqual([(s.title, s.grounds) for s in opened], [("battery error", False)])

    def test_the_next_plan_knows_it(self) -> None:
        from walkround.store.situation import gather

        self.fly()
        self.log(happened="hard landing", note="tipped over")
        n = self.numbers
        after = gather(n["Sandpiper"], n["S1"], n["Teasel Common"], now=self.now, settings=self.settings)
        self.assertEqual((after.history.pack_flights_today, after.history.rounds_today), (1, 1))
        self.assertIn(EventKind.HARD_LANDING, [e.kind for e in after.history.events])

    def test_errors_are_a_pilot_s(self) -> None:
        self.assertTrue(issubclass(InputError, PilotError))
