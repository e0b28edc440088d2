"""Second factors: app, passkeys, recovery codes; a lost phone, and what a thief cannot do."""

from __future__ import annotations

import base64
import json
import time
from types import SimpleNamespace

import pytest
from allauth.mfa.models import Authenticator
from allauth.mfa.totp.internal import auth as totp
from attack.authenticator import code_of
from django.test import Client, TestCase

from instavis.accounts import factors, sessions, tries
from instavis.accounts.models import AuditLine, Coach
from instavis.accounts.sessions import SessionStore, coach_of

from .conftest import PASSWORD, Caller, academy_with_coach, signed_in
from .passkeys import PRESENT, SecurityKey

GOOD = "salt-marsh-heron-41"


def test_test_codes_match_rfc_6238():
    secret = base64.b32encode(b"12345678901234567890").decode()
    assert [code_of(secret, at) for at in (59, 1111111109, 20000000000)] == ["287082", "081804", "353130"]


@pytest.fixture(autouse=True)
def _no_code_runs_out_between_its_making_and_its_use(monkeypatch):
    now = time.time()
    monkeypatch.setattr(totp, "time", SimpleNamespace(time=lambda: now))


@pytest.fixture
def visitor(db) -> Caller:
    client = Client()
    client.get("/")
    return Caller(client)


def another_visitor() -> Caller:
    client = Client()
    client.get("/")
    return Caller(client)


def with_app(api) -> tuple[str, list[str]]:
    """An app set up; its secret and the recovery codes."""
    secret = api("post", "/v1/session/app")["secret"]
    return secret, api("put", "/v1/session/app", {"code": code_of(secret, totp.time.time() - 30)})["codes"]


def with_passkey(api, name: str = "Phone") -> tuple[SecurityKey, list[str]]:
    key = SecurityKey()
    made = key.make(api("post", "/v1/session/passkeys/challenge")["options"])
    return key, api("post", "/v1/session/passkeys", {"name": name, "credential": made}, 201)["codes"]


def with_password(visitor, coach, status: int = 202, password: str = PASSWORD):
    return visitor("post", "/v1/session", {"username": coach.username, "password": password}, status)


def by_passkey(visitor, key: SecurityKey, status: int = 200, **how):
    shown = key.show(visitor("post", "/v1/session/passkey-challenge")["options"], **how)
    return visitor("post", "/v1/session/passkey", {"credential": shown}, status)


def test_app_counts_after_its_first_code(api, coach, visitor):
    first = api("post", "/v1/session/app")
    assert first["picture"].startswith("data:image/svg+xml;base64,")
    assert b"<svg" in base64.b64decode(first["picture"].partition(",")[2])
    api("put", "/v1/session/app", {"code": "000000"}, 422)
    assert with_password(visitor, coach, 200)["username"] == coach.username  # nothing counts yet
    visitor("delete", "/v1/session", status=204)
    secret, codes = with_app(api)
    assert len(codes) == len(set(codes)) == 10
    result = api("get", "/v1/session/account")
    assert result["app_since"]
    assert result["codes_left"] == 10
    assert secret not in json.dumps(result)
    assert with_password(visitor, coach) == {"ways": ["code"]}
    visitor("get", "/v1/session", status=401)
    visitor("get", "/v1/students", status=401)
    assert visitor("post", "/v1/session/code", {"code": code_of(secret)})["username"] == coach.username
    visitor("get", "/v1/students")


def test_secrets_are_encrypted_in_the_database(api, coach):
    secret, codes = with_app(api)
    stored = json.dumps(list(Authenticator.objects.values_list("data", flat=True)))
    assert secret not in stored
    assert not any(code in stored for code in codes)


def test_secrets_of_another_installation_are_useless(api, coach, visitor, settings):
    secret, codes = with_app(api)
    settings.SECRET_KEY = "another-installation"
    assert factors.factors_of(coach).codes_left == 0
    coach.set_password(PASSWORD)
    with_password(visitor, coach)
    empty = base64.b32encode(b"").decode()
    for code in (code_of(secret), code_of(empty), codes[0]):
        visitor("post", "/v1/session/code", {"code": code}, 401)


