"""Late routes: each can be made, and answers as one that FastAPI made at once."""

from threading import Thread

from fastapi import FastAPI
from fastapi.exceptions import FastAPIError
from fastapi.routing import APIRoute
from fastapi.testclient import TestClient
from starlette.routing import Match

from tests.support import WebCase
from walkround.web.app import everything
from walkround.web.app_context import Number
from walkround.web.routes import LateRoute, Router


class Late(WebCase):
    def test_every_one_can_be_made(self) -> None:
        """And is then what FastAPI makes of the same function: same address, same methods, same gaps."""
        routes = [route for route in everything() if isinstance(route, LateRoute)]
        self.assertEqual(len(routes), len(everything()))
        self.assertGreater(len(routes), 150)
        for route in routes:
            with self.subTest(route.path):
                late = (route.path_format, route.path_regex.pattern, sorted(route.param_convertors), route.methods)
                at_once = APIRoute(route.path, route.endpoint, **route.options)
                self.assertEqual(
                    late,
                    (
                        at_once.path_format,
                        at_once.path_regex.pattern,
                        sorted(at_once.param_convertors),
                        at_once.methods,
                    ),
                )
                route.make()
                self.assertEqual(route.dependant.call, route.endpoint)

    def test_nothing_is_made_before_it_is_asked_for(self) -> None:
        router = Router()
        read: list[int] = []

        @router.get("/things/{number}", name="thing")
        def thing(number: Number) -> dict[str, int]:
            return {"number": number}

        (route,) = router.routes
        assert isinstance(route, LateRoute)
        self.assertFalse(hasattr(route, "dependant"))
        app = FastAPI()
        app.router.routes.extend(router.routes)
        self.assertEqual(app.url_path_for("thing", number=4), "/things/4")
        self.assertFalse(hasattr(route, "dependant"), "an address alone needs no handler")
        client = TestClient(app)
        for number in (3, 4):
            read.append(client.get(f"/things/{number}").json()["number"])
        self.assertEqual(read, [3, 4])
        self.assertTrue(hasattr(route, "dependant"))
        self.assertEqual(client.get("/things/many").status_code, 422)
        self.assertEqual(client.get("/thing").status_code, 404)
        refused = client.post("/things/3")
        self.assertEqual((refused.status_code, refused.headers["allow"]), (405, "GET"))

    def test_a_function_that_cannot_be_read_is_a_mistake(self) -> None:
        router = Router()

        @router.get("/odd", name="odd")
        def odd() -> Thread:  # no answer that could be sent
            raise NotImplementedError

        (route,) = router.routes
        assert isinstance(route, LateRoute)
        with self.assertRaises(FastAPIError):
            route.make()

    def test_behind_a_prefix(self) -> None:
        """A server that serves under a prefix says so in ``root_path``. Source: ASGI specification, HTTP connection scope."""
        route = next(
            r for r in everything() if getattr(r, "name", "") == "bag_packed" or getattr(r, "path", "") == "/hangar"
        )
        scope = {"type": "http", "method": "GET", "path": "/field/hangar", "root_path": "/field", "headers": []}
        self.assertIs(route.matches(scope)[0], Match.FULL)
        self.assertIs(route.matches({**scope, "path": "/field/packs"})[0], Match.NONE)
