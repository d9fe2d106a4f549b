"""The pages of settings and devices."""

from tests.support import elements, within
from tests.web.test_hangar import FormCase
from walkround.store import settings as store_settings


class SettingsForm(FormCase):
    LIMITS = {
        "wind_ms": "6.7", "crosswind_ms": "3.4", "temperature_min_c": "0", "temperature_max_c": "40", "visibility_m": "4.8", "cloud_clearance_m": "152.4",
        "height_max_m": "120", "people_m": "30", "density_altitude_m": "2500", "return_margin_m": "10", "position_allowance_m": "15",
        "compass_far_m": "200", "idle_days": "60", "signature_min": "60", "reserve_percent": "20",
        "capacity_percent": "80", "resistance_times": "2", "full_days": "3", "look_days": "30", "season_1": "04-01", "season_2": "07-01",
    }  # fmt: skip

    def test_units_theme_and_name(self) -> None:
        form = {"pilot": "T. Rook", "theme": "dark", "speed": "mph", "height": "ft", "temperature": "°F"}
        self.assertEqual(
            self.client.post("/settings/you", data=form | self.shown("/settings", "/settings/you")).status_code, 303
        )
        page = self.client.get("/settings").text
        self.assertTrue(elements(page, "html[data-theme=dark]"))
        self.assertTrue(elements(page, 'input[name=wind_ms][value="15"]'), "6.7056 m/s reads as 15 mph")
        self.wrong("/settings/you", {**form, "speed": "furlongs"}, "choose one")

    def test_untouched_limits_stay_exact(self) -> None:
        self.client.post(
            "/settings/limits", data={**self.LIMITS, "idle_days": "30", **self.shown("/settings", "/settings/limits")}
        )
        limits = store_settings.load().limits
        self.assertEqual((limits.wind_ms, limits.visibility_m, limits.idle_days), (6.7056, 4828.032, 30))

    def test_limits_bite(self) -> None:
        number = self.start()
        self.answer(number, "sky.wind_meter", action="take", number="5")
        self.client.post(
            "/settings/limits", data={**self.LIMITS, "wind_ms": "4", **self.shown("/settings", "/settings/limits")}
        )
        self.assertIn("Stay down", within(self.client.get(f"/rounds/{number}").text, "#chip"))

    def test_mistakes(self) -> None:
        for changes, words in (
            ({"wind_ms": "90"}, "between 1.0 m/s and 25.0 m/s"),
            ({"season_1": "April"}, "month and day"),
            ({"temperature_min_c": "20", "temperature_max_c": "20"}, "lies above"),
            ({"idle_days": ""}, "is empty"),
        ):
            with self.subTest(changes):
                text = self.wrong("/settings/limits", {**self.LIMITS, **changes}, words)
                self.assertIn(next(iter(changes.values())), text)

    def test_devices(self) -> None:
        self.assertEqual(
            self.client.post(
                "/devices", data={"weather": "fog", "checker": "lagging", "receiver": "thin", "notices": "strip"}
            ).status_code,
            303,
        )
        self.assertIn("Fog", self.client.get("/devices").text)
        self.assertEqual(self.client.post("/devices", data={"weather": "frogs"}).status_code, 422)