def test_code_works_once(api, coach, visitor):
    secret, codes = with_app(api)
    code = code_of(secret)
    with_password(visitor, coach)
    visitor("post", "/v1/session/code", {"code": f"{code[:3]} {code[3:]}"})
    second = another_visitor()
    with_password(second, coach)
    second("post", "/v1/session/code", {"code": code}, 401)
    second("post", "/v1/session/code", {"code": codes[0]})
    third = another_visitor()
    with_password(third, coach)
    third("post", "/v1/session/code", {"code": codes[0]}, 401)
    assert api("get", "/v1/session/account")["codes_left"] == 9
    assert "A recovery code was used to sign in." in [n["text"] for n in api("get", "/v1/session/notices")]


def test_code_without_password_is_refused(api, coach, visitor):
    secret, _ = with_app(api)
    visitor("post", "/v1/session/code", {"code": code_of(secret)}, 401)


def test_first_step_expires(api, coach, visitor, monkeypatch):
    secret, _ = with_app(api)
    monkeypatch.setattr("instavis.accounts.session_api.WAITS_FOR", -1)
    with_password(visitor, coach)
    result = visitor("post", "/v1/session/code", {"code": code_of(secret)}, 401)
    assert result["errors"][0]["field"] == "session"


def test_password_change_ends_the_first_step(api, coach, visitor):
    secret, _ = with_app(api)
    with_password(visitor, coach)
    api("post", "/v1/session/password", {"old": PASSWORD, "new": GOOD}, 204)
    visitor("post", "/v1/session/code", {"code": code_of(secret)}, 401)


def test_guessing_second_factor_codes_is_limited(api, coach, visitor):
    secret, _ = with_app(api)
    for _ in range(tries.CODE_LIMIT):
        each = another_visitor()
        with_password(each, coach)
        each("post", "/v1/session/code", {"code": "123456"}, 401)
    with_password(visitor, coach)
    visitor("post", "/v1/session/code", {"code": code_of(secret)}, 429)


def test_passkey_replaces_both_steps(api, coach, visitor):
    key, codes = with_passkey(api)
    assert len(codes) == 10
    assert [k["name"] for k in api("get", "/v1/session/account")["passkeys"]] == ["Phone"]
    assert by_passkey(visitor, key)["username"] == coach.username
    visitor("get", "/v1/students")
    third = another_visitor()
    assert with_password(third, coach) == {"ways": ["code", "passkey"]}  # the password alone is not enough any more
    assert by_passkey(third, key)["username"] == coach.username


@pytest.mark.parametrize("wrong", ["key", "challenge", "unverified", "origin", "nobody", "left", "used"])
def test_every_invalid_passkey_gets_the_same_refusal(api, coach, visitor, wrong):
    key, _ = with_passkey(api)
    options = visitor("post", "/v1/session/passkey-challenge")["options"]
    how = {}
    if wrong == "key":
        other = SecurityKey()
        other.id, other.user = key.id, key.user
        key = other
    elif wrong == "challenge":
        options = another_visitor()("post", "/v1/session/passkey-challenge")["options"]
    elif wrong == "unverified":
        how = {"flags": PRESENT}
    elif wrong == "origin":
        key.host = "elsewhere.test"
    elif wrong == "nobody":
        key.user = "OTk5OTk5"
    elif wrong == "left":
        Coach.objects.filter(pk=coach.pk).update(is_active=False)
    shown = key.show(options, **how)
    if wrong == "used":
        visitor("post", "/v1/session/passkey", {"credential": shown})
        visitor("delete", "/v1/session", status=204)
    result = visitor("post", "/v1/session/passkey", {"credential": shown}, 401)
    assert result["errors"][0]["field"] == "passkey"
    visitor("get", "/v1/session", status=401)


ODD = [None, 7, "x", [], {}, "AAAA", "!!", {"clientDataJSON": "AA"}, "ÿ" * 9]


