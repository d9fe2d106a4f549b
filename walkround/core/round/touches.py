"""The drawing is the inspection: which parts today's checks touch, which are left, and which checks are answered once all their parts are touched.

Which checks are due and how deep the list goes is said by the plan; here each of them only finds its parts. A part that may be confirmed with its
neighbours is, below the full list; one with an open snag, a fault in the last rounds or after a crash is touched by itself. Source: our choice.
"""

from collections.abc import Iterable, Mapping
from datetime import datetime
from enum import StrEnum
from functools import lru_cache

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.answers.choice import Chosen
from walkround.core.answers.kind import Answer
from walkround.core.answers.ways_out import PartsDamaged
from walkround.core.base.struct import Struct
from walkround.core.base.wording import counted
from walkround.core.checklist.check import Phase, Station
from walkround.core.checklist.history import Event, EventKind
from walkround.core.inspection.aspects import Aspect
from walkround.core.inspection.touched import Stop, TouchedPart, stops
from walkround.core.round.due import happened
from walkround.core.round.groups import confirmed, may_join
from walkround.core.round.plan import SNAG_FIXED
from walkround.core.round.walk import CheckState, Walk

A = Aspect
TOUCHED: dict[str, frozenset[Aspect]] = {
    "airframe.shell": frozenset({A.SHELL, A.ARM, A.HATCH, A.LEG, A.VENT, A.STRAP, A.OWN}),
    "airframe.vents": frozenset({A.VENT}),
    "airframe.arms": frozenset({A.ARM, A.LATCH}),
    "airframe.legs": frozenset({A.LEG}),
    "airframe.straps": frozenset({A.STRAP, A.STANDOFF}),
    "airframe.wires": frozenset({A.WIRES}),
    "airframe.propellers": frozenset({A.BLADE, A.HUB}),
    "airframe.propeller_seat": frozenset({A.LOCK}),
    "airframe.propeller_nut": frozenset({A.LOCK}),
    "airframe.propeller_screws": frozenset({A.LOCK}),
    "airframe.spinner": frozenset({A.SPINNER, A.LOCK, A.HUB}),
    "airframe.guards": frozenset({A.GUARD}),
    "airframe.motors": frozenset({A.BELL, A.SHAFT, A.MOUNT, A.GEAR}),
    "airframe.mounts": frozenset({A.MOUNT}),
    "airframe.engine": frozenset({A.ENGINE, A.MOUNT, A.TANK, A.GEAR}),
    "airframe.inside": frozenset({A.SERVO, A.CONNECTOR, A.HATCH, A.STRAP, A.OWN}),
    "airframe.wing_joint": frozenset({A.PANEL, A.JOINT}),
    "airframe.wing_leads": frozenset({A.LEAD}),
    "airframe.posts": frozenset({A.DOWEL}),
    "airframe.wing_bolts": frozenset({A.BOLT}),
    "airframe.hinges": frozenset({A.SURFACE}),
    "airframe.flaps_hinges": frozenset({A.FLAP}),
    "airframe.tail": frozenset({A.TAIL}),
    "airframe.fins": frozenset({A.FIN}),
    "airframe.nose_wheel": frozenset({A.NOSE_WHEEL}),
    "airframe.tail_wheel": frozenset({A.TAIL_WHEEL}),
    "airframe.collars": frozenset({A.WHEEL, A.NOSE_WHEEL, A.TAIL_WHEEL}),
    "airframe.rotor_blades": frozenset({A.ROTOR_BLADE}),
    "airframe.blade_bolts": frozenset({A.GRIP}),
    "airframe.flybar": frozenset({A.FLYBAR}),
    "airframe.links": frozenset({A.LINK}),
    "airframe.swashplate": frozenset({A.SWASHPLATE, A.MAST}),
    "airframe.shafts": frozenset({A.MAST}),
    "airframe.slop": frozenset({A.MAST}),
    "airframe.rotor_head": frozenset({A.GRIP, A.FLYBAR, A.LINK, A.SWASHPLATE, A.MAST}),
    "airframe.tail_rotor": frozenset({A.TAIL_ROTOR}),
    "airframe.boom": frozenset({A.BOOM}),
    "airframe.canopy": frozenset({A.CANOPY}),
    "airframe.sensors": frozenset({A.SENSOR}),
    "airframe.antennas": frozenset({A.ANTENNA}),
    "airframe.video_antennas": frozenset({A.VIDEO_ANTENNA}),
    "airframe.payload": frozenset({A.PAYLOAD}),
    "airframe.gimbal": frozenset({A.GIMBAL}),
}
"""What the eye and hand checks of the cold aircraft touch. Source: their own words in the library."""


