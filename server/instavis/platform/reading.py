"""How bodies of requests are read: leniently where a device speaks, which cannot mend what it sent."""

from __future__ import annotations

import json
from typing import Any

from django.http import HttpRequest
from ninja.parser import Parser

DEVICE_SHOTS = "/api/device/v1/shots"
MAX_DIGITS = 400


class BodyParser(Parser):
    """JSON with whole numbers of any length, and batches of a device that are no JSON taken as one odd record."""

    def parse_body(self, request: HttpRequest) -> Any:
        """The document of a body.

        Raises
        ------
        ValueError, RecursionError
            For what is no JSON, unless it is a device's batch: that is refused as a record is, and kept.
        """
        try:
            return json.loads(request.body, parse_int=_whole)
        except (ValueError, RecursionError):
            if request.path != DEVICE_SHOTS:
                raise
            return {"shots": [request.body.decode("utf-8", "backslashreplace")]}


def _whole(text: str) -> int | float:
    """Python refuses whole numbers of thousands of digits; as a float they are infinite and refused by name."""
    return int(text) if len(text) <= MAX_DIGITS else float(text)
