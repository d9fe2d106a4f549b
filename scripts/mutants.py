"""Change one module of the core in many small ways and see which changes its tests notice: ``make mutants MODULE=packs.bands``.

Fixed operators: a comparison flipped or shifted, the sign of an operation or a constant changed, ``and`` for ``or``, a
condition always or never true, a returned value replaced. A fixed seed picks the changes, so two runs try the same ones.
A change that cannot make a difference is listed in ``docs/mutants.md`` with its reason.
"""

import argparse
import ast
import copy
import importlib
import os
import random
import subprocess
import sys
import time
import unittest
from collections.abc import Iterator
from dataclasses import dataclass
from importlib.abc import Loader, MetaPathFinder
from importlib.machinery import ModuleSpec
from importlib.util import spec_from_loader
from pathlib import Path
from types import ModuleType

ROOT = Path(__file__).parent.parent
SEED, MOST, PATIENCE_S = 20261127, 150, 60
ALSO = {
    "round.readiness": ("core.round.test_blockers",),
    "round.weather_rules": (
        "core.weather.test_weather",
        "core.weather.test_beaufort",
        "core.round.test_window",
        "properties.test_worse",
    ),
    "round.numbers": ("core.round.test_judge", "core.flight.test_return_to_home", "properties.test_numbers"),
    "round.air_rules": ("core.weather.test_weather",),
    "round.verdict": ("core.round.test_walk", "core.round.test_judge"),
    "round.evidence": ("core.round.test_judge", "core.round.test_walk"),
    "packs.bands": ("core.round.test_judge",),
    "packs.inspection": ("core.packs.test_lithium", "core.packs.test_reading"),
    "packs.chemistry": ("core.packs.test_charge", "core.packs.test_bands"),
    "weather.groups": ("core.weather.test_metar", "core.weather.test_taf"),
    "airspace.rules": ("core.round.test_air_rules",),
    "airspace.reading": ("core.airspace.test_zone", "properties.test_unknown_zones"),
    "aircraft.rotors": ("core.aircraft.test_propeller_check", "core.aircraft.test_aircraft"),
    "flight.speed_home": ("core.flight.test_return_to_home",),
}
"""Test modules that belong to a module beside the one of its own name."""


@dataclass(frozen=True)
class Mutant:
    """One change: its line, what it does, and the whole changed source."""

    line: int
    what: str
    source: str


_FLIP = {ast.Lt: ast.GtE, ast.GtE: ast.Lt, ast.Gt: ast.LtE, ast.LtE: ast.Gt, ast.Eq: ast.NotEq, ast.NotEq: ast.Eq,
         ast.Is: ast.IsNot, ast.IsNot: ast.Is, ast.In: ast.NotIn, ast.NotIn: ast.In}  # fmt: skip
_SHIFT = {ast.Lt: ast.LtE, ast.LtE: ast.Lt, ast.Gt: ast.GtE, ast.GtE: ast.Gt}
_SIGN = {ast.Add: ast.Sub, ast.Sub: ast.Add, ast.Mult: ast.Div, ast.Div: ast.Mult}


def _changes(node: ast.AST) -> Iterator[tuple[str, ast.AST]]:
    """Each change of one node, with its name."""
    if isinstance(node, ast.Compare) and len(node.ops) == 1:
        for name, table in (("flipped", _FLIP), ("shifted", _SHIFT)):
            other = table.get(type(node.ops[0]))
            if other is not None:
                changed = copy.copy(node)
                changed.ops = [other()]
                yield f"comparison {name}", changed
    elif isinstance(node, ast.BinOp) and type(node.op) in _SIGN:
        changed = copy.copy(node)
        changed.op = _SIGN[type(node.op)]()
        yield "sign", changed
    elif isinstance(node, ast.BoolOp):
        changed = copy.copy(node)
        changed.op = ast.Or() if isinstance(node.op, ast.And) else ast.And()
        yield "and/or", changed
    elif isinstance(node, ast.Constant) and isinstance(node.value, int | float) and not isinstance(node.value, bool):
        yield "constant", ast.copy_location(ast.Constant(node.value + 1), node)
    elif isinstance(node, ast.If | ast.IfExp):
        for value in (True, False):
            changed = copy.copy(node)
            changed.test = ast.copy_location(ast.Constant(value), node.test)
            yield f"condition always {value}", changed
    elif isinstance(node, ast.Return) and node.value is not None and not isinstance(node.value, ast.Constant):
        if isinstance(node.value, ast.Tuple) and not node.value.elts:
            return
        changed = copy.copy(node)
        empty: ast.expr = ast.Tuple([], ast.Load()) if isinstance(node.value, ast.Tuple) else ast.Constant(None)
        changed.value = ast.copy_location(empty, node.value)
        yield "return replaced", changed


def _in_functions(tree: ast.Module) -> list[ast.AST]:
    """Nodes inside functions, annotations, docstrings and defaults apart, and numbers of constants of the module."""
    found: list[ast.AST] = []
    for top in ast.walk(tree):
        if isinstance(top, ast.FunctionDef):
            for statement in top.body:
                found += list(ast.walk(statement))
    for statement in tree.body:
        if isinstance(statement, ast.Assign):
            found += [n for n in ast.walk(statement) if isinstance(n, ast.Constant)]
    return list({id(node): node for node in found}.values())


