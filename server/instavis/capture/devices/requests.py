"""What a view of the device protocol is called with."""

from __future__ import annotations

from django.http import HttpRequest

from instavis.capture.devices.models import Device


class DeviceRequest(HttpRequest):
    """Sent by a device whose token is known; the bay comes with it."""

    auth: Device
