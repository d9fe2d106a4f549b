"""Docstrings of the core: every public thing has one, and every computing function names unit and source."""

import importlib
import inspect
import pkgutil
import re
import unittest

import walkround.core

COMPUTING = (
    "airspace.rules", "base.clock", "airspace.reading", "airspace.zone", "round.air_rules", "aircraft.aircraft", "weather.atmosphere",
    "aircraft.bag", "weather.beaufort", "round.between", "round.brief", "round.due", "round.evidence",
    "checklist.exchange", "base.finding", "round.consequences", "weather.taf", "base.geodesy", "flight.return_to_home",
    "round.judge", "flight.rth_altitude", "aircraft.control_directions", "round.numbers", "round.occasions", "aircraft.outline.helicopter",
    "aircraft.outline.multirotor", "aircraft.outline.shapes", "aircraft.outline.wing", "checklist.custom", "flight.estimate", "flight.plan_of_flight",
    "flight.power", "packs.bands", "packs.charge", "packs.charging", "packs.chemistry", "packs.health",
    "packs.inspection", "packs.load", "packs.reading", "packs.summary", "packs.table", "packs.trend",
    "packs.upkeep", "base.phrase", "round.plan", "round.method_effects", "round.reasons", "round.record",
    "pilot.regions", "weather.metar", "aircraft.propeller_check", "aircraft.rotors", "sensors.satellites", "sensors.nmea",
    "field.sight", "field.glare", "field.interference", "field.field_editor", "field.mapfile", "field.marks",
    "field.planar_geometry", "field.site", "field.spots", "field.sun", "base.units", "round.verdict",
    "round.agree", "round.readiness", "round.takeoff", "flight.getting_home", "packs.lithium", "weather.groups",
    "round.walk", "weather.weather", "round.weather_rules", "round.why", "round.window",
)  # fmt: skip
UNIT = re.compile(
    r"\b(m|m²|m/s|km|V|hPa|degrees?|per cent|percent|seconds|minutes|mAh|mΩ|mm|inside units?|units?|days?|date|counts?|hex|aware|no unit)\b"
    r"|°C|(\bin |\bof |\()(s|W|A|g)\b"
)
WORDS_ONLY = {
    "base.phrase",
    "round.evidence",
    "round.walk",
    "round.verdict",
    "base.finding",
    "round.record",
    "round.plan",
    "outline",
    "base.units",
    "round.between",
    "round.brief",
    "round.agree",
    "flight.getting_home",
    "checklist.custom",
}


def modules():  # type: ignore[no-untyped-def]
    for info in pkgutil.walk_packages(walkround.core.__path__, "walkround.core."):
        yield importlib.import_module(info.name)


class Docstrings(unittest.TestCase):
    def test_everything_public_has_one(self) -> None:
        for module in modules():
            self.assertTrue(module.__doc__, module.__name__)
            for name, thing in vars(module).items():
                if name.startswith("_") or getattr(thing, "__module__", None) != module.__name__:
                    continue
                if inspect.isfunction(thing) or inspect.isclass(thing):
                    self.assertTrue(inspect.getdoc(thing), f"{module.__name__}.{name}")

    def test_computing_functions_name_their_source_and_unit(self) -> None:
        checked = 0
        for short in COMPUTING:
            module = importlib.import_module(f"walkround.core.{short}")
            for name, thing in vars(module).items():
                if name.startswith("_") or not inspect.isfunction(thing) or thing.__module__ != module.__name__:
                    continue
                doc = inspect.getdoc(thing) or ""
                checked += 1
                if short != "base.phrase":
                    self.assertIn("Source:", doc, f"{short}.{name} names no source")
                if short not in WORDS_ONLY:
                    self.assertRegex(doc, UNIT, f"{short}.{name} names no unit")
        self.assertGreater(checked, 110)
