"""Sentences of a printed page, in the reader's language."""

from __future__ import annotations

from typing import Any

from django import template

from instavis.platform.language import spoken
from instavis_core.message import Message

register = template.Library()


@register.filter
def said(text: str) -> str:
    """A message in the language; anything else as it is."""
    return spoken(text)


@register.simple_tag
def say(entry: str, **values: Any) -> str:
    """An entry of the message catalogue, filled."""
    return spoken(Message(entry, **values))
