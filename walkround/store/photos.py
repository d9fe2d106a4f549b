"""Photos: whatever a phone sends is read, turned upright, made smaller and encoded anew; nothing else of it is kept."""

import io
import struct
import threading
from typing import TYPE_CHECKING

from walkround.core.base.errors import InputError
from walkround.core.base.later import Later
from walkround.core.base.struct import Struct

if TYPE_CHECKING:
    import PIL
    from PIL import Image, ImageOps
else:
    PIL, Image, ImageOps = Later("PIL"), Later("PIL.Image"), Later("PIL.ImageOps")

MAX_BYTES = 15_000_000
MOST_PIXELS = {"JPEG": 24_000_000, "PNG": 10_000_000, "WEBP": 5_000_000}
"""A photo with more is refused before anything of it is decoded. JPEG is made smaller while it is decoded; PNG takes six
bytes of memory for each pixel and WebP sixteen. Source: measured; our choice, so that all uploads together stay modest."""
LONGEST_SIDE = 1600
QUALITY = 82
FORMATS = tuple(MOST_PIXELS)


class Photo(Struct, frozen=True):
    """A photo as it is kept: JPEG without any of the camera's own notes (place, time, owner)."""

    jpeg: bytes
    width: int
    height: int


def read_photo(data: bytes, field: str = "photo") -> Photo:
    """A photo from JPEG, PNG or WebP bytes, at most 1600 pixels on its longer side.

    Raises InputError for anything else, for a broken file, and for one too large in bytes or pixels.
    """
    if len(data) > MAX_BYTES:
        raise InputError(f"That photo is larger than {MAX_BYTES // 1_000_000} MB. Send a smaller one.", field)
    try:
        _few_enough(*_webp_size(data), "WEBP", field)
        with _ONE_AT_A_TIME, Image.open(io.BytesIO(data), formats=FORMATS) as image:
            _few_enough(image.width, image.height, image.format or "", field)
            image.draft("RGB", (LONGEST_SIDE, LONGEST_SIDE))
            small = image.convert("RGBA") if image.mode == "P" else image
            small.thumbnail((LONGEST_SIDE, LONGEST_SIDE), reducing_gap=2.0)
            upright = _on_white(ImageOps.exif_transpose(small))
            kept = io.BytesIO()
            # Nothing of the file but its picture: neither the camera's notes nor a comment.
            upright.save(kept, "JPEG", quality=QUALITY, optimize=True, comment=b"", exif=b"", icc_profile=None)
            return Photo(jpeg=kept.getvalue(), width=upright.width, height=upright.height)
    except PIL.UnidentifiedImageError as error:
        raise InputError("That file is not a photo. JPEG, PNG and WebP can be read.", field) from error
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise InputError("That photo is broken and cannot be read. Take it again.", field) from error


_ONE_AT_A_TIME = threading.Lock()
"""Many photos at once wait for each other: their memory does not add up."""


def _few_enough(width: int, height: int, kind: str, field: str) -> None:
    most = MOST_PIXELS.get(kind, 0)
    if width * height > most:
        as_jpeg = "" if kind == "JPEG" else f", or a JPEG of up to {MOST_PIXELS['JPEG'] // 1_000_000} million"
        words = f"That photo has more than {most // 1_000_000} million pixels. Send a smaller one{as_jpeg}."
        raise InputError(words, field)


def _webp_size(data: bytes) -> tuple[int, int]:
    """Width and height that a WebP file names; (0, 0) for any other. Its decoder takes memory for both when it is opened.

    Source: RFC 9649, sections 2.5 to 2.7.
    """
    if len(data) < 30 or data[:4] != b"RIFF" or data[8:12] != b"WEBP":
        return 0, 0
    kind = data[12:16]
    if kind == b"VP8X":
        return int.from_bytes(data[24:27], "little") + 1, int.from_bytes(data[27:30], "little") + 1
    if kind == b"VP8L":
        bits = int.from_bytes(data[21:25], "little")
        return (bits & 0x3FFF) + 1, (bits >> 14 & 0x3FFF) + 1
    if kind == b"VP8 ":
        width, height = struct.unpack("<HH", data[26:30])
        return width & 0x3FFF, height & 0x3FFF
    return 0, 0


def _on_white(image: "Image.Image") -> "Image.Image":
    """Without transparency, which JPEG cannot keep."""
    if image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info:
        paper = Image.new("RGB", image.size, "white")
        paper.paste(image.convert("RGBA"), mask=image.convert("RGBA").getchannel("A"))
        return paper
    return image.convert("RGB")
