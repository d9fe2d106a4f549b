"""The kinds of answers. A module of this room that has a ``KIND`` is one; nothing else lists them."""

import pkgutil
from functools import reduce
from importlib import import_module
from operator import or_
from typing import TYPE_CHECKING, Annotated

from pydantic import Field

from walkround.core.answers.kind import Answer, AnswerKind, Ask
from walkround.core.answers.ways_out import Beside, Fault, PartsDamaged, Skipped, Undone

_MODULES = [import_module(f"{__name__}.{found.name}") for found in pkgutil.iter_modules(__path__)]
KINDS: dict[str, AnswerKind] = {m.KIND.name: m.KIND for m in _MODULES if hasattr(m, "KIND")}
"""The kinds by their names in stored data."""

if TYPE_CHECKING:
    AnyAsk = Ask
    AnyAnswer = Answer
else:
    _ANSWERS = (*(kind.answer for kind in KINDS.values()), Fault, Skipped, PartsDamaged, Undone, Beside)
    AnyAsk = Annotated[reduce(or_, (kind.ask for kind in KINDS.values())), Field(discriminator="kind")]
    AnyAnswer = Annotated[reduce(or_, _ANSWERS), Field(discriminator="kind")]

__all__ = ["KINDS", "AnyAnswer", "AnyAsk"]
