"""How long parts last: lives in flights, hours, months and uses, each with its source, each the pilot's to change; and what an event makes of a part.

Never older is lighter: what has reached its life grounds where it rotates, drives, carries or holds, and is a caution elsewhere; near it a caution.
"""

from collections.abc import Iterable, Mapping
from datetime import datetime
from enum import StrEnum

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.flaws import Life
from walkround.core.aircraft.traits import Trait
from walkround.core.base.finding import PRACTICE, Finding, Level
from walkround.core.base.phrase import Phrase
from walkround.core.base.struct import Struct
from walkround.core.base.wording import capital, plural
from walkround.core.inspection.aspects import Aspect
from walkround.core.inspection.damage import STRICT
from walkround.core.inspection.touched import TouchedPart

NEAR = 0.8
"""From this share of its life on a part is named. Source: our choice."""
OURS = "our choice"
DAYS_A_MONTH = 30.4


class Counted(StrEnum):
    """What a life is counted in."""

    FLIGHTS = "flight"
    HOURS = "hour"
    MONTHS = "month"
    HARD_LANDINGS = "hard landing"
    USES = "use"


class LifeRule(Struct, frozen=True, kw_only=True):
    """How long parts of this kind last: what is felt of them, in what it is counted, how many, and whose number it is."""

    name: str
    aspects: frozenset[Aspect]
    counted: Counted
    limit: float
    words: str
    source: str = OURS
    needs: Trait | None = None
    ending: str = ""

    def fits(self, part: TouchedPart, aircraft: Aircraft) -> bool:
        """Whether the rule speaks of a part of this aircraft."""
        return (
            part.aspect in self.aspects
            and part.id.endswith(self.ending)
            and (self.needs is None or aircraft.has(self.needs))
        )


A, C = Aspect, Counted
LIVES = (
    LifeRule(name="propeller-flights", aspects=frozenset({A.BLADE}), counted=C.FLIGHTS, limit=200, words="Propeller", ending="/blade-1"),
    LifeRule(name="nut-uses", aspects=frozenset({A.LOCK}), counted=C.USES, limit=5, words="Nyloc nut", source=f"{PRACTICE}; the number is our choice", needs=Trait.LOCK_NUT),
    LifeRule(name="band-months", aspects=frozenset({A.DOWEL}), counted=C.MONTHS, limit=6, words="Rubber bands", source=f"rubber perishes with light and oil; {OURS}", needs=Trait.BANDS, ending="wing-joint"),
    LifeRule(name="band-flights", aspects=frozenset({A.DOWEL}), counted=C.FLIGHTS, limit=20, words="Rubber bands", needs=Trait.BANDS, ending="wing-joint"),
    LifeRule(name="bearing-hours", aspects=frozenset({A.BELL, A.MAST}), counted=C.HOURS, limit=50, words="Bearings"),
    LifeRule(name="rotor-flights", aspects=frozenset({A.ROTOR_BLADE}), counted=C.FLIGHTS, limit=300, words="Rotor blades", ending="/blade-1"),
    LifeRule(name="link-flights", aspects=frozenset({A.LINK}), counted=C.FLIGHTS, limit=200, words="Ball links"),
    LifeRule(name="clevis-flights", aspects=frozenset({A.SERVO}), counted=C.FLIGHTS, limit=300, words="Clevis", ending="/clevis"),
    LifeRule(name="clevis-hard", aspects=frozenset({A.SERVO}), counted=C.HARD_LANDINGS, limit=2, words="Clevis after hard landings", ending="/clevis"),
    LifeRule(name="line-months", aspects=frozenset({A.TANK}), counted=C.MONTHS, limit=24, words="Fuel lines", needs=Trait.LIQUID_FUEL, ending="/lines"),
)  # fmt: skip
"""How long parts last. Source: each its own."""


