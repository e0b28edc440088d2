"""The type of a request whose sender is known."""

from __future__ import annotations

from django.http import HttpRequest

from instavis.accounts.models import Coach


class CoachRequest(HttpRequest):
    """A request from a signed-in person."""

    user: Coach
