"""`./instavis doctor`: what is wrong with this installation, in plain words, and how to fix it."""

from __future__ import annotations

import argparse
import fcntl
import os
import shutil
import socket
import ssl
import subprocess
import sys
import tempfile
import time
import urllib.error
import urllib.request
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import urlsplit

import MySQLdb
from redis import Redis as Client
from redis.exceptions import RedisError

from instavis.platform.addresses import AddressError, DatabaseAddress, FilesAddress
from launcher.academy import folder_of_data
from launcher.dumps import Access, BackupError
from launcher.mariadb import DatabaseError, address_at, grants, program
from launcher.paths import ROOT, STATE

MIN_FREE, GOOD_FREE = 200 * 1024 * 1024, 2 * 1024**3
MAX_SECONDS_OFF = 5.0
OLDEST_DATABASE, OLDEST_REDIS = (10, 6), (6, 2)
ASK_SECONDS = 5


@dataclass(frozen=True)
class Finding:
    """One thing that was checked; ``mend`` says what to do if it is not good, ``bad`` whether it must be done."""

    what: str
    mend: str = ""
    bad: bool = False

    def line(self) -> str:
        """As it is printed."""
        if not self.mend:
            return f"  good     {self.what}"
        return f"  {'WRONG ' if self.bad else 'mind  '}   {self.what}\n           → {self.mend}"


def doctor(arguments: list[str]) -> int:
    """Check everything; return 1 if something must be fixed."""
    parser = argparse.ArgumentParser(prog="./instavis doctor", description=__doc__)
    parser.add_argument("--site", metavar="URL", help="the address that coaches open, to check the proxy")
    options = parser.parse_args(arguments)
    folder = folder_of_data()
    all_checks: list[Callable[[], Iterator[Finding]]] = [
        lambda: _programs(),
        lambda: _folder(folder),
        lambda: _disk(folder),
        lambda: _port(folder),
        lambda: _database(folder),
        lambda: _redis(),
        lambda: _files(folder),
        lambda: _names(),
        lambda: _site(options.site),
    ]
    findings: list[Finding] = []
    for run_check in all_checks:
        for finding in run_check():
            print(finding.line(), flush=True)
            findings.append(finding)
    wrong = sum(f.bad for f in findings)
    print(f"\n{len(findings)} checks, {wrong} wrong, {sum(bool(f.mend) for f in findings) - wrong} to note.")
    return 1 if wrong else 0


def _programs() -> Iterator[Finding]:
    version = ".".join(map(str, sys.version_info[:3]))
    yield (
        Finding(f"Python {version}")
        if sys.version_info[:2] == (3, 11)
        else Finding(f"Python {version}", "Python 3.11 is needed: remove .instavis/venv-app and start again.", bad=True)
    )
    for name, package in (("mariadbd", "mariadb-server-core"), ("redis-server", "redis-server")):
        named = "INSTAVIS_DATABASE_URL" if name == "mariadbd" else "INSTAVIS_REDIS_URL"
        try:
            yield Finding(f"{name} is at {program(name)}")
        except DatabaseError:
            if named not in os.environ:
                yield Finding(f"{name} is not installed", f"apt-get install {package}, or set {named}.", bad=True)
    lock, installed = ROOT / "requirements.txt", STATE / "venv-app" / "installed.txt"
    if not installed.exists() or lock.read_bytes() != installed.read_bytes():
        yield Finding("the installed packages are not this release's", "The next start installs them.")
    else:
        yield Finding("the installed packages are this release's")


def _folder(folder: Path) -> Iterator[Finding]:
    if not folder.exists():
        yield Finding(
            f"there is no academy in {folder} yet", "./instavis serve makes one; INSTAVIS_DATA names another."
        )
        return
    if not os.access(folder, os.W_OK | os.X_OK):
        yield Finding(f"{folder} cannot be written by this user", f"chown -R {os.getuid()} {folder}", bad=True)
        return
    yield Finding(f"{folder} can be written")
    for name in ("secret", "server.log", "worker.log"):
        file = folder / name
        if file.exists() and file.stat().st_mode & 0o077:
            yield Finding(f"{file} can be read by others", f"chmod 600 {file}", bad=name == "secret")
    for name in ("restoring.zip", "upgrading"):
        if (folder / name).exists():
            yield Finding(f"something was cut off ({name})", "The next ./instavis serve finishes it.")


def _disk(folder: Path) -> Iterator[Finding]:
    place = folder
    while not place.exists():
        place = place.parent
    free = shutil.disk_usage(place).free
    result = f"{free / 1024**3:.1f} GiB free at {place}"
    if free < GOOD_FREE:
        yield Finding(result, "Balls cannot be stored on a full disk. Free some space.", bad=free < MIN_FREE)
    else:
        yield Finding(result)


