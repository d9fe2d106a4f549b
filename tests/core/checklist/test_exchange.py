"""Files handed on: there and back, against the published schema, and every way a file can be wrong."""

import json
import unittest
from pathlib import Path
from typing import Any

from msgspec.structs import replace

from tests.support import NOW, QUAD
from walkround.core.aircraft.parts import Part, PartKind
from walkround.core.aircraft.presets import PRESETS
from walkround.core.base.errors import InputError
from walkround.core.checklist.check import Frequency, Station
from walkround.core.checklist.custom import CheckChange, CustomChecklist, add, change, checklist_of
from walkround.core.checklist.exchange import (
    FILES,
    AircraftFile,
    ListFile,
    aircraft_file,
    parse_file,
    schema,
    taken_over,
    text_of,
)
from walkround.core.checklist.own_checks import custom_check

DOCS = Path(__file__).parents[3] / "docs" / "schemas"


def no_older(name: str, version: int, data: dict[str, Any]) -> dict[str, Any]:
    """No file of an earlier version is read here."""
    raise AssertionError(f"{name}/{version}")


def own_list() -> CustomChecklist:
    own = change(CustomChecklist(), CheckChange(check_id="field.path", title="To the hedge"), 0)
    values = {"station": Station.SKY, "how": "", "why": "", "grounds": False, "frequency": Frequency.DAY}
    return add(own, lambda n: custom_check(n, title="Smell the rain", **values), own.revision)  # type: ignore[arg-type]


class ThereAndBack(unittest.TestCase):
    def test_every_preset(self) -> None:
        for key, preset in PRESETS.items():
            part = Part(id=4, kind=PartKind.MOTOR, place="front left", fitted_at=NOW, flights=8, minutes=60)
            gone = part.model_copy(update={"removed_at": NOW})
            file = aircraft_file(preset.model_copy(update={"id": 7, "retired": True}), (part, gone))
            again = parse_file(text_of(file), AircraftFile, no_older)
            self.assertEqual(again.aircraft, preset, key)
            self.assertEqual([(p.id, p.flights, p.place) for p in again.parts], [(0, 0, "front left")])

    def test_a_list_taken_over_twice_is_there_once(self) -> None:
        own = own_list()
        file = parse_file(text_of(ListFile(changes=own.changes, added=own.added, order=own.order)), ListFile, no_older)
        once = taken_over(CustomChecklist(), file)
        self.assertEqual([c.title for c in checklist_of(once).checks if c.origin == "custom"], ["Smell the rain"])
        self.assertEqual(taken_over(once, file).added, once.added)

    def test_own_checks_get_numbers_that_are_free(self) -> None:
        values = {"station": Station.BAG, "how": "", "why": "", "grounds": False, "frequency": Frequency.DAY}
        mine = add(CustomChecklist(), lambda n: custom_check(n, title="Pack the kite", **values), 0)  # type: ignore[arg-type]
        both = taken_over(mine, ListFile(added=own_list().added))
        self.assertEqual(
            [(c.id, c.title) for c in both.added], [("custom.1", "Pack the kite"), ("custom.2", "Smell the rain")]
        )


class Schemas(unittest.TestCase):
    def test_the_published_ones_are_those_of_the_code(self) -> None:
        for name in FILES:
            self.assertEqual(json.loads((DOCS / f"{name}.json").read_text()), schema(name), "run: make schemas")

    def test_files_hold_to_their_schema(self) -> None:
        """By a validator of the JSON Schema standard, not by ours."""
        from jsonschema import Draft202012Validator

        own = own_list()
        files = [(n, aircraft_file(a, ())) for a in PRESETS.values() for n in ("walk-round-aircraft",)]
        files.append(("walk-round-list", ListFile(changes=own.changes, added=own.added)))  # type: ignore[arg-type]
        for name, file in files:
            Draft202012Validator.check_schema(schema(name))
            Draft202012Validator(schema(name)).validate(json.loads(text_of(file)))
        broken = json.loads(text_of(files[0][1])) | {"aircraft": {"name": "x"}}
        self.assertTrue(list(Draft202012Validator(schema("walk-round-aircraft")).iter_errors(broken)))


class Wrong(unittest.TestCase):
    def test_every_way(self) -> None:
        good = json.loads(text_of(aircraft_file(QUAD, ())))
        deep = "[" * 100_000
        rows = (
            ("not JSON", "propeller", "is not a JSON file"),
            ("too deep", deep, "is not a JSON file"),
            ("a list of numbers", "[1, 2]", "is not marked as walk-round-aircraft/2"),
            ("another format", json.dumps(good | {"format": "kite/1"}), "That file is not marked as"),
            ("a list of checks", text_of(ListFile()), "holds a list of checks; here an aircraft is needed"),
            ("newer", json.dumps(good | {"format": "walk-round-aircraft/3"}), "written by a newer Walk Round"),
            ("no number", json.dumps(good | {"format": "walk-round-aircraft/x"}), "is not marked as"),
            ("unknown field", json.dumps(good | {"colour": "red"}), "colour: extra inputs are not permitted"),
            ("five motors", json.dumps(good | {"aircraft": good["aircraft"] | {"rotors": 5}}), "3, 4, 6 or 8 motors, not 5"),
            ("no mass", json.dumps(good | {"aircraft": good["aircraft"] | {"mass_g": -1}}), "aircraft › mass_g: input should be"),
            ("ten megabytes", " " * 10_000_000, "longer than 400 kB"),
        )  # fmt: skip
        for name, text, words in rows:
            with self.subTest(name), self.assertRaises(InputError) as caught:
                parse_file(text, AircraftFile, no_older)
            self.assertIn(words, caught.exception.message)
            self.assertEqual(caught.exception.field, "file")

    def test_a_list_that_would_switch_off_silently(self) -> None:
        file = ListFile(changes=(CheckChange(check_id="airframe.propellers", off=True),))
        with self.assertRaisesRegex(InputError, "airframe.propellers: A fault here can bring the aircraft down"):
            taken_over(CustomChecklist(), file)
        with self.assertRaisesRegex(InputError, "There is no such check"):
            taken_over(CustomChecklist(), ListFile(changes=(CheckChange(check_id="moon.phase", title="x"),)))

    def test_a_list_with_a_check_nobody_can_judge(self) -> None:
        added = replace(own_list().added[0], due="moon")
        with self.assertRaisesRegex(InputError, "cannot be added. Add a tick, a number with limits"):
            taken_over(CustomChecklist(), ListFile(added=(added,)))
