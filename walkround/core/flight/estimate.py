"""Minutes from a full pack today: physics first, corrected by what this aircraft really used, as a range."""

import math
from collections.abc import Iterator, Sequence
from datetime import datetime
from statistics import NormalDist, median
from typing import Annotated

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.base.phrase import Phrase, minute, percent, temperature
from walkround.core.base.phrase import count as number
from walkround.core.base.struct import Struct
from walkround.core.base.value import Allowed, Value
from walkround.core.base.wording import plural
from walkround.core.flight.power import Estimate, rotor_power_w
from walkround.core.packs.load import usable_share
from walkround.core.packs.pack import Pack
from walkround.core.weather.atmosphere import SEA_LEVEL_DENSITY

RATE = 0.80
"""How often the minutes lie in the range. Source: our choice."""
_Z = NormalDist().inv_cdf(0.5 + RATE / 2)
PRIOR_SIGMA = {"physics": 0.25, "current": 0.15, "described": 0.30}
"""How far each first guess is off, as the standard deviation of the logarithm. Source: our choice: figure of merit and
drive alone leave a quarter; what makers and memories say is worse."""
FLIGHT_SIGMA = 0.12
"""Scatter of one logged flight about the aircraft's own ratio: wind, style, a gauge read to five points. Source: our
choice."""
LEAST_USED_PERCENT = 15.0
"""A flight that used less says little. Source: our choice."""
WING_MASS_POWER = 1.5
"""A wing's power in level flight goes as its mass to this power, at the same lift coefficient (no unit). Source: level
flight, power is weight times speed over lift-to-drag and speed goes as the root of the weight; textbook."""
USUAL_C = 20.0


class Use(Value):
    """What one logged flight of the aircraft used: minutes, per cent of the pack, that pack's capacity in mAh, and the
    mass it flew with in g (None: as it is now)."""

    at: datetime
    minutes: Annotated[float, Allowed(gt=0)]
    used_percent: float
    capacity_mah: Annotated[float, Allowed(gt=0)]
    pack: str = ""
    mass_g: float | None = None

    @property
    def full_min(self) -> float:
        """Minutes a full pack would have given."""
        return 100 * self.minutes / self.used_percent


class Endurance(Struct, frozen=True, kw_only=True):
    """Minutes from a full pack today. ``physics``: by momentum theory alone, None for wings; ``first``: the guess before
    any flight, from ``basis``; ``logged``: what the flights say by themselves; ``today``: both together; ``weight``: the
    flights' share in it (0 to 1).

    ``power_w``: power in W at which ``today.mid`` is reached; ``ratio``: what the flights say over the first guess.
    """

    basis: str
    physics: Estimate | None
    first: Estimate
    logged: Estimate | None
    today: Estimate
    described_min: float
    flights: int
    weight: float
    ratio: float
    power_w: float
    density: float
    temperature_c: float
    state_of_health: float | None
    why: tuple[Phrase, ...] = ()


class _Guess(Struct, frozen=True, kw_only=True):
    """A guess before any flight, for the label of the pack at 20 °C: minutes and standard deviation of the logarithm."""

    basis: str
    mid: float
    sigma: float
    physics: Estimate | None = None


def _first_guess(aircraft: Aircraft, pack: Pack, density: float, uses: Sequence[Use]) -> _Guess:
    """Rotors: physics and the description together, the wider apart the vaguer. Wings: the measured current, else the
    description."""
    described = aircraft.flight_min
    if uses:
        # The description does not say for which pack; the packs it flew with do.
        described *= pack.capacity_mah / median(use.capacity_mah for use in uses)
    power = rotor_power_w(aircraft, density)
    if power is None:
        if aircraft.cruise_current_a:
            minutes = 60 * pack.capacity_mah / 1000 / aircraft.cruise_current_a
            return _Guess(basis="current", mid=minutes, sigma=PRIOR_SIGMA["current"])
        return _Guess(basis="described", mid=described, sigma=PRIOR_SIGMA["described"])
    energy_min = 60 * pack.energy_wh()
    physics = Estimate(low=energy_min / power.high, mid=energy_min / power.mid, high=energy_min / power.low)
    one, other = PRIOR_SIGMA["physics"] ** -2, PRIOR_SIGMA["described"] ** -2
    share = one / (one + other)
    apart = math.log(physics.mid / described)
    mid = described * math.exp(share * apart)
    sigma = math.sqrt(1 / (one + other) + share * (1 - share) * apart * apart)
    return _Guess(basis="physics", mid=mid, sigma=sigma, physics=physics)


