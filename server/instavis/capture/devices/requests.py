"""The request type of the device protocol."""

from __future__ import annotations

from django.http import HttpRequest

from instavis.capture.devices.models import Device


class DeviceRequest(HttpRequest):
    """A request from a known device; includes the bay."""

    auth: Device
