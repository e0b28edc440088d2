"""`read`: a block of balls."""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

from instavis_core.reading import read_block
from instavis_io.documents.fields import block_in, plain, with_left_out


def answer(raw: dict[str, Any]) -> dict[str, Any]:
    """Read a block, golfer frame."""
    block, left_out = block_in(raw)
    about = {"frame": "golfer", "club": block.club.id, "hand": block.golfer.hand}
    return with_left_out(plain(about | asdict(read_block(block))), left_out)
