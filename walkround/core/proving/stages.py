"""The stages of the programme: what is done, what may come of it, what a flight may do meanwhile. Each opens only once those before it are passed."""

import math
from collections.abc import Iterable
from datetime import datetime

from msgspec.structs import replace

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.link_trials import BenchTest
from walkround.core.aircraft.proved import StageResult
from walkround.core.aircraft.traits import Frame, Kind, Power, Trait
from walkround.core.base.phrase import Phrase, height
from walkround.core.base.struct import Struct
from walkround.core.proving.stall import recovery_m, stall_ms

HEAVY_G, VERY_HEAVY_G = 2_000.0, 7_000.0
"""From these masses in g on one stands farther away. Source: our choice."""


class Caps(Struct, frozen=True, kw_only=True):
    """What a flight may do at most: distance and height in m, minutes."""

    distance_m: float
    height_m: float
    minutes: float


class Outcome(Struct, frozen=True, kw_only=True):
    """What may come of a stage: whether it passes, and what it means; ``again``: neither passed nor at fault, to be tried elsewhere."""

    id: str
    label: str
    passes: bool = False
    again: bool = False
    says: str = ""


class Stage(Struct, frozen=True, kw_only=True):
    """One stage: what is done in order, its caution, what may come of it; ``caps``: what a flight may do meanwhile, None: nothing flies; ``tests``: whether answers of the controls are asked
    one by one; ``trims``: whether trims are read after it."""

    id: str
    title: str
    do: tuple[Phrase, ...]
    outcomes: tuple[Outcome, ...]
    caution: str = ""
    caps: Caps | None = None
    tests: bool = False
    trims: bool = False

    def outcome(self, name: str) -> Outcome | None:
        """An outcome by its id; None where it has none of this name."""
        return next((one for one in self.outcomes if one.id == name), None)


def _orders(*lines: str | Phrase) -> tuple[Phrase, ...]:
    return tuple(Phrase(text=line) if isinstance(line, str) else line for line in lines)


OFF = "Propellers off, before the pack is connected."
KEEP_OFF = "Nobody in the plane of the blades. Disarm and unplug before you touch it."
_RIGHT = Outcome(id="right", label="As it should be", passes=True)
_ODD = Outcome(
    id="odd",
    label="Something is odd",
    says="Land or stop, and find out why before the next try. See “It behaved oddly” on the page of this aircraft.",
)


def stand_off_m(mass_g: float) -> float:
    """How far (m) to stand from it while it lifts for the first time. Source: our choice; several paces, common practice, no source."""
    return 5.0 if mass_g < HEAVY_G else 10.0 if mass_g < VERY_HEAVY_G else 20.0


def _failsafe(aircraft: Aircraft) -> Stage:
    if aircraft.power is Power.LIQUID_FUEL:
        return Stage(
            id="failsafe", title="Failsafe on the bench", caution="Engine off. Keep fingers out of the linkages.",
            do=_orders("Receiver on, throttle stick half open.", "Switch the transmitter off.", "Watch the throttle servo for ten seconds."),
            outcomes=(
                Outcome(id="right", label="The throttle closes", passes=True),
                Outcome(id="runs", label="It stays open", says="Set the failsafe in the receiver: throttle closed, no hold of the last position. Then test again."),
            ),
        )  # fmt: skip
    return Stage(
        id="failsafe", title="Failsafe on the bench", caution=OFF,
        do=_orders("Hold it down and run the motors a little.", "Switch the transmitter off.", "Watch what it does for ten seconds."),
        outcomes=(
            Outcome(id="right", label="The motors stop, or its set action starts", passes=True),
            Outcome(id="runs", label="The motors run on", says="Set the failsafe in the receiver: throttle closed, no hold of the last position. Then test again."),
        ),
    )  # fmt: skip


