"""The application of measured pivots."""

from __future__ import annotations

from django.apps import AppConfig


class MeasuredConfig(AppConfig):
    """Listens for recordings from the start, in every program."""

    name = "instavis.corrections.measured"

    def ready(self) -> None:
        """Begin to measure."""
        from instavis.corrections.measured import services as services
