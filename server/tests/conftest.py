"""An academy with a coach, and another one that must never see it."""

from __future__ import annotations

import io
import json
from datetime import UTC, date, datetime, timedelta

import numpy as np
import pytest
from django.core.files.uploadedfile import SimpleUploadedFile
from django.test import Client
from django.utils import timezone
from PIL import Image

from instavis.accounts.models import Academy, Coach, Student
from instavis.assessment.recordings.services import keep_file
from instavis.assessment.stills.services import change_still, keep_still
from instavis.capture.devices.models import Bay
from instavis.capture.devices.services import issue_device
from instavis.lessons.models import Lesson
from instavis.lessons.services import start_lesson
from instavis.practice.services import log_practice
from instavis_core.golfer import Golfer
from instavis_core.knowledge import vocabulary
from instavis_core.progress import PracticeEntry
from instavis_core.simulate import draw_golfer, simulate_shots
from instavis_core.simulate.recording import record_swing
from instavis_io.tables import write_table

PASSWORD = "a-long-enough-password"
FAULT = "early-extension/from-inside"
MIXED = ("done", "done", "missed")
"""Marks of a lesson in which the movement is made on two balls of three: the third tells what it does."""


class Caller:
    """A client that speaks JSON and knows who it is."""

    def __init__(self, client: Client, coach: Coach | None = None) -> None:
        self.client = client
        self.coach = coach

    def __call__(self, method: str, path: str, body=None, status: int = 200, **headers):
        data = {} if body is None else {"data": json.dumps(body), "content_type": "application/json"}
        response = getattr(self.client, method)(f"/api{path}", **data, headers=headers)
        assert response.status_code == status, response.content
        return response.json() if response.content and "json" in response["Content-Type"] else response


def academy_with_coach(name: str, role: str = "head") -> Coach:
    academy = Academy.objects.create(name=name)
    return Coach.objects.create_user(name, password=PASSWORD, name=name.title(), role=role, academy=academy)


@pytest.fixture(autouse=True)
def _quick_passwords(settings):
    settings.PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]


@pytest.fixture
def coach(db) -> Coach:
    return academy_with_coach("kelp")


@pytest.fixture
def api(coach) -> Caller:
    client = Client()
    client.force_login(coach, backend="django.contrib.auth.backends.ModelBackend")
    return Caller(client, coach)


@pytest.fixture
def stranger(db) -> Caller:
    other = academy_with_coach("driftwood")
    client = Client()
    client.force_login(other, backend="django.contrib.auth.backends.ModelBackend")
    return Caller(client, other)


@pytest.fixture
def student(coach) -> Student:
    return Student.objects.create(academy=coach.academy, name="Perrin Oakenshaw", hand="right", handicap=12.0)


@pytest.fixture
def lesson(coach, student):
    return start_lesson(coach, student, "7i", timezone.now())


@pytest.fixture
def bay(coach, lesson) -> Bay:
    return Bay.objects.create(academy=coach.academy, name="Mat one", lesson=lesson)


@pytest.fixture
def device(bay):
    """device(shots, status=200) posts a batch with the bay's token; device.device is its row."""
    row, token = issue_device(bay, "Monitor")
    caller = Caller(Client())

    def post(shots, status: int = 200, token: str = token):
        return caller("post", "/device/v1/shots", {"shots": shots}, status, Authorization=f"Bearer {token}")

    post.device, post.caller, post.token = row, caller, token
    return post


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


@pytest.fixture
def numbered():
    """numbered(records, start=0) adds device sequence numbers."""

    def make(records, start: int = 0):
        return [{**r, "device_sequence": start + i} for i, r in enumerate(records)]

    return make


@pytest.fixture
def bring(api, lesson):
    """bring(bytes, name="balls.csv", status=201) sends a file in our format and gives the answer."""

    def make(data: bytes, name: str = "balls.csv", status: int = 201):
        file = SimpleUploadedFile(name, data)
        response = api.client.post(f"/api/v1/lessons/{lesson.pk}/import", {"file": file})
        assert response.status_code == status, response.content
        return response.json()

    return make


@pytest.fixture
def with_baseline(api, lesson, balls, bring):
    """A lesson whose baseline and one look speak for early extension."""
    bring(write_table(balls(14, FAULT, 3)).encode())
    api("put", f"/v1/lessons/{lesson.pk}/checks", {"grades": {"seat-line": "leaves-early"}})
    return lesson


@pytest.fixture
def corrected(api, with_baseline):
    """The same lesson with its first correction under proof."""
    path = f"/v1/lessons/{with_baseline.pk}"
    candidate = api("get", f"{path}/corrections")["candidates"][0]
    drill = candidate["drills"][0]["drill"]["id"]
    body = {"fault": candidate["id"], "variant": candidate["variant"], "drill": drill, "stage": "full"}
    api("post", f"{path}/corrections", body, 201)
    return with_baseline


@pytest.fixture(scope="session")
def picture():
    """picture(width, height, kind="PNG", **save) gives the bytes of a made-up picture."""

    def make(width: int = 640, height: int = 480, kind: str = "PNG", **save) -> bytes:
        out = io.BytesIO()
        Image.new("RGB", (width, height), (200, 190, 170)).save(out, kind, **save)
        return out.getvalue()

    return make


@pytest.fixture
def full(api, corrected, balls, device, bay, numbered, picture):
    """A lesson with one of everything."""
    path = f"/v1/lessons/{corrected.pk}"
    api(
        "put",
        f"{path}/intake",
        {"misses": {"irons": {"start": "left", "curve": "right", "off_m": 12}}, "contact": ["thin"]},
    )
    api("post", f"{path}/setups", {"ball_cm": 8}, 201)
    bay.lesson = corrected
    bay.save()
    device(numbered([{**r, "mark_basis": "blind"} for r in balls(18, FAULT, 82, marks=[*MIXED] * 6)], 50))
    shot = corrected.shots.order_by("-number").first()
    api("patch", f"/v1/shots/{shot.pk}", {"note": "Ünïcode, “quoted”", "turf": "thin"})
    now = corrected.started_at
    keep_file(corrected, "swing.csv", record_swing({}, np.random.default_rng(1)).to_csv().encode(), now)
    still = keep_still(corrected, "seat-line", "", picture(), now)
    change_still(still, {"seat": [10, 20]}, {"a": [1, 1], "b": [1, 300], "length_cm": 90}, None, now)
    active = api("get", f"{path}/proof")["correction"]
    api("patch", f"/v1/corrections/{active['id']}", {"outcome": "verified"})
    api("post", f"{path}/trials", {"primary": "path_deg", "balls": 4}, 201)
    device(numbered(balls(2, FAULT, 8), 90))
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
