"""The energy of a session: what lasts how long, what is learned, and that unknown or worse never reads better."""

import unittest
from datetime import timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests.support import NOW, QUAD, TRAINER
from walkround.core.aircraft.traits import Trait
from walkround.core.base.errors import InputError
from walkround.core.flight.session import (
    BRIGHT_TIMES,
    FIRST_GUESS_H,
    FRESH_H,
    Gear,
    GearReading,
    Session,
    gear_of,
    plan_session,
    read_charge,
    short_by,
    use_per_hour,
)


def reading(low: float, high: float | None = None, *, hours_ago: float = 0, gear: Gear = Gear.GOGGLES) -> GearReading:
    """A charge read some hours ago."""
    return GearReading(gear=gear, at=NOW - timedelta(hours=hours_ago), low=low, high=low if high is None else high)


def session(
    read: GearReading | None, *, flights: int = 3, gear: Gear = Gear.GOGGLES, packs: int = 9, **more: object
) -> Session:
    """A session of flights of 10 min with 20 min between them."""
    latest = {} if read is None else {gear: read}
    given = {"learned": {}, "temperature_c": 20.0} | more
    return plan_session(
        [gear], latest, flights=flights, flight_min=10, between_min=20, packs_ready=packs, now=NOW, **given
    )  # type: ignore[arg-type]


class ByHand(unittest.TestCase):
    def test_hours_and_the_flight_in_which_it_runs_out(self) -> None:
        """Goggles at 50 %, 40 % an hour: down to 10 % after an hour, in the middle of the third half hour."""
        found = session(reading(50), learned={Gear.GOGGLES: 40.0}, flights=4)
        (packs, goggles) = found.things
        self.assertEqual((found.hours, found.each_h), (2.0, 0.5))
        self.assertAlmostEqual(goggles.hours[0], 1.0)
        self.assertEqual((goggles.out_in, packs.out_in, found.first), (3, 0, goggles))
        self.assertAlmostEqual(short_by(goggles, found.hours), 40.0)

    def test_packs_are_a_flight_each(self) -> None:
        found = session(reading(100), packs=2, flights=3, learned={Gear.GOGGLES: 1.0})
        self.assertEqual((found.things[0].out_in, found.first), (3, found.things[0]))
        self.assertEqual(session(reading(100), packs=3, flights=3, learned={Gear.GOGGLES: 1.0}).first, None)

    def test_the_first_guess_until_it_is_learned(self) -> None:
        (_, goggles) = session(reading(100)).things
        self.assertFalse(goggles.learned)
        self.assertAlmostEqual(goggles.hours[0], 0.9 * FIRST_GUESS_H[Gear.GOGGLES])

    def test_sun_takes_more_of_a_screen_and_of_nothing_else(self) -> None:
        for gear in (Gear.SCREEN, Gear.TRANSMITTER):
            plain, bright = (session(reading(80, gear=gear), gear=gear, bright=b).things[1] for b in (False, True))
            self.assertAlmostEqual(plain.hours[0] / bright.hours[0], BRIGHT_TIMES if gear is Gear.SCREEN else 1.0)

    def test_what_an_aircraft_needs(self) -> None:
        self.assertEqual(gear_of(TRAINER), (Gear.TRANSMITTER,))
        fpv = QUAD.model_copy(update={"traits": QUAD.traits | {Trait.GOGGLES, Trait.TRACKER}})
        self.assertLessEqual({Gear.TRANSMITTER, Gear.GOGGLES, Gear.TRACKER}, set(gear_of(fpv)))

    def test_charges_as_they_are_typed(self) -> None:
        self.assertEqual((read_charge("80").mid, read_charge(" 80,5 % ").mid), (80.0, 80.5))
        self.assertEqual((read_charge("3/4").low, read_charge("3/4").high), (50.0, 75.0))
        for wrong in ("", "full", "101", "-1", "5/4", "1/99", "3/", "/4", "nan"):
            with self.subTest(wrong), self.assertRaises(InputError):
                read_charge(wrong)


class Learned(unittest.TestCase):
    def test_by_the_median_of_stretches_of_a_day(self) -> None:
        """40, 30 and 50 % an hour: 40."""
        readings = []
        for day, rate in ((1, 40), (2, 30), (3, 50)):
            readings += [reading(90, hours_ago=24 * day), reading(90 - rate, hours_ago=24 * day - 1)]
        self.assertAlmostEqual(use_per_hour(readings) or 0, 40)
        self.assertIsNone(use_per_hour(readings[:4]), "two stretches say too little")
        self.assertIsNone(use_per_hour([reading(90, hours_ago=9), reading(20)]), "nine hours are no session")


class Worse(unittest.TestCase):
    @given(st.floats(0, 100), st.floats(0, 100), st.integers(1, 8), st.floats(-10, 30), st.floats(-10, 30))
    def test_less_charge_more_flights_or_more_cold_never_read_better(
        self, a: float, b: float, flights: int, warm: float, cold: float
    ) -> None:
        low, high = sorted((a, b))
        cold, warm = sorted((cold, warm))
        base = session(reading(high), flights=flights, temperature_c=warm)
        for worse in (
            session(reading(low), flights=flights, temperature_c=warm),
            session(reading(high), flights=flights, temperature_c=cold),
            session(reading(low, high), flights=flights, temperature_c=warm),
        ):
            self.assertLessEqual(worse.things[1].hours[0], base.things[1].hours[0] + 1e-9)
            self.assertGreaterEqual(bool(worse.things[1].out_in), bool(base.things[1].out_in))
        longer = session(reading(high), flights=flights + 1, temperature_c=warm)
        self.assertGreaterEqual(bool(longer.things[1].out_in), bool(base.things[1].out_in))

    @given(st.integers(1, 8))
    def test_unknown_is_never_enough(self, flights: int) -> None:
        for read in (None, reading(100, hours_ago=FRESH_H + 1)):
            found = session(read, flights=flights)
            self.assertEqual((found.things[1].charge, found.things[1].out_in), (None, 1))
            self.assertIsNotNone(found.first)
