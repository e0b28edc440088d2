"""An academy's people: inviting, naming, deactivating and reactivating them; choosing, changing and recovering
passwords.
"""

from __future__ import annotations

import secrets
from datetime import datetime, timedelta

from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.db import IntegrityError, transaction
from django.db.models import Q, QuerySet
from redis.exceptions import RedisError

from instavis.accounts import factors, mail, notices
from instavis.accounts.models import Academy, AuditLine, Coach, Invitation, PasswordLink
from instavis.accounts.sessions import check_lines, end_lines, end_other_sessions
from instavis.platform import throttle
from instavis.platform.errors import Refused, not_found
from instavis.platform.keys import hash_token
from instavis.platform.transactions import transactional
from instavis_core.errors import InputError
from instavis_core.message import Message, plain

INVITED_FOR, RESET_FOR = timedelta(days=7), timedelta(hours=24)
MAX_OPEN_INVITATIONS = 50
READ_AGAIN = 24 * 3600
USERNAME = "letters, digits and . _ - @, at most 60"


def note(coach: Coach, text: Message, now: datetime) -> AuditLine:
    """Log an important action of a person; the text names no student."""
    return AuditLine.objects.create(academy_id=coach.academy_id, at=now, who=coach.name, text=text)


def note_by_itself(academy_id: int, text: Message, now: datetime) -> AuditLine:
    """Log what a rule of the academy did."""
    return AuditLine.objects.create(academy_id=academy_id, at=now, who="Instavis", text=text)


def drop_old_lines(now: datetime) -> int:
    """Delete lines that are older than their academy keeps them; return how many."""
    gone = 0
    for academy in Academy.objects.all():
        old = academy.audit.filter(at__lt=now - timedelta(days=academy.keep_lines_days))
        gone += old.delete()[0]
    return gone


def note_reading(coach: Coach, student_id: int, now: datetime) -> None:
    """Log that a person read a student's record; once a day, and every time if the counter is unavailable."""
    try:
        first = throttle.count("read", str(coach.pk), str(student_id), str(now.date()), window=READ_AGAIN) == 1
    except RedisError:
        first = True
    if first:
        text = Message("activity-record-read", student=student_id)
        AuditLine.objects.create(academy_id=coach.academy_id, at=now, who=coach.name, text=text, reading=True)


@transactional
def invite(head: Coach, role: str, name: str, now: datetime) -> tuple[Invitation, str]:
    """Create an invitation; its token is returned only now.

    Raises
    ------
    InputError, Refused
    """
    _check_role(role)
    name = _check_name(name)
    if open_invitations(head.academy, now).count() >= MAX_OPEN_INVITATIONS:
        raise Refused(409, "invitations", Message("account-too-many-invitations-open-revoke"))
    token = secrets.token_urlsafe(32)
    invitation = Invitation.objects.create(
        academy=head.academy,
        role=role,
        name=name,
        token_hash=hash_token(token),
        made_by=head,
        made_at=now,
        expires_at=now + INVITED_FOR,
    )
    note(head, Message("activity-invited", name=name, role=Message(f"role-{role}")), now)
    return invitation, token


def open_invitations(academy: Academy, now: datetime) -> QuerySet[Invitation]:
    """Return invitations that can still be accepted."""
    return academy.invitations.filter(used_at__isnull=True, revoked_at__isnull=True, expires_at__gt=now)


def invitation_by_token(token: str, now: datetime) -> Invitation:
    """Return the invitation of a link.

    Raises
    ------
    Refused
        One answer for what never was, was used, taken back, or is too old.
    """
    rows = Invitation.objects.filter(token_hash=hash_token(token), used_at__isnull=True, revoked_at__isnull=True)
    invitation = rows.filter(expires_at__gt=now).select_related("academy", "made_by").first()
    if invitation is None:
        raise Refused(404, "link", Message("account-invitation-expired-ask-head-coach"))
    return invitation


def take_back(head: Coach, invitation_id: int, now: datetime) -> None:
    """End an invitation.

    Raises
    ------
    Refused
        When there is none of that key that is open.
    """
    rows = open_invitations(head.academy, now).filter(pk=invitation_id)
    if not rows.update(revoked_at=now):
        raise not_found("invitation")


