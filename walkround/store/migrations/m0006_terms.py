"""The field's own terms for columns, settings, checks and zones, and the ids of parts; what carries a format number is upgraded as it is read."""

import json

from walkround.store.migrations.run import Execute
from walkround.store.upgrade import step_4

BATCH = 500


def _settings(execute: Execute) -> None:
    for name, value in execute("SELECT name, value FROM setting").fetchall():
        now, changed = step_4.setting(name, json.loads(value))
        execute("DELETE FROM setting WHERE name = ?", (name,))
        execute("INSERT INTO setting (name, value) VALUES (?, ?)", (now, json.dumps(changed)))


def _checks(execute: Execute) -> None:
    for table in ("done", "snag"):
        for (old,) in execute(f"SELECT DISTINCT check_id FROM {table}").fetchall():
            if (now := step_4.check_id(old)) != old:
                execute(f"UPDATE {table} SET check_id = ? WHERE check_id = ?", (now, old))


def _values(execute: Execute) -> None:
    for table, column, names in (("event", "kind", step_4.EVENTS), ("pack_change", "state", step_4.STATES)):
        for old, now in names.items():
            execute(f"UPDATE {table} SET {column} = ? WHERE {column} = ?", (now, old))


def _specs(execute: Execute) -> None:
    """Zones and summaries of packs, some hundred at a time: there may be very many."""
    for table, column in (("zone", "spec"), ("pack", "summary")):
        last = 0
        while rows := execute(
            f"SELECT id, {column} FROM {table} WHERE id > ? AND {column} IS NOT NULL ORDER BY id LIMIT {BATCH}", (last,)
        ).fetchall():
            for number, text in rows:
                now = step_4.row(table, {column: text})[column]
                execute(f"UPDATE {table} SET {column} = ? WHERE id = ?", (now, number))
            last = rows[-1][0]


STATEMENTS = (
    "ALTER TABLE part RENAME COLUMN hand TO rotation",
    "ALTER TABLE part ADD COLUMN part_id TEXT NOT NULL DEFAULT ''",
    "ALTER TABLE snag ADD COLUMN parts TEXT NOT NULL DEFAULT ''",
    "ALTER TABLE reading RENAME COLUMN put_back_mah TO recharged_mah",
    "ALTER TABLE pack_change RENAME COLUMN for_good TO condemned",
    _settings,
    _checks,
    _values,
    _specs,
)
