"""`backup` and `restore`: an academy's whole data in one file, proved by reading it back before it is called done.

The file is a ZIP: `dump.sql` by the database's own program, the secret key (links and sessions rest on it), and a
manifest with a hash of the dump, and rows and checksum of every table as they came out of the dump again.
"""

from __future__ import annotations

import argparse
import contextlib
import hashlib
import json
import os
import shutil
import subprocess
import sys
import tempfile
import zipfile
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

import MySQLdb

from launcher import mariadb
from launcher.application import only_one
from launcher.paths import SERVER, STATE

FORMAT = "instavis.backup/1"
NAME, SCRATCH = "instavis", "instavis_check"
USER = "instavis"
MIB = 1024 * 1024


class BackupError(RuntimeError):
    """What is wrong with a backup, in words for whoever runs the command."""


@dataclass(frozen=True)
class Access:
    """How to reach a database server."""

    port: int
    password: str

    def program(self, name: str, *arguments: str) -> tuple[list[str], dict[str, str]]:
        """Command line and environment of one of the database's own programs; the password is in neither's listing."""
        command = [mariadb.program(name), "--no-defaults", "--host=127.0.0.1", f"--port={self.port}", f"--user={USER}"]
        return [*command, "--default-character-set=utf8mb4", *arguments], {**os.environ, "MYSQL_PWD": self.password}

    def ask(self, database: str, statement: str) -> list[tuple]:
        """Rows of one statement."""
        connection = MySQLdb.connect(
            host="127.0.0.1", port=self.port, user=USER, password=self.password, database=database, charset="utf8mb4"
        )
        with contextlib.closing(connection), connection.cursor() as cursor:
            cursor.execute(statement)
            return list(cursor.fetchall())


def backup(arguments: list[str]) -> int:
    """Write a backup; the academy may be served meanwhile."""
    parser = argparse.ArgumentParser(prog="./instavis backup", description=backup.__doc__)
    parser.add_argument("file", type=Path, help="where to write; must not exist yet")
    options = parser.parse_args(arguments)
    return _told(lambda: _backup(_folder(), options.file))


def restore(arguments: list[str]) -> int:
    """Bring a backup back, checked whole before anything is changed; the academy must not be served."""
    parser = argparse.ArgumentParser(prog="./instavis restore", description=restore.__doc__)
    parser.add_argument("file", type=Path)
    parser.add_argument(
        "--replace", action="store_true", help="replace the academy that is there; it is backed up first"
    )
    options = parser.parse_args(arguments)
    return _told(lambda: _restore(_folder(), options.file, options.replace))


def _told(work) -> int:
    try:
        print(work())
    except (BackupError, OSError) as error:
        print(f"instavis: {error}", file=sys.stderr)
        return 1
    return 0


def _folder() -> Path:
    return Path(os.environ.get("INSTAVIS_DATA", STATE / "serve"))


def _backup(folder: Path, file: Path) -> str:
    if not (folder / "database").is_dir():
        raise BackupError(f"there is no academy in {folder} yet.")
    if file.exists():
        raise BackupError(f"{file} is there already: choose another name.")
    with _reached(folder) as access, tempfile.TemporaryDirectory() as place:
        return f"{file}: {_write(access, folder, file, Path(place))}"


def _write(access: Access, folder: Path, file: Path, place: Path) -> str:
    """Dump, read the dump back into a scratch database, and only then give the file its name."""
    dump = place / "dump.sql"
    options = "--single-transaction", "--skip-comments", "--hex-blob", "--skip-tz-utc", f"--result-file={dump}"
    command, environment = access.program("mariadb-dump", *options, NAME)
    _run(command, environment)
    with _scratch(access, dump):
        tables = _tables(access, SCRATCH)
    if not tables:
        raise BackupError("the academy has no tables: start it once with serve.")
    manifest = {
        "format": FORMAT,
        "made_at": datetime.now(UTC).isoformat(timespec="seconds"),
        "sha256": _hash(dump),
        "tables": tables,
    }
    part = file.with_name(file.name + ".part")
    part.touch(mode=0o600)
    try:
        with zipfile.ZipFile(part, "w", zipfile.ZIP_DEFLATED) as archive:
            archive.writestr("manifest.json", json.dumps(manifest, indent=1))
            archive.write(folder / "secret", "secret")
            archive.write(dump, "dump.sql")
        part.replace(file)
    finally:
        part.unlink(missing_ok=True)
    rows = sum(t["rows"] for t in tables.values())
    return f"{len(tables)} tables, {rows} rows, read back and the same; {file.stat().st_size / MIB:.1f} MiB"


