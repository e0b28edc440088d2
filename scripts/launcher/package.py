"""The file of a backup: a ZIP of the dump, the secret key, the files stored beside the database, and a manifest.

The manifest says what everything must read back as: a hash of the dump and of every file, and rows and checksum of
every table as read back from the dump.
"""

from __future__ import annotations

import contextlib
import hashlib
import json
import tempfile
import zipfile
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path

from django.core.files.storage import Storage

from launcher.dumps import Access, BackupError
from launcher.files import keep, secret_key
from launcher.storage import names_in, replace_all, storage_of

FORMAT, WITHOUT_FILES = "instavis.backup/2", "instavis.backup/1"
PARTS = {"manifest.json", "secret", "dump.sql"}
FILES = "files/"
MIB = 1024 * 1024


def write(access: Access, folder: Path, file: Path) -> str:
    """Write the dump, read it back into the scratch database, and only then name the file; return its contents.

    Raises
    ------
    BackupError
    """
    with tempfile.TemporaryDirectory(dir=folder) as place:
        dump = Path(place) / "dump.sql"
        access.write(dump)
        with access.scratch(dump):
            tables = access.tables(access.scratch_name)
        if not tables:
            raise BackupError("the academy has no tables. Start it once with serve.")
        part = file.with_name(file.name + ".part")
        part.touch(mode=0o600)
        try:
            with zipfile.ZipFile(part, "w", zipfile.ZIP_DEFLATED) as archive:
                archive.writestr("secret", secret_key(folder))
                archive.write(dump, "dump.sql")
                files = _pack_files(archive, storage_of(folder))
                manifest = {
                    "format": FORMAT,
                    "made_at": datetime.now(UTC).isoformat(timespec="seconds"),
                    "sha256": _hash(dump),
                    "tables": tables,
                    "files": files,
                }
                archive.writestr("manifest.json", json.dumps(manifest, indent=1))
            with unpacked(part, folder):  # the files are read back too
                pass
            part.replace(file)
        finally:
            part.unlink(missing_ok=True)
    rows = sum(t["rows"] for t in tables.values())
    text = f"{len(tables)} tables, {rows} rows, {len(files)} files, read back and the same"
    return f"{text}; {file.stat().st_size / MIB:.1f} MiB"


def _pack_files(archive: zipfile.ZipFile, storage: Storage) -> dict[str, str]:
    """Put every stored file into the archive; return their hashes.

    A file deleted meanwhile is left out.
    """
    hashes = {}
    for name in names_in(storage):
        try:
            with storage.open(name, "rb") as source:
                data = source.read()
        except FileNotFoundError:
            continue
        archive.writestr(FILES + name, data)
        hashes[name] = hashlib.sha256(data).hexdigest()
    return hashes


def write_before(access: Access, folder: Path, what: str) -> Path:
    """Back up what exists before something changes it, named after the change and the time."""
    file = folder / f"before-{what}-{datetime.now(UTC):%Y%m%dT%H%M%S}.zip"
    write(access, folder, file)
    return file


def put_in_place(access: Access, folder: Path, file: Path) -> dict:
    """Make a backup the academy, including its secret; return its manifest.

    Raises
    ------
    BackupError
        When it is not whole, or does not read back as it says: nothing was changed then.
    """
    with unpacked(file, folder) as (manifest, place), access.scratch(place / "dump.sql"):
        check(access, file, manifest)
        keep(folder / "secret", (place / "secret").read_text())
        stored = list(manifest.get("files", {}))
        replace_all(storage_of(folder), stored, lambda name: (place / FILES / name).open("rb"))
        access.put_in_place()
    return manifest


@contextlib.contextmanager
def unpacked(file: Path, folder: Path) -> Iterator[tuple[dict, Path]]:
    """Return the manifest of a backup and a temporary folder with its parts.

    Raises
    ------
    BackupError
        When it is not whole, or of another format.
    """
    with tempfile.TemporaryDirectory(dir=folder) as made:
        place = Path(made)
        try:
            with zipfile.ZipFile(file) as archive:
                names = set(archive.namelist())
                if not names >= PARTS or not all(name in PARTS or _is_file(name) for name in names):
                    raise BackupError(f"{file} is not a backup of Instavis.")
                archive.extractall(place)
            manifest = json.loads((place / "manifest.json").read_text())
        except (zipfile.BadZipFile, EOFError, ValueError, NotImplementedError) as error:
            raise BackupError(f"{file} is not a whole backup ({type(error).__name__}).") from error
        if not isinstance(manifest, dict) or manifest.get("format") not in (FORMAT, WITHOUT_FILES):
            found = manifest.get("format") if isinstance(manifest, dict) else manifest
            raise BackupError(f"{file} has format {found!r}; expected {FORMAT}. A newer one needs a newer Instavis.")
        if manifest.get("sha256") != _hash(place / "dump.sql"):
            raise BackupError(f"{file} was changed or damaged: its dump is not the one that was made.")
        if manifest.get("files", {}) != {name: _hash(place / FILES / name) for name in _packed(names)}:
            raise BackupError(f"{file} was changed or damaged: its files are not those that were kept.")
        yield manifest, place


def check(access: Access, file: Path, manifest: dict) -> None:
    """Return whether the scratch database holds what a backup's manifest says.

    Raises
    ------
    BackupError
    """
    if access.tables(access.scratch_name) != manifest.get("tables"):
        raise BackupError(f"{file} does not read back as its manifest says: nothing was changed.")


def _is_file(name: str) -> bool:
    return name.startswith(FILES) and ".." not in name.split("/")


def _packed(names: set[str]) -> list[str]:
    """Return the stored files among the names in a backup."""
    return sorted(name.removeprefix(FILES) for name in names if name.startswith(FILES) and not name.endswith("/"))


def _hash(file: Path) -> str:
    with file.open("rb") as source:
        return hashlib.file_digest(source, "sha256").hexdigest()
