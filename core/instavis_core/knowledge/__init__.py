"""What the product knows, as data: faults, looks, drills, clubs, tolerances and words."""

from instavis_core.knowledge.loader import (
    EDITABLE,
    OWN,
    Changes,
    KnowledgeError,
    changed_knowledge,
    in_force,
    load_knowledge,
    shipped_knowledge,
)
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
    "EDITABLE",
    "OWN",
    "Changes",
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
    "changed_knowledge",
    "in_force",
    "load_knowledge",
    "load_motion",
    "shipped_knowledge",
]
