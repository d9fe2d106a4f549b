"""Dilutions against an independent matrix computation, textbook geometries, and satellites of published sentences."""

import math
import random
import unittest
from fractions import Fraction

from hypothesis import given
from hypothesis import strategies as st

from walkround.core.sensors.sky import Constellation, SkySatellite, counted, dilutions, satellite_of, sky_hdop


def by_fractions(directions: list[tuple[float, float]]) -> float:
    """HDOP by elimination in exact arithmetic, without any matrix library: the inverse of AᵀA, its first two diagonal elements."""
    rows = []
    for elevation, bearing in directions:
        up, turn = math.radians(elevation), math.radians(bearing)
        rows.append(
            [
                Fraction(math.cos(up) * math.sin(turn)),
                Fraction(math.cos(up) * math.cos(turn)),
                Fraction(math.sin(up)),
                Fraction(1),
            ]
        )
    n = [
        [sum(row[i] * row[j] for row in rows) for j in range(4)] + [Fraction(int(i == j)) for j in range(4)]
        for i in range(4)
    ]
    for i in range(4):
        pivot = next(k for k in range(i, 4) if n[k][i])
        n[i], n[pivot] = n[pivot], n[i]
        n[i] = [value / n[i][i] for value in n[i]]
        for k in range(4):
            if k != i:
                n[k] = [a - n[k][i] * b for a, b in zip(n[k], n[i], strict=True)]
    return math.sqrt(n[0][4] + n[1][5])


class Geometry(unittest.TestCase):
    def test_against_exact_elimination(self) -> None:
        draw = random.Random(4)
        for _ in range(60):
            sky = [(draw.uniform(5, 88), draw.uniform(0, 360)) for _ in range(draw.randint(5, 20))]
            found = dilutions(sky)
            assert found is not None
            self.assertAlmostEqual(found.hdop, by_fractions(sky), delta=1e-6 * found.hdop)

    def test_one_overhead_and_three_on_the_horizon(self) -> None:
        """The text-book best of four: one straight up, three 120° apart on the horizon. AᵀA is diag(3/2, 3/2) in the plane: HDOP = √(2/3 + 2/3) = 1.1547; VDOP = √(4/3) = 1.1547;
        PDOP = √(8/3) = 1.633; GDOP = √3 = 1.732 (Kaplan and Hegarty, Understanding GPS, dilution of precision; from memory, and by hand)."""
        found = dilutions([(90, 0), (0, 0), (0, 120), (0, 240)])
        assert found is not None
        for value, known in (
            (found.hdop, 2 / math.sqrt(3)),
            (found.vdop, 2 / math.sqrt(3)),
            (found.pdop, math.sqrt(8 / 3)),
            (found.gdop, math.sqrt(3)),
        ):
            self.assertAlmostEqual(value, known, places=9)

    def test_many_evenly_round(self) -> None:
        """n satellites evenly round at one elevation e: HDOP = 2 / (√n cos e), by hand: AᵀA has n cos²e / 2 for east and for north."""
        for n, e in ((5, 10), (8, 45), (12, 60)):
            found = dilutions([(e, 360 * i / n) for i in range(n)] + [(90, 0)])
            assert found is not None
            self.assertAlmostEqual(found.hdop, 2 / (math.sqrt(n) * math.cos(math.radians(e))), places=9)

    def test_no_position_from_too_few_or_from_a_plane(self) -> None:
        self.assertIsNone(dilutions([(40, 0), (40, 90), (40, 180)]))
        self.assertIsNone(
            dilutions([(30, 0), (30, 90), (30, 180), (30, 270), (30, 45)]), "a cone tells height from clock no more"
        )
        self.assertIsNone(dilutions([(20, 10), (50, 100), (70, 200), (40, 300)], [0, 0, 1, 1]), "two clocks want five")

    @given(
        st.lists(st.tuples(st.floats(5, 85), st.floats(0, 359)), min_size=5, max_size=12),
        st.tuples(st.floats(5, 85), st.floats(0, 359)),
    )
    def test_one_more_satellite_never_makes_it_worse(
        self, sky: list[tuple[float, float]], more: tuple[float, float]
    ) -> None:
        before, after = dilutions(sky), dilutions([*sky, more])
        if before is not None and before.pdop < 100:
            assert after is not None
            self.assertLessEqual(after.hdop, before.hdop * (1 + 1e-6))


class Names(unittest.TestCase):
    def test_whose(self) -> None:
        """Numbers and systems as NMEA 0183 4.11 has them, from memory."""
        rows = (
            ("GP", 7, "", Constellation.GPS, 7), ("GP", 44, "", Constellation.SBAS, 44), ("GL", 70, "", Constellation.GLONASS, 70), ("GL", 6, "", Constellation.GLONASS, 70),
            ("GA", 11, "", Constellation.GALILEO, 11), ("GN", 311, "", Constellation.GALILEO, 11), ("GN", 11, "3", Constellation.GALILEO, 11),
            ("GN", 75, "2", Constellation.GLONASS, 75), ("GB", 21, "", Constellation.BEIDOU, 21), ("GN", 5, "4", Constellation.BEIDOU, 5), ("GN", 195, "", Constellation.QZSS, 195),
            ("GN", 500, "", Constellation.OTHER, 500),
        )  # fmt: skip
        for talker, number, system, whose, own in rows:
            with self.subTest(f"{talker} {number} {system}"):
                self.assertEqual(satellite_of(talker, number, system), (whose, own))

    def test_counts_and_unplaced(self) -> None:
        sky = [
            SkySatellite(
                whose=Constellation.GPS, number=i, elevation_deg=20 + 10 * i, bearing_deg=70 * i % 360, used=i < 6
            )
            for i in range(1, 8)
        ]
        self.assertEqual(counted(sky), ((Constellation.GPS, 5, 7),))
        self.assertIsNotNone(sky_hdop(sky))
        self.assertIsNone(
            sky_hdop([*sky, SkySatellite(whose=Constellation.GPS, number=30, used=True)]),
            "one in use that nobody placed",
        )
        self.assertIsNone(sky_hdop([]))
