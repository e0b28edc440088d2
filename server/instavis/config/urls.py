"""Addresses: the interface, and the one page of the application for everything else."""

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.urls import path, re_path
from django.views.decorators.csrf import ensure_csrf_cookie

from instavis.config.api import api
from instavis.config.errors import Problem, answer


@ensure_csrf_cookie
def application_page(request: HttpRequest) -> HttpResponse:
    """The built front end; it finds its own way from the address."""
    return render(request, "index.html")


def no_such_address(request: HttpRequest) -> HttpResponse:
    """An unknown address of the interface, in the common shape."""
    return answer(404, [Problem(field="address", message=f"There is nothing at {request.path}.")])


urlpatterns = [
    path("api/", api.urls),
    re_path(r"^(?:api|static|ws)/", no_such_address),
    re_path(r"^.*$", application_page),
]
