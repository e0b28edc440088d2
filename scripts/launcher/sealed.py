"""Backups that only the holder of a key can read, in the age format, which other programs can open too.

The machine that makes them needs only the public half, so a thief of the machine or its backups cannot read them.
"""

from __future__ import annotations

import contextlib
import tempfile
from collections.abc import Iterator, Sequence
from pathlib import Path

import pyrage
from pyrage import x25519

from launcher.dumps import BackupError
from launcher.files import keep

MAGIC = b"age-encryption.org/"


def make_key(file: Path) -> str:
    """Create a key in a file that only its owner can read; return the public half, for which backups are encrypted.

    Raises
    ------
    BackupError
        When the file is there already: a key that is lost opens nothing ever again.
    """
    if file.exists():
        raise BackupError(f"{file} is there already: choose another name.")
    key = x25519.Identity.generate()
    keep(file, f"# public key: {key.to_public()}\n{key}\n")
    return str(key.to_public())


def readers_of(texts: Sequence[str]) -> list[x25519.Recipient]:
    """Return those who may read a backup, by their public keys.

    Raises
    ------
    BackupError
    """
    readers = []
    for text in texts:
        try:
            readers.append(x25519.Recipient.from_str(text))
        except pyrage.RecipientError as error:
            raise BackupError(f"--for {text}: expected a public key, age1 and 58 letters and digits.") from error
    return readers


def seal(plain: Path, file: Path, readers: Sequence[x25519.Recipient]) -> None:
    """Write a file encrypted for all of its readers, any of whom can open it; it gets its name when it is complete."""
    part = file.with_name(file.name + ".part")
    part.touch(mode=0o600)
    try:
        pyrage.encrypt_file(str(plain), str(part), readers)
        part.replace(file)
    finally:
        part.unlink(missing_ok=True)


@contextlib.contextmanager
def opened(file: Path, key: Path | None, folder: Path) -> Iterator[Path]:
    """Return the decrypted backup: the file itself, or its contents in a temporary folder beside the database.

    Raises
    ------
    BackupError
        When it is sealed and the key is not named, is none or another's, or when it is not whole.
    """
    with file.open("rb") as source:
        sealed = source.read(len(MAGIC)) == MAGIC
    if not sealed:
        yield file
        return
    if key is None:
        raise BackupError(f"{file} is sealed: --key names the file with its key.")
    identity = _identity(key)
    with tempfile.TemporaryDirectory(dir=folder) as place:
        plain = Path(place) / "opened.zip"
        plain.touch(mode=0o600)
        try:
            pyrage.decrypt_file(str(file), str(plain), [identity])
        except (pyrage.DecryptError, OSError) as error:
            raise BackupError(f"{file} cannot be opened with {key} ({error}): nothing was changed.") from error
        yield plain


def _identity(key: Path) -> x25519.Identity:
    lines = [line.strip() for line in key.read_text(errors="replace").splitlines()]
    secrets = [line for line in lines if line and not line.startswith("#")]
    try:
        (secret,) = secrets
        return x25519.Identity.from_str(secret)
    except (ValueError, pyrage.IdentityError) as error:
        raise BackupError(f"{key} holds no key; expected a line that begins with AGE-SECRET-KEY-1.") from error
