"""Notifications to open live connections, in any process.

A lost notification costs time, never a ball.
"""

from __future__ import annotations

import asyncio
import logging
from functools import cached_property
from typing import Any
from uuid import uuid4

from asgiref.sync import async_to_sync
from channels.layers import get_channel_layer
from channels_redis.pubsub import RedisPubSubChannelLayer
from redis import Redis
from redis.backoff import NoBackoff
from redis.exceptions import ConnectionError, RedisError
from redis.retry import Retry


class Layer(RedisPubSubChannelLayer):
    """Channels' layer over Redis, except that a connection can be opened while Redis is unavailable: only groups are
    used here.

    Synchronous callers use a persistent connection; Channels makes an event loop and a connection for each call.
    """

    def publish(self, group: str, message: dict[str, Any]) -> None:
        """Send a message to a group.

        Raises
        ------
        RedisError
            When Redis is away, or does not answer in time.
        """
        channel = f"{self._kwargs['prefix']}__group__{group}"
        self._connection.publish(channel, self.serialize(message))

    @cached_property
    def _connection(self) -> Redis:
        (host,) = self._kwargs["hosts"]
        times = {name: host[name] for name in ("socket_timeout", "socket_connect_timeout")}
        # A closed connection is reopened once; one that does not answer is not tried twice.
        return Redis.from_url(host["address"], retry=Retry(NoBackoff(), 1, (ConnectionError,)), **times)

    async def new_channel(self, prefix: str = "specific.") -> str:
        """Return a name for a connection that is reached only through its groups."""
        layer = self._get_layer()
        channel = f"{layer.prefix}{prefix}{uuid4().hex}"
        layer.channels[channel] = asyncio.Queue()
        return channel


logger = logging.getLogger(__name__)


def call(group: str, message: dict[str, Any]) -> None:
    """Send a message to every connection of a group; without Redis the connections check by themselves later."""
    try:
        layer = get_channel_layer()
        send = layer.publish if isinstance(layer, Layer) else async_to_sync(layer.group_send)
        send(group, message)
    except (RedisError, OSError) as error:
        logger.warning("connections of %s were not notified: %s", group, error)


def coach_group(coach_id: int) -> str:
    """Return the group of one coach's connections, of every session."""
    return f"coach-{coach_id}"


def session_group(stored_key: str) -> str:
    """Return the group of connections opened within one session."""
    return f"session-{stored_key}"
