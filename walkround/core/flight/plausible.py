"""Whether a line for the logbook can be: minutes against the timer, and against the charge that was used."""

from walkround.core.base.phrase import Phrase, minute, percent
from walkround.core.flight.estimate import Endurance
from walkround.core.packs.charge import ChargeRange

TIMER_SHARE, TIMER_MIN = 0.25, 1.0
"""So far minutes may be from the timer, as a share of it (no unit) and in minutes, the larger counts. Source: our choice."""
USE_TIMES, USE_POINTS = 2.0, 15.0
"""So many times more or less than expected, and so many points of the pack off, is odd. Source: our choice."""


def doubts(
    minutes: float, *, timed_min: float | None, left_percent: float | None, held: ChargeRange, known: Endurance | None
) -> tuple[Phrase, ...]:
    """What does not fit in a line of so many minutes: ``timed_min`` by the timer, what was left and what the pack held in per cent, the
    minutes that a full pack gives; each None where it is not known. Source: our choice.
    """
    found = []
    if timed_min is not None and abs(minutes - timed_min) > max(TIMER_MIN, TIMER_SHARE * timed_min):
        found.append(
            Phrase.of("You entered {minutes}, the timer ran {timed}.", minutes=minute(minutes), timed=minute(timed_min))
        )
    if left_percent is None:
        return tuple(found)
    used = held.mid - left_percent
    if left_percent > held.high:
        found.append(
            Phrase.of(
                "The pack held {held} at take-off, and has {left} left.",
                held=percent(held.mid),
                left=percent(left_percent),
            )
        )
    elif known is not None:
        usual = 100 * minutes / known.today.mid
        if abs(used - usual) > USE_POINTS and not usual / USE_TIMES <= used <= usual * USE_TIMES:
            found.append(
                Phrase.of(
                    "{minutes} used {used} of the pack. As it flies, that takes about {usual}.",
                    minutes=minute(minutes),
                    used=percent(max(0.0, used)),
                    usual=percent(min(100.0, usual)),
                )  # fmt: skip
            )
    return tuple(found)
