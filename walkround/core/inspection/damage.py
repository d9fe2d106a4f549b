"""Damage by rule: which part, what is wrong with it, where and of what it is made; whether it flies, is cleaned, fixed, replaced, or stays down.

When in doubt a rule grounds: whatever is not listed for a part that rotates or carries load keeps the aircraft down.
"""

from collections.abc import Collection
from enum import IntEnum

import msgspec

from walkround.core.aircraft.flaws import Bears, Damage, Material, Place, Tolerance
from walkround.core.base.finding import PRACTICE, Finding, Level
from walkround.core.base.phrase import Phrase
from walkround.core.base.struct import Struct
from walkround.core.base.wording import capital
from walkround.core.inspection.touched import TouchedPart


class Verdict(IntEnum):
    """What follows, the stricter the higher."""

    FLIES = 0
    CLEAN = 1
    FIX = 2
    REPLACE = 3
    GROUNDS = 4


VERDICT_WORDS = {
    Verdict.FLIES: "It flies. Inspect it each time: has it grown?",
    Verdict.CLEAN: "Clean it now, then check it again.",
    Verdict.FIX: "Fix it here, then check it again.",
    Verdict.REPLACE: "Grounded until it is replaced.",
    Verdict.GROUNDS: "Grounded until it is repaired and checked at home.",
}
"""The verdict in words."""
STRICT = frozenset({Bears.ROTATES, Bears.DRIVES, Bears.CARRIES, Bears.HOLDS})
"""Where a doubt grounds."""

D, V, B, M = Damage, Verdict, Bears, Material
_SAME = {D.CRACK, D.WHITE, D.NICK, D.CHIP, D.BEND, D.MISSING, D.DELAMINATED, D.WORN, D.HEAT, D.CORROSION, D.CHAFE}
RULES: dict[Bears, dict[Damage, Verdict]] = {
    B.ROTATES: dict.fromkeys(_SAME, V.REPLACE) | {D.DIRT: V.CLEAN, D.LOOSE: V.FIX, D.PLAY: V.REPLACE},
    B.DRIVES: {
        D.PLAY: V.REPLACE, D.BEND: V.REPLACE, D.CORROSION: V.REPLACE, D.WORN: V.REPLACE, D.CHIP: V.REPLACE, D.DIRT: V.CLEAN, D.LOOSE: V.FIX,
        D.MISSING: V.FIX, D.CRACK: V.GROUNDS, D.HEAT: V.GROUNDS,
    },
    B.CARRIES: {
        D.CRACK: V.GROUNDS, D.WHITE: V.GROUNDS, D.DELAMINATED: V.GROUNDS, D.BEND: V.GROUNDS, D.HEAT: V.GROUNDS, D.CHIP: V.GROUNDS, D.NICK: V.GROUNDS,
        D.MISSING: V.GROUNDS, D.CORROSION: V.REPLACE, D.WORN: V.REPLACE, D.PLAY: V.FIX, D.LOOSE: V.FIX, D.CHAFE: V.FIX, D.DIRT: V.CLEAN,
    },
    B.HOLDS: {
        D.CRACK: V.REPLACE, D.WHITE: V.REPLACE, D.WORN: V.REPLACE, D.CHAFE: V.REPLACE, D.MISSING: V.REPLACE, D.BEND: V.REPLACE, D.CHIP: V.REPLACE,
        D.NICK: V.REPLACE, D.CORROSION: V.REPLACE, D.LOOSE: V.FIX, D.PLAY: V.FIX, D.DIRT: V.CLEAN,
    },
    B.STANDS: {
        D.CRACK: V.FIX, D.BEND: V.FIX, D.MISSING: V.FIX, D.LOOSE: V.FIX, D.PLAY: V.FIX, D.CHIP: V.FIX, D.WORN: V.FIX, D.NICK: V.FLIES, D.CHAFE: V.FLIES,
        D.WHITE: V.FIX, D.DIRT: V.CLEAN, D.CORROSION: V.FIX, D.DELAMINATED: V.FIX,
    },
    B.CONDUCTS: {
        D.HEAT: V.GROUNDS, D.CRACK: V.REPLACE, D.MISSING: V.REPLACE, D.CORROSION: V.REPLACE, D.CHIP: V.REPLACE, D.WORN: V.REPLACE, D.NICK: V.FIX,
        D.CHAFE: V.FIX, D.LOOSE: V.FIX, D.PLAY: V.FIX, D.BEND: V.FIX, D.DIRT: V.CLEAN,
    },
    B.COVERS: {
        D.NICK: V.FLIES, D.CHAFE: V.FLIES, D.CHIP: V.FLIES, D.BEND: V.FLIES, D.WHITE: V.FIX, D.CRACK: V.FIX, D.MISSING: V.FIX, D.LOOSE: V.FIX,
        D.PLAY: V.FIX, D.DELAMINATED: V.FIX, D.WORN: V.FIX, D.DIRT: V.CLEAN, D.CORROSION: V.FIX, D.HEAT: V.GROUNDS,
    },
}  # fmt: skip
"""What follows by what the part does. A crack, white line, nick, chip or missing lug on a propeller or rotor blade grounds until it is replaced. Source:
common practice, no source; a maker's stated tolerance prevails."""
_FOAM_FIX = frozenset({D.NICK, D.CHIP})
"""Small damage of foam that is glued or taped at the field, away from root and joint. Source: common practice, no source."""


