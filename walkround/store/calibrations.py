"""Calibrations of an aircraft: kept as measured and judged; one that passes is an event, unless a simulated device gave it."""

import json
from datetime import datetime
from functools import lru_cache
from itertools import takewhile
from typing import Any

from peewee import Select

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.clock import is_ahead
from walkround.core.base.finding import Finding, Level, worst
from walkround.core.calibration.compass import CompassCalibration, judge_compass
from walkround.core.calibration.earth import field_at
from walkround.core.calibration.level import LevelCalibration, judge_level_calibration
from walkround.core.calibration.still import StillStart
from walkround.core.checklist.history import EventKind
from walkround.core.field.site import Site
from walkround.store import hangar
from walkround.store.models import EventRow
from walkround.store.part_models import CalibrationRow
from walkround.store.statements import prepared

MOST = 40
EVENTS = {"compass": EventKind.COMPASS_CALIBRATED, "level": EventKind.ACCELEROMETER_CALIBRATED}
Calibration = CompassCalibration | LevelCalibration
KINDS: dict[str, type[CompassCalibration | LevelCalibration | StillStart]] = {
    "compass": CompassCalibration,
    "level": LevelCalibration,
    "still": StillStart,
}


@prepared
def _newest(aircraft: Any, kind: Any) -> Select:
    mine = (CalibrationRow.aircraft == aircraft) & (CalibrationRow.kind == kind)
    return (
        CalibrationRow.select(CalibrationRow.id, CalibrationRow.body)
        .where(mine)
        .order_by(CalibrationRow.at.desc(), CalibrationRow.id.desc())
        .limit(MOST)
    )


@lru_cache(maxsize=256)
def _read(text: str) -> CompassCalibration | LevelCalibration | StillStart:
    body = json.loads(text)
    return KINDS[body["kind"]].model_validate(body)


def starts(aircraft_id: int) -> list[StillStart]:
    """The newest timed starts of an aircraft, newest first."""
    return [found for _, body in _newest(aircraft_id, "still") if isinstance(found := _read(body), StillStart)]


def keep_start(aircraft_id: int, start: StillStart) -> None:
    """Keep a timed start, in the caller's transaction."""
    _create(aircraft_id, start)


def _create(aircraft_id: int, found: CompassCalibration | LevelCalibration | StillStart) -> None:
    body = json.dumps(found.model_dump(mode="json"))
    CalibrationRow.create(aircraft=aircraft_id, kind=found.kind, at=found.at, body=body)


def compass_ones(aircraft_id: int) -> list[CompassCalibration]:
    """The newest calibrations of the compass of an aircraft, newest first."""
    return [
        found for _, body in _newest(aircraft_id, "compass") if isinstance(found := _read(body), CompassCalibration)
    ]


def level_ones(aircraft_id: int) -> list[LevelCalibration]:
    """The newest calibrations of the accelerometer of an aircraft, newest first."""
    return [found for _, body in _newest(aircraft_id, "level") if isinstance(found := _read(body), LevelCalibration)]


def before(aircraft_id: int, moment: datetime) -> CompassCalibration | None:
    """The calibration of the compass that counted before an aware moment: real, passed, with an offset; None where there is none."""
    return next(
        (
            one
            for one in compass_ones(aircraft_id)
            if one.at < moment
            and not one.simulated
            and one.level is not None
            and one.level < Level.GROUNDED
            and one.offset_ut is not None
        ),
        None,
    )


def failed_in_a_row(aircraft_id: int) -> int:
    """How many times in a row the light of an aircraft has shown "failed" up to now."""
    return len(list(takewhile(lambda one: one.light == "failed", compass_ones(aircraft_id))))


def judged(found: Calibration, aircraft_id: int, site: Site | None) -> tuple[Finding, ...]:
    """What is said of a calibration of an aircraft, made at a site."""
    if isinstance(found, LevelCalibration):
        return judge_level_calibration(found)
    return judge_compass(found, field_at(site, found.at), before(aircraft_id, found.at))


def keep(aircraft: Aircraft, found: Calibration, site: Site | None, now: datetime) -> Calibration:
    """Keep a calibration with its level, in the caller's transaction. One that passes and is not simulated is an event of the aircraft at its field."""
    level = worst(judged(found, aircraft.id, site))
    kept = found.model_copy(update={"level": level})
    _create(aircraft.id, kept)
    if level < Level.GROUNDED and not kept.simulated and not is_ahead(kept.at, now):
        kind = EVENTS[kept.kind]
        if (
            not EventRow.select()
            .where((EventRow.aircraft == aircraft.id) & (EventRow.kind == kind.value) & (EventRow.at == kept.at))
            .exists()
        ):
            place = site.position if site is not None else None
            hangar.add_event(
                aircraft.id,
                kind,
                kept.at,
                detail="measured",
                position=place,
                site=site.name if site is not None else "",
            )
    return kept
