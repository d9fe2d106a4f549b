"""A cell checker with packs of a few chosen conditions, and a loose lead."""

from walkround.core.base.errors import DeviceError
from walkround.core.sensors.devices import CellChecker
from walkround.simulators.simulator import Simulator

CONDITIONS: dict[str, tuple[str, tuple[float, ...]]] = {
    "fresh": ("Freshly charged", (4.20, 4.18, 4.19)),
    "lagging": ("One cell lags", (4.20, 4.15, 4.19)),
    "used": ("Half used", (3.86, 3.85, 3.87)),
    "tired": ("Charged yesterday and short", (4.09, 4.08, 4.08)),
    "failing": ("One cell fails", (4.17, 3.98, 4.16)),
    "loose": ("Loose lead (fault)", ()),
}
"""Condition: words, and the voltages (V) that repeat over the cells of the pack."""


class SimulatedCellChecker:
    """Implements ``core.devices.CellChecker``."""

    def __init__(self, condition: str = "fresh") -> None:
        self.condition = condition if condition in CONDITIONS else "fresh"

    def read(self, cells: int) -> tuple[float, ...]:
        """Voltages in V, one a cell. Raises DeviceError when the condition is the fault."""
        pattern = CONDITIONS[self.condition][1]
        if not pattern:
            raise DeviceError("The cell checker sees no pack. Is its lead connected?")
        return tuple(pattern[i % len(pattern)] for i in range(cells))


SIMULATOR = Simulator(
    interface=CellChecker,
    setting="checker",
    make=SimulatedCellChecker,
    title="Cell checker",
    use="Reads the cells of the connected pack.",
    conditions={key: words for key, (words, _) in CONDITIONS.items()},
    absent="No cell checker is connected. Enter what yours shows.",
)
