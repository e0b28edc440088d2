"""The bridge's stored settings: pairing and source. Only the owner can read them."""

from __future__ import annotations

import hashlib
import json
import os
import tempfile
from dataclasses import asdict, dataclass, replace
from pathlib import Path
from typing import IO


@dataclass(frozen=True, kw_only=True)
class Settings:
    """The bridge's settings.

    ``source`` is a folder, a file, or the address of a stream; ``files`` are patterns of names, or none for all.
    """

    server: str = ""
    token: str = ""
    bay: str = ""
    source: str = ""
    files: tuple[str, ...] = ()


class AnotherOneError(RuntimeError):
    """Another bridge watches the same source."""


def home() -> Path:
    """Return the default folder for the bridge's files."""
    return Path(os.environ.get("INSTAVIS_BRIDGE_HOME", Path.home() / ".instavis-bridge"))


def load(folder: Path) -> Settings:
    """Load stored settings, or empty ones."""
    try:
        stored = json.loads((folder / "settings.json").read_text(encoding="utf-8"))
        known = {name: stored[name] for name in asdict(Settings()) if name in stored}
        return replace(Settings(), **known | {"files": tuple(known.get("files", ()))})
    except (OSError, ValueError, TypeError, AttributeError):
        return Settings()


def save(folder: Path, settings: Settings) -> None:
    """Save settings atomically."""
    part = folder / "settings.part"
    with os.fdopen(os.open(part, os.O_WRONLY | os.O_CREAT | os.O_TRUNC, 0o600), "w", encoding="utf-8") as out:
        json.dump(asdict(settings), out, indent=1)
        out.flush()
        os.fsync(out.fileno())
    part.replace(folder / "settings.json")


def only_one(file: Path) -> IO[str]:
    """Lock a file as long as it stays open.

    Raises
    ------
    AnotherOneError
        When another program holds it.
    """
    held = file.open("a+")
    try:
        if os.name == "nt":
            import msvcrt

            msvcrt.locking(held.fileno(), msvcrt.LK_NBLCK, 1)  # type: ignore[attr-defined,unused-ignore]
        else:
            import fcntl

            fcntl.flock(held, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        held.close()
        raise AnotherOneError(str(file)) from None
    return held


def lock_of(source: str) -> Path:
    """Return the lock file by which two bridges on this computer notice a shared source."""
    place = os.path.realpath(source) if "://" not in source else source
    return Path(tempfile.gettempdir()) / f"instavis-bridge-{hashlib.sha256(place.encode()).hexdigest()[:16]}.lock"
