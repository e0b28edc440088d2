"""Changes to corrections."""

from __future__ import annotations

from datetime import datetime

from django.db import transaction

from instavis.config.errors import Refused
from instavis.corrections.models import Correction
from instavis.findings.selectors import ranking_of
from instavis.lessons.events import locked_lesson, log
from instavis.lessons.models import Lesson
from instavis_core.errors import InputError
from instavis_core.knowledge import load_knowledge
from instavis_core.proof import read_correction
from instavis_core.shots import STAGES


@transaction.atomic
def choose_correction(lesson: Lesson, values: dict, now: datetime) -> Correction:
    """Write down a correction before its first ball; an open one before it is stopped.

    Raises
    ------
    InputError
        For anything the core cannot test: unknown fault, metric, direction, a gate the wrong way round.
    """
    locked = locked_lesson(lesson.pk)
    _check(values, locked)
    locked.corrections.filter(outcome=Correction.Outcome.OPEN).update(outcome=Correction.Outcome.STOPPED)
    chance = next((f.probability for f in ranking_of(locked).faults if f.id == values["fault"]), None)
    correction = Correction.objects.create(lesson=locked, chosen_at=now, probability_then=chance, **values)
    log(locked, "lesson", [{"changed": "correction"}])
    return correction


@transaction.atomic
def change_correction(correction: Correction, values: dict) -> Correction:
    """Change stage, gate, guards or outcome.

    Raises
    ------
    Refused
        When gate or guards would change after balls were judged by them: choose the correction anew.
    """
    locked = locked_lesson(correction.lesson_id)
    correction = Correction.objects.select_for_update().get(pk=correction.pk)
    moves_gate = any(name in values for name in ("gate", "guards"))
    if moves_gate and locked.shots.filter(block__correction=correction).exists():
        message = "Balls were judged by this gate. Choose the correction again with the new one: the proof starts anew."
        raise Refused(409, "gate", message)
    for name, value in values.items():
        setattr(correction, name, value)
    _check({**correction.to_document(), "drill": correction.drill, "stage": correction.stage}, locked)
    if correction.outcome not in Correction.Outcome.values:
        raise InputError("outcome", correction.outcome, "one of " + ", ".join(Correction.Outcome.values))
    correction.save()
    log(locked, "lesson", [{"changed": "correction"}])
    return correction


def _check(values: dict, lesson: Lesson) -> None:
    read_correction(values, lesson.student.golfer, load_knowledge().clubs[lesson.club])
    if values.get("drill") and values["drill"] not in load_knowledge().drills:
        raise InputError("drill", values["drill"], "one of " + ", ".join(load_knowledge().drills))
    if values.get("stage") not in STAGES:
        raise InputError("stage", values.get("stage"), "one of " + ", ".join(STAGES))