AFTER_LANDING = "after.look"
"""The check of the landed aircraft, where the same parts are shown again. Source: id of the library."""


class TouchState(StrEnum):
    """How a part was left in a round."""

    OK = "ok"
    FIXED = "fixed"
    DAMAGED = "damaged"


class Touch(Struct, frozen=True, kw_only=True):
    """One part as it was left, at an aware time."""

    part_id: str
    state: TouchState
    at: datetime


class RoutePart(Struct, frozen=True, kw_only=True):
    """A part on today's route: how it was left, whether it is touched by itself, whether a snag is open on it, since which event nothing is known of it, and
    when it was last touched (aware)."""

    part: TouchedPart
    state: TouchState | None
    alone: bool
    marked: bool
    suspect: Event | None = None
    touched_at: datetime | None = None

    @property
    def left(self) -> bool:
        """Whether it is still to be touched."""
        return self.state is None


class RouteStop(Struct, frozen=True, kw_only=True):
    """A stop of today's route with the parts that matter today, and the checks (ids) they are touched for."""

    stop: Stop
    parts: tuple[RoutePart, ...]
    checks: tuple[str, ...]

    @property
    def left(self) -> int:
        """How many parts are still to be touched here."""
        return sum(1 for part in self.parts if part.left)

    @property
    def together(self) -> tuple[str, ...]:
        """Ids of the parts that one tap may confirm here: at least two, none that is touched by itself."""
        ids = tuple(part.part.id for part in self.parts if part.left and not part.alone)
        return ids if len(ids) > 1 else ()


@lru_cache(maxsize=1024)
def parts_of(check_id: str, aircraft: Aircraft) -> tuple[str, ...]:
    """Ids of the parts of an aircraft that a check touches, in the order of the hand; none for a check of another kind."""
    felt = TOUCHED.get(check_id)
    if felt is None:
        return ()
    return tuple(part.id for stop in stops(aircraft) for part in stop.parts if part.aspect in felt)


def by_touch(state: CheckState, walk: Walk) -> bool:
    """Whether a check of a round is answered on the drawing: by eye and hand, on parts, of the cold aircraft."""
    check = state.planned.check
    return (
        check.station is Station.AIRFRAME
        and check.phase is Phase.BEFORE
        and bool(parts_of(check.id, walk.situation.aircraft))
    )


def stop_of(check_id: str, aircraft: Aircraft) -> str:
    """The key of the first stop where a check finds its parts; "" where it finds none."""
    mine = set(parts_of(check_id, aircraft))
    return next((stop.key for stop in stops(aircraft) if any(part.id in mine for part in stop.parts)), "")


def one_by_one(state: CheckState, walk: Walk) -> bool:
    """Whether the parts of a check must be touched one after the other: it has several, and may not be confirmed together with others."""
    return (
        by_touch(state, walk)
        and len(parts_of(state.planned.check.id, walk.situation.aircraft)) > 1
        and not may_join(state, walk)
    )


SUSPECT_AFTER: dict[EventKind, frozenset[Aspect]] = {
    EventKind.CRASH: frozenset(Aspect),
    EventKind.HARD_LANDING: frozenset({
        A.BLADE, A.HUB, A.LOCK, A.SPINNER, A.SHAFT, A.MOUNT, A.SERVO, A.ARM, A.LATCH, A.LEG, A.WHEEL, A.NOSE_WHEEL, A.TAIL_WHEEL, A.GIMBAL, A.GRIP,
        A.MAST, A.ROTOR_BLADE, A.TAIL_ROTOR, A.BOOM, A.PANEL, A.JOINT,
    }),
    EventKind.LONG_IDLE: frozenset({A.DOWEL, A.JOINT, A.BELL, A.MAST, A.SURFACE, A.FLAP, A.TANK, A.CANOPY, A.LATCH}),
}  # fmt: skip
"""What an event makes of parts: after a crash nothing is known of any until it is touched; after a hard landing on the nose of propeller, clevis and mount
and what takes the shock; after long storage of rubber, glue and bearings. Source: common practice, no source."""


