"""Names and passwords are Django's; whoever is signed in is looked up together with the academy, in one question."""

from __future__ import annotations

from django.contrib.auth.backends import ModelBackend

from instavis.accounts.models import Coach


class Backend(ModelBackend):
    """Django's own, but for how a session's coach is found."""

    def get_user(self, user_id: int) -> Coach | None:
        """The coach of a key who may still come in."""
        coach = Coach.objects.select_related("academy").filter(pk=user_id).first()
        return coach if coach is not None and self.user_can_authenticate(coach) else None
