"""Addresses that cost nothing until somebody asks for them: of two hundred a morning at the field uses ten."""

import contextlib
from collections.abc import Callable, Iterable
from functools import cached_property
from re import Pattern
from typing import Any

from fastapi import APIRouter
from fastapi.routing import APIRoute
from starlette.convertors import Convertor
from starlette.datastructures import URLPath
from starlette.routing import BaseRoute, Match, NoMatchFound, compile_path
from starlette.types import Receive, Scope, Send


class LateRoute(APIRoute):
    """A route whose function is read, and whose handler is made, when it is first asked for. A function that cannot be read is a
    mistake that shows only then: ``make`` shows it at once."""

    def __init__(self, path: str, endpoint: Callable[..., Any], **options: Any) -> None:
        self.path, self.endpoint, self.options = path, endpoint, options
        self.name = options["name"]
        self.methods = {method.upper() for method in options["methods"]}
        self.include_in_schema = False
        self.app = self._first

    def make(self) -> None:
        """Read the function and make the handler. Raises what FastAPI raises for one that cannot be read."""
        super().__init__(self.path, self.endpoint, **self.options)

    async def _first(self, scope: Scope, receive: Receive, send: Send) -> None:
        self.make()
        await self.app(scope, receive, send)

    @cached_property
    def _compiled(self) -> tuple[Pattern[str], str, dict[str, Convertor[Any]]]:
        return compile_path(self.path)

    @cached_property
    def path_regex(self) -> Pattern[str]:  # type: ignore[override]
        """What its addresses look like."""
        return self._compiled[0]

    @cached_property
    def path_format(self) -> str:  # type: ignore[override]
        """Its address with gaps."""
        return self._compiled[1]

    @cached_property
    def param_convertors(self) -> dict[str, Convertor[Any]]:  # type: ignore[override]
        """What fills its gaps."""
        return self._compiled[2]

    def url_path_for(self, name: str, /, **path_params: Any) -> URLPath:
        """As the parent, which is asked only by its own name."""
        if name != self.name:
            raise NoMatchFound(name, path_params)
        return super().url_path_for(name, **path_params)


class Router(APIRouter):
    """A router of late routes."""

    def __init__(self) -> None:
        super().__init__(route_class=LateRoute)


class Ways(BaseRoute):
    """Routes of which only those are looked through that have the first part and the length of the address asked for.

    Raises ValueError for a route whose first part or length depends on what is asked.
    """

    def __init__(self, routes: Iterable[BaseRoute]) -> None:
        self.all = tuple(routes)
        self.by_shape: dict[tuple[str, int], list[BaseRoute]] = {}
        self.by_name: dict[str, list[BaseRoute]] = {}
        for route in self.all:
            path: str = getattr(route, "path", "{}")
            first = _shape(path)[0]
            if "{" in first or ":path}" in path:
                raise ValueError(f"No shape of its own: {path}")
            self.by_shape.setdefault(_shape(path), []).append(route)
            self.by_name.setdefault(getattr(route, "name", ""), []).append(route)

    def matches(self, scope: Scope) -> tuple[Match, Scope]:
        """The first route that answers, as the router finds it: with its method if there is one, else one with another."""
        close: tuple[Match, Scope] = (Match.NONE, {})
        if scope["type"] != "http":
            return close
        for route in self.all if scope.get("root_path") else self.by_shape.get(_shape(scope["path"]), ()):
            match, found = route.matches(scope)
            if match is Match.FULL:
                return match, found
            if match is Match.PARTIAL and close[0] is Match.NONE:
                close = match, found
        return close

    async def handle(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Hand over to the route that was found."""
        await scope["route"].handle(scope, receive, send)

    def url_path_for(self, name: str, /, **path_params: Any) -> URLPath:
        """As the router does: of the first of that name whose gaps are these."""
        for route in self.by_name.get(name, ()):
            with contextlib.suppress(NoMatchFound):
                return route.url_path_for(name, **path_params)
        raise NoMatchFound(name, path_params)


def _shape(path: str) -> tuple[str, int]:
    """First part of an address, and how many parts it has."""
    parts = path.split("/", 2)
    return parts[1] if len(parts) > 1 else "", path.count("/")