@pytest.mark.parametrize("odd", ODD, ids=str)
def test_invalid_passkey_data_never_crashes(api, visitor, odd):
    key = SecurityKey()
    made = key.make(api("post", "/v1/session/passkeys/challenge")["options"])
    for place in ("id", "rawId", "response", "clientExtensionResults"):
        body = {"credential": {**made, place: odd}}
        assert api.client.post("/api/v1/session/passkeys", json.dumps(body), "application/json").status_code in (
            201,
            409,
            422,
        )
    for part in ("clientDataJSON", "attestationObject"):
        result = {**made, "response": {**made["response"], part: odd}}
        body = {"credential": result}
        assert api.client.post("/api/v1/session/passkeys", json.dumps(body), "application/json").status_code == 422
    shown = key.show(visitor("post", "/v1/session/passkey-challenge")["options"])
    for part in ("clientDataJSON", "authenticatorData", "signature", "userHandle"):
        result = {**shown, "response": {**shown["response"], part: odd}}
        body = {"credential": result}
        status = visitor.client.post("/api/v1/session/passkey", json.dumps(body), "application/json").status_code
        assert status in (401, 422), part


def test_changing_sign_in_needs_recent_confirmation(api, coach, visitor):
    key, _ = with_passkey(api)
    store = SessionStore(api.client.cookies["instavis_session"].value)
    store[sessions.CONFIRMED] = int(time.time()) - sessions.CONFIRMED_FOR - 1
    store.save()
    for method, path, body in (
        ("post", "/v1/session/app", None),
        ("post", "/v1/session/codes", None),
        ("post", "/v1/session/passkeys/challenge", None),
        ("delete", f"/v1/session/passkeys/{api('get', '/v1/session/account')['passkeys'][0]['id']}", None),
        ("put", "/v1/session/email", {"address": "kelp@example.org"}),
        ("post", f"/v1/coaches/{coach.pk}/password-link", None),
        ("delete", f"/v1/coaches/{coach.pk}/factors", None),
    ):
        assert api(method, path, body, 403)["errors"][0]["field"] == "confirm", path
    api("post", "/v1/session/confirmed", {"password": "wrong"}, 422)
    api("post", "/v1/session/codes", status=403)
    before = api.client.cookies["instavis_session"].value
    by_passkey(api, key)
    assert api.client.cookies["instavis_session"].value == before  # lines that are open stay open
    assert len(api("post", "/v1/session/codes")["codes"]) == 10
    store = SessionStore(before)
    store[sessions.CONFIRMED] = 0
    store.save()
    api("post", "/v1/session/confirmed", {"password": PASSWORD}, 204)
    api("post", "/v1/session/codes")


def test_removed_factor_is_not_requested(api, coach, visitor):
    _, codes = with_app(api)
    api("post", "/v1/session/app", status=409)
    with_passkey(api)
    assert api("delete", "/v1/session/app")["app_since"] is None
    api("delete", "/v1/session/app", status=404)
    [row] = api("get", "/v1/session/account")["passkeys"]
    assert api("delete", f"/v1/session/passkeys/{row['id']}")["codes_left"] == 0
    api("post", "/v1/session/codes", status=409)
    assert with_password(visitor, coach, 200)["username"] == coach.username
    texts = [row["text"] for row in api("get", "/v1/session/notices")]
    assert texts[-4:] == [
        "A passkey was removed.",
        "The authenticator app was removed.",
        "A passkey was added: Phone.",
        "An authenticator app was added.",
    ]
    assert AuditLine.objects.filter(text__contains="activity-own-account").count() == 4


def test_new_recovery_codes_replace_the_old(api, coach, visitor):
    _, codes = with_app(api)
    fresh = api("post", "/v1/session/codes")["codes"]
    assert not set(fresh) & set(codes)
    with_password(visitor, coach)
    visitor("post", "/v1/session/code", {"code": codes[0]}, 401)
    visitor("post", "/v1/session/code", {"code": fresh[0]})


def test_number_of_passkeys_is_limited(api, monkeypatch):
    monkeypatch.setattr(factors, "MAX_PASSKEYS", 1)
    with_passkey(api)
    api("post", "/v1/session/passkeys/challenge", status=409)


def test_password_link_does_not_bypass_the_second_factor(api, coach, visitor):
    secret, _ = with_app(api)
    path = api("post", f"/v1/coaches/{coach.pk}/password-link", status=201)["path"]
    assert visitor("post", f"/v1{path}", {"password": GOOD}, 202) == {"ways": ["code"]}
    visitor("get", "/v1/session", status=401)
    visitor("post", "/v1/session/code", {"code": code_of(secret)})


