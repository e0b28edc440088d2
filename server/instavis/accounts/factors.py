"""Second factors: an authenticator app, passkeys, and recovery codes for a lost phone.

The cryptography and the tables are django-allauth's; the rules are here.
"""

from __future__ import annotations

import base64
import hashlib
import json
import secrets
import struct
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from allauth.mfa.adapter import DefaultMFAAdapter, get_adapter
from allauth.mfa.base.forms import AuthenticateForm
from allauth.mfa.models import Authenticator
from allauth.mfa.recovery_codes.internal.auth import RecoveryCodes
from allauth.mfa.totp.forms import ActivateTOTPForm
from allauth.mfa.totp.internal.auth import TOTP, clear_totp_secret
from allauth.mfa.webauthn.forms import AddWebAuthnForm, LoginWebAuthnForm
from allauth.mfa.webauthn.internal.auth import WebAuthn, begin_authentication, begin_registration
from cryptography.fernet import Fernet, InvalidToken
from django.conf import settings
from django.contrib.auth.models import AbstractBaseUser
from django.core.cache import cache
from django.forms import Form
from django.http import HttpRequest

from instavis.accounts.models import Coach
from instavis.platform.errors import Refused, not_found
from instavis.platform.transactions import transactional
from instavis_core.message import Message

MAX_PASSKEYS = 10
CODE_LASTS = 120
"""Seconds in which a used code of the app is not accepted again: longer than it is valid."""
APP, CODES, PASSKEY = Authenticator.Type.TOTP, Authenticator.Type.RECOVERY_CODES, Authenticator.Type.WEBAUTHN


class Adapter(DefaultMFAAdapter):
    """What allauth needs to know: secrets are encrypted with the installation's secret."""

    def encrypt(self, text: str) -> str:
        """Encrypt a secret for storage."""
        return _cipher().encrypt(text.encode()).decode()

    def decrypt(self, encrypted_text: str) -> str:
        """Decrypt a stored secret; if it was stored under another installation's secret, no code matches it."""
        return _stored_secret(encrypted_text) or base64.b32encode(secrets.token_bytes(20)).decode()

    def get_totp_issuer(self) -> str:
        """Name that the app shows above the code."""
        return "Instavis"

    def _get_user_identifier(self, user: AbstractBaseUser) -> str:
        return str(user.get_username())

    def get_public_key_credential_user_entity(self, user: AbstractBaseUser) -> dict[str, Any]:
        """Who a passkey is for, as the browser shows it."""
        return {**super().get_public_key_credential_user_entity(user), "display_name": getattr(user, "name", "")}


def _stored_secret(encrypted: str) -> str | None:
    try:
        return _cipher().decrypt(encrypted.encode()).decode()
    except InvalidToken:
        return None


def _cipher() -> Fernet:
    return Fernet(base64.urlsafe_b64encode(hashlib.sha256(f"second factors {settings.SECRET_KEY}".encode()).digest()))


@dataclass(frozen=True)
class Passkey:
    """One of a coach's passkeys."""

    id: int
    name: str
    added_at: datetime
    used_at: datetime | None


@dataclass(frozen=True)
class Factors:
    """What a coach has besides the password."""

    app_since: datetime | None
    codes_left: int
    passkeys: list[Passkey]


def factors_of(coach: Coach) -> Factors:
    """Return a coach's second factors, without secrets."""
    rows = list(Authenticator.objects.filter(user=coach).order_by("pk"))
    app = next((row.created_at for row in rows if row.type == APP), None)
    left = sum(len(row.wrap().get_unused_codes()) for row in rows if row.type == CODES and _readable(row))
    keys = [Passkey(r.pk, r.wrap().name, r.created_at, r.last_used_at) for r in rows if r.type == PASSKEY]
    return Factors(app, left, keys)


def _readable(row: Authenticator) -> bool:
    return _stored_secret(row.data["seed" if row.type == CODES else "secret"]) is not None


def second_factors(coach: Coach) -> list[str]:
    """Return what is needed besides the password: ``code``, ``passkey``; empty if nothing is."""
    kinds = set(Authenticator.objects.filter(user=coach).values_list("type", flat=True))
    if not kinds & {APP, PASSKEY}:
        return []
    return [name for name, of in (("code", {APP, CODES}), ("passkey", {PASSKEY})) if kinds & of]


def check_code(coach: Coach, code: str) -> str | None:
    """Return which kind of code this is, app or recovery, or None if it is wrong.

    Each works once.
    """
    code = "".join(code.split())
    form = AuthenticateForm(user=coach, data={"code": code})
    if not code or not _valid(form):
        return None
    if form.authenticator.type == APP and not _once(coach, code):
        return None
    form.authenticator.record_usage()
    return str(form.authenticator.type)


def _once(coach: Coach, code: str) -> bool:
    """Use up a code of the app; return False if it was used before, also to set up the app."""
    return bool(cache.add(f"code-used:{coach.pk}:{''.join(code.split())}", 1, CODE_LASTS))


@dataclass(frozen=True)
class AppSecret:
    """What an authenticator app needs: a text to type and a picture to scan."""

    secret: str
    picture: str