_DIRECTIONS = Stage(
    id="directions", title="Directions of the controls", caution=OFF, tests=True,
    do=_orders("Do each test below, with the motors at idle.", "Enter what you see, also where it is wrong."),
    outcomes=(_RIGHT,),
)  # fmt: skip
_SURFACES = Stage(
    id="directions", title="Directions of the surfaces", caution="Motor off. Keep fingers out of the linkages.",
    do=_orders("Look from behind. Stick right: the right aileron goes up.", "Stick back: the elevator goes up.", "Rudder right: it goes to the right."),
    outcomes=(
        _RIGHT,
        Outcome(id="reversed", label="One goes the wrong way", says="Reverse that channel in the transmitter, and look again at all of them. Reversed ailerons are the classic maiden crash."),
        Outcome(id="mixed", label="Another surface moves", says="Two leads are swapped at the receiver, or a mixer is wrong. Follow each lead, then look again."),
    ),
)  # fmt: skip
_ORDER = Stage(
    id="order", title="Motor order and rotation", caution=OFF,
    do=_orders("Spin one motor after the other in the controller.", "Compare number and direction of rotation with its drawing."),
    outcomes=(
        _RIGHT,
        Outcome(id="swapped", label="Another motor spins", says="Swap their signal leads, then check the rotation of both again."),
        Outcome(id="backward", label="One turns the other way", says="Reverse it in the controller, or swap two of its three leads."),
    ),
)  # fmt: skip
_ENDPOINTS = Stage(
    id="endpoints", title="Endpoints and centres", caution=OFF,
    do=_orders("Read low, centre and high of each channel in the controller.",),
    outcomes=(
        _RIGHT,
        Outcome(id="short", label="One is short or off centre", says="Calibrate the travel of the transmitter, trims centred, and read again."),
        Outcome(id="double", label="Two move together", says="Two channels have one job: find the mixer in the transmitter."),
    ),
)  # fmt: skip
_ARM = Stage(
    id="arm", title="Arm and disarm", caution=KEEP_OFF,
    do=_orders("Outside, propellers on, throttle closed. Stand clear.", "Arm, wait three seconds, disarm.", "Leave it armed at idle, and see whether it disarms by itself."),
    outcomes=(
        _RIGHT,
        Outcome(id="blocked", label="It does not arm", says="See “Why it will not arm” on the page of this aircraft."),
        Outcome(id="races", label="A motor races or starts late", says="Calibrate the speed controllers; check leads and screws of that motor."),
        Outcome(id="stays", label="It does not disarm", says="Unplug it with care. Check the switch and its channel in the controller."),
    ),
)  # fmt: skip
_GROUND = Stage(
    id="ground", title="Response on the ground", caution=KEEP_OFF,
    do=_orders("On a smooth surface, throttle just below lifting.", "A little stick forward until the tail lifts, then roll, then yaw."),
    outcomes=(
        Outcome(id="crept", label="It leans and creeps the way it was told", passes=True),
        Outcome(id="hopped", label="It hopped", says="Less throttle; check that idle and hover throttle are set low enough. Then once more."),
        Outcome(id="tipped", label="It tips over to one side", says="Stop. Directions, motor order or a propeller are wrong: do the tests of the controls again."),
        Outcome(id="spun", label="It turns by itself", says="Stop. Check the direction of each motor and the propellers on it."),
        Outcome(id="stuck", label="It will not turn on this ground", again=True, says="Grass holds the skids: that says nothing yet. Try on a smooth hard surface."),
    ),
)  # fmt: skip
_TAXI = Stage(
    id="ground", title="Taxi", caution="Stand behind the propeller, people behind the line.",
    do=_orders("Roll slowly along the runway, then faster, tail up, without lifting.",),
    outcomes=(
        Outcome(id="straight", label="It rolls straight", passes=True),
        Outcome(id="swings", label="It swings to one side", says="Align the wheels; ease rudder trim. Then roll again."),
        Outcome(id="hopped", label="It hopped", says="Close the throttle earlier. Check the CG and the elevator trim."),
        Outcome(id="stuck", label="It will not roll on this ground", again=True, says="Grass too long for its wheels: that says nothing yet. Use a hard strip or launch by hand."),
    ),
)  # fmt: skip
_GLIDE = Stage(
    id="glide", title="Hand glide", caution="Motor off and locked.", caps=Caps(distance_m=40, height_m=3, minutes=0.5),
    do=_orders("Over long soft grass, into the wind. Throw it level, nose slightly down.",),
    outcomes=(
        Outcome(id="straight", label="Straight and flat", passes=True),
        Outcome(id="dives", label="It dives", says="The CG may be too far forward: move it back a little within the maker's range, or add a little up elevator."),
        Outcome(id="balloons", label="It balloons and drops", says="The CG may be too far back: move it forward first. Tail-heavy is the dangerous side."),
        Outcome(id="turns", label="It turns away", says="Check wing and tail for twist, then trim the ailerons."),
    ),
)  # fmt: skip


