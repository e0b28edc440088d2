"""The state of the seven stations in two or three words each."""

from __future__ import annotations

from dataclasses import dataclass

from instavis.assessment.findings.selectors import grades_of, intake_of, spreads_before
from instavis.capture.shots.selectors import baseline_balls
from instavis.corrections.proofs.selectors import proof_ball_count
from instavis.corrections.selectors import active_correction
from instavis.knowledge.selectors import knowledge_for
from instavis.lessons.cached import cached
from instavis.lessons.models import Lesson
from instavis.practice.models import TakeHome
from instavis_core.message import Message
from instavis_core.reading import balls_still_needed


@dataclass(frozen=True)
class StationState:
    """One station: its id, its state in words, and whether the next ones have what they need."""

    id: str
    state: Message
    ready: bool


def stations_of(lesson: Lesson) -> list[StationState]:
    """Return the stations in order."""
    intake = intake_of(lesson)
    answered = sum(g != "not-seen" for g in grades_of(lesson).values())
    correction = active_correction(lesson)
    baseline, known = cached("baseline", lesson, lambda: _baseline(lesson))
    proved = proof_ball_count(lesson, correction) if correction else 0
    written = TakeHome.objects.filter(lesson=lesson).exists()
    corrected = knowledge_for(lesson).label_of(correction.fault) if correction else Message("lesson-not-chosen")
    waiting = Message("lesson-waiting")
    return [
        StationState("ask", Message("lesson-asked") if intake else Message("lesson-not-asked"), intake is not None),
        StationState("baseline", baseline, known),
        StationState(
            "check",
            Message("lesson-check-count", n=answered) if answered else Message("lesson-nothing-checked-yet"),
            answered > 0,
        ),
        StationState("cause", Message("lesson-ranked") if known or answered or intake else waiting, known),
        StationState("correct", corrected, correction is not None),
        StationState("prove", Message("lesson-ball-count", n=proved) if correction else waiting, proved > 0),
        StationState("take-home", Message("lesson-written") if written else Message("common-open"), written),
    ]


def _baseline(lesson: Lesson) -> tuple[Message, bool]:
    balls = baseline_balls(lesson)
    if not balls.ids:
        return Message("lesson-no-balls"), False
    count = len(balls.ids)
    needed = balls_still_needed(balls.block, balls.aside, spreads_before(lesson))
    if needed is None:
        return Message("lesson-balls", count=count), False
    return (
        (Message("lesson-balls-enough", count=count), True)
        if needed == 0
        else (Message("lesson-balls-more", count=count, needed=needed), False)
    )