def begin_app(request: HttpRequest, coach: Coach) -> AppSecret:
    """Return a new secret for an app; it counts once one of its codes was entered."""
    _refuse_second_app(coach)
    form = ActivateTOTPForm(user=coach)
    adapter = get_adapter()
    svg = adapter.build_totp_svg(adapter.build_totp_url(coach, form.secret))
    return AppSecret(form.secret, "data:image/svg+xml;base64," + base64.b64encode(svg.encode()).decode())


@transactional
def add_app(request: HttpRequest, coach: Coach, code: str) -> list[str]:
    """Start using the app with one of its codes; return recovery codes if there were none.

    Raises
    ------
    Refused
    """
    _alone(coach)
    _refuse_second_app(coach)
    form = ActivateTOTPForm(user=coach, data={"code": "".join(code.split())})
    if not _valid(form):
        raise Refused(422, "code", Message("account-code-wrong-check-clock-your"))
    TOTP.activate(coach, form.secret)
    clear_totp_secret(request)
    _once(coach, code)
    return _first_codes(coach)


def _refuse_second_app(coach: Coach) -> None:
    if Authenticator.objects.filter(user=coach, type=APP).exists():
        raise Refused(409, "app", Message("account-app-already-set-up-remove"))


@transactional
def remove_app(coach: Coach) -> None:
    """Stop using the app.

    Raises
    ------
    Refused
    """
    _alone(coach)
    if not Authenticator.objects.filter(user=coach, type=APP).delete()[0]:
        raise not_found("app")
    _drop_lonely_codes(coach)


@transactional
def new_codes(coach: Coach) -> list[str]:
    """Replace the recovery codes by ten new ones.

    Raises
    ------
    Refused
        When there is nothing they would replace.
    """
    _alone(coach)
    if not second_factors(coach):
        raise Refused(409, "codes", Message("account-recovery-codes-need-app-passkey"))
    Authenticator.objects.filter(user=coach, type=CODES).delete()
    return _first_codes(coach)


def _first_codes(coach: Coach) -> list[str]:
    if Authenticator.objects.filter(user=coach, type=CODES).exists():
        return []
    return list(RecoveryCodes.activate(coach).get_unused_codes())


def begin_passkey(coach: Coach) -> dict[str, Any]:
    """Return what a browser needs to make a passkey.

    Raises
    ------
    Refused
    """
    if Authenticator.objects.filter(user=coach, type=PASSKEY).count() >= MAX_PASSKEYS:
        raise Refused(409, "passkey", Message("account-you-ten-passkeys-remove-one"))
    return _plain(begin_registration(coach, passwordless=True))


@transactional
def add_passkey(coach: Coach, name: str, credential: dict[str, Any]) -> list[str]:
    """Store a passkey that a browser made; return recovery codes if there were none.

    Raises
    ------
    Refused
    """
    _alone(coach)
    data = {"name": name.strip(), "credential": json.dumps(credential), "passwordless": True}
    form = AddWebAuthnForm(user=coach, data=data)
    with _errors_as_refusal():
        if not _valid(form):
            raise _passkey_refused()
    WebAuthn.add(coach, form.cleaned_data["name"][:60], form.cleaned_data["credential"])
    return _first_codes(coach)


@transactional
def remove_passkey(coach: Coach, passkey_id: int) -> None:
    """Remove a passkey.

    Raises
    ------
    Refused
    """
    _alone(coach)
    if not Authenticator.objects.filter(user=coach, type=PASSKEY, pk=passkey_id).delete()[0]:
        raise not_found("passkey")
    _drop_lonely_codes(coach)


def ask_for_passkey() -> dict[str, Any]:
    """Return what a browser needs to show any passkey."""
    return _plain(begin_authentication())


def check_passkey(credential: dict[str, Any]) -> Coach:
    """Whose passkey was shown.

    Raises
    ------
    Refused
        One answer for whatever is wrong with it.
    """
    form = LoginWebAuthnForm(data={"credential": json.dumps(credential)})
    with _errors_as_refusal():
        if not _valid(form):
            raise _passkey_refused(401)
    authenticator = form.cleaned_data["credential"]
    coach: Coach = authenticator.user
    if not coach.is_active:
        raise _passkey_refused(401)
    authenticator.record_usage()
    return coach


@transactional
def lift(coach: Coach) -> int:
    """Remove all second factors, so that the password is enough again; return how many there were."""
    return int(Authenticator.objects.filter(user=coach).delete()[0])


def _alone(coach: Coach) -> None:
    """Lock the coach for one change at a time, because the database has no rule against two apps."""
    Coach.objects.select_for_update().get(pk=coach.pk)


def _drop_lonely_codes(coach: Coach) -> None:
    if not second_factors(coach):
        Authenticator.objects.filter(user=coach, type=CODES).delete()


def _valid(form: Form) -> bool:
    return bool(form.is_valid())


def _plain(options: dict[str, Any]) -> dict[str, Any]:
    return dict(json.loads(json.dumps(options, default=dict)))


def _passkey_refused(status: int = 422) -> Refused:
    return Refused(status, "passkey", Message("account-passkey-not-accepted-try-again"))


@contextmanager
def _errors_as_refusal() -> Iterator[None]:
    """Turn the library's various errors about a browser's answer into a refusal."""
    try:
        yield
    except (ValueError, TypeError, KeyError, AttributeError, IndexError, AssertionError, struct.error) as error:
        raise _passkey_refused() from error
