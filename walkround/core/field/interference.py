"""Iron, currents and transmitters near the launch point: what each does to compass and link."""

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.traits import Trait
from walkround.core.base.finding import OUR_CHOICE, Finding, Level, measured
from walkround.core.base.kept import kept
from walkround.core.base.phrase import Phrase, degree, height
from walkround.core.base.struct import Struct
from walkround.core.field import planar_geometry
from walkround.core.field.marks import Mark, MarkKind
from walkround.core.field.site import Site


class InterferenceEffect(Struct, frozen=True, kw_only=True):
    """What a kind of thing does: nearer than ``ground_m`` it grounds, nearer than ``caution_m`` it is a caution; m. None: nothing."""

    ground_m: float
    caution_m: float
    does: str


class Disturbs(Struct, frozen=True, kw_only=True):
    """What a kind of thing does to the compass and to the link."""

    compass: InterferenceEffect | None = None
    link: InterferenceEffect | None = None


_CURRENT = "its current disturbs the compass"
_IRON = "its metal disturbs the compass"
DISTURBS: dict[MarkKind, Disturbs] = {
    MarkKind.WIRE: Disturbs(
        compass=InterferenceEffect(ground_m=15, caution_m=50, does=_CURRENT),
        link=InterferenceEffect(ground_m=10, caution_m=30, does="it causes radio noise"),
    ),
    MarkKind.TRANSFORMER: Disturbs(
        compass=InterferenceEffect(ground_m=15, caution_m=50, does=_CURRENT),
        link=InterferenceEffect(ground_m=5, caution_m=15, does="it causes radio noise"),
    ),
    MarkKind.MAST: Disturbs(
        compass=InterferenceEffect(ground_m=10, caution_m=30, does=_IRON),
        link=InterferenceEffect(ground_m=30, caution_m=120, does="its transmitters can swamp the receiver"),
    ),
    MarkKind.RADIO: Disturbs(
        compass=InterferenceEffect(ground_m=3, caution_m=10, does=_IRON),
        link=InterferenceEffect(ground_m=30, caution_m=120, does="it can swamp the receiver"),
    ),
    MarkKind.CONCRETE: Disturbs(
        compass=InterferenceEffect(ground_m=5, caution_m=15, does="its steel disturbs the compass")
    ),
    MarkKind.BUILDING: Disturbs(
        compass=InterferenceEffect(ground_m=5, caution_m=15, does="its steel disturbs the compass"),
        link=InterferenceEffect(ground_m=2, caution_m=10, does="it blocks the radio link and satellites"),
    ),
    MarkKind.CARS: Disturbs(compass=InterferenceEffect(ground_m=5, caution_m=15, does=_IRON)),
    MarkKind.METAL: Disturbs(compass=InterferenceEffect(ground_m=5, caution_m=15, does=_IRON)),
    MarkKind.FENCE: Disturbs(compass=InterferenceEffect(ground_m=3, caution_m=8, does="its wire disturbs the compass")),
}
"""Distances in m. Source: that these disturb is common practice, no source; how near is our choice."""


class Affected(Struct, frozen=True, kw_only=True):
    """One thing that disturbs: how far (m) and where (degrees true) from the spot looked at, and how much."""

    mark: Mark
    away_m: float
    bearing_deg: float
    compass: Level
    link: Level

    @property
    def level(self) -> Level:
        """The worse of the two."""
        return max(self.compass, self.link)


def level_at(effect: InterferenceEffect | None, away_m: float) -> Level:
    """How much an effect is felt at a distance in m. Source: ``DISTURBS``."""
    if effect is None or away_m >= effect.caution_m:
        return Level.CLEAR
    return Level.GROUNDED if away_m < effect.ground_m else Level.CAUTION


@kept
def sources(site: Site, at: planar_geometry.Point | None = None) -> tuple[Affected, ...]:
    """Everything on the plan that can disturb, the worst and nearest first, as felt at a spot (m east and north; None: the
    launch point). Source: ``DISTURBS``."""
    here = site.launch.xy if at is None else at
    found = []
    for mark in site.marks:
        does = DISTURBS.get(mark.kind)
        if does is None:
            continue
        away, where = mark.nearest(here)
        found.append(
            Affected(
                mark=mark,
                away_m=away,
                bearing_deg=planar_geometry.bearing(here, where),
                compass=level_at(does.compass, away),
                link=level_at(does.link, away),
            )
        )
    return tuple(sorted(found, key=lambda one: (-one.level, one.away_m)))


