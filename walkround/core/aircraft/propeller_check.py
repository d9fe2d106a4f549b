"""The rotor map: what is really seen at each rotor against what belongs there, and the fewest swaps that put it right."""

import math
from collections.abc import Mapping, Sequence
from typing import Annotated

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.part_list import motor_id, propeller_id
from walkround.core.aircraft.rotors import Rotation, Rotor, balanced, rotor_layout
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding, Level
from walkround.core.base.phrase import Phrase, count
from walkround.core.base.struct import Struct
from walkround.core.base.value import Allowed, Value
from walkround.core.base.wording import capital, listed

SOURCE = "rigid-body mechanics; layout as in the aircraft setup"


class RotorSeen(Value):
    """What was seen at one rotor; None where it was not looked at.

    ``rotation``: for which sense the propeller is made, by ring, dot or letter. ``edge_leads``: whether the thick edge goes
    first in the sense the motor must turn. ``spin``: how the motor really turned on a short run.
    """

    number: Annotated[int, Allowed(ge=1, le=8)]
    rotation: Rotation | None = None
    edge_leads: bool | None = None
    spin: Rotation | None = None


class Swap(Struct, frozen=True, kw_only=True):
    """One step that puts propellers right: exchange two, fit one of the other hand, or turn one the right way up."""

    rotors: tuple[int, ...]
    rotation: Rotation
    words: str


def thrust_sign(rotation: Rotation, spin: Rotation) -> int:
    """Whether a propeller of this hand lifts when it turns so: +1 up, -1 down.

    A propeller is a screw: its hand alone decides which way air goes for a sense of rotation, whichever side is up.
    Source: blade geometry.
    """
    return 1 if rotation is spin else -1


def upside_down(rotation: Rotation, spin: Rotation, edge_leads: bool) -> bool:
    """Whether a propeller sits upside down: its thick edge leads exactly when hand and spin agree, else not.

    Turned over it still is the same screw, but meets the air with its thin edge. Source: blade geometry.
    """
    return edge_leads != (rotation is spin)


def whole(aircraft: Aircraft, seen: Sequence[RotorSeen]) -> dict[int, RotorSeen]:
    """What was seen by rotor number. Raises InputError for a rotor the aircraft has not, or seen twice.

    Source: the aircraft's layout.
    """
    numbers = {rotor.number for rotor in rotor_layout(aircraft)}
    by_number = {piece.number: piece for piece in seen}
    if len(by_number) != len(seen):
        raise InputError("A rotor is named twice.")
    strange = set(by_number) - numbers
    if strange:
        raise InputError(f"{aircraft.name} has no rotor number {min(strange)}; it has {len(numbers)}.")
    return by_number


def fewest_swaps(aircraft: Aircraft, seen: Sequence[RotorSeen]) -> tuple[Swap, ...]:
    """The fewest steps after which every propeller is of the hand of its motor and the right way up.

    Two that sit on each other's motors are exchanged in one step; one that has no partner is replaced from the bag;
    one that is right but turned over is turned. Neighbours are exchanged first. Rotors not looked at stay as they are.
    Source: counting; no plan can mend more than two wrong hands in one step.
    """
    pieces = whole(aircraft, seen)
    rotors = {rotor.number: rotor for rotor in rotor_layout(aircraft)}
    wrong = [n for n, piece in pieces.items() if piece.rotation is not None and piece.rotation is not rotors[n].spin]
    need = {spin: [n for n in wrong if rotors[n].spin is spin] for spin in Rotation}
    steps: list[Swap] = []
    here, there = need[Rotation.CLOCKWISE], need[Rotation.COUNTER]
    while here and there:
        a, b = min(((a, b) for a in here for b in there), key=lambda p: (_apart(rotors[p[0]], rotors[p[1]]), p))
        here.remove(a)
        there.remove(b)
        names = f"{rotors[a].name} and {rotors[b].name}"
        steps.append(Swap(rotors=(a, b), rotation=rotors[a].spin, words=f"Swap the propellers {names}."))
    for number in (*here, *there):
        rotor = rotors[number]
        words = f"Fit a {rotor.spin} propeller from the bag at {rotor.name}."
        steps.append(Swap(rotors=(number,), rotation=rotor.spin, words=words))
    for number, piece in sorted(pieces.items()):
        if number not in wrong and _over(piece, rotors[number]):
            words = f"Turn the propeller at {rotors[number].name} over: it is upside down."
            steps.append(Swap(rotors=(number,), rotation=rotors[number].spin, words=words))
    return tuple(steps)


def _over(piece: RotorSeen, rotor: Rotor) -> bool:
    """Whether the propeller there was seen upside down, turning as the motor must."""
    if piece.rotation is None or piece.edge_leads is None:
        return False
    return upside_down(piece.rotation, rotor.spin, piece.edge_leads)


def _apart(a: Rotor, b: Rotor) -> float:
    return math.dist((a.x_mm, a.y_mm), (b.x_mm, b.y_mm))


def propellers_at_fault(aircraft: Aircraft, seen: Sequence[RotorSeen]) -> tuple[str, ...]:
    """Ids of the propellers that are of the wrong rotation or upside down. Source: ``fewest_swaps``."""
    steps = fewest_swaps(aircraft, seen)
    return tuple(propeller_id(number) for number in sorted({n for step in steps for n in step.rotors}))


def motors_at_fault(aircraft: Aircraft, seen: Sequence[RotorSeen]) -> tuple[str, ...]:
    """Ids of the motors that turn the other way. Source: the aircraft's own layout."""
    pieces = whole(aircraft, seen)
    wrong = (r for r in rotor_layout(aircraft) if r.number in pieces and pieces[r.number].spin not in (None, r.spin))
    return tuple(motor_id(rotor.number) for rotor in wrong)


