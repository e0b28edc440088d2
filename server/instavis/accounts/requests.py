"""What a view is called with: the type of a request whose sender is known."""

from __future__ import annotations

from django.http import HttpRequest

from instavis.accounts.models import Coach


class CoachRequest(HttpRequest):
    """Sent by somebody who is signed in."""

    user: Coach
