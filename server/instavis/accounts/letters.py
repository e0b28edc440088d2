"""The texts of emails; a worker calls this."""

from __future__ import annotations

from datetime import datetime

from instavis.accounts import mail, notices, people
from instavis.accounts.mail import Letter
from instavis.accounts.models import Coach, Notice
from instavis.platform.language import speak_to
from instavis_core.message import Message


def write(letter: Letter, now: datetime) -> bool:
    """Write and send an email; return False if there is no longer a reason to.

    Raises
    ------
    OSError, SMTPException
        When it could not be sent.
    """
    coach = Coach.objects.select_related("academy").filter(pk=letter.coach_id, is_active=True).first()
    if coach is None or not mail.can_send():
        return False
    speak_to(coach)
    result = {"notice": _notice, "lost": _lost, "address": _address}[letter.kind](letter, coach, now)
    if result is None:
        return False
    mail.send(*result, letter.to)
    return True


def _notice(letter: Letter, coach: Coach, now: datetime) -> tuple[Message, Message] | None:
    notice = Notice.objects.filter(pk=int(letter.detail), coach=coach).first()
    if notice is None:
        return None
    text = Message(
        ("account-if-you-nothing-do-if"),
        name=coach.name,
        what=notices.sentence_of(notice),
        academy=coach.academy.name,
    )
    return Message("account-your-account", academy=coach.academy.name), text


def _lost(letter: Letter, coach: Coach, now: datetime) -> tuple[Message, Message]:
    token = people.password_link_for(coach, coach, now)[1]
    text = Message(
        ("account-use-link-choose-new-password"),
        name=coach.name,
        username=coach.username,
        link=f"{letter.origin}/password/{token}",
        academy=coach.academy.name,
    )
    return Message("account-new-password", academy=coach.academy.name), text


def _address(letter: Letter, coach: Coach, now: datetime) -> tuple[Message, Message]:
    text = Message(
        ("account-open-link-within-day-confirm"),
        name=coach.name,
        link=f"{letter.origin}/email/{mail.proof_of(coach, letter.to)}",
        academy=coach.academy.name,
    )
    return Message("account-your-address"), text
