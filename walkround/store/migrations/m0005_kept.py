"""What was signed stays: no snag that signed evidence opened is deleted. Imports: rows come in parts and show at once."""

STATEMENTS = (
    """CREATE TRIGGER signed_snag_stays BEFORE DELETE ON snag
        WHEN OLD.opened_by IS NOT NULL AND EXISTS (
            SELECT 1 FROM evidence e JOIN record r ON r.round_id = e.round_id
            WHERE e.id = OLD.opened_by AND e.id <= (
                SELECT max(json_extract(piece.value, '$.id')) FROM json_each(r.text, '$.evidence') piece))
        BEGIN SELECT RAISE(ABORT, 'a snag that signed evidence opened stays'); END""",
    """CREATE TABLE import_run (
        id INTEGER PRIMARY KEY, at TEXT NOT NULL, name TEXT NOT NULL DEFAULT '',
        state TEXT NOT NULL DEFAULT 'coming' CHECK (state IN ('coming', 'here')))""",
    "ALTER TABLE reading ADD COLUMN import_id INTEGER REFERENCES import_run(id)",
    "CREATE INDEX reading_by_import ON reading (import_id) WHERE import_id IS NOT NULL",
)
