"""Uploaded pictures are opened, limited in size, turned upright and re-encoded; nothing else of them is stored."""

from __future__ import annotations

import io

from PIL import Image, ImageOps, UnidentifiedImageError

from instavis_core.errors import InputError
from instavis_core.message import Message

FORMATS = ("PNG", "JPEG", "WEBP")
MAX_PIXELS = 60_000_000  # formats that are opened at all
MAX_DECODED = 16_000_000  # pixels held in memory; a JPEG can be opened at a reduced size
MAX_SCANS = 40
"""A progressive JPEG has about ten passes over the picture; one with thousands is meant to keep a server busy."""
START, END, SCAN, MARKER = b"\xff\xd8", b"\xff\xd9", b"\xff\xda", 0xFF
JFIF = b"\xff\xe0\x00\x10JFIF\x00"
RESTARTS = range(0xD0, 0xD8)
BESIDE_THE_PICTURE = (*range(0xE0, 0xF0), 0xFE)
"""Markers of application data and comments (ISO/IEC 10918-1, table B.1)."""
LONGEST_SIDE = 1600  # pixels kept
SHORTEST_SIDE = 200
QUALITY = 88


def read_picture(data: bytes) -> tuple[bytes, int, int]:
    """Return a picture re-encoded as JPEG without metadata: its bytes, width and height.

    Raises
    ------
    InputError
        When it is no PNG, JPEG or WebP, is broken, too large or too small.
    """
    try:
        with Image.open(io.BytesIO(data), formats=FORMATS) as picture:
            width, height = picture.size
            if width * height > MAX_PIXELS:
                raise InputError(
                    "file",
                    f"{width} × {height}",
                    Message("check-most-megapixels", megapixels=MAX_PIXELS // 1000000),
                )
            if min(width, height) < SHORTEST_SIDE:
                raise InputError(
                    "file",
                    f"{width} × {height}",
                    Message("check-least-pixels-each-side", shortest=SHORTEST_SIDE),
                )
            if picture.format == "JPEG" and data.count(SCAN) > MAX_SCANS:
                raise InputError(
                    "file", Message("found-passes", n=data.count(SCAN)), Message("check-jpeg-picture-few-passes")
                )
            picture.draft("RGB", (LONGEST_SIDE, LONGEST_SIDE))
            if picture.size[0] * picture.size[1] > MAX_DECODED:
                raise InputError(
                    "file",
                    f"{width} × {height}",
                    Message("check-most-megapixels", megapixels=MAX_DECODED // 1000000),
                )
            picture.thumbnail((LONGEST_SIDE, LONGEST_SIDE))
            upright = ImageOps.exif_transpose(picture).convert("RGB")
    except InputError:
        raise
    except (UnidentifiedImageError, Image.DecompressionBombError) as error:
        raise InputError("file", type(error).__name__, Message("check-png-jpeg-webp-picture")) from error
    except (OSError, ValueError, SyntaxError) as error:
        raise InputError("file", "broken", Message("check-complete-png-jpeg-webp-picture")) from error
    upright.info.clear()  # otherwise a JPEG's comment would be written too
    out = io.BytesIO()
    upright.save(out, "JPEG", quality=QUALITY)
    return out.getvalue(), *upright.size


def bare(data: bytes) -> bytes:
    """Return a JPEG with nothing but its picture, which stays bit for bit.

    Only the segments that a decoder needs are copied: no application data, no comment, nothing after the end.

    Raises
    ------
    InputError
        For what is no JPEG, or breaks off.
    """
    if not data.startswith(START):
        raise InputError("file", Message("found-not-jpeg"), Message("check-jpeg-picture-instavis-writes"))
    segments, at = [START], len(START)
    try:
        while data[at : at + 2] != END:
            if data[at] != MARKER:
                raise InputError("file", Message("found-byte", at=at), Message("check-complete-jpeg-picture"))
            length = 2 + int.from_bytes(data[at + 2 : at + 4], "big")
            segment = data[at : at + length]
            if len(segment) != length or length < 4:
                raise InputError("file", Message("found-byte", at=at), Message("check-complete-jpeg-picture"))
            at += length
            if segment.startswith(SCAN):
                # Inside a scan, a marker byte is followed by zero or by a restart.
                end = at
                while data[end] != MARKER or data[end + 1] == 0 or data[end + 1] in RESTARTS:
                    end += 1
                segment, at = segment + data[at:end], end
            if segment.startswith(JFIF) or segment[1] not in BESIDE_THE_PICTURE:
                segments.append(segment)
    except IndexError as error:
        raise InputError("file", Message("found-cut-off"), Message("check-complete-jpeg-picture")) from error
    return b"".join([*segments, END])
