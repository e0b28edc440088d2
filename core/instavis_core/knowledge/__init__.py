"""The knowledge as data: faults, checks, drills, clubs, tolerances and words.

The vocabulary is the same for everyone and available everywhere. Faults, checks and drills are an object that is passed
to the code that uses it; `instavis_core.knowledge.loader` makes it.
"""

from instavis_core.knowledge.clubs import Club
from instavis_core.knowledge.loader import EDITABLE, OWN, Changes, KnowledgeError, vocabulary
from instavis_core.knowledge.model import (
    Cause,
    Caution,
    Check,
    Drill,
    Edge,
    IntakeWord,
    Knowledge,
    Metric,
    School,
    Skill,
    Stage,
    Vocabulary,
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
    "Vocabulary",
    "load_motion",
    "vocabulary",
]
