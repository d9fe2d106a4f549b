"""Why a check is on today's list, and why it is not."""

from collections.abc import Callable, Iterator
from datetime import timedelta

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.phrase import Phrase
from walkround.core.base.wording import listed
from walkround.core.checklist.check import Check, Depth, Frequency, Phase
from walkround.core.checklist.custom import CheckChange, belonging
from walkround.core.checklist.history import Done, Event, EventKind
from walkround.core.pilot.methods import METHODS, MethodTopic
from walkround.core.round import due
from walkround.core.round.context import Context
from walkround.core.round.depth import least
from walkround.core.round.known import on_record
from walkround.core.round.occasions import occasions_today
from walkround.core.round.reasons import special_reason
from walkround.core.round.situation import Situation

WHOLE_LIST = (EventKind.FIRMWARE,)
"""After these the whole list is walked again, what was done earlier today too.
Source: after a firmware update; common practice, no source."""
_TWO_DAYS = timedelta(days=2)
_WALKED = (Frequency.LAUNCH, Frequency.DAY)
_FIRST, _LAUNCH = Phrase(text="First launch of the day."), Phrase(text="Every launch.")
_TODAY = Phrase(text="For today only.")
_SECOND = Phrase(text="Second launch today.")
_DUE: dict[str, Callable[[Situation], Phrase | None]] = {
    "compass": due.compass_due,
    "level": due.accelerometer_due,
    "set": due.set_due,
}


