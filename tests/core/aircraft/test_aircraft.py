"""Describing an aircraft: what goes together, what follows, and what is refused in words."""

import unittest

from pydantic import ValidationError

from tests.support import QUAD, TRAINER, variants
from walkround.core.aircraft.aircraft import Aircraft, For, any_of, having, led
from walkround.core.aircraft.presets import PRESETS
from walkround.core.aircraft.traits import FRAME_MOTORS, KIND_GROUPS, KIND_TRAITS, Frame, Kind, Power, Trait
from walkround.core.base.errors import InputError


def changed(base: Aircraft = QUAD, **changes: object) -> Aircraft:
    return Aircraft.model_validate(base.model_dump() | changes)


class Description(unittest.TestCase):
    def test_what_the_issue_names_can_be_described(self) -> None:
        arms = {a.arms for a in variants() if a.kind is Kind.MULTIROTOR}
        self.assertEqual(arms, {3, 4, 6, 8})
        frames = {a.frame for a in variants()}
        self.assertEqual(frames, set(Frame))
        chosen = {t for traits in KIND_TRAITS.values() for t in traits}
        follow = set().union(*(a.features() - a.traits for a in variants()))
        self.assertEqual(chosen | follow, set(Trait))
        self.assertFalse(chosen & follow)

    def test_presets_hold_together_and_show_every_kind(self) -> None:
        for key, preset in PRESETS.items():
            self.assertEqual(Aircraft.model_validate_json(preset.model_dump_json()), preset, key)
        self.assertEqual({p.kind for p in PRESETS.values()}, set(Kind))
        self.assertEqual(len({p.name for p in PRESETS.values()}), len(PRESETS))

    def test_a_description_from_before_frames_were_known(self) -> None:
        old = {k: v for k, v in TRAINER.model_dump(mode="json").items() if k not in ("frame", "power", "bag_packs")}
        self.assertIs(Aircraft.model_validate(old).frame, Frame.HIGH_WING)

    def test_what_follows(self) -> None:
        self.assertTrue(QUAD.has(Trait.PROPELLERS, Trait.SEVERAL_MOTORS, Trait.REGISTRABLE, Trait.CAMERA))
        glider = PRESETS["glider"]
        self.assertFalse(glider.has(Trait.MOTOR) or glider.has(Trait.PROPELLERS))
        self.assertTrue(PRESETS["heli-single"].has(Trait.TAIL_ROTOR, Trait.ROTOR_BLADES))
        self.assertTrue(PRESETS["flying-wing"].has(Trait.TAILLESS))
        # Registration from 250 g, or below it with a camera: Regulation (EU) 2019/947 (from memory).
        light = changed(TRAINER, mass_g=249)
        self.assertFalse(light.has(Trait.REGISTRABLE))
        self.assertTrue(changed(TRAINER, mass_g=250).has(Trait.REGISTRABLE))
        self.assertTrue(changed(QUAD, mass_g=240).has(Trait.REGISTRABLE))

    def test_refusals(self) -> None:
        rows = (
            ("a hexacopter with five motors", {"rotors": 5}, "A frame of the form X has 3, 4, 6 or 8 motors, not 5", "rotors"),
            ("a coaxial Y with four", {"frame": Frame.Y_COAXIAL}, "has 6 motors, not 4", "rotors"),
            ("a wing's frame", {"frame": Frame.HIGH_WING}, "A multirotor does not come in layout high wing: X, plus,", "frame"),
            ("no motor but four", {"power": Power.NONE}, "Choose 0 motors together with “no motor”", "power"),
            ("a flying wing's trait", {"traits": {Trait.ELEVONS}}, "is not described by “elevons”", "traits"),
            ("held twice", {"traits": {Trait.QUICK_RELEASE, Trait.LOCK_NUT}}, "only one of", "traits"),
            ("lighter with payload", {"bare_mass_g": 900}, "The mass without payload cannot be higher than the mass with it", "bare_mass_g"),
            ("half a balance range", {"cg_min_mm": 70}, "both ends", "cg_max_mm"),
        )  # fmt: skip
        for name, changes, words, field in rows:
            with self.subTest(name), self.assertRaises(InputError) as caught:
                changed(**changes)
            self.assertIn(words, caught.exception.message)
            self.assertEqual(caught.exception.field, field)
        with self.assertRaises(ValidationError):
            changed(mass_g=0)

    def test_every_group_stands_under_a_kind_and_every_frame_has_motors(self) -> None:
        for kind in Kind:
            self.assertTrue(KIND_GROUPS[kind] and all(FRAME_MOTORS[kind].values()))
            self.assertEqual(len(KIND_TRAITS[kind]), len(set(KIND_TRAITS[kind])), kind)


class HalfFilled(unittest.TestCase):
    def test_it_is_led_to_what_goes_together(self) -> None:
        rows = (
            ("as it is", (Kind.MULTIROTOR, "X", 6, "electric"), (Frame.X, 6, Power.ELECTRIC)),
            ("a frame of another kind", (Kind.WING, "X", 4, "electric"), (Frame.HIGH_WING, 1, Power.ELECTRIC)),
            ("four motors on a coaxial Y", (Kind.MULTIROTOR, "Y, coaxial", 4, "electric"), (Frame.Y_COAXIAL, 6, Power.ELECTRIC)),
            ("a wing without motor", (Kind.WING, "low wing", 2, "no motor"), (Frame.LOW_WING, 0, Power.NONE)),
            ("a motor again", (Kind.WING, "low wing", 0, "electric"), (Frame.LOW_WING, 1, Power.ELECTRIC)),
            ("a helicopter without motor", (Kind.HELICOPTER, "coaxial rotors", 2, "no motor"), (Frame.COAXIAL_ROTOR, 2, Power.ELECTRIC)),
            ("steam", (Kind.WING, "flying wing", 1, "steam"), (Frame.FLYING_WING, 1, Power.ELECTRIC)),
        )  # fmt: skip
        for name, said, expected in rows:
            with self.subTest(name):
                self.assertEqual(led(*said), expected)

    def test_every_way_it_is_led_can_be_saved(self) -> None:
        base = next(iter(PRESETS.values())).model_dump() | {"traits": []}
        for kind in Kind:
            for frame in (*Frame, "kite"):
                for rotors in range(9):
                    for power in (*Power, "steam"):
                        found = dict(zip(("frame", "rotors", "power"), led(kind, frame, rotors, power), strict=True))
                        Aircraft.model_validate(base | {"kind": kind} | found)


class Predicates(unittest.TestCase):
    def test_fits_says_what_wants_says(self) -> None:
        cases = (For(), having(Trait.COMPASS), having(Trait.FLAPS, kind=Kind.WING), any_of(Trait.BEEPER, Trait.TRACKER))
        for aircraft in variants():
            for applies in cases:
                self.assertEqual(applies.fits(aircraft), applies.wants(aircraft) == (), applies.words())

    def test_words(self) -> None:
        self.assertEqual(For().words(), "every aircraft")
        self.assertEqual(having(Trait.FLAPS, kind=Kind.WING).words(), "fixed wing, flaps")
        self.assertEqual(any_of(Trait.BEEPER, Trait.TRACKER).wants(QUAD), ("lost-model beeper or separate tracker",))
