"""What is noted in the air, by the id that the phone gave it: sent twice, it is there once; accidents and near misses; charges of the gear."""

STATEMENTS = (
    """CREATE TABLE air_note (
        id INTEGER PRIMARY KEY,
        round_id INTEGER NOT NULL REFERENCES round (id),
        uid TEXT NOT NULL UNIQUE,
        kind TEXT NOT NULL,
        at TEXT NOT NULL,
        received_at TEXT NOT NULL,
        percent REAL,
        bearing_deg REAL,
        words TEXT NOT NULL DEFAULT ''
    )""",
    "CREATE INDEX air_note_round ON air_note (round_id)",
    "CREATE INDEX flight_unfinished ON flight (took_off_at) WHERE logged_at IS NULL",
    """CREATE TABLE occurrence (
        id INTEGER PRIMARY KEY,
        aircraft_id INTEGER NOT NULL REFERENCES aircraft (id),
        site_id INTEGER REFERENCES site (id),
        kind TEXT NOT NULL,
        at TEXT NOT NULL,
        what TEXT NOT NULL,
        witnesses TEXT NOT NULL DEFAULT '',
        created_at TEXT NOT NULL
    )""",
    """CREATE TABLE occurrence_photo (
        id INTEGER PRIMARY KEY,
        occurrence_id INTEGER NOT NULL REFERENCES occurrence (id),
        jpeg BLOB NOT NULL,
        width INTEGER NOT NULL,
        height INTEGER NOT NULL,
        taken_at TEXT NOT NULL
    )""",
    """CREATE TABLE gear_reading (
        id INTEGER PRIMARY KEY,
        gear TEXT NOT NULL,
        at TEXT NOT NULL,
        low REAL NOT NULL,
        high REAL NOT NULL
    )""",
    "CREATE INDEX gear_reading_gear ON gear_reading (gear, at)",
)
