"""The simulated receiver."""

import unittest

from tests.support import NOW, SITE
from walkround.core.base.errors import DeviceError
from walkround.simulators import receiver


class Receiver(unittest.TestCase):
    def test_fault(self) -> None:
        with self.assertRaises(DeviceError):
            receiver.SimulatedReceiver("silent").nmea(SITE.position, NOW)