class Day:
    """A situation looked at once: what happened, what was done, which occasions there are."""

    def __init__(self, situation: Situation, *, words: bool = True) -> None:
        """``words``: whether reasons of their own are wanted, or only whether a check is on the list."""
        self.situation = situation
        self.context = Context(situation, {})
        self.words = words
        self.done: dict[str, Done] = {d.check_id: d for d in reversed(situation.history.done)}
        self.newest: dict[EventKind, Event] = {}
        self.parts: list[Event] = []
        for event in due.happened(situation):
            if event.kind is EventKind.PART_REPLACED:
                self.parts.append(event)
            if event.kind not in self.newest or event.at > self.newest[event.kind].at:
                self.newest[event.kind] = event
        self.whole = max((self.newest[k] for k in WHOLE_LIST if k in self.newest), key=lambda e: e.at, default=None)
        self.occasions = occasions_today(situation)
        self._reasons: dict[int, Phrase] = {}
        self.later = situation.history.rounds_today > 0
        chosen = situation.depth
        self.depth, self.wanted = Depth.FULL, frozenset[str]()
        if chosen is not None and situation.methods.round != "every":
            self.depth, self.wanted = chosen.depth, frozenset((*chosen.found, *chosen.asked))
        # The short list asks one check in place of several.
        self.replaced = _replaced(situation) if self.depth is Depth.SHORT else frozenset[str]()
        self.left_out: list[Check] = []
        self.on_record: list[tuple[Check, Phrase]] = []
        self.left_at_home = frozenset(chosen.left_at_home if chosen is not None else ())
        self.by_event: set[str] = set()
        self.decides = {snag.decided_by: snag.title for snag in situation.history.snags if snag.decided_by}

    def why(self, check: Check) -> Phrase | None:
        """Why this check is on today's list, or None when it is not."""
        return self._why(check) if check.applies.fits(self.situation.aircraft) else None

    def reasons(self) -> Iterator[tuple[Check, Phrase]]:
        """Today's checks in walking order, each with its reason; afterwards ``left_out`` holds what a longer list would have, and
        ``on_record`` what is known and not asked, each with what is known."""
        self.left_out, self.on_record = [], []
        for check in belonging(self.situation.custom_checklist, self.situation.aircraft):
            reason = self._why(check)
            if reason is not None:
                yield check, reason

    def raised(self) -> list[tuple[Event, int]]:
        """The events that raise checks today, newest first, each with how many; the whole list counts as none of it."""
        many: dict[int, int] = {}
        events: dict[int, Event] = {}
        for check in belonging(self.situation.custom_checklist, self.situation.aircraft):
            if check.due or not (check.events or check.on_parts) or check.frequency in _WALKED:
                continue
            event = self._raised(check, self.done.get(check.id))
            if event is not None:
                events[id(event)] = event
                many[id(event)] = many.get(id(event), 0) + 1
        return sorted(((events[key], n) for key, n in many.items()), key=lambda pair: pair[0].at, reverse=True)

    def _why(self, check: Check) -> Phrase | None:
        """As ``why``, for a check that belongs to the aircraft."""
        if check.id in self.decides:
            return Phrase(text=f"{self.decides[check.id]} This decides.")
        if check.method and not self._by_method(check):
            return None
        if check.indoors and not self.situation.site.indoors:
            return None
        if check.outdoors and self.situation.site.indoors:
            return None
        if check.replaces and not self.replaced:
            return None
        if check.on_day is not None:
            return _TODAY if check.on_day == self.situation.today() else None
        if check.due:
            return _DUE[check.due](self.situation)
        done = self.done.get(check.id)
        event = self._raised(check, done)
        if event is not None:
            self.by_event.add(check.id)
            # What the whole list is walked again for may give way to what this check has to say of its own.
            own_words = self._special(check) if event is self.whole else None
            return own_words or self._event_reason(event)
        occasion = None
        if check.occasions:
            occasion = next((self.occasions[o] for o in check.occasions if o in self.occasions), None)
            if occasion is None:
                return None
            if check.frequency in (Frequency.SEASON, Frequency.EVENT):
                return occasion
        return self._by_cadence(check, done, occasion)

    def _event_reason(self, event: Event) -> Phrase:
        """The words of an event, made once: many checks share one."""
        if id(event) not in self._reasons:
            self._reasons[id(event)] = due.event_reason(event, self.situation)
        return self._reasons[id(event)]

    def _special(self, check: Check) -> Phrase | None:
        return special_reason(check.id, self.context) if self.words else None

    def _by_method(self, check: Check) -> bool:
        """Whether it belongs to the method that the pilot follows."""
        topic, method = check.method.split("=")
        return bool(getattr(self.situation.methods, topic) == method)

    def _raised(self, check: Check, done: Done | None) -> Event | None:
        """The newest event that raises the check and has not been answered by doing it."""
        if self.whole is None and not check.events and not check.on_parts:
            return None
        newest: Event | None = None
        for kind in check.events:
            event = self.newest.get(kind)
            if event is not None and (newest is None or event.at > newest.at):
                newest = event
        if check.on_parts:
            for event in self.parts:
                if event.part in check.on_parts and (newest is None or event.at > newest.at):
                    newest = event
        if self.whole is not None and not check.occasions and check.frequency in _WALKED:
            newest = self.whole if newest is None or self.whole.at > newest.at else newest
        return newest if newest is not None and (done is None or newest.at > done.at) else None

    def _by_cadence(self, check: Check, done: Done | None, occasion: Phrase | None) -> Phrase | None:
        situation = self.situation
        if check.id in self.left_at_home and check.id not in self.wanted:
            self.left_out.append(check)
            return None
        if check.frequency is Frequency.EVENT:
            return None
        if check.frequency is Frequency.SEASON:
            return due.season_due(done, situation)
        if (
            check.frequency is Frequency.DAY
            and done is not None
            and abs(situation.now - done.at) < _TWO_DAYS  # spares the calendar
            and situation.local(done.at).date() == situation.today()
        ):
            return None
        if check.id in self.wanted:
            return self._wanted(check)
        if check.id in self.replaced:
            return None
        if occasion is None and self._left_by_depth(check):
            self.left_out.append(check)
            return None
        known = self._known(check)
        if known is not None:
            self.on_record.append((check, known))
            return None
        if check.frequency is Frequency.DAY:
            return occasion or self._special(check) or _FIRST
        return occasion or self._special(check) or (_SECOND if self.later else _LAUNCH)

    def _left_by_depth(self, check: Check) -> bool:
        """Whether the list of today is too short for it; only what comes before take-off is ever left out."""
        if self.depth is Depth.FULL or check.phase is not Phase.BEFORE:
            return False
        return least(check, self.situation.aircraft).rank > self.depth.rank

    def _known(self, check: Check) -> Phrase | None:
        """What is on record in place of asking; on the full list everything is asked."""
        if not check.known or self.depth is Depth.FULL:
            return None
        return on_record(check.known, self.context, self.done, self.replaced)

    def _wanted(self, check: Check) -> Phrase:
        chosen = self.situation.depth
        found = chosen is not None and check.id in chosen.found
        return Phrase(text="It found a fault in one of the last three rounds." if found else "You asked for it today.")

    def why_not(self, check: Check, change: CheckChange | None = None) -> Phrase | None:
        """Why this check is not on today's list, or None when it is; ``change``: what the pilot made of it."""
        if change is not None and change.off:
            return Phrase(text=f"You switched it off: {change.reason or 'no reason given'}.")
        return None if self.why(check) is not None else self.absence(check)

    def absence(self, check: Check) -> Phrase:
        """Why a check that is known not to be on today's list is not."""
        wants = check.applies.wants(self.situation.aircraft)
        if wants:
            return Phrase(text=f"Only for aircraft with: {listed([f'“{word}”' for word in wants])}.")
        words = self._why_not_words(check)
        return Phrase(text=words) if words else self._known(check) or Phrase(text=self.depth_words())

    def _why_not_words(self, check: Check) -> str:
        if check.method and not self._by_method(check):
            topic, method = check.method.split("=")
            title, methods = METHODS[MethodTopic(topic)]
            label = next(s.label for s in methods if s.id == method)
            return f"Only with another method. {title}: {label.lower()}."
        if check.outdoors and self.situation.site.indoors:
            return "Only outdoors. This field is indoors."
        if check.indoors and not self.situation.site.indoors:
            return "Only indoors."
        if check.on_day is not None:
            return f"For {check.on_day.day} {check.on_day:%b} only."
        done = self.done.get(check.id)
        if check.due:
            return (
                "Only for packs that fly together as a set." if check.due == "set" else "Calibrated, and not due again."
            )
        if check.occasions and not any(o in self.occasions for o in check.occasions):
            names = " or ".join(o.value for o in check.occasions)
            return f"Only for {names}; not selected today."
        when = due.day_words(self.situation.local(done.at).date(), self.situation.today()) if done else ""
        if check.frequency is Frequency.EVENT:
            raised = [kind.value for kind in check.events] + [f"new {part.value}" for part in check.on_parts]
            since = f"none since it was done, {when}" if when else "none is on record"
            return f"Only after {' or '.join(raised) or 'an occasion'}; {since}."
        if check.frequency is Frequency.SEASON:
            ahead = due.next_season_date(self.situation)
            return f"Season inspection done {when}; due again from {ahead.day} {ahead:%b}."
        if check.frequency is Frequency.DAY and done is not None:
            return f"Done today at {self.situation.local(done.at):%H:%M}; due again on the next flying day."
        if check.id in self.left_at_home:
            return "Only possible at home, and you are at the field."
        if check.replaces:
            return "Only on the short list, in place of several checks."
        if check.id in self.replaced:
            return "The short list asks it within another check."
        return ""

    def depth_words(self) -> str:
        """Why the list leaves out what is due: how deep it goes and why."""
        why = self.situation.depth.why if self.situation.depth else ()
        return f"Not on the {self.depth} list. {'. '.join(why)}."


def depends(check: Check, topic: MethodTopic, aircraft: Aircraft) -> bool:
    """Whether the method of a topic can decide if this check is on the list.

    A check that names the topic, the compass where its own practice calls for it, and whatever a shorter list leaves out.
    """
    if check.method.startswith(f"{topic}="):
        return True
    if topic is MethodTopic.COMPASS:
        return check.due == "compass"
    return topic is MethodTopic.ROUND and check.frequency in _WALKED and least(check, aircraft) is not Depth.SHORT


def _replaced(situation: Situation) -> frozenset[str]:
    """What is asked by one check in place of several: only where that check itself is asked."""
    return frozenset(
        name
        for check in belonging(situation.custom_checklist, situation.aircraft)
        if check.frequency is Frequency.LAUNCH and not (check.outdoors and situation.site.indoors)
        for name in check.replaces
    )
