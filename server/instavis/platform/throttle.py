"""Counting what may not be done too often, over all processes: in Redis, by fixed windows."""

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
    """How often something was counted in its present window."""
    return int(cache.get(_key(what)) or 0)


def count(*what: str, window: int) -> int:
    """Count it once more; the window of so many seconds begins with the first time. Gives how often."""
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
    """Count something that anybody may do so often and no oftener; while nobody can count, nobody is turned away.

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
    """Who asks, as far as the network knows: an address, of IPv6 the network that one customer has.

    Uvicorn has put in the address that a trusted proxy named; what others claim of themselves it did not read.
    """
    text = str(request.META.get("REMOTE_ADDR", ""))
    try:
        address = ip_address(text)
    except ValueError:
        return "unknown"
    return str(ip_network((address, IPV6_SHARED), strict=False)) if address.version == 6 else str(address)


def _key(what: tuple[str, ...]) -> str:
    """Names are hashed: a cache says nothing of who was tried, and a name has no end."""
    return "count:" + hashlib.sha256("\n".join(what).encode()).hexdigest()
