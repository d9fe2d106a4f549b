"""Late routes: each can be made, and answers as one that FastAPI made at once."""

import re
from collections import Counter
from random import Random
from threading import Thread

from fastapi import FastAPI
from fastapi.exceptions import FastAPIError
from fastapi.routing import APIRoute
from fastapi.testclient import TestClient
from starlette.routing import Match, NoMatchFound, Route

from tests.support import WebCase
from walkround.web.app import everything, ways
from walkround.web.app_context import Number
from walkround.web.routes import LateRoute, Router, Ways


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


class Found(WebCase):
    def test_as_one_by_one(self) -> None:
        """What is found by shape is what a look through all of them finds: for every address there is, right and slightly wrong."""
        found = ways()
        dice = Random(20261128)
        gaps = ("7", "pack.cells", "camera-quad", "", "7.ics")
        paths = {"/", "", "//", "/rounds", "/nowhere", "/static/x/y"}
        for route in everything():
            path = re.sub(r"{.*?}", lambda _: dice.choice(gaps), getattr(route, "path", ""))
            cut = path.rsplit("/", 1)[0]
            wrong = (path + "/", cut, path + "/more", path.upper(), path.replace("/", "//", 1))
            paths |= {path, dice.choice(wrong)}
        seen = Counter[Match]()
        for path in sorted(paths):
            for method, root in (("GET", ""), ("POST", ""), (dice.choice(("GET", "DELETE")), "/field")):
                scope = {"type": "http", "method": method, "path": root + path, "root_path": root, "headers": []}
                each = [r.matches(scope) for r in everything()]
                asked = [m for m in each if m[0] is Match.FULL] or [m for m in each if m[0] is Match.PARTIAL]
                got = found.matches(scope)
                seen[got[0]] += 1
                self.assertEqual(got, asked[0] if asked else (Match.NONE, {}), (method, root, path))
        self.assertTrue(all(seen[kind] > 100 for kind in Match), seen)

    def test_by_name(self) -> None:
        self.assertEqual(ways().url_path_for("walk", round_id=7), "/rounds/7")
        for name, gaps in (("nobody", {}), ("walk", {}), ("walk", {"round_id": 7, "more": 1})):
            with self.assertRaises(NoMatchFound):
                ways().url_path_for(name, **gaps)

    def test_what_has_no_shape_is_refused(self) -> None:
        for path in ("/{anything}", "/files/{rest:path}"):
            with self.assertRaisesRegex(ValueError, "No shape"):
                Ways([Route(path, endpoint=print)])
