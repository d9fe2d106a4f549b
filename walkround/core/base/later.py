"""Modules that take long to import and are seldom needed: imported when they are first used."""

from importlib import import_module
from typing import Any


class Later:
    """Stands for a module; the first look at anything in it imports it. For type checkers import the module itself beside it."""

    def __init__(self, name: str) -> None:
        self._name = name

    def __getattr__(self, name: str) -> Any:
        found = getattr(import_module(self._name), name)
        self.__dict__[name] = found
        return found
