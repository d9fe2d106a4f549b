"""Recordings of flight controllers, as they came."""

STATEMENTS = (
    """CREATE TABLE recording (
        id INTEGER PRIMARY KEY,
        aircraft_id INTEGER NOT NULL REFERENCES aircraft (id),
        at TEXT NOT NULL,
        name TEXT NOT NULL,
        kind TEXT NOT NULL,
        sensors TEXT NOT NULL,
        total INTEGER NOT NULL,
        simulated INTEGER NOT NULL,
        body BLOB NOT NULL
    )""",
    "CREATE INDEX recording_aircraft ON recording (aircraft_id, at)",
)
