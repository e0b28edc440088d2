"""`backup` and `restore`: an academy's whole data in one file, proved by reading it back before it is called done."""

from __future__ import annotations

import argparse
import re
import shutil
import sys
from pathlib import Path

from launcher import package
from launcher.academy import RESTORING, database_of, folder_of_data, is_there, only_one, reached
from launcher.dumps import Access, BackupError
from launcher.files import secret_key
from launcher.paths import SERVER


def backup(arguments: list[str]) -> int:
    """Write a backup; the academy may be served meanwhile."""
    parser = argparse.ArgumentParser(prog="./instavis backup", description=backup.__doc__)
    parser.add_argument("file", type=Path, help="where to write; must not exist yet")
    options = parser.parse_args(arguments)
    return _told(lambda: back_up(folder_of_data(), options.file))


def restore(arguments: list[str]) -> int:
    """Bring a backup back, checked whole before anything is changed; the academy must not be served."""
    parser = argparse.ArgumentParser(prog="./instavis restore", description=restore.__doc__)
    parser.add_argument("file", type=Path)
    parser.add_argument(
        "--replace", action="store_true", help="replace the academy that is there; it is backed up first"
    )
    options = parser.parse_args(arguments)
    return _told(lambda: bring_back(folder_of_data(), options.file, options.replace))


def _told(work) -> int:
    try:
        print(work())
    except (BackupError, OSError) as error:
        print(f"instavis: {error}", file=sys.stderr)
        return 1
    return 0


def back_up(folder: Path, file: Path) -> str:
    """Write a backup of the academy in a folder; says what it holds.

    Raises
    ------
    BackupError
    """
    if not is_there(folder):
        raise BackupError(f"there is no academy in {folder} yet.")
    if file.exists():
        raise BackupError(f"{file} is there already: choose another name.")
    with reached(folder) as access:
        return f"{file}: {package.write(access, folder, file)}"


def bring_back(folder: Path, file: Path, replace: bool) -> str:
    """Make a backup the academy of a folder; says what was restored.

    From the moment the backup lies beside the database as `restoring.zip`, an interruption is finished at the next
    start; before it nothing is changed.

    Raises
    ------
    BackupError
    """
    folder.mkdir(parents=True, exist_ok=True)
    with only_one(folder / "lock") as lock:
        if lock is None:
            raise BackupError(f"{folder} is being served: stop it first.")
        with package.unpacked(file, folder) as (manifest, place), database_of(folder) as access:
            kept = ""
            with access.scratch(place / "dump.sql"):
                _refuse_newer(access)
                package.check(access, file, manifest)
            if access.tables(access.name):
                if not replace:
                    text = "holds an academy already: --replace backs it up first and replaces it."
                    raise BackupError(f"{folder} {text}")
                kept = f" What was there before is in {package.write_before(access, folder, 'restore')}."
            restoring = folder / RESTORING
            part = restoring.with_name(RESTORING + ".part")
            shutil.copyfile(file, part)
            part.replace(restoring)
            package.put_in_place(access, folder, restoring)
            if access.tables(access.name) != manifest["tables"]:
                raise BackupError("the restored tables are not those of the backup.")
            restoring.unlink()
    rows = sum(t["rows"] for t in manifest["tables"].values())
    told = f"Restored {len(manifest['tables'])} tables with {rows} rows, made {manifest['made_at']}.{kept}"
    if secret_key(folder) != (folder / "secret").read_text():
        told += (
            " INSTAVIS_SECRET_KEY is another secret than the backup's: links that were handed out have ended, and"
            " authenticator apps and recovery codes are worth nothing (./instavis recover lets their owners in)."
        )
    return told


def _refuse_newer(access: Access) -> None:
    """A backup of a newer application has migrations that this one does not know."""
    known = {(_label_of(path.parent.parent), path.stem) for path in SERVER.glob("instavis/**/migrations/0*.py")}
    ours = {app for app, _ in known}
    done = access.ask(access.scratch_name, "SELECT app, name FROM django_migrations")
    newer = [f"{app}.{name}" for app, name in done if app in ours and (app, name) not in known]
    if newer:
        raise BackupError(f"the backup was made by a newer Instavis ({newer[0]}): nothing was changed.")


def _label_of(folder: Path) -> str:
    """What an application is called in the database: as its folder, unless it says otherwise."""
    apps = folder / "apps.py"
    named = re.search(r'^    label = "(\w+)"$', apps.read_text(), re.MULTILINE) if apps.exists() else None
    return named[1] if named else folder.name
