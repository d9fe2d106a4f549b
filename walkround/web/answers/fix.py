"""A position fix on the pages."""

from typing import Any

from walkround.core.aircraft.traits import Trait
from walkround.core.answers.charge import SCREEN
from walkround.core.answers.fix import FixRead
from walkround.core.answers.kind import Answer
from walkround.core.base.errors import InputError
from walkround.core.base.plain import whole
from walkround.core.base.units import Measure
from walkround.core.round.fix_wait import expected_fix
from walkround.core.round.situation import Situation
from walkround.core.round.walk import CheckState
from walkround.core.sensors.devices import PositionReceiver
from walkround.core.sensors.first_fix import late_words
from walkround.core.sensors.nmea import read_nmea
from walkround.core.sensors.satellites import (
    CAREFUL_SATELLITES,
    MOST_COUNTS,
    PUBLISHED_SATELLITES,
    CountSeen,
    ScreenSeen,
    trend_words,
)
from walkround.simulators import device
from walkround.store.rounds import OpenRound
from walkround.web import drawings
from walkround.web.answers.kind import AnswerPage, Sent
from walkround.web.forms import Typed, uploaded_text

MOST_SHOWN = 60
MAX_NMEA_BYTES = 1_000_000


def _read(sent: Sent) -> tuple[Answer, str]:
    ctx, site = sent.ctx, sent.situation.site
    if sent.typed.get("way") == "screen":
        return FixRead(screen=_screen(sent.typed, shows_hdop=sent.situation.aircraft.has(Trait.SHOWS_HDOP))), SCREEN
    if sent.from_device:
        text, by = (
            device(PositionReceiver, sent.settings.devices).nmea(site.position, ctx.now(), site.elevation_m),
            "simulated receiver",
        )
    else:
        text, by = uploaded_text(sent.typed.form, "file", MAX_NMEA_BYTES) or sent.typed.get("nmea"), "pilot"
    return FixRead(fix=read_nmea(text, ctx.now())), by


def _screen(typed: Typed, *, shows_hdop: bool) -> ScreenSeen:
    """What a screen shows, as typed or tapped one after the other. Raises FormErrors beside the fields."""
    if typed.get("ready"):
        return typed.build(ScreenSeen, ready=typed.get("ready") == "yes")
    now = whole(typed.get("satellites"), MOST_SHOWN)
    if now is None:
        raise InputError(f"Enter a whole number of satellites from 0 to {MOST_SHOWN}.", "satellites")
    pairs = [pair.partition(":") for pair in typed.get("counts").split()]
    seen = [(whole(after, 3_600), whole(many, MOST_SHOWN)) for after, _, many in pairs]
    counts = [
        CountSeen(after_s=after, satellites=many) for after, many in seen if after is not None and many is not None
    ]
    if not counts or counts[-1].satellites != now:
        counts.append(CountSeen(after_s=counts[-1].after_s if counts else 0, satellites=now))
    hdop = typed.needed("hdop", "HDOP", Measure.RATIO, 0, 99) if shows_hdop else None
    return typed.build(
        ScreenSeen, counts=tuple(counts[-MOST_COUNTS:]), stood_s=whole(typed.get("stood"), 3_600) or 0, hdop=hdop
    )


def _shown(loaded: OpenRound, state: CheckState) -> dict[str, Any]:
    situation = loaded.walk.situation
    least = CAREFUL_SATELLITES if situation.methods.satellites == "ten" else PUBLISHED_SATELLITES
    given = state.evidence.answer if state.evidence is not None else None
    fix = given.fix if isinstance(given, FixRead) and given.screen is None else None
    scatter = drawings.sky.draw_scatter(fix.rest) if fix is not None and fix.rest is not None else None
    late = "" if fix is None or fix.first_fix_s is None else late_words(fix.first_fix_s, expected_fix(situation))
    return {
        "sky": drawings.sky.draw_sky(fix.sky) if fix is not None and fix.sky else None,
        "scatter": scatter,
        "expected": "" if given is not None else expected_fix(situation).words,
        "ready_light": situation.aircraft.has(Trait.READY_LIGHT),
        "shows_hdop": situation.aircraft.has(Trait.SHOWS_HDOP),
        "least_y": 40 - 2 * least,
        "trend": _screen_words(situation, given.screen) if isinstance(given, FixRead) and given.screen else late,
    }


def _screen_words(situation: Situation, screen: ScreenSeen) -> str:
    """What the numbers on the screen do, and whether the first fix is late."""
    words = trend_words(screen, situation.methods.satellites)
    if screen.satellites is None or screen.satellites >= PUBLISHED_SATELLITES:
        return words
    return f"{words} {late_words(screen.counts[-1].after_s + screen.stood_s, expected_fix(situation))}".strip()


def _preview(loaded: OpenRound, given: Answer) -> tuple[str, dict[str, Any]]:
    assert isinstance(given, FixRead)
    words = _screen_words(loaded.walk.situation, given.screen) if given.screen else ""
    return "rounds/answers/fix_trend.html", {"trend": words}


PAGE = AnswerPage(
    "fix", "a reading of the receiver", _read, own_forms=True, advances=True, seen="rounds/answers/fix_seen.html",
    shown=_shown, preview=_preview,
)  # fmt: skip
