"""Writing files: what a file is called until it is whole, and what is said when the disk refuses."""

import contextlib
import sqlite3
from collections.abc import Iterator

from walkround.store.book import BookError

PART = ".part"
"""What a file is called until it is whole."""


@contextlib.contextmanager
def said(doing: str) -> Iterator[None]:
    """Say in words what the disk or the book refuses. Raises BookError."""
    try:
        yield
    except OSError as error:
        raise BookError(f"{doing}: {(error.strerror or str(error)).lower()}.") from error
    except sqlite3.Error as error:
        raise BookError(f"{doing}: {error}.") from error
