"""Calibrations of the demo: a good one of the quad, and one of the hexacopter that a magnetised tool spoiled."""

from datetime import datetime, timedelta

import numpy as np

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.calibration.compass import calibration_of, dip_of
from walkround.core.calibration.earth import earth_field
from walkround.core.calibration.ellipsoid import fit_ellipsoid
from walkround.core.field.site import Site
from walkround.simulators.controller import SimulatedController
from walkround.store import calibrations, hangar

SECONDS = 14.0


def fill_calibrations(numbers: dict[str, int], site: Site, now: datetime) -> None:
    """Keep both, as recordings that were read in: the good one at the moment of the event that the demo has."""
    for name, condition, days in (("Sandpiper", "good", 51), ("Lapwing", "tool", 20)):
        at = now - timedelta(days=days)
        field = earth_field(site.position, at.date(), site.elevation_m)
        frames = list(
            SimulatedController(condition).frames(
                "all axes", (field.north_ut, field.east_ut, field.down_ut), SECONDS, days
            )
        )
        samples = np.array([frame.field_ut for frame in frames])
        fit = fit_ellipsoid(samples)
        dip_deg = dip_of(fit, samples, -np.array([frame.acceleration_g for frame in frames]))
        found = calibration_of(fit, 1.0, at=at, by="recording", site=site.name, position=site.position, dip_deg=dip_deg)
        calibrations.keep(hangar.get(Aircraft, numbers[name]), found, site, at)
