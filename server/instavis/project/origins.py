"""Who may open a live connection: pages of this server, by host and port."""

from __future__ import annotations

from collections.abc import Awaitable, Callable, MutableMapping
from typing import Any
from urllib.parse import urlsplit

from channels.security.websocket import WebsocketDenier
from django.conf import settings
from django.http.request import validate_host

Scope = MutableMapping[str, Any]
Channel = Callable[..., Awaitable[Any]]


class SameOrigin:
    """An ASGI application around another: the page's origin must be the requested host and port, or trusted."""

    def __init__(self, app: Channel) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Channel, send: Channel) -> Any:
        """Accept a connection, or deny it."""
        headers = dict(scope["headers"])
        origin, host = (headers.get(name, b"").decode("latin-1") for name in (b"origin", b"host"))
        inside = self.app if may_open(origin, host) else WebsocketDenier.as_asgi()
        return await inside(scope, receive, send)


def may_open(origin: str, host: str) -> bool:
    """Return whether a page of that origin may open a connection to that host."""
    if origin in settings.CSRF_TRUSTED_ORIGINS:
        return True
    try:
        parts = urlsplit(origin)
    except ValueError:
        return False
    asked = urlsplit(f"//{host}")
    known = bool(asked.hostname) and validate_host(asked.hostname or "", settings.ALLOWED_HOSTS)
    return known and parts.scheme in ("http", "https") and parts.netloc.lower() == host.lower()