def _hover(aircraft: Aircraft) -> Stage:
    off = stand_off_m(aircraft.mass_g)
    return Stage(
        id="hover", title="First hover", caution=KEEP_OFF, caps=Caps(distance_m=10 + off, height_m=3, minutes=2),
        do=_orders(Phrase.of("Stand {off} behind it, full pack, beginner mode.", off=height(off)), "Lift to head height at once, out of the ground's own draught. Hover ten seconds and listen.", "Land, disarm, feel motors and joints."),
        outcomes=(Outcome(id="held", label="It held and landed", passes=True), Outcome(id="drifts", label="It drifts to one side", says="In still air check the CG and the level calibration, then hover again."), _ODD),
    )  # fmt: skip


def _first_wing(aircraft: Aircraft) -> Stage:
    return Stage(
        id="hop", title="First flight, straight ahead", caution="People behind the line; nobody in front of it.", caps=Caps(distance_m=120, height_m=8, minutes=1),
        do=_orders("Into the wind, low rates, the whole field in front.", "A few metres up, straight and level along the field, land ahead."),
        outcomes=(Outcome(id="held", label="It flew level and landed", passes=True), Outcome(id="climbs", label="It climbs or dives hard", says="Land ahead. Check the CG before any trim."), _ODD), trims=True,
    )  # fmt: skip


def recovery_height_m(aircraft: Aircraft) -> float:
    """The height in m from which a wing gets out of a stall, up to the next ten. Source: ``stall.recovery_m``, and half as much again."""
    return math.ceil(1.5 * recovery_m(stall_ms(aircraft.cruise_ms, aircraft.top_speed_ms)) / 10) * 10.0


def _flights(aircraft: Aircraft) -> tuple[Stage, ...]:
    fine = Outcome(id="fine", label="Flown, landed, all cool and tight", passes=True)
    if aircraft.kind is Kind.WING:
        high = recovery_height_m(aircraft)
        return (
            Stage(
                id="circuits", title="Circuits and stall", caps=Caps(distance_m=150, height_m=high + 40, minutes=6), trims=True,
                do=_orders(Phrase.of("Climb to {high} or more before anything slow: it needs that height to get out of a stall.", high=height(high)), "Circuits both ways, then slow flight up there. Trim, land, write the trims down."),
                outcomes=(fine, Outcome(id="drops", label="It drops a wing", says="Fly and land faster. Check the wing for twist and the CG."), _ODD),
            ),
            Stage(id="far", title="Second pack, at a distance", caps=Caps(distance_m=250, height_m=high + 60, minutes=8), do=_orders("A second pack at a greater distance, with the same inspection after it.",), outcomes=(fine, _ODD), trims=True),
        )  # fmt: skip
    return (
        Stage(
            id="near", title="Second pack, near", caps=Caps(distance_m=30, height_m=10, minutes=5),
            do=_orders("By eye, not goggles: each stick, half turns, a small square, up and down.", "Land, feel motors and pack, look at every screw."), outcomes=(fine, _ODD), trims=aircraft.has(Trait.SELF_BUILT),
        ),
        Stage(id="far", title="Third pack, at a distance", caps=Caps(distance_m=80, height_m=30, minutes=8), do=_orders("At a greater distance and height. Where it has RTH: start it close by and cancel it.",), outcomes=(fine, _ODD)),
    )  # fmt: skip


