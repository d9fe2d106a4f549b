"""The collector goes on as it was."""

import gc
import unittest

from walkround.core.base.collecting import no_circles


class Paused(unittest.TestCase):
    def test_it_goes_on_as_it_was(self) -> None:
        self.assertTrue(gc.isenabled())
        with self.assertRaises(KeyError), no_circles():
            self.assertFalse(gc.isenabled())
            with no_circles():
                self.assertFalse(gc.isenabled())
            self.assertFalse(gc.isenabled(), "one within another does not end it")
            raise KeyError
        self.assertTrue(gc.isenabled())
