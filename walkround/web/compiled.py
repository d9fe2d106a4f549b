"""How templates are compiled: they stop at a mistake, and what they write goes on in pieces as large as can be."""

import os
from collections.abc import Callable, Iterable, MutableMapping
from pathlib import Path
from typing import Any, NamedTuple

from jinja2 import Environment, FileSystemBytecodeCache, Template, Undefined, nodes
from jinja2.compiler import CodeGenerator, Frame
from jinja2.environment import TemplateModule
from jinja2.runtime import Context
from jinja2.utils import missing
from markupsafe import Markup, _escape_inner, escape  # type: ignore[attr-defined]

from walkround import VERSION


class KnownAttributes(Undefined):
    """An attribute that a value does not have is a mistake in a template, never an empty text; a name may be left out."""

    def __init__(self, hint: Any = None, obj: Any = missing, *more: Any, **named: Any) -> None:
        super().__init__(hint, obj, *more, **named)
        if obj is not missing and not isinstance(obj, dict):
            self._fail_with_undefined_error()


class _Joined(NamedTuple):
    """Stands where compiled code collects pieces in a list: it makes one of them."""

    extend: Callable[[Iterable[str]], str] = "".join
    append: Callable[[str], str] = str


class _InOnePiece(CodeGenerator):
    """What stands side by side in a template is handed on as one piece, and not one after the other through all that include it."""

    def visit_Output(self, node: nodes.Output, frame: Frame) -> None:
        """As the parent writes for what is collected, where it would hand on."""
        if frame.buffer is None:
            frame = frame.copy()
            frame.buffer = "yield joined"
        super().visit_Output(node, frame)


def escaped(value: Any) -> str:
    """A value as text of a page, the same as ``escape`` makes. It is joined with others at once, so it is not marked as safe, which costs ten times as much."""
    if type(value) is str:  # and nothing of its kind, which may have a markup of its own
        return _escape_inner(value)
    return value if type(value) is Markup else escape(value)


class _Compiled(Template):
    """Nobody here gives a template globals of its own, so what one imports is the same for all; no look at what may differ, every time."""

    @classmethod
    def _from_namespace(
        cls, environment: Environment, namespace: MutableMapping[str, Any], globals: MutableMapping[str, Any]
    ) -> Template:
        namespace.update(escape=escaped, joined=_Joined())
        return super()._from_namespace(environment, namespace, globals)

    def _get_default_module(self, ctx: Context | None = None) -> TemplateModule:
        return super()._get_default_module()


def _kept(folder: Path) -> FileSystemBytecodeCache | None:
    """Where compiled templates are kept beside their sources, by their text; None where the program may not write. Those of other versions go."""
    try:
        folder.mkdir(exist_ok=True)
        for kept in folder.iterdir():
            if f".{VERSION}" not in kept.name and kept.is_file():  # nor one that is being written
                kept.unlink(missing_ok=True)
    except OSError:
        return None
    return FileSystemBytecodeCache(str(folder), f"%s.{VERSION}") if os.access(folder, os.W_OK) else None


def set_up(environment: Environment, kept_in: Path | None = None) -> None:
    """Compile an environment's templates so; ``kept_in``: a folder for what was compiled."""
    environment.template_class = _Compiled
    environment.code_generator_class = _InOnePiece
    environment.undefined = KnownAttributes
    environment.trim_blocks = True
    environment.lstrip_blocks = True
    environment.auto_reload = False  # no look at every file for every include
    environment.optimized = False  # nothing is worked out while compiling: what is kept depends on the template alone
    environment.bytecode_cache = _kept(kept_in) if kept_in is not None else None
