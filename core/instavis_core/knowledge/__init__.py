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
from instavis_core.knowledge.motion import Motion, load_motion

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
    "Motion",
    "School",
    "Skill",
    "Stage",
    "load_knowledge",
    "load_motion",
]
