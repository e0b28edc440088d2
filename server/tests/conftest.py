"""An academy with a coach, and another one that must never see it."""

from __future__ import annotations

import io
import json
import re
from collections.abc import Iterator
from datetime import UTC, date, datetime, timedelta
from functools import partial
from pathlib import Path

import numpy as np
import pytest
from django.core.cache import cache
from django.core.files.uploadedfile import SimpleUploadedFile
from django.db import transaction
from django.test import Client
from django.utils import timezone
from PIL import Image

from instavis.accounts.models import Academy, Coach, Student
from instavis.assessment.films.services import NewFilm
from instavis.assessment.recordings.models import Recording
from instavis.assessment.recordings.services import keep_file, keep_measured
from instavis.assessment.stills.services import change_still, keep_still
from instavis.capture.devices.models import Bay
from instavis.capture.devices.services import issue_device
from instavis.capture.shots.models import Shot
from instavis.lessons.models import Lesson
from instavis.lessons.services import start_lesson
from instavis.practice.services import log_practice
from instavis_camera.film import Film
from instavis_core.camera import CameraBody
from instavis_core.golfer import Golfer
from instavis_core.knowledge import load_motion, vocabulary
from instavis_core.progress import PracticeEntry
from instavis_core.recordings import Moments, SwingSeries
from instavis_core.simulate import draw_golfer, simulate_shots
from instavis_core.simulate.recording import record_swing
from instavis_io.tables import write_table

POSE = Path(__file__).parents[2] / "formats" / "tests" / "data" / "swing.pose.json"
"""The landmarks of a sample clip, as the networks found them."""
PASSWORD = "a-long-enough-password"
FAULT = "early-extension/from-inside"
MIXED = ("done", "done", "missed")
"""Marks of a lesson in which the movement is made on two balls of three: the third tells what it does."""


ENGLISH = (Path(__file__).parents[2] / "report" / "instavis_report" / "languages" / "en").glob("*.ftl")
SENTENCES = re.findall(r"^([a-z0-9-]+) = ?(.*)", "\n".join(f.read_text() for f in ENGLISH), re.MULTILINE)
SENTENCE_IDS = frozenset(code for code, english in SENTENCES if code != english)
"""Ids of sentences: one in an answer is a message that was not rendered."""


class Caller:
    """A client that speaks JSON and knows who it is."""

    def __init__(self, client: Client, coach: Coach | None = None) -> None:
        self.client = client
        self.coach = coach

    def __call__(self, method: str, path: str, body=None, status: int = 200, **headers):
        data = {} if body is None else {"data": json.dumps(body), "content_type": "application/json"}
        response = getattr(self.client, method)(f"/api{path}", **data, headers=headers)
        assert response.status_code == status, response.content
        if not response.content or "json" not in response["Content-Type"]:
            return response
        answer = response.json()
        assert [text for text in texts_in(answer) if text in SENTENCE_IDS] == []
        return answer


def texts_in(answer) -> Iterator[str]:
    """Every text of an answer, however deep."""
    if isinstance(answer, str):
        yield answer
    elif isinstance(answer, (dict, list)):
        for part in answer.values() if isinstance(answer, dict) else answer:
            yield from texts_in(part)


def academy_with_coach(name: str, role: str = "head") -> Coach:
    academy = Academy.objects.create(name=name)
    return Coach.objects.create_user(name, password=PASSWORD, name=name.title(), role=role, academy=academy)


def signed_in(coach: Coach) -> Caller:
    client = Client()
    client.force_login(coach)
    return Caller(client, coach)


def student_of(coach: Coach) -> Student:
    return Student.objects.create(academy=coach.academy, name="Perrin Oakenshaw", hand="right", handicap=12.0)


def bay_of(lesson: Lesson) -> Bay:
    return Bay.objects.create(academy=lesson.coach.academy, name="Mat one", lesson=lesson)


def monitor_in(bay: Bay):
    """post(shots, status=200) sends a batch with the bay's token; post.device is its row."""
    row, token = issue_device(bay, "Monitor")
    caller = Caller(Client())

    def post(shots, status: int = 200, token: str = token):
        return caller("post", "/device/v1/shots", {"shots": shots}, status, Authorization=f"Bearer {token}")

    post.device, post.caller, post.token = row, caller, token
    return post


