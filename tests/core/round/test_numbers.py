"""Numbers judged by the rule that a check names: each bound of each rule at its edge, and what the words name."""

import unittest
from unittest import mock

from msgspec.structs import replace

from tests.support import NOW, PACK, QUAD, SITE, TRAINER, dry_weather, piece, said, situation, with_history
from walkround.core.aircraft.traits import Trait
from walkround.core.answers.flight import Planned
from walkround.core.answers.number import Measured
from walkround.core.base.finding import Finding, Level
from walkround.core.base.units import Measure
from walkround.core.flight.flight_plan import FlightPlan
from walkround.core.flight.return_to_home import TurnPoint
from walkround.core.packs.chemistry import Chemistry
from walkround.core.pilot.limits import Limits
from walkround.core.round.context import Context
from walkround.core.round.numbers import RULES, return_findings
from walkround.core.round.situation import Situation


def judged(rule: str, value: float, case: Situation) -> Finding:
    return RULES[rule](value, Context(case, {}))[0]


class EachRule(unittest.TestCase):
    """Edges of each rule: (value, level, limit named). Bands of the trade: common practice, no source, unless named."""

    def edges(self, rule: str, case: Situation, rows: tuple[tuple[float, Level, float], ...]) -> None:
        for value, level, limit in rows:
            with self.subTest(f"{rule} {value}"):
                found = judged(rule, value, case)
                self.assertEqual(found.level, level)
                self.assertAlmostEqual(found.limit.value, limit, places=6)
                self.assertEqual(found.margin < 0, level > Level.CLEAR, "a number past its bound is never clear")

    def test_rubber_bands(self) -> None:
        """Eight on a trainer where the aircraft does not say another number."""
        eight, ten = (situation(TRAINER.model_copy(update={"bands": n})) for n in (None, 10))
        self.edges("bands", eight, ((7, Level.GROUNDED, 8), (8, Level.CLEAR, 8), (9, Level.CLEAR, 8)))
        self.edges("bands", ten, ((9, Level.GROUNDED, 10), (10, Level.CLEAR, 10)))

    def test_balance_inside_the_maker_s_range(self) -> None:
        wing = situation(TRAINER.model_copy(update={"cg_min_mm": 70.0, "cg_max_mm": 80.0}))
        self.edges(
            "cg",
            wing,
            (
                (69.9, Level.GROUNDED, 70),
                (70, Level.CLEAR, 70),
                (80, Level.CLEAR, 80),
                (80.1, Level.GROUNDED, 80),
            ),
        )

    def test_receiver_voltage_by_the_cells_of_its_pack(self) -> None:
        """Two lithium-polymer cells: 3.3 V under load and 3.5 V at rest each; four nickel cells: 4.7 V for the receiver."""
        two = situation(TRAINER, pack=PACK.model_copy(update={"cells": 2}))
        self.edges(
            "receiver_voltage",
            two,
            (
                (6.59, Level.GROUNDED, 6.6),
                (6.6, Level.CAUTION, 7.0),
                (6.99, Level.CAUTION, 7.0),
                (7.0, Level.CLEAR, 7.0),
                (8.5, Level.CLEAR, 8.5),
                (8.51, Level.CAUTION, 8.5),
            ),
        )
        four = situation(TRAINER, pack=PACK.model_copy(update={"cells": 4, "chemistry": Chemistry.NIMH}))
        self.edges(
            "receiver_voltage",
            four,
            (
                (4.69, Level.GROUNDED, 4.7),
                (4.7, Level.CAUTION, 4.8),
                (4.79, Level.CAUTION, 4.8),
                (4.8, Level.CLEAR, 4.8),
            ),
        )

    def test_alarm_by_chemistry(self) -> None:
        """Lithium-polymer 3.3 V under load and 3.7 V usual alarm (from memory): half way between is 3.5 V."""
        self.edges(
            "alarm",
            situation(),
            (
                (3.29, Level.GROUNDED, 3.3),
                (3.3, Level.CAUTION, 3.5),
                (3.49, Level.CAUTION, 3.5),
                (3.5, Level.CLEAR, 3.5),
                (4.0, Level.CLEAR, 4.0),
                (4.01, Level.CAUTION, 4.0),
            ),
        )

    def test_height_people_and_wind_by_the_pilot_s_limits(self) -> None:
        case = situation(limits=Limits(height_max_m=100, people_m=40, wind_ms=9))
        self.edges("max_height", case, ((100, Level.CLEAR, 100), (100.1, Level.GROUNDED, 100)))
        self.edges("people", case, ((39.9, Level.GROUNDED, 40), (40, Level.CAUTION, 50), (49.9, Level.CAUTION, 50), (50, Level.CLEAR, 50)))  # fmt: skip
        self.assertIs(judged("wind", 9.1, case).level, Level.GROUNDED)

    def test_free_space_as_minutes_of_recording(self) -> None:
        """A gigabyte is 8,000 Mbit: at 100 Mbit/s twelve gigabytes last 16 minutes."""
        camera = situation(QUAD.model_copy(update={"record_mbits": 100.0}))
        planned = Context(camera, {}).planned_min
        found = judged("card", 12, camera)
        self.assertAlmostEqual(found.value.value, 16)
        self.assertAlmostEqual(found.limit.value, 2 * planned)
        gigabytes = 2 * planned * 60 * 100 / 8000
        self.edges(
            "card",
            camera,
            ((gigabytes - 0.01, Level.CAUTION, 2 * planned), (gigabytes + 0.01, Level.CLEAR, 2 * planned)),
        )
        plain = situation(QUAD.model_copy(update={"record_mbits": None}))
        self.edges("card", plain, ((7.99, Level.CAUTION, 8), (8, Level.CLEAR, 8)))


