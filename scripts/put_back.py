"""Put each false clear of version 0.4.0 back, one at a time, and see whether the properties alone notice: ``python -m scripts.put_back``.

Each is a text of today's code and what it was like in spirit; the example tests are switched off. A text that is no longer
found is an error, so that the list stays true to the code.
"""

import os
import sys
import time
from pathlib import Path

from scripts.mutants import killed, warm

ROOT = Path(__file__).parent.parent
PROPERTIES = [
    "test_never",
    "test_worse",
    "test_unknown",
    "test_unknown_zones",
    "test_numbers",
    "test_green",
    "test_pages",
    "test_kind",
    "test_lost_link",
    "test_inspection",
    "test_controller",
    "test_satellites",
]

FALSE_CLEARS: tuple[tuple[str, str, str, str], ...] = (
    ("1 parts of a forecast vanish", "weather.taf", "        if says.unread:\n", "        if False:\n"),
    ("2 a signature of any age", "round.takeoff", "    if age_min > most_min or age_min < 0:\n", "    if False:\n"),
    ("3 overcharged cells", "packs.lithium", "return round(CELLS[chemistry].charge_to_v + CHECKER_ERROR_V, 3)", "return 9.0"),
    ("4 the gust stays at meter height", "flight.speed_home",
     "    return wind_at_height_ms(strongest, weather.wind_height_m, height_m, site.terrain)",
     "    return max(wind_at_height_ms(weather.wind_ms or 0.0, weather.wind_height_m, height_m, site.terrain), strongest)"),
    ("5 visibility with a direction", "weather.groups", "min(_visibility_m(group) for group in known)", "_visibility_m(known[0])"),
    ("6 squall, ash, sandstorm", "weather.groups", "severe=bool(_SEVERE & set(parts)),", "severe=False,"),
    ("7 a non-fix is a fix", "sensors.satellites", "frozenset({1, 2, 3, 4, 5})", "frozenset(range(1, 10))"),
    ("8 a forecast as a report", "weather.metar",
     '    if "TAF" in groups[:2] or any(_FORECAST.match(group) for group in groups):\n', "    if False:\n"),
    ("9 the first of two reports", "weather.metar", "if have is None or key > have[0]:", "if have is None:"),
    ("10 the sun at mid-hour", "round.window", "for at in (begin, begin + timedelta(hours=1)))", "for at in (begin + timedelta(minutes=30),))"),
    ("11 a sector is ignored", "weather.atmosphere", "    if sector_deg is not None:\n", "    if False:\n"),
    ("12 over-discharged by its total", "packs.summary",
     "return self.weakest_v if self.weakest_v is not None else self.mean_v", "return self.weakest_v"),
    ("13 care from a floor up", "airspace.rules", "            if top_m < floor_m:\n", "            if True:\n"),
    ("14 times without a zone", "airspace.reading", "    if moment.tzinfo is None:\n",
     "    moment = moment if moment.tzinfo else moment.astimezone()\n    if False:\n        words = ''\n    if False:\n"),
    ("15 a circle inside the circle", "field.site", "self.flight_radius_m / math.cos(math.pi / CIRCLE_CORNERS)", "self.flight_radius_m"),
    ("16 a sign against its letter", "base.geodesy", '    if letter and degrees[:1] in "+-":\n', "    if False:\n"),
    ("17 freezing fog, sky hidden", "weather.groups", '        freezing="FZ" in parts,', '        freezing="FZ" in parts and "FG" not in parts,'),
    ("18 turn-back against a fixed share", "flight.speed_home", "    if computed_percent is None:\n", "    computed_percent = 30.0\n    if computed_percent is None:\n"),
    ("19 return to a boat", "answers.choice", "    elif platform in (*option.grounds_at, *option.caution_at):\n", "    elif False:\n"),
    ("20 answers against each other", "round.contradictions", "        if said is not None:\n", "        if False:\n"),
    ("21 green before it is complete", "round.verdict", "WORDS[self.level] if self.complete or self.level is Level.GROUNDED else Word.OPEN", "WORDS[self.level]"),
    ("22 all skipped, fly with care", "answers.ways_out", "    grounds = check.grounds and not check.if_skipped\n", "    grounds = False\n"),
    ("23 the timer ignores the plan", "round.context", "        s, flown = self.situation, plan or self.flight_plan\n", "        s, flown = self.situation, FlightPlan(work_min=8)\n"),
    ("30 a hand before disarmed and unplugged", "round.record", "Plan(checks=flight, gates=today.gates), frozen", "Plan(checks=flight, gates=()), frozen"),
    ("31 an old charge of the gear is today's", "flight.session", "> 3600 * FRESH_H", "> 3600 * 9999"),
    ("24 sight ignores the distance", "field.sight", "max(site.farthest_m(), out_m + math.dist(site.pilot_spot.xy, site.launch.xy))", "site.farthest_m()"),
    ("25 a maiden flight raises nothing", "round.due", "    if history.aircraft_flown is False and ", "    if False and "),
    ("26 the pack is ignored", "round.readiness", "    if context.pack_read or known is None:\n", "    if True:\n"),
    ("27 dusk at the landing", "round.readiness", "min(sun_height_deg(site.position, begin), sun_height_deg(site.position, end))", "sun_height_deg(site.position, begin)"),
    ("28 a margin over the limit", "base.finding", "    return min(1.0, left / span)", "    return min(1.0, abs(left) / span)"),
    ("32 nobody stands behind the line", "lost_link.outcomes", "lies & int(Lies.PEOPLE) != 0", "lies & 0 != 0"),
    ("33 motors that kept running", "lost_link.bench_test", "    if not test.passed:\n", "    if False:\n"),
    ("34 a wind that nobody knows is still", "lost_link.air", "known=site.indoors", "known=True"),
    ("35 trees are flown through", "lost_link.outcomes", "rise < ground.tops[cells]", "rise < -ground.tops[cells]"),
    ("36 a held position may fly", "lost_link.failsafe_rules", 'name="Hold last position", level=Level.GROUNDED', 'name="Hold last position", level=Level.CAUTION'),
    ("37 a failsafe that nobody read", "round.failsafe", "    if settings.action is None:\n", "    if False:\n"),
    ("38 a cracked blade flies", "inspection.damage", "B.ROTATES: dict.fromkeys(_SAME, V.REPLACE)", "B.ROTATES: dict.fromkeys(_SAME, V.FLIES)"),
    ("39 a damaged part is tapped away", "round.touches", "return touch.state is TouchState.DAMAGED or (", "return False and ("),
    ("40 worn out, it flies on", "inspection.wear", "    past = known and behind >= limit\n", "    past = False\n"),
    ("41 half a turn is a full fit", "calibration.ellipsoid", "HALF = 0.6\n", "HALF = 0.1\n"),
    ("42 the bench proves the compass", "calibration.compass", "    if in_flight or found.level is not Level.CLEAR:\n", "    if True:\n"),
    ("43 nothing measured reads clear", "calibration.compass", "    if not said:\n        said.append(\n", "    if False:\n        said.append(\n"),
    ("44 a field that is not the Earth's", "calibration.compass", "        off = abs(found.strength_ut - full) / full\n", "        off = 0.0\n"),
    ("45 trouble with a good word reads clear", "diagnosis.messages", "    if TROUBLE.search(_without_failsafe(text)) or", "    if (TROUBLE.search(_without_failsafe(text)) and not good) or"),
    ("46 a message nobody knows is clear", "diagnosis.messages", "subject=None, level=Level.CAUTION", "subject=None, level=Level.CLEAR"),
    ("47 what is not known arms", "diagnosis.arming", "State.UNKNOWN if passed is None else", "State.OK if passed is None else"),
    ("48 a slow start is as usual", "calibration.still", "    return max(usual * SLOW, usual + SLOW_S)\n", "    return usual * 99\n"),
    ("49 exchanged axes agree", "calibration.compass", "spread_deg=float(high - low)", "spread_deg=0.0"),
    ("50 a jump in the reading is passed over", "sensors.scatter", '"jump_m": round(max(steps, default=0.0), 2),', '"jump_m": 0.0,'),
    ("51 two receivers are one", "sensors.nmea", "        if at_s in seen and (", "        if False and ("),
    ("52 an HDOP that nobody knows is none", "lost_link.landing_circle", "    usual = 2 * (DILUTION_GOOD if many else DILUTION_GO) * RANGE_ERROR_M\n", "    usual = 0.0\n"),
    ("53 it lands among the trees", "lost_link.landing_circle", "    if off and clear_m < LAUNCH_CIRCLE_M:\n", "    if False:\n"),
    ("54 a stage on the ground may fly", "proving.rules", "    if stage.caps is None:\n", "    if stage.caps is None:\n        return ()\n    if False:\n"),
    ("55 under a crown the sky is open", "field.sky_mask", "np.where(under, 90.0, up)", "np.where(under, 0.0, up)"),
    ("29 a gate on a check it lacks", "checklist.library.gates", '        needs=POWERED,\n', '        needs=("power.still_long",),\n'),
)  # fmt: skip


