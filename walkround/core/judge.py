"""Judging evidence: one piece in, findings out, at once."""

from collections.abc import Callable, Mapping

from walkround.core import evidence as ev
from walkround.core import link, packs, senses, site, weather_rules
from walkround.core.check import AskChoice, AskNumber, AskTimer, Band, Check
from walkround.core.errors import InputError
from walkround.core.evidence import Evidence
from walkround.core.finding import (
    PRACTICE,
    Finding,
    Level,
    cap,
    margin_above,
    margin_below,
)
from walkround.core.limits import PracticeTopic
from walkround.core.phrase import Phrase, second
from walkround.core.situation import Situation
from walkround.core.sun import judge_daylight, sun_at
from walkround.core.units import Measure, Quantity
from walkround.core.weather import Weather

Answers = Mapping[str, Evidence]


class Context:
    """What a judge may look at: the situation, and the other answers of this round."""

    def __init__(self, situation: Situation, answers: Answers) -> None:
        self.situation = situation
        self.answers = answers

    @property
    def weather(self) -> Weather | None:
        """The weather of this round if it was read, else that of the situation."""
        piece = self.answers.get("sky.weather")
        if piece is not None and isinstance(piece.answer, ev.WeatherRead):
            return piece.answer.weather
        return self.situation.weather

    @property
    def charge_percent(self) -> float:
        """State of charge in per cent as far as this round knows: cells first, then what a smart pack shows, else full."""
        cells = self.answers.get("pack.cells")
        pack = self.situation.pack
        if cells is not None and isinstance(cells.answer, ev.CellsRead):
            return packs.charge_percent(cells.answer.reading.mean_v(pack.cells), pack.chemistry)
        shown = self.answers.get("pack.percent")
        if shown is not None and isinstance(shown.answer, ev.Measured):
            return shown.answer.value
        return 100.0

    @property
    def planned_min(self) -> float:
        """Planned minutes: as answered in this round, else as the situation says."""
        piece = self.answers.get("pack.plan")
        if piece is not None and isinstance(piece.answer, ev.Measured):
            return piece.answer.value
        return self.situation.planned_min

    @property
    def flight_min(self) -> float:
        """Minutes a full pack gives this aircraft, as its description says."""
        return self.situation.aircraft.flight_min

    @property
    def second_hop(self) -> bool:
        """Whether this would be the pack's second hop today, and a short one (at most half a full pack)."""
        short = self.planned_min <= self.flight_min / 2
        return self.situation.history.pack_flights_today == 1 and short


def judge(check: Check, piece: Evidence, context: Context) -> tuple[Finding, ...]:
    """The findings for one piece of evidence on a check; at least one, each in inside units.

    Raises InputError when the answer does not fit the check or cannot be. Source: each finding names its own.
    """
    answer = piece.answer
    if isinstance(answer, ev.Skipped):
        findings: tuple[Finding, ...] = (_skipped(answer),)
    elif isinstance(answer, ev.Fault):
        findings = (_fault(check, answer),)
    elif isinstance(answer, ev.Passed):
        findings = (Finding(name="Looked at", level=Level.CLEAR, reason=Phrase.of("Looked at and sound.")),)
    elif isinstance(answer, ev.Chosen):
        findings = (_chosen(check, answer, context),)
    elif isinstance(answer, ev.Measured):
        findings = _measured(check, answer.value, context)
    elif isinstance(answer, ev.Counted):
        findings = (_counted(check, answer.seconds),)
    elif isinstance(answer, ev.CellsRead):
        s = context.situation
        findings = packs.judge_cells(
            answer.reading,
            s.pack,
            s.practices.charge,
            planned_min=context.planned_min,
            flight_min=context.flight_min,
            second_hop=context.second_hop,
        )
    elif isinstance(answer, ev.FixRead):
        s = context.situation
        findings = senses.judge_fix(answer.fix, s.practices.satellites, s.site.position, piece.at)
    elif isinstance(answer, ev.WeatherRead):
        fresh = context.situation.model_copy(update={"now": piece.at})
        findings = weather_rules.judge_weather(answer.weather, fresh)
    else:
        raise InputError("That is no answer to this check.")
    if check.adds and not isinstance(answer, ev.Skipped):
        findings = (*findings, *ADDS[check.adds](piece, context))
    return cap(findings, check.id, grounds=check.grounds)