def suspect_since(part: TouchedPart, events: Iterable[Event], touched_at: datetime | None) -> Event | None:
    """The newest event since which nothing is known of a part; None where it was touched since, or none concerns it."""
    after = [
        e
        for e in events
        if part.aspect in SUSPECT_AFTER.get(e.kind, frozenset()) and (touched_at is None or e.at > touched_at)
    ]
    return max(after, key=lambda event: event.at, default=None)


def route(walk: Walk, touches: Mapping[str, Touch], last: Mapping[str, datetime]) -> tuple[RouteStop, ...]:
    """Today's stops with the parts that matter today. A part is left while a check that needs it is open and nobody has touched it.

    ``last``: when each part was last touched in any round (aware).
    """
    aircraft = walk.situation.aircraft
    wanted: dict[str, list[CheckState]] = {}
    for state in walk.states:
        if by_touch(state, walk):
            for part_id in parts_of(state.planned.check.id, aircraft):
                wanted.setdefault(part_id, []).append(state)
    events = [event for event in happened(walk.situation) if event.kind in SUSPECT_AFTER]
    on_parts = {part for snag in walk.situation.history.snags for part in snag.parts}
    found = []
    for stop in stops(aircraft):
        parts, checks = [], []
        for part in stop.parts:
            states = wanted.get(part.id, [])
            if not states:
                continue
            touch, still = touches.get(part.id), [s for s in states if s.evidence is None]
            marked = part.id in on_parts or part.unit in on_parts
            since = suspect_since(part, events, last.get(part.id))
            alone = marked or since is not None or any(not may_join(s, walk) for s in still)
            how = touch.state if touch is not None else None if still else TouchState.OK
            parts.append(
                RoutePart(part=part, state=how, alone=alone, marked=marked, suspect=since, touched_at=last.get(part.id))
            )
            checks += [s.planned.check.id for s in states]
        if parts:
            found.append(RouteStop(stop=stop, parts=tuple(parts), checks=tuple(dict.fromkeys(checks))))
    return tuple(found)


def _is_damaged(touch: Touch, still_open: frozenset[str]) -> bool:
    """Whether a part was left damaged, or touched with a snag open on it that nobody has closed."""
    return touch.state is TouchState.DAMAGED or (touch.state is TouchState.OK and touch.part_id in still_open)


def _still_open_on(walk: Walk) -> frozenset[str]:
    """Ids of the parts with a snag that this round asks and has not closed."""
    asked = [(s.planned.snag, s.evidence) for s in walk.states if s.planned.snag is not None]
    return frozenset(
        part
        for snag, piece in asked
        if snag is not None
        and not (piece is not None and isinstance(piece.answer, Chosen) and piece.answer.option == SNAG_FIXED)
        for part in snag.parts
    )


def answers_by_touch(walk: Walk, touches: Mapping[str, Touch]) -> tuple[tuple[CheckState, Answer], ...]:
    """The checks all of whose parts are touched, with the answer that follows: those still open, and those that damage or a fix has changed since."""
    found, still_open = [], _still_open_on(walk)
    for state in walk.states:
        if not by_touch(state, walk) or state.gate is not None:
            continue
        check = state.planned.check
        mine = [touches.get(part_id) for part_id in parts_of(check.id, walk.situation.aircraft)]
        if any(touch is None for touch in mine):
            continue
        damaged = tuple(touch.part_id for touch in mine if touch is not None and _is_damaged(touch, still_open))
        answer = PartsDamaged(parts=damaged, touched=len(mine)) if damaged else confirmed(check)
        old = None if state.evidence is None else state.evidence.answer
        if old is None or (old != answer and (damaged or isinstance(old, PartsDamaged))):
            found.append((state, answer))
    return tuple(found)


def left_words(route_: tuple[RouteStop, ...]) -> str:
    """How many parts are left, in words."""
    left = sum(stop.left for stop in route_)
    return f"{counted(left, 'part')} left" if left else "Every part is touched"
