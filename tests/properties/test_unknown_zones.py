"""Unknown never reads clear: zone files with their limits garbled or left out."""

import json
import unittest
from datetime import timedelta

from hypothesis import given
from hypothesis import strategies as st

from tests import examples
from tests.properties.test_unknown import NOW
from tests.support import SITE
from walkround.core.airspace.reading import read_zones
from walkround.core.airspace.rules import Airspace, judge_airspace
from walkround.core.airspace.zone import nearby
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Level, worst


def zone_file(**properties: object) -> str:
    ring = [[15.29, 48.19], [15.31, 48.19], [15.31, 48.21], [15.29, 48.21], [15.29, 48.19]]
    feature = {
        "type": "Feature",
        "properties": {"name": "A", **properties},
        "geometry": {"type": "Polygon", "coordinates": [ring]},
    }
    return json.dumps({"type": "FeatureCollection", "as_of": "2026-05-16T06:00Z", "features": [feature]})


def zone_level(text: str) -> Level:
    found = read_zones(text)
    near = [nearby(z, SITE.position, SITE.launch.xy, SITE.flight_polygon()) for z in found.zones]
    known = Airspace(near=tuple(n for n in near if n), sets=(("A", NOW, True),))
    return worst(judge_airspace(known, SITE, top_m=50, begin=NOW, end=NOW + timedelta(minutes=10)))


class Zones(unittest.TestCase):
    FULL = {"rule": "allowed up to", "up_to_m": 60, "floor_m": 0, "ceiling_m": 300,
            "times": [{"from": "2026-05-16T07:00Z", "until": "2026-05-16T10:00Z"}]}  # fmt: skip

    @given(
        st.sampled_from(["rule", "up_to_m", "floor_m", "ceiling_m", "times"]),
        st.sampled_from(
            [
                None,
                "",
                "#",
                "x12",
                float("nan"),
                -9e9,
                [],
                {"from": "soon"},
                [{"from": "16 May"}],
                [{"from": "2026-05-16T07:00"}],
            ]
        ),
        st.sampled_from(["closed", "ask first", "allowed up to", ""]),
        st.sampled_from([0, 30, 49, 51, 200]),
    )
    @examples(200)
    def test_a_garbled_limit_never_reads_better(self, name: str, odd: object, rule: str, floor: float) -> None:
        whole = {**self.FULL, "rule": rule, "floor_m": floor}
        text = zone_file(**{**whole, name: odd})
        try:
            level = zone_level(text)
        except InputError as error:
            self.assertTrue(error.message)
            return
        self.assertGreaterEqual(level, zone_level(zone_file(**whole)), text)

    def test_care_from_a_height_up(self) -> None:
        for floor, level in ((0, Level.CAUTION), (30, Level.CAUTION), (50, Level.CAUTION), (51, Level.CLEAR)):
            self.assertEqual(zone_level(zone_file(rule="take care", floor_m=floor)), level, floor)

    def test_a_time_without_its_zone_is_refused(self) -> None:
        for times in ([{"from": "2026-05-16T07:00"}], [{"from": "2026-05-16T07:00Z", "until": "2026-05-16T10:00"}]):
            with self.assertRaisesRegex(InputError, "has no time zone"):
                zone_level(zone_file(rule="closed", times=times))


if __name__ == "__main__":
    unittest.main()
