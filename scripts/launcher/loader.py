"""`python -m launcher.loader FD`: loads the application once; its programs begin as copies of this process.

Loading takes seconds of a core, copying next to nothing, and copies share the memory of what was loaded. Orders come
over a socket (`launcher.loaded` sends them): what to be, its arguments, settings of its own, and open files. Each is
answered with the copy's number, a handle of it, and a pipe that tells its exit status once it has ended. Copies end
with this process, and this process with the launcher.
"""

from __future__ import annotations

import contextlib
import ctypes
import gc
import json
import os
import select
import signal
import socket
import sys
import warnings
from collections.abc import Callable
from dataclasses import dataclass

LONGEST_ORDER, MAX_FILES = 1 << 16, 16
STANDARD_FILES = 3
PR_SET_PDEATHSIG, PR_SET_NAME = 1, 15
_prctl = ctypes.CDLL(None).prctl


@dataclass(frozen=True)
class Order:
    """What a copy is to be: standard input, output and error come first among its files."""

    name: str
    program: str
    arguments: list[str]
    environment: dict[str, str]
    files: list[int]


def main() -> None:
    """Load, then wait for orders; in a copy, carry out one."""
    orders = socket.socket(fileno=int(sys.argv[1]))
    programs = load()
    loader = os.getpid()
    if order := await_order(orders):
        _become(order, loader)
        programs[order.program](order.arguments, order.files[STANDARD_FILES:])


def load() -> dict[str, Callable[[list[str], list[int]], None]]:
    """Everything that the programs need, read into memory; gives what copies can be."""
    import django

    django.setup()
    from celery.__main__ import main as celery
    from django.core.management import execute_from_command_line
    from django.urls import get_resolver

    from instavis.display.lessons import consumers
    from instavis.platform import gate
    from instavis.project import origins, web, worker
    from launcher import ready

    # Not the application itself: which files of the front end there are is looked up when it is made.
    assert get_resolver().url_patterns
    assert all((consumers, gate, origins, worker))

    def serve(arguments: list[str], files: list[int]) -> None:
        web.main([f"--fd={files[0]}", *arguments])

    def work(arguments: list[str], files: list[int]) -> None:
        # It would warn of a root who runs it; whether the launcher should be root is not for it to say.
        warnings.filterwarnings("ignore", module=r"celery\.platforms")
        sys.argv = ["celery", *arguments]
        celery()

    def prepare(arguments: list[str], files: list[int]) -> None:
        ready.main(arguments)

    def manage(arguments: list[str], files: list[int]) -> None:
        execute_from_command_line(["manage.py", *arguments])

    gc.collect()
    gc.freeze()  # what the garbage collector ignores stays shared
    return {"web": serve, "worker": work, "ready": prepare, "manage": manage}


def await_order(orders: socket.socket) -> Order | None:
    """Make a copy for every order; in a copy its order, here nothing once the launcher has hung up."""
    running: dict[int, tuple[int, int]] = {}
    poller = select.poll()
    poller.register(orders, select.POLLIN)
    while True:
        for found, _ in poller.poll():
            if found != orders.fileno():
                poller.unregister(found)
                _tell_its_end(found, *running.pop(found))
                continue
            text, files, _, _ = socket.recv_fds(orders, LONGEST_ORDER, MAX_FILES)
            if not text:
                return None
            result, tell = os.pipe()
            copy = os.fork()
            if not copy:
                for ours in (orders.detach(), result, tell, *(fd for handle, (_, fd) in running.items()), *running):
                    os.close(ours)
                return Order(**json.loads(text), files=files)
            handle = os.pidfd_open(copy)
            socket.send_fds(orders, [str(copy).encode()], [handle, result])
            for theirs in (result, *files):
                os.close(theirs)
            running[handle] = copy, tell
            poller.register(handle, select.POLLIN)


def _tell_its_end(handle: int, copy: int, tell: int) -> None:
    _, status = os.waitpid(copy, 0)
    with contextlib.suppress(BrokenPipeError):  # nobody wants to know any more
        os.write(tell, str(os.waitstatus_to_exitcode(status)).encode())
    for ours in (handle, tell):
        os.close(ours)


def _become(order: Order, loader: int) -> None:
    """A session, files, settings and a name of its own; it ends with the process that it is a copy of."""
    os.setsid()
    _prctl(PR_SET_PDEATHSIG, signal.SIGTERM)
    if os.getppid() != loader:
        raise SystemExit("the loader ended meanwhile")
    _prctl(PR_SET_NAME, order.name[:15].encode())
    for number, file in enumerate(order.files[:STANDARD_FILES]):
        os.dup2(file, number)
        os.close(file)
    os.environ.update(order.environment)


if __name__ == "__main__":
    main()
