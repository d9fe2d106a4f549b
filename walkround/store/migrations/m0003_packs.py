"""Readings of packs, changes of their state, and what is known of each in short.

What older books knew is taken along: charges that were noted, cells read in rounds, and packs that were retired.
"""

_MOMENT = "strftime('%Y-%m-%dT%H:%M:%f', {0}) || '000+00:00'"

STATEMENTS = (
    "ALTER TABLE pack ADD COLUMN summary TEXT",
    "ALTER TABLE flight ADD COLUMN mass_g REAL",
    """UPDATE flight SET mass_g = (SELECT json_extract(r.situation, '$.aircraft.mass_g') FROM round r WHERE r.id = round_id)
        WHERE round_id IS NOT NULL""",
    """CREATE TABLE reading (
        id INTEGER PRIMARY KEY, pack_id INTEGER NOT NULL REFERENCES pack(id), at TEXT NOT NULL,
        cells TEXT NOT NULL DEFAULT '', total_v REAL, percent REAL, lights INTEGER,
        resistance TEXT NOT NULL DEFAULT '', temperature_c REAL, put_back_mah REAL,
        after TEXT NOT NULL DEFAULT 'rest', since_min REAL, "by" TEXT NOT NULL DEFAULT 'pilot',
        note TEXT NOT NULL DEFAULT '', looked_over INTEGER NOT NULL DEFAULT 0, evidence_id INTEGER REFERENCES evidence(id))""",
    "CREATE UNIQUE INDEX reading_by_pack ON reading (pack_id, at)",
    "CREATE INDEX reading_by_evidence ON reading (evidence_id) WHERE evidence_id IS NOT NULL",
    """CREATE TABLE pack_change (
        id INTEGER PRIMARY KEY, pack_id INTEGER NOT NULL REFERENCES pack(id), state TEXT NOT NULL, at TEXT NOT NULL,
        reason TEXT NOT NULL, for_good INTEGER NOT NULL DEFAULT 0, evidence_id INTEGER REFERENCES evidence(id))""",
    "CREATE INDEX pack_change_by_pack ON pack_change (pack_id, at)",
    f"""INSERT OR IGNORE INTO reading (pack_id, at, percent, after, since_min)
        SELECT id, {_MOMENT.format("json_extract(spec, '$.charged_at')")}, 100, 'charge', 0
        FROM pack WHERE json_extract(spec, '$.charged_at') IS NOT NULL""",
    """INSERT OR IGNORE INTO reading (pack_id, at, cells, total_v, "by", evidence_id)
        SELECT r.pack_id, e.at, coalesce(json_extract(e.answer, '$.reading.cells_v'), ''),
            json_extract(e.answer, '$.reading.total_v'), e."by", e.id
        FROM evidence e JOIN round r ON r.id = e.round_id
        WHERE e.check_id = 'pack.cells' AND json_extract(e.answer, '$.kind') = 'cells'
            AND e.id NOT IN (SELECT json_extract(answer, '$.of') FROM evidence
                             WHERE json_extract(answer, '$.kind') = 'undone')""",
    """INSERT INTO pack_change (pack_id, state, at, reason)
        SELECT id, 'retired', created_at, 'retired before reasons were kept' FROM pack WHERE retired""",
)
