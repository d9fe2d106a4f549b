"""Packs: which aircraft they fit, and which may fly."""

import unittest

from tests.support import PACK
from walkround.core.aircraft.presets import PRESETS
from walkround.core.packs.pack import Pack, PackState, PackUse


class Packs(unittest.TestCase):
    def test_which_aircraft_it_fits(self) -> None:
        quad = PRESETS["camera-quad"].model_copy(update={"id": 4})
        rows = (
            ("its cells, smart", {}, True),
            ("plain", {"smart": False}, False),
            ("four cells", {"cells": 4}, False),
            ("kept for it", {"only_for": frozenset({4})}, True),
            ("kept for another", {"only_for": frozenset({5})}, False),
            ("of the transmitter", {"use": PackUse.TRANSMITTER}, False),
        )
        for name, changes, fits in rows:
            with self.subTest(name):
                pack = PACK.model_copy(update={"smart": True, **changes})
                self.assertIs(pack.fits(quad), fits)

    def test_what_may_fly(self) -> None:
        plain = {"label": "A", "cells": 3, "capacity_mah": 2200}
        self.assertEqual([s.value for s in PackState if Pack.model_validate({**plain, "state": s}).usable],
                         ["in service", "monitor"])  # fmt: skip
