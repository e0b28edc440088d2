"""Storage of file bytes until they are no longer needed, with the application's other files."""

from __future__ import annotations

import contextlib
import functools
import secrets
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from tempfile import SpooledTemporaryFile
from typing import BinaryIO, cast

from django.conf import settings
from django.core.files.base import File
from django.core.files.storage import default_storage

IN_MEMORY = 1024 * 1024


class FilesAwayError(Exception):
    """The file storage is unreachable or full; the request may be repeated."""


@functools.cache
def _failures() -> tuple[type[Exception], ...]:
    if "s3" not in settings.STORAGES["default"]["BACKEND"]:
        return (OSError,)
    from botocore.exceptions import BotoCoreError, ClientError  # a library that only buckets need

    return OSError, BotoCoreError, ClientError


@contextlib.contextmanager
def _reached(writes: bool = False) -> Iterator[None]:
    """Report a missing file when reading, and a missing folder when writing."""
    try:
        yield
    except FileNotFoundError as error:
        if writes:
            raise FilesAwayError(str(error)) from error
        raise
    except _failures() as error:
        raise FilesAwayError(str(error)) from error


@dataclass(frozen=True)
class Folder:
    """Files of one kind, each under a key that nobody can guess; every operation may raise `FilesAwayError`."""

    name: str

    def keep(self, chunks: Iterable[bytes]) -> tuple[str, int]:
        """Write bytes to a new file; return its key and its size."""
        key = secrets.token_hex(16)
        with SpooledTemporaryFile(IN_MEMORY) as spool:
            for chunk in chunks:
                spool.write(chunk)
            size = spool.tell()
            spool.seek(0)
            with _reached(writes=True):
                default_storage.save(self._path(key), File(cast(BinaryIO, spool)))
        return key, size

    def open(self, key: str) -> BinaryIO:
        """Return the bytes of a file, already loaded."""
        with _reached():
            file = cast(BinaryIO, default_storage.open(self._path(key), "rb"))
            file.seek(0)  # a bucket's file is fetched when it is first used
            return file

    def drop(self, key: str) -> None:
        """Delete a file; a missing one is no error."""
        with _reached():
            default_storage.delete(self._path(key))

    def _path(self, key: str) -> str:
        return f"{self.name}/{key}"


DRAFTS = Folder("drafts")
CLIPS = Folder("clips")
FILMS = Folder("films")
