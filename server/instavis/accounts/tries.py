"""Limits on failed sign-ins: a forged address does not avoid them, and a stranger cannot lock a coach out.

A browser in which a coach has signed in before has a signed cookie. Its tries are counted separately; all others by
name and address, by address, and by name.
"""

from __future__ import annotations

import secrets
from dataclasses import dataclass

from django.conf import settings
from django.core import signing
from django.http import HttpRequest, HttpResponse

from instavis.platform import throttle
from instavis.platform.errors import Refused
from instavis_core.message import Message

COOKIE = "instavis_known"
COOKIE_LASTS = 180 * 24 * 3600
SALT = "instavis.accounts.tries"
MAX_COACHES = 8
WINDOW = 15 * 60
KNOWN_LIMIT, PAIR_LIMIT, ADDRESS_LIMIT, NAME_LIMIT, CODE_LIMIT = 8, 6, 30, 60, 8
"""Failed tries in a window: for a known browser, and for all others by name and address, by address, by name.

Codes are tried only by people who have the password, so they share one count.
"""
SPARED, MAX_PER_NAME = 3, 1200
"""Above the limit of a name, an address with few failures may still try, so strangers at other addresses do not lock
out a coach's new browser.

Above the last number nobody may.
"""


@dataclass(frozen=True)
class Counter:
    """One count of failed tries, and its limit."""

    what: tuple[str, ...]
    limit: int


@dataclass(frozen=True)
class Known:
    """A browser with its own name, and who has signed in there."""

    browser: str
    names: tuple[str, ...]


def counters(request: HttpRequest, username: str) -> list[Counter]:
    """Return the counters for a try to sign in under a name."""
    name = username.casefold()
    known = _known(request)
    if name in known.names:
        return [Counter(("known", known.browser, name), KNOWN_LIMIT)]
    address = throttle.address_of(request)
    pair = ("pair", address, name)
    spared = throttle.counted("sign-in", *pair) < SPARED
    return [
        Counter(pair, PAIR_LIMIT),
        Counter(("address", address), ADDRESS_LIMIT),
        Counter(("name", name), MAX_PER_NAME if spared else NAME_LIMIT),
    ]


def code_counters(username: str) -> list[Counter]:
    """Return the counters for a try with a code."""
    return [Counter(("code", username.casefold()), CODE_LIMIT)]


def knows(request: HttpRequest, username: str) -> bool:
    """Return whether a coach has signed in from this browser before."""
    return username.casefold() in _known(request).names


def refuse_too_many(counters: list[Counter]) -> None:
    """Raise an error before the password is checked if there were too many tries.

    Raises
    ------
    Refused
    """
    if any(throttle.counted("sign-in", *c.what) >= c.limit for c in counters):
        raise Refused(429, "password", Message("account-too-many-attempts-wait-15"))


def failed(counters: list[Counter]) -> None:
    """Count a try that failed."""
    for counter in counters:
        throttle.count("sign-in", *counter.what, window=WINDOW)


def succeeded(counters: list[Counter]) -> None:
    """Reset the counters of this browser, or of this name and address, after the right password."""
    throttle.forget("sign-in", *counters[0].what)


def remember(request: HttpRequest, response: HttpResponse, username: str) -> None:
    """Remember this browser under a coach's name."""
    known = _known(request)
    names = [username.casefold(), *(n for n in known.names if n != username.casefold())][:MAX_COACHES]
    value = signing.dumps({"browser": known.browser or secrets.token_hex(8), "names": names}, salt=SALT)
    response.set_cookie(
        COOKIE, value, COOKIE_LASTS, httponly=True, samesite="Lax", secure=settings.SECURE, path="/api/v1"
    )


def _known(request: HttpRequest) -> Known:
    try:
        result = signing.loads(request.COOKIES.get(COOKIE, ""), salt=SALT, max_age=COOKIE_LASTS)
    except signing.BadSignature:
        return Known("", ())
    return Known(result["browser"], tuple(result["names"]))
