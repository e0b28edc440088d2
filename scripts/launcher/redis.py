"""A private Redis: loopback only, own port and password.

It stores nothing permanent: that is in the database.
"""

from __future__ import annotations

import subprocess
import time
from dataclasses import dataclass
from pathlib import Path

from redis import Redis as Client
from redis.exceptions import RedisError

from launcher.files import secret
from launcher.mariadb import DatabaseError, free_port, program
from launcher.processes import spawn, stop

START_SECONDS = 20
MAX_MEMORY = "256mb"


@dataclass(kw_only=True)
class Redis:
    """A running Redis and its address."""

    process: subprocess.Popen
    port: int
    password: str

    @property
    def url(self) -> str:
        """Address at which the application finds it."""
        return f"redis://:{self.password}@127.0.0.1:{self.port}/0"

    def stop(self) -> None:
        """End it; it has nothing to write."""
        stop(self.process)


def start(folder: Path, port: int = 0) -> Redis:
    """Start one with its password and log in a folder, at the given port if any.

    Raises
    ------
    DatabaseError
        When it does not answer.
    """
    folder.mkdir(parents=True, exist_ok=True)
    password, port = secret(folder / "password", 24), port or free_port()
    # The configuration is passed on standard input: a password must not appear in a list of processes.
    configuration = (
        f"port {port}\nbind 127.0.0.1\nrequirepass {password}\nsave ''\nappendonly no\ndir {folder}\n"
        f"maxmemory {MAX_MEMORY}\nmaxmemory-policy volatile-lru\ntcp-backlog 128\nloglevel warning\n"
    )
    process = spawn([program("redis-server"), "-"], {}, folder / "redis.log", says=configuration)
    redis = Redis(process=process, port=port, password=password)
    try:
        _wait(redis, folder)
    except BaseException:
        redis.stop()
        raise
    return redis


def _wait(redis: Redis, folder: Path) -> None:
    client = Client.from_url(redis.url, socket_timeout=1, socket_connect_timeout=1)
    deadline = time.monotonic() + START_SECONDS
    while time.monotonic() < deadline and redis.process.poll() is None:
        try:
            if client.ping():
                return
        except RedisError:
            time.sleep(0.02)
    raise DatabaseError(f"Redis did not start; its log is {folder / 'redis.log'}.")
