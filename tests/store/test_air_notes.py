"""Notes from the air: sent twice they are there once; landing, charge and sightings with their own time."""

from datetime import timedelta

from hypothesis import given, settings
from hypothesis import strategies as st

from tests.support import WebCase
from walkround.core.base.errors import InputError, MissingError, SignedError
from walkround.store import air_notes, flights
from walkround.store.air_models import AirNoteRow


class Notes(WebCase):
    def setUp(self) -> None:
        super().setUp()
        self.round = self.signed()
        self.off = flights.take_off(self.round, self.now, countdown_s=5).took_off_at

    def keep(self, uid: str, kind: str, after_s: float, **more: object) -> bool:
        at = self.off + timedelta(seconds=after_s)
        return air_notes.keep(self.round, uid, kind, at=at, now=max(at, self.now), **more)  # type: ignore[arg-type]

    def test_the_countdown_is_before_the_take_off(self) -> None:
        self.assertEqual(self.off, self.now + timedelta(seconds=5))

    def test_sent_twice_it_is_there_once(self) -> None:
        self.assertTrue(self.keep("landing-0001", "landed", 300))
        self.assertFalse(self.keep("landing-0001", "landed", 400))
        flight = flights.of_round(self.round)
        assert flight is not None and flight.minutes is not None
        self.assertAlmostEqual(flight.minutes, 5.0)
        self.keep("landing-0002", "landed", 600)
        again = flights.of_round(self.round)
        assert again is not None
        self.assertEqual(again.minutes, flight.minutes, "it lands once")

    def test_a_late_note_keeps_the_time_it_was_made(self) -> None:
        at = self.off + timedelta(seconds=200)
        air_notes.keep(self.round, "landing-0003", "landed", at=at, now=at + timedelta(minutes=20))
        flight = flights.of_round(self.round)
        assert flight is not None
        self.assertEqual(flight.landed_at, at)

    def test_times_that_cannot_be_are_led_to_what_can(self) -> None:
        air_notes.keep(self.round, "landing-0004", "landed", at=self.off - timedelta(hours=3), now=self.off)
        flight = flights.of_round(self.round)
        assert flight is not None
        self.assertEqual(flight.minutes, 0)
        self.keep("charge-00003", "charge", -3, percent=80.0)
        read = air_notes.charge_read(flight, air_notes.of_round(self.round))
        assert read is not None
        self.assertEqual(read.at_s, 0, "in the countdown")

    def test_the_newest_charge_counts(self) -> None:
        self.keep("charge-00001", "charge", 120, percent=80.0)
        self.keep("charge-00002", "charge", 240, percent=55.0)
        flight = flights.of_round(self.round)
        assert flight is not None
        read = air_notes.charge_read(flight, air_notes.of_round(self.round))
        assert read is not None
        self.assertEqual((read.at_s, read.percent), (240, 55))

    def test_what_says_nothing_is_refused(self) -> None:
        for kind, more in (
            ("charge", {}), ("charge", {"percent": 120.0}), ("seen", {}), ("seen", {"bearing_deg": 400.0}), ("frogs", {}),
        ):  # fmt: skip
            with self.subTest(kind, **more), self.assertRaises(InputError):
                self.keep("refused-001", kind, 10, **more)
        for uid in ("", "short", "with spaces here", "x" * 65):
            with self.assertRaises(InputError):
                self.keep(uid, "landed", 10)
        self.assertEqual(air_notes.of_round(self.round), [])

    def test_without_a_flight(self) -> None:
        other = self.start(aircraft="Haymaker", pack="H1")
        with self.assertRaises(MissingError):
            air_notes.keep(other, "landing-0005", "landed", at=self.now, now=self.now)

    def test_a_take_off_that_did_not_happen_is_taken_back(self) -> None:
        flights.scrub(self.round, self.now + timedelta(seconds=40))
        self.assertIsNone(flights.of_round(self.round))
        flights.scrub(self.round, self.now)
        flights.take_off(self.round, self.now)
        with self.assertRaises(SignedError):
            flights.scrub(self.round, self.now + timedelta(seconds=90))
        self.keep("seen-000001", "seen", 1, words="the pear")
        with self.assertRaises(SignedError):
            flights.scrub(self.round, self.now)

    def test_a_late_tap_is_corrected_to_earlier_only(self) -> None:
        self.keep("landing-0006", "landed", 300)
        self.assertAlmostEqual(flights.landed_after(self.round, 4.5).minutes or 0, 4.5)
        for wrong in (9.0, -1.0):
            with self.assertRaises(InputError):
                flights.landed_after(self.round, wrong)

    @given(
        st.lists(st.tuples(st.integers(0, 5), st.sampled_from(["charge", "seen"]), st.integers(1, 500)), max_size=12)
    )
    @settings(max_examples=8)
    def test_any_order_with_doubles_loses_nothing_and_doubles_nothing(self, sent: list[tuple[int, str, int]]) -> None:
        AirNoteRow.delete().execute()
        first: dict[int, tuple[str, int]] = {}
        for number, kind, at_s in sent:
            new = self.keep(f"note-{number:08d}", kind, at_s, percent=50.0 if kind == "charge" else None, words="x")
            self.assertEqual(new, number not in first)
            first.setdefault(number, (kind, at_s))
        kept = {
            int(n.uid[-8:]): (n.kind, round((n.at - self.off).total_seconds())) for n in air_notes.of_round(self.round)
        }
        self.assertEqual(kept, first)
