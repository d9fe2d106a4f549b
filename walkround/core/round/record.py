"""The record: a signed round, frozen whole with its content hash, and shown again from what it says."""

import hashlib
import json
from collections.abc import Sequence
from datetime import datetime
from typing import Annotated, Any

from msgspec.structs import replace

from walkround.core.answers.tick import AskTick
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding
from walkround.core.base.kept import kept
from walkround.core.base.phrase import Phrase
from walkround.core.base.units import Units
from walkround.core.base.value import Allowed, Value
from walkround.core.base.wording import plural
from walkround.core.checklist.check import Check, Frequency, Phase, Station
from walkround.core.round.evidence import Evidence, current, live
from walkround.core.round.plan import Plan, PlannedCheck, make_plan
from walkround.core.round.situation import Situation
from walkround.core.round.verdict import Verdict
from walkround.core.round.walk import CheckState, Walk, walk

RECORD_FORMAT = "walk-round-record/4"


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
    """Situation, plan, evidence, findings, verdict, who and when, and the units it was shown in (None: not kept).

    Nothing edits it; an addendum may follow.
    """

    format: str = RECORD_FORMAT
    round_id: int
    signed_by: Annotated[str, Allowed(min_length=1, max_length=60)]
    signed_at: datetime
    situation: Situation
    plan: tuple[RecordedCheck, ...]
    evidence: tuple[Evidence, ...]
    findings: tuple[Finding, ...]
    verdict: Verdict
    units: Units | None = None

    def canonical(self) -> str:
        """The one text of this record: JSON, keys sorted, no spaces."""
        return canonical(self.model_dump(mode="json"))

    @property
    def through(self) -> int:
        """Number of the last piece of evidence that was signed; what comes later is an addendum, whatever its clock says."""
        return max((piece.id for piece in self.evidence), default=0)

    def sha256(self) -> str:
        """Hash of the canonical text, in hex. Source: FIPS 180-4, SHA-256."""
        return content_hash(self.canonical())


def canonical(data: Any) -> str:
    """JSON with sorted keys and no spaces; the same data gives the same text."""
    return json.dumps(data, sort_keys=True, separators=(",", ":"), ensure_ascii=False)


def content_hash(text: str) -> str:
    """SHA-256 of a text in UTF-8, in hex. Source: FIPS 180-4."""
    return hashlib.sha256(text.encode()).hexdigest()


def sign(
    round_: Walk,
    round_id: int,
    evidence: tuple[Evidence, ...],
    signed_by: str,
    at: datetime,
    units: Units | None = None,
) -> Record:
    """Freeze a round. All evidence goes in, undone pieces too; ``units``: those that the pilot saw it in.

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
        noun = plural(left, "check is", "checks are")
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
        units=units,
    )


def signed_walk(record: Record, addendum: Sequence[Evidence]) -> Walk:
    """A signed round as it stands: what was asked, answered and found before take-off as the record says, word for word.

    The checks in the air and after landing are judged as they are answered: ``addendum``, the evidence since. Nothing in
    it changes what was signed. Source: the record; the library for how a check is drawn and for the checks of the flight.
    """
    plan, flight, frozen = _frozen(record)
    asked_ids = {asked.id for asked in record.plan}
    later = live(addendum)
    # What was signed waits for nothing any more; on the ground again, disarmed and unplugged still comes before a hand.
    after = walk(record.situation, [*live(record.evidence), *later], flight)
    return Walk(
        situation=record.situation,
        plan=plan,
        states=(*frozen, *after.states),
        verdict=record.verdict,
        left_out=tuple(f for f in record.findings if f.check_id not in asked_ids),
        last=after.last,
    )


@kept
def _frozen(record: Record) -> tuple[Plan, Plan, tuple[CheckState, ...]]:
    """What of a signed round never changes: its plan, the part of it that is flown, and how the checks before take-off stand."""
    today = make_plan(record.situation)
    known = {planned.check.id: planned for planned in today.checks}
    before = tuple(_as_asked(asked, known.get(asked.id)) for asked in record.plan)
    flight = tuple(planned for planned in today.checks if planned.check.phase is not Phase.BEFORE)
    answers = current(record.evidence)
    found: dict[str, list[Finding]] = {}
    for finding in record.findings:
        found.setdefault(finding.check_id, []).append(finding)
    frozen = tuple(
        CheckState(planned=p, evidence=answers.get(p.check.id), findings=tuple(found.get(p.check.id, ())))
        for p in before
    )
    return Plan(checks=(*before, *flight), gates=today.gates), Plan(checks=flight, gates=today.gates), frozen


def _as_asked(asked: RecordedCheck, known: PlannedCheck | None) -> PlannedCheck:
    """A check in the words in which it was asked that day; how it is drawn, as the library has it while it knows it."""
    words = {name: getattr(asked, name) for name in ("title", "how", "why", "grounds", "source")}
    if known is not None:
        return replace(known, check=replace(known.check, **words), why_today=asked.why_today)
    check = Check(
        id=asked.id,
        station=Station(asked.station),
        frequency=Frequency.LAUNCH,
        ask=AskTick(),
        fault="",
        remedy="",
        **words,
    )
    return PlannedCheck(check=check, why_today=asked.why_today)
