"""The socket where clients wait until a web process accepts them."""

from __future__ import annotations

import socket

MAX_PENDING = 2048


def listen(host: str, port: int) -> socket.socket:
    """Return a listening socket that several processes may share."""
    listening = socket.create_server((host, port), family=_family(host), backlog=MAX_PENDING)
    listening.set_inheritable(True)
    return listening


def _family(host: str) -> socket.AddressFamily:
    return socket.AF_INET6 if ":" in host else socket.AF_INET
