"""What is flown: an aircraft described by traits, never by a brand."""

from functools import lru_cache
from typing import Annotated, Any

from walkround.core.aircraft.controller import ControllerProfile
from walkround.core.aircraft.failsafe import Failsafe
from walkround.core.aircraft.flaws import Life, OwnPart, Tolerance
from walkround.core.aircraft.how_it_works import HowItWorks
from walkround.core.aircraft.lights import Turning
from walkround.core.aircraft.proved import MOST_RESULTS, StageResult
from walkround.core.aircraft.traits import FRAME_MOTORS, KIND_GROUPS, KIND_TRAITS, Frame, Kind, Power, Trait
from walkround.core.base.errors import InputError
from walkround.core.base.value import Allowed, KeptStruct, Value, incoming, whole

REGISTRATION_G = 250
"""From this take-off mass in g on an aircraft is registered, below it when it carries a camera.
Source: Regulation (EU) 2019/947 (from memory); the authority's current text prevails."""


class Aircraft(Value):
    """One aircraft. Lengths in mm, mass in g, speed in m/s.

    ``rotors``: motors that turn a propeller or rotor; 0 for a glider without one. ``front_left_clockwise``: how the
    front left propeller turns seen from above (the front one of a plus frame; of coaxial pairs the upper).
    ``propeller_mm``: diameter of a propeller; ``cruise_ms``: airspeed it usually travels at; ``cruise_current_a``: what
    a wing draws there, in A: each None where not known. ``wind_max_ms``: the most wind for this aircraft, None: the
    pilot's limit.
    ``flown_before``: about how many flights it had before this book: it is no maiden then.
    ``charge_steps``: LEDs or bars of its charge display, where it has those; ``signal_bars``: bars of its signal.
    ``stop_words``: how its motors are stopped, in its own way; ``home_words``: how RTH is started and cancelled; empty: not on record.
    ``record_mbits``: what its camera writes, in megabits a second.
    ``mass_g`` is ready to fly with payload, ``bare_mass_g`` without. ``bag_extra``: its own lines for the bag.
    ``own_parts`` and ``without_parts``: parts its pilot adds, and ids of those it has not; ``tolerances``: what its maker allows;
    ``lives``: how long its parts last, where its pilot says otherwise; ``turning``: how its compass is turned and what its light shows;
    ``controller``: within which numbers its flight controller arms, None: generic ones;
    ``works``: how it is armed, what its signs mean and where its switches are, None: not entered; ``proved``: what was found at the
    stages of its proving programme, oldest first.
    """

    id: int = 0
    name: Annotated[str, Allowed(min_length=1, max_length=60)]
    kind: Kind
    frame: Frame
    power: Power = Power.ELECTRIC
    traits: frozenset[Trait] = frozenset()
    rotors: Annotated[int, Allowed(ge=0, le=8)] = 4
    mass_g: Annotated[float, Allowed(gt=0, le=25_000)]
    bare_mass_g: Annotated[float | None, Allowed(gt=0, le=25_000)] = None
    span_mm: Annotated[float, Allowed(gt=0, le=8_000)]
    top_speed_ms: Annotated[float, Allowed(gt=0, le=100)]
    wind_max_ms: Annotated[float | None, Allowed(ge=1, le=30)] = None
    flight_min: Annotated[float, Allowed(gt=0, le=600)] = 10.0
    propeller_mm: Annotated[float | None, Allowed(gt=0, le=2_000)] = None
    cruise_ms: Annotated[float | None, Allowed(gt=0, le=100)] = None
    cruise_current_a: Annotated[float | None, Allowed(gt=0, le=400)] = None
    cells: Annotated[int, Allowed(ge=1, le=14)] = 3
    flown_before: Annotated[int, Allowed(ge=0, le=20_000)] = 0
    charge_steps: Annotated[int, Allowed(ge=2, le=10)] = 4
    signal_bars: Annotated[int, Allowed(ge=2, le=10)] = 5
    front_left_clockwise: bool = True
    bands: Annotated[int, Allowed(ge=0, le=40)] = 8
    cg_min_mm: Annotated[float | None, Allowed(ge=0, le=2_000)] = None
    cg_max_mm: Annotated[float | None, Allowed(ge=0, le=2_000)] = None
    record_mbits: Annotated[float | None, Allowed(gt=0, le=2_000)] = None
    firmware: Annotated[str, Allowed(max_length=40)] = ""
    stop_words: Annotated[str, Allowed(max_length=200)] = ""
    home_words: Annotated[str, Allowed(max_length=200)] = ""
    failsafe: Failsafe | None = None
    bag_packs: Annotated[int, Allowed(ge=1, le=30)] = 2
    bag_extra: Annotated[tuple[str, ...], Allowed(max_length=30)] = ()
    bag_leaves: frozenset[str] = frozenset()
    own_parts: Annotated[tuple[OwnPart, ...], Allowed(max_length=300)] = ()
    without_parts: frozenset[str] = frozenset()
    tolerances: Annotated[tuple[Tolerance, ...], Allowed(max_length=30)] = ()
    lives: Annotated[tuple[Life, ...], Allowed(max_length=60)] = ()
    turning: Turning = Turning.trusted(way="", lights=())
    controller: ControllerProfile | None = None
    works: HowItWorks | None = None
    proved: Annotated[tuple[StageResult, ...], Allowed(max_length=MOST_RESULTS)] = ()
    retired: bool = False

    @incoming
    @staticmethod
    def usual_frame(data: Any) -> Any:
        """An aircraft described before frames were known has the usual one of its kind."""
        if isinstance(data, dict) and "frame" not in data and data.get("kind") in set(Kind):
            return {**data, "frame": next(iter(FRAME_MOTORS[Kind(data["kind"])]))}
        return data

    @whole
    def frame_fits(self) -> "Aircraft":
        """Refuse a frame of another kind, and a number of motors that the frame does not come with."""
        frames = FRAME_MOTORS[self.kind]
        if self.frame not in frames:
            raise InputError(f"{_a(self.kind)} does not come in layout {self.frame}: {_or(frames)}.", "frame")
        allowed = frames[self.frame]
        if self.rotors not in allowed:
            many = _or(sorted(allowed))
            raise InputError(f"A frame of the form {self.frame} has {many} motors, not {self.rotors}.", "rotors")
        if (self.power is Power.NONE) != (self.rotors == 0):
            raise InputError("Choose 0 motors together with “no motor”.", "power")
        return self

    @whole
    def traits_fit(self) -> "Aircraft":
        """Refuse traits of another kind, and two of which only one can be true."""
        strange = self.traits - set(KIND_TRAITS[self.kind])
        if strange:
            raise InputError(f"{_a(self.kind)} is not described by “{sorted(strange)[0]}”.", "traits")
        for group in KIND_GROUPS[self.kind]:
            both = sorted(self.traits & set(group.traits))
            if group.one and len(both) > 1:
                raise InputError(f"{group.title}: choose only one of {' and '.join(both)}.", "traits")
        return self

    @whole
    def numbers_agree(self) -> "Aircraft":
        """Refuse half a balance range, one whose ends are exchanged, and a payload below nothing."""
        low, high = self.cg_min_mm, self.cg_max_mm
        if (low is None) != (high is None):
            raise InputError("Enter both ends of the CG range, or neither.", "cg_max_mm")
        if low is not None and high is not None and low > high:
            raise InputError("The rear end of the CG range is in front of the front end.", "cg_max_mm")
        if self.bare_mass_g is not None and self.bare_mass_g > self.mass_g:
            raise InputError("The mass without payload cannot be higher than the mass with it.", "bare_mass_g")
        if self.cruise_ms is not None and self.cruise_ms > self.top_speed_ms:
            raise InputError("Cruise speed cannot be higher than top speed.", "cruise_ms")
        return self

    def has(self, *traits: Trait) -> bool:
        """Whether the aircraft has all these traits."""
        return self.features().issuperset(traits)

    def features(self) -> frozenset[Trait]:
        """Chosen traits and those that follow from kind, frame, power, motors and mass."""
        return _features(self.kind, self.frame, self.power, self.rotors, self.mass_g >= REGISTRATION_G, self.traits)

    @property
    def arms(self) -> int:
        """Arms of a multi-rotor: as many as motors, half as many when they are coaxial."""
        return self.rotors // 2 if self.frame in (Frame.Y_COAXIAL, Frame.X_COAXIAL) else self.rotors


