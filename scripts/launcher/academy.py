"""An academy's folder: its lock, its database, and the mending of what was cut off in the middle.

Beside the database lie `secret` (links and sessions rest on it) and, only while something is under way,
`restoring.zip` (a backup that is being brought back) and `upgrading` (tables that are being migrated; it names the
backup made before, or nothing for a first start).
"""

from __future__ import annotations

import contextlib
import fcntl
import os
import sys
from collections.abc import Iterator
from pathlib import Path

from launcher import mariadb, package
from launcher.dumps import Access
from launcher.mariadb import NAME
from launcher.paths import STATE

RESTORING, UPGRADING = "restoring.zip", "upgrading"


def folder_of_data() -> Path:
    """Where the served academy lives."""
    return Path(os.environ.get("INSTAVIS_DATA", STATE / "serve"))


@contextlib.contextmanager
def only_one(file: Path) -> Iterator[object]:
    """An open, locked file, or None when another launcher holds it."""
    with file.open("a+") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            yield None
            return
        yield lock
        lock.truncate(0)


@contextlib.contextmanager
def database_of(folder: Path) -> Iterator[mariadb.Database]:
    """The academy's database, running and whole; the caller holds the folder's lock."""
    database = mariadb.start(folder / "database")
    try:
        mend(folder, Access(database.port, database.password))
        yield database
    finally:
        database.stop()


def mend(folder: Path, access: Access) -> None:
    """Finish a restore that was cut off; undo an upgrade that was, so that it can begin again.

    Raises
    ------
    BackupError
        When the backup that is needed for it is damaged; nothing is changed then.
    """
    restoring, upgrading = folder / RESTORING, folder / UPGRADING
    if restoring.exists():
        print("instavis: finishing a restore that was interrupted", file=sys.stderr, flush=True)
        package.put_in_place(access, folder, restoring)
        upgrading.unlink(missing_ok=True)
        restoring.unlink()
    elif upgrading.exists():
        before = upgrading.read_text().strip()
        print("instavis: an upgrade was interrupted; it begins again", file=sys.stderr, flush=True)
        if before:
            package.put_in_place(access, folder, folder / before)
        else:
            access.make(NAME)
        upgrading.unlink()
