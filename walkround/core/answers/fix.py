"""A position fix: NMEA data of a receiver, pasted, as a file or from a device; or what the screen shows."""

from datetime import datetime
from typing import Literal

from msgspec import field

from walkround.core.answers.kind import Answer, AnswerKind, Ask, Case, Question
from walkround.core.base.finding import Finding
from walkround.core.sensors import satellites
from walkround.core.sensors.nmea import Fix
from walkround.core.sensors.satellites import ScreenSeen


class AskFix(Ask, frozen=True, kw_only=True):
    """NMEA data of a receiver, pasted or as a file."""

    kind: Literal["fix"] = "fix"


class FixRead(Answer):
    """A position fix as the receiver reported it, or what a screen shows (``screen``), which has no position."""

    kind: Literal["fix"] = "fix"
    fix: Fix = field(default_factory=Fix)
    screen: ScreenSeen | None = None


def _judge(question: Question, answer: FixRead, case: Case, at: datetime) -> tuple[Finding, ...]:
    if answer.screen is not None:
        return satellites.judge_screen(answer.screen, case.methods.satellites)
    return satellites.judge_fix(answer.fix, case.methods.satellites, case.site.position, at, case.site.elevation_m)


def _example(question: Question, case: Case, at: datetime) -> FixRead:
    fix = Fix(
        satellites=14, hdop=0.8, pdop=1.4, quality=1, dimensions=3, speed_ms=0.0, position=case.site.position,
        at=at, nmea_lines=9
    )  # fmt: skip
    return FixRead(fix=fix)


KIND = AnswerKind(AskFix, FixRead, _judge, _example)