def _a(kind: Kind) -> str:
    return f"A {kind.value}"


def _or(names: Any) -> str:
    *most, last = [str(name) for name in names]
    return f"{', '.join(most)} or {last}" if most else last


_SURFACES = {Trait.AILERONS, Trait.ELEVONS, Trait.ELEVATOR, Trait.RUDDER, Trait.V_TAIL, Trait.FLAPS}


@lru_cache(maxsize=512)
def _features(
    kind: Kind, frame: Frame, power: Power, rotors: int, heavy: bool, traits: frozenset[Trait]
) -> frozenset[Trait]:
    follow = {
        Trait.MOTOR: power is not Power.NONE,
        Trait.NO_MOTOR: power is Power.NONE,
        Trait.ELECTRIC: power is Power.ELECTRIC,
        Trait.LIQUID_FUEL: power is Power.LIQUID_FUEL,
        Trait.PROPELLERS: kind is not Kind.HELICOPTER and rotors > 0,
        Trait.SEVERAL_MOTORS: kind is Kind.MULTIROTOR or rotors > 1,
        Trait.ROTOR_BLADES: kind is Kind.HELICOPTER,
        Trait.COAXIAL: frame in (Frame.Y_COAXIAL, Frame.X_COAXIAL, Frame.COAXIAL_ROTOR),
        Trait.TAIL_ROTOR: frame is Frame.SINGLE_ROTOR,
        Trait.TAIL: kind is Kind.WING and frame is not Frame.FLYING_WING,
        Trait.TAILLESS: frame is Frame.FLYING_WING,
        Trait.WHEELS: bool(traits & {Trait.NOSE_WHEEL, Trait.TAIL_WHEEL, Trait.RETRACTS}),
        Trait.SURFACES: bool(traits & _SURFACES),
        Trait.CAMERA: bool(traits & {Trait.GIMBAL_CAMERA, Trait.FIXED_CAMERA, Trait.VIDEO_LINK}),
        Trait.REGISTRABLE: heavy or Trait.GIMBAL_CAMERA in traits or Trait.FIXED_CAMERA in traits,
    }
    return traits | {trait for trait, holds in follow.items() if holds}


