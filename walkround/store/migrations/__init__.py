"""Numbered schema changes. Each runs once, in one transaction with the note that it ran."""

from walkround.store.migrations import m0001_first, m0002_parts, m0003_packs, m0004_fields, m0005_kept

MIGRATIONS: tuple[tuple[int, str, tuple[str, ...]], ...] = (
    (1, "first", m0001_first.STATEMENTS),
    (2, "parts", m0002_parts.STATEMENTS),
    (3, "packs", m0003_packs.STATEMENTS),
    (4, "fields", m0004_fields.STATEMENTS),
    (5, "kept", m0005_kept.STATEMENTS),
)
"""(number, name, statements), in order. A number once used is never changed, only followed by the next."""
