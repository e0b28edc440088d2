"""A coach's own account: sign-in methods, sessions and notices."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.contrib.auth import update_session_auth_hash
from django.http import HttpRequest
from django.utils import timezone
from ninja import Router, Schema, Status
from pydantic import ConfigDict, Field

from instavis.accounts import factors, mail, notices, people, sessions, tries
from instavis.accounts.access import staff
from instavis.accounts.models import Coach
from instavis.accounts.requests import CoachRequest
from instavis.accounts.session_api import ChallengeOut, CodeShown, PasskeyShown
from instavis.platform.errors import Problems, Refused
from instavis.platform.throttle import at_most
from instavis_core.message import Message
from instavis_report.catalog import languages

router = Router()

LETTERS_ASKED = 5
"""Emails that a person may request in an hour."""


class PasskeyMade(PasskeyShown):
    name: str = Field("", max_length=60)


class PasswordShown(Schema):
    model_config = ConfigDict(extra="forbid")
    password: str = Field(max_length=200)


class PasswordChange(Schema):
    model_config = ConfigDict(extra="forbid")
    old: str = Field(max_length=200)
    new: str = Field(max_length=200)


class AddressIn(Schema):
    model_config = ConfigDict(extra="forbid")
    address: str = Field(max_length=254)


class PasskeyOut(Schema):
    id: int
    name: str
    added_at: datetime
    used_at: datetime | None


class AccountOut(Schema):
    """A coach's account; ``mails`` is true if this installation sends email."""

    email: str
    mails: bool
    languages: list[str]
    app_since: datetime | None
    codes_left: int
    passkeys: list[PasskeyOut]


class AppOut(Schema):
    """What an authenticator app needs, to type or scan; shown only once."""

    secret: str
    picture: str


class CodesOut(Schema):
    """Recovery codes, shown only once; empty if the coach already has some."""

    codes: list[str]


class OwnSessionOut(Schema):
    """One of the coach's sessions; ``id`` names it and grants nothing."""

    id: str
    browser: str
    address: str
    begun_at: datetime | None
    seen_at: datetime | None
    here: bool


class NoticeOut(Schema):
    at: datetime
    text: Message
    seen_at: datetime | None


@router.post("/confirmed", auth=staff, response={204: None, 422: Problems, 429: Problems})
def confirm(request: CoachRequest, data: PasswordShown) -> Status[Any]:
    """Confirm your identity before you change a sign-in method."""
    _right_password(request, data.password, "password", Message("account-password-wrong"))
    sessions.confirm(request)
    return Status(204, None)


@router.post("/password", auth=staff, response={204: None, 422: Problems, 429: Problems})
def change_password(request: CoachRequest, data: PasswordChange) -> Status[Any]:
    """Change the password; every other session ends."""
    _right_password(request, data.old, "old", Message("account-old-password-wrong"))
    people.change_password(request.user, data.new, timezone.now())
    update_session_auth_hash(request, request.user)
    sessions.end_other_sessions(request.user, request.session.session_key)
    sessions.end_lines(request.user)
    return Status(204, None)


def _right_password(request: CoachRequest, password: str, field: str, refusal: Message) -> None:
    counters = tries.counters(request, request.user.get_username())
    tries.refuse_too_many(counters)
    if not request.user.check_password(password):
        tries.failed(counters)
        raise Refused(422, field, refusal)


@router.get("/account", auth=staff, response=AccountOut)
def get_account(request: CoachRequest) -> AccountOut:
    """Return second factors and email address of the signed-in person."""
    return _account(request.user)


def _account(coach: Coach) -> AccountOut:
    has = factors.factors_of(coach)
    keys = [PasskeyOut(**vars(key)) for key in has.passkeys]
    return AccountOut(
        email=coach.email,
        mails=mail.can_send(),
        languages=languages(),
        app_since=has.app_since,
        codes_left=has.codes_left,
        passkeys=keys,
    )


CHANGED = {403: Problems, 404: Problems, 409: Problems, 422: Problems, 429: Problems}


@router.post("/app", auth=staff, response={200: AppOut, **CHANGED})
def begin_app(request: CoachRequest) -> AppOut:
    """Create a secret for an authenticator app; it counts once one of its codes was entered."""
    sessions.ask_to_confirm(request)
    result = factors.begin_app(request, request.user)
    return AppOut(secret=result.secret, picture=result.picture)


@router.put("/app", auth=staff, response={200: CodesOut, **CHANGED})
def add_app(request: CoachRequest, data: CodeShown) -> CodesOut:
    """Start using the app; a coach without a second factor gets recovery codes."""
    sessions.ask_to_confirm(request)
    at_most(tries.CODE_LIMIT, "app", str(request.user.pk), window=60)
    codes = factors.add_app(request, request.user, data.code)
    sessions.show_factor(request)
    _notify(request.user, "app-added")
    return CodesOut(codes=codes)


