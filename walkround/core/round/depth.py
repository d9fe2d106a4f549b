"""How deep the list of today goes, and why: as deep as the risk deserves, never below the floor.

The floor is what no depth leaves out: ``Check.short``, what the law asks, and what a gate waits for. Left out is not skipped: it is
listed with its reason, counts for nothing in the verdict, and one tap asks it. Source of the rules and numbers: our choice; common
practice, no source.
"""

from collections.abc import Iterator

from walkround.core.aircraft.aircraft import ANY, Aircraft
from walkround.core.base.wording import capital, counted
from walkround.core.checklist.check import Check, Depth, Occasion, Risk
from walkround.core.checklist.history import EventKind
from walkround.core.checklist.library import CHECKS, GATES
from walkround.core.round import due
from walkround.core.round.occasions import occasions_today
from walkround.core.round.situation import ChosenDepth, Situation

HEAVY_G, LIGHT_G = 4_000.0, 250.0
"""From the first take-off mass on the whole list is walked; from the second on never the short one."""
LARGE_WH = 20.0
"""From this energy of a pack on the list is not the short one."""
FIRST_FLIGHTS, KNOWN_FLIGHTS = 3, 10
"""So many flights with an aircraft are its first ones; after so many it is known."""
WHOLE_OCCASIONS = (Occasion.MAIDEN, Occasion.CREW, Occasion.AFTER_PAUSE)
WHOLE_EVENTS = (
    EventKind.CRASH,
    EventKind.HARD_LANDING,
    EventKind.REPAIR,
    EventKind.FIRMWARE,
    EventKind.NEW_BUILD,
    EventKind.PART_REPLACED,
    EventKind.BORROWED,
    EventKind.LONG_IDLE,
)
"""After one of these, until it has flown again, the whole list is walked."""
_SHALLOWER = {Depth.FULL: Depth.NORMAL, Depth.NORMAL: Depth.SHORT, Depth.SHORT: Depth.SHORT}
_STANDS_FOR = {check.id: check.replaces for check in CHECKS if check.replaces}
HELD_BY_GATES = frozenset(need for gate in GATES for need in gate.needs)
"""What a gate waits for: it is asked at every depth."""


def on_floor(check: Check, aircraft: Aircraft) -> bool:
    """Whether no depth leaves this check of an aircraft out. Source: above."""
    if (check.grounds and check.risk is Risk.LAW) or check.id in HELD_BY_GATES:
        return True
    return check.short and (check.floor_for is ANY or check.floor_for.fits(aircraft))


def least(check: Check, aircraft: Aircraft) -> Depth:
    """The shortest list of an aircraft that has this check when it is due; what the pilot added is on each of them. Source: above."""
    if on_floor(check, aircraft) or check.origin == "custom":
        return Depth.SHORT
    return Depth.FULL if check.deep else Depth.NORMAL


def _reasons(situation: Situation, flights: int, found: int) -> Iterator[tuple[Depth, str]]:
    """What asks for more than the short list: the depth it asks for, and why, in words."""
    aircraft, history = situation.aircraft, situation.history
    if situation.methods.round == "every":
        yield Depth.FULL, "Your method: the full list, every launch"
    for occasion in occasions_today(situation):
        yield (Depth.FULL if occasion in WHOLE_OCCASIONS else Depth.NORMAL), capital(occasion.value)
    flown_at = history.aircraft_last_flight_at
    for event in due.happened(situation):
        if flown_at is None or event.at > flown_at or event.kind in (EventKind.NEW_SITE, EventKind.LONG_IDLE):
            yield (Depth.FULL if event.kind in WHOLE_EVENTS else Depth.NORMAL), due.event_words(event, situation)
    if flights < KNOWN_FLIGHTS:
        yield (Depth.FULL if flights < FIRST_FLIGHTS else Depth.NORMAL), f"{counted(flights, 'flight')} with it so far"
    if aircraft.mass_g >= LIGHT_G:
        yield (Depth.FULL if aircraft.mass_g >= HEAVY_G else Depth.NORMAL), f"It weighs {aircraft.mass_g:.0f} g"
    if situation.pack.energy_wh() >= LARGE_WH:
        yield Depth.NORMAL, f"Its pack holds {situation.pack.energy_wh():.0f} Wh"
    if situation.site.spectator_line:
        yield Depth.NORMAL, "Spectators at this field"
    if found:
        yield Depth.NORMAL, "A fault in one of its last three rounds"
    if history.snags:
        yield Depth.NORMAL, "An open snag"


def choose(
    situation: Situation,
    *,
    flights: int,
    found: tuple[str, ...] = (),
    wish: Depth = Depth.SHORT,
    asked: tuple[str, ...] = (),
) -> ChosenDepth:
    """The depth of today's list. ``flights``: how many with this aircraft; ``found``: checks that found a fault in its last three
    rounds, which stay on the list; ``wish``: at least this deep; ``asked``: checks the pilot wants besides.

    More mass, energy, people or events never shortens; a later launch of the day is one step shorter unless something was found.
    Source: above.
    """
    reasons = list(_reasons(situation, flights, len(found)))
    # A fault found by a check that stands for several may be in any of them.
    found = tuple(dict.fromkeys(name for one in found for name in (one, *_STANDS_FOR.get(one, ()))))
    deepest = max((depth for depth, _ in reasons), key=lambda depth: depth.rank, default=Depth.SHORT)
    why = tuple(words for depth, words in reasons if depth is deepest)
    if situation.history.rounds_today and situation.methods.round != "every" and not found:
        deepest, why = _SHALLOWER[deepest], (*why, "A later launch today")
    if wish.rank > deepest.rank:
        deepest, why = wish, ("You chose it",)
    return ChosenDepth(
        depth=deepest, why=why or ("Light, known, and nothing happened since it last flew",), found=found, asked=asked
    )


def at_the_field(chosen: ChosenDepth, left: tuple[str, ...]) -> ChosenDepth:
    """The same with what can only be done at home left there (ids of checks). Source: the pilot's own act."""
    return chosen.model_copy(update={"left_at_home": tuple(dict.fromkeys((*chosen.left_at_home, *left)))})


def deeper(chosen: ChosenDepth, *, wish: Depth = Depth.SHORT, ask: str = "") -> ChosenDepth:
    """The same, with one more check asked or at least as deep as wished; never shorter. Source: the pilot's own act."""
    if ask and ask not in chosen.asked:
        chosen = chosen.model_copy(update={"asked": (*chosen.asked, ask)})
    if wish.rank > chosen.depth.rank:
        chosen = chosen.model_copy(update={"depth": wish, "why": ("You chose it",)})
    return chosen
