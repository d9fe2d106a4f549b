"""A maker's or a club's list, typed or pasted: each line matched to one of our checks where it asks the same, in the list's own order.

What a line shares with a check is counted in words without endings; words that many checks have count little. A line that shares too
little stays a step of its own: a doubtful match would lose what the list asks. Source: our choice.
"""

import math
from collections import Counter
from collections.abc import Iterable, Sequence
from datetime import date
from functools import lru_cache

from walkround.core.base.later import pattern
from walkround.core.base.struct import Struct
from walkround.core.checklist.check import Check, Station
from walkround.core.checklist.custom import CustomChecklist, add_steps

ENOUGH = 0.6
"""So much of what a line says has to be in the check. Source: our choice, from lists as clubs write them."""
_WORD = pattern(r"[a-z]{2,}")
_SMALL = frozenset(
    [
        "the",
        "and",
        "for",
        "are",
        "all",
        "any",
        "each",
        "every",
        "with",
        "that",
        "this",
        "its",
        "your",
        "you",
        "not",
        "off",
        "out",
        "into",
        "from",
        "onto",
        "check",
        "checked",
        "inspect",
        "look",
        "test",
        "is",
        "be",
        "to",
        "of",
        "on",
        "in",
        "at",
        "or",
        "ok",
        "correct",
        "correctly",
        "good",
        "make",
        "sure",
        "ensure",
        "verify",
        "confirm",
    ]
)
_ENDINGS = ("ings", "ing", "ers", "ies", "es", "ed", "s")
_SAME = {"prop": "propeller", "props": "propeller", "battery": "pack", "batteries": "pack", "lipo": "pack", "tx": "transmitter",
         "radio": "transmitter", "controller": "transmitter", "aerial": "antenna", "aerials": "antenna", "satellite": "satellit", "gps": "satellit",
         "rth": "home", "undercarriage": "leg", "gear": "leg", "cog": "cg", "gravity": "cg"}  # fmt: skip
"""Words that pilots use for the same thing."""


class Match(Struct, frozen=True):
    """A line of a list and the check that asks the same, None where it stays a step of its own."""

    line: str
    check: Check | None


def _root(word: str) -> str:
    word = _SAME.get(word, word)
    for ending in _ENDINGS:
        if word.endswith(ending) and len(word) - len(ending) >= 3:
            word = word[: -len(ending)]
            break
    return word.removesuffix("e") if len(word) > 3 else word


@lru_cache(maxsize=2048)
def words_of(text: str) -> frozenset[str]:
    """The words of a text that say something, without endings."""
    return frozenset(_root(word) for word in _WORD.findall(text.lower()) if word not in _SMALL)


def match(lines: Iterable[str], checks: Sequence[Check]) -> tuple[Match, ...]:
    """Each line with the check that asks the same; no check is given to two lines. Source: ``ENOUGH``."""
    texts = {check.id: (words_of(check.title), words_of(f"{check.how} {check.fault}")) for check in checks}
    common = Counter(word for title, more in texts.values() for word in title | more)

    def weight(word: str) -> float:
        return 1 / math.log2(2 + common[word])

    def score(line: frozenset[str], check: Check) -> float:
        title, more = texts[check.id]
        said = math.fsum(map(weight, line))  # the same whatever the order of a set: all of a line is 1, not nearly 1
        shared = math.fsum(map(weight, line & title)) + 0.7 * math.fsum(map(weight, (line & more) - title))
        return shared / said if said else 0.0

    def nearness(line: frozenset[str], check: Check) -> tuple[float, float]:
        """What is shared, and of two alike the one whose title says least besides."""
        title = texts[check.id][0]
        return score(line, check), len(line & title) / len(line | title) if line | title else 0.0

    taken: set[str] = set()
    found = []
    for line in lines:
        words = words_of(line)
        free = [check for check in checks if check.id not in taken]
        best = max(free, key=lambda check: nearness(words, check), default=None)
        if best is None or score(words, best) < ENOUGH:
            found.append(Match(line, None))
            continue
        taken.add(best.id)
        found.append(Match(line, best))
    return tuple(found)


def taken_as_list(
    checklist: CustomChecklist,
    matches: Sequence[Match],
    walking: Sequence[Check],
    *,
    only_for: tuple[int, ...],
    today: date,
) -> CustomChecklist:
    """The pilot's list with a matched one worked in: its steps stand in its order, each of its own at the station of the line before it;
    the checks that it does not name follow behind. ``walking``: the checks in today's order. Raises as ``add_steps``."""
    station = next((found.check.station for found in matches if found.check is not None), Station.AIRFRAME)
    after, order = checklist, {place: list[str]() for place in Station}
    for found in matches:
        if found.check is not None:
            station = found.check.station
            order[station].append(found.check.id)
            continue
        after = add_steps(after, (found.line,), station, only_for=only_for, today=today)
        made = next(
            c for c in reversed(after.added) if c.title.casefold() == found.line.casefold() and c.station is station
        )
        order[station].append(made.id)
    kept = dict(checklist.order)
    for place, named in order.items():
        if named:
            rest = [check.id for check in walking if check.station is place and check.id not in named]
            kept[place] = (*named, *rest)
    return after.model_copy(update={"order": tuple(kept.items()), "revision": checklist.revision + 1})
