"""Photos: whatever a phone sends is read, turned upright, made smaller and encoded anew; nothing else of it is kept."""

import io
from dataclasses import dataclass

from PIL import Image, ImageOps, UnidentifiedImageError

from walkround.core.base.errors import InputError

MAX_BYTES = 15_000_000
MAX_PIXELS = 60_000_000
LONGEST_SIDE = 1600
QUALITY = 82
FORMATS = ("JPEG", "PNG", "WEBP")


@dataclass(frozen=True)
class Photo:
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
        with Image.open(io.BytesIO(data), formats=FORMATS) as image:
            if image.width * image.height > MAX_PIXELS:
                raise InputError(f"That photo has more than {MAX_PIXELS // 1_000_000} million pixels.", field)
            image.draft("RGB", (LONGEST_SIDE, LONGEST_SIDE))
            upright = ImageOps.exif_transpose(image)
            upright.thumbnail((LONGEST_SIDE, LONGEST_SIDE))
            kept = io.BytesIO()
            _on_white(upright).save(kept, "JPEG", quality=QUALITY, optimize=True)
            return Photo(jpeg=kept.getvalue(), width=upright.width, height=upright.height)
    except UnidentifiedImageError as error:
        raise InputError("That file is not a photo. JPEG, PNG and WebP can be read.", field) from error
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise InputError("That photo is broken and cannot be read. Take it again.", field) from error


def _on_white(image: Image.Image) -> Image.Image:
    """Without transparency, which JPEG cannot keep."""
    if image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info:
        paper = Image.new("RGB", image.size, "white")
        paper.paste(image.convert("RGBA"), mask=image.convert("RGBA").getchannel("A"))
        return paper
    return image.convert("RGB")
