"""The kinds of answers. A module of this room that has a ``KIND`` is one; nothing else lists them."""

from typing import Annotated

from walkround.core.answers.kind import Answer, AnswerKind, Ask
from walkround.core.answers.ways_out import Beside, Fault, PartsDamaged, Skipped, Undone
from walkround.core.base.later import modules_of
from walkround.core.base.value import ByKind

_MODULES = modules_of(__name__, __path__)
KINDS: dict[str, AnswerKind] = {m.KIND.name: m.KIND for m in _MODULES if hasattr(m, "KIND")}
"""The kinds by their names in stored data."""
_ANSWERS = (*(kind.answer for kind in KINDS.values()), Fault, Skipped, PartsDamaged, Undone, Beside)
AnyAsk = Annotated[Ask, ByKind(kinds=tuple(kind.ask for kind in KINDS.values()))]
AnyAnswer = Annotated[Answer, ByKind(kinds=_ANSWERS)]

__all__ = ["KINDS", "AnyAnswer", "AnyAsk"]
