"""Where the bytes of drafts lie: a private folder beside the data, one file each, gone after a day."""

from __future__ import annotations

import secrets
from collections.abc import Iterable
from pathlib import Path
from typing import BinaryIO

from django.conf import settings


def _path(key: str) -> Path:
    return Path(settings.DRAFTS_ROOT) / key


def keep(chunks: Iterable[bytes]) -> tuple[str, int]:
    """Write bytes to a new file: its key and its size."""
    Path(settings.DRAFTS_ROOT).mkdir(mode=0o700, parents=True, exist_ok=True)
    key, size = secrets.token_hex(16), 0
    with _path(key).open("xb") as file:
        for chunk in chunks:
            file.write(chunk)
            size += len(chunk)
    return key, size


def open_draft(key: str) -> BinaryIO:
    """The bytes of a draft."""
    return _path(key).open("rb")


def drop(key: str) -> None:
    """Remove a draft's bytes."""
    _path(key).unlink(missing_ok=True)
