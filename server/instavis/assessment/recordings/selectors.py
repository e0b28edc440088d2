"""Read recordings: curves for a screen, moments, and proposed answers."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis.accounts.models import Coach
from instavis.assessment.findings.selectors import bounds_in
from instavis.assessment.recordings.models import Recording
from instavis.assessment.recordings.services import moments_in, swing_of
from instavis.knowledge.selectors import knowledge_for
from instavis.lessons.models import Lesson
from instavis.lessons.selectors import open_to
from instavis.platform.errors import not_found
from instavis_core.body import within_reach
from instavis_core.knowledge import Knowledge
from instavis_core.message import Message, restored
from instavis_core.recordings import FirstMover, Moments, Proposal, first_movers, joined, propose
from instavis_core.terms import Purpose

MAX_POINTS = 300  # points of a curve on a screen
MAX_JOINED = 30  # newest recordings used for one proposal


@dataclass(frozen=True, kw_only=True)
class RecordingRead:
    """A recording for a screen: thinned curves, moments, order of first movers, proposed answers."""

    id: int
    name: str
    view: str
    ball: int | None
    time: list[float]
    curves: dict[str, list[float]]
    moments: Moments
    first: FirstMover | None
    proposals: list[Proposal]
    notes: list[Message]


def recording_of(coach: Coach, recording_id: int) -> Recording:
    """Return one recording of the academy."""
    found = Recording.objects.filter(open_to(coach, "lesson"), pk=recording_id)
    recording = found.select_related("lesson__student", "lesson__knowledge_version", "shot").first()
    if recording is None:
        raise not_found("recording")
    return recording


def recordings_of(lesson: Lesson) -> list[Recording]:
    """Return the recordings of a lesson that were not discarded, without curves."""
    return list(lesson.recordings.filter(dropped_at__isnull=True).select_related("shot").defer("columns"))


def read_recording(recording: Recording) -> RecordingRead:
    """Return moments and answers of one recording."""
    swing = swing_of(recording)
    moments = moments_in(recording, swing, recording.marks)
    step = max(1, -(-swing.time.size // MAX_POINTS))
    proposals = propose(_reachable(recording.lesson), swing, moments)
    return RecordingRead(
        id=recording.pk,
        name=recording.name,
        view=recording.view,
        ball=recording.shot.number if recording.shot else None,
        time=np.round(swing.time[::step], 3).tolist(),
        curves={name: np.round(values[::step], 3).tolist() for name, values in swing.columns.items()},
        moments=moments,
        first=first_movers(swing, moments),
        proposals=proposals,
        notes=list(dict.fromkeys([*map(restored, recording.notes), *swing.notes])),
    )


def _reachable(lesson: Lesson) -> Knowledge:
    """Return the lesson's knowledge with its windows adapted to this body."""
    return within_reach(knowledge_for(lesson), bounds_in(lesson))


def recorded_grades(lesson: Lesson, camera: bool = False) -> list[Proposal]:
    """Return one proposal per check from the newest recordings, of cameras or of all other instruments.

    Balls that prove a correction are left out.
    """
    not_dropped = lesson.recordings.filter(dropped_at__isnull=True)
    rows = (
        (not_dropped.exclude(view="") if camera else not_dropped.filter(view=""))
        .select_related("shot__block")
        .order_by("-id")
    )
    knowledge, result = _reachable(lesson), []
    for recording in rows[:MAX_JOINED]:
        if recording.shot and recording.shot.purpose == Purpose.PROVE:
            continue
        swing = swing_of(recording)
        result.append(propose(knowledge, swing, moments_in(recording, swing, recording.marks)))
    return joined(knowledge, result)
