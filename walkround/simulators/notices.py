"""A notice service that answers with zones round a place, of a chosen condition, or not at all. All of it is invented."""

import json
from datetime import UTC, datetime, timedelta
from typing import Any

from walkround.core.base.errors import DeviceError
from walkround.core.base.geodesy import Position, from_plane
from walkround.core.sensors.devices import NoticeService
from walkround.simulators.simulator import Simulator

CONDITIONS: dict[str, str] = {
    "quiet": "Nothing near except a control zone some km away",
    "strip": "An airfield nearby that needs permission",
    "event": "An event: closed for some hours this afternoon",
    "capped": "Allowed up to 60 m",
    "closed": "Closed here permanently",
    "stale": "Quiet, but the data is six days old",
    "silent": "No answer (fault)",
}
"""Condition: its words."""


def _ring(place: Position, points: list[tuple[float, float]]) -> list[list[float]]:
    places = [from_plane(place, p) for p in [*points, points[0]]]
    return [[round(p.lon_deg, 6), round(p.lat_deg, 6)] for p in places]


class SimulatedNotices:
    """Implements ``core.devices.NoticeService``; the condition is chosen on the devices page."""

    def __init__(self, condition: str = "quiet") -> None:
        self.condition = condition if condition in CONDITIONS else "quiet"

    def zones(self, place: Position, now: datetime) -> str:
        """Zones within some 30 km of a place at an aware time, as GeoJSON. Raises DeviceError when it is the fault."""
        if self.condition == "silent":
            raise DeviceError("The notice service does not answer. Import a file of zones, or ask your authority.")
        features = [self._control(place), self._reserve(place)]
        if self.condition == "strip":
            features.append(self._airfield(place))
        elif self.condition == "event":
            features.append(self._event(place, now))
        elif self.condition == "capped":
            features.append(self._capped(place))
        elif self.condition == "closed":
            features.append(self._works(place))
        as_of = now - (timedelta(days=6) if self.condition == "stale" else timedelta(minutes=20))
        data = {
            "type": "FeatureCollection",
            "as_of": as_of.astimezone(UTC).isoformat(timespec="minutes"),
            "features": features,
        }
        return json.dumps(data)

    def _polygon(self, place: Position, *rings: list[tuple[float, float]], **properties: object) -> dict[str, Any]:
        geometry = {"type": "Polygon", "coordinates": [_ring(place, ring) for ring in rings]}
        return {"type": "Feature", "geometry": geometry, "properties": properties}

    def _control(self, place: Position) -> dict[str, Any]:
        ring = [(3_400.0, -9_000.0), (21_000.0, -6_500.0), (22_500.0, 8_000.0), (6_200.0, 9_400.0), (2_700.0, 2_100.0)]
        return self._polygon(
            place, ring, name="Control zone Ottersbach", rule="ask first", ceiling_ft=2500, ceiling_from="sea",
            asks="Call the tower before flying. The number is in the notice.",
        )  # fmt: skip

    def _reserve(self, place: Position) -> dict[str, Any]:
        outer = [(-4_900.0, 1_400.0), (-1_500.0, 900.0), (-1_150.0, 3_300.0), (-4_200.0, 4_100.0)]
        hole = [(-3_300.0, 2_000.0), (-2_600.0, 1_900.0), (-2_500.0, 2_700.0), (-3_200.0, 2_800.0)]
        return self._polygon(
            place,
            outer,
            hole[::-1],
            name="Reed bed sanctuary",
            rule="closed",
            ceiling_m=150,
            asks="Nesting from March to July.",
        )

    def _airfield(self, place: Position) -> dict[str, Any]:
        at = from_plane(place, (1_350.0, -900.0))
        return {
            "type": "Feature",
            "geometry": {"type": "Point", "coordinates": [round(at.lon_deg, 6), round(at.lat_deg, 6)]},
            "properties": {
                "name": "Glider field Halmwiese", "rule": "ask first", "radius_m": 2500, "ceiling_m": 600,
                "asks": "Call the launch leader. Stay below 50 m while gliders fly.",
            },
        }  # fmt: skip

    def _event(self, place: Position, now: datetime) -> dict[str, Any]:
        begin = now.replace(minute=0, second=0, microsecond=0) + timedelta(hours=4)
        ring = [(-700.0, -600.0), (900.0, -500.0), (800.0, 700.0), (-600.0, 800.0)]
        times = [{"from": begin.isoformat(), "until": (begin + timedelta(hours=5)).isoformat()}]
        return self._polygon(
            place,
            ring,
            name="Village fair",
            rule="closed",
            ceiling_m=300,
            times=times,
            asks="Many people on the ground.",
        )

    def _capped(self, place: Position) -> dict[str, Any]:
        ring = [(-3_000.0, -3_000.0), (3_000.0, -3_000.0), (3_000.0, 3_000.0), (-3_000.0, 3_000.0)]
        return self._polygon(
            place, ring, name="Rescue corridor", rule="allowed up to", up_to_m=60, asks="Helicopters cross above."
        )

    def _works(self, place: Position) -> dict[str, Any]:
        ring = [(-500.0, -450.0), (560.0, -420.0), (520.0, 480.0), (-480.0, 510.0)]
        return self._polygon(
            place,
            ring,
            name="Switching yard",
            rule="closed",
            ceiling_m=200,
            asks="No flights without the owner's permission.",
        )


SIMULATOR = Simulator(
    interface=NoticeService,
    setting="notices",
    make=SimulatedNotices,
    title="Notice service",
    use="Gives airspace zones round a field.",
    conditions=CONDITIONS,
    absent="No notice service is connected. Import a file of zones, or ask your authority.",
)
