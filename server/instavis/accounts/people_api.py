"""The academy's people, for its head coach; and the two links that open something to somebody who is not signed in."""

from __future__ import annotations

from datetime import datetime
from typing import Any

from django.contrib.auth import login, update_session_auth_hash
from django.db.models import Count, QuerySet
from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Router, Schema, Status
from pydantic import ConfigDict, Field

from instavis.accounts import people, tries
from instavis.accounts.access import heads, staff
from instavis.accounts.api import CsrfOnly, SessionOut, session_of
from instavis.accounts.models import AuditLine, Coach, Invitation
from instavis.accounts.requests import CoachRequest
from instavis.accounts.selectors import teaching_with
from instavis.platform.errors import Problems
from instavis.platform.language import speak_to
from instavis.platform.throttle import address_of, at_most

router = Router()
door_router = Router()

LINKS_TRIED = 30
"""How often a minute one address may try links of invitations and passwords."""
BACKEND = "django.contrib.auth.backends.ModelBackend"


class ColleagueOut(Schema):
    """Somebody who works here, as everybody may know."""

    id: int
    name: str
    role: str


class CoachOut(ColleagueOut):
    """The same for the head coach."""

    username: str
    last_login: datetime | None
    left_at: datetime | None
    lesson_count: int = 0


class CoachChange(Schema):
    model_config = ConfigDict(extra="forbid")
    role: str | None = None
    left: bool | None = None


class InvitationIn(Schema):
    model_config = ConfigDict(extra="forbid")
    role: str
    name: str = Field(max_length=120)


class InvitationOut(Schema):
    id: int
    role: str
    name: str
    made_by_name: str = Field(alias="made_by.name")
    expires_at: datetime


class LinkOut(Schema):
    """A link's path, shown this once."""

    path: str
    expires_at: datetime


class InvitedOut(Schema):
    """What an invitation says to whoever holds it."""

    academy: str
    name: str
    role: str
    language: str


class JoinIn(Schema):
    model_config = ConfigDict(extra="forbid")
    username: str = Field(max_length=150)
    name: str = Field(max_length=120)
    password: str = Field(max_length=200)


class LostOut(Schema):
    """Whose password is chosen anew."""

    name: str
    username: str
    academy: str
    language: str


class PasswordIn(Schema):
    model_config = ConfigDict(extra="forbid")
    password: str = Field(max_length=200)


class PasswordChange(Schema):
    model_config = ConfigDict(extra="forbid")
    old: str = Field(max_length=200)
    new: str = Field(max_length=200)


class AuditOut(Schema):
    at: datetime
    who: str
    text: str


@router.get("/colleagues", auth=staff, response=list[ColleagueOut])
def list_colleagues(request: CoachRequest) -> QuerySet[Coach]:
    """Who teaches here."""
    return teaching_with(request.user).order_by("name", "pk")


@router.get("/coaches", auth=heads, response=list[CoachOut])
def list_coaches(request: CoachRequest) -> QuerySet[Coach]:
    """Everybody who works or worked here (head coach)."""
    everybody = Coach.objects.filter(academy_id=request.user.academy_id)
    return everybody.annotate(lesson_count=Count("lessons")).order_by("left_at", "name", "pk")


@router.patch("/coaches/{coach_id}", auth=heads, response={200: CoachOut, 404: Problems, 409: Problems, 422: Problems})
def change_coach(request: CoachRequest, coach_id: int, data: CoachChange) -> Coach:
    """Another role, leaving, coming back (head coach)."""
    return people.change_coach(request.user, coach_id, data.role, data.left, timezone.now())


@router.post("/coaches/{coach_id}/password-link", auth=heads, response={201: LinkOut, 404: Problems, 409: Problems})
def make_password_link(request: CoachRequest, coach_id: int) -> Status[Any]:
    """A link for a coach who lost the password, to be handed over (head coach)."""
    link, token = people.make_password_link(request.user, coach_id, timezone.now())
    return Status(201, LinkOut(path=f"/password/{token}", expires_at=link.expires_at))


