"""A device without an account: paired by a short code that a coach reads out, then identified by its own token."""

from __future__ import annotations

import secrets
from datetime import datetime, timedelta
from typing import Self, TypeVar

from django.db import models
from django.db.models import QuerySet

from instavis.platform import throttle
from instavis.platform.errors import Refused
from instavis.platform.keys import hash_token
from instavis_core.message import Message

CODE_LASTS = timedelta(minutes=5)
CODE_DIGITS = 6
MAX_GUESSES, GUESS_WINDOW = 12, 60  # wrong codes from one address in so many seconds


class Paired(models.Model):
    """``code_hash`` pairs it until ``code_until``; afterwards only ``token_hash`` is accepted, until it is
    disconnected.
    """

    code_hash = models.CharField(max_length=64, db_collation="utf8mb4_bin")
    code_until = models.DateTimeField()
    token_hash = models.CharField(max_length=64, blank=True, db_index=True, db_collation="utf8mb4_bin")
    paired_at = models.DateTimeField(null=True, blank=True)
    ended_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        """It has no table of its own."""

        abstract = True

    def offer(self, now: datetime) -> str:
        """Return a code for a row that will be saved; it is shown only now."""
        code = f"{secrets.randbelow(10**CODE_DIGITS):0{CODE_DIGITS}d}"
        self.code_hash, self.code_until = hash_token(code), now + CODE_LASTS
        return code

    @classmethod
    def opened_by(cls, token: str) -> QuerySet[Self]:
        """Return the row of a token."""
        found = cls._default_manager.filter(token_hash=hash_token(token))
        return found.filter(ended_at__isnull=True, paired_at__isnull=False) if token else found.none()


Row = TypeVar("Row", bound=Paired)


def pair(kind: type[Row], what: str, code: str, address: str, now: datetime, wrong: Message) -> tuple[Row, str]:
    """Return the row of a code and its new token; each code pairs once.

    The caller holds the transaction.

    Raises
    ------
    Refused
        For a wrong or used code, and for too many wrong ones.
    """
    if throttle.counted(what, address) >= MAX_GUESSES:
        raise Refused(429, "code", Message("server-too-many-wrong-codes-wait"))
    rows = kind._default_manager.select_for_update().filter(code_hash=hash_token(code.strip()), code_until__gt=now)
    row = rows.filter(paired_at__isnull=True, ended_at__isnull=True).first()
    if row is None:
        throttle.count(what, address, window=GUESS_WINDOW)
        raise Refused(404, "code", wrong)
    token = secrets.token_urlsafe(32)
    row.token_hash, row.paired_at = hash_token(token), now
    row.save(update_fields=["token_hash", "paired_at"])
    return row, token