def stages(aircraft: Aircraft) -> tuple[Stage, ...]:
    """The stages of an aircraft in their order. Source: failsafe, directions, arming, ground, hover or glide, packs near before far: common practice, no source; the caps are our choice."""
    built, motor = aircraft.has(Trait.SELF_BUILT), aircraft.has(Trait.MOTOR)
    found: list[Stage] = []
    if motor:
        found.append(_failsafe(aircraft))
    if aircraft.kind is Kind.WING:
        found.append(_SURFACES if motor else replace(_SURFACES, caution="Keep fingers out of the linkages."))
        if motor and built:
            found.append(_ARM)
        found += [_TAXI] if aircraft.has(Trait.WHEELS) and motor else []
        if aircraft.has(Trait.HAND_LAUNCH):
            found.append(_GLIDE if motor else replace(_GLIDE, caution="Nobody in front of it."))
        return (*found, _first_wing(aircraft), *_flights(aircraft))
    if aircraft.kind is Kind.MULTIROTOR and built:
        found += [
            _ORDER,
            _ENDPOINTS,
            *((_DIRECTIONS,) if aircraft.rotors == 4 and aircraft.frame in (Frame.X, Frame.H) else ()),
        ]
    found.append(_ARM)
    if aircraft.kind is Kind.MULTIROTOR and built:
        found.append(_GROUND)
    return (*found, _hover(aircraft), *_flights(aircraft))


class Progress(Struct, frozen=True, kw_only=True):
    """How far an aircraft is: all its stages, how many of them are passed in order, and the last result at each."""

    stages: tuple[Stage, ...]
    passed: int
    last: dict[str, StageResult]

    @property
    def current(self) -> Stage | None:
        """The stage that is open now; None once all are passed."""
        return self.stages[self.passed] if self.passed < len(self.stages) else None

    @property
    def number(self) -> int:
        """The number of the stage that is open, from one on."""
        return self.passed + 1

    @property
    def graduated(self) -> bool:
        """Whether every stage is passed."""
        return self.current is None


def progress(aircraft: Aircraft, results: Iterable[StageResult]) -> Progress:
    """How far an aircraft is by its results, oldest first: a stage is passed by the last result at it, and only if those before it are. Source: ``stages``."""
    every = stages(aircraft)
    last = {result.stage: result for result in results}
    passed = 0
    for stage in every:
        result = last.get(stage.id)
        outcome = stage.outcome(result.outcome) if result is not None else None
        if outcome is None or not outcome.passes:
            break
        passed += 1
    return Progress(stages=every, passed=passed, last=last)


def unflown(now: Progress, last_flight_at: datetime | None) -> bool:
    """Whether the stage that is open is flown, and no flight is on record since the one before it was answered (aware times). Source: the record; a hand glide is in no logbook."""
    stage = now.current
    if stage is None or stage.caps is None or stage.id == "glide":
        return False
    answered = max((result.at for result in now.last.values() if result.stage != stage.id), default=None)
    return last_flight_at is None or (answered is not None and last_flight_at < answered)


def known_progress(aircraft: Aircraft, bench: BenchTest | None) -> Progress:
    """How far an aircraft is, its last bench test of the failsafe counted where that is on record."""
    results = list(aircraft.proved)
    if bench is not None:
        results.append(StageResult(stage="failsafe", outcome="right" if bench.passed else "runs", at=bench.at))
    return progress(aircraft, sorted(results, key=lambda result: result.at))


def under_proving(aircraft: Aircraft, flown: bool | None, bench: BenchTest | None = None) -> Progress | None:
    """The programme that an aircraft is in: it never flew, or its programme was begun and not finished; None where it is in none, or nothing is known of its flights."""
    if flown is not False and not aircraft.proved:
        return None
    now = known_progress(aircraft, bench)
    return None if now.graduated else now
