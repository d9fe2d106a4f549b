"""Running a migration: statements of SQL, and functions for what SQL cannot say."""

from collections.abc import Callable, Iterable
from typing import Any

Execute = Callable[..., Any]
"""Runs one statement with its values; gives its cursor."""
Statement = str | Callable[[Execute], None]


def run(statements: Iterable[Statement], execute: Execute) -> None:
    """Run the statements of one migration in order, in the caller's transaction."""
    for statement in statements:
        if callable(statement):
            statement(execute)
        else:
            execute(statement)