def _skipped(answer: ev.Skipped) -> Finding:
    return Finding(
        name="Skipped",
        level=Level.CARE,
        reason=Phrase(text=f"Not done: {answer.reason}"),
        remedy="Do it if you still can; the reason stays on the record.",
        source="a check not done is never a pass",
    )


def _fault(check: Check, answer: ev.Fault) -> Finding:
    words = f"{check.fault} {answer.note}".strip()
    return Finding(
        name="Fault", level=Level.GROUNDED, reason=Phrase(text=words), remedy=check.remedy, source=check.source
    )


def _chosen(check: Check, answer: ev.Chosen, context: Context) -> Finding:
    if not isinstance(check.ask, AskChoice):
        raise InputError("That is no answer to this check.")
    option = next((o for o in check.ask.options if o.id == answer.option), None)
    if option is None:
        raise InputError("Choose one of the answers.", "option")
    if option.needs_note and not answer.note.strip():
        raise InputError("Say in a few words what was done.", "note")
    topic, _, school = option.care_under.partition("=")
    if school and getattr(context.situation.practices, topic) == school:
        chosen = context.situation.practices.school(PracticeTopic(topic))
        return Finding(
            name="Seen",
            level=Level.CARE,
            reason=Phrase(text=f"{option.label}, but your practice is “{chosen.label}”: {chosen.does}"),
            remedy="Follow your practice, or change it in Settings.",
            source=check.source,
        )
    words = f"{option.reason or option.label + '.'} {answer.note}".strip()
    return Finding(
        name="Seen", level=option.level, reason=Phrase(text=words), remedy=option.remedy, source=check.source
    )


def _counted(check: Check, seconds: float) -> Finding:
    if not isinstance(check.ask, AskTimer):
        raise InputError("That is no answer to this check.")
    need = check.ask.seconds
    value, limit = second(seconds), second(need)
    short = seconds < need
    return Finding(
        name="Count",
        level=Level.GROUNDED if short else Level.CLEAR,
        value=value,
        limit=limit,
        sense="min",
        margin=margin_above(seconds, need) if short else None,
        reason=Phrase.of(
            "The count stopped at {value} of {limit}." if short else "{value} counted.", value=value, limit=limit
        ),
        remedy="Start the count again." if short else "",
        source=check.source,
    )


def _measured(check: Check, value: float, context: Context) -> tuple[Finding, ...]:
    ask = check.ask
    if not isinstance(ask, AskNumber):
        raise InputError("That is no answer to this check.")
    if ask.band is not None:
        return (judge_band(value, ask.measure, ask.label, ask.band, check.source),)
    return RULES[ask.rule](value, context)


def judge_band(value: float, measure: Measure, label: str, band: Band, source: str = PRACTICE) -> Finding:
    """Judge a number (in the measure's inside unit) against the bands of a check. Source: the check's own."""
    shown = Quantity(value=value, measure=measure)
    tight: list[tuple[float, Level, float, str, str]] = []  # margin, level, limit, sense, words
    low, high = band.low or "{value} is below {limit}.", band.high or "{value} is above {limit}."
    if band.ground_below is not None:
        bad = value < band.ground_below
        tight.append(
            (
                margin_above(value, band.ground_below),
                Level.GROUNDED if bad else Level.CLEAR,
                band.ground_below,
                "min",
                low,
            )
        )
    if band.care_below is not None and not (band.ground_below is not None and value < band.ground_below):
        bad = value < band.care_below
        tight.append(
            (margin_above(value, band.care_below), Level.CARE if bad else Level.CLEAR, band.care_below, "min", low)
        )
    if band.ground_above is not None:
        bad = value > band.ground_above
        tight.append(
            (
                margin_below(value, band.ground_above),
                Level.GROUNDED if bad else Level.CLEAR,
                band.ground_above,
                "max",
                high,
            )
        )
    if band.care_above is not None and not (band.ground_above is not None and value > band.ground_above):
        bad = value > band.care_above
        tight.append(
            (margin_below(value, band.care_above), Level.CARE if bad else Level.CLEAR, band.care_above, "max", high)
        )
    margin, level, limit_value, sense, words = max(tight, key=lambda t: (t[1], -t[0]))
    limit = Quantity(value=limit_value, measure=measure)
    return Finding(
        name=label,
        level=level,
        value=shown,
        limit=limit,
        sense="min" if sense == "min" else "max",
        margin=margin,
        reason=Phrase.of(band.good if level is Level.CLEAR else words, value=shown, limit=limit),
        remedy="" if level is Level.CLEAR else band.remedy,
        source=source,
    )


