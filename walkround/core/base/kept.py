"""What is worked out from a value, worked out once for each value.

Values never change, so the answer of a pure method stays right as long as the value lives. It is kept beside the value, by its
identity and not inside it: a changed copy is another value and begins with nothing, equality and stored forms know nothing of
it, and when the value goes its answers go too.
"""

import weakref
from collections.abc import Callable, Hashable
from functools import wraps
from typing import Any, Concatenate, ParamSpec, TypeVar

P = ParamSpec("P")
V = TypeVar("V")
R = TypeVar("R")

_KEPT: dict[int, tuple[weakref.ref[Any], dict[Hashable, Any]]] = {}


def _beside(value: Any) -> dict[Hashable, Any]:
    number = id(value)
    entry = _KEPT.get(number)
    if entry is None or entry[0]() is not value:
        entry = _KEPT[number] = (weakref.ref(value, lambda _: _KEPT.pop(number, None)), {})
    return entry[1]


def kept(work: Callable[Concatenate[V, P], R]) -> Callable[Concatenate[V, P], R]:
    """Keep the answers of a pure function of an immutable value, whose other arguments can be hashed. A mistake is not kept.

    Source: memoization.
    """
    name = f"{work.__module__}.{work.__qualname__}"

    @wraps(work)
    def asked(value: V, /, *given: P.args, **named: P.kwargs) -> R:
        made = _beside(value)
        key = (name, given, *named.items()) if named else (name, given)
        if key not in made:
            made[key] = work(value, *given, **named)
        found: R = made[key]
        return found

    return asked


def number_kept() -> int:
    """How many values have something kept beside them, without unit. Source: counting."""
    return len(_KEPT)


class Same:
    """Things taken together as a key, each of them the very same one, not only an equal one. It keeps them alive."""

    __slots__ = ("things",)

    def __init__(self, *things: Any) -> None:
        self.things = things

    def __hash__(self) -> int:
        return hash(tuple(map(id, self.things)))

    def __eq__(self, other: object) -> bool:
        return (
            isinstance(other, Same)
            and len(self.things) == len(other.things)
            and all(mine is theirs for mine, theirs in zip(self.things, other.things, strict=True))
        )
