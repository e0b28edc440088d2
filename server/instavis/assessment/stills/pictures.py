"""Pictures that come in are opened, bounded, turned upright, and written anew: nothing else of them is kept."""

from __future__ import annotations

import io

from PIL import Image, ImageOps, UnidentifiedImageError

from instavis_core.errors import InputError
from instavis_core.message import Message

FORMATS = ("PNG", "JPEG", "WEBP")
MOST_PIXELS = 60_000_000  # opened at all
LONGEST_SIDE = 1600  # pixels kept
SHORTEST_SIDE = 200
QUALITY = 88


def read_picture(data: bytes) -> tuple[bytes, int, int]:
    """A picture written anew as JPEG without metadata: its bytes, width and height.

    Raises
    ------
    InputError
        When it is no PNG, JPEG or WebP, is broken, too large or too small.
    """
    try:
        with Image.open(io.BytesIO(data), formats=FORMATS) as picture:
            width, height = picture.size
            if width * height > MOST_PIXELS:
                raise InputError(
                    "file",
                    f"{width} × {height}",
                    Message("at most {megapixels} megapixels", megapixels=MOST_PIXELS // 1000000),
                )
            if min(width, height) < SHORTEST_SIDE:
                raise InputError(
                    "file",
                    f"{width} × {height}",
                    Message("at least {shortest} pixels on each side", shortest=SHORTEST_SIDE),
                )
            picture.draft("RGB", (2 * LONGEST_SIDE, 2 * LONGEST_SIDE))
            upright = ImageOps.exif_transpose(picture).convert("RGB")
    except InputError:
        raise
    except (UnidentifiedImageError, Image.DecompressionBombError) as error:
        raise InputError("file", type(error).__name__, Message("a PNG, JPEG or WebP picture")) from error
    except (OSError, ValueError, SyntaxError) as error:
        raise InputError("file", "broken", Message("a whole PNG, JPEG or WebP picture")) from error
    upright.thumbnail((LONGEST_SIDE, LONGEST_SIDE))
    out = io.BytesIO()
    upright.save(out, "JPEG", quality=QUALITY)
    return out.getvalue(), *upright.size
