"""Judging what the sticks really moved, and what is reversed behind surfaces that obey two sticks."""

from collections.abc import Iterable, Sequence
from itertools import product

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.control_directions import (
    REVERSED,
    SHOWN,
    SOURCE,
    STICK_WORDS,
    STILL,
    Stick,
    StickSeen,
    StickTest,
    stick_tests,
)
from walkround.core.aircraft.traits import Kind, Trait
from walkround.core.base.errors import InputError
from walkround.core.base.finding import Finding, Level
from walkround.core.base.phrase import Phrase, count
from walkround.core.base.wording import capital, listed, plural

_CHANNEL = {
    Stick.RIGHT_AILERON: "aileron",
    Stick.BACK_ELEVATOR: "elevator",
    Stick.RIGHT_RUDDER: "rudder",
    Stick.FLAPS_DOWN: "flap",
    Stick.CYCLIC_RIGHT: "cyclic roll",
    Stick.CYCLIC_FORWARD: "cyclic pitch",
    Stick.TAIL_RIGHT: "tail",
}


def judge_control_directions(aircraft: Aircraft, seen: Sequence[StickSeen]) -> tuple[Finding, ...]:
    """Findings on what the sticks really moved (counts); anything but *as shown* grounds, with what to mend.

    Raises InputError when a movement was not tried, is not one of this aircraft, or has an answer it cannot have.
    Source: mechanics; mixing by ``mixing_fault``.
    """
    wanted = {test.stick: test for test in stick_tests(aircraft)}
    given = {piece.stick: piece.result for piece in seen}
    for stick, result in given.items():
        if stick not in wanted or result not in wanted[stick].results():
            raise InputError(f"“{stick}: {result}” is not an answer for {aircraft.name}.")
    left = [test.words for stick, test in wanted.items() if stick not in given]
    if left:
        raise InputError(f"Not tested yet: {', '.join(left)}.")
    findings = [_not_shown(aircraft, wanted[s], result) for s, result in given.items() if result != SHOWN]
    mixed = mixing_fault(aircraft, given)
    if mixed is not None:
        findings = [f for f in findings if f.name not in mixed[0]] + [_grounded("Mixing", mixed[1], mixed[2])]
    if findings:
        return tuple(findings)
    reason = Phrase.of("All {all} controls move correctly.", all=count(len(wanted)))
    return (Finding(name="Directions", level=Level.CLEAR, reason=reason, source=SOURCE),)


def _grounded(name: str, text: str, remedy: str) -> Finding:
    return Finding(name=name, level=Level.GROUNDED, reason=Phrase(text=text), remedy=remedy, source=SOURCE)


def _not_shown(aircraft: Aircraft, test: StickTest, result: str) -> Finding:
    name = test.words
    if result == STILL:
        remedy = "Check lead, servo and link, then the model memory."
        return _grounded(name, f"{test.words}: nothing moves.", remedy)
    if aircraft.kind is Kind.MULTIROTOR:
        remedy = "Disarm. Check motor order and rotation, propellers, and flight-controller orientation."
        return _grounded(name, f"{test.words}: it moves the wrong way.", remedy)
    channel = _CHANNEL[test.stick]
    if result == REVERSED:
        text = f"{test.words}: {_list(m.name for m in test.motions)} {plural(len(test.motions), 'moves', 'move')} the wrong way."
        return _grounded(
            name, text, f"Reverse the {channel} channel in the transmitter, or select the right model memory."
        )
    side = result.split()[0]
    one = next(m.name for m in test.motions if m.side == side)
    remedy = f"Reverse the channel of the {one} alone, or turn its servo arm round."
    return _grounded(name, f"{test.words}: the {one} moves the wrong way, the other is right.", remedy)


def _list(names: Iterable[str]) -> str:
    return capital(listed(list(names)))


_MIXES = {
    Trait.ELEVONS: (Stick.BACK_ELEVATOR, Stick.RIGHT_AILERON, "elevon"),
    Trait.V_TAIL: (Stick.BACK_ELEVATOR, Stick.RIGHT_RUDDER, "tail panel"),
}
_SIGNS = {SHOWN: (1, 1), REVERSED: (-1, -1), "left reversed": (-1, 1), "right reversed": (1, -1)}


def mixing_fault(aircraft: Aircraft, given: dict[Stick, str]) -> tuple[tuple[str, ...], str, str] | None:
    """What is reversed behind two surfaces that obey two sticks: names of the findings it replaces, what, and what to do.

    Each surface goes as servo direction times stick direction in the mixer says. Of all ways that explain what was
    seen, the one with the fewest reversals is named. None when nothing is
    mixed or nothing wrong. Directions without unit.
    """
    for trait, (first, second, name) in _MIXES.items():
        if not aircraft.has(trait) or first not in given or second not in given:
            continue
        if STILL in (given[first], given[second]) or (given[first], given[second]) == (SHOWN, SHOWN):
            continue
        one, two = _SIGNS[given[first]], _SIGNS[given[second]]
        best = _explain(one, two)
        replaced = (STICK_WORDS[first], STICK_WORDS[second])
        told = f"{STICK_WORDS[first]}: {given[first]}. {STICK_WORDS[second]}: {given[second]}."
        if best is None:
            return replaced, told, "No reversal explains that. Check horns, links and servo leads, then test again."
        left, right, mix_one, mix_two = best
        steps = [f"reverse the {side} {name} servo" for side, s in (("left", left), ("right", right)) if s < 0]
        steps += [
            f"reverse {_CHANNEL[stick]} in the mixer" for stick, s in ((first, mix_one), (second, mix_two)) if s < 0
        ]
        if steps == [f"reverse {_CHANNEL[second]} in the mixer"]:
            steps = [f"{steps[0]}, or swap the two {name} servo leads if they are crossed"]
        words = " and ".join(steps)
        return replaced, told, f"{words[0].upper()}{words[1:]}; then test both sticks again."
    return None


BOTH = (1, -1)


def _explain(one: tuple[int, int], two: tuple[int, int]) -> tuple[int, int, int, int] | None:
    """Signs of left servo, right servo and both mixer inputs with the fewest reversed; None when none explains it.

    ``one`` and ``two``: left and right surface on the first and on the second stick, +1 as shown.
    """
    fits = [
        signs
        for signs in product(BOTH, BOTH, BOTH, BOTH)
        if (signs[0] * signs[2], signs[1] * signs[2]) == one and (signs[0] * signs[3], signs[1] * signs[3]) == two
    ]
    return max(fits, key=sum, default=None)
