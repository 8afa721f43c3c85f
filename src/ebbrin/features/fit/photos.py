"""Photos at the car: made small, and stripped of where and with what they were taken."""

from __future__ import annotations

import io

from PIL import Image, ImageOps

from ebbrin.ground.errors import EbbrinError

LONGEST = 1600  # choice: of a kept photo's longer side, pixels
MOST_BYTES = 1_000_000
MOST_PIXELS = 60_000_000
FORMATS = ("JPEG", "PNG", "WEBP")


class NoPhoto(EbbrinError):
    """What was sent is no picture that can be read."""

    status, kind, title = 422, "no-photo", "This is no photo"

    def __init__(self, why: str) -> None:
        super().__init__(f"{why} Send a JPEG, PNG or WebP picture.")


def small_and_clean(raw: bytes) -> bytes:
    """A picture as a JPEG of at most LONGEST by LONGEST pixels and MOST_BYTES, turned upright, with nothing but its pixels.

    Parameters
    ----------
    raw : a JPEG, PNG or WebP file of at most MOST_PIXELS.

    Raises
    ------
    NoPhoto
    """
    try:
        with Image.open(io.BytesIO(raw), formats=FORMATS) as picture:
            if picture.width * picture.height > MOST_PIXELS:
                raise NoPhoto(f"It has {picture.width} × {picture.height} pixels, more than can be taken.")
            picture.draft("RGB", (LONGEST, LONGEST))
            # A new picture from the pixels alone: place, serial numbers and remarks stay behind.
            upright = ImageOps.exif_transpose(picture).convert("RGB")
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise NoPhoto("It cannot be read.") from error
    upright.thumbnail((LONGEST, LONGEST), Image.Resampling.LANCZOS)
    clean = Image.new("RGB", upright.size)
    clean.paste(upright)
    for quality in (85, 75, 60, 45, 30):
        out = io.BytesIO()
        clean.save(out, "JPEG", quality=quality, optimize=True)
        if out.tell() <= MOST_BYTES:
            return out.getvalue()
    raise NoPhoto("It cannot be made small enough.")
