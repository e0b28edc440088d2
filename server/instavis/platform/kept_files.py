"""Where the bytes of files lie until somebody is done with them: with the other files of the application."""

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
    """The place where files lie cannot be reached, or takes nothing: the same may be asked again."""


@functools.cache
def _failures() -> tuple[type[Exception], ...]:
    if "s3" not in settings.STORAGES["default"]["BACKEND"]:
        return (OSError,)
    from botocore.exceptions import BotoCoreError, ClientError  # a library that only a bucket needs

    return OSError, BotoCoreError, ClientError


@contextlib.contextmanager
def _reached(writes: bool = False) -> Iterator[None]:
    """A file that is not there is told as such where one is asked for; where one is written its place is missing."""
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
    """Files of one kind, each by a key that nobody can guess; every deed may end with `FilesAwayError`."""

    name: str

    def keep(self, chunks: Iterable[bytes]) -> tuple[str, int]:
        """Write bytes to a new file: its key and its size."""
        key = secrets.token_hex(16)
        with SpooledTemporaryFile(IN_MEMORY) as whole:
            for chunk in chunks:
                whole.write(chunk)
            size = whole.tell()
            whole.seek(0)
            with _reached(writes=True):
                default_storage.save(self._path(key), File(cast(BinaryIO, whole)))
        return key, size

    def open(self, key: str) -> BinaryIO:
        """The bytes of a file, at hand when this returns."""
        with _reached():
            file = cast(BinaryIO, default_storage.open(self._path(key), "rb"))
            file.seek(0)  # a bucket's file is fetched when it is first touched
            return file

    def drop(self, key: str) -> None:
        """Remove a file; one that is gone already is no error."""
        with _reached():
            default_storage.delete(self._path(key))

    def _path(self, key: str) -> str:
        return f"{self.name}/{key}"


DRAFTS = Folder("drafts")
CLIPS = Folder("clips")
FILMS = Folder("films")
