"""The application of coaches' eyes."""

from __future__ import annotations

from django.apps import AppConfig


class EyesConfig(AppConfig):
    """Subscribes to answers and films at start, in every process."""

    name = "instavis.assessment.eyes"

    def ready(self) -> None:
        """Subscribe."""
        from instavis.assessment.eyes import services as services
