"""A private MariaDB server: own data directory, loopback only, own port, durable commits.

It runs as the user who starts the launcher, so that it can read a data directory below a private home.
"""

from __future__ import annotations

import contextlib
import getpass
import os
import shutil
import signal
import socket
import subprocess
import tempfile
import time
from dataclasses import dataclass
from pathlib import Path

from instavis.platform.addresses import SQL_MODE, DatabaseAddress
from launcher.files import secret
from launcher.processes import die_with_parent

START_SECONDS = 60
STOP_SECONDS = 30
MAX_CONNECTIONS = 400
NAME, USER = "instavis", "instavis"
COLLATION = "CHARACTER SET utf8mb4 COLLATE utf8mb4_uca1400_ai_ci"
PART = "data.part"


class DatabaseError(RuntimeError):
    """The server could not be prepared or started; the message names its log."""


@dataclass(kw_only=True)
class Database:
    """A running server: its address, and how the application signs in."""

    process: subprocess.Popen
    port: int
    password: str
    folder: Path
    socket_folder: Path

    @property
    def address(self) -> DatabaseAddress:
        """Address at which the application finds it."""
        return address_at(self.port, self.password)

    def stop(self) -> None:
        """Shut down cleanly, or kill it if that takes too long."""
        (self.folder / "port").unlink(missing_ok=True)
        if self.process.poll() is None:
            self.process.terminate()
            try:
                self.process.wait(STOP_SECONDS)
            except subprocess.TimeoutExpired:
                self.process.kill()
                self.process.wait()
        shutil.rmtree(self.socket_folder, ignore_errors=True)


def address_at(port: int, password: str) -> DatabaseAddress:
    """Return the address of the academy's database on a private server."""
    return DatabaseAddress(host="127.0.0.1", port=port, user=USER, password=password, name=NAME)


def start(folder: Path, quick: bool = False, port: int = 0) -> Database:
    """Start the server of a data folder, and create the folder if it is new.

    Parameters
    ----------
    folder : Path
        Holds data, password and log.
    quick : bool
        For tests: commits are not forced to disk.
    port : int
        Where it listened before, when it is started again under those who know that; otherwise any free one.

    Raises
    ------
    DatabaseError
    """
    folder.mkdir(parents=True, exist_ok=True)
    data = folder / "data"
    _end_orphan(folder, data)
    _clear_parts(folder)
    # Two servers in one temporary folder delete each other's temporary tables.
    temporary = folder / "tmp"
    shutil.rmtree(temporary, ignore_errors=True)
    temporary.mkdir(mode=0o700)
    if not (data / "mysql").is_dir():
        _install(data, temporary)
    password = secret(folder / "password", 24)
    # The path of a Unix socket may have 107 characters, so it gets a short folder.
    socket_folder = Path(tempfile.mkdtemp(prefix="instavis-"))
    port = port or free_port()
    first = socket_folder / "first.sql"
    first.touch(mode=0o600)
    first.write_text(_grants(password))
    command = [
        program("mariadbd"),
        "--no-defaults",
        f"--user={getpass.getuser()}",
        f"--datadir={data}",
        f"--tmpdir={temporary}",
        f"--socket={socket_folder / 'm.sock'}",
        f"--pid-file={folder / 'mariadbd.pid'}",
        f"--log-error={folder / 'mariadbd.log'}",
        f"--port={port}",
        "--bind-address=127.0.0.1",
        "--skip-networking=0",
        "--skip-name-resolve",
        "--character-set-server=utf8mb4",
        "--collation-server=utf8mb4_uca1400_ai_ci",
        f"--innodb-flush-log-at-trx-commit={2 if quick else 1}",
        f"--max-connections={MAX_CONNECTIONS}",
        "--transaction-isolation=READ-COMMITTED",
        f"--sql-mode={SQL_MODE}",
        f"--secure-file-priv={folder}",
        f"--init-file={first}",
    ]
    process = subprocess.Popen(
        command,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
        start_new_session=True,
        preexec_fn=die_with_parent,
    )
    database = Database(process=process, port=port, password=password, folder=folder, socket_folder=socket_folder)
    try:
        _wait(database)
    except BaseException:
        database.stop()
        raise
    first.unlink()
    (folder / "port").write_text(str(port))
    return database


def free_port(wanted: int = 0) -> int:
    """Return the requested port of the loopback if it is free, otherwise any free one."""
    for port in (wanted, 0):
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind(("127.0.0.1", port))
            except OSError:
                continue
            return probe.getsockname()[1]
    raise DatabaseError("There is no free port on the loopback address.")