def _is_served(folder: Path) -> bool:
    if not (folder / "lock").exists():
        return False
    with (folder / "lock").open("a+") as lock:
        try:
            fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
        except BlockingIOError:
            return True
    return False


def _port(folder: Path) -> Iterator[Finding]:
    host, port = os.environ.get("INSTAVIS_BIND", "127.0.0.1"), int(os.environ.get("INSTAVIS_PORT", "8000"))
    if _is_served(folder):
        yield Finding("the academy is being served")
        return
    with socket.socket() as probe:
        probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            probe.bind((host, port))
        except OSError as error:
            yield Finding(
                f"{host}:{port} cannot be listened at ({error.strerror})",
                "Another program uses it. Stop that program, or set INSTAVIS_PORT or INSTAVIS_BIND.",
                bad=True,
            )
            return
    yield Finding(f"{host}:{port} is free")


def _database(folder: Path) -> Iterator[Finding]:
    named = os.environ.get("INSTAVIS_DATABASE_URL")
    try:
        if named:
            address = DatabaseAddress.read(named)
        elif (port := folder / "database" / "port").exists():
            address = address_at(int(port.read_text()), (folder / "database" / "password").read_text().strip())
        else:
            yield Finding("the private database starts with the application")
            return
        access = Access(address)
        version = str(access.ask("information_schema", "SELECT VERSION()")[0][0])
    except AddressError as error:
        yield Finding("the database's address", str(error), bad=True)
        return
    except MySQLdb.Error as error:
        mend = "Is it running, and may this machine reach it?" if named else "Is the application running or starting?"
        yield Finding(f"the database does not answer: {error.args[-1]}", mend, bad=bool(named))
        return
    if tuple(int(n) for n in version.split(".")[:2]) < OLDEST_DATABASE or "maria" not in version.lower():
        yield Finding(f"the database is {version}", "MariaDB 10.6 or newer is needed.", bad=True)
    else:
        yield Finding(f"the database answers: {version}")
    yield from _rights(access)
    off = abs(float(access.ask("information_schema", "SELECT UNIX_TIMESTAMP(NOW(6))")[0][0]) - time.time())
    if off > MAX_SECONDS_OFF:
        yield Finding(
            f"the database's clock is {off:.0f} s off this machine's", "Synchronize both clocks with NTP.", bad=True
        )
    else:
        yield Finding("the database's clock agrees with this machine's")


def _rights(access: Access) -> Iterator[Finding]:
    """Check that backups can be read back beside the academy's database, by a user without other rights."""
    try:
        with tempfile.TemporaryDirectory() as place:
            dump = Path(place) / "doctor.sql"
            dump.write_text("CREATE TABLE doctor (id INT);\n")
            with access.scratch(dump):
                pass
    except (MySQLdb.Error, BackupError) as error:
        wanted = ";\n             ".join(grants(access.address.name, access.address.user, "%", "PASSWORD"))
        yield Finding(
            f"backups cannot be read back: {error.args[-1]}",
            f"Run on the database, with the address's password:\n             {wanted};",
            bad=True,
        )
    else:
        yield Finding("the database's rights are enough for backups and upgrades")


def _redis() -> Iterator[Finding]:
    named = os.environ.get("INSTAVIS_REDIS_URL")
    if not named:
        yield Finding("the private Redis starts with the application")
        return
    try:
        result = Client.from_url(named, socket_timeout=ASK_SECONDS, socket_connect_timeout=ASK_SECONDS).info("server")
    except (RedisError, ValueError) as error:
        yield Finding(
            f"Redis does not answer: {error}", "Check that it runs and that INSTAVIS_REDIS_URL is right.", bad=True
        )
        return
    version = str(result["redis_version"])
    if tuple(int(n) for n in version.split(".")[:2]) < OLDEST_REDIS:
        yield Finding(f"Redis is {version}", "6.2 or newer is needed.", bad=True)
    else:
        yield Finding(f"Redis answers: {version}")


