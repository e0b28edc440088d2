"""Email, if the installation can send it: notices, links for a lost password, confirmations of an address.

Nothing here is sent while a person waits, except for the head coach's test: `post` passes emails to a worker.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import asdict, dataclass
from datetime import timedelta
from functools import partial
from smtplib import SMTPException
from typing import Any

from django.conf import settings
from django.core import signing
from django.core.exceptions import ValidationError
from django.core.mail import EmailMessage, get_connection
from django.core.validators import validate_email
from django.db import transaction

from instavis.accounts.models import Coach
from instavis.platform.errors import Refused
from instavis.platform.language import spoken
from instavis_core.errors import InputError
from instavis_core.message import Message

SALT = "instavis.accounts.mail"
ADDRESS_PROVED_WITHIN = timedelta(hours=24)


@dataclass(frozen=True)
class Letter:
    """An email to write: ``kind`` is ``notice``, ``lost`` or ``address``; ``origin`` is the start of its links."""

    kind: str
    coach_id: int
    to: str
    origin: str = ""
    detail: str = ""

    def plain(self) -> dict[str, Any]:
        """The email as data for a worker."""
        return asdict(self)


_post: list[Callable[[Letter], None]] = []


def post_with(post: Callable[[Letter], None]) -> None:
    """Set how an email gets to a worker; the project sets it."""
    _post[:] = [post]


def post(letter: Letter) -> None:
    """Send an email once the current transaction is committed; without email nothing happens."""
    if can_send():
        for hand_over in _post:
            transaction.on_commit(partial(hand_over, letter))


def can_send() -> bool:
    """Return whether this installation sends email."""
    return bool(settings.MAIL_SENDER)


def how() -> str:
    """Return the mail server and sender; empty if no email is sent."""
    return f"{settings.MAIL_SENDER}, {settings.EMAIL_HOST}:{settings.EMAIL_PORT}" if can_send() else ""


def refuse_without_mail() -> None:
    """Raise an error if something needs email and none can be sent.

    Raises
    ------
    Refused
    """
    if not can_send():
        raise Refused(409, "mail", Message("account-server-sends-no-email-ask"))


def checked_address(address: str) -> str:
    """Return an address that email could be sent to.

    Raises
    ------
    InputError
    """
    address = address.strip()
    try:
        validate_email(address)
    except ValidationError as error:
        raise InputError("email", address, Message("account-email-address-such-name-example")) from error
    return address


def send(subject: Message, text: Message, to: str) -> None:
    """Send an email now, in the reader's language.

    Raises
    ------
    OSError, SMTPException
    """
    EmailMessage(spoken(subject), spoken(text), settings.MAIL_SENDER, [to]).send()


def try_out(coach: Coach, to: str) -> None:
    """Send a test email while the head coach waits.

    Raises
    ------
    InputError
        For an address that is none.
    Refused
        With the mail server's error.
    """
    refuse_without_mail()
    to = checked_address(to)
    try:
        with get_connection() as line:
            text = Message("account-can-send-email-here", academy=coach.academy.name)
            line.send_messages(
                [EmailMessage(spoken(Message("account-test-email")), spoken(text), settings.MAIL_SENDER, [to])]
            )
    except (OSError, SMTPException) as error:
        sentence = str(error)[:200] or type(error).__name__
        raise Refused(422, "mail", Message("account-mail-server-refused", text=sentence)) from error


def proof_of(coach: Coach, address: str) -> str:
    """Return the part of a link that confirms an email address."""
    return signing.dumps({"coach": coach.pk, "before": coach.email, "address": address}, salt=SALT)


def proved(token: str) -> tuple[Coach, str]:
    """Return the coach and the address that a link proves.

    Raises
    ------
    Refused
        One answer for what never was, is too old, or was overtaken by another change.
    """
    try:
        result = signing.loads(token, salt=SALT, max_age=ADDRESS_PROVED_WITHIN)
    except signing.BadSignature:
        result = {"coach": 0, "before": "", "address": ""}
    coach = Coach.objects.filter(pk=result["coach"], email=result["before"], is_active=True).first()
    if coach is None:
        raise Refused(404, "link", Message("account-link-expired-request-new-one"))
    return coach, result["address"]
