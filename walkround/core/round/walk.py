"""A walk round in progress: plan and evidence folded into states, gates and the running verdict."""

from collections.abc import Iterable

from walkround.core.answers.kind import NOTE_CHARS, Answer
from walkround.core.answers.ways_out import Skipped, WayOut
from walkround.core.base.errors import BlockedError, InputError, MissingError
from walkround.core.base.finding import Finding, Level, worst
from walkround.core.base.phrase import Phrase
from walkround.core.base.struct import Struct
from walkround.core.base.wording import capital
from walkround.core.checklist.check import Check, Gate, Phase, SafeState, Station
from walkround.core.round.context import Answers, Context
from walkround.core.round.contradictions import disagreements
from walkround.core.round.evidence import Evidence, current, live, side_by_side
from walkround.core.round.judge import judge
from walkround.core.round.plan import LeftOut, Plan, PlannedCheck, make_plan
from walkround.core.round.rejudge import judged
from walkround.core.round.situation import Situation
from walkround.core.round.verdict import Verdict, sum_up


class CheckState(Struct, frozen=True, kw_only=True):
    """One check as it stands: its evidence and findings, or the gate that blocks it. ``rival``: another answer that stands beside this one,
    which is the worse of the two."""

    planned: PlannedCheck
    evidence: Evidence | None = None
    findings: tuple[Finding, ...] = ()
    gate: Gate | None = None
    rival: Evidence | None = None
    waits_for: tuple[str, ...] = ()

    @property
    def level(self) -> Level | None:
        """Worst level of its findings, or None while it is open."""
        return None if self.evidence is None else worst(self.findings)

    @property
    def skipped(self) -> bool:
        """Whether it was skipped with a reason."""
        return self.evidence is not None and isinstance(self.evidence.answer, Skipped)


class Walk(Struct, frozen=True, kw_only=True):
    """The round as it stands."""

    situation: Situation
    plan: Plan
    states: tuple[CheckState, ...]
    verdict: Verdict
    left_out: tuple[Finding, ...] = ()
    safe_state: SafeState | None = None
    last: Evidence | None = None

    def state(self, check_id: str) -> CheckState:
        """The state of one check. Raises MissingError when it is not on today's list."""
        for state in self.states:
            if state.planned.check.id == check_id:
                return state
        raise MissingError("That check is not on today's list.")

    def at(self, station: Station) -> tuple[CheckState, ...]:
        """The states of one station, in order."""
        return tuple(s for s in self.states if s.planned.check.station is station)

    def before(self) -> tuple[CheckState, ...]:
        """The states that must be answered before the round can be signed."""
        return tuple(s for s in self.states if s.planned.check.phase is Phase.BEFORE)


def _opens(check_id: str, answers: Answers, findings: dict[str, tuple[Finding, ...]]) -> bool:
    """Whether this check's answer opens a gate: given, not skipped, not grounded."""
    piece = answers.get(check_id)
    if piece is None or isinstance(piece.answer, WayOut):
        return False
    return worst(findings[check_id]) is not Level.GROUNDED


