"""Published cell parameter sets, as the outside authority for resting voltages.

The sets are read from the files of an open battery-modelling package, without its solvers: only its parameter modules
are loaded, with the few functions they need standing in. For each cell the state of charge runs between the electrode
balances at which the cell rests at its own lower and upper limit, as the sets themselves define 0 and 100 per cent.
"""

import importlib.util
import sys
import types
from collections.abc import Callable
from functools import lru_cache
from pathlib import Path

import numpy as np
from scipy.interpolate import PchipInterpolator
from scipy.optimize import brentq


def _measured(name: str, path: str) -> tuple[str, tuple[np.ndarray, np.ndarray]]:
    """A measured curve that a set brings along as a table."""
    rows = np.loadtxt(Path(path) / "data" / name, delimiter=",", comments="#")
    rows = rows[np.argsort(rows[:, 0])]
    return name, (rows[:, 0], rows[:, 1])


def _stand_in() -> types.ModuleType:
    module = types.ModuleType("pybamm")
    for name in ("exp", "tanh", "cosh", "sinh", "sqrt", "log"):
        setattr(module, name, getattr(np, name))
    module.constants = types.SimpleNamespace(R=8.314462618, F=96485.33212)  # type: ignore[attr-defined]
    module.Parameter = lambda name: 1.0  # type: ignore[attr-defined]
    module.parameters = types.SimpleNamespace(process_1D_data=_measured)  # type: ignore[attr-defined]
    module.Interpolant = lambda x, y, at, **_: PchipInterpolator(x, y)(at)  # type: ignore[attr-defined]
    return module


def _load(name: str) -> types.ModuleType:
    spec = importlib.util.find_spec("pybamm")
    assert spec is not None and spec.origin is not None, "the package of cell parameter sets is not installed"
    path = Path(spec.origin).parent / "input" / "parameters" / "lithium_ion" / f"{name}.py"
    found = importlib.util.spec_from_file_location(f"cell_set_{name}", path)
    assert found is not None and found.loader is not None
    module = importlib.util.module_from_spec(found)
    before = sys.modules.get("pybamm")
    sys.modules["pybamm"] = _stand_in()
    try:
        found.loader.exec_module(module)
    finally:
        sys.modules.pop("pybamm")
        if before is not None:
            sys.modules["pybamm"] = before
    return module


@lru_cache
def resting_curve(name: str, low_v: float | None = None, high_v: float | None = None) -> Callable[[float], float]:
    """Resting voltage (V) of a set's cell as a function of its state of charge (0 to 1) between its own limits."""
    values = _load(name).get_parameter_values()
    negative, positive = values["Negative electrode OCP [V]"], values["Positive electrode OCP [V]"]
    capacity = {
        side: values[f"{side} electrode active material volume fraction"]
        * values[f"{side} electrode thickness [m]"]
        * values[f"Maximum concentration in {side.lower()} electrode [mol.m-3]"]
        for side in ("Negative", "Positive")
    }
    x0 = (
        values["Initial concentration in negative electrode [mol.m-3]"]
        / values["Maximum concentration in negative electrode [mol.m-3]"]
    )
    y0 = (
        values["Initial concentration in positive electrode [mol.m-3]"]
        / values["Maximum concentration in positive electrode [mol.m-3]"]
    )
    lithium = x0 * capacity["Negative"] + y0 * capacity["Positive"]

    def rest_v(x: float) -> float:
        y = (lithium - x * capacity["Negative"]) / capacity["Positive"]
        return float(positive(y) - negative(x))

    low_v = low_v or values["Lower voltage cut-off [V]"]
    high_v = high_v or values["Upper voltage cut-off [V]"]
    # The negative electrode's filling between which the positive one stays a valid filling too.
    least = max(1e-4, (lithium - 0.9999 * capacity["Positive"]) / capacity["Negative"])
    most = min(0.9999, (lithium - 1e-4 * capacity["Positive"]) / capacity["Negative"])
    empty = brentq(lambda x: rest_v(x) - low_v, least, most)
    full = brentq(lambda x: rest_v(x) - high_v, least, most)
    return lambda share: rest_v(empty + share * (full - empty))


@lru_cache
def cut_offs(name: str) -> tuple[float, float]:
    """Lower and upper voltage (V) at which a set's cell is cut off."""
    values = _load(name).get_parameter_values()
    return float(values["Lower voltage cut-off [V]"]), float(values["Upper voltage cut-off [V]"])
