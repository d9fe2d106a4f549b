"""Trials of a lost link: bench tests of the failsafe, and returns flown on purpose."""

STATEMENTS = (
    """CREATE TABLE link_trial (
        id INTEGER PRIMARY KEY,
        aircraft_id INTEGER NOT NULL REFERENCES aircraft (id),
        kind TEXT NOT NULL,
        at TEXT NOT NULL,
        body TEXT NOT NULL
    )""",
    "CREATE INDEX link_trial_aircraft ON link_trial (aircraft_id, at)",
)
