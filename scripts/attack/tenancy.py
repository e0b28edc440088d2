"""Every operation with real keys by every kind of stranger: "not yours" and "not there" give the same answer."""

from __future__ import annotations

import json
import re
import time
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

import httpx
from bench.target import Measured
from hypothesis import HealthCheck, Phase, Verbosity, given, seed, settings
from schemathesis.generation import GenerationMode

from attack.fuzz import described_operations, send, session_of
from attack.keys import Keys, keys_of
from attack.siege import Siege, client_of, sign_in
from launcher.application import make_ready

NOT_THERE, NOT_A_TOKEN = 999_999_999, "no-token-of-anybody"
TO_ALL = re.compile(r"^/api/v1/(?:session(?:/code|/passkey|/passkey-challenge)?|mat|password-lost)$|^/api/device/")
"""Operations for signing in, or whose key is in the request itself."""
LINK_PATHS = {"home": "/api/v1/home/", "ask": "/api/v1/ask/", "mat": "/api/v1/mat/"}
"""What each kind of link opens for its holder."""
DRAWN = re.compile(r"^/api/v1/(?:figures|drill-figures|eye/swings)/")  # from what ships


@dataclass(frozen=True)
class Stranger:
    """A person without rights to these objects; ``link`` is the kind and token of a link they hold."""

    who: str
    client: httpx.Client
    link: tuple[str, str] | None = None

    @property
    def token(self) -> str:
        """Return a token to put into addresses; without a link there is none, because a link opens its object to its
        holder.
        """
        return self.link[1] if self.link else NOT_A_TOKEN

    def may_open(self, path: str) -> bool:
        """Return whether their link is the one that the operation is for."""
        return self.link is not None and path.startswith(LINK_PATHS[self.link[0]])


def attack(siege: Siege, examples: int, one_of: int = 1) -> Iterator[Measured]:
    """Try every operation as another academy's head coach, a device, a student's links, a second screen, and nobody."""
    keys, address = keys_of(siege), siege.running.address
    asked = [o for o in described_operations() if not TO_ALL.match(o.path) and not DRAWN.match(o.path)][::one_of]
    strangers = list(_strangers(siege, keys))
    leaks: dict[str, Counter[str]] = {stranger.who: Counter() for stranger in strangers}
    pairs: Counter[str] = Counter()
    for operation in asked:
        _try(operation, [s for s in strangers if not s.may_open(operation.path)], keys, examples, leaks, pairs, address)
    for who, found in leaks.items():
        result = ", ".join(f"{what} ({n})" for what, n in found.most_common(8))
        yield Measured(
            what=f"{len(asked)} operations by {who}, {pairs[who]} requests in pairs",
            figure=f"{sum(found.values())} leaks" + (f": {result}" if result else ""),
            wanted="0 leaks",
            met=not found and pairs[who] > 0,
        )


def _strangers(siege: Siege, keys: Keys) -> Iterator[Stranger]:
    address = siege.running.address
    other = client_of(address)
    academy = f"academy|Elsewhere {time.monotonic_ns()}|elsewhere{time.monotonic_ns()}"
    sign_in(other, json.loads(make_ready(siege.folder, siege.running.loader, academy)))
    yield Stranger("another academy's head coach", other)
    yield Stranger("a device", _bearing(address, keys.token))
    for kind, token in _links(siege, keys).items():
        names = {"home": "a student's take-home link", "ask": "a student's questions", "mat": "a second screen"}
        yield Stranger(names[kind], _bearing(address, token), (kind, token))
    yield Stranger("nobody", client_of(address))


def _bearing(address: str, token: str) -> httpx.Client:
    """Return a client without a session but with a token."""
    client = client_of(address)
    client.headers["Authorization"] = token
    return client


def _links(siege: Siege, keys: Keys) -> dict[str, str]:
    """Return a valid token of every kind of link."""
    lesson = keys.one("lesson_id")
    asked = siege.head.post(f"/api/v1/lessons/{lesson}/intake-link").raise_for_status().json()
    code = siege.head.post(f"/api/v1/lessons/{lesson}/screens").raise_for_status().json()["code"]
    paired = client_of(siege.running.address).post("/api/v1/mat", json={"code": code}).raise_for_status().json()
    tokens = {"home": keys.home, "ask": asked["path"].rpartition("/")[2], "mat": paired["token"]}
    for kind, token in tokens.items():
        assert client_of(siege.running.address).get(f"{LINK_PATHS[kind]}{token}").is_success, kind
    return tokens


def _try(
    operation: Any,
    strangers: list[Stranger],
    keys: Keys,
    examples: int,
    leaks: dict[str, Counter[str]],
    pairs: Counter[str],
    address: str,
) -> None:
    """Request with a real key and with a nonexistent one: both answers are the same, and neither succeeds."""
    names = re.findall(r"{(\w+)}", operation.path)
    ours = [name for name in names if keys.one(name) is not None]
    sessions = {stranger.who: session_of(stranger.client) for stranger in strangers}

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
        for stranger in strangers:
            answers = []
            for real in (True, False):
                for name in ours:
                    known = stranger.token if name == "token" else keys.one(name)
                    case.path_parameters[name] = known if real else NOT_THERE
                bearing = stranger.client.headers.get("Authorization", "")
                answers.append(send(case, sessions[stranger.who], address, bearing))
            first, second = answers
            if first is None or second is None:
                continue
            pairs[stranger.who] += 1
            same = (first.status_code, first.content) == (second.status_code, second.content)
            if ours and (first.status_code < 400 or not same):
                what = f"{operation.method.upper()} {operation.path} → {first.status_code}/{second.status_code}"
                leaks[stranger.who][what] += 1

    ask()