def _install(data: Path, temporary: Path) -> None:
    """Create the data folder under a temporary name and rename it when complete, so an interrupted one is created
    again.

    The name is new each time, because the programs of a killed start may still be writing into theirs.
    """
    shutil.rmtree(data, ignore_errors=True)
    part = Path(tempfile.mkdtemp(prefix=PART, dir=data.parent))
    command = [
        program("mariadb-install-db"),
        "--no-defaults",
        f"--user={getpass.getuser()}",
        f"--datadir={part}",
        "--auth-root-authentication-method=socket",
        "--skip-test-db",
    ]
    # The installing server, too, would clear the shared temporary folder.
    environment = {**os.environ, "TMPDIR": str(temporary)}
    done = subprocess.run(command, env=environment, capture_output=True, text=True, check=False)
    if done.returncode:
        raise DatabaseError(f"The database could not be made:\n{done.stdout}{done.stderr}")
    part.replace(data)


def _clear_parts(folder: Path) -> None:
    for part in folder.glob(f"{PART}*"):
        shutil.rmtree(part, ignore_errors=True)


def _end_orphan(folder: Path, data: Path) -> None:
    """End a server that outlived its launcher on this data folder; the caller holds the folder's lock."""
    try:
        pid = int((folder / "mariadbd.pid").read_text())
        command = Path(f"/proc/{pid}/cmdline").read_bytes()
    except (OSError, ValueError):
        return
    if f"--datadir={data}".encode() not in command.split(b"\0"):
        return
    deadline = time.monotonic() + STOP_SECONDS
    with contextlib.suppress(ProcessLookupError):
        os.kill(pid, signal.SIGTERM)
        while time.monotonic() < deadline:
            os.kill(pid, 0)
            time.sleep(0.1)
        os.kill(pid, signal.SIGKILL)


def _grants(password: str) -> str:
    """Set up users at every start: the application's user with its database, and one who may only fill the scratch
    database.

    The password has no quotes in it.
    """
    return "\n".join(f"{line};" for line in grants(NAME, USER, "127.0.0.1", password)) + "\n"


def grants(name: str, user: str, host: str, password: str) -> list[str]:
    """Return the statements that prepare a server for an academy whose application connects from a host."""
    owner, loader = f"'{user}'@'{host}'", f"'{loader_of(user)}'@'{host}'"
    ours, scratch = (text.replace("_", r"\_") for text in (name, scratch_of(name)))
    fill = "SELECT, INSERT, UPDATE, DELETE, CREATE, DROP, ALTER, INDEX, REFERENCES, LOCK TABLES"
    return [
        f"CREATE DATABASE IF NOT EXISTS {name} {COLLATION}",
        f"CREATE USER IF NOT EXISTS {owner}",
        f"ALTER USER {owner} IDENTIFIED BY '{password}'",
        f"GRANT ALL ON `{ours}%`.* TO {owner}",
        f"GRANT ALL ON `test\\_{ours}%`.* TO {owner}",
        f"CREATE USER IF NOT EXISTS {loader}",
        f"ALTER USER {loader} IDENTIFIED BY '{password}'",
        f"REVOKE ALL PRIVILEGES, GRANT OPTION FROM {loader}",
        f"GRANT {fill} ON `{scratch}`.* TO {loader}",
    ]


def scratch_of(name: str) -> str:
    """Return the database beside an academy's in which a dump is read back."""
    return f"{name}_check"


def loader_of(user: str) -> str:
    """Return the user beside an academy's who may only fill the scratch database."""
    return f"{user}_loader"


def _wait(database: Database) -> None:
    """Wait until the port answers with a greeting."""
    deadline = time.monotonic() + START_SECONDS
    while time.monotonic() < deadline:
        if database.process.poll() is not None:
            break
        try:
            with socket.create_connection(("127.0.0.1", database.port), timeout=1) as probe:
                if probe.recv(5):
                    return
        except OSError:
            time.sleep(0.05)
    raise DatabaseError(f"The database did not start; its log is {database.folder / 'mariadbd.log'}.")


def program(name: str) -> str:
    """Return the path of one of the database's programs."""
    found = shutil.which(name, path=os.environ.get("PATH", "") + ":/usr/sbin:/usr/bin")
    if found is None:
        raise DatabaseError(f"{name} is not installed.")
    return found


def kill_hard(database: Database) -> None:
    """Kill the server as a power cut would (tests)."""
    os.kill(database.process.pid, signal.SIGKILL)
    database.process.wait()
