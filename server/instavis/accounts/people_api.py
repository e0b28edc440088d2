"""The academy's people, for its head coach; and the links that people use without signing in."""

from __future__ import annotations

import csv
from datetime import datetime
from itertools import islice
from typing import Any

from allauth.mfa.models import Authenticator
from django.db.models import Count, Exists, OuterRef, QuerySet
from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import Router, Schema, Status
from pydantic import ConfigDict, Field

from instavis.accounts import mail, people, sessions
from instavis.accounts.access import CsrfOnly, heads, staff
from instavis.accounts.models import AuditLine, Coach, Invitation
from instavis.accounts.requests import CoachRequest
from instavis.accounts.selectors import teaching_with
from instavis.accounts.session_api import SecondStepOut, SessionOut, come_in, first_step
from instavis.platform.errors import Problems
from instavis.platform.language import speak_to, spoken
from instavis.platform.throttle import address_of, at_most
from instavis_core.message import Message
from instavis_io.tables.own import harmless

router = Router()
link_router = Router()

LINKS_TRIED = 30
"""Tries per minute and address for links of invitations, passwords and email."""
LOST_ASKED = 5
"""Links to a new password that may be requested per hour, for one address and for one name."""
AUDIT_PAGE = 25


class ColleagueOut(Schema):
    """A colleague, as everyone may see them."""

    id: int
    name: str
    role: str


class CoachOut(ColleagueOut):
    """The same for the head coach."""

    username: str
    last_login: datetime | None
    left_at: datetime | None
    lesson_count: int = 0
    second_factor: bool = False


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
    """A link's path, shown only once."""

    path: str
    expires_at: datetime


class InvitedOut(Schema):
    """What an invitation shows its holder."""

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
    """The person whose password is being changed."""

    name: str
    username: str
    academy: str
    language: str


class PasswordIn(Schema):
    model_config = ConfigDict(extra="forbid")
    password: str = Field(max_length=200)


class LostIn(Schema):
    """A user name or an email address."""

    model_config = ConfigDict(extra="forbid")
    name: str = Field(max_length=254)


class AddressOut(Schema):
    """A confirmed email address."""

    address: str
    language: str


class AuditOut(Schema):
    id: int
    at: datetime
    who: str
    text: Message


@router.get("/colleagues", auth=staff, response=list[ColleagueOut])
def list_colleagues(request: CoachRequest) -> QuerySet[Coach]:
    """Who teaches here."""
    return teaching_with(request.user).order_by("name", "pk")


@router.get("/coaches", auth=heads, response=list[CoachOut])
def list_coaches(request: CoachRequest) -> QuerySet[Coach]:
    """List everyone who works or worked here (head coach)."""
    everybody = Coach.objects.filter(academy_id=request.user.academy_id)
    factors = Authenticator.objects.filter(user=OuterRef("pk"))
    result = everybody.annotate(lesson_count=Count("lessons"), second_factor=Exists(factors))
    return result.order_by("left_at", "name", "pk")


@router.patch("/coaches/{coach_id}", auth=heads, response={200: CoachOut, 404: Problems, 409: Problems, 422: Problems})
def change_coach(request: CoachRequest, coach_id: int, data: CoachChange) -> Coach:
    """Change a role, deactivate or reactivate (head coach)."""
    return people.change_coach(request.user, coach_id, data.role, data.left, timezone.now())


@router.post(
    "/coaches/{coach_id}/password-link",
    auth=heads,
    response={201: LinkOut, 403: Problems, 404: Problems, 409: Problems},
)
def make_password_link(request: CoachRequest, coach_id: int) -> Status[Any]:
    """Create a link for a coach who lost the password, to be handed over (head coach)."""
    sessions.ask_to_confirm(request)
    link, token = people.make_password_link(request.user, coach_id, timezone.now())
    return Status(201, LinkOut(path=f"/password/{token}", expires_at=link.expires_at))


@router.get("/invitations", auth=heads, response=list[InvitationOut])
def list_invitations(request: CoachRequest) -> QuerySet[Invitation]:
    """List invitations that can still be accepted (head coach)."""
    found = people.open_invitations(request.user.academy, timezone.now())
    return found.select_related("made_by").order_by("expires_at")


@router.post("/invitations", auth=heads, response={201: LinkOut, 409: Problems, 422: Problems})
def invite(request: CoachRequest, data: InvitationIn) -> Status[Any]:
    """Invite a person by a link that is shown only once (head coach)."""
    invitation, token = people.invite(request.user, data.role, data.name, timezone.now())
    return Status(201, LinkOut(path=f"/join/{token}", expires_at=invitation.expires_at))


@router.delete("/invitations/{invitation_id}", auth=heads, response={204: None, 404: Problems})
def take_back_invitation(request: CoachRequest, invitation_id: int) -> Status[Any]:
    """Revoke an invitation (head coach)."""
    people.take_back(request.user, invitation_id, timezone.now())
    return Status(204, None)


