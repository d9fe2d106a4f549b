"""A few questions on how an aircraft works, put from its own card; for a borrowed one, after a long break, after new firmware."""

from collections.abc import Sequence

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.emergency import HOME_WORDS
from walkround.core.aircraft.failsafe import HomeBy, StopBy
from walkround.core.aircraft.how_it_works import ArmBy, HomeSet, Means, home_set
from walkround.core.aircraft.traits import Trait
from walkround.core.base.struct import Struct

MOST_OPTIONS = 3
CHECK = "bench.how_it_works"
"""The check that a quiz without a mistake answers. Source: id of the library."""


class Question(Struct, frozen=True, kw_only=True):
    """One question: its words, answers to choose from, and the number of the right one."""

    words: str
    options: tuple[str, ...]
    right: int


def _question(number: int, words: str, right: str, others: Sequence[str]) -> Question | None:
    """A question whose right answer stands among others, where depends on its number; None where there is nothing to confuse it with."""
    wrong = [one for one in dict.fromkeys(others) if one.lower() != right.lower()]
    if not wrong:
        return None
    begin = number % len(wrong)
    chosen = (wrong[begin:] + wrong[:begin])[: MOST_OPTIONS - 1]
    at = number % (len(chosen) + 1)
    return Question(words=words, options=(*chosen[:at], right, *chosen[at:]), right=at)


def questions(aircraft: Aircraft) -> tuple[Question, ...]:
    """The questions that the card of an aircraft can answer, in a fixed order; none where nothing is on record."""
    card, settings = aircraft.works, aircraft.failsafe
    asked: list[tuple[str, str, Sequence[str]]] = []
    if settings is not None and settings.stop_air is not None:
        asked.append(("How are the motors stopped in the air?", settings.stop_air.value, [by.value for by in StopBy]))
    if settings is not None and settings.home_cancel:
        first = HOME_WORDS[settings.home_cancel[0]]
        both = {HOME_WORDS[by] for by in settings.home_cancel}
        asked.append(("How is RTH cancelled?", first, [HOME_WORDS[by] for by in HomeBy if HOME_WORDS[by] not in both]))
    if card is not None:
        if card.arm is not None:
            asked.append(("How is it armed?", card.arm.value, [by.value for by in ArmBy]))
        if card.arm_most_s is not None:
            asked.append(
                (
                    "How long may the arming stick be held at most?",
                    f"{card.arm_most_s:g} s",
                    [f"{card.arm_most_s * 2:g} s", f"{card.arm_most_s * 3:g} s"],
                )
            )
        if card.disarm is not None:
            asked.append(("How is it disarmed?", card.disarm.value, [by.value for by in ArmBy]))
        for means in (Means.READY, Means.LOW, Means.LOST):
            sign = card.sign(means)
            if sign is not None:
                asked.append(
                    (
                        f"What says “{means.value}”?",
                        sign.words,
                        [one.words for one in card.signs if one.words != sign.words],
                    )
                )
        for switch in card.switches:
            if switch.launch is not None:
                asked.append(
                    (
                        f"Where is switch {switch.name} for launch?",
                        switch.launch.value,
                        [lever.value for lever, _ in switch.places],
                    )
                )
    if aircraft.has(Trait.RETURN_HOME):
        asked.append(("When does it set home?", home_set(aircraft.features()).value, [one.value for one in HomeSet]))
    made = (_question(i, *one) for i, one in enumerate(asked))
    return tuple(one for one in made if one is not None)


def mistakes(asked: Sequence[Question], given: Sequence[int | None]) -> tuple[int, ...]:
    """The numbers of the questions that were answered wrongly or not at all."""
    return tuple(i for i, question in enumerate(asked) if i >= len(given) or given[i] != question.right)
