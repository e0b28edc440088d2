"""Every sentence a person reads, made from what the core found out."""

from instavis_report.beside import beside_lines
from instavis_report.take_home import Section, TakeHomeFacts, made_felt, read_own_lines, take_home_sections
from instavis_report.why import Why, why_of

__all__ = [
    "Section",
    "TakeHomeFacts",
    "Why",
    "beside_lines",
    "made_felt",
    "read_own_lines",
    "take_home_sections",
    "why_of",
]
