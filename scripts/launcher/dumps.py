"""Dumps of the academy's database: written, read back into a scratch database, moved into place.

A dump may come from anywhere, so it is loaded by a user who owns only the scratch database, through the driver, which
has no client commands. Its contents become the academy's only by moving tables, never by running the dump there.
"""

from __future__ import annotations

import contextlib
import os
import subprocess
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path
from typing import BinaryIO

import MySQLdb

from instavis.platform.addresses import DatabaseAddress
from launcher import mariadb
from launcher.mariadb import COLLATION, loader_of, scratch_of

SLOW_SECONDS = 3600


class BackupError(RuntimeError):
    """What is wrong with a backup, in words for the person who runs the command."""


@dataclass(frozen=True)
class Access:
    """An academy's database by its address; dumps are read back in the database beside it, ``scratch_name``."""

    address: DatabaseAddress

    @property
    def name(self) -> str:
        """The academy's database."""
        return self.address.name

    @property
    def scratch_name(self) -> str:
        """Name of the database in which dumps are read back."""
        return scratch_of(self.name)

    def ask(self, database: str, statement: str) -> list[tuple]:
        """Rows of one statement."""
        with self._connected(self.address.user, database) as connection, connection.cursor() as cursor:
            cursor.execute(statement)
            return list(cursor.fetchall())

    def make(self, database: str) -> None:
        """Create an empty database of that name; its old contents are deleted."""
        self.ask("information_schema", f"DROP DATABASE IF EXISTS {database}")
        self.ask("information_schema", f"CREATE DATABASE {database} {COLLATION}")

    def write(self, dump: Path) -> None:
        """Write the academy's database into a file, as of one moment.

        Raises
        ------
        BackupError
        """
        where = self.address
        command = [
            mariadb.program("mariadb-dump"),
            *("--no-defaults", f"--host={where.host}", f"--port={where.port}", f"--user={where.user}"),
            *(f"--ssl-{key}={value}" for key, value in where.tls),
            *("--default-character-set=utf8mb4", "--single-transaction", "--skip-comments", "--hex-blob"),
            *("--skip-tz-utc", f"--result-file={dump}", where.name),
        ]
        environment = {**os.environ, "MYSQL_PWD": where.password}  # not visible in a list of processes
        done = subprocess.run(command, env=environment, capture_output=True, text=True, check=False)
        if done.returncode:
            raise BackupError(f"mariadb-dump failed: {done.stderr.strip()}")

    @contextlib.contextmanager
    def scratch(self, dump: Path) -> Iterator[None]:
        """Load the dump into the scratch database, which is deleted afterwards.

        Raises
        ------
        BackupError
            For a statement that the loader may not run.
        """
        self.make(self.scratch_name)
        try:
            with (
                self._connected(loader_of(self.address.user), self.scratch_name) as connection,
                dump.open("rb") as source,
            ):
                for statement in _statements(source):
                    try:
                        connection.query(statement)
                        connection.store_result()
                    except MySQLdb.Error as error:
                        raise BackupError(f"the dump holds what may not be restored: {error.args[-1]}") from error
                connection.commit()
            yield
        finally:
            self.ask("information_schema", f"DROP DATABASE IF EXISTS {self.scratch_name}")

    def tables(self, database: str) -> dict[str, dict]:
        """Return rows and checksum of every table."""
        return {
            name: {
                "rows": self.ask(database, f"SELECT COUNT(*) FROM `{name}`")[0][0],
                "checksum": self.ask(database, f"CHECKSUM TABLE `{name}`")[0][1],
            }
            for name in self._names(database)
        }

    def put_in_place(self) -> None:
        """Make the tables of the scratch database the academy's; the old ones are deleted.

        If interrupted, the next start finds the backup that was being restored and starts again.
        """
        name, scratch, old = self.name, self.scratch_name, f"{self.name}_old"
        self.make(old)
        moves = [(name, old, table) for table in self._names(name)]
        moves += [(scratch, name, table) for table in self._names(scratch)]
        with self._connected(self.address.user, name) as connection, connection.cursor() as cursor:
            cursor.execute("SET FOREIGN_KEY_CHECKS=0")
            cursor.execute("RENAME TABLE " + ", ".join(f"`{a}`.`{t}` TO `{b}`.`{t}`" for a, b, t in moves))
            cursor.execute(f"DROP DATABASE {old}")

    def _names(self, database: str) -> list[str]:
        return sorted(row[0] for row in self.ask(database, "SHOW TABLES"))

    def _connected(self, user: str, database: str) -> contextlib.closing[MySQLdb.Connection]:
        slow = {"read_timeout": SLOW_SECONDS, "write_timeout": SLOW_SECONDS}  # checksums and copies of large tables
        connection = MySQLdb.connect(
            host=self.address.host,
            port=self.address.port,
            user=user,
            password=self.address.password,
            database=database,
            local_infile=0,
            multi_statements=False,
            **(self.address.connecting() | slow),
        )
        return contextlib.closing(connection)


def _statements(source: BinaryIO) -> Iterator[bytes]:
    """Yield the statements of a dump; line breaks in its texts are escaped, so a statement ends at a line break."""
    held: list[bytes] = []
    for line in source:
        held.append(line)
        if line.rstrip().endswith(b";"):
            yield b"".join(held)
            held = []
    if rest := b"".join(held).strip():
        yield rest
