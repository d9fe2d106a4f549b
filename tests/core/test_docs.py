"""Docstrings of the core: every public thing has one; numbers that cross its edge have a unit; every judge names its source."""

import importlib
import inspect
import pkgutil
import re
import types
import typing
import unittest
from collections.abc import Callable, Iterator
from typing import Any

import walkround.core

SUFFIX = re.compile(
    r"_(m|mm|km|ms|c|k|v|a|w|wh|ah|mah|mohm|ohm|g|kg|hpa|deg|percent|points|min|h|s|days|hours|years|share|ratio|gb|mbits|px|m2|a_day)$"
)
"""What a name ends in when it carries its unit."""
UNIT = re.compile(
    r"\b(m|mm|km|m²|m/s|kg/m³|V|hPa|degrees?|per cent|seconds|minutes|hours|days|years|mAh|mΩ|units?|share|shares|margins?|"
    r"times|counts?|radians|torque|level|number|numbers|grams?|volts?)\b|°C|W/kg|(\bin |\bof |\()(s|W|A|g|h)\b"
)
"""What a docstring says of it else."""


def modules() -> Iterator[types.ModuleType]:
    """Every module of the core."""
    for info in pkgutil.walk_packages(walkround.core.__path__, "walkround.core."):
        yield importlib.import_module(info.name)


def functions() -> Iterator[tuple[str, Callable[..., Any]]]:
    """Every public function of the core, and every public method."""
    for module in modules():
        for name, thing in vars(module).items():
            if name.startswith("_") or getattr(thing, "__module__", None) != module.__name__:
                continue
            if inspect.isfunction(thing):
                yield f"{module.__name__}.{name}", thing
            elif inspect.isclass(thing):
                for method, inside in vars(thing).items():
                    if inspect.isfunction(inside) and not method.startswith("_"):
                        yield f"{module.__name__}.{name}.{method}", inside


def is_number(annotation: Any) -> bool:
    """Whether a number with a fraction goes in or out by itself."""
    if annotation is float:
        return True
    return any(is_number(inner) for inner in typing.get_args(annotation) if isinstance(annotation, types.UnionType))


class Docstrings(unittest.TestCase):
    def test_everything_public_has_one(self) -> None:
        for module in modules():
            self.assertTrue(module.__doc__, module.__name__)
            for name, thing in vars(module).items():
                if name.startswith("_") or getattr(thing, "__module__", None) != module.__name__:
                    continue
                if inspect.isfunction(thing) or inspect.isclass(thing):
                    self.assertTrue(inspect.getdoc(thing), f"{module.__name__}.{name}")

    def test_numbers_that_cross_an_edge_have_a_unit(self) -> None:
        """By their name, or by what the docstring says."""
        met = 0
        for name, function in functions():
            hints = typing.get_type_hints(function)
            numbers = [n for n, kind in hints.items() if n != "return" and is_number(kind) and not SUFFIX.search(n)]
            if is_number(hints.get("return")) and not SUFFIX.search(function.__name__):
                numbers.append("return")
            if numbers:
                met += 1
                self.assertRegex(inspect.getdoc(function) or "", UNIT, f"{name}: {', '.join(numbers)}")
        self.assertGreater(met, 30)

    def test_every_judge_names_its_source(self) -> None:
        judges = [(name, f) for name, f in functions() if name.rpartition(".")[2].startswith("judge_")]
        self.assertGreater(len(judges), 30)
        for name, function in judges:
            self.assertIn("Source:", inspect.getdoc(function) or "", name)
