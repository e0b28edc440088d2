"""E-mail, where the installation has somewhere to send it: notices, links for a lost password, proofs of an address.

Nothing here is sent while somebody waits, but for the head coach's test: `post` hands letters to a worker.
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
    """What is to be written: ``kind`` is ``notice``, ``lost`` or ``address``; ``origin`` is where links begin."""

    kind: str
    coach_id: int
    to: str
    origin: str = ""
    detail: str = ""

    def plain(self) -> dict[str, Any]:
        """The letter as a worker is told of it."""
        return asdict(self)


_post: list[Callable[[Letter], None]] = []


def post_with(post: Callable[[Letter], None]) -> None:
    """Say how a letter gets to a worker (the project knows)."""
    _post[:] = [post]


def post(letter: Letter) -> None:
    """Have a letter sent once what is being done is committed; nothing happens where no mail is sent."""
    if can_send():
        for hand_over in _post:
            transaction.on_commit(partial(hand_over, letter))


def can_send() -> bool:
    """Whether this installation sends e-mail."""
    return bool(settings.MAIL_SENDER)


def how() -> str:
    """Where e-mail is sent through, and as whom; empty when none is sent."""
    return f"{settings.MAIL_SENDER}, {settings.EMAIL_HOST}:{settings.EMAIL_PORT}" if can_send() else ""


def refuse_without_mail() -> None:
    """Before something that needs a letter.

    Raises
    ------
    Refused
    """
    if not can_send():
        raise Refused(409, "mail", Message("account-server-sends-no-email-ask"))


def checked_address(address: str) -> str:
    """An address that mail could be sent to.

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
    """Send a letter now, in the reader's language.

    Raises
    ------
    OSError, SMTPException
    """
    EmailMessage(spoken(subject), spoken(text), settings.MAIL_SENDER, [to]).send()


def try_out(coach: Coach, to: str) -> None:
    """A letter that says the settings are right, sent while the head coach waits.

    Raises
    ------
    InputError
        For an address that is none.
    Refused
        With what the mail server said.
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
        raise Refused(422, "mail", Message("account-mail-server-refused", said=sentence)) from error


def proof_of(coach: Coach, address: str) -> str:
    """The end of a link that proves that a coach reads an address."""
    return signing.dumps({"coach": coach.pk, "before": coach.email, "address": address}, salt=SALT)


def proved(token: str) -> tuple[Coach, str]:
    """Whose address a link proves, and the address.

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
