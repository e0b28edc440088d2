"""Addresses: the API, and the one page of the application for everything else."""

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
    """Return the built front end, which reads the address itself."""
    return render(request, "index.html")


@ensure_csrf_cookie
def no_such_page(request: HttpRequest) -> HttpResponse:
    """Return the same page with status 404; it leads visitors of a wrong address to the first page."""
    return render(request, "index.html", status=404)


def home_worker(request: HttpRequest) -> FileResponse:
    """Return the script that keeps take-home pages readable offline; served here because its scope is the paths below
    it.
    """
    headers = {"Cache-Control": "no-cache"}
    return FileResponse(open(settings.WEB / "home-worker.js", "rb"), content_type="text/javascript", headers=headers)


def no_such_address(request: HttpRequest) -> HttpResponse:
    """Return the error for an unknown address of the API, in the common shape."""
    return answer(404, [Problem(field="address", message=Message("server-no-page", path=request.path))])


PAGES = (
    r"^(?:|(?:ask|home|join|password|email)/[^/]+|mat|camera|day|students/\d+|outcomes|bays|knowledge|academy|me|eye|train"
    r"|lessons/\d+(?:/[a-z-]+)?)/?$"
)
"""Pages of the front end: the same as in `web/src/app/routes.tsx`, which a test checks."""

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
