"""Addresses that cost nothing until somebody asks for them: of two hundred a morning at the field uses ten."""

from collections.abc import Callable
from functools import cached_property
from re import Pattern
from typing import Any

from fastapi import APIRouter
from fastapi.routing import APIRoute
from starlette.convertors import Convertor
from starlette.datastructures import URLPath
from starlette.routing import Match, NoMatchFound, compile_path
from starlette.types import Receive, Scope, Send


class LateRoute(APIRoute):
    """A route whose function is read, and whose handler is made, when it is first asked for. A function that cannot be read is a
    mistake that shows only then: ``make`` shows it at once."""

    def __init__(self, path: str, endpoint: Callable[..., Any], **options: Any) -> None:
        self.path, self.endpoint, self.options = path, endpoint, options
        self.name = options["name"]
        self.methods = {method.upper() for method in options["methods"]}
        self.include_in_schema = False
        self.begins = path.partition("{")[0]
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

    def matches(self, scope: Scope) -> tuple[Match, Scope]:
        """As the parent, which is asked only for addresses that begin as this one does."""
        elsewhere = not scope.get("root_path") and not scope["path"].startswith(self.begins)
        return (Match.NONE, {}) if elsewhere else super().matches(scope)


class Router(APIRouter):
    """A router of late routes."""

    def __init__(self) -> None:
        super().__init__(route_class=LateRoute)
