"""An academy's folder: its lock, and the repair of interrupted work.

Beside the database is `secret` (for links and sessions) and, only while work is in progress, `restoring.zip` (a backup
that is being restored) and `upgrading` (tables that are being migrated; it names the backup made before, or nothing for
a first start).
"""

from __future__ import annotations

import contextlib
import fcntl
import os
import sys
from collections.abc import Iterator
from pathlib import Path

from instavis.platform.addresses import DatabaseAddress
from launcher import mariadb, package
from launcher.dumps import Access, BackupError
from launcher.paths import STATE
from launcher.shape import database_for, supervised
from launcher.supervisor import Supervisor

RESTORING, UPGRADING = "restoring.zip", "upgrading"


def folder_of_data() -> Path:
    """Return the folder of the served academy."""
    return Path(os.environ.get("INSTAVIS_DATA", STATE / "serve"))


def is_there(folder: Path) -> bool:
    """Return whether an academy exists here: with its own database, or a named one."""
    return (folder / "database").is_dir() or "INSTAVIS_DATABASE_URL" in os.environ


@contextlib.contextmanager
def only_one(file: Path) -> Iterator[object]:
    """Return an open, locked file, or None if another launcher holds it."""
    with file.open("a+") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            yield None
            return
        yield lock
        lock.truncate(0)


@contextlib.contextmanager
def database_of(folder: Path) -> Iterator[Access]:
    """Return the academy's database, running and complete; the caller holds the folder's lock."""
    with supervised(say) as supervisor:
        yield start_database(folder, supervisor)


@contextlib.contextmanager
def reached(folder: Path) -> Iterator[Access]:
    """Return the academy's database: the one being served, or one started for this."""
    with only_one(folder / "lock") as lock:
        if lock is not None:
            with database_of(folder) as access:
                yield access
            return
    if named := os.environ.get("INSTAVIS_DATABASE_URL"):
        yield Access(DatabaseAddress.read(named))
        return
    port = folder / "database" / "port"
    if not port.exists():
        raise BackupError(f"{folder} is starting or stopping: try again in a moment.")
    yield Access(mariadb.address_at(int(port.read_text()), (folder / "database" / "password").read_text().strip()))


def start_database(folder: Path, supervisor: Supervisor) -> Access:
    """The same for as long as its supervisor keeps it."""
    access = Access(database_for(folder, supervisor))
    mend(folder, access)
    return access


def mend(folder: Path, access: Access) -> None:
    """Finish an interrupted restore; undo an interrupted upgrade, so that it can start again.

    Raises
    ------
    BackupError
        When the backup that is needed for it is damaged; nothing is changed then.
    """
    restoring, upgrading = folder / RESTORING, folder / UPGRADING
    if restoring.exists():
        say("finishing an interrupted restore")
        package.put_in_place(access, folder, restoring)
        upgrading.unlink(missing_ok=True)
        restoring.unlink()
    elif upgrading.exists():
        before = upgrading.read_text().strip()
        say("repeating an interrupted upgrade")
        if before:
            package.put_in_place(access, folder, folder / before)
        else:
            access.make(access.name)
        upgrading.unlink()


def say(text: str) -> None:
    """Print a line for the person who started the launcher."""
    print(f"instavis: {text}", file=sys.stderr, flush=True)
