"""Judging evidence: one piece in, findings out, at once."""

from collections.abc import Callable

from walkround.core.aircraft import bag, control_directions, propeller_check
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding, Level, cap, measured
from walkround.core.base.phrase import Phrase, second
from walkround.core.checklist.check import (
    AskChoice,
    AskControlDirections,
    AskFlight,
    AskNumber,
    AskPacked,
    AskRotors,
    AskTimer,
    Check,
)
from walkround.core.packs import bands
from walkround.core.pilot.methods import MethodTopic
from walkround.core.round import evidence as ev
from walkround.core.round.context import Context
from walkround.core.round.evidence import Evidence
from walkround.core.round.numbers import RULES, judge_band
from walkround.core.round.readiness import Subject, readiness
from walkround.core.sensors import satellites


def judge(check: Check, piece: Evidence, context: Context) -> tuple[Finding, ...]:
    """The findings for one piece of evidence on a check; at least one, each in inside units.

    Raises InputError when the answer does not fit the check or cannot be. Source: each finding names its own.
    """
    context = context.with_answer(piece)
    judge_kind = _JUDGES.get(type(piece.answer))
    if judge_kind is None:
        raise InputError("That answer does not fit this check.")
    findings = judge_kind(check, piece, context)
    if check.adds and not isinstance(piece.answer, ev.Skipped):
        findings = (*findings, *ADDS[check.adds](piece, context))
    return cap(findings, check.id, grounds=check.grounds)


def _passed(check: Check, piece: Evidence, context: Context) -> tuple[Finding, ...]:
    return (Finding(name="Looked at", level=Level.CLEAR, reason=Phrase.of("Looked at and sound.")),)


def _cells(check: Check, piece: Evidence, context: Context) -> tuple[Finding, ...]:
    assert isinstance(piece.answer, ev.CellsRead)
    s = context.situation
    return bands.judge_cells(
        piece.answer.reading,
        s.pack,
        s.methods.charge,
        planned_percent=context.flight_needs().planned_percent,
        second_hop=context.second_hop,
    )


def _flight(check: Check, piece: Evidence, context: Context) -> tuple[Finding, ...]:
    assert isinstance(piece.answer, ev.Planned)
    if not isinstance(check.ask, AskFlight):
        raise InputError("That answer does not fit this check.")
    return readiness(context, piece.at, only=(Subject.PLAN, Subject.HOME))


def _fix(check: Check, piece: Evidence, context: Context) -> tuple[Finding, ...]:
    assert isinstance(piece.answer, ev.FixRead)
    s = context.situation
    return satellites.judge_fix(piece.answer.fix, s.methods.satellites, s.site.position, piece.at)


def _weather(check: Check, piece: Evidence, context: Context) -> tuple[Finding, ...]:
    assert isinstance(piece.answer, ev.WeatherRead)
    return readiness(context, piece.at, only=(Subject.WEATHER, Subject.HOME))


def _rotors(check: Check, piece: Evidence, context: Context) -> tuple[Finding, ...]:
    assert isinstance(piece.answer, ev.RotorsSeen)
    if not isinstance(check.ask, AskRotors):
        raise InputError("That answer does not fit this check.")
    judge_them = propeller_check.judge_propellers if check.ask.look == "propellers" else propeller_check.judge_spins
    return judge_them(context.situation.aircraft, piece.answer.seen)


def _control_directions(check: Check, piece: Evidence, context: Context) -> tuple[Finding, ...]:
    assert isinstance(piece.answer, ev.ControlDirectionsSeen)
    if not isinstance(check.ask, AskControlDirections):
        raise InputError("That answer does not fit this check.")
    return control_directions.judge_control_directions(context.situation.aircraft, piece.answer.seen)


_PASSES = {1: "bag.second_pass", 2: "bag.first_pass"}
"""The other pass of each. Source: ids of the library."""


def _packed(check: Check, piece: Evidence, context: Context) -> tuple[Finding, ...]:
    assert isinstance(piece.answer, ev.BagPacked)
    if not isinstance(check.ask, AskPacked):
        raise InputError("That answer does not fit this check.")
    # Only the second pass speaks of differences, so that each is said once.
    first = context.answers.get(_PASSES[2]) if check.ask.turn == 2 else None
    other = first.answer.packed if first is not None and isinstance(first.answer, ev.BagPacked) else None
    return bag.judge_bag(context.situation.aircraft, piece.answer.packed, other)


def _skipped(check: Check, piece: Evidence, context: Context) -> tuple[Finding, ...]:
    assert isinstance(piece.answer, ev.Skipped)
    instead = f" Instead: {check.if_skipped}." if check.if_skipped else ""
    grounds = check.grounds and not check.if_skipped
    finding = Finding(
        name="Skipped",
        level=Level.GROUNDED if grounds else Level.CAUTION,
        reason=Phrase(text=f"Not done: {piece.answer.reason.rstrip('.')}.{instead}"),
        remedy="Do this check; without it the verdict is Stay down."
        if grounds
        else "Do it if you still can; the reason stays on the record.",
        source="a check not done is never a pass",
    )
    return (finding,)


