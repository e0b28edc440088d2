"""Translated sentences of a printed page."""

from __future__ import annotations

from typing import Any

from django import template

from instavis.platform.language import spoken
from instavis_core.message import Message

register = template.Library()


@register.filter
def translated(text: str) -> str:
    """Translate a message; anything else is unchanged."""
    return spoken(text)


@register.simple_tag
def text(entry: str, **values: Any) -> str:
    """Translate an entry of the message catalog with its values."""
    return spoken(Message(entry, **values))