def _path(module: str) -> Path:
    """The file of a module of the core."""
    return (ROOT / "walkround" / "core" / Path(*module.split("."))).with_suffix(".py")


def lost() -> list[tuple[str, str]]:
    """What can no longer be put back, and the module that has changed."""
    return [
        (what, module)
        for what, module, now, _ in FALSE_CLEARS
        if not _path(module).exists() or now not in _path(module).read_text()
    ]


def main() -> None:
    """Put each back; print which were noticed."""
    os.environ["WALKROUND_HYPOTHESIS"] = "put-back"
    warm()
    wanted = sys.argv[1:]
    noticed = 0
    tried = [row for row in FALSE_CLEARS if not wanted or row[0].split()[0] in wanted]
    names = [f"tests.properties.{name}" for name in PROPERTIES]
    if gone := lost():
        raise SystemExit("\n".join(f"{what}: its text is no longer in {module}" for what, module in gone))
    for what, module, now, then in tried:
        source = _path(module).read_text()
        begun = time.monotonic()
        found = killed(module, source.replace(now, then, 1), names, patience_s=400)
        noticed += found
        print(f"{'noticed' if found else 'MISSED '} {what} ({time.monotonic() - begun:.0f} s)", flush=True)
    print(f"{noticed} of {len(tried)} noticed by the properties alone")


if __name__ == "__main__":
    main()
