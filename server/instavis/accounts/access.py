"""Who may call an operation, declared with the operation.

Selectors decide who may see which object.
"""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest
from ninja.security import APIKeyCookie

from instavis.accounts.models import Coach
from instavis.accounts.sessions import lacks_factor
from instavis.platform.errors import Refused
from instavis_core.message import Message

OWN_ACCOUNT = "/api/v1/session"
"""What a person may use who has not yet set up the second factor that the academy requires."""


class CsrfOnly(APIKeyCookie):
    """Admits everyone who holds the page's CSRF token: for signing in."""

    param_name: str = settings.CSRF_COOKIE_NAME

    def authenticate(self, request: HttpRequest, key: str | None) -> bool:
        return True


class _SignedIn(APIKeyCookie):
    """A session of an academy's member, by its cookie; changes need the page's token too."""

    param_name: str = settings.SESSION_COOKIE_NAME
    roles: frozenset[str]
    refusal: Message

    def admits(self, person: Coach) -> bool:
        """Return whether a person's role is sufficient; for live connections, which no operation declares."""
        return person.role in self.roles

    def authenticate(self, request: HttpRequest, key: str | None) -> Coach | None:
        """Return the person, or None if not signed in.

        Raises
        ------
        Refused
            403 for a role that may not.
        """
        person = request.user
        if not isinstance(person, Coach):
            return None
        if not self.admits(person):
            raise Refused(403, "role", self.refusal)
        if lacks_factor(request, person) and not request.path.startswith(OWN_ACCOUNT):
            message = Message("account-your-academy-requires-second-factor")
            raise Refused(403, "second_factor", message)
        return person


class Staff(_SignedIn):
    """Everyone who works here, including the desk."""

    roles = frozenset({Coach.Role.HEAD, Coach.Role.COACH, Coach.Role.DESK})
    refusal = Message("common-sign-first")


class Coaches(_SignedIn):
    """Coaches and head coaches: they see the results."""

    roles = frozenset({Coach.Role.HEAD, Coach.Role.COACH})
    refusal = Message("account-only-coaches-can-do-desk")


class Heads(_SignedIn):
    """Head coaches."""

    roles = frozenset({Coach.Role.HEAD})
    refusal = Message("account-only-head-coach-can-do")


staff, coaches, heads = Staff(), Coaches(), Heads()
