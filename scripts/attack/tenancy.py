"""Every operation with real keys by every kind of stranger: one answer for "not yours" and "not there"."""

from __future__ import annotations

import json
import re
import time
from collections import Counter
from collections.abc import Iterator
from typing import Any

import httpx
from bench.target import Measured
from hypothesis import HealthCheck, Phase, Verbosity, given, seed, settings
from schemathesis.generation import GenerationMode

from attack.fuzz import described_operations, send, session_of
from attack.keys import Keys, keys_of
from attack.siege import Siege, client_of, sign_in
from launcher.application import make_ready

NOT_THERE = 999_999_999
TO_ALL = re.compile(r"^/api/v1/(?:session$|ask/|home/|mat)|^/api/device/")
"""Whose key is in the request itself, or that are there to sign in."""
DRAWN = re.compile(r"^/api/v1/(?:figures|drill-figures)/")  # from what ships


def attack(siege: Siege, examples: int) -> Iterator[Measured]:
    """Another academy's head coach, a device, and nobody."""
    keys = keys_of(siege)
    other = client_of(siege.running.address)
    academy = f"academy|Elsewhere {time.monotonic_ns()}|elsewhere{time.monotonic_ns()}"
    sign_in(other, json.loads(make_ready(siege.folder, siege.running.environment, academy)))
    device = client_of(siege.running.address)
    device.headers["Authorization"] = keys.token
    strangers = {
        "another academy's head coach": other,
        "a device": device,
        "nobody": client_of(siege.running.address),
    }
    asked = [o for o in described_operations() if not TO_ALL.match(o.path) and not DRAWN.match(o.path)]
    for who, client in strangers.items():
        leaks: Counter[str] = Counter()
        count = 0
        for operation in asked:
            count += _try(operation, client, keys, examples, leaks, siege.running.address)
        found = ", ".join(f"{what} ({n})" for what, n in leaks.most_common(8))
        yield Measured(
            what=f"{len(asked)} operations by {who}, {count} requests in pairs",
            figure=f"{sum(leaks.values())} leaks" + (f": {found}" if found else ""),
            wanted="0 leaks",
            met=not leaks and count > 0,
        )


def _try(operation: Any, client: httpx.Client, keys: Keys, examples: int, leaks: Counter[str], address: str) -> int:
    """Ask with a real key and with one that is nobody's: both answers are the same, and none is a good one."""
    count = 0
    session = session_of(client)
    names = re.findall(r"{(\w+)}", operation.path)

    @seed(1)
    @settings(
        max_examples=examples,
        deadline=None,
        database=None,
        phases=[Phase.generate],
        suppress_health_check=list(HealthCheck),
        verbosity=Verbosity.quiet,
    )
    @given(case=operation.as_strategy(generation_mode=GenerationMode.POSITIVE))
    def ask(case: Any) -> None:
        nonlocal count
        ours = [name for name in names if keys.one(name) is not None]
        answers = []
        for real in (True, False):
            for name in ours:
                case.path_parameters[name] = keys.one(name) if real else NOT_THERE
            answers.append(send(case, session, address, client.headers.get("Authorization", "")))
        first, second = answers
        if first is None or second is None:
            return
        count += 1
        same = (first.status_code, first.content) == (second.status_code, second.content)
        if ours and (first.status_code < 400 or not same):
            leaks[f"{operation.method.upper()} {operation.path} → {first.status_code}/{second.status_code}"] += 1

    ask()
    return count
