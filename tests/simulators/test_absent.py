"""A device that is not there says what to do instead."""

import unittest

from tests.support import NOW, SITE
from walkround.core.base.errors import DeviceError
from walkround.simulators.absent import AbsentDevice


class Absent(unittest.TestCase):
    def test_it_says_what_to_do_instead(self) -> None:
        device = AbsentDevice()
        for ask in (
            lambda: device.report("", NOW),
            lambda: device.read(3),
            lambda: device.nmea(SITE.position, NOW),
        ):
            with self.assertRaises(DeviceError) as caught:
                ask()
            self.assertRegex(caught.exception.message, "No .* is connected. (Paste|Type)")
