"""The square code that a phone reads: a path of dark squares, ready for an SVG."""

from walkround.core.base.later import Later
from walkround.core.base.struct import Struct

segno = Later("segno")

QUIET = 4


class QrCode(Struct, frozen=True):
    """The code of a text: path data in modules, and how many modules wide it is with its quiet border."""

    path: str
    size: int
    text: str


def qr_code(text: str) -> QrCode:
    """The code of an address, error correction M (15 %), quiet border of four modules (ISO/IEC 18004)."""
    code = segno.make(text, error="m", micro=False)
    runs = []
    for y, row in enumerate(code.matrix):
        start = None
        for x, dark in enumerate([*row, 0]):
            if dark and start is None:
                start = x
            elif not dark and start is not None:
                runs.append(f"M{start + QUIET},{y + QUIET}h{x - start}v1h-{x - start}z")
                start = None
    return QrCode(path="".join(runs), size=len(code.matrix) + 2 * QUIET, text=text)
