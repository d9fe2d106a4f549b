"""Parts as a hand left them in a round, and spares that were used from the bag."""

STATEMENTS = (
    """CREATE TABLE touch (
        round_id INTEGER NOT NULL REFERENCES round (id),
        part_id TEXT NOT NULL,
        aircraft_id INTEGER NOT NULL REFERENCES aircraft (id),
        state TEXT NOT NULL,
        at TEXT NOT NULL,
        PRIMARY KEY (round_id, part_id)
    )""",
    "CREATE INDEX touch_aircraft ON touch (aircraft_id, part_id, at)",
    """CREATE TABLE spare_used (
        id INTEGER PRIMARY KEY,
        aircraft_id INTEGER NOT NULL REFERENCES aircraft (id),
        thing TEXT NOT NULL,
        part_id TEXT NOT NULL,
        at TEXT NOT NULL
    )""",
    "CREATE INDEX spare_used_aircraft ON spare_used (aircraft_id, at)",
)
