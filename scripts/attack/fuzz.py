"""Requests of any kind to every operation of the interface: no answer of 500, none that is not described."""

from __future__ import annotations

import json
import time
from collections import Counter
from collections.abc import Iterator
from typing import Any

import httpx
import schemathesis
from bench.target import Measured
from hypothesis import HealthCheck, Phase, Verbosity, given, seed, settings
from schemathesis.generation import GenerationMode

from attack.keys import Keys, keys_of
from attack.siege import Siege, besieged, client_of, sign_in
from launcher.shape import Shape

LOCKED_OUT = ("/api/v1/session",)
"""Operations that end the session that all others need; a client of their own does them."""
AT_ONCE = 50


def attack(requests: int, number: int) -> Iterator[Measured]:
    """Every operation gets the same share; half of the path's keys are real ones."""
    with besieged(Shape(web=2, workers=1)) as siege:
        document = siege.head.get("/api/openapi.json")
        assert document.status_code == 404  # the description is not served; it is in the tree
        schema = schemathesis.openapi.from_dict(json.loads(_description()))
        operations = [found.ok() for found in schema.get_all_operations()]
        odd: Counter[str] = Counter()
        statuses: Counter[int] = Counter()
        begun, keys = time.monotonic(), keys_of(siege)
        share = max(1, requests // len(operations))
        for operation in operations:
            _fuzz(siege, operation, keys, share, number, odd, statuses)
        took = time.monotonic() - begun
    count = sum(statuses.values())
    broken = sum(n for status, n in statuses.items() if status >= 500 and status != 503)
    told = "; ".join(f"{what} ({n})" for what, n in odd.most_common(12))
    yield Measured(
        what=f"{count} requests to {len(operations)} operations in {took:.0f} s ({_shares(statuses)})",
        figure=f"{broken} answers of 500, {sum(odd.values())} not described" + (f": {told}" if told else ""),
        wanted="0, 0",
        met=not broken and not odd and statuses[503] < count / 100,
    )


def _fuzz(
    siege: Siege, operation: Any, keys: Keys, share: int, number: int, odd: Counter[str], statuses: Counter[int]
) -> None:
    client = siege.head
    if operation.path in LOCKED_OUT:
        client = client_of(siege.running.address)
        sign_in(client, json.loads(siege.running.told)["logins"][1])
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
        request = case.as_transport_kwargs(base_url=siege.running.address)
        headers = {k: v for k, v in dict(request.get("headers") or {}).items() if k.lower() not in FORBIDDEN}
        if device and keys.chance.random() < 0.9:
            headers["Authorization"] = f"Bearer {keys.token}"
        try:
            answer = client.request(
                request["method"],
                request["url"],
                params=request.get("params"),
                json=request.get("json"),
                content=request.get("data") if isinstance(request.get("data"), bytes | str) else None,
                files=request.get("files"),
                headers=headers,
            )
        except (httpx.InvalidURL, httpx.LocalProtocolError, UnicodeEncodeError, ValueError):
            return  # nothing that could be sent
        statuses[answer.status_code] += 1
        if str(answer.status_code) not in described and answer.status_code not in (301, 302):
            odd[f"{operation.method.upper()} {operation.path} → {answer.status_code}"] += 1

    ask()


FORBIDDEN = {"cookie", "authorization", "x-csrftoken", "host", "content-length", "transfer-encoding"}


def _description() -> str:
    from launcher.paths import SERVER

    return (SERVER / "openapi.json").read_text()


def _shares(statuses: Counter[int]) -> str:
    return ", ".join(f"{status}: {count}" for status, count in statuses.most_common(6))
