"""Requests of any kind to every operation of the API: no 500, and no answer that is not described."""

from __future__ import annotations

import json
import sys
import time
from collections import Counter
from collections.abc import Iterator
from typing import Any

import httpx
import requests
import schemathesis
from bench.target import Measured
from hypothesis import HealthCheck, Phase, Verbosity, given, seed, settings
from schemathesis.generation import GenerationMode

from attack.authenticator import code_of
from attack.keys import Keys, keys_of
from attack.siege import Siege, client_of, sign_in
from launcher.paths import SERVER

TELL_EVERY = 20
LOCKED_OUT = ("/api/v1/session", "/api/v1/coaches/{coach_id}/sessions")
"""Operations that may end the session that all others need; they use a separate coach's session."""


def attack(siege: Siege, count: int, number: int) -> Iterator[Measured]:
    """Send every operation the same number of requests; half of the path's keys are real."""
    operations = described_operations()
    odd: Counter[str] = Counter()
    statuses: Counter[int] = Counter()
    begun, keys = time.monotonic(), keys_of(siege)
    share = max(1, count // len(operations))
    _show_factor(siege.head)
    # Before the first odd request: enough wrong passwords lock the address out.
    clients = [_client_for(siege, operation) for operation in operations]
    for done, (operation, client) in enumerate(zip(operations, clients, strict=True)):
        if done and done % TELL_EVERY == 0:
            print(f"instavis: {done} of {len(operations)} operations, {sum(odd.values())} odd answers", file=sys.stderr)
        _fuzz(siege, operation, client, keys, share, number, odd, statuses)
    took = time.monotonic() - begun
    asked = sum(statuses.values())
    broken = sum(n for status, n in statuses.items() if status >= 500 and status != 503)
    result = "; ".join(f"{what} ({n})" for what, n in odd.most_common(12))
    yield Measured(
        what=f"{asked} requests to {len(operations)} operations in {took:.0f} s ({_shares(statuses)})",
        figure=f"{broken} answers of 500, {sum(odd.values())} not described" + (f": {result}" if result else ""),
        wanted="0, 0",
        met=not broken and not odd and statuses[503] < asked / 100,
    )


def _show_factor(client: httpx.Client) -> None:
    """Set up an authenticator app (RFC 6238), because an odd request may require one from everyone here."""
    code = code_of(client.post("/api/v1/session/app").raise_for_status().json()["secret"])
    client.put("/api/v1/session/app", json={"code": code}).raise_for_status()


def _client_for(siege: Siege, operation: Any) -> httpx.Client:
    if operation.path not in LOCKED_OUT:
        return siege.head
    client = client_of(siege.running.address)
    sign_in(client, json.loads(siege.running.output)["logins"][1])
    return client


def _fuzz(
    siege: Siege,
    operation: Any,
    client: httpx.Client,
    keys: Keys,
    share: int,
    number: int,
    odd: Counter[str],
    statuses: Counter[int],
) -> None:
    session = session_of(client)
    device = operation.path.startswith("/api/device/")
    described = {str(status) for status in operation.definition.raw["responses"]}

    @seed(number)
    @settings(
        max_examples=share,
        deadline=None,
        database=None,
        phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
        verbosity=Verbosity.quiet,
    )
    @given(case=operation.as_strategy(generation_mode=GenerationMode.POSITIVE) | operation.as_strategy())
    def ask(case: Any) -> None:
        keys.put_into(case)
        token = keys.token if device and keys.chance.random() < 0.9 else ""
        answer = send(case, session, siege.running.address, token)
        if answer is None:
            return
        statuses[answer.status_code] += 1
        if not {str(answer.status_code), f"{answer.status_code // 100}XX"} & described:
            odd[f"{operation.method.upper()} {operation.path} → {answer.status_code}"] += 1

    ask()


def session_of(client: httpx.Client) -> requests.Session:
    """Return a client's session in the form that the request library needs."""
    session = requests.Session()
    session.trust_env = False
    session.cookies.update(dict(client.cookies))
    session.headers["X-CSRFToken"] = client.headers["X-CSRFToken"]
    return session


def send(case: Any, session: requests.Session, address: str, token: str = "") -> Any:
    """Return the answer to a made-up request, or None if it cannot be sent."""
    case.cookies, case.headers = {}, {}
    headers = {"Authorization": f"Bearer {token}"} if token else {}
    try:
        return case.call(base_url=address, session=session, headers=headers, timeout=60)
    except (requests.exceptions.InvalidURL, requests.exceptions.InvalidHeader, UnicodeError, ValueError):
        return None


def described_operations() -> list[Any]:
    """Return every operation of the API as described in the tree."""
    schema = schemathesis.openapi.from_dict(json.loads((SERVER / "openapi.json").read_text()))
    return [found.ok() for found in schema.get_all_operations()]


def _shares(statuses: Counter[int]) -> str:
    return ", ".join(f"{status}: {count}" for status, count in statuses.most_common(6))
