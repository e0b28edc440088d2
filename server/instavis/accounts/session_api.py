"""Sign-in and sign-out, and the settings of the signed-in person."""

from __future__ import annotations

import logging
from datetime import date
from typing import Any

from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from django.utils import timezone
from ninja import Router, Schema, Status
from pydantic import ConfigDict, Field

from instavis.accounts import factors, notices, sessions, tries
from instavis.accounts.access import CsrfOnly, staff
from instavis.accounts.models import Coach
from instavis.accounts.requests import CoachRequest
from instavis.platform.errors import Problems, Refused
from instavis.platform.language import speak_to
from instavis.platform.lines import call, session_group
from instavis.platform.throttle import address_of, at_most
from instavis_core.choice import read_school
from instavis_core.errors import InputError
from instavis_core.message import Message
from instavis_core.proof import STAGE_RULES
from instavis_core.terms import Movement
from instavis_report.catalog import UNITS, catalog

router = Router()
logger = logging.getLogger(__name__)

WAITING, WAITS_FOR = "waits_for_second_step", 10 * 60
"""Where a session stores whose password was right, and for how many seconds that is valid."""
PASSKEYS_TRIED = 30
"""Passkey requests per minute and address."""
MOVEMENTS = tuple(str(m) for m in Movement if m != Movement.UNSEEN)
KEY = 40
"""Longest name of a keyboard key, with room to spare."""


class SignIn(Schema):
    model_config = ConfigDict(extra="forbid")
    username: str = Field(max_length=150)
    password: str = Field(max_length=200)


FEW = 3
"""A new coach has ended at most this many lessons."""


class SessionOut(Schema):
    """The signed-in person; ``begins`` is true for a coach who has taught few lessons here and sees hints."""

    username: str
    name: str
    role: str
    academy: str
    units: str
    language: str
    school: dict[str, str]
    stage_rule: str
    clicker: dict[str, str]
    time_zone: str
    today: date
    notices: int
    needs_factor: bool
    begins: bool


class SecondStepOut(Schema):
    """The password was right; ``ways`` are the possible second steps: ``code``, ``passkey``."""

    ways: list[str]


class SettingsIn(Schema):
    model_config = ConfigDict(extra="forbid")
    units: str | None = Field(None, pattern=f"^({'|'.join(UNITS)})$")
    language: str | None = None
    school: dict[str, str] | None = None
    stage_rule: str | None = Field(None, pattern=f"^({'|'.join(STAGE_RULES)})$")
    name: str | None = Field(None, min_length=1, max_length=120)
    clicker: dict[str, str] | None = None


class CodeShown(Schema):
    model_config = ConfigDict(extra="forbid")
    code: str = Field(max_length=40)


class PasskeyShown(Schema):
    """The browser's answer to a challenge, unchanged."""

    model_config = ConfigDict(extra="forbid")
    credential: dict[str, Any]


class ChallengeOut(Schema):
    """What a browser needs to make or use a passkey."""

    options: dict[str, Any]


def session_of(request: HttpRequest, coach: Coach) -> SessionOut:
    """Return what the front end knows about the signed-in person."""
    return SessionOut(
        username=coach.username,
        name=coach.name,
        role=coach.role,
        academy=coach.academy.name,
        units=coach.units,
        language=coach.language,
        school=coach.school,
        stage_rule=coach.stage_rule,
        clicker=coach.clicker,
        time_zone=coach.academy.time_zone,
        today=coach.academy.day_of(timezone.now()),
        notices=coach.notices.filter(seen_at__isnull=True).count(),
        needs_factor=sessions.lacks_factor(request, coach),
        begins=coach.lessons.filter(student__made_up=False, ended_at__isnull=False)[:FEW].count() < FEW,
    )


def first_step(request: HttpRequest, response: HttpResponse, coach: Coach) -> SessionOut | Status[Any]:
    """After the right password, or a link: sign in, or ask for the second factor."""
    ways = factors.second_factors(coach)
    if not ways:
        return come_in(request, response, coach)
    until = timezone.now().timestamp() + WAITS_FOR
    request.session[WAITING] = {"coach": coach.pk, "hash": coach.get_session_auth_hash(), "until": until}
    request.session.set_expiry(WAITS_FOR)
    return Status(202, SecondStepOut(ways=ways))


def come_in(request: HttpRequest, response: HttpResponse, coach: Coach, by_factor: bool = False) -> SessionOut:
    """Start a session; this browser is known from now on."""
    new_here = coach.last_login is not None and not tries.knows(request, coach.get_username())
    login(request, coach)
    request.session.pop(WAITING, None)
    request.session.set_expiry(None)
    if by_factor:
        sessions.show_factor(request)
    if new_here:
        notices.tell(coach, "sign-in", timezone.now(), sessions.browser_of(request) or address_of(request))
    _log(request, "came in", coach)
    get_token(request)
    tries.remember(request, response, coach.get_username())
    speak_to(coach)
    return session_of(request, coach)


def _log(request: HttpRequest, what: str, coach: Coach | None) -> None:
    """Log a sign-in by its key: what was typed as a name may have been a password."""
    logger.info("sign-in: %s", what, extra={"who": coach.pk if coach else None, "from": address_of(request)})


