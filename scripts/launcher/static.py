"""The built front end and the bridge to download, prepared once per build for every academy of this machine."""

from __future__ import annotations

import hashlib
import io
import os
import shutil
import time
from pathlib import Path

import instavis_bridge
from instavis_bridge.pack import NAME, pack
from launcher.paths import ROOT, STATE, WEB

PREFIX = "static-"
BRIDGE, BRIDGE_LOCK = Path(instavis_bridge.__file__).parent, ROOT / "requirements-bridge.txt"
OLD_SECONDS = 30 * 24 * 3600


def static_root() -> Path:
    """Return the folder that the current front end and bridge are served from; `collect` puts them there."""
    built = hashlib.sha256()
    for file in (*sorted((WEB / "dist").rglob("*")), *sorted(BRIDGE.glob("*")), BRIDGE_LOCK):
        if file.is_file():
            built.update(f"{file.relative_to(ROOT)} {file.stat().st_size} {file.stat().st_mtime_ns}\n".encode())
    return STATE / f"{PREFIX}{built.hexdigest()[:16]}"


def main() -> None:
    """Compress the current front end, if not done yet."""
    import django

    os.environ["INSTAVIS_STATIC_ROOT"] = str(static_root())
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "instavis.project.settings")
    django.setup()
    collect(static_root())


def collect(root: Path) -> None:
    """Compress the files into their folder, unless they are there; needs Django set up.

    They are made beside it and moved as a whole, so an interrupted start, or two at once, leave nothing half done.
    """
    if root.is_dir():
        return
    from django.conf import settings
    from django.core.management import call_command

    part = root.with_name(f"{root.name}.{os.getpid()}")
    settings.STATIC_ROOT = str(part)
    call_command("collectstatic", interactive=False, verbosity=0, stdout=io.StringIO())
    pack(BRIDGE_LOCK, part / NAME)
    try:
        part.rename(root)
    except OSError:  # another start was faster
        shutil.rmtree(part, ignore_errors=True)
    for old in root.parent.glob(f"{PREFIX}*"):
        # Another start may be working on it, and an earlier one still serves the older files.
        if not old.name.startswith(root.name) and time.time() - old.stat().st_mtime > OLD_SECONDS:
            shutil.rmtree(old, ignore_errors=True)


if __name__ == "__main__":
    main()