def endurance(
    aircraft: Aircraft,
    pack: Pack,
    *,
    uses: Sequence[Use] = (),
    density: float = SEA_LEVEL_DENSITY,
    temperature_c: float = USUAL_C,
    state_of_health: float | None = None,
) -> Endurance:
    """Minutes that a full pack gives this aircraft today, as a range that holds at ``RATE``.

    Density of the air in kg/m³, temperature of the pack in °C, ``state_of_health``: its usable capacity over the label.
    The first guess is physics (rotors), the logged current (wings) or the description; each logged flight then pulls
    towards what was really used: a normal prior and normal observations of the logarithm. Cold air is denser and would
    lift more easily; no minutes are promised for it, because the pack loses more than that.
    Source: momentum theory (``power``), ``usable_share`` from memory, conjugate normal updating (textbook statistics).
    """
    uses = [use for use in uses if use.used_percent >= LEAST_USED_PERCENT]
    guess = _first_guess(aircraft, pack, density, uses)
    share = usable_share(temperature_c)
    today_share = share * (min(1.0, state_of_health) if state_of_health is not None else 1.0)
    logs = [math.log(minutes) for minutes in _as_today(uses, aircraft, pack, density)]
    n = len(logs)
    scatter = FLIGHT_SIGMA
    if n >= 4:
        middle = median(logs)
        scatter = max(FLIGHT_SIGMA, 1.4826 * median(abs(x - middle) for x in logs))
    # The weight rests on a fixed spread, not on how far guesses lie apart: so that more mass never adds minutes.
    weight = n / (n + (scatter / PRIOR_SIGMA[guess.basis]) ** 2)
    own = sum(_calm(logs, scatter)) / n if n else math.log(guess.mid)
    left = guess.sigma * math.sqrt(1 - weight)
    mid = today_share * math.exp((1 - weight) * math.log(guess.mid) + weight * own)
    ratio = math.exp(own) / guess.mid
    today = _around(mid, math.hypot(left, scatter) if n else guess.sigma)
    return Endurance(
        basis=guess.basis,
        physics=guess.physics.times(today_share) if guess.physics else None,
        first=_around(guess.mid * today_share, guess.sigma),
        logged=_around(today_share * math.exp(own), scatter) if n else None,
        today=today,
        described_min=aircraft.flight_min,
        flights=n,
        weight=weight,
        ratio=ratio,
        power_w=60 * pack.energy_wh() * today_share / mid,
        density=density,
        temperature_c=temperature_c,
        state_of_health=state_of_health,
        why=_why(guess, n, weight, ratio, share, temperature_c, state_of_health, today, density),
    )


def _as_today(uses: Sequence[Use], aircraft: Aircraft, pack: Pack, density: float) -> Iterator[float]:
    """Minutes that a full pack of today would have given on those flights: another capacity, another mass, another air."""
    now = rotor_power_w(aircraft, density)
    heavy = {
        mass_g: aircraft.model_copy(update={"mass_g": mass_g})
        for mass_g in {use.mass_g or aircraft.mass_g for use in uses}
    }
    then = {mass_g: rotor_power_w(other, SEA_LEVEL_DENSITY) for mass_g, other in heavy.items()}
    for use in uses:
        minutes, mass_g = use.full_min * pack.capacity_mah / use.capacity_mah, use.mass_g or aircraft.mass_g
        lifted = then[mass_g]
        if lifted is None or now is None:
            yield minutes * float((mass_g / aircraft.mass_g) ** WING_MASS_POWER)
        else:
            yield minutes * lifted.mid / now.mid


def _around(mid: float, sigma: float) -> Estimate:
    """The range that holds at ``RATE`` about a middle with this standard deviation of the logarithm."""
    return Estimate(low=mid * math.exp(-_Z * sigma), mid=mid, high=mid * math.exp(_Z * sigma))


def _calm(logs: Sequence[float], sigma: float) -> list[float]:
    """Flights farther than three scatters from the middle are pulled in: one wrong entry must not steer the rest."""
    middle = median(logs)
    return [min(max(x, middle - 3 * sigma), middle + 3 * sigma) for x in logs]


_BASIS = {
    "physics": "Before any flight: hover power from mass, rotor discs and air, with the flight time you entered.",
    "current": "Before any flight: rated capacity divided by the cruise current you measured.",
    "described": "Before any flight: the flight time you entered for this aircraft.",
}


def _why(
    guess: _Guess, n: int, weight: float, ratio: float, share: float, temperature_c: float,
    state_of_health: float | None, today: Estimate, density: float,
) -> tuple[Phrase, ...]:  # fmt: skip
    """Why the minutes are what they are, a sentence each."""
    basis = guess.basis
    said = [Phrase(text=_BASIS[basis])]
    if n:
        off = abs(ratio - 1) * 100
        turn = "longer" if ratio >= 1 else "shorter"
        causes = {
            "physics": "because of propellers and motors, faster flying, or a pack below its rated capacity",
            "current": "because you fly faster or slower than when the current was measured",
            "described": "because the flight time you entered does not match your flying",
        }[basis]
        words = f"{{n}} logged {plural(n, 'flight')} count for {{weight}}: it flies {{off}} {turn}"
        tail = f", probably {causes}." if off >= 10 else "; both agree."
        said.append(Phrase.of(words + tail, n=number(n), weight=percent(100 * weight), off=percent(off)))
    else:
        said.append(
            Phrase(text="No flight with the charge left is in the logbook yet. After the first, its own use counts.")
        )
    if share < 0.995:
        said.append(
            Phrase.of(
                "At {cold} the pack delivers {share} of its capacity.",
                cold=temperature(temperature_c),
                share=percent(100 * share),
            )
        )
    if state_of_health is not None and state_of_health < 0.97:
        said.append(
            Phrase.of("This pack has {share} of its rated capacity left.", share=percent(100 * state_of_health))
        )
    if basis == "physics" and density < 0.95 * SEA_LEVEL_DENSITY:
        thin = 100 * (1 - math.sqrt(density / SEA_LEVEL_DENSITY))
        said.append(Phrase.of("The air is thin today, which costs {thin}.", thin=percent(thin)))
    said.append(
        Phrase.of(
            "{share} of flights should fall between {low} and {high}.",
            share=percent(80),
            low=minute(today.low),
            high=minute(today.high),
        )
    )
    return tuple(said)
