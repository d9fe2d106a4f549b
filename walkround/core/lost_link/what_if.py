"""One what-if: the link lost at one place, flown many times; where it comes down, when, with what charge, and what it meets."""

import math
from functools import lru_cache
from typing import TYPE_CHECKING, Any

from walkround.core.base.finding import Finding, Level, worst
from walkround.core.base.later import Later
from walkround.core.base.phrase import Phrase, height, minute, percent
from walkround.core.base.struct import Struct
from walkround.core.field.site import Site
from walkround.core.lost_link.air import EXACT, Air, Errors, draws, with_exact
from walkround.core.lost_link.bodies import Body
from walkround.core.lost_link.flown import Flown, Lost, Plan, fly
from walkround.core.lost_link.ground import Ground, Lies, ground_of
from walkround.core.lost_link.outcomes import (
    OUTCOME_LEVEL,
    OUTCOME_WORDS,
    TOLD_SHARE,
    Met,
    Outcome,
    badness,
    counts,
    level_of,
    outcomes,
    shares,
    worst_outcome,
)
from walkround.core.lost_link.ways_down import energy_j, harm_j

if TYPE_CHECKING:
    import numpy as np
else:
    np = Later("numpy")

RUNS, SEED = 500, 17
OVER_SHARE = 0.01
"""From this share of the runs (0 to 1) on it is said what is passed over. Source: our choice."""
OVAL_POINTS = 36


class Oval(Struct, frozen=True, kw_only=True):
    """An ellipse on the ground that holds a share of the landings: middle in m east and north, half axes in m, bearing of the longer one in degrees true."""

    east_m: float
    north_m: float
    long_m: float
    short_m: float
    bearing_deg: float

    def outline(self) -> list[tuple[float, float]]:
        """Points round it, m east and north."""
        along = math.radians(self.bearing_deg)
        points = []
        for i in range(OVAL_POINTS):
            angle = 2 * math.pi * i / OVAL_POINTS
            a, b = self.long_m * math.cos(angle), self.short_m * math.sin(angle)
            points.append(
                (
                    self.east_m + a * math.sin(along) + b * math.cos(along),
                    self.north_m + a * math.cos(along) - b * math.sin(along),
                )
            )
        return points


def oval(places: Any, share: float) -> Oval:
    """The ellipse about the middle of places (n by 2, m), shaped as they scatter, that holds a share of them (0 to 1). Source: covariance ellipse, its size by
    the quantile of the distances it measures; textbook."""
    middle = places.mean(axis=0)
    apart = places - middle
    values, vectors = np.linalg.eigh(apart.T @ apart / len(places))
    sigma = np.sqrt(np.maximum(values, 0.0))
    measured = np.sqrt(sum(((apart @ vectors[:, i]) / max(sigma[i], 1e-9)) ** 2 for i in (0, 1)))
    times = float(np.quantile(measured, share)) if sigma[1] > 1e-6 else 0.0
    east, north = vectors[:, 1]
    return Oval(
        east_m=float(middle[0]), north_m=float(middle[1]), long_m=times * float(sigma[1]), short_m=times * float(sigma[0]),
        bearing_deg=math.degrees(math.atan2(east, north)) % 180,
    )  # fmt: skip


def radius_m(places: Any, share: float) -> float:
    """The radius in m about their middle that holds a share of places (n by 2, m). Source: quantile."""
    apart = places - places.mean(axis=0)
    return float(np.quantile(np.hypot(apart[:, 0], apart[:, 1]), share))


class WhatIf(Struct, frozen=True, kw_only=True):
    """What comes of it: the likeliest path (points of m east, north, up), ovals of 50 and 95 % of the landings, seconds and charge in per cent as 5, 50 and
    95 % of the runs, energy at the ground in J at 95 %, shares by outcome, its worst that counts, the things hit by their share, and what it passes over."""

    path: tuple[tuple[float, float, float], ...]
    landings: Any
    half: Oval
    most: Oval
    seconds: tuple[float, float, float]
    charge: tuple[float, float, float]
    energy_j: float
    shares: dict[Outcome, float]
    worst: Outcome
    hits: tuple[tuple[str, float], ...]
    over: tuple[tuple[Lies, float], ...]
    away_m: float
    known: bool

    @property
    def level(self) -> Level:
        """What it is worth. Unknown wind is never clear."""
        level = level_of(self.worst, *badness(self.shares))
        return level if self.known else max(level, Level.CAUTION)


