"""Made-up films of the sample academy: measurements ship with them, pictures are extracted here."""

from __future__ import annotations

import json
from datetime import datetime
from pathlib import Path

from instavis.assessment.films.services import NewFilm
from instavis.assessment.recordings.models import Recording
from instavis.assessment.recordings.services import keep_measured
from instavis.capture.shots.models import Shot
from instavis.lessons.models import Lesson
from instavis_camera.film import film_of
from instavis_core.camera import body_of
from instavis_io.poses import read_pose

FILMS = Path(__file__).parent / "clips"


def film(lesson: Lesson, name: str, when: datetime, shot: Shot | None = None) -> Recording:
    """Store one of the films: ``before`` the correction, with the movement ``done``, or ``missed``."""
    path = FILMS / f"{name}.webm"
    pose = json.loads(path.with_suffix(".pose.json").read_text())
    series = read_pose(pose)
    body = body_of(series)
    new_film = NewFilm(film_of(path, series, body.moments), pose)
    return keep_measured(lesson, body, path.name, when, shot, new_film.keep)
