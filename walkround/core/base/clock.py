"""Times against the clock: what is dated ahead of it was kept while a clock was wrong, and says nothing of now."""

from datetime import datetime, timedelta

LEEWAY = timedelta(minutes=10)
"""How far two clocks may differ before a time counts as ahead. Source: our choice; phones and laptops at a field."""


def latest(now: datetime) -> datetime:
    """The last moment that may count as past at an aware time. Source: ``LEEWAY``."""
    return now + LEEWAY


def is_ahead(at: datetime, now: datetime) -> bool:
    """Whether an aware time is ahead of the clock, so that it cannot be when something was read, seen or done.

    Source: ``LEEWAY``.
    """
    return at > latest(now)