def _files(folder: Path) -> Iterator[Finding]:
    try:
        files = FilesAddress.read(os.environ.get("INSTAVIS_FILES") or str(folder / "files"))
    except AddressError as error:
        yield Finding("where files lie", str(error), bad=True)
        return
    if files.bucket:
        missing = [name for name in ("AWS_ACCESS_KEY_ID", "AWS_SECRET_ACCESS_KEY") if name not in os.environ]
        if missing:
            yield Finding(f"files lie in the bucket {files.bucket}", f"Set {' and '.join(missing)}.", bad=True)
        else:
            yield Finding(f"files lie in the bucket {files.bucket}")
    elif "INSTAVIS_DATABASE_URL" in os.environ and "INSTAVIS_FILES" not in os.environ:
        yield Finding(
            "the database is shared, the files are this machine's own",
            "With several machines set INSTAVIS_FILES to a folder or bucket that all of them reach.",
        )
    else:
        yield Finding(f"files lie in {files.folder}")


def _names() -> Iterator[Finding]:
    """Check the names that links to students and coaches start with."""
    for host in os.environ.get("INSTAVIS_HOSTS", "127.0.0.1,localhost").split(","):
        name = host.strip().lstrip(".")
        if name == "*":
            yield Finding("INSTAVIS_HOSTS is *", "Name the hosts, or links can be forged to lead elsewhere.", True)
            continue
        try:
            socket.getaddrinfo(name, None)
        except OSError:
            yield Finding(
                f"{name} is not known to DNS", "Links with this name do not work. Set up the name, or correct it."
            )
        else:
            yield Finding(f"{name} is known")
    if os.environ.get("INSTAVIS_HTTPS") == "1" and not os.environ.get("INSTAVIS_PROXIES"):
        yield Finding(
            "behind a TLS proxy, but no proxy is trusted",
            "Set INSTAVIS_PROXIES to its address; otherwise everyone seems to come from there.",
        )
    synchronised = (
        subprocess.run(
            ["timedatectl", "show", "--property=NTPSynchronized", "--value"],
            capture_output=True,
            text=True,
            check=False,
        )
        if shutil.which("timedatectl")
        else None
    )
    if synchronised is not None and synchronised.stdout.strip() == "no":
        yield Finding("this machine's clock is not synchronized by NTP", "timedatectl set-ntp true")


def _site(site: str | None) -> Iterator[Finding]:
    """Check what a browser meets in front of the application."""
    if site is None:
        return
    parts = urlsplit(site)
    if parts.scheme not in ("http", "https") or not parts.hostname:
        yield Finding(f"{site} is no address", "Write it as coaches type it: https://coach.example", bad=True)
        return
    try:
        with urllib.request.urlopen(f"{site.rstrip('/')}/healthz", timeout=ASK_SECONDS) as answer:
            headers = answer.headers
    except urllib.error.HTTPError as error:
        yield Finding(
            f"{site} answers {error.code}", "Does the proxy pass the host's name, and is it in INSTAVIS_HOSTS?", True
        )
        return
    except (OSError, ssl.SSLError) as error:
        yield Finding(f"{site} cannot be reached: {error}", "Look at the proxy, its certificate and DNS.", bad=True)
        return
    yield Finding(f"{site} answers")
    if parts.scheme != "https":
        yield Finding("the site is not encrypted", "Put a TLS proxy in front (docs/serving.md).", bad=True)
    elif not headers.get("Strict-Transport-Security"):
        yield Finding(
            "the application does not know that it is behind TLS",
            "Set INSTAVIS_HTTPS=1 and INSTAVIS_PROXIES, and let the proxy set X-Forwarded-Proto.",
            bad=True,
        )
    else:
        yield Finding("the application knows that it is behind TLS")
    yield _lines_pass(parts.hostname, parts.port or (443 if parts.scheme == "https" else 80), parts.scheme)


def _lines_pass(host: str, port: int, scheme: str) -> Finding:
    """Return whether an upgrade to a WebSocket passes the proxy."""
    asked = (
        f"GET /ws/nowhere HTTP/1.1\r\nHost: {host}:{port}\r\nUpgrade: websocket\r\nConnection: Upgrade\r\n"
        f"Sec-WebSocket-Version: 13\r\nSec-WebSocket-Key: aW5zdGF2aXMtZG9jdG9yIQ==\r\n"
        f"Origin: {scheme}://{host}:{port}\r\n\r\n"
    )
    try:
        with socket.create_connection((host, port), ASK_SECONDS) as plain:
            line = ssl.create_default_context().wrap_socket(plain, server_hostname=host) if scheme == "https" else plain
            line.sendall(asked.encode())
            first = line.recv(100).split(b"\r\n")[0].decode("latin-1")
    except OSError as error:
        first = str(error)
    if " 101 " in first:
        return Finding("live connections pass the proxy")
    return Finding(
        f"live lines do not pass the proxy ({first})",
        "Let it pass Upgrade, Connection and the original Host (docs/serving.md).",
        bad=True,
    )
