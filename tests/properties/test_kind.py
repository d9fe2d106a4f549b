"""Kind: no check speaks of a part that the aircraft does not have, and no caution is reversed for its geometry."""

import itertools
import random
import re
import unittest
from functools import cache

from walkround.core.aircraft.aircraft import Aircraft
from walkround.core.aircraft.presets import PRESETS
from walkround.core.aircraft.traits import FRAME_MOTORS, KIND_GROUPS, Kind, Power, Trait
from walkround.core.answers.choice import AskChoice
from walkround.core.answers.tick import AskTick
from walkround.core.base.errors import InputError
from walkround.core.checklist.check import Check
from walkround.core.checklist.custom import CustomChecklist, belonging
from walkround.core.checklist.library.gates import BLADES_TURN, DIRECTIONS, GATES, NEEDS_POWER, POWERED, SAFE_STATES

T = Trait
OWN = CustomChecklist()
HAS: dict[str, tuple[tuple[Kind, ...], tuple[Trait, ...]]] = {
    r"gimbal": ((), (T.GIMBAL_CAMERA,)),
    r"\bcameras?\b|\blens\b|\brecording\b(?! set)": ((), (T.GIMBAL_CAMERA, T.FIXED_CAMERA, T.VIDEO_LINK, T.GOGGLES)),
    r"goggles?\b": ((), (T.GOGGLES,)),
    r"satellites?\b|position lock": ((), (T.SATNAV, T.RETURN_HOME)),
    r"compass\b": ((), (T.COMPASS,)),
    r"\bpropellers?\b(?! off)": ((), (T.PROPELLERS,)),
    r"\bmotors?\b": ((), (T.MOTOR,)),
    r"\bengine\b|muffler|igniter|\btank\b|\bfuel\b": ((), (T.LIQUID_FUEL,)),
    r"\brotors?\b|swashplate|cyclic": ((Kind.HELICOPTER,), ()),
    r"tail rotor|tail blades": ((), (T.TAIL_ROTOR,)),
    r"both sets of blades|between the two rotors|each rotor": ((), (T.COAXIAL,)),
    r"wing roots|\bailerons?\b|\belevator\b|\brudder\b": ((Kind.WING,), ()),
    r"\bflaps?\b": ((), (T.FLAPS,)),
    r"nose wheel": ((), (T.NOSE_WHEEL,)),
    r"tail wheel": ((), (T.TAIL_WHEEL,)),
    r"rubber bands?": ((), (T.BANDS,)),
    r"\bflybar|flybars": ((), (T.FLYBAR,)),
    r"obstacle sensors?": ((), (T.OBSTACLE_SENSORS,)),
    r"payload's": ((), (T.PAYLOAD_WIFI,)),
    r"unfolds? freely": ((), (T.FOLDING_BLADES,)),
    r"\blugs?\b": ((), (T.QUICK_RELEASE,)),
    r"throttle hold": ((Kind.HELICOPTER,), ()),
    r"home point": ((), (T.RETURN_HOME,)),
}
"""Words that name a part, and the kinds or any of the traits that have it."""
SPOKEN_OF: dict[str, tuple[str, ...]] = {
    r"\bcameras?\b|\blens\b|\brecording\b(?! set)": ("link.lost_plan",),
    r"satellites?\b|position lock": ("power.ready_to_arm",),
    r"compass\b": ("power.ready_to_arm",),
    r"\bpropellers?\b(?! off)": ("bag.",),
}
"""Checks that may say a word of something that is no part of the aircraft (a list for the bag, reasons that a board may name, the
recording of a screen)."""


def texts(check: Check) -> str:
    """What a pilot reads of a check."""
    said = [check.title, check.how, check.fault, check.remedy, check.caution]
    if isinstance(check.ask, AskTick):
        said.append(check.ask.ok)
    if isinstance(check.ask, AskChoice):
        said += [text for option in check.ask.options for text in (option.label, option.reason, option.remedy)]
    return " ".join(said)


def wrong(aircraft: Aircraft) -> list[str]:
    """Each check that names a part this aircraft lacks, with the word."""
    features = aircraft.features()
    found = []
    for check in belonging(OWN, aircraft):
        for pattern, word in parts_in(texts(check)):
            kinds, traits = HAS[pattern]
            if aircraft.kind in kinds or features.intersection(traits):
                continue
            if not check.id.startswith(SPOKEN_OF.get(pattern, ("-",))):
                found.append(f"{check.id}: “{word}”")
    return found


@cache
def parts_in(said: str) -> tuple[tuple[str, str], ...]:
    """The patterns that a text holds, each with its word: the same texts are met thousands of times."""
    return tuple((pattern, word[0]) for pattern in HAS if (word := re.search(pattern, said, re.IGNORECASE)))


def flipped(base: Aircraft, *traits: Trait) -> Aircraft | None:
    """The aircraft with some traits the other way round; None where that cannot be."""
    try:
        return Aircraft.model_validate(base.model_dump() | {"traits": base.traits ^ set(traits)})
    except (InputError, ValueError):
        return None


def anyhow(dice: random.Random) -> Aircraft:
    """Any aircraft that can be described."""
    kind = dice.choice(list(Kind))
    frame = dice.choice(list(FRAME_MOTORS[kind]))
    rotors = dice.choice(FRAME_MOTORS[kind][frame])
    power = Power.NONE if rotors == 0 else dice.choice([Power.ELECTRIC, Power.LIQUID_FUEL])
    traits: set[Trait] = set()
    for group in KIND_GROUPS[kind]:
        chosen = [t for t in group.traits if dice.random() < 0.4]
        traits |= set(chosen[:1] if group.one else chosen)
    base = next(a for a in PRESETS.values() if a.kind is kind)
    return Aircraft.model_validate(
        base.model_dump() | {"frame": frame, "rotors": rotors, "power": power, "traits": traits}
    )


