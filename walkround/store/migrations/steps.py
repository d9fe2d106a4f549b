"""Numbered schema changes. Each runs once, in one transaction with the note that it ran."""

from walkround.store.migrations import (
    m0001_first,
    m0002_parts,
    m0003_packs,
    m0004_fields,
    m0005_kept,
    m0006_terms,
    m0007_in_air,
    m0008_link_trials,
    m0009_touches,
    m0010_calibrations,
    m0011_recordings,
)
from walkround.store.migrations.run import Statement, run

MIGRATIONS: tuple[tuple[int, str, tuple[Statement, ...]], ...] = (
    (1, "first", m0001_first.STATEMENTS),
    (2, "parts", m0002_parts.STATEMENTS),
    (3, "packs", m0003_packs.STATEMENTS),
    (4, "fields", m0004_fields.STATEMENTS),
    (5, "kept", m0005_kept.STATEMENTS),
    (6, "terms", m0006_terms.STATEMENTS),
    (7, "in air", m0007_in_air.STATEMENTS),
    (8, "link trials", m0008_link_trials.STATEMENTS),
    (9, "touches", m0009_touches.STATEMENTS),
    (10, "calibrations", m0010_calibrations.STATEMENTS),
    (11, "recordings", m0011_recordings.STATEMENTS),
)
"""(number, name, statements), in order. A number once used is never changed, only followed by the next."""
__all__ = ["MIGRATIONS", "run"]
