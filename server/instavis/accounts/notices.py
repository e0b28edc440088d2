"""What coaches hear of who uses their account: on their own page, and by e-mail where that is set up."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime

from instavis.accounts import mail
from instavis.accounts.models import Coach, Notice
from instavis_core.message import Message

SENTENCES: Mapping[str, Message] = {
    "sign-in": Message("Sign-in from a new browser: {detail}."),
    "password": Message("The password was changed."),
    "link": Message("The password was reset with a link."),
    "app-added": Message("An authenticator app was added."),
    "app-removed": Message("The authenticator app was removed."),
    "passkey-added": Message("A passkey was added: {detail}."),
    "passkey-removed": Message("A passkey was removed."),
    "factors-lifted": Message("{detail} removed all second factors."),
    "code-used": Message("A recovery code was used to sign in."),
    "codes": Message("New recovery codes were created; the old ones no longer work."),
    "email": Message("The email address was changed to {detail}."),
}
KEPT = 50
"""How many of a coach's are kept."""


def tell(coach: Coach, what: str, now: datetime, detail: str = "", to: str | None = None) -> Notice:
    """Write a notice down and send it where the coach reads mail (``to``: where that was until now)."""
    notice = Notice.objects.create(coach=coach, at=now, what=what, detail=detail[:120])
    old = coach.notices.values_list("pk", flat=True)[KEPT:]
    Notice.objects.filter(pk__in=list(old)).delete()
    address = coach.email if to is None else to
    if address:
        mail.post(mail.Letter("notice", coach.pk, address, detail=str(notice.pk)))
    return notice


def sentence_of(notice: Notice) -> Message:
    """A notice as it is read."""
    return Message(SENTENCES[notice.what].template, **({"detail": notice.detail} if notice.detail else {}))


def seen(coach: Coach, now: datetime) -> None:
    """The coach has read what there is."""
    coach.notices.filter(seen_at__isnull=True).update(seen_at=now)