def mutants(source: str, most: int = MOST, seed: int = SEED) -> list[Mutant]:
    """Some changes of a source text, the same for the same seed."""
    tree = ast.parse(source)
    parents = {id(child): (node, field, index) for node in ast.walk(tree) for field, value in ast.iter_fields(node)
               for index, child in (enumerate(value) if isinstance(value, list) else ((None, value),))
               if isinstance(child, ast.AST)}  # fmt: skip
    choices = [(node, what, new) for node in _in_functions(tree) for what, new in _changes(node) if id(node) in parents]
    random.Random(seed).shuffle(choices)
    found = []
    for node, what, new in choices[:most]:
        parent, field, index = parents[id(node)]
        _put(parent, field, index, new)
        text = ast.unparse(ast.fix_missing_locations(tree))
        _put(parent, field, index, node)
        line = getattr(node, "lineno", 0)
        found.append(Mutant(line, f"{what}: {ast.unparse(node)[:70]}", text))
    return found


def _put(parent: ast.AST, field: str, index: int | None, node: ast.AST) -> None:
    if index is None:
        setattr(parent, field, node)
    else:
        getattr(parent, field)[index] = node


class _Changed(MetaPathFinder, Loader):
    """Gives the changed source when the module is imported."""

    def __init__(self, name: str, source: str) -> None:
        self.name, self.source = name, source

    def find_spec(self, fullname: str, path: object, target: object = None) -> ModuleSpec | None:
        return spec_from_loader(fullname, self) if fullname == self.name else None

    def exec_module(self, module: ModuleType) -> None:
        exec(compile(self.source, self.name, "exec"), module.__dict__)


def _imports(path: Path) -> set[str]:
    """Modules of the house that a file imports."""
    names = set()
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.ImportFrom) and node.module and node.module.startswith("walkround"):
            names |= {node.module, *(f"{node.module}.{alias.name}" for alias in node.names)}
    return names


def settle(module: str) -> None:
    """Import once what does not hang on a module of the core, so that each child imports only what does."""
    files = {
        ".".join(p.relative_to(ROOT).with_suffix("").parts).removesuffix(".__init__"): p
        for p in (ROOT / "walkround" / "core").rglob("*.py")
    }
    needs = {name: _imports(path) & set(files) for name, path in files.items()}
    for name, path in files.items():  # a package that discovers its modules imports them all
        if path.name == "__init__.py" and "modules_of" in path.read_text():
            needs[name] |= {other for other in files if other.startswith(f"{name}.")}
    for name in files:  # a package is imported before what lies in it
        needs[name] |= {other for other in files if name.startswith(f"{other}.")}
    hanging = {f"walkround.core.{module}"}
    while more := {name for name, of in needs.items() if of & hanging} - hanging:
        hanging |= more
    for name in sorted(set(files) - hanging):
        importlib.import_module(name)
    assert f"walkround.core.{module}" not in sys.modules, "it is still to be imported, changed, by each child"


def tests_of(module: str) -> list[str]:
    """The test modules of a module of the core, by their dotted names."""
    room, _, name = module.rpartition(".")
    own = f"core.{room}.test_{name}"
    return [f"tests.{t}" for t in dict.fromkeys((own, *ALSO.get(module, ())))
            if (ROOT / "tests" / Path(*t.split("."))).with_suffix(".py").exists()]  # fmt: skip


def killed(module: str, source: str, names: list[str], patience_s: float = PATIENCE_S) -> bool:
    """Run the tests against a changed module in a child process; whether they noticed."""
    child = os.fork()
    if child == 0:
        os.dup2(os.open(os.devnull, os.O_WRONLY), 1)
        os.dup2(1, 2)
        sys.meta_path.insert(0, _Changed(f"walkround.core.{module}", source))
        try:
            suite = unittest.defaultTestLoader.loadTestsFromNames(names)
            result = unittest.TextTestRunner(failfast=True, verbosity=0).run(suite)
            os._exit(0 if result.wasSuccessful() else 1)
        except BaseException:  # an import that fails is noticed too
            os._exit(1)
    begun = time.monotonic()
    while time.monotonic() - begun < patience_s:
        done, status = os.waitpid(child, os.WNOHANG)
        if done:
            return status != 0
        time.sleep(0.02)
    os.kill(child, 9)
    os.waitpid(child, 0)
    return True  # it never ends: noticed


def run(module: str, most: int) -> tuple[int, list[Mutant]]:
    """How many changes were tried, and those that no test noticed."""
    path = (ROOT / "walkround" / "core" / Path(*module.split("."))).with_suffix(".py")
    source, names = path.read_text(), tests_of(module)
    settle(module)
    if killed(module, source, names):
        raise SystemExit(f"{module}: its tests fail before anything is changed: {', '.join(names)}")
    tried = mutants(source, most)
    return len(tried), [m for m in tried if not killed(module, m.source, names)]


def warm() -> None:
    """Import what is not ours once, so that each child need not."""
    for heavy in (
        "hypothesis",
        "hypothesis.strategies",
        "pydantic",
        "numpy",
        "shapely",
        "metar.Metar",
        "pynmea2",
        "astral.sun",
        "fastapi.testclient",
        "jinja2",
        "peewee",
        "python_multipart",
    ):
        importlib.import_module(heavy)


def main() -> None:
    """Try the modules named; print what was not noticed."""
    parser = argparse.ArgumentParser()
    parser.add_argument("modules", nargs="+", help="as packs.bands")
    parser.add_argument("--most", type=int, default=MOST)
    given = parser.parse_args()
    os.environ["WALKROUND_HYPOTHESIS"] = "mutants"
    warm()
    for module in given.modules:
        if len(given.modules) > 1:  # in a process of its own: what is imported once depends on the module
            subprocess.run(
                [sys.executable, "-m", "scripts.mutants", module, "--most", str(given.most)], cwd=ROOT, check=False
            )
            continue
        tried, survived = run(module, given.most)
        share = 100 * (tried - len(survived)) / tried
        print(f"{module}: {tried} tried, {tried - len(survived)} noticed ({share:.1f} %)", flush=True)
        for m in survived:
            print(f"  line {m.line}: {m.what}", flush=True)


if __name__ == "__main__":
    main()
