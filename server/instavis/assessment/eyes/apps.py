"""The application of coaches' eyes."""

from __future__ import annotations

from django.apps import AppConfig


class EyesConfig(AppConfig):
    """Listens for grades and films from the start, in every program."""

    name = "instavis.assessment.eyes"

    def ready(self) -> None:
        """Begin to compare."""
        from instavis.assessment.eyes import services as services