@router.delete(
    "/coaches/{coach_id}/factors", auth=heads, response={204: None, 403: Problems, 404: Problems, 409: Problems}
)
def lift_factors(request: CoachRequest, coach_id: int) -> Status[Any]:
    """Remove the second factors of a coach who lost the phone (head coach)."""
    sessions.ask_to_confirm(request)
    people.lift_factors(request.user, coach_id, timezone.now())
    return Status(204, None)


@router.delete("/coaches/{coach_id}/sessions", auth=heads, response={204: None, 403: Problems, 404: Problems})
def sign_out_everywhere(request: CoachRequest, coach_id: int) -> Status[Any]:
    """End every session of a coach, for example after a device was lost (head coach)."""
    sessions.ask_to_confirm(request)
    people.sign_out_everywhere(request.user, coach_id, timezone.now())
    return Status(204, None)


@router.get("/audit", auth=heads, response=list[AuditOut])
def list_audit(
    request: CoachRequest, before: int | None = None, containing: str = "", reading: bool = False
) -> list[AuditLine]:
    """List the activity log or the record views, newest first, 25 from a key on (head coach)."""
    lines = request.user.academy.audit.filter(reading=reading)
    if before is not None:
        lines = lines.filter(pk__lt=before)
    if containing:
        wanted = containing[:80].casefold()
        found = (line for line in lines.iterator() if wanted in f"{line.who}\n{spoken(line.text)}".casefold())
        return list(islice(found, AUDIT_PAGE))
    return list(lines[:AUDIT_PAGE])


@router.get("/audit.csv", auth=heads, response={200: None})
def export_audit(request: CoachRequest) -> HttpResponse:
    """Export the activity log as a table, oldest first (head coach)."""
    now, academy = timezone.now(), request.user.academy
    people.note(request.user, Message("activity-log-exported"), now)
    result = HttpResponse(content_type="text/csv; charset=utf-8")
    result["Content-Disposition"] = f'attachment; filename="activity-log-{academy.day_of(now)}.csv"'
    table = csv.writer(result, lineterminator="\r\n")
    table.writerow(["at", "who", "text"])
    for line in academy.audit.order_by("pk").iterator():
        table.writerow([line.at.isoformat(timespec="seconds"), harmless(line.who), harmless(spoken(line.text))])
    return result


@link_router.get("/join/{token}", auth=CsrfOnly(), response={200: InvitedOut, 404: Problems, 429: Problems})
def see_invitation(request: HttpRequest, token: str) -> InvitedOut:
    """Return what an invitation is for."""
    _slowly(request)
    invitation = people.invitation_by_token(token, timezone.now())
    speak_to(invitation.made_by)
    return InvitedOut(
        academy=invitation.academy.name,
        name=invitation.name,
        role=invitation.role,
        language=invitation.made_by.language,
    )


@link_router.post(
    "/join/{token}", auth=CsrfOnly(), response={201: SessionOut, 404: Problems, 422: Problems, 429: Problems}
)
def join(request: HttpRequest, response: HttpResponse, token: str, data: JoinIn) -> Status[Any]:
    """Accept an invitation, and sign in."""
    _slowly(request)
    coach = people.join(token, data.username, data.name, data.password, timezone.now())
    return Status(201, come_in(request, response, coach))


@link_router.get("/password/{token}", auth=CsrfOnly(), response={200: LostOut, 404: Problems, 429: Problems})
def see_password_link(request: HttpRequest, token: str) -> LostOut:
    """Return whose password a link is for."""
    _slowly(request)
    coach = people.password_link_by_token(token, timezone.now()).coach
    speak_to(coach)
    return LostOut(name=coach.name, username=coach.username, academy=coach.academy.name, language=coach.language)


@link_router.post(
    "/password/{token}",
    auth=CsrfOnly(),
    response={200: SessionOut, 202: SecondStepOut, 404: Problems, 422: Problems, 429: Problems},
)
def choose_password(
    request: HttpRequest, response: HttpResponse, token: str, data: PasswordIn
) -> SessionOut | Status[Any]:
    """Choose a new password by a link, and sign in.

    202 asks for the second factor.
    """
    _slowly(request)
    coach = people.choose_password(token, data.password, timezone.now())
    return first_step(request, response, coach)


@link_router.post("/password-lost", auth=CsrfOnly(), response={202: None, 409: Problems, 429: Problems})
def lost_password(request: HttpRequest, data: LostIn) -> Status[Any]:
    """Request a link to a new password by email; the answer is the same for everyone."""
    mail.refuse_without_mail()
    for what in (address_of(request), data.name.strip().casefold()):
        at_most(LOST_ASKED, "lost", what, window=3600)
    people.lost_password(data.name, request.build_absolute_uri("/").rstrip("/"))
    return Status(202, None)


@link_router.post("/email/{token}", auth=CsrfOnly(), response={200: AddressOut, 404: Problems, 429: Problems})
def prove_address(request: HttpRequest, token: str) -> AddressOut:
    """Confirm an email address by the link that was sent there."""
    _slowly(request)
    coach, address = mail.proved(token)
    speak_to(coach)
    people.change_address(coach, address, timezone.now())
    return AddressOut(address=address, language=coach.language)


def _slowly(request: HttpRequest) -> None:
    at_most(LINKS_TRIED, "door", address_of(request), window=60)
