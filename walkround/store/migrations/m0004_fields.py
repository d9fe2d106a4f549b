"""Former plans of fields for undo; airspace zones with an index over their boxes."""

STATEMENTS = (
    """CREATE TABLE site_past (
        id INTEGER PRIMARY KEY, site_id INTEGER NOT NULL REFERENCES site(id), at TEXT NOT NULL, what TEXT NOT NULL,
        name TEXT NOT NULL, spec TEXT NOT NULL)""",
    "CREATE INDEX site_past_by_site ON site_past (site_id, id)",
    """CREATE TABLE zone_set (
        id INTEGER PRIMARY KEY, name TEXT NOT NULL UNIQUE COLLATE NOCASE, service INTEGER NOT NULL DEFAULT 0,
        read_at TEXT NOT NULL, as_of TEXT)""",
    "CREATE TABLE zone (id INTEGER PRIMARY KEY, set_id INTEGER NOT NULL REFERENCES zone_set(id), spec TEXT NOT NULL)",
    "CREATE INDEX zone_by_set ON zone (set_id)",
    "CREATE VIRTUAL TABLE zone_box USING rtree (id, min_lon, max_lon, min_lat, max_lat)",
)
