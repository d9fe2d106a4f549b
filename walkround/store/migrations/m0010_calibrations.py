"""Calibrations as they were measured and judged."""

STATEMENTS = (
    """CREATE TABLE calibration (
        id INTEGER PRIMARY KEY,
        aircraft_id INTEGER NOT NULL REFERENCES aircraft (id),
        kind TEXT NOT NULL,
        at TEXT NOT NULL,
        body TEXT NOT NULL
    )""",
    "CREATE INDEX calibration_aircraft ON calibration (aircraft_id, kind, at)",
)
