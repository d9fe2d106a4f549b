"""Momentum theory: a textbook's worked example, and the same powers reckoned another way."""

import math
import unittest

import numpy as np
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import brentq

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.presets import PRESETS
from walkround.core.aircraft.traits import Kind
from walkround.core.flight.power import (
    DRIVE,
    FIGURE_OF_MERIT,
    disc_area_m2,
    drag_area_m2,
    ideal_hover_w,
    induced_ms,
    rotor_power_w,
    usual_cruise_ms,
)

QUAD = PRESETS["camera-quad"]
ROTORS = [a for a in PRESETS.values() if a.kind is not Kind.WING]


class Textbook(unittest.TestCase):
    def test_tilt_rotor(self) -> None:
        """Leishman, Principles of Helicopter Aerodynamics, chapter 2, worked example (figures from memory): a tilt-rotor of
        60,500 lb on two rotors of 38 ft at sea level needs about 4,118 hp of ideal power a rotor, induced velocity
        74.86 ft/s; with a figure of merit of 0.75 and 5 % lost about 11,560 hp together."""
        thrust_n = 60_500 / 2 * 4.4482216
        area_m2 = math.pi * (38 / 2 * 0.3048) ** 2
        ideal_hp = ideal_hover_w(thrust_n, area_m2, 1.225) / 745.69987
        self.assertAlmostEqual(ideal_hp, 4118, delta=10)
        self.assertAlmostEqual(induced_ms(thrust_n, area_m2, 1.225, 0, 0) / 0.3048, 74.86, delta=0.15)
        self.assertAlmostEqual(2 * ideal_hp / 0.75 / 0.95, 11_560, delta=40)


class AnotherWay(unittest.TestCase):
    def test_hover_from_momentum_and_energy(self) -> None:
        """The wake far below moves at 2 v: T = rho A v 2v, P = (1/2) rho A v (2v)². Solved for v by a root finder."""
        for thrust, area, rho in ((7.6, 0.13, 1.2), (45, 0.7, 1.05), (2.4, 0.09, 1.29)):
            v = brentq(lambda v, t=thrust, a=area, r=rho: r * a * v * 2 * v - t, 0, 100)
            self.assertAlmostEqual(ideal_hover_w(thrust, area, rho), 0.5 * rho * area * v * (2 * v) ** 2, places=8)

    def test_forward_flight_from_the_quartic(self) -> None:
        """Glauert's equation as a polynomial in v, its roots by numpy: v⁴ + 2 Vz v³ + V² v² - vh⁴ = 0."""
        for thrust, area, rho, speed, tilt in (
            (7.6, 0.13, 1.2, 8, 0.1),
            (45, 0.7, 1.1, 15, 0.35),
            (7.6, 0.13, 1.2, 1, 0.0),
        ):
            through = speed * math.sin(tilt)
            quartic = [1, 2 * through, speed**2, 0, -((thrust / (2 * rho * area)) ** 2)]
            real = [r.real for r in np.roots(quartic) if abs(r.imag) < 1e-9 and r.real > 0]
            self.assertEqual(len(real), 1)
            self.assertAlmostEqual(induced_ms(thrust, area, rho, speed, tilt), real[0], places=6)

    def test_a_quad_by_hand(self) -> None:
        """780 g on four discs of 206 mm: 37.0 W ideal; over figure of merit and drive plus 3 W of boards, by hand."""
        area = 4 * math.pi * 0.103**2
        self.assertAlmostEqual(disc_area_m2(QUAD) or 0, area, places=9)
        ideal = (0.78 * 9.80665) ** 1.5 / math.sqrt(2 * 1.225 * area)
        found = rotor_power_w(QUAD, 1.225)
        assert found is not None
        self.assertAlmostEqual(found.mid, ideal / (FIGURE_OF_MERIT[Kind.MULTIROTOR][1] * DRIVE[1]) + 4 * 0.78, places=6)

    def test_drag_leans_it_at_top_speed(self) -> None:
        for aircraft in ROTORS:
            drag = 0.5 * 1.225 * drag_area_m2(aircraft) * aircraft.top_speed_ms**2
            self.assertAlmostEqual(math.degrees(math.atan(drag / (aircraft.mass_g / 1000 * 9.80665))), 35, places=6)


class Properties(unittest.TestCase):
    @given(st.sampled_from(ROTORS), st.floats(0, 2000), st.floats(0, 25), st.floats(0.8, 1.3))
    def test_more_mass_never_takes_less(self, aircraft: Aircraft, more_g: float, speed: float, rho: float) -> None:
        heavy = aircraft.model_copy(update={"mass_g": aircraft.mass_g + more_g})
        less, more = rotor_power_w(aircraft, rho, speed), rotor_power_w(heavy, rho, speed)
        assert less is not None and more is not None
        self.assertLessEqual(less.mid, more.mid + 1e-9)

    @given(st.sampled_from(ROTORS), st.floats(0.7, 1.3), st.floats(0, 0.3))
    def test_thin_air_never_takes_less(self, aircraft: Aircraft, rho: float, thinner: float) -> None:
        thick, thin = rotor_power_w(aircraft, rho), rotor_power_w(aircraft, rho * (1 - thinner))
        assert thick is not None and thin is not None
        self.assertLessEqual(thick.mid, thin.mid + 1e-9)

    def test_a_little_way_on_is_easier_than_hovering(self) -> None:
        """Translational lift: the dip of the power curve below hover is a fact of the trade; no source."""
        for aircraft in ROTORS:
            hover, slow, fast = (rotor_power_w(aircraft, 1.2, v * aircraft.top_speed_ms) for v in (0, 0.3, 1))
            assert hover is not None and slow is not None and fast is not None
            self.assertLess(slow.mid, hover.mid)
            self.assertGreater(fast.mid, slow.mid)
            self.assertTrue(hover.low < hover.mid < hover.high)

    def test_wings_have_no_discs(self) -> None:
        trainer = PRESETS["foam-trainer"]
        self.assertIsNone(disc_area_m2(trainer))
        self.assertIsNone(rotor_power_w(trainer, 1.2))
        self.assertEqual(usual_cruise_ms(trainer), 11)

    def test_coaxial_pairs_lose(self) -> None:
        """Pairs lift less well than the same discs apart: 22 to 28 % more induced power (Leishman, from memory)."""
        octo = PRESETS["coaxial-octo"]
        apart = octo.model_copy(update={"frame": "X"})
        pair, single = rotor_power_w(octo, 1.2), rotor_power_w(apart, 1.2)
        assert pair is not None and single is not None
        self.assertTrue(1.2 < pair.mid / single.mid < 1.3)
