"""What the product knows, as data: faults, looks, drills, clubs, tolerances and words."""

from instavis_core.knowledge.loader import KnowledgeError, load_knowledge
from instavis_core.knowledge.model import (
    Cause,
    Caution,
    Check,
    Club,
    Drill,
    Edge,
    IntakeWord,
    Knowledge,
    Metric,
    School,
    Skill,
    Stage,
)

__all__ = [
    "Caution",
    "Cause",
    "Check",
    "Club",
    "Drill",
    "Edge",
    "IntakeWord",
    "Knowledge",
    "KnowledgeError",
    "Metric",
    "School",
    "Skill",
    "Stage",
    "load_knowledge",
]
