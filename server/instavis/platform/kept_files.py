"""Where the bytes of files lie until somebody is done with them: with the other files of the application."""

from __future__ import annotations

import secrets
from collections.abc import Iterable
from dataclasses import dataclass
from tempfile import SpooledTemporaryFile
from typing import BinaryIO, cast

from django.core.files.base import File
from django.core.files.storage import default_storage

IN_MEMORY = 1024 * 1024


@dataclass(frozen=True)
class Folder:
    """Files of one kind, each by a key that nobody can guess."""

    name: str

    def keep(self, chunks: Iterable[bytes]) -> tuple[str, int]:
        """Write bytes to a new file: its key and its size."""
        key = secrets.token_hex(16)
        with SpooledTemporaryFile(IN_MEMORY) as whole:
            for chunk in chunks:
                whole.write(chunk)
            size = whole.tell()
            whole.seek(0)
            default_storage.save(self._path(key), File(cast(BinaryIO, whole)))
        return key, size

    def open(self, key: str) -> BinaryIO:
        """The bytes of a file."""
        return cast(BinaryIO, default_storage.open(self._path(key), "rb"))

    def drop(self, key: str) -> None:
        """Remove a file; one that is gone already is no error."""
        default_storage.delete(self._path(key))

    def _path(self, key: str) -> str:
        return f"{self.name}/{key}"


DRAFTS = Folder("drafts")
CLIPS = Folder("clips")
FILMS = Folder("films")
