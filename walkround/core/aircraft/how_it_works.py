"""How this aircraft works, on one card: how it is armed and disarmed, what its lights and tones mean, which switch is where. Entered once, never guessed from a maker's name."""

from datetime import datetime
from enum import StrEnum
from typing import Annotated

from walkround.core.aircraft.lights import Blink, Colour
from walkround.core.aircraft.traits import Trait
from walkround.core.base.errors import InputError
from walkround.core.base.value import Allowed, Value, whole


class ArmBy(StrEnum):
    """How it is armed or disarmed."""

    YAW_RIGHT = "throttle down, yaw right"
    YAW_LEFT = "throttle down, yaw left"
    STICKS_IN = "both sticks down and in"
    STICKS_OUT = "both sticks down and out"
    SWITCH = "a switch"
    BUTTON = "a button, held"
    SCREEN = "the control on the screen"


class Means(StrEnum):
    """What a light or a tone can mean."""

    STARTING = "starting up"
    READY = "ready to fly"
    NO_FIX = "no position fix yet"
    ARMED = "armed"
    LOW = "battery low"
    LOST = "signal lost"
    ERROR = "an error"


class Lever(StrEnum):
    """Where a switch stands."""

    UP = "up"
    MIDDLE = "middle"
    DOWN = "down"


class HomeSet(StrEnum):
    """When it sets its home point."""

    AT_FIX = "at the first good fix after power-on"
    AT_ARMING = "when it arms"
    IN_HOVER = "in the hover"


class Sign(Value):
    """One thing that a light or tones tell."""

    means: Means
    colour: Colour | None = None
    blink: Blink = Blink.STEADY
    tones: Annotated[str, Allowed(max_length=40)] = ""

    @whole
    def shows_something(self) -> "Sign":
        """Refuse a sign without a light or a tone."""
        if self.colour is None and not self.tones:
            raise InputError("Choose a colour, or describe the tones.", "signs")
        return self

    @property
    def words(self) -> str:
        """The sign in words: "green, blinking slowly; two short beeps"."""
        light = (
            ""
            if self.colour is None
            else self.colour.value + (f" {self.blink}" if self.blink is Blink.STEADY else f", {self.blink}")
        )
        return "; ".join(part for part in (light, self.tones) if part)


class SwitchUse(Value):
    """A switch: what each of its places selects (empty: it has no such place), and where it is for start, launch and landing."""

    name: Annotated[str, Allowed(min_length=1, max_length=20)]
    up: Annotated[str, Allowed(max_length=30)] = ""
    middle: Annotated[str, Allowed(max_length=30)] = ""
    down: Annotated[str, Allowed(max_length=30)] = ""
    start: Lever | None = None
    launch: Lever | None = None
    landing: Lever | None = None

    @whole
    def has_these_places(self) -> "SwitchUse":
        """Refuse a switch that selects nothing, and a place that it has not."""
        places = dict(self.places)
        if not places:
            raise InputError(f"Enter what switch {self.name} selects.", "switches")
        for lever in (self.start, self.launch, self.landing):
            if lever is not None and lever not in places:
                raise InputError(
                    f"Switch {self.name} has no place “{lever.value}”: enter what it selects there.", "switches"
                )
        return self

    @property
    def places(self) -> tuple[tuple[Lever, str], ...]:
        """Each place that it has, with what it selects."""
        return tuple(
            (lever, words)
            for lever, words in ((Lever.UP, self.up), (Lever.MIDDLE, self.middle), (Lever.DOWN, self.down))
            if words
        )

    def selects(self, lever: Lever) -> str:
        """What a place selects; "" where it has no such place."""
        return dict(self.places).get(lever, "")


class HowItWorks(Value):
    """The card. ``arm_least_s``, ``arm_most_s``: how long the arming stick or button is held, shortest and longest; ``idle_s``: it disarms by itself after so many s; ``self_test_s``,
    ``warm_up_s``: how long its self-test and its warm-up take in s; each None where it is not known. ``home_again``: whether home can be set again in flight; ``confirm``: who
    has to confirm what, in words; ``noted_at``: when the card was last changed (aware)."""

    arm: ArmBy | None = None
    arm_least_s: Annotated[float | None, Allowed(ge=0, le=30)] = None
    arm_most_s: Annotated[float | None, Allowed(ge=0, le=60)] = None
    disarm: ArmBy | None = None
    disarm_s: Annotated[float | None, Allowed(ge=0, le=30)] = None
    idle_s: Annotated[float | None, Allowed(ge=0, le=600)] = None
    self_test_s: Annotated[float | None, Allowed(ge=0, le=600)] = None
    warm_up_s: Annotated[float | None, Allowed(ge=0, le=1_800)] = None
    signs: Annotated[tuple[Sign, ...], Allowed(max_length=len(Means))] = ()
    switches: Annotated[tuple[SwitchUse, ...], Allowed(max_length=8)] = ()
    home_again: bool | None = None
    confirm: Annotated[str, Allowed(max_length=120)] = ""
    noted_at: datetime | None = None

    @whole
    def agrees(self) -> "HowItWorks":
        """Refuse a longest hold shorter than the shortest, two signs for one thing, and two switches of one name."""
        if self.arm_least_s is not None and self.arm_most_s is not None and self.arm_most_s <= self.arm_least_s:
            raise InputError("The longest hold must be longer than the shortest.", "arm_most_s")
        if len({sign.means for sign in self.signs}) < len(self.signs):
            raise InputError("Two signs mean the same.", "signs")
        names = [switch.name.strip().lower() for switch in self.switches]
        if len(set(names)) < len(names):
            raise InputError("Two switches have the same name.", "switches")
        return self

    def sign(self, means: Means) -> Sign | None:
        """The sign for one thing, None where it is not on record."""
        return next((one for one in self.signs if one.means is means), None)