class Words(unittest.TestCase):
    def none_wrong(self, aircraft: Aircraft | None) -> None:
        if aircraft is not None:
            self.assertEqual(
                wrong(aircraft), [], f"{aircraft.name}: {sorted(aircraft.traits)} {aircraft.frame} {aircraft.power}"
            )

    def test_presets_and_each_trait_flipped(self) -> None:
        for preset in PRESETS.values():
            self.none_wrong(preset)
            for group in KIND_GROUPS[preset.kind]:
                for trait in group.traits:
                    self.none_wrong(flipped(preset, trait))

    def test_all_pairs_of_traits(self) -> None:
        for kind in Kind:
            base = next(a for a in PRESETS.values() if a.kind is kind).model_copy(update={"traits": frozenset()})
            traits = [t for g in KIND_GROUPS[kind] for t in g.traits]
            for pair in itertools.combinations(traits, 2):
                self.none_wrong(flipped(base, *pair))

    def test_five_thousand_at_random(self) -> None:
        dice = random.Random(20261127)
        for _ in range(5_000):
            self.none_wrong(anyhow(dice))

    def test_the_table_finds_what_is_wrong(self) -> None:
        """Take the rotor checks to a trainer, and the table notices."""
        trainer = PRESETS["foam-trainer"]
        heli = [c for c in belonging(OWN, PRESETS["heli-single"]) if c.id == "airframe.swashplate"]
        self.assertTrue(re.search(r"swashplate", texts(heli[0]), re.IGNORECASE))
        self.assertNotIn("airframe.swashplate", [c.id for c in belonging(OWN, trainer)])


REVERSED = re.compile(
    r"(holds? (it )?from behind|[Ss]tay behind the (disc|propeller|blades)|Stand behind the disc|everyone behind the propeller|behind the blades)"
)
AHEAD = re.compile(r"ahead of the propeller|throw first, power after|from the front")


class Geometry(unittest.TestCase):
    def test_nobody_is_sent_into_the_disc_of_a_pusher(self) -> None:
        for preset in PRESETS.values():
            if preset.kind is Kind.WING and preset.rotors:
                for power in (Power.ELECTRIC, Power.LIQUID_FUEL):
                    data = preset.model_dump() | {"power": power, "traits": preset.traits | {T.PUSHER, T.HAND_LAUNCH}}
                    pusher = Aircraft.model_validate(data)
                    for check in belonging(OWN, pusher):
                        said = f"{check.how} {check.caution} {check.remedy}"
                        self.assertIsNone(REVERSED.search(said), f"{check.id}: {said}")
                        self.assertIsNone(
                            re.search(r"stays? behind it|behind the propeller:", said), f"{check.id}: {said}"
                        )

    def test_a_propeller_in_front_is_held_from_behind_it(self) -> None:
        trainer = Aircraft.model_validate(
            PRESETS["foam-trainer"].model_dump() | {"traits": PRESETS["foam-trainer"].traits | {T.HAND_LAUNCH}}
        )
        for check in belonging(OWN, trainer):
            self.assertIsNone(AHEAD.search(f"{check.how} {check.caution}"), check.id)

    def test_no_blades_are_spoken_of_where_nothing_turns(self) -> None:
        for check in belonging(OWN, PRESETS["glider"]):
            self.assertNotRegex(texts(check), r"\bblades?\b|\bdiscs?\b", check.id)


class States(unittest.TestCase):
    """Powered work waits for the state that makes it possible, whatever checks an aircraft lacks."""

    def aircraft(self) -> list[Aircraft]:
        dice = random.Random(7)
        return [*PRESETS.values(), *(anyhow(dice) for _ in range(300))]

    def test_every_aircraft_has_what_powers_it(self) -> None:
        for aircraft in self.aircraft():
            ids = {c.id for c in belonging(OWN, aircraft)}
            self.assertIn("power.aircraft_on", ids)
            self.assertIn("power.transmitter_on", ids)

    def blocked_by(self, check_id: str, ids: set[str]) -> set[str]:
        return {n for gate in GATES if check_id in gate.blocks for n in gate.needs if n in ids}

    def test_no_powered_work_before_power(self) -> None:
        for aircraft in self.aircraft():
            ids = {c.id for c in belonging(OWN, aircraft)}
            for check_id in ids & {*NEEDS_POWER, *BLADES_TURN}:
                self.assertLessEqual(set(POWERED) & ids, self.blocked_by(check_id, ids), f"{aircraft.name} {check_id}")

    def test_nothing_turns_before_its_directions_are_known(self) -> None:
        for aircraft in self.aircraft():
            ids = {c.id for c in belonging(OWN, aircraft)}
            for check_id in ids & set(BLADES_TURN):
                self.assertLessEqual(
                    set(DIRECTIONS) & ids, self.blocked_by(check_id, ids), f"{aircraft.name} {check_id}"
                )
                if aircraft.has(T.LIQUID_FUEL) and check_id not in (
                    "power.engine_start",
                    "controls.lean",
                    "controls.arm_disarm",
                ):
                    self.assertIn("power.engine_start", self.blocked_by(check_id, ids))

    def test_the_banner_says_what_is_true(self) -> None:
        for aircraft in self.aircraft():
            says = [h.says for h in SAFE_STATES if h.applies.fits(aircraft)]
            self.assertEqual(any("Blades can turn" in s for s in says), aircraft.has(T.MOTOR))
            self.assertEqual(any("engine off" in s for s in says), aircraft.has(T.LIQUID_FUEL))
            self.assertEqual(any("unplugged" in s for s in says if "inert" in s), aircraft.has(T.ELECTRIC))


if __name__ == "__main__":
    unittest.main()