def test_head_coach_removes_factors_and_the_coach_is_notified(api, coach, visitor):
    other = Coach.objects.create_user("sorrel", password=PASSWORD, name="Sorrel", role="coach", academy=coach.academy)
    with_app(signed_in(other))
    listed = {row["username"]: row["second_factor"] for row in api("get", "/v1/coaches")}
    assert listed == {"kelp": False, "sorrel": True}
    foreign = signed_in(academy_with_coach("driftwood"))
    foreign("delete", f"/v1/coaches/{other.pk}/factors", status=404)
    api("delete", f"/v1/coaches/{other.pk}/factors", status=204)
    api("delete", f"/v1/coaches/{other.pk}/factors", status=409)
    assert with_password(visitor, other, 200)["username"] == "sorrel"
    texts = [row["text"] for row in visitor("get", "/v1/session/notices")]
    assert "Kelp removed all second factors." in texts


def test_another_coachs_passkey_cannot_be_registered(api, coach):
    other = Coach.objects.create_user("sorrel", password=PASSWORD, name="Sorrel", role="coach", academy=coach.academy)
    theirs = signed_in(other)
    with_passkey(theirs)
    [row] = theirs("get", "/v1/session/account")["passkeys"]
    api("delete", f"/v1/session/passkeys/{row['id']}", status=404)
    assert len(theirs("get", "/v1/session/account")["passkeys"]) == 1


def test_required_second_factor_blocks_password_only_sessions(api, coach, visitor):
    other = Coach.objects.create_user("sorrel", password=PASSWORD, name="Sorrel", role="coach", academy=coach.academy)
    with_app(api)
    assert api("patch", "/v1/academy", {"asks_for_factor": True})["asks_for_factor"]
    api("get", "/v1/students")  # who has shown one goes on
    assert with_password(visitor, other, 200)["needs_factor"] is True
    for method, path in (("get", "/v1/students"), ("get", "/v1/lessons"), ("post", "/v1/bookings")):
        result = visitor(method, path, {"student_id": 1, "coach_id": 1} if method == "post" else None, 403)
        assert result["errors"][0]["field"] == "second_factor"
    assert visitor("get", "/v1/session")["needs_factor"] is True
    assert coach_of(visitor.client.cookies["instavis_session"].value) is None  # no live line either
    key, _ = with_passkey(visitor)
    assert visitor("get", "/v1/session")["needs_factor"] is False
    visitor("get", "/v1/students")
    again = another_visitor()
    by_passkey(again, key)
    again("get", "/v1/students")
    api("patch", "/v1/academy", {"asks_for_factor": False})


def test_removing_the_only_factor_asks_for_a_new_one(api, coach, visitor):
    with_app(api)
    api("patch", "/v1/academy", {"asks_for_factor": True})
    api("delete", "/v1/session/app")
    assert with_password(visitor, coach, 200)["needs_factor"] is True
    visitor("get", "/v1/students", status=403)


def test_head_coach_ends_all_sessions_of_a_coach(api, coach):
    other = Coach.objects.create_user("sorrel", password=PASSWORD, name="Sorrel", role="coach", academy=coach.academy)
    theirs = [signed_in(other), signed_in(other)]
    with TestCase.captureOnCommitCallbacks(execute=True):
        api("delete", f"/v1/coaches/{other.pk}/sessions", status=204)
    for session in theirs:
        session("get", "/v1/session", status=401)
    assert api("get", "/v1/audit")[0]["text"] == "Sorrel was signed out everywhere."
    signed_in(academy_with_coach("driftwood"))("delete", f"/v1/coaches/{other.pk}/sessions", status=404)


def test_setup_code_cannot_be_reused(api, coach, visitor):
    secret = api("post", "/v1/session/app")["secret"]
    code = code_of(secret)
    api("put", "/v1/session/app", {"code": code})
    with_password(visitor, coach, 202)
    visitor("post", "/v1/session/code", {"code": code}, 401)


def test_requiring_factors_needs_an_own_factor(api):
    refused = api("patch", "/v1/academy", {"asks_for_factor": True}, 409)
    assert refused["errors"][0]["field"] == "asks_for_factor"
    assert api("get", "/v1/academy")["asks_for_factor"] is False
    api("get", "/v1/students")
    with_app(api)
    api("patch", "/v1/academy", {"asks_for_factor": True})
    api("patch", "/v1/academy", {"asks_for_factor": False})
