"""Where the bytes of drafts lie: with the other files of the application, gone after a day."""

from __future__ import annotations

import secrets
from collections.abc import Iterable
from tempfile import SpooledTemporaryFile
from typing import BinaryIO, cast

from django.core.files.base import File
from django.core.files.storage import default_storage

FOLDER = "drafts"
IN_MEMORY = 1024 * 1024


def keep(chunks: Iterable[bytes]) -> tuple[str, int]:
    """Write bytes to a new file: its key and its size."""
    key = secrets.token_hex(16)
    with SpooledTemporaryFile(IN_MEMORY) as whole:
        for chunk in chunks:
            whole.write(chunk)
        size = whole.tell()
        whole.seek(0)
        default_storage.save(_name(key), File(cast(BinaryIO, whole)))
    return key, size


def open_draft(key: str) -> BinaryIO:
    """The bytes of a draft."""
    return cast(BinaryIO, default_storage.open(_name(key), "rb"))


def drop(key: str) -> None:
    """Remove a draft's bytes."""
    default_storage.delete(_name(key))


def _name(key: str) -> str:
    return f"{FOLDER}/{key}"
