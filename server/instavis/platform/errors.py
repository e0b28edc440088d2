"""The one shape of an error for a screen or a device: ``{"errors": [{…}]}``."""

from __future__ import annotations

import logging
import sys
from typing import Any

from django.db import InterfaceError, OperationalError
from django.http import HttpRequest, JsonResponse
from ninja import NinjaAPI, Schema
from ninja.errors import AuthenticationError, HttpError, ValidationError
from redis.exceptions import RedisError

from instavis.platform.file_storage import FilesAwayError
from instavis_core.errors import InputError
from instavis_core.message import Message, plain
from instavis_io.fields import place_of
from instavis_io.tables import TableErrors

logger = logging.getLogger(__name__)


class Problem(Schema):
    """What is wrong where, and what was expected; ``line`` only for files."""

    field: str
    message: Message
    value: Message | None = None
    expected: Message | None = None
    line: int | None = None


class Problems(Schema):
    """Every error answer."""

    errors: list[Problem]


class Refused(Exception):
    """A request that cannot be carried out, with its HTTP status."""

    def __init__(self, status: int, field: str, message: Message) -> None:
        self.status = status
        self.problem = Problem(field=field, message=message)
        super().__init__(message)


def not_found(what: str) -> Refused:
    """Return the same error for objects that do not exist and objects of another academy."""
    return Refused(404, what.replace("-", " "), Message("server-no-such-your-academy", what=Message(f"object-{what}")))


def problem_of(error: InputError) -> Problem:
    """Return an input error of the core in the common shape."""
    return Problem(
        field=error.field,
        message=error.message,
        value=error.quoted,
        expected=plain(error.expected),
        line=error.line,
    )


def answer(status: int, problems: list[Problem]) -> JsonResponse:
    """An error response."""
    return JsonResponse({"errors": [p.dict(exclude_none=True) for p in problems]}, status=status)


def database_away() -> JsonResponse:
    """Return the answer while the database is unreachable or busy: nothing was saved; the request may be repeated."""
    return busy(Message("server-database-unavailable-nothing-saved-retrying"))


def busy(message: Message) -> JsonResponse:
    """Return the answer when something cannot be done now but can be soon."""
    response = answer(503, [Problem(field="server", message=message)])
    response["Retry-After"] = "2"
    return response


AWAY = (OperationalError, InterfaceError)
"""Driver errors of a database that is unreachable, hangs, or is busy."""


def broken(request: HttpRequest) -> JsonResponse:
    """Return an error outside of an operation in the common shape; the log has the details.

    A middleware that loads the person meets an unreachable database before any operation does; that case has its own
    answer.
    """
    error = sys.exc_info()[1]
    if isinstance(error, AWAY):
        logger.warning("the database did not answer %s %s: %s", request.method, request.path, error)
        return database_away()
    message = Message("server-something-went-wrong-server-log")
    return answer(500, [Problem(field="server", message=message)])


def install(api: NinjaAPI) -> None:
    """Turn every error in a view into the one shape."""

    @api.exception_handler(InputError)
    def _input(request: HttpRequest, error: InputError) -> JsonResponse:
        return answer(422, [problem_of(error)])

    @api.exception_handler(TableErrors)
    def _table(request: HttpRequest, error: TableErrors) -> JsonResponse:
        return answer(422, [problem_of(e) for e in error.errors])

    @api.exception_handler(Refused)
    def _refused(request: HttpRequest, error: Refused) -> JsonResponse:
        return answer(error.status, [error.problem])

    @api.exception_handler(ValidationError)
    def _validation(request: HttpRequest, error: ValidationError) -> JsonResponse:
        return answer(422, [_validation_problem(e) for e in error.errors[:20]])

    @api.exception_handler(AuthenticationError)
    def _authentication(request: HttpRequest, error: AuthenticationError) -> JsonResponse:
        return answer(401, [Problem(field="session", message=Message("common-sign-first"))])

    @api.exception_handler(OperationalError)
    @api.exception_handler(InterfaceError)
    def _database_away(request: HttpRequest, error: Exception) -> JsonResponse:
        logger.warning("the database did not answer %s %s: %s", request.method, request.path, error)
        return database_away()

    @api.exception_handler(FilesAwayError)
    def _files_away(request: HttpRequest, error: FilesAwayError) -> JsonResponse:
        logger.warning("the file storage did not answer %s %s: %s", request.method, request.path, error)
        return busy(Message("server-file-storage-unavailable-nothing-saved"))

    @api.exception_handler(RedisError)
    def _redis_away(request: HttpRequest, error: Exception) -> JsonResponse:
        logger.warning("Redis did not answer %s %s: %s", request.method, request.path, error)
        return busy(Message("server-part-server-unavailable-nothing-saved"))

    @api.exception_handler(HttpError)
    def _http(request: HttpRequest, error: HttpError) -> JsonResponse:
        return answer(error.status_code, [Problem(field="request", message=plain(str(error)))])


def _validation_problem(raw: dict[str, Any]) -> Problem:
    outside = ("body", "query", "path", "data", "payload")
    field = place_of(part for part in raw.get("loc", ()) if part not in outside) or "request"
    text = raw.get("msg", "not valid")
    return Problem(field=field, message=Message("field-text", field=field, text=text), expected=plain(text))


def csrf_failure(request: HttpRequest, reason: str = "") -> JsonResponse:
    """Django's CSRF error in the common shape."""
    return answer(403, [Problem(field="session", message=Message("server-page-out-date-reload-try"))])
