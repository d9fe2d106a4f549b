"""The QR code of a card."""

import re
import unittest

from walkround.web.drawings.qr_code import QUIET, qr_code


class Codes(unittest.TestCase):
    def test_the_border_is_left_white(self) -> None:
        code = qr_code("http://192.0.2.7:8020/rounds/1")
        xs = [int(x) for x, _ in re.findall(r"M(\d+),(\d+)", code.path)]
        self.assertGreaterEqual(min(xs), QUIET)
        self.assertEqual((code.size - 2 * QUIET - 17) % 4, 0)  # ISO/IEC 18004: 17 + 4 x version modules a side
