"""Minutes: the range holds the truth at its rate, flights outweigh physics, and no trick of weather promises more."""

import math
import unittest
from datetime import timedelta

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from tests.support import NOW, PACK
from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.presets import PRESETS
from walkround.core.aircraft.traits import Kind
from walkround.core.base.units import Units
from walkround.core.flight.estimate import FLIGHT_SIGMA, RATE, Use, endurance
from walkround.core.weather.atmosphere import SEA_LEVEL_DENSITY, air_density

QUAD, TRAINER = PRESETS["camera-quad"], PRESETS["foam-trainer"]
BIG = PACK.model_copy(update={"capacity_mah": 3500})


def flown(full_min: float, number: int, used: float = 50, mah: float = 3500) -> tuple[Use, ...]:
    return tuple(
        Use(at=NOW - timedelta(days=i), minutes=full_min * used / 100, used_percent=used, capacity_mah=mah)
        for i in range(number)
    )


class Interval(unittest.TestCase):
    def test_it_holds_the_truth_at_its_rate(self) -> None:
        """Aircraft whose true ratio to the first guess is drawn from the prior, flights scattered about it: the next
        flight lies in the range four times in five, whatever the number of flights before."""
        dice = np.random.default_rng(11)
        first = endurance(QUAD, BIG)
        sigma = math.log(first.today.high / first.today.mid) / 1.2816
        for number in (0, 1, 3, 10, 25):
            inside = 0
            for _ in range(500):
                truth = first.today.mid * math.exp(dice.normal(0, sigma))
                uses = tuple(
                    Use(
                        at=NOW,
                        minutes=truth * math.exp(dice.normal(0, FLIGHT_SIGMA)) / 2,
                        used_percent=50,
                        capacity_mah=3500,
                    )
                    for _ in range(number)
                )
                nxt = truth * math.exp(dice.normal(0, FLIGHT_SIGMA if number else 0))
                found = endurance(QUAD, BIG, uses=uses).today
                inside += found.low <= nxt <= found.high
            with self.subTest(f"{number} flights"):
                self.assertAlmostEqual(inside / 500, RATE, delta=0.055)


class Learning(unittest.TestCase):
    def test_flights_pull_and_narrow(self) -> None:
        before = endurance(QUAD, BIG)
        weights, widths = [], []
        for number in (1, 3, 10, 30):
            found = endurance(QUAD, BIG, uses=flown(18, number))
            weights.append(found.weight)
            widths.append(found.today.high / found.today.low)
            self.assertTrue(18 <= found.today.mid < before.today.mid)
        self.assertEqual(weights, sorted(weights))
        self.assertGreater(weights[-1], 0.98)
        self.assertEqual(widths, sorted(widths, reverse=True))
        self.assertAlmostEqual(endurance(QUAD, BIG, uses=flown(18, 30)).today.mid, 18, delta=0.3)

    def test_another_pack_is_scaled(self) -> None:
        """Twice the capacity, twice the minutes, where the mass is the same: arithmetic."""
        small = endurance(QUAD, BIG, uses=flown(18, 30)).today.mid
        double = BIG.model_copy(update={"capacity_mah": 7000})
        self.assertAlmostEqual(endurance(QUAD, double, uses=flown(18, 30)).today.mid / small, 2, delta=0.02)

    def test_a_payload_hung_on_since_is_reckoned_with(self) -> None:
        """Flights without it do not promise their minutes with it: power goes as mass to 3/2 (momentum theory)."""
        light = tuple(use.model_copy(update={"mass_g": QUAD.mass_g}) for use in flown(18, 30))
        heavy = QUAD.model_copy(update={"mass_g": 1.3 * QUAD.mass_g})
        found = endurance(heavy, BIG, uses=light).today.mid
        self.assertAlmostEqual(found, 18 / 1.3**1.5, delta=0.6)
        wing = TRAINER.model_copy(update={"mass_g": 1.2 * TRAINER.mass_g})
        trips = tuple(use.model_copy(update={"mass_g": TRAINER.mass_g}) for use in flown(11, 40, mah=3500))
        self.assertAlmostEqual(endurance(wing, BIG, uses=trips).today.mid, 11 / 1.2**1.5, delta=0.4)

    def test_one_wrong_entry_does_not_steer(self) -> None:
        right = endurance(QUAD, BIG, uses=flown(18, 12)).today.mid
        wrong = endurance(QUAD, BIG, uses=(*flown(18, 12), *flown(95, 1))).today.mid
        self.assertAlmostEqual(wrong / right, 1, delta=0.05)

    def test_short_hops_say_nothing(self) -> None:
        self.assertEqual(endurance(QUAD, BIG, uses=flown(18, 5, used=9)).flights, 0)

    def test_wings_go_by_current_then_description(self) -> None:
        """2,200 mAh at 12 A is 11 minutes: arithmetic."""
        described = endurance(TRAINER, PACK)
        measured = endurance(TRAINER.model_copy(update={"cruise_current_a": 12}), PACK)
        self.assertEqual((described.basis, measured.basis), ("described", "current"))
        self.assertAlmostEqual(described.today.mid, TRAINER.flight_min)
        self.assertAlmostEqual(measured.today.mid, 60 * PACK.capacity_mah / 1000 / 12)
        self.assertLess(measured.today.high / measured.today.low, described.today.high / described.today.low)

    def test_the_page_can_say_why(self) -> None:
        found = endurance(QUAD, BIG, uses=flown(18, 4), temperature_c=2, state_of_health=0.88, density=1.0)
        text = " ".join(phrase.say(Units()) for phrase in found.why)
        for words in (
            "hover power",
            "4 logged flights",
            "shorter",
            "2\u202f°C",
            "88\u202f%",
            "air is thin",
            "80\u202f% of flights should fall between",
        ):
            self.assertIn(words, text)
        self.assertIn("No flight", " ".join(p.text for p in endurance(QUAD, BIG).why))


