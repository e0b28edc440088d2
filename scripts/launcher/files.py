"""Small files that are either complete or missing: secrets, markers."""

from __future__ import annotations

import os
import secrets
from pathlib import Path


def keep(file: Path, text: str) -> None:
    """Write a file that only its owner can read; after a power cut it holds the old text or the new one."""
    part = file.with_name(file.name + ".part")
    part.unlink(missing_ok=True)
    part.touch(mode=0o600)
    with part.open("w") as sink:
        sink.write(text)
        sink.flush()
        os.fsync(sink.fileno())
    part.replace(file)


def secret_key(folder: Path) -> str:
    """Return the key for an academy's links and sessions: the named one, or the folder's own."""
    return os.environ.get("INSTAVIS_SECRET_KEY") or secret(folder / "secret", 48)


def secret(file: Path, size: int) -> str:
    """Return the secret in a file; it is created if missing, or empty after a power cut."""
    text = file.read_text().strip() if file.exists() else ""
    if not text:
        text = secrets.token_urlsafe(size)
        keep(file, text)
    return text
