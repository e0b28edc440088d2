"""Measure the pivot of balls from their recordings, and mark them."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from django.db.models import Q
from django.dispatch import receiver

from instavis.assessment.recordings.models import Recording
from instavis.assessment.recordings.services import moments_in, swing_changed, swing_of
from instavis.capture.shots.models import Shot
from instavis.capture.shots.services import mark_measured, unmarked
from instavis.corrections.measured.models import PivotReading
from instavis.corrections.models import Correction
from instavis.corrections.proofs.hit import hit_in
from instavis.corrections.proofs.selectors import proven
from instavis.knowledge.selectors import knowledge_for
from instavis.lessons.models import Lesson
from instavis_core.knowledge.model import Observed
from instavis_core.recordings import pivot_value
from instavis_core.shots import PivotValue
from instavis_core.terms import Purpose, Source


def measure(lesson: Lesson, correction: Correction) -> None:
    """Measure every ball of a locked lesson's correction, including its baseline, and mark those of its proof."""
    baseline = Q(lesson=correction.measured_from, shot__block__purpose=Purpose.BASELINE)
    _read(correction, Recording.objects.filter(baseline | Q(shot__block__correction=correction)))
    _mark(lesson, correction)


@receiver(swing_changed)
def measure_ball(recording: Recording, **_: Any) -> None:
    """Handle a new or changed recording: measure and mark its ball again; the lesson is locked."""
    shot = recording.shot
    if shot is None or shot.block is None:
        return
    if shot.block.purpose == Purpose.BASELINE:
        concerned = Correction.objects.filter(Q(begun_in=None, lesson=shot.lesson_id) | Q(begun_in=shot.lesson_id))
    elif shot.block.correction_id:
        concerned = Correction.objects.filter(pk=shot.block.correction_id)
    else:
        return
    for correction in concerned.select_related("lesson__student", "lesson__knowledge_version", "begun_in"):
        _read(correction, Recording.objects.filter(shot=shot))
        if correction.lesson_id == shot.lesson_id:
            _mark(recording.lesson, correction)


@receiver(unmarked)
def mark_again(lesson: Lesson, shot: Shot, **_: Any) -> None:
    """Handle a removed coach's mark: the instrument's mark counts again."""
    for reading in PivotReading.objects.filter(shot=shot, correction__lesson=lesson).select_related("correction"):
        if shot.correction_id == reading.correction_id:
            _mark(lesson, reading.correction)


def _read(correction: Correction, recordings: Iterable[Recording]) -> None:
    """Keep the most certain value of each ball; a ball whose recordings were discarded loses its own."""
    drill = knowledge_for(correction.lesson).drills.get(correction.drill)
    observed = drill.seen if drill else None
    if observed is None:
        return
    best: dict[int, tuple[PivotValue, str] | None] = {}
    for recording in recordings:
        if recording.shot_id is None:
            continue
        known = best.setdefault(recording.shot_id, None)
        value = None if recording.dropped_at else _value(recording, observed)
        if value and (known is None or value.error < known[0].error):
            best[recording.shot_id] = value, Source.CAMERA if recording.view else Source.RECORDING
    PivotReading.objects.filter(correction=correction, shot__in=best).delete()
    PivotReading.objects.bulk_create(
        PivotReading(
            correction=correction,
            shot_id=shot,
            value=round(result[0].value, 4),
            error=round(result[0].error, 4),
            others=dict(result[0].others),
            source=result[1],
        )
        for shot, result in best.items()
        if result
    )


def _value(recording: Recording, observed: Observed) -> PivotValue | None:
    swing = swing_of(recording)
    return pivot_value(observed, swing, moments_in(recording, swing, recording.marks))


def _mark(lesson: Lesson, correction: Correction) -> None:
    """Mark the balls of a proof by instrument; a coach's mark stays."""
    result = proven(correction, hit_in(lesson, correction))
    marks = result.proof.pivot.balls if result.proof.pivot else [None] * len(result.ball_ids)
    mark_measured(lesson, {ball: (mark and mark.mark) or "" for ball, mark in zip(result.ball_ids, marks, strict=True)})