class PartAge(Struct, frozen=True, kw_only=True):
    """What a part has behind it since it was fitted (aware time; None: not known since when): flights, minutes, hard landings, uses of its nut, fixes; and
    when it was last touched in a round."""

    since: datetime | None
    flights: int = 0
    minutes: float = 0
    hard_landings: int = 0
    uses: int = 0
    fixes: int = 0
    touched_at: datetime | None = None

    def of(self, counted: Counted, now: datetime) -> float | None:
        """The number a life is counted in; None where it is not known."""
        if counted is C.MONTHS:
            return None if self.since is None else max(0.0, (now - self.since).total_seconds()) / 86_400 / DAYS_A_MONTH
        return {
            C.FLIGHTS: float(self.flights),
            C.HOURS: self.minutes / 60,
            C.HARD_LANDINGS: float(self.hard_landings),
            C.USES: float(self.uses),
        }[counted]


class Worn(Struct, frozen=True, kw_only=True):
    """A part near or past its life: the rule, what it has behind it, its limit, the level of that, and whether it is known since when it has been on."""

    part: TouchedPart
    rule: LifeRule
    behind: float
    limit: float
    level: Level
    known: bool = True

    @property
    def own(self) -> bool:
        """Whether the pilot set the limit."""
        return self.limit != self.rule.limit

    def words(self) -> str:
        """Such as "Front left propeller, blade 1: 212 of 200 flights"."""
        unit = plural(self.limit, self.rule.counted.value)
        name = capital(self.part.name.removesuffix(", blade 1"))
        if not self.known:
            return f"{name}: age not known, at most {self.behind:.0f} {plural(self.behind, self.rule.counted.value)} ({self.limit:.0f} is its life)"
        return f"{name}: {self.behind:.0f} of {self.limit:.0f} {unit}"

    def finding(self) -> Finding:
        """The same as a finding."""
        over = self.known and self.behind >= self.limit
        return Finding(
            name="Life",
            level=self.level,
            reason=Phrase(text=f"{self.words()}."),
            remedy="Replace it before it flies."
            if self.level is Level.GROUNDED
            else "Replace it now."
            if over
            else "Have a spare ready."
            if self.known
            else "Enter when it was fitted.",
            source="the pilot's own limit" if self.own else self.rule.source,
        )


def limit_of(rule: LifeRule, lives: Iterable[Life]) -> float:
    """How long it lasts by the pilot, else by the rule: a number in the unit of the rule."""
    return next((life.limit for life in lives if life.rule == rule.name), rule.limit)


def judge_life(part: TouchedPart, rule: LifeRule, behind: float, limit: float, *, known: bool = True) -> Worn | None:
    """A part by one life: None below ``NEAR`` of it. Past it what rotates, drives, carries or holds stays down.

    Where it is not known since when it has been on, the number is the most it can be, and that is a caution. Source: ``NEAR``, ``STRICT``.
    """
    if behind < NEAR * limit or behind <= 0:
        return None
    past = known and behind >= limit
    level = Level.GROUNDED if past and part.does in STRICT else Level.CAUTION
    return Worn(part=part, rule=rule, behind=behind, limit=limit, level=level, known=known)


def worn_parts(
    aircraft: Aircraft, parts: Iterable[TouchedPart], ages: Mapping[str, PartAge], now: datetime
) -> tuple[Worn, ...]:
    """The parts near or past a life of theirs, the worst first; ``ages`` by the part's id; of each part the rule that it has used up most."""
    found = []
    for part in parts:
        age = ages.get(part.id)
        if age is None:
            continue
        mine = []
        for rule in LIVES:
            behind = age.of(rule.counted, now) if rule.fits(part, aircraft) else None
            worn = (
                None
                if behind is None
                else judge_life(part, rule, behind, limit_of(rule, aircraft.lives), known=age.since is not None)
            )
            if worn is not None:
                mine.append(worn)
        if mine:
            found.append(max(mine, key=lambda one: (one.level, one.behind / one.limit)))
    return tuple(sorted(found, key=lambda one: (-one.level, -one.behind / one.limit, one.part.id)))
