"""Simulated devices and services, behind the same small interfaces as real ones.

A module of this room that has a ``SIMULATOR`` is one; nothing else lists them.
"""

from typing import TypeVar

from walkround.core.base.errors import DeviceError
from walkround.core.base.later import modules_of
from walkround.simulators.simulator import OFF, Simulator

T = TypeVar("T")
_MODULES = modules_of(__name__, __path__)
SIMULATORS: tuple[Simulator, ...] = tuple(m.SIMULATOR for m in _MODULES if hasattr(m, "SIMULATOR"))
CHOICES: dict[str, Simulator] = {s.setting: s for s in SIMULATORS if s.title}
"""The simulators whose condition a pilot chooses, by the name of the setting."""


def device(interface: type[T], chosen: dict[str, str]) -> T:
    """The device behind an interface, playing the chosen condition of its setting.

    Raises DeviceError, saying what to do instead, where none is connected.
    """
    simulator = next(s for s in SIMULATORS if s.interface is interface)
    condition = chosen.get(simulator.setting, OFF)
    if condition == OFF:
        raise DeviceError(simulator.absent)
    made: T = simulator.make(condition)
    return made


__all__ = ["CHOICES", "OFF", "SIMULATORS", "Simulator", "device"]