ALL = st.sampled_from(list(PRESETS.values()))
USES = st.integers(0, 6).flatmap(lambda n: st.just(flown(15, n)))


class Promises(unittest.TestCase):
    @given(ALL, USES, st.floats(-25, 45), st.floats(0, 30))
    def test_a_colder_pack_never_promises_more(
        self, aircraft: Aircraft, uses: tuple[Use, ...], warm: float, colder: float
    ) -> None:
        less = endurance(aircraft, BIG, uses=uses, temperature_c=warm - colder).today
        more = endurance(aircraft, BIG, uses=uses, temperature_c=warm).today
        self.assertLessEqual((less.low, less.mid, less.high), (more.low + 1e-9, more.mid + 1e-9, more.high + 1e-9))

    @given(ALL, USES, st.floats(-25, 40), st.floats(0, 30))
    def test_a_colder_day_never_promises_more(
        self, aircraft: Aircraft, uses: tuple[Use, ...], warm: float, colder: float
    ) -> None:
        """Cold air is denser and lifts better; what the pack loses in it is always more."""
        days = [endurance(aircraft, BIG, uses=uses, temperature_c=t, density=air_density(1000, t)).today.mid
                for t in (warm - colder, warm)]  # fmt: skip
        self.assertLessEqual(days[0], days[1] + 1e-9)

    @given(ALL, USES, st.floats(0, 3000))
    def test_more_mass_never_adds_minutes(self, aircraft: Aircraft, uses: tuple[Use, ...], more_g: float) -> None:
        heavy = aircraft.model_copy(update={"mass_g": aircraft.mass_g + more_g})
        self.assertLessEqual(
            endurance(heavy, BIG, uses=uses).today.mid, endurance(aircraft, BIG, uses=uses).today.mid + 1e-9
        )

    @given(ALL, st.floats(0.3, 1.1), st.floats(0, 0.5))
    def test_a_worn_pack_never_promises_more(self, aircraft: Aircraft, share: float, less: float) -> None:
        worn = endurance(aircraft, BIG, state_of_health=share * (1 - less)).today.mid
        self.assertLessEqual(worn, endurance(aircraft, BIG, state_of_health=share).today.mid + 1e-9)

    def test_thin_air_costs(self) -> None:
        thin = endurance(QUAD, BIG, density=0.9 * SEA_LEVEL_DENSITY).today.mid
        self.assertLess(thin, endurance(QUAD, BIG).today.mid)
        self.assertIs(QUAD.kind, Kind.MULTIROTOR)