def _fault(check: Check, piece: Evidence, context: Context) -> tuple[Finding, ...]:
    assert isinstance(piece.answer, ev.Fault)
    words = f"{check.fault} {piece.answer.note}".strip()
    finding = Finding(
        name="Fault", level=Level.GROUNDED, reason=Phrase(text=words), remedy=check.remedy, source=check.source
    )
    return (finding,)


def _chosen(check: Check, piece: Evidence, context: Context) -> tuple[Finding, ...]:
    answer = piece.answer
    assert isinstance(answer, ev.Chosen)
    if not isinstance(check.ask, AskChoice):
        raise InputError("That answer does not fit this check.")
    option = next((o for o in check.ask.options if o.id == answer.option), None)
    if option is None:
        raise InputError("Choose one of the answers.", "option")
    if option.needs_note and not answer.note.strip():
        raise InputError("Say in a few words what was done.", "note")
    topic, _, method = option.caution_under.partition("=")
    if method and getattr(context.situation.methods, topic) == method:
        chosen = context.situation.methods.method(MethodTopic(topic))
        other = Finding(
            name="Seen",
            level=Level.CAUTION,
            reason=Phrase(text=f"{option.label}, but your practice is “{chosen.label}”: {chosen.does}"),
            remedy="Follow your practice, or change it in Settings.",
            source=check.source,
        )
        return (other,)
    launch_platform = context.situation.site.launch_platform.value
    if launch_platform in (*option.grounds_at, *option.caution_at):
        level = Level.GROUNDED if launch_platform in option.grounds_at else Level.CAUTION
        text = f"{option.label}, but this field is launched from {launch_platform}: {option.at_reason}"
        return (Finding(name="Seen", level=level, reason=Phrase(text=text), remedy=check.remedy, source=check.source),)
    words = f"{option.reason or option.label + '.'} {answer.note}".strip()
    seen = Finding(
        name="Seen", level=option.level, reason=Phrase(text=words), remedy=option.remedy, source=check.source
    )
    return (seen,)


def _counted(check: Check, piece: Evidence, context: Context) -> tuple[Finding, ...]:
    assert isinstance(piece.answer, ev.Counted)
    if not isinstance(check.ask, AskTimer):
        raise InputError("That answer does not fit this check.")
    seconds, need = piece.answer.seconds, check.ask.seconds
    value, limit = second(seconds), second(need)
    if seconds >= need:
        words = Phrase.of("{value} counted.", value=value)
        return (Finding(name="Count", level=Level.CLEAR, value=value, reason=words, source=check.source),)
    return (
        measured(
            "Count",
            value,
            limit,
            sense="min",
            level=Level.GROUNDED,
            words="The count stopped at {value} of {limit}.",
            remedy="Start the count again.",
            source=check.source,
        ),
    )


def _measured(check: Check, piece: Evidence, context: Context) -> tuple[Finding, ...]:
    assert isinstance(piece.answer, ev.Measured)
    ask, value = check.ask, piece.answer.value
    if not isinstance(ask, AskNumber):
        raise InputError("That answer does not fit this check.")
    if ask.band is not None:
        return (judge_band(value, ask.measure, ask.label, ask.band, check.source),)
    return RULES[ask.rule](value, context)


_JUDGES: dict[type, Callable[[Check, Evidence, Context], tuple[Finding, ...]]] = {
    ev.Passed: _passed,
    ev.Fault: _fault,
    ev.Chosen: _chosen,
    ev.Measured: _measured,
    ev.CellsRead: _cells,
    ev.Counted: _counted,
    ev.FixRead: _fix,
    ev.WeatherRead: _weather,
    ev.RotorsSeen: _rotors,
    ev.ControlDirectionsSeen: _control_directions,
    ev.BagPacked: _packed,
    ev.Planned: _flight,
    ev.Skipped: _skipped,
}


def _adds(*subjects: Subject) -> Callable[[Evidence, Context], tuple[Finding, ...]]:
    return lambda piece, context: readiness(context, piece.at, only=subjects)


ADDS: dict[str, Callable[[Evidence, Context], tuple[Finding, ...]]] = {
    "daylight": _adds(Subject.LIGHT),
    "airspace": _adds(Subject.AIRSPACE),
    "sun": _adds(Subject.SUN),
    "sight": _adds(Subject.SIGHT),
    "sources": _adds(Subject.SOURCES),
    "people": _adds(Subject.PEOPLE),
    "pack": _adds(Subject.PACK),
}
"""Subjects of ``readiness`` that speak whenever a check is answered, by the name the check gives."""