CAUTION_SPAN = 2.0


def _judge_source(name: str, one: Affected, effect: InterferenceEffect) -> Finding:
    level = level_at(effect, one.away_m)
    words = {
        Level.CLEAR: "Nearest source: {what}, {away}, bearing {where}.",
        Level.CAUTION: "A {what} at {away}, bearing {where}: {does}.",
        Level.GROUNDED: "A {what} only {away} away, bearing {where}: {does}.",
    }[level]
    return measured(
        f"Near the {name}",
        height(one.away_m),
        height(effect.ground_m),
        sense="min",
        level=level,
        span=effect.caution_m * CAUTION_SPAN,
        words=words.replace("{what}", one.mark.words).replace("{does}", effect.does),
        remedy="Move the launch point away from it. The plan suggests a place.",
        source=OUR_CHOICE,
        away=height(one.away_m),
        where=degree(one.bearing_deg),
    )


def judge_sources(site: Site, aircraft: Aircraft) -> tuple[Finding, ...]:
    """Judge what is marked near the launch point: one finding for the compass of an aircraft that has one, one for the
    link, in m; none where nothing that disturbs is marked. Source: ``DISTURBS``."""
    felt = sources(site)
    findings = []
    for name in ("compass", "link") if aircraft.has(Trait.COMPASS) else ("link",):
        touched = [(one, getattr(DISTURBS[one.mark.kind], name)) for one in felt]
        known = [(one, effect) for one, effect in touched if effect is not None]
        if known:
            # The worst, and of those the one that is nearest to its own limit.
            one, effect = min(
                known,
                key=lambda pair: (
                    -level_at(pair[1], pair[0].away_m),
                    (pair[0].away_m - pair[1].ground_m) / (pair[1].caution_m - pair[1].ground_m),
                ),
            )
            findings.append(_judge_source(name, one, effect))
    return tuple(findings)


PACED_ERROR, PACED_LEAST_M = 0.25, 2.0
"""Paces are right to this share, or to so many m. Source: our choice; common practice, no source."""


def paced_as_far(paced_m: float, marked_m: float) -> bool:
    """Whether a paced distance (m) is no more than one on the plan (m), within what pacing is worth. Source: ``PACED_ERROR``."""
    return paced_m <= marked_m * (1 + PACED_ERROR) + PACED_LEAST_M


def judge_paced(away_m: float, aircraft: Aircraft, site: Site) -> tuple[Finding, ...]:
    """Judge the distance (m) paced to the nearest source. One that the plan shows about there is judged by its kind, by
    ``judge_sources``; of an unknown kind, what the smallest does grounds, what the largest does is a caution.

    Source: ``DISTURBS``.
    """
    felt = sources(site)
    nearest = min(felt, key=lambda one: one.away_m, default=None)
    if nearest is not None and paced_as_far(away_m, nearest.away_m) and paced_as_far(nearest.away_m, away_m):
        reason = Phrase.of(f"The {nearest.mark.words} on the plan, {{value}} away.", value=height(away_m))
        return (
            Finding(name="Interference", level=Level.CLEAR, value=height(away_m), reason=reason, source=OUR_CHOICE),
        )
    of_compass = [d.compass for d in DISTURBS.values() if d.compass is not None] if aircraft.has(Trait.COMPASS) else []
    effects = of_compass + [d.link for d in DISTURBS.values() if d.link is not None]
    ground_m = min(effect.ground_m for effect in effects)
    caution_m = max(effect.caution_m for effect in effects)
    level = Level.GROUNDED if away_m < ground_m else Level.CAUTION if away_m < caution_m else Level.CLEAR
    return (
        measured(
            "Interference",
            height(away_m),
            height(ground_m),
            sense="min",
            level=level,
            span=caution_m,
            words={
                Level.CLEAR: "The nearest source is {value} away, too far to matter.",
                Level.CAUTION: "The nearest source is {value} away. How much that matters depends on what it is.",
                Level.GROUNDED: "A source only {value} away is too close, whatever it is.",
            },
            remedy="Add it to the plan of the field to have it judged by its type, or move the launch point away from it.",
            source=OUR_CHOICE,
        ),
    )
