"""A device's side of the protocol: send until the server has answered, number every ball once."""

from __future__ import annotations

import sys
import time
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

import httpx

FIRST_WAIT, LONGEST_WAIT = 0.5, 8.0
LINE_DOWN = "no answer from the server: kept, and sent again until it is confirmed"
REFUSED = (401, 403)


class TokenRefused(RuntimeError):
    """The server does not know this device, or no longer."""


@dataclass(kw_only=True)
class DeviceLink:
    """A connection to one server with one token."""

    server: str
    token: str
    wait: Callable[[float], None] = time.sleep
    client: httpx.Client = field(default_factory=lambda: httpx.Client(timeout=10, trust_env=False))

    def hello(self) -> dict[str, Any]:
        """Return the identity that the server has for us, and whether a lesson is active."""
        return self._until_answered("GET", "hello", None)

    def send(self, shots: list[dict[str, Any]]) -> dict[str, Any]:
        """Send balls until the server has confirmed them."""
        return self._until_answered("POST", "shots", {"shots": shots})

    def send_recordings(self, recordings: list[dict[str, Any]]) -> dict[str, Any]:
        """Send recorded swings until the server has confirmed them."""
        return self._until_answered("POST", "recordings", {"recordings": recordings})

    def _until_answered(self, method: str, name: str, body: dict[str, Any] | None) -> dict[str, Any]:
        pause = FIRST_WAIT
        while True:
            try:
                answer = self.client.request(
                    method,
                    f"{self.server}/api/device/v1/{name}",
                    json=body,
                    headers={"Authorization": f"Bearer {self.token}"},
                )
                if answer.status_code in REFUSED:
                    raise TokenRefused(answer.text)
                if answer.status_code < 500:
                    answer.raise_for_status()
                    return answer.json()
            except httpx.TransportError:
                if pause == FIRST_WAIT:  # the connection is down: unsent data stays here until it is back
                    print(LINE_DOWN, file=sys.stderr, flush=True)
            self.wait(pause)
            pause = min(LONGEST_WAIT, 2 * pause)