@pytest.fixture(autouse=True)
def _nothing_counted_yet():
    cache.clear()


@pytest.fixture(scope="module")
def for_the_module(django_db_setup, django_db_blocker):
    """Rows that a fixture of the module makes in this are there for all its tests; each takes back only its own."""
    with django_db_blocker.unblock(), transaction.atomic():
        yield
        transaction.set_rollback(True)


@pytest.fixture
def coach(db) -> Coach:
    return academy_with_coach("kelp")


@pytest.fixture
def api(coach) -> Caller:
    return signed_in(coach)


@pytest.fixture
def stranger(db) -> Caller:
    return signed_in(academy_with_coach("driftwood"))


@pytest.fixture
def student(coach) -> Student:
    return student_of(coach)


@pytest.fixture
def lesson(coach, student):
    return start_lesson(coach, student, "7i", timezone.now())


@pytest.fixture
def bay(lesson) -> Bay:
    return bay_of(lesson)


@pytest.fixture
def device(bay):
    return monitor_in(bay)


@pytest.fixture(scope="session")
def balls():
    """balls(n, fault=None, seed=1, hand="right", marks=None) gives records of a simulated golfer."""

    def make(n: int, fault: str | None = None, seed: int = 1, hand: str = "right", marks=None) -> list[dict]:
        club = vocabulary().clubs["7i"]
        # One golfer for all seeds: the seed tells the balls apart, not the people.
        sim = draw_golfer(np.random.default_rng(3), {fault: 0.95} if fault else {}, Golfer(hand, 12.0), club)
        rng = np.random.default_rng(seed)
        return simulate_shots(sim, club, n, rng, datetime(2026, 5, 4, 9, tzinfo=UTC), marks)

    return make


def in_sequence(records, start: int = 0) -> list[dict]:
    """The records with a device's numbers."""
    return [{**r, "device_sequence": start + i} for i, r in enumerate(records)]


@pytest.fixture
def numbered():
    return in_sequence


def send_file(api: Caller, lesson: Lesson, data: bytes, name: str = "balls.csv", status: int = 201):
    """Send a file in our format and give the answer."""
    file = SimpleUploadedFile(name, data)
    response = api.client.post(f"/api/v1/lessons/{lesson.pk}/import", {"file": file})
    assert response.status_code == status, response.content
    return response.json()


@pytest.fixture
def bring(api, lesson):
    """bring(bytes, name="balls.csv", status=201) sends a file in our format and gives the answer."""
    return partial(send_file, api, lesson)


def put_baseline(api: Caller, lesson: Lesson, balls) -> Lesson:
    """Give the lesson a baseline and one look that speak for early extension."""
    send_file(api, lesson, write_table(balls(14, FAULT, 3)).encode())
    api("put", f"/v1/lessons/{lesson.pk}/checks", {"grades": {"seat-line": "leaves-early"}})
    return lesson


def take_correction(api: Caller, lesson: Lesson) -> Lesson:
    """Take the lesson's first candidate with its first drill."""
    path = f"/v1/lessons/{lesson.pk}"
    candidate = api("get", f"{path}/corrections")["candidates"][0]
    drill = candidate["drills"][0]["drill"]["id"]
    body = {
        "fault": candidate["id"],
        "variant": candidate["variant"],
        "drill": drill,
        "stage": "full",
        "felt_by": "slow",
    }
    api("post", f"{path}/corrections", body, 201)
    return lesson


def corrected_lesson(balls) -> Lesson:
    """A new academy's lesson with its first correction under proof, for a module that makes it once."""
    coach = academy_with_coach("kelp")
    api, lesson = signed_in(coach), start_lesson(coach, student_of(coach), "7i", timezone.now())
    return take_correction(api, put_baseline(api, lesson, balls))


@pytest.fixture
def with_baseline(api, lesson, balls):
    return put_baseline(api, lesson, balls)


