"""Parts with their history, photos of snags, the part of an event, and an index to find flights by field."""

STATEMENTS = (
    "ALTER TABLE event ADD COLUMN part TEXT NOT NULL DEFAULT ''",
    """CREATE TABLE part (
        id INTEGER PRIMARY KEY, aircraft_id INTEGER NOT NULL REFERENCES aircraft(id), kind TEXT NOT NULL,
        name TEXT NOT NULL DEFAULT '', place TEXT NOT NULL DEFAULT '', hand TEXT NOT NULL DEFAULT '',
        size TEXT NOT NULL DEFAULT '', firmware TEXT NOT NULL DEFAULT '', fitted_at TEXT NOT NULL, removed_at TEXT,
        why_removed TEXT NOT NULL DEFAULT '', followed_by INTEGER REFERENCES part(id))""",
    "CREATE INDEX part_by_aircraft ON part (aircraft_id, removed_at)",
    """CREATE TABLE photo (
        snag_id INTEGER PRIMARY KEY REFERENCES snag(id) ON DELETE CASCADE, jpeg BLOB NOT NULL,
        width INTEGER NOT NULL, height INTEGER NOT NULL, taken_at TEXT NOT NULL)""",
    "CREATE INDEX flight_by_site ON flight (site_id, took_off_at)",
)
