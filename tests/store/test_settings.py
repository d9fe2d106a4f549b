"""Settings: defaults, then what was saved."""

from tests.support import BookCase
from walkround.core.base.errors import InputError
from walkround.core.base.units import Units
from walkround.core.pilot.limits import LIMITS, Limits
from walkround.core.pilot.methods import ChosenMethods
from walkround.store import settings as store_settings


class SettingsKept(BookCase):
    filled = False

    def test_defaults_then_what_was_saved(self) -> None:
        self.assertEqual(store_settings.load(), store_settings.Settings())
        store_settings.save(
            pilot="T",
            units=Units(speed="kt"),
            limits=Limits(wind_ms=5),
            methods=ChosenMethods(charge="volts"),
            theme="dark",
        )
        loaded = store_settings.load()
        self.assertEqual(
            (loaded.pilot, loaded.units.speed, loaded.limits.wind_ms, loaded.methods.charge, loaded.theme),
            ("T", "kt", 5, "volts", "dark"),
        )

    def test_every_limit_has_its_row_and_default(self) -> None:
        defaults = Limits()
        for spec in LIMITS:
            self.assertEqual(getattr(defaults, spec.name), spec.default, spec.name)
            self.assertTrue(spec.low <= spec.default <= spec.high and spec.help and spec.source)
        named = {spec.name for spec in LIMITS} | {"season_days"}
        self.assertEqual(named, set(Limits.__struct_fields__))

    def test_limits_and_practices_outside_are_refused(self) -> None:
        with self.assertRaises(InputError):
            Limits(wind_ms=99)
        with self.assertRaises(InputError):
            ChosenMethods(charge="vibes")
