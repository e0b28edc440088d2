"""The bridge's side of the device protocol."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

import httpx

from instavis_bridge.journal import Entry

PATIENCE = 15  # s


class TokenRefusedError(RuntimeError):
    """The server does not know this bridge, or no longer."""


class AskedToWaitError(RuntimeError):
    """The server accepts nothing now and says why; nothing was stored."""


class NotTakenError(RuntimeError):
    """The server can never accept these rows."""


@dataclass(frozen=True, kw_only=True)
class Paired:
    """The identity the server gave the bridge."""

    device: str
    bay: str
    token: str


class Link:
    """A connection to one server with one token."""

    def __init__(self, server: str, token: str = "", client: httpx.Client | None = None) -> None:
        self.server, self.token = server.rstrip("/"), token
        self._client = client or httpx.Client(timeout=PATIENCE, trust_env=False)

    def pair(self, code: str, name: str) -> Paired:
        """Register as a device of the bay that a code belongs to.

        Raises
        ------
        NotTakenError
            With the server's words, for a code that pairs nothing.
        httpx.TransportError
            When nobody answers.
        """
        result = self._ask("pair", {"code": code.strip(), "name": name}, with_token=False)
        return Paired(device=result["device"], bay=result["bay"], token=result["token"])

    def send(self, batch: Sequence[Entry], example: bool = False) -> dict[str, Any]:
        """Send rows with one head; returns after they are stored."""
        rows = [{"device_sequence": entry.number, "text": entry.text} for entry in batch]
        body = {"name": batch[0].name[-200:], "head": list(batch[0].head), "rows": rows, "example": example}
        return self._ask("rows", body)

    def say_here(self, source: str, waiting: int, problem: str) -> dict[str, Any]:
        """Post a heartbeat; return whether a lesson is active in the bay."""
        now = datetime.now(UTC).isoformat()
        return self._ask("here", {"source": source[:300], "waiting": waiting, "clock": now, "problem": problem[:300]})

    def _ask(self, what: str, body: dict[str, Any], with_token: bool = True) -> dict[str, Any]:
        headers = {"Authorization": f"Bearer {self.token}"} if with_token else {}
        answer = self._client.post(f"{self.server}/api/device/v1/{what}", json=body, headers=headers)
        if answer.status_code in (401, 403):
            raise TokenRefusedError(_words(answer))
        if answer.status_code in (409, 413, 429) or answer.status_code >= 500:
            raise AskedToWaitError(_words(answer))
        if answer.is_error:
            raise NotTakenError(_words(answer))
        return answer.json()


def _words(answer: httpx.Response) -> str:
    try:
        return "; ".join(error["message"] for error in answer.json()["errors"])
    except (ValueError, KeyError, TypeError):
        return f"The server answered {answer.status_code}."