def track(lost: Lost, plan: Plan, body: Body, air: Air) -> tuple[tuple[float, float, float], ...]:
    """The path with nothing uncertain: points of m east, north and up."""
    flown = fly(lost, plan, body, air, EXACT, draws(1, SEED))
    return tuple((float(x), float(y), float(z)) for x, y, z in flown.path[:, 0])


def what_if(
    lost: Lost,
    plan: Plan,
    body: Body,
    air: Air,
    ground: Ground,
    *,
    errors: Errors | None = None,
    runs: int = RUNS,
    seed: int = SEED,
) -> WhatIf:
    """Fly a lost link so many times. Raises InputError for a place below the ground. Source: ``flown``, ``outcomes``."""
    both = fly(lost, plan, body, air, errors or Errors(), with_exact(draws(runs, seed)))
    path, flown = both.path[:, 0], _without_first(both)
    met = outcomes(flown, ground)
    found = shares(met.outcome)
    ends = met.ends[:, :2]
    seconds, charge = (
        tuple(float(q) for q in np.quantile(part, (0.05, 0.5, 0.95))) for part in (flown.seconds, flown.charge_percent)
    )
    return WhatIf(
        path=tuple((float(x), float(y), float(z)) for x, y, z in path),
        landings=ends,
        half=oval(ends, 0.5),
        most=oval(ends, 0.95),
        seconds=seconds,  # type: ignore[arg-type]
        charge=charge,  # type: ignore[arg-type]
        energy_j=float(np.quantile(energy_j(body.mass_kg, flown.end_ms), 0.95)),
        shares=found,
        worst=worst_outcome(found),
        hits=_hits(met, ground),
        over=_over(met),
        away_m=_away(flown, plan),
        known=air.known,
    )


def _without_first(both: Flown) -> Flown:
    """The runs behind the one in which nothing is uncertain."""
    return Flown(
        path=both.path[:, 1:], seconds=both.seconds[1:], charge_percent=both.charge_percent[1:], end_ms=both.end_ms[1:],
        home=both.home[1:], empty=both.empty[1:], away=both.away[1:],
    )  # fmt: skip


def _away(flown: Flown, plan: Plan) -> float:
    """How far from home they come down, in m, at 95 %."""
    apart = flown.landings - np.asarray(plan.home)
    return float(np.quantile(np.hypot(apart[:, 0], apart[:, 1]), 0.95))


@lru_cache(maxsize=16)
def what_if_at(lost: Lost, plan: Plan, body: Body, air: Air, site: Site) -> WhatIf:
    """As ``what_if`` on the grid of a field, with the usual errors; the same again is not flown again."""
    return what_if(lost, plan, body, air, ground_of(site))


OVER_WORDS = {
    Lies.PEOPLE: "the spectators",
    Lies.ROAD: "a road or car park",
    Lies.PRIVATE: "private ground",
    Lies.HAZARD: "a marked hazard",
    Lies.WATER: "water",
}


def _over(met: Met) -> tuple[tuple[Lies, float], ...]:
    """What the paths pass over, the worst first, by the share of runs (0 to 1)."""
    found = [(flag, float(np.mean(met.over & int(flag) != 0))) for flag in OVER_WORDS]
    return tuple((flag, share) for flag, share in found if share >= OVER_SHARE)


def _hits(met: Met, ground: Ground) -> tuple[tuple[str, float], ...]:
    numbers, counts = np.unique(met.hit[met.hit >= 0], return_counts=True)
    named = [(ground.marks[int(n)].words, float(c) / len(met.hit)) for n, c in zip(numbers, counts, strict=True)]
    return tuple(sorted(named, key=lambda pair: -pair[1]))


TOGETHER = {
    Level.GROUNDED: "Together, {share} of the runs hit something, come down on a road, a hazard or people, or do not get home.",
    Level.CAUTION: "Together, {share} of the runs end outside the flying area or worse.",
}
"""What is said where no ending by itself is frequent, and all of them together are."""


