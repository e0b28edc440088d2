"""Sentences for people, made from the core's results."""

from instavis_report.beside import beside_lines
from instavis_report.take_home import Section, TakeHomeFacts, feel_line, read_own_lines, take_home_sections
from instavis_report.why import Why, why_of

__all__ = [
    "Section",
    "TakeHomeFacts",
    "Why",
    "beside_lines",
    "feel_line",
    "read_own_lines",
    "take_home_sections",
    "why_of",
]
