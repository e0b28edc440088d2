"""Addresses: the interface, and the one page of the application for everything else."""

from django.conf import settings
from django.http import FileResponse, HttpRequest, HttpResponse
from django.shortcuts import render
from django.urls import path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie

from instavis.platform.errors import Problem, answer
from instavis.project import health
from instavis.project.api import api
from instavis_core.message import Message


@ensure_csrf_cookie
def application_page(request: HttpRequest) -> HttpResponse:
    """The built front end; it finds its own way from the address."""
    return render(request, "index.html")


@ensure_csrf_cookie
def no_such_page(request: HttpRequest) -> HttpResponse:
    """The same, which leads whoever came by a wrong address to the first page; the answer says that it was wrong."""
    return render(request, "index.html", status=404)


def home_worker(request: HttpRequest) -> FileResponse:
    """The script that keeps take-home pages readable without a line; served here, for it governs what lies below it."""
    headers = {"Cache-Control": "no-cache"}
    return FileResponse(open(settings.WEB / "home-worker.js", "rb"), content_type="text/javascript", headers=headers)


def no_such_address(request: HttpRequest) -> HttpResponse:
    """An unknown address of the interface, in the common shape."""
    return answer(404, [Problem(field="address", message=Message("server-no-page", path=request.path))])


PAGES = (
    r"^(?:|(?:ask|home|join|password|email)/[^/]+|mat|camera|day|students/\d+|outcomes|bays|knowledge|academy|me|eye|train"
    r"|lessons/\d+(?:/[a-z-]+)?)/?$"
)
"""Where the front end has pages: the same as `web/src/app/routes.tsx`, held by a test."""

handler500 = "instavis.platform.errors.broken"

urlpatterns = [
    path("healthz", health.alive),
    path("readyz", health.ready),
    path("api/", api.urls),
    path("home-worker.js", home_worker),
    re_path(r"^(?:api|static|ws)/", no_such_address),
    re_path(PAGES, application_page),
    re_path(r"^.*$", no_such_page),
]
