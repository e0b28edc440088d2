"""The shot record as JSON Schema, made from the same tables that check it."""

from __future__ import annotations

from typing import Any

from instavis_core.knowledge import vocabulary
from instavis_core.shots import CHOICES, FORMAT, LONGEST_TEXT


def shot_schema() -> dict[str, Any]:
    """JSON Schema (2020-12) of one record; kept in `docs/schemas/shot.schema.json`."""
    known = vocabulary()
    properties: dict[str, Any] = {
        "format": {"const": FORMAT},
        "at": {"type": "string", "format": "date-time", "description": "Moment with its zone."},
        "club": {"enum": list(known.clubs)},
    }
    for name, words in CHOICES.items():
        properties[name] = {"enum": list(words)}
    for name, longest in LONGEST_TEXT.items():
        properties.setdefault(name, {"type": "string", "maxLength": longest})
    for metric in known.metrics.values():
        frame = "Device frame, right of the target positive." if metric.mirrored else ""
        properties[metric.id] = {
            "type": "number",
            "minimum": metric.range[0],
            "maximum": metric.range[1],
            "description": f"{metric.label} [{metric.unit}]. {frame}".strip(),
        }
    return {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": FORMAT,
        "type": "object",
        "properties": properties,
        "additionalProperties": {"type": ["string", "number", "boolean", "null"]},
    }
