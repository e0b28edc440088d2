"""The application of long tasks."""

from __future__ import annotations

from django.apps import AppConfig


class WorkConfig(AppConfig):
    """Long works."""

    name = "instavis.work"
    label = "work"
