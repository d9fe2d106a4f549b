"""The first schema: hangar, rounds with append-only evidence, frozen records, logbook, events, snags, settings."""

STATEMENTS = (
    "CREATE TABLE setting (name TEXT PRIMARY KEY, value TEXT NOT NULL)",
    """CREATE TABLE aircraft (
        id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE COLLATE NOCASE, spec TEXT NOT NULL,
        retired INTEGER NOT NULL DEFAULT 0, created_at TEXT NOT NULL)""",
    """CREATE TABLE pack (
        id INTEGER PRIMARY KEY, label TEXT NOT NULL UNIQUE COLLATE NOCASE, spec TEXT NOT NULL,
        retired INTEGER NOT NULL DEFAULT 0, created_at TEXT NOT NULL)""",
    """CREATE TABLE site (
        id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE COLLATE NOCASE, spec TEXT NOT NULL, created_at TEXT NOT NULL)""",
    """CREATE TABLE round (
        id INTEGER PRIMARY KEY, aircraft_id INTEGER NOT NULL REFERENCES aircraft(id),
        pack_id INTEGER NOT NULL REFERENCES pack(id), site_id INTEGER NOT NULL REFERENCES site(id),
        started_at TEXT NOT NULL, situation TEXT NOT NULL,
        state TEXT NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'signed', 'left')),
        signed_at TEXT, level INTEGER)""",
    "CREATE INDEX round_by_state ON round (state, started_at)",
    "CREATE INDEX round_by_time ON round (started_at)",
    "CREATE INDEX round_by_aircraft ON round (aircraft_id, signed_at)",
    """CREATE TABLE evidence (
        id INTEGER PRIMARY KEY AUTOINCREMENT, round_id INTEGER NOT NULL REFERENCES round(id),
        check_id TEXT NOT NULL, at TEXT NOT NULL, "by" TEXT NOT NULL, answer TEXT NOT NULL)""",
    "CREATE INDEX evidence_by_round ON evidence (round_id, id)",
    """CREATE TRIGGER evidence_is_kept BEFORE UPDATE ON evidence
        BEGIN SELECT RAISE(ABORT, 'evidence is append-only'); END""",
    """CREATE TRIGGER evidence_stays BEFORE DELETE ON evidence
        BEGIN SELECT RAISE(ABORT, 'evidence is append-only'); END""",
    """CREATE TABLE record (
        round_id INTEGER PRIMARY KEY REFERENCES round(id), text TEXT NOT NULL, sha256 TEXT NOT NULL,
        signed_by TEXT NOT NULL, signed_at TEXT NOT NULL)""",
    """CREATE TRIGGER record_is_frozen BEFORE UPDATE ON record
        BEGIN SELECT RAISE(ABORT, 'a signed round is frozen'); END""",
    """CREATE TRIGGER record_stays BEFORE DELETE ON record
        BEGIN SELECT RAISE(ABORT, 'a signed round is frozen'); END""",
    """CREATE TABLE flight (
        id INTEGER PRIMARY KEY, round_id INTEGER REFERENCES round(id),
        aircraft_id INTEGER NOT NULL REFERENCES aircraft(id), pack_id INTEGER NOT NULL REFERENCES pack(id),
        site_id INTEGER NOT NULL REFERENCES site(id), took_off_at TEXT NOT NULL, landed_at TEXT, minutes REAL,
        left_percent REAL, left_v REAL, happened TEXT NOT NULL DEFAULT '', note TEXT NOT NULL DEFAULT '',
        logged_at TEXT)""",
    "CREATE UNIQUE INDEX one_flight_a_round ON flight (round_id)",
    "CREATE INDEX flight_by_time ON flight (took_off_at)",
    "CREATE INDEX flight_by_aircraft ON flight (aircraft_id, took_off_at)",
    "CREATE INDEX flight_by_pack ON flight (pack_id, took_off_at)",
    """CREATE TABLE event (
        id INTEGER PRIMARY KEY, aircraft_id INTEGER NOT NULL REFERENCES aircraft(id), kind TEXT NOT NULL,
        at TEXT NOT NULL, detail TEXT NOT NULL DEFAULT '', lat_deg REAL, lon_deg REAL, site TEXT NOT NULL DEFAULT '',
        evidence_id INTEGER REFERENCES evidence(id))""",
    "CREATE INDEX event_by_aircraft ON event (aircraft_id, at)",
    """CREATE TABLE snag (
        id INTEGER PRIMARY KEY, aircraft_id INTEGER REFERENCES aircraft(id), pack_id INTEGER REFERENCES pack(id),
        title TEXT NOT NULL, grounds INTEGER NOT NULL, check_id TEXT NOT NULL DEFAULT '', opened_at TEXT NOT NULL,
        opened_by INTEGER REFERENCES evidence(id), closed_at TEXT, closed_how TEXT NOT NULL DEFAULT '',
        closed_by INTEGER REFERENCES evidence(id),
        CHECK ((aircraft_id IS NULL) <> (pack_id IS NULL)))""",
    "CREATE INDEX snag_open_aircraft ON snag (aircraft_id, closed_at)",
    "CREATE INDEX snag_open_pack ON snag (pack_id, closed_at)",
    """CREATE TABLE done (
        aircraft_id INTEGER NOT NULL REFERENCES aircraft(id), check_id TEXT NOT NULL, at TEXT NOT NULL,
        value TEXT, PRIMARY KEY (aircraft_id, check_id)) WITHOUT ROWID""",
)