@router.get("/invitations", auth=heads, response=list[InvitationOut])
def list_invitations(request: CoachRequest) -> QuerySet[Invitation]:
    """Invitations that can still be taken up (head coach)."""
    found = people.open_invitations(request.user.academy, timezone.now())
    return found.select_related("made_by").order_by("expires_at")


@router.post("/invitations", auth=heads, response={201: LinkOut, 409: Problems, 422: Problems})
def invite(request: CoachRequest, data: InvitationIn) -> Status[Any]:
    """Invite somebody by a link that is shown this once (head coach)."""
    invitation, token = people.invite(request.user, data.role, data.name, timezone.now())
    return Status(201, LinkOut(path=f"/join/{token}", expires_at=invitation.expires_at))


@router.delete("/invitations/{invitation_id}", auth=heads, response={204: None, 404: Problems})
def take_back_invitation(request: CoachRequest, invitation_id: int) -> Status[Any]:
    """End an invitation (head coach)."""
    people.take_back(request.user, invitation_id, timezone.now())
    return Status(204, None)


@router.get("/audit", auth=heads, response=list[AuditOut])
def list_audit(request: CoachRequest) -> QuerySet[AuditLine]:
    """What was done of weight, newest first (head coach)."""
    return request.user.academy.audit.all()[:500]


@router.post("/session/password", auth=staff, response={204: None, 422: Problems, 429: Problems})
def change_password(request: CoachRequest, data: PasswordChange) -> Status[Any]:
    """Another password; every other session ends."""
    counters = tries.counters(request, request.user.get_username())
    tries.refuse_too_many(counters)
    if not request.user.check_password(data.old):
        tries.failed(counters)
    people.change_password(request.user, data.old, data.new, timezone.now())
    update_session_auth_hash(request, request.user)
    people.end_lines(request.user)
    return Status(204, None)


@door_router.get("/join/{token}", auth=CsrfOnly(), response={200: InvitedOut, 404: Problems, 429: Problems})
def see_invitation(request: HttpRequest, token: str) -> InvitedOut:
    """What an invitation is to."""
    _slowly(request)
    invitation = people.invitation_by_token(token, timezone.now())
    speak_to(invitation.made_by)
    return InvitedOut(
        academy=invitation.academy.name,
        name=invitation.name,
        role=invitation.role,
        language=invitation.made_by.language,
    )


@door_router.post(
    "/join/{token}", auth=CsrfOnly(), response={201: SessionOut, 404: Problems, 422: Problems, 429: Problems}
)
def join(request: HttpRequest, response: HttpResponse, token: str, data: JoinIn) -> Status[Any]:
    """Take an invitation up, and be signed in."""
    _slowly(request)
    coach = people.join(token, data.username, data.name, data.password, timezone.now())
    login(request, coach, backend=BACKEND)
    tries.remember(request, response, coach.get_username())
    return Status(201, session_of(coach))


@door_router.get("/password/{token}", auth=CsrfOnly(), response={200: LostOut, 404: Problems, 429: Problems})
def see_password_link(request: HttpRequest, token: str) -> LostOut:
    """Whose password a link is for."""
    _slowly(request)
    coach = people.password_link_by_token(token, timezone.now()).coach
    speak_to(coach)
    return LostOut(name=coach.name, username=coach.username, academy=coach.academy.name, language=coach.language)


@door_router.post(
    "/password/{token}", auth=CsrfOnly(), response={200: SessionOut, 404: Problems, 422: Problems, 429: Problems}
)
def choose_password(request: HttpRequest, response: HttpResponse, token: str, data: PasswordIn) -> SessionOut:
    """Choose a new password by a link, and be signed in."""
    _slowly(request)
    coach = people.choose_password(token, data.password, timezone.now())
    login(request, coach, backend=BACKEND)
    tries.remember(request, response, coach.get_username())
    return session_of(coach)


def _slowly(request: HttpRequest) -> None:
    at_most(LINKS_TRIED, "door", address_of(request), window=60)
