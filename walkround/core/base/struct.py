"""The base of values that are ours from the start: worked out here, never read from outside, so checked by the type checker and not again.

What comes in from a form, a file or the store is a ``Value``, whose every field is checked. These cost a twentieth of it to make
and to define; there are thousands in a round.
"""

import msgspec


class Struct(msgspec.Struct, frozen=True, weakref=True):
    """An immutable value of our own making, equal to another of its class with equal fields. A wrong name raises TypeError."""
