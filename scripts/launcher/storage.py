"""The files that an academy stores beside its database: in a folder or a bucket, depending on the address."""

from __future__ import annotations

import os
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import BinaryIO

from django.conf import settings
from django.core.files import File
from django.core.files.storage import Storage
from django.utils.module_loading import import_string

from instavis.platform.addresses import FilesAddress


def storage_of(folder: Path) -> Storage:
    """Return where the academy of a folder stores its files."""
    if not settings.configured:
        settings.configure()
    spec = FilesAddress.read(os.environ.get("INSTAVIS_FILES") or str(folder / "files")).for_django()
    return import_string(spec["BACKEND"])(**spec["OPTIONS"])


def names_in(storage: Storage, place: str = "") -> Iterator[str]:
    """Yield the full name of every stored file, in alphabetical order."""
    try:
        folders, files = storage.listdir(place)
    except FileNotFoundError:  # nothing was ever stored
        return
    for name in sorted(files):
        yield f"{place}{name}"
    for name in sorted(folders):
        yield from names_in(storage, f"{place}{name}/")


def replace_all(storage: Storage, names: list[str], read: Callable[[str], BinaryIO]) -> None:
    """Replace all stored files by these; repeating it after an interruption gives the same result."""
    for name in list(names_in(storage)):
        storage.delete(name)
    for name in names:
        with read(name) as source:
            storage.save(name, File(source, name=name))
