"""Plurals, capitals, lists and the words for levels: the one place that they come from."""

import math
from collections.abc import Sequence

MARKS = {
    "clear": "Clear",
    "caution": "Caution",
    "grounded": "Grounded",
    "open": "Open",
    "skipped": "Skipped",
    "gate": "Blocked by a gate",
}
"""What each mark on the screens says when it is read aloud."""


def plural(number: float, one: str, many: str = "") -> str:
    """The noun for a number: ``one`` for 1, else ``many``, or ``one`` with an s."""
    return one if number == 1 else many or f"{one}s"


def counted(number: float, one: str, many: str = "") -> str:
    """A number with its noun: "1 pack", "3 packs"."""
    return f"{number} {plural(number, one, many)}"


def capital(text: str) -> str:
    """The text with a capital first letter; the rest, "RTH" for example, stays as it is."""
    return text[:1].upper() + text[1:]


def lower_first(text: str) -> str:
    """The text to go on within a sentence; a first word in capitals, "RTH" for example, keeps them."""
    return text[:1].lower() + text[1:] if text[1:2].islower() or text[1:2] == " " else text


def listed(names: Sequence[str]) -> str:
    """Names in a row: "a", "a and b", "a, b and c"."""
    return " and ".join([", ".join(names[:-1]), names[-1]] if len(names) > 1 else names)


def minutes_words(seconds: float) -> str:
    """A time as minutes and seconds: "6:05"."""
    whole = math.floor(seconds)
    return f"{whole // 60}:{whole % 60:02d}"
