"""Who may call an operation, said where it is declared. What belongs to whom is the selectors' matter."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest
from ninja.security import APIKeyCookie

from instavis.accounts.models import Coach
from instavis.accounts.sessions import lacks_factor
from instavis.platform.errors import Refused
from instavis_core.message import Message

OWN_ACCOUNT = "/api/v1/session"
"""What is open to somebody who has yet to set up the second factor that the academy asks for."""


class CsrfOnly(APIKeyCookie):
    """Lets everybody in who holds the page's CSRF token: for signing in."""

    param_name: str = settings.CSRF_COOKIE_NAME

    def authenticate(self, request: HttpRequest, key: str | None) -> bool:
        return True


class _SignedIn(APIKeyCookie):
    """A session of this academy's people, by its cookie; changes need the page's token too."""

    param_name: str = settings.SESSION_COOKIE_NAME
    roles: frozenset[str]
    refusal: Message

    def admits(self, person: Coach) -> bool:
        """Return whether a person's role may: for lines, which no operation declares."""
        return person.role in self.roles

    def authenticate(self, request: HttpRequest, key: str | None) -> Coach | None:
        """The person, or None for nobody.

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
    """Everybody who works here, the desk too."""

    roles = frozenset({Coach.Role.HEAD, Coach.Role.COACH, Coach.Role.DESK})
    refusal = Message("common-sign-first")


class Coaches(_SignedIn):
    """Who teaches: they see what was found."""

    roles = frozenset({Coach.Role.HEAD, Coach.Role.COACH})
    refusal = Message("account-only-coaches-can-do-desk")


class Heads(_SignedIn):
    """Who answers for the academy."""

    roles = frozenset({Coach.Role.HEAD})
    refusal = Message("account-only-head-coach-can-do")


staff, coaches, heads = Staff(), Coaches(), Heads()
