"""`backup` and `restore`: an academy's data in one file, verified by reading it back."""

from __future__ import annotations

import argparse
import os
import re
import shutil
import sys
import tempfile
from collections.abc import Sequence
from pathlib import Path

from launcher import package
from launcher.academy import RESTORING, database_of, folder_of_data, is_there, only_one, reached
from launcher.dumps import Access, BackupError
from launcher.files import secret_key
from launcher.paths import SERVER
from launcher.sealed import make_key, opened, readers_of, seal


def backup(arguments: list[str]) -> int:
    """Write a backup; the academy may be served meanwhile."""
    parser = argparse.ArgumentParser(prog="./instavis backup", description=backup.__doc__)
    parser.add_argument("file", type=Path, nargs="?", help="where to write; must not exist yet")
    parser.add_argument(
        "--for",
        dest="readers",
        metavar="PUBLIC",
        action="append",
        help="encrypt it for this public key (also INSTAVIS_BACKUP_FOR); can be repeated",
    )
    parser.add_argument("--new-key", type=Path, metavar="KEYFILE", help="make a key and print its public half")
    options = parser.parse_args(arguments)
    if (options.file is None) == (options.new_key is None):
        parser.error("expected a file to write, or --new-key KEYFILE")
    if options.new_key:
        return _run(lambda: f"{options.new_key}: keep it elsewhere; seal with --for {make_key(options.new_key)}")
    readers = options.readers or os.environ.get("INSTAVIS_BACKUP_FOR", "").split()
    return _run(lambda: back_up(folder_of_data(), options.file, readers))


def restore(arguments: list[str]) -> int:
    """Restore a backup, which is checked completely before anything changes; the academy must not be served."""
    parser = argparse.ArgumentParser(prog="./instavis restore", description=restore.__doc__)
    parser.add_argument("file", type=Path)
    parser.add_argument("--key", type=Path, metavar="KEYFILE", help="key file that decrypts the backup")
    parser.add_argument("--replace", action="store_true", help="replace the present academy, after backing it up")
    options = parser.parse_args(arguments)
    return _run(lambda: bring_back(folder_of_data(), options.file, options.replace, options.key))


def _run(work) -> int:
    try:
        print(work())
    except (BackupError, OSError) as error:
        print(f"instavis: {error}", file=sys.stderr)
        return 1
    return 0


def back_up(folder: Path, file: Path, readers: Sequence[str] = ()) -> str:
    """Write a backup of the academy in a folder, encrypted if there are readers; report its contents.

    Raises
    ------
    BackupError
    """
    sealed_for = readers_of(readers)
    if not is_there(folder):
        raise BackupError(f"there is no academy in {folder} yet.")
    if file.exists():
        raise BackupError(f"{file} is there already: choose another name.")
    with reached(folder) as access:
        if not sealed_for:
            return f"{file}: {package.write(access, folder, file)}"
        with tempfile.TemporaryDirectory(dir=folder) as place:
            plain = Path(place) / "plain.zip"
            text = package.write(access, folder, plain)
            seal(plain, file, sealed_for)
    return f"{file}: {text}; sealed for {len(sealed_for)} key{'s' * (len(sealed_for) > 1)}"


def bring_back(folder: Path, file: Path, replace: bool, key: Path | None = None) -> str:
    """Make a backup the academy of a folder; report what was restored.

    Once the backup is beside the database as `restoring.zip`, an interrupted restore is finished at the next start;
    before that nothing is changed.

    Raises
    ------
    BackupError
    """
    folder.mkdir(parents=True, exist_ok=True)
    with only_one(folder / "lock") as lock:
        if lock is None:
            raise BackupError(f"{folder} is being served: stop it first.")
        with opened(file, key, folder) as plain:
            return _brought_back(folder, plain, replace)


def _brought_back(folder: Path, file: Path, replace: bool) -> str:
    with package.unpacked(file, folder) as (manifest, place), database_of(folder) as access:
        note = ""
        with access.scratch(place / "dump.sql"):
            _refuse_newer(access)
            package.check(access, file, manifest)
        if access.tables(access.name):
            if not replace:
                text = "holds an academy already: --replace backs it up first and replaces it."
                raise BackupError(f"{folder} {text}")
            note = f" What was there before is in {package.write_before(access, folder, 'restore')}."
        restoring = folder / RESTORING
        part = restoring.with_name(RESTORING + ".part")
        shutil.copyfile(file, part)
        part.replace(restoring)
        package.put_in_place(access, folder, restoring)
        if access.tables(access.name) != manifest["tables"]:
            raise BackupError("the restored tables are not those of the backup.")
        restoring.unlink()
    rows = sum(t["rows"] for t in manifest["tables"].values())
    result = f"Restored {len(manifest['tables'])} tables with {rows} rows, made {manifest['made_at']}.{note}"
    if secret_key(folder) != (folder / "secret").read_text():
        result += (
            " INSTAVIS_SECRET_KEY is another secret than the backup's: links that were handed out have ended, and"
            " authenticator apps and recovery codes are worth nothing (./instavis recover lets their owners in)."
        )
    return result


def _refuse_newer(access: Access) -> None:
    """Reject a backup of a newer application: it has migrations that this one does not know."""
    known = {(_label_of(path.parent.parent), path.stem) for path in SERVER.glob("instavis/**/migrations/0*.py")}
    ours = {app for app, _ in known}
    done = access.ask(access.scratch_name, "SELECT app, name FROM django_migrations")
    newer = [f"{app}.{name}" for app, name in done if app in ours and (app, name) not in known]
    if newer:
        raise BackupError(f"the backup was made by a newer Instavis ({newer[0]}): nothing was changed.")


def _label_of(folder: Path) -> str:
    """Return an application's name in the database: its folder, unless it has another label."""
    apps = folder / "apps.py"
    named = re.search(r'^    label = "(\w+)"$', apps.read_text(), re.MULTILINE) if apps.exists() else None
    return named[1] if named else folder.name