def led(kind: Kind, frame: str, rotors: int, power: str) -> tuple[Frame, int, Power]:
    """Frame, motors and power that go together, nearest to what a half-filled description says.

    An unknown frame becomes the usual one, a number of motors it does not come with the usual number; no motor takes the
    motors away from a wing and gives way on what cannot be without. Source: ``FRAME_MOTORS``; our choice.
    """
    frames = FRAME_MOTORS[kind]
    chosen = next((f for f in frames if f == frame), next(iter(frames)))
    motors = rotors if rotors in frames[chosen] else frames[chosen][0]
    drive = Power(power) if power in set(Power) else Power.ELECTRIC
    if drive is Power.NONE and 0 in frames[chosen]:
        return chosen, 0, drive
    drive = Power.ELECTRIC if drive is Power.NONE else drive
    return chosen, motors or frames[chosen][0], drive


class For(KeptStruct, frozen=True, kw_only=True):
    """Which aircraft a check belongs to: one of the kinds if any is named, all of ``has``, one of ``any_of``.

    ``unless``: only where another check asks the same of aircraft with that trait, so that describing an aircraft more
    fully never loses a check.
    """

    kinds: frozenset[Kind] = frozenset()
    has: frozenset[Trait] = frozenset()
    any_of: frozenset[Trait] = frozenset()
    unless: frozenset[Trait] = frozenset()

    def fits(self, aircraft: Aircraft) -> bool:
        """Whether the check belongs to this aircraft."""
        return self.fits_features(aircraft.kind, aircraft.features())

    def fits_features(self, kind: Kind, features: frozenset[Trait]) -> bool:
        """As ``fits``, for a kind and all features at hand."""
        if (self.kinds and kind not in self.kinds) or self.unless & features:
            return False
        return self.has <= features and (not self.any_of or not self.any_of.isdisjoint(features))

    def wants(self, aircraft: Aircraft) -> tuple[str, ...]:
        """What this aircraft would need for the check to apply, in words; empty when it fits."""
        missing = [kind.value for kind in sorted(self.kinds)] if self.kinds and aircraft.kind not in self.kinds else []
        features = aircraft.features()
        words = [" or ".join(missing)] if missing else []
        words += [trait.value for trait in sorted(self.has - features)]
        if self.any_of and not self.any_of & features:
            words.append(" or ".join(sorted(trait.value for trait in self.any_of)))
        return tuple(words)

    def words(self) -> str:
        """The predicate in words: "every aircraft", or what it names."""
        parts = [" or ".join(sorted(kind.value for kind in self.kinds))] if self.kinds else []
        parts += sorted(trait.value for trait in self.has)
        if self.any_of:
            parts.append(" or ".join(sorted(trait.value for trait in self.any_of)))
        return ", ".join(parts) or "every aircraft"


ANY = For()
MULTIROTOR = For(kinds=frozenset({Kind.MULTIROTOR}))
WING = For(kinds=frozenset({Kind.WING}))
HELICOPTER = For(kinds=frozenset({Kind.HELICOPTER}))


def having(*traits: Trait, kind: Kind | None = None) -> For:
    """A predicate for aircraft with all these traits, of one kind if named."""
    return For(kinds=frozenset({kind} if kind else ()), has=frozenset(traits))


def any_of(*traits: Trait) -> For:
    """A predicate for aircraft with at least one of these traits."""
    return For(any_of=frozenset(traits))