@transactional
def join(token: str, username: str, name: str, password: str, now: datetime) -> Coach:
    """Join as a coach by an invitation; if two people try at once, one succeeds.

    Raises
    ------
    InputError, Refused
    """
    found = invitation_by_token(token, now)
    invitation = Invitation.objects.select_for_update().get(pk=found.pk)
    if invitation.used_at is not None:
        raise Refused(404, "link", Message("account-invitation-expired-ask-head-coach"))
    username = username.strip()
    if not username or len(username) > 60 or not all(c.isalnum() or c in "._-@" for c in username):
        raise InputError("username", username, plain(USERNAME))
    coach = Coach(username=username, name=_check_name(name), role=invitation.role, academy=invitation.academy)
    coach.units, coach.language = invitation.academy.units, invitation.academy.language
    _set_password(coach, password)
    if Coach.objects.filter(username__iexact=username).exists():
        raise _taken(username)
    try:
        with transaction.atomic():
            coach.save()
    except IntegrityError as error:  # another request was faster
        raise _taken(username) from error
    invitation.used_at, invitation.coach = now, coach
    invitation.save(update_fields=["used_at", "coach"])
    note(coach, Message("activity-joined", role=Message(f"role-{coach.role}")), now)
    return coach


def _taken(username: str) -> InputError:
    return InputError("username", username, Message("account-username-not-taken"))


def coach_of(head: Coach, coach_id: int) -> Coach:
    """Return one of the academy's people.

    Raises
    ------
    Refused
        For one of another academy as for nobody.
    """
    coach = Coach.objects.filter(pk=coach_id, academy_id=head.academy_id).first()
    if coach is None:
        raise not_found("coach")
    return coach


@transactional
def change_coach(head: Coach, coach_id: int, role: str | None, left: bool | None, now: datetime) -> Coach:
    """Change a role, or deactivate or reactivate a coach; a deactivated coach is signed out, and their lessons stay.

    Raises
    ------
    Refused
        When nobody would be left who answers for the academy.
    """
    heads = list(_heads(head.academy).select_for_update())  # one change at a time
    coach = coach_of(head, coach_id)
    if role is not None:
        _check_role(role)
    stays = left is not True and (coach.left_at is None or left is False)
    role_before, new_role = coach.role, role or coach.role
    others = [h for h in heads if h.pk != coach.pk]
    if not others and not (stays and new_role == Coach.Role.HEAD):
        raise Refused(409, "role", Message("account-academy-needs-head-coach-give"))
    if role is not None and role != coach.role:
        before, after = Message(f"role-{coach.role}"), Message(f"role-{role}")
        note(head, Message("activity-role-changed", name=coach.name, before=before, after=after), now)
        coach.role = role
    if left is not None and left != (coach.left_at is not None):
        note(head, Message("activity-deactivated" if left else "activity-reactivated", name=coach.name), now)
        coach.left_at = now if left else None
        coach.is_active = not left
        if left:
            coach.password_links.filter(used_at__isnull=True, revoked_at__isnull=True).update(revoked_at=now)
    coach.save(update_fields=["role", "left_at", "is_active"])
    if not coach.is_active:
        transaction.on_commit(lambda: _end_everything(coach))
    elif coach.role != role_before:
        transaction.on_commit(lambda: check_lines(coach))
    return coach


@transactional
def sign_out_everywhere(head: Coach, coach_id: int, now: datetime) -> None:
    """End every session of one of the academy's people."""
    coach = coach_of(head, coach_id)
    note(head, Message("activity-signed-out", name=coach.name), now)
    transaction.on_commit(lambda: _end_everything(coach))


def _end_everything(coach: Coach) -> None:
    end_other_sessions(coach, None)
    end_lines(coach)


@transactional
def make_password_link(head: Coach, coach_id: int, now: datetime) -> tuple[PasswordLink, str]:
    """Create a link with which a coach can choose a new password, once, within a day; earlier links end.

    It is returned only now.

    Raises
    ------
    Refused
        For somebody who left.
    """
    coach = coach_of(head, coach_id)
    if not coach.is_active:
        raise Refused(409, "coach", Message("account-account-deactivated-reactivate-first"))
    link, token = password_link_for(coach, head, now)
    note(head, Message("activity-password-link", name=coach.name), now)
    return link, token


