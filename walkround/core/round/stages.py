"""Where a round is walked: at home, at the field, in the air, after landing; and how long each takes this pilot.

The pace is learned: of the last rounds each gives the seconds that a check of a stage took, and their median counts. Few rounds say so.
Source: our choice; common practice, no source.
"""

from collections.abc import Iterable, Mapping, Sequence
from datetime import datetime
from enum import StrEnum
from statistics import median

from walkround.core.base.struct import Struct
from walkround.core.checklist.check import Check, Phase, Station
from walkround.core.checklist.library import CHECKS
from walkround.core.round.plan import Plan
from walkround.core.round.walk import Walk


class Stage(StrEnum):
    """Where checks are done, in the order of the day."""

    HOME = "At home"
    FIELD = "At the field"
    AIR = "In the air"
    LANDED = "After landing"


FIRST_GUESS_S = {Stage.HOME: 15.0, Stage.FIELD: 10.0, Stage.AIR: 15.0, Stage.LANDED: 15.0}
"""Seconds a check takes a pilot of whom nothing is known. Source: our choice, near the six minutes in which a practised pilot does
fifteen; common practice, no source."""
PAUSE_S = 180.0
"""A gap between two answers longer than that was no check. Source: our choice."""
FEWEST_ROUNDS = 3
"""From so many rounds on the pace is the pilot's own; before that it is a first guess. Source: our choice."""
AT_HOME = (Station.BENCH, Station.BAG)
"""Stations that are walked at home, with mains power and time."""


def stage_of(check: Check) -> Stage:
    """Where a check is done. Source: its station and phase."""
    if check.phase is Phase.AIR:
        return Stage.AIR
    if check.phase is Phase.AFTER_LANDING:
        return Stage.LANDED
    return Stage.HOME if check.station in AT_HOME else Stage.FIELD


_STAGES = {check.id: stage_of(check) for check in CHECKS}
"""Where the library does them: of an old answer no more is known."""


class Pace(Struct, frozen=True, kw_only=True):
    """Seconds a check of each stage takes, and from how many rounds that is known."""

    seconds: Mapping[Stage, float]
    rounds: Mapping[Stage, int]

    def learned(self, stage: Stage) -> bool:
        """Whether it is this pilot's own pace and no first guess."""
        return self.rounds.get(stage, 0) >= FEWEST_ROUNDS


def learn(rounds: Iterable[Sequence[tuple[str, datetime]]]) -> Pace:
    """The pace of a pilot (seconds a check) from rounds, each a list of checks with the aware time of their answer, in order.

    Inspections confirmed together share the time since the answer before them. Source: ``PAUSE_S``; median over the rounds.
    """
    found: dict[Stage, list[float]] = {stage: [] for stage in Stage}
    for answers in rounds:
        spent: dict[Stage, float] = {}
        many: dict[Stage, int] = {}
        for (_, before), (check_id, at) in zip(answers, answers[1:], strict=False):
            gone = (at - before).total_seconds()
            if 0 <= gone <= PAUSE_S:
                stage = _STAGES.get(check_id, Stage.FIELD)
                spent[stage] = spent.get(stage, 0.0) + gone
                many[stage] = many.get(stage, 0) + 1
        for stage, seconds in spent.items():
            found[stage].append(seconds / many[stage])
    known = {stage: len(paces) for stage, paces in found.items()}
    return Pace(
        seconds={s: median(found[s]) if known[s] >= FEWEST_ROUNDS else FIRST_GUESS_S[s] for s in Stage}, rounds=known
    )


class StageLeft(Struct, frozen=True, kw_only=True):
    """A stage of a round: how many checks it has, how many are open, how many minutes those take, and whether that is learned."""

    stage: Stage
    of: int
    open: int
    minutes: float
    learned: bool


def _counted(checks: Iterable[Check]) -> dict[Stage, int]:
    many = dict.fromkeys(Stage, 0)
    for check in checks:
        moved = check.origin != "built-in"  # to another station, perhaps
        many[(None if moved else _STAGES.get(check.id)) or stage_of(check)] += 1
    return many


def _left(open_checks: Iterable[Check], all_checks: Iterable[Check], pace: Pace) -> tuple[StageLeft, ...]:
    still, every = _counted(open_checks), _counted(all_checks)
    return tuple(
        StageLeft(
            stage=stage,
            of=many,
            open=still[stage],
            minutes=still[stage] * pace.seconds[stage] / 60,
            learned=pace.learned(stage),
        )
        for stage, many in every.items()
        if many
    )


def stages_ahead(plan: Plan, pace: Pace) -> tuple[StageLeft, ...]:
    """The stages of a round that is not begun, each with its minutes. Source: ``learn``."""
    checks = [planned.check for planned in plan.checks]
    return _left(checks, checks, pace)


def stages_left(walk: Walk, pace: Pace) -> tuple[StageLeft, ...]:
    """The stages of a round, each with what is open and its minutes. Source: ``learn``."""
    checks = [state.planned.check for state in walk.states]
    return _left((state.planned.check for state in walk.states if state.evidence is None), checks, pace)


def left_at_home(walk: Walk) -> tuple[str, ...]:
    """What can only be done at home, is open, and does not ground: at the field it need not be asked. Source: our choice."""
    return tuple(
        state.planned.check.id
        for state in walk.states
        if state.evidence is None
        and stage_of(state.planned.check) is Stage.HOME
        and not state.planned.check.grounds
        and not state.planned.by_event
        and state.planned.snag is None
    )


def minutes_before_take_off(stages: Iterable[StageLeft]) -> float:
    """How long until the round can be signed, in minutes. Source: ``stages_left``."""
    return sum(left.minutes for left in stages if left.stage in (Stage.HOME, Stage.FIELD))
