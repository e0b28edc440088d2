"""An academy's corrections by outcome: which drill works for which fault, and how often."""

from __future__ import annotations

from collections import Counter
from dataclasses import dataclass

from django.db.models import Exists, OuterRef

from instavis.accounts.models import Academy
from instavis.accounts.selectors import real_students
from instavis.corrections.models import Correction
from instavis.knowledge.selectors import knowledge_of, own_drills_ever
from instavis.lessons.models import Lesson
from instavis.lessons.selectors import real_lessons
from instavis_core.message import Message, plain
from instavis_core.progress import DrillOutcome, drill_outcomes


@dataclass(frozen=True)
class NamedOutcome:
    """A row of the table with names for a coach."""

    fault_label: Message
    drill_name: Message
    outcome: DrillOutcome


@dataclass(frozen=True, kw_only=True)
class Outcomes:
    """The table and its totals."""

    rows: list[NamedOutcome]
    lessons: int
    students: int
    corrections: dict[str, int]


def outcomes_of(academy: Academy) -> Outcomes:
    """Return corrections with at least one ball, by fault and drill; stopped ones are listed but not judged."""
    lessons = real_lessons(academy.pk).order_by()
    with_balls = Correction.objects.filter(lesson__in=lessons, blocks__shots__isnull=False).values("pk")
    result = list(Correction.objects.filter(pk__in=with_balls).values_list("fault", "drill", "outcome"))
    known = knowledge_of(academy)
    own = {key: plain(name) for key, name in own_drills_ever(academy).items()}
    drills = own | {d.id: d.name for d in known.drills.values()}
    rows = [
        NamedOutcome(
            known.label_of(r.fault), drills.get(r.drill, plain(r.drill) if r.drill else Message("reports-no-drill")), r
        )
        for r in drill_outcomes(result)
    ]
    return Outcomes(
        rows=rows,
        lessons=lessons.count(),
        students=real_students(academy).filter(Exists(Lesson.objects.filter(student=OuterRef("pk")))).count(),
        corrections=dict(Counter(outcome for _, _, outcome in result)),
    )
