"""Requests that are carried out once, however often a browser sends them."""

from __future__ import annotations

from collections.abc import Callable
from datetime import datetime, timedelta
from functools import wraps
from hashlib import sha256
from typing import Any

from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.utils import timezone

from instavis.accounts.models import AnsweredRequest, Coach
from instavis.platform.errors import Problem, answer
from instavis_core.message import Message

HEADER = "Idempotency-Key"
MAX_KEY_CHARACTERS = 64
KEEP_FOR = timedelta(days=2)
"""Longer than a browser keeps sending a change that it could not save."""
SAFE_METHODS = ("GET", "HEAD", "OPTIONS")

View = Callable[..., HttpResponse]


def once(view: View) -> View:
    """Carry out a request that names a key at most once; repetitions get the first answer.

    The answer is saved in the transaction of the change itself, so a crash saves both or neither. A request that
    was refused leaves no trace: the same key may be sent again.
    """

    @wraps(view)
    def run(request: HttpRequest, *args: Any, **kwargs: Any) -> HttpResponse:
        key, coach = request.headers.get(HEADER), request.user
        if key is None or request.method in SAFE_METHODS or not isinstance(coach, Coach):
            return view(request, *args, **kwargs)
        if not 0 < len(key) <= MAX_KEY_CHARACTERS:
            return _refuse(Message("account-key-must-1-characters", most=MAX_KEY_CHARACTERS))
        content = sha256(f"{request.method} {request.path}\n".encode() + request.body).hexdigest()
        with transaction.atomic():
            # A second request with the same key waits here until the first one has ended.
            row, is_new = AnsweredRequest.objects.get_or_create(
                coach=coach, key=key, defaults={"content": content, "at": timezone.now()}
            )
            if not is_new:
                if row.content != content:
                    return _refuse(Message("account-key-used-another-request"))
                return HttpResponse(row.answer, status=row.status, content_type="application/json; charset=utf-8")
            response = view(request, *args, **kwargs)
            if response.status_code >= 400:
                transaction.set_rollback(True)
            else:
                row.status, row.answer = response.status_code, response.content.decode()
                row.save(update_fields=["status", "answer"])
        return response

    return run


def delete_old_answers(now: datetime) -> int:
    """Delete the answers that no browser requests any more; return how many."""
    return AnsweredRequest.objects.filter(at__lt=now - KEEP_FOR).delete()[0]


def _refuse(message: Message) -> HttpResponse:
    return answer(422, [Problem(field=HEADER, message=message)])
