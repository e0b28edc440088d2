"""The application of measured pivots."""

from __future__ import annotations

from django.apps import AppConfig


class MeasuredConfig(AppConfig):
    """Subscribes to recordings at start, in every process."""

    name = "instavis.corrections.measured"

    def ready(self) -> None:
        """Subscribe."""
        from instavis.corrections.measured import services as services