def _waiting(request: HttpRequest) -> Coach:
    """Return the person whose password was right a moment ago.

    Raises
    ------
    Refused
    """
    noted = request.session.get(WAITING, {"until": 0})
    coach = None
    if timezone.now().timestamp() < noted["until"]:
        coach = Coach.objects.filter(pk=noted["coach"], is_active=True).select_related("academy").first()
    if coach is None or coach.get_session_auth_hash() != noted["hash"]:
        raise Refused(401, "session", Message("account-took-too-long-sign-your"))
    return coach


IN = {200: SessionOut, 401: Problems, 429: Problems, 503: Problems}


@router.post("", auth=CsrfOnly(), response={**IN, 202: SecondStepOut})
def sign_in(request: HttpRequest, response: HttpResponse, data: SignIn) -> SessionOut | Status[Any]:
    """Start a session; failed tries are counted and slowed down.

    202 asks for the second factor.
    """
    counters = tries.counters(request, data.username)
    tries.refuse_too_many(counters)
    coach = authenticate(request, username=data.username, password=data.password)
    if not isinstance(coach, Coach):
        tries.failed(counters)
        _log(request, "password was wrong", Coach.objects.filter(username__iexact=data.username).first())
        raise Refused(401, "password", Message("account-username-password-wrong"))
    tries.succeeded(counters)
    return first_step(request, response, coach)


@router.post("/code", auth=CsrfOnly(), response=IN)
def show_code(request: HttpRequest, response: HttpResponse, data: CodeShown) -> SessionOut:
    """Second step of signing in: a code of the app, or a recovery code."""
    coach = _waiting(request)
    counters = tries.code_counters(coach.get_username())
    tries.refuse_too_many(counters)
    kind = factors.check_code(coach, data.code)
    if kind is None:
        tries.failed(counters)
        _log(request, "code was wrong", coach)
        raise Refused(401, "code", Message("account-code-wrong-already-used"))
    tries.succeeded(counters)
    result = come_in(request, response, coach, by_factor=True)
    if kind == factors.CODES:
        notices.tell(coach, "code-used", timezone.now())
    return result


@router.post("/passkey-challenge", auth=CsrfOnly(), response={200: ChallengeOut, 429: Problems})
def ask_for_passkey(request: HttpRequest) -> ChallengeOut:
    """Return what a browser needs to use any passkey."""
    at_most(PASSKEYS_TRIED, "passkey", address_of(request), window=60)
    if not request.user.is_authenticated:
        request.session.set_expiry(WAITS_FOR)
    return ChallengeOut(options=factors.ask_for_passkey())


@router.post("/passkey", auth=CsrfOnly(), response={**IN, 422: Problems})
def show_passkey(request: HttpRequest, response: HttpResponse, data: PasskeyShown) -> SessionOut:
    """Sign in by a passkey, which is both steps at once; a signed-in person confirms their identity with it."""
    at_most(PASSKEYS_TRIED, "passkey", address_of(request), window=60)
    coach = factors.check_passkey(data.credential)
    if request.user == coach:
        sessions.confirm(request)
        sessions.show_factor(request)
        return session_of(request, coach)
    return come_in(request, response, coach, by_factor=True)


@router.get("", auth=staff, response={200: SessionOut, 401: Problems})
def who(request: CoachRequest) -> SessionOut:
    """Who is signed in."""
    return session_of(request, request.user)


@router.patch("", auth=staff, response={200: SessionOut, 422: Problems})
def change_settings(request: CoachRequest, data: SettingsIn) -> SessionOut:
    """Change name, units, language, school, stage rule and clicker keys of the signed-in person."""
    coach = request.user
    if data.name is not None:
        coach.name = data.name.strip() or coach.name
    if data.units is not None:
        coach.units = data.units
    if data.language is not None:
        coach.language = catalog(data.language).language
    if data.school is not None:
        coach.school = read_school(data.school)
    if data.stage_rule is not None:
        coach.stage_rule = data.stage_rule
    if data.clicker is not None:
        coach.clicker = _read_clicker(data.clicker)
    speak_to(coach)
    coach.save(update_fields=["name", "units", "language", "school", "stage_rule", "clicker"])
    return session_of(request, coach)


def _read_clicker(keys: dict[str, str]) -> dict[str, str]:
    """Return the keys of a clicker and the movement of each.

    Raises
    ------
    InputError
    """
    for key, movement in keys.items():
        if movement not in MOVEMENTS:
            raise InputError(f"clicker.{key}", movement, Message("common-one", known=", ".join(MOVEMENTS)))
        if not 0 < len(key) <= KEY or (len(key) == 1 and key.isalnum()):
            raise InputError("clicker", key, Message("account-key-not-letter-digit"))
    if len(keys) > len(MOVEMENTS):
        raise InputError("clicker", len(keys), Message("account-most-keys", most=len(MOVEMENTS)))
    return keys


@router.delete("", auth=staff, response={204: None})
def sign_out(request: HttpRequest) -> Status[Any]:
    """End the session and its live connections."""
    key = request.session.session_key
    logout(request)
    if key is not None:
        call(session_group(sessions.stored_key(key)), {"type": "session.ended"})
    return Status(204, None)
