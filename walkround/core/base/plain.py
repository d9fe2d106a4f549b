"""Plain data from outside, read in one place: JSON, whole numbers, moments. Nothing odd gets past it, nothing breaks it."""

import json
import math
from datetime import datetime
from typing import Any

from walkround.core.base.errors import InputError

MOST_WHOLE = 2**53 - 1
"""The largest whole number that is taken: what a float, JSON and the book hold exactly alike. Source: IEEE 754."""
_DIGITS = 16
EARLIEST_YEAR, LATEST_YEAR = 1970, 2200
"""A moment outside these years is a slip; inside them any time zone can be reckoned with. Source: our choice."""


def whole(text: str, most: int = MOST_WHOLE) -> int | None:
    """A whole number from 0 to ``most``, or None for anything else, however long."""
    text = text.strip()
    if not (text.isascii() and text.isdecimal()) or len(text.lstrip("0")) > _DIGITS:
        return None
    value = int(text.lstrip("0") or "0")
    return value if value <= most else None


def _int(digits: str) -> float | int:
    """A whole number of JSON; one that no float holds is not finite, and refused as every such number is."""
    return int(digits) if len(digits) <= _DIGITS + 1 else math.inf


def _constant(name: str) -> float:
    raise ValueError(f"{name} is not a JSON number")


def read_json(text: str, words: str, field: str = "") -> Any:
    """JSON from outside. Raises InputError with these words for what is none: broken, too deep, NaN or infinite.

    Source: RFC 8259; whole numbers of more than 17 digits come out as infinite.
    """
    try:
        return json.loads(text.lstrip("\ufeff"), parse_int=_int, parse_constant=_constant)
    except (ValueError, RecursionError) as error:
        raise InputError(words, field) from error


def where_broken(text: str) -> int:
    """The line (1 is the first) where a JSON text breaks off. Source: the reader of the standard library."""
    try:
        json.loads(text.lstrip("\ufeff"), parse_int=_int)
    except json.JSONDecodeError as error:
        return error.lineno
    except (ValueError, RecursionError):
        pass
    return 1


def sensible(moment: datetime, words: str, field: str = "") -> datetime:
    """A moment in a year that can be meant. Raises InputError with these words. Source: ``EARLIEST_YEAR``."""
    if not EARLIEST_YEAR <= moment.year <= LATEST_YEAR:
        raise InputError(words, field)
    return moment