@router.delete("/app", auth=staff, response={200: AccountOut, **CHANGED})
def remove_app(request: CoachRequest) -> AccountOut:
    """Stop using the app."""
    sessions.ask_to_confirm(request)
    factors.remove_app(request.user)
    _notify(request.user, "app-removed")
    return _account(request.user)


@router.post("/codes", auth=staff, response={200: CodesOut, **CHANGED})
def make_codes(request: CoachRequest) -> CodesOut:
    """Create ten new recovery codes; the old ones stop working."""
    sessions.ask_to_confirm(request)
    codes = factors.new_codes(request.user)
    _notify(request.user, "codes")
    return CodesOut(codes=codes)


@router.post("/passkeys/challenge", auth=staff, response={200: ChallengeOut, **CHANGED})
def begin_passkey(request: CoachRequest) -> ChallengeOut:
    """Return what a browser needs to make a passkey."""
    sessions.ask_to_confirm(request)
    return ChallengeOut(options=factors.begin_passkey(request.user))


@router.post("/passkeys", auth=staff, response={201: CodesOut, **CHANGED})
def add_passkey(request: CoachRequest, data: PasskeyMade) -> Status[Any]:
    """Store a passkey; a coach without a second factor gets recovery codes."""
    sessions.ask_to_confirm(request)
    codes = factors.add_passkey(request.user, data.name, data.credential)
    sessions.show_factor(request)
    _notify(request.user, "passkey-added", data.name.strip() or "–")
    return Status(201, CodesOut(codes=codes))


@router.delete("/passkeys/{passkey_id}", auth=staff, response={200: AccountOut, **CHANGED})
def remove_passkey(request: CoachRequest, passkey_id: int) -> AccountOut:
    """Remove a passkey."""
    sessions.ask_to_confirm(request)
    factors.remove_passkey(request.user, passkey_id)
    _notify(request.user, "passkey-removed")
    return _account(request.user)


@router.put("/email", auth=staff, response={202: None, **CHANGED})
def ask_for_address(request: CoachRequest, data: AddressIn) -> Status[Any]:
    """Send a link to an address; opening it confirms the address."""
    sessions.ask_to_confirm(request)
    mail.refuse_without_mail()
    at_most(LETTERS_ASKED, "letters", str(request.user.pk), window=3600)
    address = mail.checked_address(data.address)
    mail.post(mail.Letter("address", request.user.pk, address, origin=_origin(request)))
    return Status(202, None)


@router.delete("/email", auth=staff, response={200: AccountOut, **CHANGED})
def forget_address(request: CoachRequest) -> AccountOut:
    """Send no more email to this person."""
    sessions.ask_to_confirm(request)
    people.change_address(request.user, "", timezone.now())
    return _account(request.user)


@router.get("/list", auth=staff, response=list[OwnSessionOut])
def list_sessions(request: CoachRequest) -> list[OwnSessionOut]:
    """List the coach's own sessions."""
    here = sessions.stored_key(request.session.session_key or "")
    return [
        OwnSessionOut(
            id=sessions.named(row),
            browser=row.browser,
            address=row.address,
            begun_at=row.begun_at,
            seen_at=row.seen_at,
            here=row.session_key == here,
        )
        for row in sessions.sessions_of(request.user)
    ]


@router.delete("/list/{session_id}", auth=staff, response={204: None, 404: Problems})
def end_session(request: CoachRequest, session_id: str) -> Status[Any]:
    """End one of the coach's own sessions."""
    sessions.end_session(request.user, session_id)
    return Status(204, None)


@router.delete("/list", auth=staff, response={204: None})
def end_other_sessions(request: CoachRequest) -> Status[Any]:
    """Sign out everywhere else."""
    sessions.end_other_sessions(request.user, request.session.session_key)
    return Status(204, None)


@router.get("/notices", auth=staff, response=list[NoticeOut])
def list_notices(request: CoachRequest) -> list[NoticeOut]:
    """List what was done to the account, newest first."""
    rows = request.user.notices.all()[: notices.MAX_NOTICES]
    return [NoticeOut(at=row.at, text=notices.sentence_of(row), seen_at=row.seen_at) for row in rows]


@router.post("/notices/seen", auth=staff, response={204: None})
def see_notices(request: CoachRequest) -> Status[Any]:
    """Mark all notices as read."""
    notices.seen(request.user, timezone.now())
    return Status(204, None)


def _notify(coach: Coach, what: str, detail: str = "") -> None:
    now = timezone.now()
    people.note(coach, Message("activity-own-account", what=Message(f"activity-account-{what}")), now)
    notices.tell(coach, what, now, detail)


def _origin(request: HttpRequest) -> str:
    return request.build_absolute_uri("/").rstrip("/")
