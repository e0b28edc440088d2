"""Rate limits over all processes: counts in Redis, in fixed windows."""

from __future__ import annotations

import hashlib
import logging
from ipaddress import ip_address, ip_network

from django.core.cache import cache
from django.http import HttpRequest
from redis.exceptions import RedisError

from instavis.platform.errors import Refused
from instavis_core.message import Message

logger = logging.getLogger(__name__)

IPV6_SHARED = 64


def counted(*what: str) -> int:
    """Return the count of the current window."""
    return int(cache.get(_key(what)) or 0)


def count(*what: str, window: int) -> int:
    """Add one to a count and return it; the window starts with the first."""
    key = _key(what)
    cache.add(key, 0, window)
    try:
        return cache.incr(key)
    except ValueError:  # its window ended just now
        cache.add(key, 1, window)
        return 1


def forget(*what: str) -> None:
    """Begin anew with something."""
    cache.delete(_key(what))


def at_most(limit: int, *what: str, window: int) -> None:
    """Raise an error if something was done too often; without Redis nobody is refused.

    Raises
    ------
    Refused
        429 above the limit.
    """
    try:
        above = count(*what, window=window) > limit
    except RedisError as error:
        logger.warning("%s was not counted: %s", what[0], error)
        return
    if above:
        raise Refused(429, "request", Message("server-too-many-requests-wait-minute"))


def address_of(request: HttpRequest) -> str:
    """Return the client's address as far as the network knows; for IPv6 the network of one customer.

    Uvicorn has inserted the address from a trusted proxy and ignored what others claim about themselves.
    """
    text = str(request.META.get("REMOTE_ADDR", ""))
    try:
        address = ip_address(text)
    except ValueError:
        return "unknown"
    return str(ip_network((address, IPV6_SHARED), strict=False)) if address.version == 6 else str(address)


def _key(what: tuple[str, ...]) -> str:
    """Return a hash of a name: a cache must not reveal who was tried, and a name may be long."""
    return "count:" + hashlib.sha256("\n".join(what).encode()).hexdigest()
