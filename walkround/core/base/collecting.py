"""Many small values made at once, with none of them in a circle: the collector of circles would look through them in vain, again and again."""

import gc
from collections.abc import Iterator
from contextlib import contextmanager


@contextmanager
def no_circles() -> Iterator[None]:
    """Pause the collector of circular garbage; it goes on as it was afterwards, also after a mistake. Two at once: the first that paused it lets it go on."""
    was = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if was:
            gc.enable()
