"""A signature is for one launch: what keeps a signed round on the ground, a minute and an hour later."""

import unittest
from datetime import datetime, timedelta

from tests.support import NOW, PACK, dry_weather, said, situation, with_history
from walkround.core.answers.weather import WeatherRead
from walkround.core.base.finding import Finding, Level
from walkround.core.checklist.history import Snag, SnagOn
from walkround.core.packs.pack import PackState
from walkround.core.round.situation import Situation
from walkround.core.round.takeoff import judge_takeoff
from walkround.core.weather.weather import Weather
from walkround.demo.walker import walked_evidence


def kept(
    case: Situation | None = None, *, level: Level = Level.CLEAR, later_min: float = 1, weather: Weather | None = None,
    signed_at: datetime = NOW,
) -> tuple[Finding, ...]:  # fmt: skip
    base = case or situation()
    given = {"sky.weather": WeatherRead(weather=weather or dry_weather())}
    evidence = walked_evidence(base, NOW, answers=given, pace_s=0)
    now = NOW + timedelta(minutes=later_min)
    return judge_takeoff(base, evidence, level=level, signed_at=signed_at, now=now)


class TakeOff(unittest.TestCase):
    def test_a_good_round_may(self) -> None:
        self.assertEqual(kept(), ())
        self.assertEqual(kept(level=Level.CAUTION), ())

    def test_stay_down_stays_down(self) -> None:
        (finding,) = kept(level=Level.GROUNDED)
        self.assertEqual((finding.name, finding.level), ("Verdict", Level.GROUNDED))

    def test_a_snag_opened_since(self) -> None:
        snags = tuple(
            Snag(id=i, on=SnagOn.AIRCRAFT, title=t, grounds=g, opened_at=NOW)
            for i, (t, g) in enumerate((("loose arm", True), ("scratch", False)), 1)
        )
        (finding,) = kept(with_history(situation(), snags=snags))
        self.assertEqual(said(finding), "An open snag grounds it: loose arm.")
        self.assertEqual(finding.level, Level.GROUNDED)

    def test_the_signature_holds_for_an_hour(self) -> None:
        """The default of the limit is 60 min; our choice."""
        self.assertEqual(situation().limits.signature_min, 60)
        for minutes in (0, 0.5, 1, 60):
            self.assertEqual(kept(later_min=minutes), ())
        (finding,) = kept(later_min=61)
        self.assertEqual(said(finding), "This round was signed 61 min ago (max 60 min). A signature is for one launch.")
        self.assertEqual(finding.level, Level.GROUNDED)
        longer = situation()
        longer = longer.model_copy(update={"limits": longer.limits.model_copy(update={"signature_min": 90})})
        self.assertEqual(kept(longer, later_min=61), ())

    def test_a_clock_set_back(self) -> None:
        (finding,) = kept(later_min=-2)
        self.assertEqual(finding.level, Level.GROUNDED)
        self.assertIn("signed 2.0 min in the future", said(finding))

    def test_dark_by_now(self) -> None:
        """21:00 at the field is after sunset in mid-May at 48° N; the limit is told by the sun's height."""
        late = timedelta(hours=13)
        names = {f.name for f in kept(later_min=late / timedelta(minutes=1), signed_at=NOW + late)}
        self.assertIn("Daylight", names)

    def test_a_report_grown_old(self) -> None:
        old = dry_weather(at=NOW - timedelta(minutes=150))
        self.assertEqual(kept(weather=old, later_min=30), ())
        self.assertEqual([f.name for f in kept(weather=old, later_min=31)], ["Age of the report"])

    def test_wind_that_grounds(self) -> None:
        names = {f.name for f in kept(weather=dry_weather(wind_ms=25))}
        self.assertLessEqual({"Wind", "Way home"}, names)

    def test_a_pack_set_aside_since(self) -> None:
        case = situation(pack=PACK.model_copy(update={"state": PackState.QUARANTINED}))
        self.assertIn("Pack", {f.name for f in kept(case)})
