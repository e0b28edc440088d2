"""What a second screen may show: the move, the result, how many more.

Nothing else of the lesson.
"""

from __future__ import annotations

from dataclasses import dataclass

from instavis.corrections.proofs.selectors import proof_of
from instavis.corrections.selectors import active_correction, cue_of
from instavis.corrections.trials.selectors import read_trial
from instavis.display.screens.models import Screen
from instavis.lessons.models import Lesson
from instavis_core.knowledge import vocabulary
from instavis_core.message import NOTHING, Message


@dataclass(frozen=True, kw_only=True)
class MatView:
    """The student's view between two balls.

    ``moved`` and ``answered`` are yes, partly, no or empty (not judged yet). ``more`` is how many balls are needed to
    step up; ``call`` is the next call of a comparison; ``task`` is what to do at a stage without a ball.
    """

    first_name: str
    language: str
    cue: Message
    stage: Message
    ball: int
    moved: str
    answered: str
    verdict: Message
    hits: int
    need: int
    of: int
    more: int
    advice: str
    call: str
    task: Message
    ended: bool


def lesson_by_screen(token: str) -> Lesson | None:
    """Return the lesson of a paired screen that is still valid."""
    screen = Screen.opened_by(token).select_related("lesson__student", "lesson__knowledge_version").first()
    return screen.lesson if screen else None


def mat_view(lesson: Lesson) -> MatView:
    """Return the view of a lesson."""
    trial = lesson.trials.filter(ended_at__isnull=True).select_related("lesson__student").first()
    call = read_trial(trial).next_call if trial else ""
    name, ended = lesson.student.name.split()[0], lesson.ended_at is not None
    correction = active_correction(lesson)
    if correction is None:
        return MatView(
            first_name=name,
            language=lesson.coach.language,
            cue=NOTHING,
            stage=NOTHING,
            ball=lesson.last_ball,
            moved="",
            answered="",
            verdict=NOTHING,
            hits=0,
            need=0,
            of=0,
            more=0,
            advice="hold",
            call=call,
            task=NOTHING,
            ended=ended,
        )
    words = vocabulary().words
    stage = vocabulary().stages.get(correction.stage)
    with_ball = stage is None or stage.ball
    proof, ids = proof_of(lesson, correction)
    # No ball belongs to a stage that is practiced without one: the last ball's verdict is of another stage.
    last = lesson.shots.filter(pk=ids[-1]).first() if ids and with_ball else None
    verdict = proof.verdicts[-1] if proof.verdicts and with_ball else None
    moved = {"done": "yes", "partly": "partly", "missed": "no"}.get(last.movement, "") if last else ""
    # The ball's result stays hidden until the movement is marked, here as on the coach's screen.
    answered = "" if not moved or verdict is None or verdict.answered is None else "yes" if verdict.answered else "no"
    advice = proof.advice
    return MatView(
        first_name=name,
        language=lesson.coach.language,
        cue=cue_of(correction),
        stage=words["stage"].get(correction.stage, NOTHING),
        ball=last.number if last else 0,
        moved=moved,
        answered=answered,
        verdict=_verdict_name(verdict.verdict, moved) if verdict and moved else NOTHING,
        hits=advice.hits,
        need=advice.need,
        of=advice.of,
        more=max(0, advice.need - advice.hits),
        advice=advice.stage,
        call=call,
        task=NOTHING if stage is None or stage.ball else stage.wanted,
        ended=ended,
    )


def _verdict_name(verdict: str, moved: str) -> Message:
    """Return the name of a verdict; a partly made movement has its own names."""
    words = vocabulary().words
    return (
        words["verdict_partly"].get(verdict, words["verdict"][verdict])
        if moved == "partly"
        else words["verdict"][verdict]
    )
