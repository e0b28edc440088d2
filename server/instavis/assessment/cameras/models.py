"""Cameras of a bay, and the films they sent."""

from __future__ import annotations

from django.db import models

from instavis.capture.devices.models import Bay
from instavis.platform.pairing import Paired


class Camera(Paired):
    """A browser with a camera in a bay that films from one ``view``."""

    bay = models.ForeignKey(Bay, on_delete=models.CASCADE, related_name="cameras")
    view = models.CharField(max_length=14)

    class Meta:
        indexes = [models.Index(fields=["code_hash"], name="camera_by_code")]
        ordering = ["id"]


class Sending(models.Model):
    """A stored film under the camera's own key; each is stored once."""

    camera = models.ForeignKey(Camera, on_delete=models.CASCADE, related_name="sendings")
    key = models.CharField(max_length=36)
    received_at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["camera", "key"], name="film_of_a_camera_once")]
