"""What following another method would change today: which checks appear, which go, which are judged otherwise."""

from functools import lru_cache

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.struct import Struct
from walkround.core.checklist.check import Check
from walkround.core.checklist.custom import CustomChecklist, belonging
from walkround.core.pilot.methods import METHODS, Method, MethodTopic
from walkround.core.round.situation import Situation
from walkround.core.round.why import Day, depends


class MethodEffect(Struct, frozen=True, kw_only=True):
    """The change for one aircraft and day: checks that would come, that would go, and that are judged otherwise."""

    method: Method
    chosen: bool
    appear: tuple[Check, ...] = ()
    go: tuple[Check, ...] = ()
    alters: tuple[str, ...] = ()


def with_method(situation: Situation, topic: MethodTopic, method: str) -> Situation:
    """The same situation under another method of one topic."""
    methods = situation.methods.model_copy(update={topic.value: method})
    return situation.model_copy(update={"methods": methods})


@lru_cache(maxsize=256)
def _open_to(topic: MethodTopic, checklist: CustomChecklist, aircraft: Aircraft) -> tuple[Check, ...]:
    """What the methods of a topic can bring or take away, whatever the day."""
    return tuple(check for check in belonging(checklist, aircraft) if depends(check, topic, aircraft))


def effects(situation: Situation, topic: MethodTopic, now: dict[str, Check] | None = None) -> tuple[MethodEffect, ...]:
    """For each method of a topic, what choosing it would change against today's list.

    ``now``: today's list if it is at hand. Source: the list made twice and compared; what a method alters stands with
    the method.
    """
    now = on_today(situation) if now is None else now
    chosen = getattr(situation.methods, topic.value)
    # Only these can come or go; everything else on the list stays.
    open_to_it = _open_to(topic, situation.custom_checklist, situation.aircraft)
    stays = now.keys() - {check.id for check in open_to_it}
    found = []
    for method in METHODS[topic][1]:
        if method.id == chosen:
            found.append(MethodEffect(method=method, chosen=True))
            continue
        day = Day(with_method(situation, topic, method.id), words=False)
        then = {check.id: check for check in open_to_it if day.why(check) is not None}
        found.append(
            MethodEffect(
                method=method,
                chosen=False,
                appear=tuple(check for check_id, check in then.items() if check_id not in now),
                go=tuple(c for check_id, c in now.items() if check_id not in stays and check_id not in then),
                alters=tuple(words for check_id, words in method.alters if check_id in stays or check_id in then),
            )
        )
    return tuple(found)


def every_effect(situation: Situation) -> dict[MethodTopic, tuple[MethodEffect, ...]]:
    """The effects of every topic. Source: as ``effects``."""
    now = on_today(situation)
    return {topic: effects(situation, topic, now) for topic in MethodTopic}


def on_today(situation: Situation) -> dict[str, Check]:
    """The checks on today's list by id, without their reasons."""
    return {check.id: check for check, _ in Day(situation, words=False).reasons()}
