"""Names and passwords are Django's; the coach of a session is loaded together with the academy in one query."""

from __future__ import annotations

from django.contrib.auth.backends import ModelBackend

from instavis.accounts.models import Coach


class Backend(ModelBackend):
    """Django's backend, except for how a session's coach is found."""

    def get_user(self, user_id: int) -> Coach | None:
        """Return the coach with this key if they may sign in."""
        coach = Coach.objects.select_related("academy").filter(pk=user_id).first()
        return coach if coach is not None and self.user_can_authenticate(coach) else None