@transactional
def password_link_for(
    coach: Coach, made_by: Coach, now: datetime, lifts_factors: bool = False
) -> tuple[PasswordLink, str]:
    """Return a link and its token for a coach; earlier links end."""
    coach.password_links.filter(used_at__isnull=True, revoked_at__isnull=True).update(revoked_at=now)
    token = secrets.token_urlsafe(32)
    link = PasswordLink.objects.create(
        coach=coach,
        token_hash=hash_token(token),
        made_by=made_by,
        made_at=now,
        expires_at=now + RESET_FOR,
        lifts_factors=lifts_factors,
    )
    return link, token


@transactional
def lift_factors(head: Coach, coach_id: int, now: datetime) -> Coach:
    """Remove the second factors of a coach who lost the phone; the coach is notified.

    Raises
    ------
    Refused
        When there are none.
    """
    coach = coach_of(head, coach_id)
    if not factors.lift(coach):
        raise Refused(409, "factors", Message("account-no-second-factor", name=coach.name))
    note(head, Message("activity-factors-removed", name=coach.name), now)
    notices.tell(coach, "factors-lifted", now, head.name)
    return coach


def password_link_by_token(token: str, now: datetime) -> PasswordLink:
    """Return the link for a new password.

    Raises
    ------
    Refused
        One answer for what never was, was used, or is too old.
    """
    rows = PasswordLink.objects.filter(token_hash=hash_token(token), used_at__isnull=True, revoked_at__isnull=True)
    link = rows.filter(expires_at__gt=now, coach__is_active=True).select_related("coach__academy").first()
    if link is None:
        raise Refused(404, "link", Message("account-link-expired-ask-head-coach"))
    return link


@transactional
def choose_password(token: str, password: str, now: datetime) -> Coach:
    """Choose a new password by a link; every session of the coach ends.

    Raises
    ------
    InputError, Refused
    """
    link = PasswordLink.objects.select_for_update().get(pk=password_link_by_token(token, now).pk)
    if link.used_at is not None:
        raise Refused(404, "link", Message("account-link-expired-ask-head-coach"))
    link.used_at = now
    link.save(update_fields=["used_at"])
    coach = link.coach
    _set_password(coach, password)
    coach.save(update_fields=["password"])
    if link.lifts_factors and factors.lift(coach):
        note(coach, Message("activity-factors-removed-on-server"), now)
    note(coach, Message("activity-password-reset"), now)
    notices.tell(coach, "link", now)
    transaction.on_commit(lambda: _end_everything(coach))
    return coach


@transactional
def change_password(coach: Coach, new: str, now: datetime) -> None:
    """Change the password of a person who entered the old one.

    Raises
    ------
    Refused
    """
    _set_password(coach, new)
    coach.save(update_fields=["password"])
    note(coach, Message("activity-password-changed"), now)
    notices.tell(coach, "password", now)


@transactional
def change_address(coach: Coach, address: str, now: datetime) -> Coach:
    """Change a coach's email address; the previous address is notified."""
    before = coach.email
    if address != before:
        coach.email = address
        coach.save(update_fields=["email"])
        notices.tell(coach, "email", now, address or "–", to=before)
        note(coach, Message("activity-email-changed"), now)
    return coach


def lost_password(name: str, origin: str) -> None:
    """Send a link to the person with this user name or email address; the answer does not reveal whether one exists."""
    who = Q(username__iexact=name.strip()) | Q(email__iexact=name.strip())
    coach = Coach.objects.filter(who, is_active=True).exclude(email="").order_by("pk").first()
    if coach is not None:
        mail.post(mail.Letter("lost", coach.pk, coach.email, origin=origin))


def _heads(academy: Academy) -> QuerySet[Coach]:
    return Coach.objects.filter(academy=academy, role=Coach.Role.HEAD, is_active=True).order_by("pk")


def _check_role(role: str) -> None:
    if role not in Coach.Role.values:
        raise InputError("role", role, Message("common-one", known=", ".join(Coach.Role.values)))


def _check_name(name: str) -> str:
    name = name.strip()
    if not name or len(name) > 120:
        raise InputError("name", name, Message("account-name-most-120-characters"))
    return name


def _set_password(coach: Coach, password: str) -> None:
    """Set a password if it is good; errors never repeat it.

    Raises
    ------
    Refused
    """
    try:
        validate_password(password, coach)
    except ValidationError as error:
        raise Refused(422, "password", plain(" ".join(error.messages))) from error
    coach.set_password(password)
