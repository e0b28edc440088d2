"""Store recordings, each once, and a coach's changes."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from datetime import datetime, timedelta
from typing import Any

import numpy as np
from django.dispatch import Signal

from instavis.assessment.recordings.models import Recording
from instavis.capture.devices.models import Device
from instavis.capture.devices.services import MAX_SEQUENCE, Receipt, read_sequence
from instavis.capture.shots.models import Shot
from instavis.lessons.events import Aspect, locked_lesson, log_change
from instavis.lessons.models import Lesson
from instavis.platform.errors import Problem, Refused, problem_of
from instavis.platform.transactions import transactional
from instavis_core.camera import CameraBody
from instavis_core.errors import InputError
from instavis_core.message import Message, stored
from instavis_core.recordings import Moments, SwingSeries, find_moments, marked
from instavis_io.recordings import read_recording, read_swing_file

SAME_SWING = timedelta(seconds=20)  # a recording without a ball's key belongs to a ball this recent
MAX_IN_A_LESSON = 400
swing_changed = Signal()
"""Sent when a recording arrived or its values changed, with ``recording`` while its lesson is locked."""
DIGITS = {"time_s": 4, "lead_share": 4, "heel_share": 4}


def keep_file(lesson: Lesson, name: str, data: bytes, now: datetime) -> Recording:
    """Store one recorded swing from a CSV or C3D file.

    Raises
    ------
    InputError
        When it is neither, or no swing is in it.
    """
    return keep_swing(lesson, read_swing_file(data, name, lesson.hand), name, now)


@transactional
def keep_swing(lesson: Lesson, swing: SwingSeries, name: str, now: datetime, shot: Shot | None = None) -> Recording:
    """Store a swing that was already read.

    Raises
    ------
    InputError
        When no swing is in it.
    """
    find_moments(swing)
    return _notified(_keep(locked_lesson(lesson.pk), swing, name, now, shot))


@transactional
def keep_measured(
    lesson: Lesson, body: CameraBody, name: str, now: datetime, shot: Shot | None, also: Callable[[Recording], object]
) -> Recording:
    """Store a camera's measurement together with ``also``: both or, if that raises, neither."""
    recording = _keep(locked_lesson(lesson.pk), body.swing, name, now, shot)
    also(recording)
    recording.view, recording.errors, recording.errors_at = body.view, body.swing.errors, body.swing.errors_at
    recording.found = {"at": body.moments.at, "error": body.moments.error}
    recording.notes = [*recording.notes, *map(stored, body.notes)]
    recording.save(update_fields=["view", "errors", "errors_at", "found", "notes"])
    return _notified(recording)


@transactional
def receive_recordings(device: Device, batch: Sequence[Any], now: datetime) -> Receipt:
    """Store a batch of recordings with ``device_sequence``, each once.

    A recording that cannot be read is refused alone; without a lesson in the bay all are.
    """
    receipt = Receipt()
    device = Device.objects.select_for_update().select_related("bay").get(pk=device.pk)
    lesson = locked_lesson(device.bay.lesson_id) if device.bay.lesson_id else None
    sent = [raw.get("device_sequence") for raw in batch if isinstance(raw, dict)]
    numbers = [n for n in sent if type(n) is int and 0 <= n < MAX_SEQUENCE]
    known = set(device.recordings.filter(device_sequence__in=numbers).values_list("device_sequence", flat=True))
    for place, raw in enumerate(batch):
        try:
            swing, shot_id = read_recording(raw)
            sequence = read_sequence(raw.get("device_sequence"))
            if sequence in known:
                receipt.known += 1
                continue
            if lesson is None:
                raise InputError("bay", device.bay.name, Message("check-lesson-bay-without-one-recordings"))
            shot = _shot_of(lesson, shot_id, now)
            _notified(_keep(lesson, swing, f"{device.name} {sequence}", now, shot, device, sequence))
        except InputError as error:
            receipt.refused.append((place, problem_of(error)))
            continue
        except Refused as refused:
            receipt.refused.append((place, Problem(**refused.problem.dict())))
            continue
        known.add(sequence)
        receipt.stored += 1
    return receipt


@transactional
def change_recording(
    recording: Recording, marks: Mapping[str, float] | None, dropped: bool | None, now: datetime
) -> Recording:
    """Set moments by hand, discard the recording, or restore it.

    Raises
    ------
    InputError
        For moments out of order or outside.
    """
    lesson = recording.lesson = locked_lesson(recording.lesson_id)
    if marks is not None:
        moments_in(recording, swing_of(recording), marks)
        recording.marks = dict(marks)
    if dropped is not None:
        recording.dropped_at = now if dropped else None
    recording.save(update_fields=["marks", "dropped_at"])
    log_change(lesson, Aspect.RECORDINGS)
    return _notified(recording)


def swing_of(recording: Recording) -> SwingSeries:
    """Return the series of a stored recording, evened and smoothed on arrival."""
    columns = {name: np.array(values, float) for name, values in recording.columns.items()}
    return SwingSeries(columns.pop("time_s"), columns, errors=recording.errors, errors_at=recording.errors_at)


def moments_in(recording: Recording, swing: SwingSeries, marks: Mapping[str, float]) -> Moments:
    """Return the moments of a recording, with those set by hand.

    Raises
    ------
    InputError
        For moments out of order or outside.
    """
    if not recording.found:
        return find_moments(swing, marks)
    return marked(Moments(recording.found["at"], recording.found["error"], []), marks, float(swing.time[-1]))


def _notified(recording: Recording) -> Recording:
    """Notify subscribers of the change."""
    swing_changed.send(Recording, recording=recording)
    return recording


def _shot_of(lesson: Lesson, shot_id: str, now: datetime) -> Shot | None:
    if shot_id:
        return lesson.shots.filter(shot_id=shot_id).first()
    last = lesson.shots.order_by("-number").first()
    return last if last is not None and now - last.received_at <= SAME_SWING else None


def _keep(
    lesson: Lesson,
    swing: SwingSeries,
    name: str,
    now: datetime,
    shot: Shot | None = None,
    device: Device | None = None,
    sequence: int | None = None,
) -> Recording:
    if lesson.recordings.count() >= MAX_IN_A_LESSON:
        raise Refused(409, "recordings", Message("check-lesson-can-recordings", most=MAX_IN_A_LESSON))
    columns = {"time_s": swing.time, **swing.columns}
    recording = Recording.objects.create(
        lesson=lesson,
        shot=shot,
        device=device,
        device_sequence=sequence,
        name=name[:120],
        columns={n: np.round(v, DIGITS.get(n, 2)).tolist() for n, v in columns.items()},
        notes=[stored(note) for note in swing.notes],
        received_at=now,
    )
    log_change(lesson, Aspect.RECORDINGS)
    return recording
