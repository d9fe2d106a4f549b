"""The failsafe of an aircraft judged as the checks of a round judge it, with what only its page knows; and what of it is due."""

from datetime import datetime

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.failsafe import Failsafe
from walkround.core.aircraft.link_trials import BenchTest
from walkround.core.answers.choice import Chosen
from walkround.core.answers.number import Measured
from walkround.core.answers.tick import Passed
from walkround.core.base.finding import PRACTICE, Finding, Level, worst
from walkround.core.base.phrase import Phrase, height
from walkround.core.checklist.check import Check
from walkround.core.checklist.library import CHECKS
from walkround.core.lost_link.bench_test import check_of, judge_test
from walkround.core.lost_link.failsafe_rules import judge_settings
from walkround.core.round.context import Context
from walkround.core.round.evidence import Evidence
from walkround.core.round.failsafe_answers import ANSWERS, RTH_CHECK
from walkround.core.round.judge import judge
from walkround.core.round.why import Day

_BY_ID = {check.id: check for check in CHECKS}
POLLING_CHECK = "link.polling"


def answered_by(context: Context, settings: Failsafe) -> tuple[tuple[Check, Evidence], ...]:
    """The checks that settings answer, with their answers: of the action where it is known, of the RTH altitude, of its confirmation. Heights in m."""
    aircraft, at = context.situation.aircraft, context.situation.now
    found = []
    for check_id, options in ANSWERS.items():
        check = _BY_ID[check_id]
        if settings.action in options and check.applies.fits(aircraft):
            found.append(
                (check, Evidence(id=0, check_id=check_id, at=at, answer=Chosen(option=options[settings.action])))
            )
    if settings.rth_altitude_m is not None and _BY_ID[RTH_CHECK].applies.fits(aircraft):
        found.append(
            (
                _BY_ID[RTH_CHECK],
                Evidence(id=0, check_id=RTH_CHECK, at=at, answer=Measured(value=settings.rth_altitude_m)),
            )
        )
    if settings.confirm_s is not None and _BY_ID[POLLING_CHECK].applies.fits(aircraft):
        found.append((_BY_ID[POLLING_CHECK], Evidence(id=0, check_id=POLLING_CHECK, at=at, answer=Passed())))
    return tuple(found)


def passed_by(context: Context, settings: Failsafe) -> tuple[str, ...]:
    """Ids of the checks that settings pass: what grounds is not passed."""
    return tuple(
        check.id
        for check, piece in answered_by(context, settings)
        if worst(judge(check, piece, context)) < Level.GROUNDED
    )


def known_findings(aircraft: Aircraft, settings: Failsafe, context: Context | None) -> tuple[Finding, ...]:
    """What is to be said of settings, whether the next flight is known or, with no field or pilot yet, only the aircraft is."""
    return judge_settings(aircraft, settings) if context is None else failsafe_findings(context, settings)


def bench_findings(test: BenchTest | None, aircraft: Aircraft) -> tuple[Finding, ...]:
    """What the newest bench test says of an aircraft with the settings it has now; nothing where none was made."""
    return () if test is None else judge_test(test, aircraft, aircraft.failsafe)


def failsafe_findings(context: Context, settings: Failsafe) -> tuple[Finding, ...]:
    """All that is to be said of settings: as the checks of a round say it, what is not known, and the last bench test. Nothing known is never clear.

    Source: the checks themselves; ``lost_link.failsafe_rules``.
    """
    aircraft = context.situation.aircraft
    said = [
        finding
        for check, piece in answered_by(context, settings)
        if check.id != POLLING_CHECK  # a tick has nothing to say; ``judge_settings`` has
        for finding in judge(check, piece, context)
    ]
    if settings.action is None:
        words = Phrase(text="The failsafe action is not known.")
        said.append(
            Finding(
                name="Failsafe",
                level=Level.GROUNDED,
                reason=words,
                remedy="Read it in the aircraft's settings and set it.",
                source=PRACTICE,
            )
        )
    said += judge_settings(aircraft, settings)
    said += left_over(context)
    test = context.situation.history.bench_test
    if test is not None:
        said += judge_test(test, aircraft, settings)
    due = bench_due(context)
    if due is not None:
        said.append(
            Finding(name="Bench test", level=Level.CAUTION, reason=due, remedy="Do the bench test.", source=PRACTICE)
        )
    return tuple(sorted(said, key=lambda finding: -finding.level))


def left_over(context: Context) -> tuple[Finding, ...]:
    """An RTH altitude that was read at another field and not here yet. Source: a setting left over from another place; common practice, no source."""
    s, settings = context.situation, context.situation.aircraft.failsafe
    here = context.answers.get(RTH_CHECK) is not None
    if here or settings is None or settings.rth_altitude_m is None or settings.read_site in ("", s.site.name):
        return ()
    words = Phrase.of(
        f"The RTH altitude of {{height}} was read at {settings.read_site}, not here yet.",
        height=height(settings.rth_altitude_m),
    )
    return (
        Finding(name="RTH altitude", level=Level.CAUTION, reason=words, remedy="Read it again here.", source=PRACTICE),
    )


def bench_due(context: Context) -> Phrase | None:
    """Why the bench test is due today, or None. Source: cadence and events of its check."""
    check = _BY_ID[check_of(context.situation.aircraft)]
    return Day(context.situation).why(check)


def last_tested(context: Context) -> datetime | None:
    """When the failsafe was last tested and passed, on its page or in a round (aware)."""
    test = context.situation.history.bench_test
    done = context.situation.history.last_done(check_of(context.situation.aircraft))
    times = [
        moment
        for moment in (test.at if test is not None and test.passed else None, done.at if done else None)
        if moment
    ]
    return max(times, default=None)
