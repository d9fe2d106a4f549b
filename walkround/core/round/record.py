"""The record: a signed round, frozen whole with its content hash."""

import hashlib
import json
from datetime import datetime
from typing import Any

from pydantic import Field

from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding
from walkround.core.base.phrase import Phrase
from walkround.core.base.value import Value
from walkround.core.checklist.check import Phase
from walkround.core.round.evidence import Evidence
from walkround.core.round.situation import Situation
from walkround.core.round.verdict import Verdict
from walkround.core.round.walk import Walk

RECORD_FORMAT = "walk-round-record/2"


class RecordedCheck(Value):
    """A check as it was asked that day."""

    id: str
    station: str
    title: str
    how: str
    why: str
    why_today: Phrase
    grounds: bool
    source: str


class Record(Value):
    """Situation, plan, evidence, findings, verdict, who and when. Nothing edits it; an addendum may follow."""

    format: str = RECORD_FORMAT
    round_id: int
    signed_by: str = Field(min_length=1, max_length=60)
    signed_at: datetime
    situation: Situation
    plan: tuple[RecordedCheck, ...]
    evidence: tuple[Evidence, ...]
    findings: tuple[Finding, ...]
    verdict: Verdict

    def canonical(self) -> str:
        """The one text of this record: JSON, keys sorted, no spaces. Source: our choice; no unit."""
        return canonical(self.model_dump(mode="json"))

    def sha256(self) -> str:
        """Hash of the canonical text, in hex. Source: FIPS 180-4, SHA-256."""
        return content_hash(self.canonical())


def canonical(data: Any) -> str:
    """JSON with sorted keys and no spaces; the same data gives the same text. Source: our choice; no unit."""
    return json.dumps(data, sort_keys=True, separators=(",", ":"), ensure_ascii=False)


def content_hash(text: str) -> str:
    """SHA-256 of a text in UTF-8, in hex. Source: FIPS 180-4."""
    return hashlib.sha256(text.encode()).hexdigest()


def sign(round_: Walk, round_id: int, evidence: tuple[Evidence, ...], signed_by: str, at: datetime) -> Record:
    """Freeze a round. All evidence goes in, undone pieces too.

    Raises InputError while a check before take-off is open or the name is empty. Source: a check not done is never
    a pass; common practice, no source.
    """
    name = " ".join(signed_by.split())
    if not name:
        raise InputError("Sign with your name.", "signed_by")
    if len(name) > 60:
        raise InputError("The name has more than 60 characters.", "signed_by")
    if not round_.verdict.complete:
        left = round_.verdict.open
        noun = "check is" if left == 1 else "checks are"
        raise InputError(f"{left} {noun} still open. Do them, or skip them with a reason.")
    before = {s.planned.check.id for s in round_.before()}
    return Record(
        round_id=round_id,
        signed_by=name,
        signed_at=at,
        situation=round_.situation,
        plan=tuple(
            RecordedCheck(
                id=p.check.id,
                station=p.check.station.value,
                title=p.check.title,
                how=p.check.how,
                why=p.check.why,
                why_today=p.why_today,
                grounds=p.check.grounds,
                source=p.check.source,
            )
            for p in round_.plan.checks
            if p.check.phase is Phase.BEFORE
        ),
        evidence=evidence,
        findings=(
            *round_.left_out,
            *(f for s in round_.states if s.planned.check.id in before for f in s.findings),
        ),
        verdict=round_.verdict,
    )