def walk(situation: Situation, evidence: Iterable[Evidence], plan: Plan | None = None) -> Walk:
    """Fold a situation and its evidence into the round as it stands. Pure. ``plan``: that of the situation, if at hand.

    Source: the one flow of the design; gates of the library.
    """
    plan = make_plan(situation) if plan is None else plan
    everything = list(evidence)
    pieces = live(everything)
    answers = current(pieces)
    rivals = side_by_side(everything)
    here = {p.check.id for p in plan.checks}
    findings: dict[str, tuple[Finding, ...]] = {}
    for planned in plan.checks:
        if planned.check.id in answers:
            try:
                findings[planned.check.id] = judged(situation, planned.check, answers[planned.check.id], answers)
            except InputError:
                # The check has changed since it was answered: the old answer says nothing about it any more.
                del answers[planned.check.id]
    for planned in plan.checks:
        if planned.check.id in rivals and planned.check.id in findings:
            _worse_counts(situation, planned.check, rivals, answers, findings)
    for check_id, said in disagreements(Context(situation, answers)).items():
        if check_id in findings and not isinstance(answers[check_id].answer, Skipped):
            findings[check_id] = (*findings[check_id], *said)
    waits: dict[str, tuple[Gate, tuple[str, ...]]] = {}
    for gate in plan.gates:
        missing = tuple(n for n in gate.needs if n in here and not _opens(n, answers, findings))
        if missing:
            for blocked in gate.blocks:
                waits.setdefault(blocked, (gate, missing))
    states = []
    for planned in plan.checks:
        gate_here, waits_for = waits.get(planned.check.id, (None, ()))
        piece = answers.get(planned.check.id)
        states.append(
            CheckState(
                planned=planned,
                evidence=piece,
                findings=findings.get(planned.check.id, ()),
                gate=gate_here if piece is None else None,
                rival=rivals.get(planned.check.id) if piece is not None else None,
                waits_for=waits_for if piece is None else (),
            )
        )
    before = [s for s in states if s.planned.check.phase is Phase.BEFORE]
    left_out = tuple(_left_out(left) for left in plan.left_out)
    # What is seen in the air and after landing makes an addendum and snags; it never changes a signed verdict.
    verdict = sum_up(
        [*left_out, *(f for s in before for f in s.findings)],
        open_checks=sum(s.evidence is None for s in before),
        done_checks=sum(s.evidence is not None for s in before),
    )
    return Walk(
        situation=situation,
        plan=plan,
        states=tuple(states),
        verdict=verdict,
        left_out=left_out,
        safe_state=next((h for h in plan.safe_states if _keeps(h, here, answers, findings)), None),
        last=pieces[-1] if pieces else None,
    )


def _worse_counts(
    situation: Situation,
    check: Check,
    rivals: dict[str, Evidence],
    answers: dict[str, Evidence],
    findings: dict[str, tuple[Finding, ...]],
) -> None:
    """Of two answers that stand side by side the worse counts, and never less than as a caution."""
    newer, older = answers[check.id], rivals[check.id]
    try:
        other = judged(situation, check, older, {**answers, check.id: older})
    except InputError:
        return
    if worst(other) > worst(findings[check.id]):
        answers[check.id], rivals[check.id], findings[check.id] = older, newer, other
    findings[check.id] = (
        *findings[check.id],
        Finding(
            check_id=check.id,
            name="Two answers",
            level=Level.CAUTION,
            reason=Phrase(text="It was answered twice, and neither answer replaced the other. The worse one counts."),
            remedy="Withdraw the one that is wrong.",
            source="no answer is lost; the worse counts",
        ),
    )


def _keeps(safe_state: SafeState, here: set[str], answers: Answers, findings: dict[str, tuple[Finding, ...]]) -> bool:
    """Whether the aircraft is still to be held so: none of the checks that end it has been passed."""
    return not any(check_id in here and _opens(check_id, answers, findings) for check_id in safe_state.until)


def _left_out(left: LeftOut) -> Finding:
    """A grounding check that the pilot took off the list: minded on every verdict, with the reason."""
    return Finding(
        check_id=left.check_id,
        name=f"Not asked: {left.title}",
        level=Level.CAUTION,
        reason=Phrase(text=f"{capital(left.how)} in your checklist. Your reason: {left.reason}."),
        remedy="Do it anyway, or restore the check.",
        source="a check not done is never a pass",
    )


def try_answer(round_: Walk, check_id: str, answer: Answer, piece: Evidence) -> tuple[Finding, ...]:
    """Judge an answer before it is kept.

    Raises BlockedError when a gate stands before the check (faults and skips pass: they never power anything),
    MissingError for a check not on the list and InputError for an answer that cannot be.
    Source: gates of the library.
    """
    state = round_.state(check_id)
    if state.gate is not None and not isinstance(answer, WayOut):
        raise BlockedError(state.gate.says)
    others = {s.planned.check.id: s.evidence for s in round_.states if s.evidence is not None}
    context = Context(round_.situation, {**others, check_id: piece})
    return judge(state.planned.check, piece, context)


def parse_reason(text: str, label: str, field: str, *, needed: bool) -> str:
    """A note or reason, cleaned; at most 300 characters. Raises InputError when it is needed and empty, or too long."""
    cleaned = " ".join(text.split())
    if needed and not cleaned:
        raise InputError(f"{label}: enter a few words. They stay on record.", field)
    if len(cleaned) > NOTE_CHARS:
        raise InputError(f"{label} has {len(cleaned)} characters (max {NOTE_CHARS}).", field)
    return cleaned
