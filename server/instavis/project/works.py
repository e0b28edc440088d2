"""Every kind of task: importing the module of its app registers it."""

from __future__ import annotations

from smtplib import SMTPException
from typing import Any

from django.utils import timezone

from instavis.accounts import letters, mail
from instavis.accounts.mail import Letter
from instavis.accounts.models import Coach
from instavis.assessment.clips import services as clips
from instavis.capture.files import services as files
from instavis.work.models import Work
from instavis.work.services import Step, WorkFailed, ask, does

__all__ = ["clips", "files"]


@does("mail")
def send(work: Work, step: Step) -> dict[str, Any]:
    """Send one letter.

    Raises
    ------
    WorkFailed
        With the mail server's error.
    """
    try:
        return {"sent": letters.write(Letter(**work.arguments), timezone.now())}
    except (OSError, SMTPException) as error:
        raise WorkFailed({"error": str(error)[:200]}) from error


def _ask_to_send(letter: Letter) -> None:
    coach = Coach.objects.select_related("academy").get(pk=letter.coach_id)
    ask("mail", coach.academy, coach, letter.plain(), timezone.now())


mail.post_with(_ask_to_send)
