"""The app label stays the one its tables were created with."""

from __future__ import annotations

from django.apps import AppConfig


class AccountsConfig(AppConfig):
    """Academies, coaches and students."""

    name = "instavis.accounts"
    label = "people"