class ColdPack(unittest.TestCase):
    """What a cold pack shows at full throttle, beside the bands: only where it would sag below its floor."""

    def names(self, pack_c: float, **load: float | None) -> list[tuple[str, Level]]:
        context = Context(situation(), {})
        under = context.load(pack_c)
        assert under is not None
        with mock.patch.object(Context, "load", lambda *_: replace(under, **load)):
            return [(f.name, f.level) for f in RULES["pack_temperature"](pack_c, context)]

    def test_edges(self) -> None:
        alone = [("Pack temperature", Level.CAUTION)]
        both = [*alone, ("Cell at full throttle", Level.CAUTION)]
        rows = (
            ({"full_v": 3.2, "warm_to_c": 20.0}, both), ({"full_v": 3.3, "warm_to_c": 20.0}, alone), ({"full_v": 3.4, "warm_to_c": 20.0}, alone),
            ({"full_v": 3.2, "warm_to_c": None}, alone), ({"full_v": 3.2, "warm_to_c": 6.0}, alone), ({"full_v": 3.2, "warm_to_c": 6.1}, both),
        )  # fmt: skip
        for load, names in rows:
            self.assertEqual(self.names(6.0, floor_v=3.3, **load), names, load)

    def test_the_warmth_it_needs_is_named_while_it_is_colder(self) -> None:
        context = Context(situation(), {})
        self.assertIn("Warm it to 15 °C.", said(RULES["pack_temperature"](4.0, context)[0]))
        self.assertNotIn("Warm it to", said(RULES["pack_temperature"](20.0, context)[0]))

    def test_without_an_electric_motor_there_is_no_load(self) -> None:
        with mock.patch.object(Context, "load", lambda *_: None):
            found = RULES["pack_temperature"](4.0, Context(situation(), {}))
        self.assertEqual([f.name for f in found], ["Pack temperature"])
        self.assertNotIn("Warm it to", said(found[0]))


class Height(unittest.TestCase):
    def test_judged_only_where_it_returns_by_itself(self) -> None:
        """The clearance over the tallest thing is spoken of with return to home, the way against the wind always."""
        for returns in (True, False):
            traits = QUAD.traits | {Trait.RETURN_HOME} if returns else QUAD.traits - {Trait.RETURN_HOME}
            case = situation(QUAD.model_copy(update={"traits": traits}), weather=dry_weather(wind_ms=4))
            names = [f.name for f in return_findings(Context(case, {}), TurnPoint(distance_m=200, height_m=40), 10.0)]
            self.assertEqual("RTH altitude" in names, returns, names)
            self.assertIn("Way home", names)

    def test_the_wind_counts_at_the_highest_point_of_the_flight(self) -> None:
        case = situation(weather=dry_weather(wind_ms=4))
        low, high = (
            {"field.max_height": piece("field.max_height", Measured(value=top), at=NOW)} for top in (20.0, 119.0)
        )
        ways = [
            next(f for f in return_findings(Context(case, said_), TurnPoint(distance_m=200, height_m=20), 60.0) if f.name == "Way home")
            for said_ in (low, high)
        ]  # fmt: skip
        self.assertEqual((ways[0].value.measure, ways[0].sense), (Measure.SPEED, "min"))
        self.assertLess(ways[1].value.value, ways[0].value.value, "less is left against more wind")


class Flights(unittest.TestCase):
    def test_a_second_hop_has_one_flight_before_it_and_takes_half_a_pack_at_most(self) -> None:
        for flights, minutes, second in ((0, 2, False), (1, 2, True), (2, 2, False), (1, 25, False)):
            case = with_history(situation(), pack_flights_today=flights)
            plan = {"pack.plan": piece("pack.plan", Planned(plan=FlightPlan(work_min=minutes)))}
            self.assertEqual(Context(case, plan).second_hop, second, (flights, minutes))

    def test_the_field_s_height_counts_until_another_is_said(self) -> None:
        case = situation(site=SITE.model_copy(update={"flight_height_m": 70.0}))
        self.assertEqual(Context(case, {}).top_m, 70)
        said_ = {"field.max_height": piece("field.max_height", Measured(value=33))}
        self.assertEqual(Context(case, said_).top_m, 33)
