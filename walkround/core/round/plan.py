"""The plan: only the checks that apply today, each with the reason it is there, and the gates between them."""

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.part_list import part_of
from walkround.core.answers.choice import AskChoice, Option
from walkround.core.base.finding import Level
from walkround.core.base.phrase import Phrase
from walkround.core.base.struct import Struct
from walkround.core.base.units import Quantity
from walkround.core.checklist.check import Check, Frequency, Gate, SafeState, Station
from walkround.core.checklist.custom import CheckChange, checklist_of, rarer
from walkround.core.checklist.history import Snag, SnagOn
from walkround.core.checklist.library import CHECKS, GATES, SAFE_STATES
from walkround.core.packs import lithium
from walkround.core.round import due
from walkround.core.round.situation import Situation
from walkround.core.round.why import Day

SNAG_FIXED, SNAG_STILL = "fixed", "still"


class PlannedCheck(Struct, frozen=True, kw_only=True):
    """A check of today: why today, and what was measured the last time (shown beside, never copied).
    ``by_event``: whether something that happened raised it."""

    check: Check
    why_today: Phrase
    before: Quantity | None = None
    snag: Snag | None = None
    by_event: bool = False


class LeftOut(Struct, frozen=True, kw_only=True):
    """A grounding check that would be on today's list if the pilot had not taken it off: how, and their reason."""

    check_id: str
    title: str
    how: str
    reason: str


class Plan(Struct, frozen=True, kw_only=True):
    """Today's checks in walking order, the gates between them, what the aircraft is held in, and what the pilot took off.
    ``shorter_by``: what is due and left out because the list is not the full one; ``on_record``: what is due and not asked, each with
    what is known of it; both in walking order."""

    checks: tuple[PlannedCheck, ...]
    gates: tuple[Gate, ...]
    safe_states: tuple[SafeState, ...] = ()
    left_out: tuple[LeftOut, ...] = ()
    shorter_by: tuple[Check, ...] = ()
    on_record: tuple[tuple[Check, Phrase], ...] = ()

    def at(self, station: Station) -> tuple[PlannedCheck, ...]:
        """The checks of one station, in order."""
        return tuple(p for p in self.checks if p.check.station is station)

    def ids(self) -> frozenset[str]:
        """Ids of the checks on the list."""
        return frozenset(p.check.id for p in self.checks)


def make_plan(situation: Situation, day: Day | None = None) -> Plan:
    """Today's plan for a situation. Pure: the same situation gives the same plan. ``day``: that of the situation, if at hand.

    Source: cadences, events, occasions and methods; each check carries its own.
    """
    day, mine = day or Day(situation), checklist_of(situation.custom_checklist.of(situation.aircraft.id))
    reasons = tuple(day.reasons())
    deciding = {check.id for check, _ in reasons}
    # A snag that waits for a check of today's list is decided there, and asked nowhere else.
    asked = [snag for snag in situation.history.snags if snag.decided_by not in deciding]
    by_station: dict[Station, list[PlannedCheck]] = {
        station: [_snag_check(s, station, situation) for s in asked if _AT[s.on] is station] for station in Station
    }
    for check, reason in reasons:
        done = day.done.get(check.id)
        planned_check = PlannedCheck(
            check=check, why_today=reason, before=done.value if done else None, by_event=check.id in day.by_event
        )
        by_station[check.station].append(planned_check)
    planned = [p for checks in by_station.values() for p in checks]
    here = {p.check.id for p in planned}
    return Plan(
        checks=tuple(planned),
        gates=tuple(g for g in GATES if not here.isdisjoint(g.blocks) and not here.isdisjoint(g.needs)),
        safe_states=tuple(
            h for h in SAFE_STATES if not here.isdisjoint(h.until) and h.applies.fits(situation.aircraft)
        ),
        shorter_by=tuple(day.left_out),
        on_record=tuple(day.on_record),
        left_out=tuple(_left_out(c, was) for c, was in mine.changed if was.id not in here and _misses(c, was, day)),
    )


_AT = {SnagOn.AIRCRAFT: Station.AIRFRAME, SnagOn.PACK: Station.PACK}
_PARTS = {check.id: check.part for check in CHECKS}


def _misses(change: CheckChange, built_in: Check, day: Day) -> bool:
    """Whether today's list lacks a grounding check because of the pilot's own change."""
    less = change.off or (change.frequency is not None and rarer(change.frequency, built_in.frequency))
    return built_in.grounds and less and day.why(built_in) is not None


def _left_out(change: CheckChange, built_in: Check) -> LeftOut:
    how = "switched off" if change.off else f"asked less often ({change.frequency})"
    return LeftOut(check_id=built_in.id, title=change.title or built_in.title, how=how, reason=change.reason)


def why_today(check: Check, situation: Situation) -> Phrase | None:
    """Why this check is on today's list, or None when it is not.

    Source: cadence, events and occasions of the check; due rules in ``due``.
    """
    return Day(situation).why(check)


def snag_group(snag: Snag, aircraft: Aircraft) -> str:
    """The part of the drawing where a snag is shown: of its part, else of its check."""
    on = part_of(aircraft, snag.parts[0]) if snag.parts else None
    if on is not None:
        return on.group
    return _PARTS.get(snag.decided_by or snag.check_id) or ("pack" if snag.on is SnagOn.PACK else "body")


def _snag_check(snag: Snag, station: Station, situation: Situation) -> PlannedCheck:
    opened = due.day_words(situation.local(snag.opened_at).date(), situation.today())
    level = Level.GROUNDED if snag.grounds else Level.CAUTION
    on = situation.pack.label if snag.on is SnagOn.PACK else situation.aircraft.name
    check = Check(
        id=f"snag.{snag.id}",
        station=station,
        title=f"Open snag: {snag.title}",
        how=f"Check {on} again. Enter what was done, or leave it open.",
        why="A snag stays until it is fixed.",
        grounds=snag.grounds,
        frequency=Frequency.LAUNCH,
        ask=AskChoice(
            options=(
                Option(id=SNAG_FIXED, label="Fixed", reason="Fixed.", needs_note=True),
                Option(
                    id=SNAG_STILL,
                    label="Not fixed",
                    level=level,
                    reason=f"{snag.title}: still open.",
                    remedy="Grounded until this is fixed." if snag.grounds else "Watch it in flight.",
                ),
            )
        ),
        fault=f"{snag.title}: still open.",
        remedy="Fix it before it flies.",
        caution=f"Swollen, punctured, leaking or smelling: {lithium.NEVER_AGAIN}"
        if snag.on is SnagOn.PACK and snag.grounds
        else "",
        short=True,
        part=snag_group(snag, situation.aircraft),
    )
    return PlannedCheck(check=check, why_today=Phrase.of(f"Found {opened} and not closed."), snag=snag)
