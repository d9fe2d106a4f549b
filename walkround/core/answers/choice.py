"""A choice: one of a few answers, each with its judgement."""

from datetime import datetime
from typing import Annotated, ClassVar, Literal

from walkround.core.answers.kind import NOTE_CHARS, Answer, AnswerKind, Ask, Case, Question
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding, Level
from walkround.core.base.phrase import Phrase
from walkround.core.base.value import Allowed, KeptStruct
from walkround.core.pilot.methods import MethodTopic


class Option(KeptStruct, frozen=True, kw_only=True):
    """One choice, with its judgement. ``needs_note``: the pilot must say a word about it.

    ``caution_under``: "topic=method", under which this otherwise clear answer is a caution. ``grounds_at``,
    ``caution_at``: what one launches from where this answer is worse, with ``at_reason``. ``passing``: it speaks of
    this moment only and opens no snag. ``rule``: it is judged by this rule of the round.
    """

    id: str
    label: str
    level: Level = Level.CLEAR
    reason: str = ""
    remedy: str = ""
    needs_note: bool = False
    caution_under: str = ""
    grounds_at: tuple[str, ...] = ()
    caution_at: tuple[str, ...] = ()
    at_reason: str = ""
    passing: bool = False
    rule: str = ""


class AskChoice(Ask, frozen=True, kw_only=True):
    """One of a few answers."""

    kind: Literal["choice"] = "choice"
    options: tuple[Option, ...]


class Chosen(Answer):
    """One of the options, with a note where the option wants one."""

    opens_snag: ClassVar[bool] = True
    kind: Literal["chosen"] = "chosen"
    option: str
    note: Annotated[str, Allowed(max_length=NOTE_CHARS)] = ""


def _judge(question: Question, answer: Chosen, case: Case, at: datetime) -> tuple[Finding, ...]:
    ask = question.ask
    assert isinstance(ask, AskChoice)
    option = next((o for o in ask.options if o.id == answer.option), None)
    if option is None:
        raise InputError("Choose one of the answers.", "option")
    if option.needs_note and not answer.note.strip():
        raise InputError("Describe in a few words what was done.", "note")
    if option.rule:
        return case.by_rule(option.rule, 0.0)
    level, words, remedy = option.level, f"{option.reason or option.label + '.'} {answer.note}".strip(), option.remedy
    topic, _, method = option.caution_under.partition("=")
    platform = case.site.launch_platform.value
    if method and getattr(case.methods, topic) == method:
        chosen = case.methods.method(MethodTopic(topic))
        level, words = Level.CAUTION, f"{option.label}, but your method is “{chosen.label}”: {chosen.does}"
        remedy = "Follow your method, or change it in Settings."
    elif platform in (*option.grounds_at, *option.caution_at):
        level = Level.GROUNDED if platform in option.grounds_at else Level.CAUTION
        words = f"{option.label}, but this field is launched from {platform}: {option.at_reason}"
        remedy = question.remedy
    return (Finding(name="Seen", level=level, reason=Phrase(text=words), remedy=remedy, source=question.source),)


def _example(question: Question, case: Case, at: datetime) -> Chosen:
    assert isinstance(question.ask, AskChoice)
    return Chosen(option=next(o.id for o in question.ask.options if o.level is Level.CLEAR and not o.rule))


KIND = AnswerKind(AskChoice, Chosen, _judge, _example)
