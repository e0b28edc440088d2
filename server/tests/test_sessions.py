"""Signing in and sessions: slowed down, never locked by strangers, ended in time, stored hashed."""

from __future__ import annotations

import time

import pytest
from django.db import OperationalError
from django.test import Client

from instavis.accounts import sessions, tries
from instavis.accounts.models import CoachSession as Session
from instavis.accounts.sessions import SessionStore, coach_of, stored_key
from instavis.platform import throttle

from .conftest import PASSWORD, Caller


def visitor(address: str = "10.0.0.1") -> Caller:
    client = Client(REMOTE_ADDR=address)
    client.get("/")
    return Caller(client)


def enter(caller: Caller, coach, password: str = "wrong", status: int = 401, **headers) -> None:
    token = caller.client.cookies["instavis_csrf"].value
    body = {"username": coach.username, "password": password}
    caller("post", "/v1/session", body, status, **{"X-CSRFToken": token}, **headers)


def test_forged_address_is_ignored(coach):
    caller = visitor()
    for n in range(tries.PAIR_LIMIT):
        enter(caller, coach, **{"X-Forwarded-For": f"203.0.113.{n}"})
    enter(caller, coach, PASSWORD, 429, **{"X-Forwarded-For": "203.0.113.99"})


def test_strangers_cannot_lock_a_known_browser_out(coach):
    """Behind a proxy that hides who asks, everybody has one address."""
    mine = visitor()
    enter(mine, coach, PASSWORD, 200)
    stranger = visitor()
    for _ in range(tries.PAIR_LIMIT):
        enter(stranger, coach)
    enter(stranger, coach, PASSWORD, 429)
    enter(mine, coach, PASSWORD, 200)


def test_known_browser_is_limited_too(coach):
    mine = visitor()
    enter(mine, coach, PASSWORD, 200)
    for _ in range(tries.KNOWN_LIMIT):
        enter(mine, coach)
    enter(mine, coach, PASSWORD, 429)


def test_many_names_from_one_address_are_limited(coach):
    caller = visitor()
    token = caller.client.cookies["instavis_csrf"].value
    for n in range(tries.ADDRESS_LIMIT):
        body = {"username": f"somebody{n}", "password": "wrong"}
        caller("post", "/v1/session", body, 401, **{"X-CSRFToken": token})
    enter(caller, coach, PASSWORD, 429)
    enter(visitor("10.0.0.2"), coach, PASSWORD, 200)


def test_one_name_from_many_addresses_is_limited(coach, monkeypatch):
    monkeypatch.setattr(tries, "MAX_PER_NAME", 10)
    for n in range(10):
        enter(visitor(f"10.0.1.{n}"), coach)
    enter(visitor("10.0.1.200"), coach, PASSWORD, 429)


def test_ipv6_addresses_are_grouped_by_customer(coach):
    for n in range(tries.PAIR_LIMIT):
        enter(visitor(f"2001:db8:0:1::{n + 1:x}"), coach)
    enter(visitor("2001:db8:0:1:ffff::9"), coach, PASSWORD, 429)
    enter(visitor("2001:db8:0:2::1"), coach, PASSWORD, 200)


def test_forged_cookie_does_not_make_a_browser_known(coach):
    caller = visitor()
    caller.client.cookies["instavis_known"] = '{"browser": "x", "names": ["kelp"]}'
    for _ in range(tries.PAIR_LIMIT):
        enter(caller, coach)
    enter(caller, coach, PASSWORD, 429)


def test_database_stores_no_session_key(api, coach):
    key = api.client.cookies["instavis_session"].value
    rows = set(Session.objects.values_list("session_key", flat=True))
    assert key not in rows
    assert stored_key(key) in rows
    assert coach_of(key) == coach
    assert coach_of(stored_key(key)) is None
    assert coach_of(None) is None


def test_sign_out_takes_effect_at_once(api):
    key = api.client.cookies["instavis_session"].value
    api("delete", "/v1/session", status=204)
    assert coach_of(key) is None
    assert not Session.objects.filter(session_key=stored_key(key)).exists()


def test_password_change_ends_sessions(api, coach):
    key = api.client.cookies["instavis_session"].value
    coach.set_password("another-long-enough-one")
    coach.save()
    assert coach_of(key) is None
    api("get", "/v1/session", status=401)


@pytest.mark.parametrize(("age", "status"), [(sessions.LONGEST - 60, 200), (sessions.LONGEST + 60, 401)])
def test_session_has_a_maximum_age(api, age, status):
    store = SessionStore(api.client.cookies["instavis_session"].value)
    store[sessions.BEGUN] = int(time.time()) - age
    store.save()
    api("get", "/v1/session", status=status)


def test_last_use_is_written_rarely(api):
    api("get", "/v1/session")
    store = SessionStore(api.client.cookies["instavis_session"].value)
    first = store[sessions.SEEN]
    store[sessions.SEEN] = first - sessions.SEEN_EVERY - 1
    store.save()
    api("get", "/v1/session")
    assert SessionStore(store.session_key)[sessions.SEEN] >= first


def test_personal_answers_are_not_cached(api, client):
    assert api.client.get("/api/v1/students")["Cache-Control"] == "no-store"


def test_unknown_host_is_refused_with_a_reason(client, db):
    result = client.get("/", headers={"Host": "elsewhere.test"})
    assert result.status_code == 400
    assert result.json()["errors"][0]["field"] == "host"


@pytest.mark.parametrize("place", ["_get_session_from_db", "save"])
def test_lost_database_answers_503_during_authentication(api, monkeypatch, caplog, place):
    """Before any operation is reached: a middleware's errors take another way."""

    def away(*_, **__):
        raise OperationalError(2013, "Lost connection to server")

    monkeypatch.setattr(SessionStore, place, away)
    monkeypatch.setattr(sessions, "SEEN_EVERY", -1)  # there is something to be kept
    api.client.raise_request_exception = False
    result = api.client.get("/api/v1/students")
    assert result.status_code == 503
    assert result["Retry-After"]
    assert result.json()["errors"][0]["field"] == "server"
    assert not [r for r in caplog.records if r.exc_info]


def test_sign_ins_are_logged_without_typed_text(coach, caplog):
    caplog.set_level("INFO", "instavis")
    caller = visitor()
    enter(caller, coach)
    body = {"username": "typed-a-password-here", "password": "wrong"}
    caller("post", "/v1/session", body, 401, **{"X-CSRFToken": caller.client.cookies["instavis_csrf"].value})
    enter(caller, coach, PASSWORD, 200)
    lines = [(r.message, r.who) for r in caplog.records if r.message.startswith("sign-in")]
    wrong = "sign-in: password was wrong"
    assert lines == [(wrong, coach.pk), (wrong, None), ("sign-in: came in", coach.pk)]
    assert "typed-a-password-here" not in caplog.text


def test_failures_from_many_addresses_do_not_lock_a_new_browser(coach):
    """Sixty and more, from ten addresses; whoever tries from an address of their own comes in."""
    strangers = [visitor(f"198.51.100.{n}") for n in range(10)]
    for stranger in strangers:
        for _ in range(tries.PAIR_LIMIT):
            enter(stranger, coach)
    assert throttle.counted("sign-in", "name", coach.username.casefold()) >= tries.NAME_LIMIT
    enter(strangers[0], coach, PASSWORD, 429)
    enter(visitor("203.0.113.7"), coach, PASSWORD, 200)
