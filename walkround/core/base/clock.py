"""Times against the clock: what is dated ahead of it was kept while a clock was wrong, and says nothing of now."""

from datetime import UTC, datetime, timedelta

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


def utc_text(at: datetime) -> str:
    """An aware time as ISO 8601 in UTC with microseconds, text order being time order; in half the time that ``isoformat`` takes.

    Source: ISO 8601.
    """
    if at.tzinfo is not UTC:
        at = at.astimezone(UTC)
    parts = (at.year, at.month, at.day, at.hour, at.minute, at.second, at.microsecond)
    return "%04d-%02d-%02dT%02d:%02d:%02d.%06d+00:00" % parts  # noqa: UP031  as an f-string it takes as long as isoformat