def _and(words: list[str]) -> str:
    *most, last = words
    return f"{', '.join(most)} and {last}" if most else last


def findings(found: WhatIf) -> tuple[Finding, ...]:
    """What a what-if says, in words: how it ends, what it hits, people below, energy. Shares in per cent, times in minutes, heights in m."""
    said = []
    grounds, bad = badness(found.shares)
    for outcome, share in found.shares.items():
        if share < TOLD_SHARE:
            continue
        level = OUTCOME_LEVEL[outcome] if counts(outcome, share) else min(OUTCOME_LEVEL[outcome], Level.CAUTION)
        if outcome is Outcome.OBSTACLE and found.hits:
            words = Phrase.of(
                f"In {{share}} of the runs it hits an obstacle, mostly the {found.hits[0][0]}.",
                share=percent(100 * share),
            )
        else:
            words = Phrase.of(f"In {{share}} of the runs it {OUTCOME_WORDS[outcome]}.", share=percent(100 * share))
        said.append(Finding(name="Where it ends", level=level, reason=words, source=SOURCE))
    level = level_of(found.worst, grounds, bad)
    if worst(tuple(said)) < level:
        words = Phrase.of(TOGETHER[level], share=percent(100 * (grounds if level is Level.GROUNDED else bad)))
        said.append(Finding(name="Where it ends", level=level, reason=words, source=SOURCE))
    for flag, share in found.over:
        if flag is Lies.PEOPLE and Outcome.PEOPLE not in found.shares:
            words = Phrase.of("In {share} of the runs it flies over the spectators.", share=percent(100 * share))
            said.append(Finding(name="People below", level=Level.CAUTION, reason=words, source=SOURCE))
    others = [OVER_WORDS[flag] for flag, _ in found.over if flag is not Lies.PEOPLE]
    if others:
        said.append(
            Finding(
                name="On its way",
                level=Level.CLEAR,
                reason=Phrase(text=f"On its way it passes over {_and(others)}."),
                source=SOURCE,
            )
        )
    if found.charge[1] <= 0:
        words = Phrase.of(
            "The pack is empty when it comes down, after about {time}.", time=minute(found.seconds[1] / 60)
        )
        said.append(Finding(name="Charge", level=Level.CAUTION, reason=words, source=SOURCE))
    if not found.known:
        words = Phrase(text="The wind is not known: this is still air. It will come down elsewhere.")
        said.append(
            Finding(
                name="Wind", level=Level.CAUTION, reason=words, remedy="Enter the wind at the field.", source=SOURCE
            )
        )
    if found.energy_j < 1:
        return tuple(sorted(said, key=lambda finding: -finding.level))
    heavy = found.energy_j > harm_j()
    words = Phrase.of(
        f"Energy at the ground up to {found.energy_j:,.0f} J"
        + (f", above {harm_j():.0f} J, the limit of the lightest class." if heavy else ".")
    )
    said.append(
        Finding(
            name="Energy",
            level=Level.CAUTION if heavy else Level.CLEAR,
            reason=words,
            source="m v² / 2; Regulation (EU) 2019/945, class C1: 80 J (from memory)",
        )
    )
    return tuple(sorted(said, key=lambda finding: -finding.level))


SOURCE = "flown many times with today's wind, gusts and errors of position; our model"


def _time_words(low_s: float, high_s: float) -> str:
    """From a time to another, in the unit that suits them."""
    if high_s < 90:
        return f"{low_s:.0f} to {high_s:.0f} s" if round(low_s) != round(high_s) else f"about {high_s:.0f} s"
    low, high = f"{low_s / 60:.1f}", f"{high_s / 60:.1f}"
    return f"{low} to {high} min" if low != high else f"about {high} min"


def landed_words(found: WhatIf) -> Phrase:
    """Where, when and with what it comes down: distances in m, times, per cent."""
    return Phrase.of(
        f"It comes down after {_time_words(found.seconds[0], found.seconds[2])}, within {{away}} of the launch point in 95 of 100 runs, with {{charge}} left.",
        away=height(found.away_m), charge=percent(found.charge[1]),
    )  # fmt: skip
