"""Notices to coaches about the use of their account: on their own page, and by email where it is set up."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime

from instavis.accounts import mail
from instavis.accounts.models import Coach, Notice
from instavis_core.message import Message

SENTENCES: Mapping[str, Message] = {
    "sign-in": Message("account-sign-new-browser"),
    "password": Message("account-password-changed"),
    "link": Message("account-password-reset-link"),
    "app-added": Message("account-authenticator-app-added"),
    "app-removed": Message("account-authenticator-app-removed"),
    "passkey-added": Message("account-passkey-added"),
    "passkey-removed": Message("account-passkey-removed"),
    "factors-lifted": Message("account-removed-all-second-factors"),
    "code-used": Message("account-recovery-code-used-sign"),
    "codes": Message("account-new-recovery-codes-created-old"),
    "email": Message("account-email-address-changed"),
}
MAX_NOTICES = 50
"""Notices kept for each coach."""


def tell(coach: Coach, what: str, now: datetime, detail: str = "", to: str | None = None) -> Notice:
    """Store a notice and send it to the coach's email address (``to``: the previous address)."""
    notice = Notice.objects.create(coach=coach, at=now, what=what, detail=detail[:120])
    old = coach.notices.values_list("pk", flat=True)[MAX_NOTICES:]
    Notice.objects.filter(pk__in=list(old)).delete()
    address = coach.email if to is None else to
    if address:
        mail.post(mail.Letter("notice", coach.pk, address, detail=str(notice.pk)))
    return notice


def sentence_of(notice: Notice) -> Message:
    """Return a notice as it is shown."""
    return Message(SENTENCES[notice.what], **({"detail": notice.detail} if notice.detail else {}))


def seen(coach: Coach, now: datetime) -> None:
    """Mark a coach's notices as read."""
    coach.notices.filter(seen_at__isnull=True).update(seen_at=now)
