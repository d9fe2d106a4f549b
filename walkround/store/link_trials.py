"""Trials of a lost link, kept by aircraft: the bench test of its failsafe, the returns flown on purpose, and the settings as a round read them."""

import json
from datetime import datetime
from functools import lru_cache
from typing import Any

import msgspec
from peewee import Select

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.failsafe import Failsafe
from walkround.core.aircraft.link_trials import BenchTest, Rehearsal, Trial
from walkround.core.base.clock import is_ahead
from walkround.core.base.units import Measure, Quantity
from walkround.core.checklist.history import EventKind, SnagOn
from walkround.core.lost_link.bench_test import check_of
from walkround.core.round.context import Context
from walkround.core.round.failsafe_answers import FAILSAFE_CHECKS, RTH_CHECK
from walkround.core.round.walk import Walk
from walkround.store import hangar, snags
from walkround.store.air_models import LinkTrialRow
from walkround.store.models import DoneRow
from walkround.store.statements import prepared

MOST = 20
"""So many of the newest trials are looked at. Source: our choice."""


@prepared
def _newest(aircraft: Any) -> Select:
    rows = LinkTrialRow.select(LinkTrialRow.body).where(LinkTrialRow.aircraft == aircraft)
    return rows.order_by(LinkTrialRow.at.desc(), LinkTrialRow.id.desc()).limit(MOST)


@lru_cache(maxsize=512)
def _trial(text: str) -> Trial:
    body = json.loads(text)
    return BenchTest.model_validate(body) if body["kind"] == "bench" else Rehearsal.model_validate(body)


def newest(aircraft_id: int, now: datetime) -> tuple[BenchTest | None, tuple[Rehearsal, ...]]:
    """The last bench test of an aircraft (None: never) and its newest returns flown on purpose; never what is dated ahead of the clock (aware)."""
    found = [trial for (body,) in _newest(aircraft_id) if not is_ahead((trial := _trial(body)).at, now)]
    test = next((one for one in found if isinstance(one, BenchTest)), None)
    return test, tuple(one for one in found if isinstance(one, Rehearsal))


def keep(aircraft_id: int, trial: Trial) -> None:
    """Keep a trial."""
    LinkTrialRow.create(
        aircraft=aircraft_id, kind=trial.kind, at=trial.at, body=json.dumps(trial.model_dump(mode="json"))
    )


def keep_test(aircraft: Aircraft, test: BenchTest) -> None:
    """Keep a bench test with what follows: passed, its check counts as done and what an earlier one opened is closed; failed, the aircraft stays down until
    it is tested again."""
    keep(aircraft.id, test)
    check_id = check_of(aircraft)
    if test.passed:
        _done(aircraft.id, check_id, test.at)
        if check_id == "bench.failsafe":
            _done(aircraft.id, "bench.propellers_off", test.at)
        for snag in snags.open_ones(aircraft.id):
            if snag.check_id == check_id:
                snags.close(snag.id, "Failsafe tested again and passed", test.at)
        return
    hangar.add_event(aircraft.id, EventKind.FAILSAFE_FAILED, test.at, detail=test.seen.value)
    title = f"Failsafe test failed: {test.seen.value}"
    if not any(snag.title == title for snag in snags.open_ones(aircraft.id)):
        snags.open_one(SnagOn.AIRCRAFT, aircraft.id, title, grounds=True, at=test.at, check_id=check_id)


def _done(aircraft_id: int, check_id: str, at: datetime, value: Quantity | None = None) -> None:
    text = None if value is None else msgspec.json.encode(value).decode()
    DoneRow.replace(aircraft=aircraft_id, check_id=check_id, at=at, value=text).execute()  # type: ignore[no-untyped-call]


def passed(aircraft_id: int, check_id: str, at: datetime) -> None:
    """Keep that a check of an aircraft was passed on another page, at an aware time."""
    _done(aircraft_id, check_id, at)


def read_settings(aircraft: Aircraft, settings: Failsafe, at: datetime, checks: tuple[str, ...]) -> None:
    """Keep the settings of a failsafe as read at an aware time, with the checks of a round (ids) that this answers."""
    hangar.save(aircraft.model_copy(update={"failsafe": settings}), at)
    for check_id in checks:
        read_m = settings.rth_altitude_m if check_id == RTH_CHECK else None
        _done(aircraft.id, check_id, at, None if read_m is None else Quantity(value=read_m, measure=Measure.HEIGHT))


def note(walked: Walk, at: datetime) -> None:
    """Keep with the aircraft what a signed round read of its failsafe, at an aware time."""
    answers = {state.planned.check.id: state.evidence for state in walked.states if state.evidence is not None}
    if not any(check_id in answers for check_id in (*FAILSAFE_CHECKS, RTH_CHECK)):
        return
    situation = walked.situation
    now = Context(situation, answers).failsafe
    aircraft = hangar.get(Aircraft, situation.aircraft.id)
    kept = aircraft.failsafe or Failsafe()
    read = {"action": now.action, "rth_altitude_m": now.rth_altitude_m, "read_at": at, "read_site": situation.site.name}
    hangar.save(aircraft.model_copy(update={"failsafe": kept.model_copy(update=read)}), at)
