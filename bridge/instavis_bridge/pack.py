"""Pack the bridge and its packages into one file that runs with any recent Python."""

from __future__ import annotations

import re
import tempfile
import zipapp
from importlib import metadata
from pathlib import Path

NAME = "instavis-bridge.pyz"
_LEFT_OUT = {".so", ".pyd", ".pyc"}  # C versions of modules that also exist in Python
_LOCKED = re.compile(r"^([A-Za-z0-9._-]+)==", re.MULTILINE)


def pack(lock: Path, out: Path) -> None:
    """Write the one file from what is installed.

    Parameters
    ----------
    lock : Path
        The bridge's locked packages; each has to be installed.
    out : Path
        Where to write it.

    Raises
    ------
    importlib.metadata.PackageNotFoundError
    """
    with tempfile.TemporaryDirectory() as made:
        place = Path(made)
        for name in _LOCKED.findall(lock.read_text()):
            for file in metadata.files(name) or ():
                if ".." not in file.parts and file.suffix not in _LEFT_OUT and "bin" not in file.parts[:1]:
                    _copy(Path(str(file.locate())), place / file)
        ours = Path(__file__).parent
        for own in ours.iterdir():
            if own.is_file():
                _copy(own, place / ours.name / own.name)
        zipapp.create_archive(
            place, out, interpreter="/usr/bin/env python3", main="instavis_bridge.program:run", compressed=True
        )


def _copy(source: Path, target: Path) -> None:
    target.parent.mkdir(parents=True, exist_ok=True)
    target.write_bytes(source.read_bytes())
