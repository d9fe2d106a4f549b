"""Checks that a pilot makes: what they may ask, and how they are read from a form or a pasted text."""

from walkround.core.aircraft.aircraft import ANY, For
from walkround.core.answers.choice import AskChoice, Option
from walkround.core.answers.kind import Ask
from walkround.core.answers.number import AskNumber, Band
from walkround.core.answers.tick import AskTick
from walkround.core.answers.timer import AskTimer
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Level
from walkround.core.base.later import pattern
from walkround.core.base.units import Measure
from walkround.core.checklist.check import Check, Frequency, Occasion, Station
from walkround.core.checklist.history import EventKind

TEXT_CHARS, TITLE_CHARS = 400, 100
MOST_OPTIONS, LONGEST_COUNT_S = 8, 3_600


def is_simple(ask: AskTick | AskNumber | AskChoice | AskTimer | Ask) -> bool:
    """Whether a pilot can make a question like this."""
    if isinstance(ask, AskChoice):
        plain = [Option(id=o.id, label=o.label, level=o.level, reason=o.reason, remedy=o.remedy) for o in ask.options]
        clear = any(option.level is Level.CLEAR for option in ask.options)
        return list(ask.options) == plain and clear and 2 <= len(plain) <= MOST_OPTIONS
    if isinstance(ask, AskTimer):
        return 1 <= ask.seconds <= LONGEST_COUNT_S and ask == AskTimer(seconds=ask.seconds)
    return isinstance(ask, AskTick) or (isinstance(ask, AskNumber) and _bounded(ask))


def _bounded(ask: AskNumber) -> bool:
    band = ask.band
    return ask.rule == "band" and band is not None and (band.ground_below is not None or band.ground_above is not None)


MOST_LINES = 30


def steps_of(text: str) -> tuple[str, ...]:
    """The steps of a typed or pasted text, one a line, without bullets, numbers and doubles.

    Raises InputError for no step, for too many, and for one that is too long. Source: common ways to write lists.
    """
    lines = [" ".join(_BULLET.sub("", line).split()) for line in text.splitlines()]
    lines = list(dict.fromkeys(line for line in lines if line))
    if not lines:
        raise InputError("Enter at least one step, one on each line.", "steps")
    if len(lines) > MOST_LINES:
        raise InputError(f"That is {len(lines)} steps. Add at most {MOST_LINES} at a time.", "steps")
    long = next((line for line in lines if len(line) > TITLE_CHARS), None)
    if long is not None:
        raise InputError(f"“{long[:30]}…” has {len(long)} characters (max {TITLE_CHARS}).", "steps")
    return tuple(lines)


_BULLET = pattern(r"^\s*(?:[-*•▪☐□]|\[[ xX]?\]|\(?\d{1,2}[.):])\s*")


def read_options(text: str) -> tuple[Option, ...]:
    """The answers of a choice of one's own, one a line; a line that begins with "caution:" or "grounds:" is one.

    Raises InputError for fewer than two, for too many, and where none is clear.
    """
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    options = []
    for number, line in enumerate(lines, 1):
        word, _, rest = line.partition(":")
        level = {"caution": Level.CAUTION, "grounds": Level.GROUNDED}.get(word.strip().casefold(), Level.CLEAR)
        label = rest.strip() if level is not Level.CLEAR else line
        if not label or len(label) > TITLE_CHARS:
            raise InputError(f"Answer {number}: enter 1 to {TITLE_CHARS} characters.", "options")
        bad = level is not Level.CLEAR
        options.append(
            Option(id=f"o{number}", label=label, level=level, reason=f"{label}." if bad else "", remedy="Fix it first." if bad else "")
        )  # fmt: skip
    if not 2 <= len(options) <= MOST_OPTIONS:
        raise InputError(f"Enter 2 to {MOST_OPTIONS} answers, one on each line.", "options")
    if all(option.level is not Level.CLEAR for option in options):
        raise InputError("One of the answers has to be good: write it without “caution:” or “grounds:”.", "options")
    return tuple(options)


def custom_check(
    number: str,
    *,
    station: Station,
    title: str,
    how: str,
    why: str,
    grounds: bool,
    frequency: Frequency,
    applies: For = ANY,
    measure: Measure | None = None,
    low: float | None = None,
    high: float | None = None,
    options: tuple[Option, ...] = (),
    seconds: int = 0,
    only_for: tuple[int, ...] = (),
    occasion: Occasion | None = None,
    event: EventKind | None = None,
) -> Check:
    """A check of the pilot's own: a tick, a number in inside units with its lowest and highest value, a choice, or a count in s; asked only on an
    ``occasion`` where there is one, and after an ``event``.

    Raises InputError for bounds that exclude everything.
    """
    ask: Ask = AskChoice(options=options) if options else AskTimer(seconds=seconds) if seconds else AskTick()
    if measure is not None:
        if low is None and high is None:
            raise InputError("A number needs a minimum or a maximum.", "low")
        if low is not None and high is not None and low > high:
            raise InputError("The minimum is higher than the maximum.", "high")
        band = Band(
            ground_below=low,
            ground_above=high,
            low="{value} is below your minimum of {limit}.",
            high="{value} is above your maximum of {limit}.",
            good="{value}, within your limits.",
            remedy="Fix it first.",
        )
        floor = -1e4 if measure is Measure.TEMPERATURE else 0.0
        ask = AskNumber(measure=measure, label="Reading", low=floor, high=1e6, band=band)
    return Check(
        id=number,
        station=station,
        title=title,
        how=how or "Inspect it and enter the result.",
        why=why or "Your own check.",
        grounds=grounds,
        frequency=Frequency.EVENT if event is not None else frequency,
        events=() if event is None else (event,),
        occasions=() if occasion is None else (occasion,),
        applies=applies,
        ask=ask,
        fault=f"Your check found a fault: {title}.",
        remedy="Fix it before it flies." if grounds else "Fix it when you can.",
        source="your own check",
        origin="custom",
        only_for=only_for,
    )
