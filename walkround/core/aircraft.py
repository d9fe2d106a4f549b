"""What is flown: an aircraft described by traits, never by a brand."""

from enum import StrEnum

from pydantic import Field, field_serializer, model_validator

from walkround.core.base import Value
from walkround.core.errors import InputError


class Kind(StrEnum):
    """The two kinds of this slice; they differ in nearly every check."""

    MULTIROTOR = "multirotor"
    WING = "wing"


class Trait(StrEnum):
    """What an aircraft has or is. Checks apply by traits."""

    FOLDING = "folding arms"
    QUICK_RELEASE = "quick-release propellers"
    SATNAV = "satellite positioning"
    COMPASS = "compass"
    FLIGHT_CONTROLLER = "flight controller"
    STABILISER = "small gyro stabiliser"
    RETURN_HOME = "return-home"
    GIMBAL_CAMERA = "camera on a gimbal"
    PILOT_SCREEN = "flown with a phone or tablet"
    UPDATABLE = "firmware can be updated"
    SMART_PACK = "smart packs that report per cent"
    SEALED = "sealed against rain"
    BEEPER = "lost-model beeper"
    BANDS = "wing held by rubber bands"
    NOSE_WHEEL = "steered nose wheel"
    AILERONS = "ailerons"
    ELEVATOR = "elevator"
    RUDDER = "rudder"
    HAND_LAUNCH = "launched by hand"


KIND_TRAITS: dict[Kind, tuple[Trait, ...]] = {
    Kind.MULTIROTOR: (
        Trait.FOLDING,
        Trait.QUICK_RELEASE,
        Trait.FLIGHT_CONTROLLER,
        Trait.SATNAV,
        Trait.COMPASS,
        Trait.RETURN_HOME,
        Trait.GIMBAL_CAMERA,
        Trait.PILOT_SCREEN,
        Trait.UPDATABLE,
        Trait.SMART_PACK,
        Trait.SEALED,
        Trait.BEEPER,
        Trait.HAND_LAUNCH,
    ),
    Kind.WING: (
        Trait.BANDS,
        Trait.NOSE_WHEEL,
        Trait.AILERONS,
        Trait.ELEVATOR,
        Trait.RUDDER,
        Trait.STABILISER,
        Trait.SATNAV,
        Trait.COMPASS,
        Trait.RETURN_HOME,
        Trait.UPDATABLE,
        Trait.SEALED,
        Trait.BEEPER,
        Trait.HAND_LAUNCH,
    ),
}
"""Traits that can be chosen for each kind, in the order of the form."""


class Aircraft(Value):
    """One aircraft. Lengths in mm, mass in g, speed in m/s."""

    id: int = 0
    name: str = Field(min_length=1, max_length=60)
    kind: Kind
    traits: frozenset[Trait] = frozenset()
    rotors: int = Field(default=4, ge=1, le=8)
    mass_g: float = Field(gt=0, le=25_000)
    span_mm: float = Field(gt=0, le=8_000)
    top_speed_ms: float = Field(gt=0, le=100)
    flight_min: float = Field(default=10, gt=0, le=600)
    cells: int = Field(default=3, ge=1, le=14)
    front_left_clockwise: bool = True
    bands: int = Field(default=8, ge=0, le=40)
    balance_min_mm: float | None = Field(default=None, ge=0, le=2_000)
    balance_max_mm: float | None = Field(default=None, ge=0, le=2_000)
    firmware: str = Field(default="", max_length=40)
    retired: bool = False

    @model_validator(mode="after")
    def balance_is_a_range(self) -> "Aircraft":
        """Refuse half a balance range, or one whose ends are exchanged."""
        low, high = self.balance_min_mm, self.balance_max_mm
        if (low is None) != (high is None):
            raise InputError("Give both ends of the maker's balance range, or neither.", "balance_max_mm")
        if low is not None and high is not None and low > high:
            raise InputError("The far end of the balance range lies before the near end.", "balance_max_mm")
        return self

    @field_serializer("traits")
    def _sorted_traits(self, traits: frozenset[Trait]) -> list[str]:
        """Sets have no order; a record needs one, or its hash would differ from run to run."""
        return sorted(trait.value for trait in traits)

    def has(self, *traits: Trait) -> bool:
        """Whether the aircraft has all these traits (no unit). Source: the pilot's description."""
        return self.traits.issuperset(traits)


class For(Value):
    """Which aircraft a check belongs to: a kind if named, all of ``has``, at least one of ``any_of``, none of ``lacks``."""

    kind: Kind | None = None
    has: frozenset[Trait] = frozenset()
    any_of: frozenset[Trait] = frozenset()
    lacks: frozenset[Trait] = frozenset()

    def fits(self, aircraft: Aircraft) -> bool:
        """Whether the check belongs to this aircraft (no unit). Source: traits named in the check."""
        return (
            (self.kind is None or aircraft.kind is self.kind)
            and self.has <= aircraft.traits
            and (not self.any_of or bool(self.any_of & aircraft.traits))
            and not (self.lacks & aircraft.traits)
        )


ANY = For()
MULTIROTOR = For(kind=Kind.MULTIROTOR)
WING = For(kind=Kind.WING)


def having(*traits: Trait) -> For:
    """A predicate for aircraft with all these traits (no unit). Source: traits named in the check."""
    return For(has=frozenset(traits))


PRESETS: dict[str, Aircraft] = {
    "camera-quad": Aircraft(
        name="Folding camera quad",
        kind=Kind.MULTIROTOR,
        traits=frozenset(
            {
                Trait.FOLDING,
                Trait.QUICK_RELEASE,
                Trait.FLIGHT_CONTROLLER,
                Trait.SATNAV,
                Trait.COMPASS,
                Trait.RETURN_HOME,
                Trait.GIMBAL_CAMERA,
                Trait.PILOT_SCREEN,
                Trait.UPDATABLE,
                Trait.SMART_PACK,
            }
        ),
        rotors=4,
        mass_g=780,
        span_mm=380,
        top_speed_ms=16,
        flight_min=24,
        cells=3,
        firmware="1.0",
    ),
    "foam-trainer": Aircraft(
        name="Foam high-wing trainer",
        kind=Kind.WING,
        traits=frozenset(
            {Trait.BANDS, Trait.NOSE_WHEEL, Trait.AILERONS, Trait.ELEVATOR, Trait.RUDDER, Trait.STABILISER}
        ),
        rotors=1,
        mass_g=1150,
        span_mm=1400,
        top_speed_ms=22,
        flight_min=11,
        cells=3,
        bands=8,
        balance_min_mm=72,
        balance_max_mm=80,
    ),
}
"""Starting points for a new aircraft; every number is invented and meant to be changed."""
