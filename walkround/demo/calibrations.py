"""Calibrations of the demo: a good one of the quad, and one of the hexacopter that a magnetised tool spoiled."""

from datetime import datetime, timedelta

import numpy as np

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.calibration.compass import calibration_of, dip_of
from walkround.core.calibration.earth import here_at
from walkround.core.calibration.ellipsoid import fit_ellipsoid
from walkround.core.calibration.still import StillStart
from walkround.core.field.site import Site
from walkround.core.sensors.recording import as_recording
from walkround.simulators.controller import SimulatedController
from walkround.store import calibrations, hangar, recordings

SECONDS = 14.0


def fill_calibrations(numbers: dict[str, int], site: Site, now: datetime) -> None:
    """Keep both, as recordings that were read in: the good one at the moment of the event that the demo has; and how long the quad took to start of late."""
    for name, condition, days in (("Sandpiper", "good", 51), ("Lapwing", "tool", 20)):
        at = now - timedelta(days=days)
        frames = list(SimulatedController(condition).frames("all axes", here_at(site, at, None), SECONDS, days))
        samples = np.array([frame.field_ut for frame in frames])
        fit = fit_ellipsoid(samples)
        dip = dip_of(fit, samples, -np.array([frame.acceleration_g for frame in frames]))
        found = calibration_of(fit, 1.0, at=at, by="recording", site=site.name, position=site.position, dip=dip)
        calibrations.keep(hangar.get(Aircraft, numbers[name]), found, site, at)
        if condition == "good":
            recordings.keep(numbers[name], recordings.coming(as_recording(frames[::2]), "Turned on the meadow"), at)
    for days, seconds in enumerate((13.2, 14.1, 13.6, 15.0), 3):
        calibrations.keep_start(numbers["Sandpiper"], StillStart(at=now - timedelta(days=days), seconds=seconds))
