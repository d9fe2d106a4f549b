"""What the logbook and the last rounds say of an aircraft: how often it was flown, and where a fault was found lately."""

from typing import Any

from peewee import Select, fn

from walkround.store.models import FlightRow
from walkround.store.statements import prepared, until_changed

LAST_ROUNDS = 3
"""What was found in so many last rounds, signed or abandoned, stays on the list. Source: our choice; common practice, no source."""
_FOUND = """
    WITH last AS (SELECT id FROM round WHERE aircraft_id = ? AND state != 'open' ORDER BY started_at DESC, id DESC LIMIT ?),
        undone AS (SELECT json_extract(answer, '$.of') AS of FROM evidence
            WHERE round_id IN last AND json_extract(answer, '$.kind') = 'undone')
    SELECT DISTINCT check_id FROM evidence
    WHERE round_id IN last AND json_extract(answer, '$.kind') = 'fault' AND id NOT IN (SELECT of FROM undone)
    ORDER BY check_id"""


@prepared
def _flights_with(aircraft: Any) -> Select:
    flown = (FlightRow.aircraft == aircraft) & FlightRow.landed_at.is_null(False)
    return FlightRow.select(fn.COUNT(FlightRow.id)).where(flown)


def flights_with(aircraft_id: int) -> int:
    """How many flights of an aircraft are in the logbook, without unit. Source: counting."""
    return int(_flights_with.value(aircraft_id))


@until_changed
def found_lately(aircraft_id: int) -> tuple[str, ...]:
    """The checks that recorded a fault in the last rounds of an aircraft and were not undone. Source: ``LAST_ROUNDS``."""
    rows = FlightRow._meta.database.execute_sql(_FOUND, (aircraft_id, LAST_ROUNDS)).fetchall()
    return tuple(row[0] for row in rows)
