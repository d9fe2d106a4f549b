"""Whether the sky over a spot is open enough for a position to rest on."""

import math
from datetime import UTC, datetime
from functools import lru_cache

from walkround.core.base.finding import OUR_CHOICE, Finding, Level, measured
from walkround.core.base.phrase import Phrase, percent, ratio
from walkround.core.base.struct import Struct
from walkround.core.field.site import Site
from walkround.core.field.sky_mask import OPEN_PERCENT, Opening, SkyMask, sky_mask, what_it_costs, where_it_opens
from walkround.core.sensors.nominal import TypicalDay
from walkround.core.sensors.satellites import CAREFUL_SATELLITES, DILUTION_GO


def judge_sky(site: Site, mask: SkyMask, day: TypicalDay) -> tuple[Finding, ...]:
    """Judge the sky over a spot by its open share in per cent, and by what a typical day gives under it; never more than a caution, as a reading decides. Nothing is clear where the plan shows nothing.

    Source: ``OPEN_PERCENT``; ten satellites and HDOP below 2: common practice, no source.
    """
    if not site.standing:
        reason = Phrase(
            text="Nothing that stands is marked on the plan of this field, so what hides the sky is not known."
        )
        return (
            Finding(
                name="Sky",
                level=Level.CAUTION,
                reason=reason,
                remedy="Mark trees and buildings on the plan.",
                source=OUR_CHOICE,
            ),
        )
    found = [
        measured(
            "Sky", percent(mask.open_percent), percent(OPEN_PERCENT), sense="min", level=Level.CLEAR if mask.open_percent >= OPEN_PERCENT else Level.CAUTION, most=Level.CAUTION,
            words="{value} of the sky is open.", remedy="Launch where the sky is open.", source=OUR_CHOICE,
        )
    ]  # fmt: skip
    if day.satellites_worst < CAREFUL_SATELLITES or day.hdop_worst >= DILUTION_GO:
        hdop = "no position at all" if not math.isfinite(day.hdop_worst) else "HDOP {hdop}"
        numbers = {"hdop": ratio(day.hdop_worst)} if math.isfinite(day.hdop_worst) else {}
        reason = Phrase.of(
            f"In the worst tenth of a typical day {day.satellites_worst} satellites are left, and {hdop}.", **numbers
        )
        found.append(
            Finding(
                name="Typical day",
                level=Level.CAUTION,
                reason=reason,
                remedy="Wait longer for the fix, and count before home is set.",
                source=OUR_CHOICE,
            )
        )
    return tuple(found)


class SkyReport(Struct, frozen=True, kw_only=True):
    """The sky over the launch point of a field: its mask, where it opens (None: nowhere near), a typical day with nothing in the way, here, and there; what is found."""

    mask: SkyMask
    opening: Opening | None
    free: TypicalDay
    here: TypicalDay
    there: TypicalDay | None
    findings: tuple[Finding, ...]


def sky_report(site: Site, at: datetime) -> SkyReport:
    """All that is known of the sky over a field on the day (UTC) of an aware time. Source: ``sky_mask``; ``judge_sky``."""
    return _report(site, at.astimezone(UTC).replace(hour=0, minute=0, second=0, microsecond=0))


@lru_cache(maxsize=32)
def _report(site: Site, day: datetime) -> SkyReport:
    """Kept by the values that it rests on: another plan or another day is another report."""
    mask, opening = sky_mask(site), where_it_opens(site)
    free, here = what_it_costs(site, mask, day)
    there = None if opening is None else what_it_costs(site, opening.mask, day)[1]
    return SkyReport(
        mask=mask, opening=opening, free=free, here=here, there=there, findings=judge_sky(site, mask, here)
    )
