"""What is due next on an aircraft, and how far it is until then."""

from collections.abc import Iterable

from walkround.core.aircraft.traits import Trait
from walkround.core.base.finding import Level
from walkround.core.base.geodesy import distance_m
from walkround.core.base.struct import Struct
from walkround.core.base.wording import capital, counted
from walkround.core.checklist.history import EventKind
from walkround.core.inspection.wear import Worn
from walkround.core.round import due
from walkround.core.round.context import Context
from walkround.core.round.failsafe import bench_due, last_tested
from walkround.core.round.situation import Situation


class Upcoming(Struct, frozen=True, kw_only=True):
    """One thing: its name, what is known of it in words, how much of the time or way until it is due is over (0 to 1), and its level."""

    name: str
    words: str
    share: float
    level: Level = Level.CLEAR


def _days(days: int) -> str:
    return "today" if days <= 0 else f"{counted(days, 'day')} ago"


def _compass(situation: Situation) -> Upcoming:
    last, reason = situation.history.latest(EventKind.COMPASS_CALIBRATED), due.compass_due(situation)
    if last is None or reason is not None:
        return Upcoming(
            name="Compass", words="never calibrated" if last is None else "due now", share=1.0, level=Level.CAUTION
        )
    away_m = 0.0 if last.position is None else distance_m(last.position, situation.site.position)
    share = min(0.99, away_m / situation.limits.compass_far_m)
    return Upcoming(
        name="Compass",
        words=f"calibrated {_days((situation.now - last.at).days)}, {away_m / 1000:.0f} km away",
        share=share,
    )


def _of_season(situation: Situation) -> float:
    """The share of the season that is over (0 to 1)."""
    start, after = due.season_date(situation), due.next_season_date(situation)
    return min(0.99, max(0.0, (situation.today() - start).days / max(1, (after - start).days)))


def _season(situation: Situation) -> Upcoming:
    start, after = due.season_date(situation), due.next_season_date(situation)
    reason = due.season_due(situation.history.last_done("bench.season_look"), situation)
    if reason is not None:
        return Upcoming(
            name="Season inspection", words=f"due since {start.day} {start:%B}", share=1.0, level=Level.CAUTION
        )
    return Upcoming(name="Season inspection", words=f"{after.day} {after:%B}", share=_of_season(situation))


def _failsafe(context: Context) -> Upcoming:
    tested, situation = last_tested(context), context.situation
    if bench_due(context) is not None or tested is None:
        return Upcoming(
            name="Failsafe test", words="never passed" if tested is None else "due now", share=1.0, level=Level.CAUTION
        )
    words = f"passed {_days((situation.now - tested).days)}"
    return Upcoming(name="Failsafe test", words=words, share=_of_season(situation))


def _life(worn: Worn) -> Upcoming:
    name = capital(worn.part.name.removesuffix(", blade 1"))
    words = f"{worn.behind:.0f} of {counted(round(worn.limit), worn.rule.counted.value)}"
    return Upcoming(name=name, words=words, share=min(1.0, worn.behind / worn.limit), level=worn.level)


def upcoming(context: Context, worn: Iterable[Worn] = ()) -> tuple[Upcoming, ...]:
    """What is due next: compass, level, season inspection, failsafe test, and the parts near the end of their life (``worn``); the nearest first.

    Source: due rules in ``due``; lives of parts; days, km, counts and the pilot's limits.
    """
    situation = context.situation
    aircraft = situation.aircraft
    found = [_season(situation), _failsafe(context)]
    if aircraft.has(Trait.COMPASS):
        found.append(_compass(situation))
    if aircraft.has(Trait.FLIGHT_CONTROLLER) and due.accelerometer_due(situation) is not None:
        found.append(Upcoming(name="Level", words="due now", share=1.0, level=Level.CAUTION))
    found += [_life(one) for one in worn if one.known]
    return tuple(sorted(found, key=lambda one: -one.share))
