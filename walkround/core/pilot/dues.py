"""What is due on a day: packs, the season's deep look, papers. For the pilot's own calendar."""

from collections.abc import Iterable
from datetime import date, datetime, timedelta
from typing import Annotated

from walkround.core.base.struct import Struct
from walkround.core.base.value import Allowed, Value

WARN_DAYS = 14
"""A paper is due so long before it expires. Source: our choice."""


class Paper(Value):
    """A paper with its last day."""

    name: Annotated[str, Allowed(min_length=1, max_length=60)]
    expires: date


class Due(Struct, frozen=True, kw_only=True):
    """What is due on a day. ``uid``: the same for the same thing and day, so that a calendar does not hold it twice."""

    uid: str
    day: date
    title: str
    words: str


def season_dues(season_days: Iterable[str], today: date) -> list[Due]:
    """The next season start and mid-season ("04-01"). Source: the pilot's limits."""
    found = []
    for text in season_days:
        month, number = map(int, text.split("-"))
        day = date(today.year, month, number)
        if day < today:
            day = date(today.year + 1, month, number)
        found.append(
            Due(
                uid=f"season-{day:%Y%m%d}",
                day=day,
                title="Deep look at every aircraft",
                words="The season checks are due on the next round of each.",
            )
        )
    return found


def paper_dues(papers: Iterable[Paper]) -> list[Due]:
    """Papers, early enough to renew them."""
    return [
        Due(
            uid=f"paper-{paper.name.casefold().replace(' ', '-')}-{paper.expires:%Y%m%d}",
            day=paper.expires - timedelta(days=WARN_DAYS),
            title=f"Renew: {paper.name}",
            words=f"It expires on {paper.expires:%d %B %Y}. Without it you may not fly.",
        )
        for paper in papers
    ]


def pack_dues(
    packs: Iterable[tuple[int, str, datetime | None, datetime | None]],
    *,
    full_days: float,
    look_days: float,
    today: date,
) -> list[Due]:
    """Packs (number, label, looked at, full since; aware) that have been full too long or not been looked at; what is past is due today.

    Source: the pilot's limits.
    """
    found = []
    for number, label, looked_at, full_at in packs:
        if full_at is not None:
            day = full_at.date() + timedelta(days=int(full_days) + 1)
            words = "By then it has been full too long: fly it before, or discharge it to storage charge."
            found.append(
                Due(
                    uid=f"pack-{number}-full-{day:%Y%m%d}",
                    day=max(day, today),
                    title=f"Pack {label}: storage charge",
                    words=words,
                )
            )
        if looked_at is None:
            words = "Nothing is known of it yet: measure its cells and inspect it."
            found.append(Due(uid=f"pack-{number}-look-first", day=today, title=f"Pack {label}: inspect", words=words))
        else:
            day = looked_at.date() + timedelta(days=int(look_days) + 1)
            words = "Measure its cells and inspect it."
            found.append(
                Due(
                    uid=f"pack-{number}-look-{day:%Y%m%d}",
                    day=max(day, today),
                    title=f"Pack {label}: inspect",
                    words=words,
                )
            )
    return found
