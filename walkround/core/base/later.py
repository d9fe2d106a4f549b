"""What takes long to make and is seldom needed: modules and patterns, made when they are first used; and all modules of a room."""

import re
from collections.abc import Iterable
from importlib import import_module
from pathlib import Path
from types import ModuleType
from typing import Any, cast


class Later:
    """Stands for a module; the first look at anything in it imports it. For type checkers import the module itself beside it."""

    def __init__(self, name: str) -> None:
        self._name = name

    def __getattr__(self, name: str) -> Any:
        found = getattr(import_module(self._name), name)
        self.__dict__[name] = found
        return found


def modules_of(room: str, folders: Iterable[str]) -> list[ModuleType]:
    """Every module that stands in a package, by its name and its ``__path__``, in the order of their names."""
    names = sorted(path.stem for folder in folders for path in Path(folder).glob("[!_]*.py"))
    return [import_module(f"{room}.{name}") for name in names]


class LatePattern:
    """Stands for a regular expression; the first use of it compiles it."""

    def __init__(self, text: str, flags: int) -> None:
        self._text, self._flags = text, flags

    def __getattr__(self, name: str) -> Any:
        found = getattr(re.compile(self._text, self._flags), name)
        self.__dict__[name] = found
        return found


def pattern(text: str, flags: int = 0) -> re.Pattern[str]:
    """A regular expression that is compiled when it is first used. A mistake in it shows only then: a test uses each."""
    return cast("re.Pattern[str]", LatePattern(text, flags))