class Ruled(Struct, frozen=True, kw_only=True):
    """A verdict with its reason; ``pair``: the other one of the pair is replaced too; ``after``: what is checked once it is done; ``source``: whose rule it is."""

    verdict: Verdict
    reason: str
    pair: bool = False
    after: str = ""
    source: str = f"{PRACTICE}; the maker's stated tolerance prevails"

    @property
    def grounds(self) -> bool:
        """Whether the aircraft stays down until something is done."""
        return self.verdict is not Verdict.FLIES


def rule(
    does: Bears,
    damage: Damage,
    place: Place | None = None,
    material: Material | None = None,
    tolerances: Collection[Tolerance] = (),
) -> Ruled:
    """What follows from damage to a part that does this; without a place or a material the stricter counts. What the maker allows flies.

    Source: ``RULES``; ``tolerances``, each with the page that says so.
    """
    allowed = next((t for t in tolerances if t.does is does and t.damage is damage and t.place in (None, place)), None)
    if allowed is not None:
        return Ruled(verdict=Verdict.FLIES, reason=f"The maker allows it: {allowed.words}.", source=allowed.source)
    verdict = RULES[does].get(damage)
    if verdict is None:
        strict = does in STRICT or damage in (Damage.UNSURE, Damage.HEAT)
        words = "It is not clear what this means. " + (
            "When in doubt it stays down." if strict else "Inspect it again each time."
        )
        return Ruled(verdict=Verdict.GROUNDS if strict else Verdict.FIX, reason=words, after=_AFTER[does])
    if (
        does is Bears.CARRIES
        and material is Material.FOAM
        and damage in _FOAM_FIX
        and place in (Place.TIP, Place.EDGE, Place.MIDDLE)
    ):
        return Ruled(
            verdict=Verdict.FIX,
            reason="Small damage of foam away from root and joint is glued or taped.",
            after=_AFTER[does],
        )
    if verdict is Verdict.FLIES and place in (None, Place.ROOT, Place.LUG):
        reason = "At a joint small damage grows."
        if place is None:
            reason += " Say where it is: elsewhere it may fly."
        return Ruled(verdict=Verdict.FIX, reason=reason, after=_AFTER[does])
    return Ruled(
        verdict=verdict,
        reason=_reason(does, damage),
        pair=does is Bears.ROTATES
        and verdict is Verdict.REPLACE
        and damage in (Damage.WORN, Damage.HEAT, Damage.CORROSION),
        after=_AFTER[does],
    )


FIX_FLIGHTS = 5
"""A part that was fixed within so many flights and needs it again is replaced. Source: our choice."""


def fixed_before(ruled: Ruled, fixes: int) -> Ruled:
    """A verdict where the part was fixed so many times within its last ``FIX_FLIGHTS`` flights: what would be fixed once more is replaced. Source: our choice."""
    if fixes < 1 or ruled.verdict is not Verdict.FIX:
        return ruled
    times = "once" if fixes == 1 else f"{fixes} times"
    words = f"It was fixed {times} within the last {FIX_FLIGHTS} flights, and it is not right yet: a fix does not hold here."
    return msgspec.structs.replace(ruled, verdict=Verdict.REPLACE, reason=words)


_AFTER = {
    B.ROTATES: "Its rotation, its seat, and a short run with nobody in its plane.",
    B.DRIVES: "Turn it by hand: smooth, no play. Then a short run.",
    B.CARRIES: "Bend it gently, then every surface on it: right way, centred.",
    B.HOLDS: "Pull at it.",
    B.STANDS: "Stand it up and push it.",
    B.CONDUCTS: "Range or signal at the edge of the field.",
    B.COVERS: "That nothing rattles.",
}


def _reason(does: Bears, damage: Damage) -> str:
    if does is Bears.ROTATES and damage in (
        Damage.NICK,
        Damage.CRACK,
        Damage.WHITE,
        Damage.CHIP,
        Damage.DELAMINATED,
        Damage.BEND,
    ):
        return "At full speed a small flaw tears a blade apart, and the pieces fly."
    if does is Bears.DRIVES:
        return "What drives a blade must turn freely and true."
    if damage is Damage.HEAT:
        return "Heat has a cause, and it is still there."
    if does is Bears.CARRIES:
        return "It carries the flight: what gives way here brings it down."
    if does is Bears.HOLDS:
        return "What it holds on leaves the aircraft when it fails."
    if does is Bears.CONDUCTS:
        return "Current or signal is lost when this goes on."
    return (
        f"Here it matters little: {does.value}."
        if damage in (Damage.NICK, Damage.CHAFE, Damage.CHIP, Damage.BEND)
        else "It gets worse with each flight."
    )


def damage_finding(ruled: Ruled) -> Finding:
    """A verdict as a finding: everything but *flies* keeps the aircraft down until it is done. Source: ``RULES``."""
    level = Level.GROUNDED if ruled.grounds else Level.CAUTION
    remedy = VERDICT_WORDS[ruled.verdict] + (" Replace both of the pair." if ruled.pair else "")
    return Finding(
        name="Damage",
        level=level,
        reason=Phrase(text=ruled.reason),
        remedy=remedy,
        source=ruled.source,
    )


def damage_words(part: TouchedPart, damage: Damage, place: Place | None) -> str:
    """The words of the snag: part, damage, place."""
    where = f", {place.value}" if place is not None else ""
    return f"{capital(part.name)}: {damage.value}{where}"


def same_fixes(part: TouchedPart, damage: Damage, titles: Collection[str]) -> int:
    """How many closed snags on a part were of the same damage; one in the pilot's own words may have been, so it counts. ``titles``: their words."""
    ruled = damage_words(part, damage, None)
    return sum(1 for title in titles if title.startswith(ruled) or not title.startswith(f"{capital(part.name)}: "))
