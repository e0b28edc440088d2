"""What runs, and how many of each: one shape for one machine and for several.

A service whose address is given (`INSTAVIS_DATABASE_URL`, `INSTAVIS_REDIS_URL`) is used where it is; one that is not
is started here, privately. Several machines name the same services, the same `INSTAVIS_SECRET_KEY`, and
`INSTAVIS_FILES` where all of them reach it.
"""

from __future__ import annotations

import argparse
import contextlib
import os
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from pathlib import Path

from instavis.platform.addresses import DatabaseAddress
from launcher import mariadb, redis
from launcher.files import secret_key
from launcher.loaded import Loader
from launcher.static import static_root
from launcher.supervisor import Supervisor

MAX_PROCESSES = 64


@dataclass(frozen=True, kw_only=True)
class Shape:
    """How many web processes and workers run here."""

    web: int = 2
    workers: int = 2


def read_shape(verb: str, arguments: list[str]) -> Shape:
    """`--web N` and `--workers N`; a machine may have none of one kind, but not of both."""
    parser = argparse.ArgumentParser(prog=f"./instavis {verb}")
    parser.add_argument("--web", type=_count, default=Shape.web, help="web processes on this machine")
    parser.add_argument("--workers", type=_count, default=Shape.workers, help="workers on this machine")
    options = parser.parse_args(arguments)
    if not options.web and not options.workers:
        parser.error("--web 0 --workers 0 leaves nothing to run")
    return Shape(web=options.web, workers=options.workers)


def _count(text: str) -> int:
    if not text.isdigit() or int(text) > MAX_PROCESSES:
        raise argparse.ArgumentTypeError(f"{text}: expected a whole number from 0 to {MAX_PROCESSES}")
    return int(text)


@contextlib.contextmanager
def supervised(tell: Callable[[str], None]) -> Iterator[Supervisor]:
    """A supervisor for the length of a block."""
    supervisor = Supervisor(tell)
    try:
        yield supervisor
    finally:
        supervisor.stop()


def database_for(folder: Path, supervisor: Supervisor) -> DatabaseAddress:
    """The academy's database: the one that is named, or the folder's own."""
    if named := os.environ.get("INSTAVIS_DATABASE_URL"):
        return DatabaseAddress.read(named)
    place = folder / "database"
    first = mariadb.start(place)
    supervisor.keep("database", lambda: first, lambda: mariadb.start(place, port=first.port))
    return first.address


def redis_for(folder: Path, supervisor: Supervisor) -> str:
    """The address of Redis: the one that is named, or the folder's own."""
    if named := os.environ.get("INSTAVIS_REDIS_URL"):
        return named
    place = folder / "redis"
    first = redis.start(place)
    supervisor.keep("redis", lambda: first, lambda: redis.start(place, port=first.port))
    return first.url


def settings_for(folder: Path, database: DatabaseAddress, redis_url: str) -> dict[str, str]:
    """What the application's settings read."""
    return {
        "DJANGO_SETTINGS_MODULE": "instavis.project.settings",
        "INSTAVIS_DATABASE_URL": database.url,
        "INSTAVIS_REDIS_URL": redis_url,
        "INSTAVIS_SECRET_KEY": secret_key(folder),
        "INSTAVIS_STATIC_ROOT": str(static_root()),
        "INSTAVIS_FILES": os.environ.get("INSTAVIS_FILES") or str(folder / "files"),
        "PROMETHEUS_MULTIPROC_DIR": str(folder / "metrics"),
        # Small matrices are slower on many threads, and several requests compute at once.
        "OPENBLAS_NUM_THREADS": "1",
        "MALLOC_ARENA_MAX": "2",  # memory of threads that are gone is used again
    }


def keep_loader(supervisor: Supervisor, environment: dict[str, str], log: Path) -> Loader:
    """The application loaded once for all its programs that run here."""
    loader = Loader(environment, log)
    supervisor.keep("loader", loader.begin)
    return loader


def keep_web(supervisor: Supervisor, count: int, fd: int, loader: Loader, log: Path) -> None:
    """Web processes on one listening socket, which stays open while they come and go: callers wait, none is refused."""
    for number in range(1, count + 1):
        name = f"web {number}"
        supervisor.keep(name, lambda name=name: loader.copy_into(log, name, "web", [], fd))


def keep_workers(supervisor: Supervisor, count: int, loader: Loader, log: Path) -> None:
    """Workers, one more for films, and the scheduler; each is started again by itself when it ends."""
    if not count:
        return
    quiet = ["--app=instavis.project.worker", "--quiet"]
    separate = ["--loglevel=WARNING", "--without-gossip", "--without-mingle", "--without-heartbeat"]
    programs = {
        "worker": [*quiet, "worker", "--queues=quick", f"--concurrency={count}", *separate],
        "films": [*quiet, "worker", "--queues=films", "--concurrency=1", *separate],
        "scheduler": [*quiet, "beat", "--scheduler=celery.beat.Scheduler", "--loglevel=WARNING", "--pidfile="],
    }
    for name, arguments in programs.items():
        supervisor.keep(name, lambda name=name, arguments=arguments: loader.copy_into(log, name, "worker", arguments))
