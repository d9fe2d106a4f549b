"""Every simulated device: found without a list, true to its interface, and honest where there is none."""

import inspect
import unittest
from typing import Protocol

from walkround.core.base.errors import DeviceError
from walkround.core.sensors import devices
from walkround.simulators import CHOICES, SIMULATORS, device

INTERFACES = [
    value for value in vars(devices).values() if inspect.isclass(value) and issubclass(value, Protocol) and value is not Protocol  # type: ignore[arg-type]
]  # fmt: skip


class EverySimulator(unittest.TestCase):
    def test_each_interface_has_one(self) -> None:
        self.assertCountEqual([s.interface for s in SIMULATORS], INTERFACES)

    def test_it_takes_what_its_interface_gives(self) -> None:
        for simulator in SIMULATORS:
            made = simulator.make("")
            for name, method in inspect.getmembers(simulator.interface, inspect.isfunction):
                if name.startswith("_"):
                    continue
                with self.subTest(interface=simulator.interface.__name__, method=name):
                    wanted = list(inspect.signature(method).parameters)[1:]
                    self.assertEqual(list(inspect.signature(getattr(made, name)).parameters), wanted)

    def test_where_there_is_none_it_says_what_to_do_instead(self) -> None:
        for simulator in SIMULATORS:
            with self.assertRaises(DeviceError) as caught:
                device(simulator.interface, {})
            self.assertRegex(caught.exception.message, r"^No .* is connected\. (Paste|Enter|Import|Choose) ")

    def test_a_setting_has_one_owner_and_conditions_in_words(self) -> None:
        self.assertEqual(len(CHOICES), len([s for s in SIMULATORS if s.title]))
        self.assertEqual({s.setting for s in SIMULATORS}, set(CHOICES))
        for simulator in CHOICES.values():
            self.assertGreater(len(simulator.conditions), 2)
            self.assertTrue(simulator.use)
            self.assertIsInstance(
                device(simulator.interface, {simulator.setting: next(iter(simulator.conditions))}), object
            )
