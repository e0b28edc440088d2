"""Rules for every answer: our host name was requested, personal answers are not cached, and the person is known."""

from __future__ import annotations

from collections.abc import Callable

from django.core.exceptions import DisallowedHost
from django.http import HttpRequest
from django.http.response import HttpResponseBase

from instavis.platform.errors import Problem, answer
from instavis_core.message import Message

PERSONAL = "/api/"


class AnswersMiddleware:
    """Around every view."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponseBase]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponseBase:
        try:
            request.get_host()
        except DisallowedHost:
            message = Message("server-server-does-not-accept-host")
            return answer(400, [Problem(field="host", message=message)])
        response = self.get_response(request)
        if request.path.startswith(PERSONAL) and not response.has_header("Cache-Control"):
            response["Cache-Control"] = "no-store"
        result = getattr(request, "scope", {}).get("log_fields")
        if result is not None:
            user = getattr(request, "user", None)
            if user is not None and user.is_authenticated:
                result["who"] = user.pk
            if match := request.resolver_match:
                result["view"] = match.url_name or match.view_name
        return response