@pytest.fixture
def corrected(api, with_baseline):
    """The same lesson with its first correction under proof."""
    return take_correction(api, with_baseline)


def camera_body() -> CameraBody:
    """A swing as a clip tells it: moments of its own, an error of its own."""
    time, moments = np.arange(0, 2, 0.02), load_motion().moments
    swing = SwingSeries(
        time, {"sway_cm": np.sin(3 * time)}, errors={"sway_cm": 0.9}, errors_at={"sway_cm": {"top": 1.2}}
    )
    found = Moments(
        dict(zip(moments, np.linspace(0.2, 1.8, 8).tolist(), strict=True)), dict.fromkeys(moments, 0.01), []
    )
    return CameraBody(view="face-on", swing=swing, moments=found, notes=[])


def filmed(lesson: Lesson, when: datetime, shot: Shot | None = None) -> Recording:
    """What a camera measured, with a film of one picture; the student has agreed to that."""
    Student.objects.filter(pk=lesson.student_id).update(filming_agreed_at=when)
    pose = json.loads(POSE.read_text())
    film = NewFilm(Film(width=64, height=36, times=[0.5], pictures=[b"picture"]), pose)
    return keep_measured(lesson, camera_body(), "swing.mp4", when, shot, film.keep)


@pytest.fixture(scope="session")
def picture():
    """picture(width, height, kind="PNG", **save) gives the bytes of a made-up picture."""

    def make(width: int = 640, height: int = 480, kind: str = "PNG", **save) -> bytes:
        out = io.BytesIO()
        Image.new("RGB", (width, height), (200, 190, 170)).save(out, kind, **save)
        return out.getvalue()

    return make


def furnished(api: Caller, corrected: Lesson, balls, picture) -> Lesson:
    """Give a lesson with a correction one of everything."""
    path = f"/v1/lessons/{corrected.pk}"
    device = monitor_in(bay_of(corrected))
    api(
        "put",
        f"{path}/intake",
        {"misses": {"irons": {"start": "left", "curve": "right", "off_m": 12}}, "contact": ["thin"]},
    )
    api("post", f"{path}/setups", {"ball_cm": 8}, 201)
    api("put", f"{path}/body", {"results": {"hip-turn.trail-in": "short", "squat": "free"}})
    device(in_sequence([{**r, "mark_basis": "blind"} for r in balls(18, FAULT, 82, marks=[*MIXED] * 6)], 50))
    shot = corrected.shots.order_by("-number").first()
    api("patch", f"/v1/shots/{shot.pk}", {"note": "Ünïcode, “quoted”", "turf": "thin"})
    now = corrected.started_at
    keep_file(corrected, "swing.csv", record_swing({}, np.random.default_rng(1)).to_csv().encode(), now)
    filmed(corrected, now, shot)
    still = keep_still(corrected, "seat-line", "", picture(), now)
    change_still(still, {"seat": [10, 20]}, {"a": [1, 1], "b": [1, 300], "length_cm": 90}, None, now)
    active = api("get", f"{path}/proof")["correction"]
    api("patch", f"/v1/corrections/{active['id']}", {"outcome": "verified"})
    api("post", f"{path}/trials", {"primary": "path_deg", "balls": 4}, 201)
    device(in_sequence(balls(2, FAULT, 8), 90))
    sections = {"cause": ["In my own words."]}
    api("put", f"{path}/take-home", {"note": "Slow.", "minutes": 12, "days_a_week": 3, "sections": sections})
    days = [d["day"] for d in api("get", f"{path}/schedule")]
    spare = date.fromisoformat(days[-1]) + timedelta(days=1)
    api("put", f"{path}/schedule/{days[0]}", {"to": spare.isoformat()})
    moment = timezone.now()
    log_practice(
        corrected,
        PracticeEntry(
            entry_id="one-practice",
            day=moment.date(),
            started_at=moment,
            ended_at=moment,
            felt=12,
            not_felt=3,
            pain="knee",
        ),
        moment,
    )
    return Lesson.objects.get(pk=corrected.pk)


@pytest.fixture
def full(api, corrected, balls, picture):
    return furnished(api, corrected, balls, picture)