def held_words(least_s: float | None, most_s: float | None) -> str:
    """How long something is held, in words; "" where it is not known."""
    if least_s is None and most_s is None:
        return ""
    if most_s is None:
        return f"held for {least_s:g} s"
    return (
        f"held for {least_s:g} s, never longer than {most_s:g} s"
        if least_s is not None
        else f"never held longer than {most_s:g} s"
    )


def home_set(features: frozenset[Trait]) -> HomeSet:
    """When an aircraft with these features sets home. Source: its traits."""
    if Trait.HOME_AT_ARMING in features:
        return HomeSet.AT_ARMING
    return HomeSet.IN_HOVER if Trait.HOME_IN_HOVER in features else HomeSet.AT_FIX


def arm_words(card: HowItWorks) -> str:
    """How it is armed, in a sentence; "" where it is not known."""
    if card.arm is None:
        return ""
    held = held_words(card.arm_least_s, card.arm_most_s)
    return f"Arm: {card.arm.value}{f', {held}' if held else ''}."


def disarm_words(card: HowItWorks) -> str:
    """How it is disarmed, in words; "" where it is not known."""
    words = (
        []
        if card.disarm is None
        else [f"Disarm: {card.disarm.value}{f', held for {card.disarm_s:g} s' if card.disarm_s else ''}."]
    )
    if card.idle_s:
        words.append(f"It disarms by itself after {card.idle_s:g} s at idle.")
    return " ".join(words)


WHEN = {"start": "Before power", "launch": "Before launch", "landing": "For landing"}
_SWITCHES_AT = {
    "power.mode": "start", "power.idle": "start", "power.inert_again": "start", "power.ready_to_arm": "launch", "first.step_back": "launch", "first.around_again": "launch",
}  # fmt: skip
"""At which checks which places of the switches are compared."""


def switches_for(card: HowItWorks, when: str) -> tuple[tuple[SwitchUse, Lever], ...]:
    """The switches that have a place for "start", "launch" or "landing", each with it."""
    found = ((switch, getattr(switch, when)) for switch in card.switches)
    return tuple((switch, lever) for switch, lever in found if lever is not None)


def switches_at(card: HowItWorks, check_id: str) -> tuple[str, tuple[tuple[SwitchUse, Lever], ...]]:
    """When, in words, and the switches to compare at a check; nothing where there is nothing to compare."""
    when = _SWITCHES_AT.get(check_id)
    return ("", ()) if when is None else (WHEN[when], switches_for(card, when))


def words_at(card: HowItWorks, check_id: str, features: frozenset[Trait]) -> tuple[str, ...]:
    """What the card says at a check, in place of the manual; nothing where it has nothing to say there."""
    if check_id in ("power.self_test", "power.still_long"):
        known = (
            f"Its self-test takes about {card.self_test_s:g} s." if card.self_test_s else "",
            f"It warms up for {card.warm_up_s:g} s." if card.warm_up_s else "",
        )
        signs = [
            f"{sign.means.value.capitalize()}: {sign.words}."
            for sign in card.signs
            if sign.means in (Means.STARTING, Means.READY, Means.ERROR, Means.NO_FIX)
        ]
        return (*(one for one in known if one), *signs)
    if check_id in ("power.arming_known", "power.ready_to_arm", "controls.arm_disarm"):
        return tuple(words for words in (arm_words(card), disarm_words(card)) if words)
    if check_id == "sensors.home_point":
        again = " Home can be set again in flight." if card.home_again else ""
        return (f"It sets home {home_set(features).value}.{again}",)
    if check_id == "sensors.satellites" and (sign := card.sign(Means.NO_FIX)) is not None:
        return (f"No position fix yet: {sign.words}.",)
    if check_id in ("link.polling", "first.rth_trial") and card.confirm:
        return (card.confirm,)
    if check_id == "after.off":
        return tuple(words for words in (disarm_words(card),) if words)
    return ()
