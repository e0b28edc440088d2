"""One web process: ``python -m instavis.project.web --fd N`` (a listening socket) or ``--listen HOST:PORT``."""

from __future__ import annotations

import argparse
import asyncio
import logging
import os
import socket
from typing import Any

import h11
import uvicorn
from uvicorn.protocols.http.h11_impl import H11Protocol

from instavis.project.listening import MAX_PENDING, listen

HEADER_SECONDS = 20.0
"""How long a request may take to send its head."""
ENDING_SECONDS = 8
LONGEST_FRAME = 4096
TAKEN_AT_ONCE = 2


class PatientProtocol(H11Protocol):
    """Uvicorn's protocol, except that it does not wait forever for the rest of a request's head."""

    waiting: asyncio.TimerHandle | None = None

    def connection_made(self, transport: asyncio.Transport) -> None:  # type: ignore[override]
        """A caller is there."""
        super().connection_made(transport)
        self._watch()

    def data_received(self, data: bytes) -> None:
        """Receive more of the request."""
        super().data_received(data)
        self._watch()

    def connection_lost(self, exc: Exception | None) -> None:
        """The caller is gone."""
        self._forget()
        super().connection_lost(exc)

    def _watch(self) -> None:
        if self.conn.their_state is not h11.IDLE:
            self._forget()
        elif self.waiting is None:
            self.waiting = self.loop.call_later(HEADER_SECONDS, self._give_up)

    def _forget(self) -> None:
        if self.waiting is not None:
            self.waiting.cancel()
            self.waiting = None

    def _give_up(self) -> None:
        self.waiting = None
        silent = self.conn.their_state is h11.IDLE and self.conn.our_state is h11.IDLE
        if silent and self.transport.get_protocol() is self:
            self.transport.close()


class Server(uvicorn.Server):
    """Uvicorn's server, except that it accepts few clients at a time, so that processes on one socket share them."""

    async def startup(self, sockets: list[socket.socket] | None = None) -> None:
        """Start listening with the same queue length as before."""
        await super().startup(sockets)
        for listening in sockets or ():
            listening.listen(MAX_PENDING)


def main(arguments: list[str] | None = None) -> None:
    """Serve until stopped; open connections are closed and running requests finished."""
    parser = argparse.ArgumentParser(description=__doc__)
    where = parser.add_mutually_exclusive_group(required=True)
    where.add_argument("--fd", type=int)
    where.add_argument("--listen", metavar="HOST:PORT")
    options = parser.parse_args(arguments)
    logging.captureWarnings(True)
    listening = socket.socket(fileno=options.fd) if options.fd is not None else listen(*_place(options.listen))
    Server(_configuration()).run(sockets=[listening])


def _configuration() -> uvicorn.Config:
    proxies = os.environ.get("INSTAVIS_PROXIES", "")
    options: dict[str, Any] = {
        "http": PatientProtocol,
        "ws_max_size": LONGEST_FRAME,
        "backlog": TAKEN_AT_ONCE,
        "lifespan": "off",
        "log_config": None,
        "access_log": False,
        "server_header": False,
        # Only a named proxy may say whom it forwards.
        "proxy_headers": bool(proxies),
        "forwarded_allow_ips": proxies or None,
        "timeout_keep_alive": 15,
        "timeout_graceful_shutdown": ENDING_SECONDS,
    }
    return uvicorn.Config("instavis.project.asgi:application", **options)


def _place(text: str) -> tuple[str, int]:
    host, _, port = text.rpartition(":")
    return host.strip("[]"), int(port)


if __name__ == "__main__":
    main()
