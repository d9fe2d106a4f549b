"""What was passed, when, and what was measured: remembered for the next plan of the aircraft."""

from collections.abc import Iterable
from datetime import datetime
from typing import Any

import msgspec

from walkround.core.answers.ways_out import WayOut
from walkround.core.base.finding import Level
from walkround.core.round.walk import CheckState, Walk
from walkround.store import fields, snags
from walkround.store.models import DoneRow

PATH = "field.path"
"""The check by which a field counts as walked. Source: id of the library."""


def note(walked: Walk, now: datetime) -> None:
    """Remember for the next plan what was passed on this aircraft, when, and what was measured."""
    rows = keep(walked.situation.aircraft.id, walked.before())
    snags.decide(walked.situation.aircraft.id, {row["check_id"]: row["at"] for row in rows}, now)
    walked_path = next((row["at"] for row in rows if row["check_id"] == PATH), None)
    if walked_path is not None:
        fields.walked(walked.situation.site.id, walked_path, now)


def keep(aircraft: int, states: Iterable[CheckState]) -> list[dict[str, Any]]:
    """Keep when each check was passed, and what was measured; returns the rows kept."""
    rows = []
    for state in states:
        piece = state.evidence
        if piece is None or state.planned.snag or isinstance(piece.answer, WayOut):
            continue
        if state.level is Level.GROUNDED:
            continue
        remembered = piece.answer.remembered(state.planned.check.ask)
        rows.append(
            {
                "aircraft": aircraft,
                "check_id": piece.check_id,
                "at": piece.at,
                "value": None if remembered is None else msgspec.json.encode(remembered).decode(),
            }
        )
    if rows:
        DoneRow.replace_many(rows).execute()  # type: ignore[no-untyped-call]
    return rows
