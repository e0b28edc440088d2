"""A lesson as one document of the open format, and as a ZIP with its pictures."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Iterable
from typing import Any

from instavis.accounts.models import Student
from instavis.assessment.findings.selectors import ANSWERS
from instavis.capture.shots.selectors import as_record
from instavis.corrections.models import Correction, OwnEffect
from instavis.lessons.models import Lesson
from instavis_io.archive import FORMAT

STUDENT = ("name", "hand", "handicap", "born", "guardian_consent")
CORRECTION = (
    "fault",
    "variant",
    "drill",
    "felt_by",
    "cue",
    "primary",
    "direction",
    "predicted",
    "gate",
    "gate_by_stage",
    "guards",
    "stage",
    "severity_then",
    "log_odds",
    "probability_then",
    "outcome",
    "chosen_at",
)
OWN_EFFECT = ("cause", "metric", "mean", "sd", "learned_at")
RECORDING = ("name", "columns", "marks", "notes", "view", "errors", "errors_at", "received_at", "dropped_at")
TAKE_HOME = ("note", "minutes", "days_a_week", "next_lesson", "sections", "moves", "paused_for", "paused_at")
PRACTICE = ("entry_id", "day", "started_at", "ended_at", "felt", "not_felt", "balls", "pain", "note", "received_at")


def document_of(lesson: Lesson) -> dict[str, Any]:
    """Return everything of a lesson except its pictures; positions in lists replace database keys."""
    corrections = list(lesson.corrections.order_by("id"))
    place = {c.pk: i for i, c in enumerate(corrections)}
    shots = list(lesson.shots.order_by("number"))
    number = {s.pk: s.number for s in shots}
    blocks = []
    for block in lesson.blocks.order_by("id"):
        mine = [s for s in shots if s.block_id == block.pk]
        trial = getattr(block, "trial", None)
        blocks.append(
            {
                "purpose": block.purpose,
                "stage": block.stage,
                "conditions": block.conditions,
                "opened_at": _text(block.opened_at),
                "correction": place.get(block.correction_id or 0),
                "open": block.pk == lesson.open_block_id,
                "trial": _values(trial, ("first", "second", "primary", "order", "started_at", "ended_at"))
                if trial
                else None,
                "shots": [
                    {
                        "number": s.number,
                        "received_at": _text(s.received_at),
                        "set_aside": s.set_aside,
                        "record": as_record(s),
                    }
                    for s in mine
                ],
            }
        )
    intake = getattr(lesson, "intake", None)
    take_home = getattr(lesson, "take_home", None)
    return {
        "format": FORMAT,
        "student": _values(lesson.student, STUDENT) | {"consented_at": _text(lesson.student.consented_at)},
        "lesson": _values(
            lesson,
            ("started_at", "ended_at", "station", "board_seen", "club", "minutes", "school", "conditions", "hand"),
        )
        | {"coach": lesson.coach.name},
        "intake": _values(intake, (*ANSWERS, "by_student", "updated_at")) if intake else None,
        "setups": [_values(s, ("ball_cm", "stance_cm", "aim_deg", "noted_at")) for s in lesson.setups.order_by("id")],
        "grades": [
            _values(g, ("check_id", "grade", "source", "after_board", "graded_at")) | {"coach": g.coach.name}
            for g in lesson.grades.select_related("coach").order_by("id")
        ],
        "body": [
            _values(b, ("part", "grade", "tested_at")) | {"coach": b.coach.name}
            for b in lesson.body_results.select_related("coach").order_by("id")
        ],
        "corrections": [
            _values(c, CORRECTION)
            | {"own_effect": _own(c), "begun_in": _text(c.begun_in.started_at) if c.begun_in else None}
            for c in corrections
        ],
        "blocks": blocks,
        "recordings": [
            _values(r, RECORDING) | {"found": r.found or None, "ball": number.get(r.shot_id or 0)}
            for r in lesson.recordings.order_by("id")
        ],
        "stills": [
            _values(s, ("view", "width", "height", "points", "scale", "added_at", "dropped_at"))
            | {"look": s.check_id, "file": f"stills/{i + 1}.jpg"}
            for i, s in enumerate(lesson.stills.order_by("id"))
        ],
        "take_home": _values(take_home, TAKE_HOME) if take_home else None,
        "practices": [_values(p, PRACTICE) for p in lesson.practices.order_by("id")],
    }


def lesson_archive(lesson: Lesson) -> bytes:
    """Return a ZIP of one lesson."""
    return _zipped([lesson])


def student_archive(student: Student) -> bytes:
    """Return a ZIP of everything stored about a student."""
    return _zipped(student.lessons.order_by("started_at", "id"))


def _zipped(lessons: Iterable[Lesson]) -> bytes:
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for i, lesson in enumerate(lessons):
            folder = f"lesson-{i + 1}"
            text = json.dumps(document_of(lesson), ensure_ascii=False, indent=1)
            archive.writestr(f"{folder}/lesson.json", text)
            for k, still in enumerate(lesson.stills.order_by("id")):
                archive.writestr(f"{folder}/stills/{k + 1}.jpg", bytes(still.image))
    return out.getvalue()


def _own(correction: Correction) -> dict[str, Any] | None:
    own = OwnEffect.objects.filter(correction=correction).first()
    return _values(own, OWN_EFFECT) if own else None


def _values(row: Any, names: Iterable[str]) -> dict[str, Any]:
    return {name: _text(getattr(row, name)) for name in names}


def _text(value: Any) -> Any:
    """Return times and days as ISO text, everything else unchanged."""
    return value.isoformat() if hasattr(value, "isoformat") else value