def _restore(folder: Path, file: Path, replace: bool) -> str:
    folder.mkdir(parents=True, exist_ok=True)
    with only_one(folder / "lock") as lock, tempfile.TemporaryDirectory() as unpacked:
        if lock is None:
            raise BackupError(f"{folder} is being served: stop it first.")
        place = Path(unpacked)
        manifest = _unpack(file, place)
        with _reached_alone(folder) as access:
            with _scratch(access, place / "dump.sql"):
                _refuse_newer(access)
                if _tables(access, SCRATCH) != manifest["tables"]:
                    raise BackupError(f"{file} does not read back as its manifest says: nothing was changed.")
            there = _tables(access, NAME)
            kept = ""
            if there and not replace:
                raise BackupError(f"{folder} holds an academy already: --replace backs it up first and replaces it.")
            if there:
                before = folder / f"before-restore-{datetime.now(UTC):%Y%m%dT%H%M%S}.zip"
                (place / "before").mkdir()
                _write(access, folder, before, place / "before")
                kept = f" What was there before is in {before}."
            _load(access, NAME, place / "dump.sql")
            if _tables(access, NAME) != manifest["tables"]:
                raise BackupError("the restored tables are not those of the backup.")
            shutil.copyfile(place / "secret", folder / "secret")
            (folder / "secret").chmod(0o600)
    rows = sum(t["rows"] for t in manifest["tables"].values())
    return f"Restored {len(manifest['tables'])} tables with {rows} rows, made {manifest['made_at']}.{kept}"


def _unpack(file: Path, place: Path) -> dict:
    try:
        with zipfile.ZipFile(file) as archive:
            if set(archive.namelist()) != {"manifest.json", "secret", "dump.sql"}:
                raise BackupError(f"{file} is not a backup of Instavis.")
            archive.extractall(place)
        manifest = json.loads((place / "manifest.json").read_text())
    except (zipfile.BadZipFile, EOFError, ValueError, NotImplementedError) as error:
        raise BackupError(f"{file} is not a whole backup ({type(error).__name__}).") from error
    if manifest.get("format") != FORMAT:
        raise BackupError(
            f"{file} has format {manifest.get('format')!r}; expected {FORMAT}. A newer one needs a newer Instavis."
        )
    if manifest.get("sha256") != _hash(place / "dump.sql"):
        raise BackupError(f"{file} was changed or damaged: its dump is not the one that was made.")
    return manifest


def _refuse_newer(access: Access) -> None:
    """A backup of a newer application has migrations that this one does not know."""
    known = {(path.parent.parent.name, path.stem) for path in SERVER.glob("instavis/*/migrations/0*.py")}
    ours = {app for app, _ in known}
    done = access.ask(SCRATCH, "SELECT app, name FROM django_migrations")
    newer = [f"{app}.{name}" for app, name in done if app in ours and (app, name) not in known]
    if newer:
        raise BackupError(f"the backup was made by a newer Instavis ({newer[0]}): nothing was changed.")


@contextlib.contextmanager
def _scratch(access: Access, dump: Path) -> Iterator[None]:
    """The dump loaded into a scratch database, which goes again."""
    _load(access, SCRATCH, dump)
    try:
        yield
    finally:
        access.ask(NAME, f"DROP DATABASE {SCRATCH}")


def _load(access: Access, database: str, dump: Path) -> None:
    access.ask("information_schema", f"DROP DATABASE IF EXISTS {database}")
    collation = "CHARACTER SET utf8mb4 COLLATE utf8mb4_uca1400_ai_ci"
    access.ask("information_schema", f"CREATE DATABASE {database} {collation}")
    command, environment = access.program("mariadb", database)
    with dump.open("rb") as source:
        _run(command, environment, source)


def _tables(access: Access, database: str) -> dict[str, dict]:
    """Rows and checksum of every table."""
    names = sorted(row[0] for row in access.ask(database, "SHOW TABLES"))
    return {
        name: {
            "rows": access.ask(database, f"SELECT COUNT(*) FROM `{name}`")[0][0],
            "checksum": access.ask(database, f"CHECKSUM TABLE `{name}`")[0][1],
        }
        for name in names
    }


@contextlib.contextmanager
def _reached(folder: Path) -> Iterator[Access]:
    """The academy's database: the one that is being served, or one started for this."""
    with only_one(folder / "lock") as lock:
        if lock is not None:
            with _reached_alone(folder) as access:
                yield access
            return
    port = folder / "database" / "port"
    if not port.exists():
        raise BackupError(f"{folder} is starting or stopping: try again in a moment.")
    yield Access(int(port.read_text()), (folder / "database" / "password").read_text().strip())


@contextlib.contextmanager
def _reached_alone(folder: Path) -> Iterator[Access]:
    database = mariadb.start(folder / "database")
    try:
        yield Access(database.port, database.password)
    finally:
        database.stop()


def _run(command: list[str], environment: dict[str, str], source=None) -> None:
    done = subprocess.run(command, env=environment, stdin=source, capture_output=True, text=True, check=False)
    if done.returncode:
        raise BackupError(f"{Path(command[0]).name} failed: {done.stderr.strip()}")


def _hash(file: Path) -> str:
    with file.open("rb") as source:
        return hashlib.file_digest(source, "sha256").hexdigest()