def _bands(value: float, context: Context) -> tuple[Finding, ...]:
    need = context.situation.aircraft.bands or 8
    band = Band(
        ground_below=need,
        low="{value} bands hold the wing; this one wants {limit}.",
        good="{value} bands, stretched evenly.",
        remedy="Fit fresh bands until the count is right.",
    )
    return (judge_band(value, Measure.COUNT, "Rubber bands", band, "eight on a trainer; " + PRACTICE),)


def _balance(value: float, context: Context) -> tuple[Finding, ...]:
    aircraft = context.situation.aircraft
    if aircraft.balance_min_mm is None or aircraft.balance_max_mm is None:
        return (
            Finding(
                name="Balance point",
                level=Level.CARE,
                value=Quantity(value=value, measure=Measure.MILLIMETRE),
                reason=Phrase.of("The maker's balance range is not entered for this aircraft."),
                remedy="Look it up in the manual and enter it in the hangar; a flight without it is guesswork.",
            ),
        )
    band = Band(
        ground_below=aircraft.balance_min_mm,
        ground_above=aircraft.balance_max_mm,
        low="It balances {value} behind the leading edge, ahead of the maker's {limit}: nose-heavy.",
        high="It balances {value} behind the leading edge, behind the maker's {limit}: tail-heavy.",
        good="It balances at {value}, inside the maker's range.",
        remedy="Move the pack and measure again.",
    )
    return (judge_band(value, Measure.MILLIMETRE, "Balance point", band, "the maker's manual"),)


def _planned(value: float, context: Context) -> tuple[Finding, ...]:
    grounds = context.situation.practices.charge == "plan"
    use = packs.judge_use(value, context.flight_min, context.charge_percent, grounds=grounds)
    return (use,)


def _wind(value: float, context: Context) -> tuple[Finding, ...]:
    finding = weather_rules.judge_wind(value, context.situation.limits.wind_ms)
    reason = Phrase(
        text=finding.reason.text.replace("Mean wind", "The strongest here,"), numbers=finding.reason.numbers
    )
    return (finding.model_copy(update={"name": "Wind here", "reason": reason}),)


def _return_height(value: float, context: Context) -> tuple[Finding, ...]:
    s = context.situation
    return link.judge_return_height(value, s.site, s.aircraft, s.limits, context.weather)


RULES: dict[str, Callable[[float, Context], tuple[Finding, ...]]] = {
    "launch_circle": lambda value, context: site.judge_launch_circle(value),
    "interference": lambda value, context: site.judge_interference(value),
    "heading": lambda value, context: senses.judge_heading(value),
    "charge_percent": lambda value, context: packs.judge_charge_percent(value, context.situation.practices.charge),
    "pack_temperature": lambda value, context: packs.judge_pack_temperature(value),
    "wind": _wind,
    "bands": _bands,
    "balance": _balance,
    "planned": _planned,
    "return_height": _return_height,
}
"""Rules for numbers, by the name a check gives. Source: each rule names its own."""


def _daylight(piece: Evidence, context: Context) -> tuple[Finding, ...]:
    return judge_daylight(sun_at(context.situation.site.position, piece.at))


ADDS: dict[str, Callable[[Evidence, Context], tuple[Finding, ...]]] = {"daylight": _daylight}
"""Judges that speak whenever a check is answered, by the name the check gives. Source: each names its own."""
