"""The pages of settings and devices; what is sent."""

import io
from collections.abc import Awaitable, Callable
from unittest import mock

from starlette.datastructures import UploadFile

from tests.support import elements, within
from tests.web.test_hangar import FormCase
from walkround.store import settings as store_settings


class SettingsForm(FormCase):
    LIMITS = ("/settings", "/settings/limits")

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
        self.client.post("/settings/limits", data=self.filled(*self.LIMITS) | {"idle_days": "30"})
        limits = store_settings.load().limits
        self.assertEqual((limits.wind_ms, limits.visibility_m, limits.idle_days), (6.7056, 4828.032, 30))

    def test_limits_bite(self) -> None:
        number = self.start()
        self.answer(number, "sky.wind_meter", action="take", number="5")
        self.client.post("/settings/limits", data=self.filled(*self.LIMITS) | {"wind_ms": "4"})
        self.assertIn("Stay down", within(self.client.get(f"/rounds/{number}").text, "#chip"))

    def test_mistakes(self) -> None:
        for changes, words in (
            ({"wind_ms": "90"}, "between 1.0 m/s and 25.0 m/s"),
            ({"season_1": "April"}, "month and day"),
            ({"temperature_min_c": "20", "temperature_max_c": "20"}, "higher than the maximum"),
            ({"idle_days": ""}, "is empty"),
        ):
            with self.subTest(changes):
                text = self.wrong("/settings/limits", self.filled(*self.LIMITS) | changes, words)
                self.assertIn(next(iter(changes.values())), text)

    def test_devices(self) -> None:
        self.assertEqual(
            self.client.post("/devices", data=self.filled("/devices", "/devices") | {"weather": "fog"}).status_code, 303
        )
        self.assertIn("Fog", self.client.get("/devices").text)
        self.assertEqual(self.client.post("/devices", data={"weather": "frogs"}).status_code, 422)


class Sent(FormCase):
    def test_a_file_is_closed_once_the_answer_is_sent(self) -> None:
        """Also where it is no photo. A large one lies on the disk until then."""
        closed: list[UploadFile] = []
        with mock.patch.object(UploadFile, "close", autospec=True, side_effect=_real(closed, UploadFile.close)):
            for sent in (b"x" * 3_000_000, b"no photo"):
                answer = self.client.post("/accident", files={"photo": ("c.jpg", io.BytesIO(sent))})
                self.assertGreaterEqual(answer.status_code, 400)
        self.assertEqual([file.file.closed for file in closed], [True, True])


def _real(
    heard: list[UploadFile], close: Callable[[UploadFile], Awaitable[None]]
) -> Callable[[UploadFile], Awaitable[None]]:
    async def heard_and_closed(file: UploadFile) -> None:
        heard.append(file)
        await close(file)

    return heard_and_closed