def judge_propellers(aircraft: Aircraft, seen: Sequence[RotorSeen]) -> tuple[Finding, ...]:
    """Findings on the propellers of a multi-rotor as they sit (counts). Raises InputError as ``whole`` does,
    and when a rotor was not looked at.

    A propeller of the wrong hand would push down; one upside down lifts poorly; both ground.
    Source: blade geometry and the aircraft's own layout.
    """
    pieces = whole(aircraft, seen)
    rotors = rotor_layout(aircraft)
    blind = [r for r in rotors if r.number not in pieces or pieces[r.number].rotation is None]
    if blind:
        raise InputError(f"Check {_names(blind)} too.")
    steps = fewest_swaps(aircraft, seen)
    down = [r for r in rotors if thrust_sign(pieces[r.number].rotation or r.spin, r.spin) < 0]
    over = [r for r in rotors if r not in down and _over(pieces[r.number], r)]
    findings = []
    if down:
        text = f"{_names(down)} would push down: wrong propeller (CW / CCW swapped). {_tips(rotors, down)}"
        findings.append(_bad("Thrust", text, steps))
    if over:
        text = f"{_names(over)}: fitted upside down, so it lifts poorly."
        findings.append(_bad("Upside down", text, steps))
    if not findings:
        findings.append(
            Finding(
                name="Propellers",
                level=Level.CLEAR,
                reason=Phrase.of("All {all} lift: each on the right motor.", all=count(len(rotors))),
                source=SOURCE,
            )
        )
    return tuple(findings)


def judge_spins(aircraft: Aircraft, seen: Sequence[RotorSeen]) -> tuple[Finding, ...]:
    """Findings on how the motors really turn (counts). Raises InputError as ``judge_propellers`` does.

    All turned the other way is a setting, some a wiring fault; torques that do not cancel spin it round.
    Source: rigid-body mechanics and the aircraft's own layout.
    """
    pieces = whole(aircraft, seen)
    rotors = rotor_layout(aircraft)
    spins: dict[int, Rotation] = {}
    for rotor in rotors:
        piece = pieces.get(rotor.number)
        if piece is None or piece.spin is None:
            raise InputError(f"Test the motor at {rotor.name} too.")
        spins[rotor.number] = piece.spin
    wrong = [r for r in rotors if spins[r.number] is not r.spin]
    findings = []
    if len(wrong) == len(rotors):
        text = "Every motor turns the other way: this aircraft is set up in reverse."
        remedy = (
            "Change the rotation of the front left propeller in the hangar, and check the flight-controller setting."
        )
        findings.append(_grounded("Sense", text, remedy))
    elif wrong:
        what = "turns the wrong way: its propeller" if len(wrong) == 1 else "turn the wrong way: their propellers"
        text = f"{_names(wrong)} {what} would push down."
        remedy = "Swap two of the motor's three wires, or reverse it in the ESC. Do not swap the propeller."
        findings.append(_grounded("Sense", text, remedy))
    if not balanced(aircraft, spins):
        text = f"The torques do not cancel: it would yaw {_yaw_words(rotors, spins)} by itself."
        findings.append(_grounded("Yaw torque", text, "Half the motors must turn each way."))
    if not findings:
        reason = Phrase.of("All {all} motors turn as drawn, and the torques cancel.", all=count(len(rotors)))
        findings.append(Finding(name="Motors", level=Level.CLEAR, reason=reason, source=SOURCE))
    return tuple(findings)


def _yaw_words(rotors: Sequence[Rotor], spins: Mapping[int, Rotation]) -> str:
    left_over = sum(-spins[r.number].sign for r in rotors)
    return Rotation.COUNTER.value if left_over > 0 else Rotation.CLOCKWISE.value


def tilt(rotors: Sequence[Rotor], down: Sequence[Rotor]) -> tuple[float, float]:
    """Which way it would tip as it lifts, as (right, forward) of the side that drops, in mm; (0, 0) when it stays level.

    Each rotor of ``down`` pulls its own corner down with as much force as the others push theirs up: the side that
    drops is where they sit. Source: moments about the middle; equal forces are our simplification.
    """
    numbers = {r.number for r in down}
    right = -sum((-1 if r.number in numbers else 1) * r.x_mm for r in rotors)
    forward = -sum((-1 if r.number in numbers else 1) * r.y_mm for r in rotors)
    return (right, forward)


def _tips(rotors: Sequence[Rotor], down: Sequence[Rotor]) -> str:
    right, forward = tilt(rotors, down)
    size = max(abs(r.x_mm) + abs(r.y_mm) for r in rotors)
    if math.hypot(right, forward) < size * 0.05:
        return "It would not lift off."
    sides = []
    if abs(forward) > size * 0.05:
        sides.append("front" if forward > 0 else "rear")
    if abs(right) > size * 0.05:
        sides.append("right" if right > 0 else "left")
    return f"It would tip over to the {' '.join(sides)}."


def _names(rotors: Sequence[Rotor]) -> str:
    return capital(listed([r.name for r in rotors]))


def _bad(name: str, text: str, steps: Sequence[Swap]) -> Finding:
    return _grounded(name, text, " ".join(step.words for step in steps))


def _grounded(name: str, text: str, remedy: str) -> Finding:
    return Finding(name=name, level=Level.GROUNDED, reason=Phrase(text=text), remedy=remedy, source=SOURCE)
