"""A position fix on the pages."""

from walkround.core.answers.fix import FixRead
from walkround.core.answers.kind import Answer
from walkround.core.sensors.devices import PositionReceiver
from walkround.core.sensors.nmea import read_nmea
from walkround.simulators import device
from walkround.web.answers.kind import AnswerPage, Sent
from walkround.web.forms import uploaded_text

MAX_NMEA_BYTES = 1_000_000


def _read(sent: Sent) -> tuple[Answer, str]:
    ctx, site = sent.ctx, sent.situation.site
    if sent.from_device:
        text, by = device(PositionReceiver, sent.settings.devices).nmea(site.position, ctx.now()), "simulated receiver"
    else:
        text, by = uploaded_text(sent.typed.form, "file", MAX_NMEA_BYTES) or sent.typed.get("nmea"), "pilot"
    return FixRead(fix=read_nmea(text, ctx.now())), by


PAGE = AnswerPage(
    "fix", "a reading of the receiver", _read, own_forms=True, advances=True, seen="rounds/answers/fix_seen.html"
)  # fmt: skip
