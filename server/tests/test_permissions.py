"""Every endpoint of the schema: strangers and visitors see nothing, and no change without the CSRF token."""

from __future__ import annotations

import functools
import json

import numpy as np
import pytest
from allauth.mfa.models import Authenticator
from django.test import Client
from django.utils import timezone

from instavis.accounts.people import invite
from instavis.accounts.sessions import named, sessions_of
from instavis.assessment.cameras.services import offer_camera
from instavis.assessment.clips.services import keep_clip
from instavis.assessment.recordings.services import keep_file
from instavis.assessment.stills.services import keep_still
from instavis.capture.bridges.standing import offer_bridge
from instavis.capture.devices.services import issue_device
from instavis.capture.files.services import keep_draft
from instavis.capture.shots.models import Shot
from instavis.corrections.models import Correction
from instavis.corrections.trials.services import begin_trial
from instavis.project.api import api as ninja
from instavis_core.simulate.recording import record_swing

from .conftest import filmed, signed_in
from .passkeys import SecurityKey

SWING = record_swing({}, np.random.default_rng(1)).to_csv()
OPEN_TO_ALL = {("post", f"/api/v1/session{part}") for part in ("", "/code", "/passkey", "/passkey-challenge")}
# Without an account: the token in the address, or a code, is the key.
LINKS = (
    "/api/v1/ask/",
    "/api/v1/home/",
    "/api/v1/mat",
    "/api/v1/filming",
    "/api/v1/join/",
    "/api/v1/password",
    "/api/v1/email/",
    "/api/device/v1/pair",
)
SAME_FOR_ALL = {  # drawn from what ships
    "/api/v1/figures/{check}",
    "/api/v1/drill-figures/{drill}",
    "/api/v1/eye/swings/{check}/{seed}/{number}",
}
MAPPING = {
    "encoding": "utf-8-sig",
    "delimiter": ",",
    "decimal": ".",
    "header_line": 1,
    "columns": [{"header": "carry", "field": "carry_m", "unit": "m"}],
}
QUERY = {"primary": "path_deg", "effect": 3}
BODIES = {
    "StudentIn": {"name": "Nobody"},
    "LessonIn": {"student_id": 0},
    "TrainingIn": {"level": "clear"},
    "BallsIn": {"count": 1},
    "LessonChange": {"station": "ask"},
    "BlockIn": {"purpose": "baseline"},
    "BayChoice": {"bay_id": None},
    "Marks": {"note": "x"},
    "IntakeBody": {},
    "GradesIn": {"grades": {}},
    "ConditionsIn": {"conditions": {"lie": "wet"}},
    "BodyIn": {"results": {"squat": "free"}},
    "ChangesIn": {"changes": {"fault": {"hip-stall": {"prior": 0.2}}}},
    "RecordingChange": {"dropped": True},
    "RecordingBatch": {"recordings": []},
    "StillChange": {"dropped": True},
    "EraseIn": {"name": "Nobody"},
    "TrialIn": {"primary": "path_deg", "balls": 4},
    "CodeIn": {"code": "000000"},
    "CameraCodeIn": {"code": "000000"},
    "BridgeCodeIn": {"code": "000000", "name": "Nobody"},
    "LeftIn": {"left": True},
    "ViewIn": {"view": "face-on"},
    "HereIn": {"filming": True, "waiting": 0},
    "CorrectionIn": {"fault": "hip-stall"},
    "StudentChange": {"name": "Nobody"},
    "AcademyIn": {"time_zone": "UTC"},
    "TakeRefused": {"bay_id": 1, "refused_ids": [1], "how": "as-it-is"},
    "LeaveRefused": {"refused_ids": [1]},
    "CorrectionChange": {"stage": "half"},
    "TakeHomeIn": {},
    "PractisedIn": {"check": "seat-line", "seed": 1, "number": 0, "grade": "on-line", "seconds": 1.5},
    "PairIn": {"before": 1, "now": 1, "moment": "top"},
    "MoveIn": {"to": "2026-05-04"},
    "DeviceIn": {"name": "Other"},
    "SettingsIn": {},
    "WhatIfIn": {"changes": {}},
    "MappingIn": MAPPING,
    "StoreIn": {"mapping": MAPPING},
    "MarksOfMany": {"shot_ids": [1], "note": "x"},
    "BallByHand": {"start": "left", "curve": "right"},
    "ClaimIn": {"bay_id": 1, "shot_ids": [1]},
    "SplitIn": {"shot_id": 1},
    "SetupIn": {"ball_cm": 8},
    "ConsentIn": {"given": True},
    "FilmingIn": {"given": True},
    "BayIn": {"name": "Third mat"},
    "ArchivedIn": {"archived": True},
    "MergeIn": {"other_id": 0},
    "CoachChange": {"role": "coach"},
    "InvitationIn": {"role": "coach", "name": "Somebody"},
    "PasswordChange": {"old": "wrong", "new": "another-long-enough-one"},
    "BookingIn": {"student_id": 0, "coach_id": 0},
    "SignIn": {"username": "nobody", "password": "nothing"},
    "CodeShown": {"code": "000000"},
    "PasskeyShown": {"credential": {}},
    "PasskeyMade": {"credential": {}},
    "PasswordShown": {"password": "wrong"},
    "AddressIn": {"address": "somebody@example.org"},
    "MailIn": {"to": "somebody@example.org"},
}


@functools.cache
def described() -> dict:
    """The interface's own description; making it takes seconds."""
    return ninja.get_openapi_schema()


def endpoints():
    for path, methods in described()["paths"].items():
        for method, spec in methods.items():
            yield method, path, spec


def coach_endpoints():
    return [(m, p, s) for m, p, s in endpoints() if not p.startswith(("/api/device/", *LINKS))]


@pytest.fixture
def objects(lesson, bay, student, balls, api, settings, tmp_path, picture):
    """One of everything, owned by the coach's academy; by the name of the path parameter."""
    api("put", f"/v1/lessons/{lesson.pk}/intake", {})
    made = SecurityKey().make(api("post", "/v1/session/passkeys/challenge")["options"])
    api("post", "/v1/session/passkeys", {"credential": made}, 201)
    correction = Correction.objects.create(
        lesson=lesson,
        fault="hip-stall",
        primary="path_deg",
        direction="decrease",
        predicted=-3,
        gate={"path_deg": [-1, 3]},
        stage="half",
        chosen_at=lesson.started_at,
    )
    shot = Shot.objects.create(
        academy=lesson.academy,
        lesson=lesson,
        block=lesson.open_block,
        shot_id="one",
        number=1,
        received_at=lesson.started_at,
    )
    device, _ = issue_device(bay, "Monitor")
    film = filmed(lesson, lesson.started_at)
    settings.DRAFTS_ROOT = str(tmp_path)
    draft = keep_draft(lesson, lesson.coach, "balls.csv", [b"carry,path\n1,2\n"], lesson.started_at)
    return {
        "draft_id": draft.pk,
        "coach_id": lesson.coach_id,
        "passkey_id": Authenticator.objects.get(type="webauthn").pk,
        "session_id": another_session_of(lesson.coach),
        "invitation_id": invite(lesson.coach, "coach", "Somebody", timezone.now())[0].pk,
        "block_id": lesson.open_block_id,
        "lesson_id": lesson.pk,
        "student_id": student.pk,
        "shot_id": shot.pk,
        "bay_id": bay.pk,
        "device_id": device.pk,
        "correction_id": correction.pk,
        "kind": "csv",
        "recording_id": film.pk,
        "before_id": film.pk,
        "now_id": keep_file(lesson, "swing.csv", SWING.encode(), lesson.started_at).pk,
        "moment": "top",
        "seed": 1,
        "number": 0,
        "side": "now",
        # The student of the film above has agreed to be filmed.
        "clip_id": keep_clip(lesson, lesson.coach, "swing.mp4", "", None, [b"film"], lesson.started_at).pk,
        "bridge_id": offer_bridge(bay, lesson.started_at)[0].pk,
        "source_id": source_in(bay).pk,
        "camera_id": offer_camera(bay, "face-on", lesson.started_at)[0].pk,
        "still_id": keep_still(lesson, "seat-line", "", picture(), lesson.started_at).pk,
        "trial_id": begin_trial(lesson, "old", "new", "path_deg", 4, lesson.started_at, np.random.default_rng(1)).pk,
        "planned": "2026-05-03",
        "check": "seat-line",
        "drill": "lamp-post",
        "fault": "hip-stall",
    }


def source_in(bay):
    columns = {"key": "one", "name": "x.csv", "shape": "table", "delimiter": ",", "headers": ["carry", "path"]}
    return bay.sources.create(**columns, examples=["140.5,1.5"], seen_at=timezone.now())


def another_session_of(coach) -> str:
    """The name of a session that the walk may end without ending its own."""
    here = {named(row) for row in sessions_of(coach)}
    signed_in(coach)
    return next(named(row) for row in sessions_of(coach) if named(row) not in here)


def call(client: Client, method: str, path: str, spec: dict, objects: dict):
    for name, key in objects.items():
        path = path.replace(f"{{{name}}}", str(key))
    assert "{" not in path, f"the test knows no object for {path}"
    needed = [p["name"] for p in spec.get("parameters", []) if p["in"] == "query" and p.get("required")]
    path += "?" + "&".join(f"{name}={QUERY[name]}" for name in needed) if needed else ""
    content = spec.get("requestBody", {}).get("content", {})
    if "multipart/form-data" in content:
        from django.core.files.uploadedfile import SimpleUploadedFile

        return client.post(path, {"file": SimpleUploadedFile("x.csv", b"path_deg\n1\n")})
    body = next(iter(content.values()), {}).get("schema", {}).get("$ref", "").rpartition("/")[2]
    data = {"data": json.dumps(BODIES[body]), "content_type": "application/json"} if body else {}
    return getattr(client, method)(path, **data)


def test_no_endpoint_reads_or_changes_another_academy(stranger, objects):
    before = list(Correction.objects.values()), list(Shot.objects.values())
    tried = 0
    for method, path, spec in coach_endpoints():
        if "{" not in path or path in SAME_FOR_ALL:
            continue
        response = call(stranger.client, method, path, spec, objects)
        assert response.status_code == 404, f"{method} {path} answered {response.status_code}"
        tried += 1
    assert tried >= 20
    assert before == (list(Correction.objects.values()), list(Shot.objects.values()))


def test_lists_contain_only_the_own_academy(stranger, objects):
    for name in ("students", "lessons", "bays"):
        assert stranger("get", f"/v1/{name}") == []
    assert stranger("get", f"/v1/lessons?student_id={objects['student_id']}") == []


def test_a_lesson_cannot_take_another_academys_student_or_bay(stranger, api, objects, coach):
    stranger("post", "/v1/lessons", {"student_id": objects["student_id"]}, 404)
    theirs = stranger("post", "/v1/students", {"name": "Theirs"}, 201)
    lesson = stranger("post", "/v1/lessons", {"student_id": theirs["id"]}, 201)
    stranger("put", f"/v1/lessons/{lesson['id']}/bay", {"bay_id": objects["bay_id"]}, 404)


def _sent_by_a_device(method: str, path: str) -> bool:
    return method == "post" and path.startswith("/api/device/")


def test_visitors_are_refused_everywhere(objects):
    for method, path, spec in endpoints():
        if (method, path) in OPEN_TO_ALL or path.startswith(LINKS):
            continue
        response = (
            call(Client(), method, path, spec, objects) if not _sent_by_a_device(method, path) else Client().post(path)
        )
        assert response.status_code == 401, f"{method} {path} answered {response.status_code}"
        assert response.json()["errors"][0]["message"]


def test_changes_need_the_pages_token(api, objects):
    strict = Client(enforce_csrf_checks=True)
    strict.cookies = api.client.cookies
    for method, path, spec in coach_endpoints():
        if method == "get":
            continue
        assert call(strict, method, path, spec, objects).status_code == 403, f"{method} {path}"


FOR_HEADS = {
    ("delete", "/api/v1/coaches/{coach_id}/factors"),
    ("delete", "/api/v1/coaches/{coach_id}/sessions"),
    ("get", "/api/v1/audit"),
    ("get", "/api/v1/audit.csv"),
    ("get", "/api/v1/coaches"),
    ("get", "/api/v1/invitations"),
    ("patch", "/api/v1/academy"),
    ("patch", "/api/v1/coaches/{coach_id}"),
    ("post", "/api/v1/academy/mail"),
    ("delete", "/api/v1/bridges/{bridge_id}"),
    ("post", "/api/v1/bays"),
    ("post", "/api/v1/bays/{bay_id}/bridges"),
    ("post", "/api/v1/bays/{bay_id}/devices"),
    ("post", "/api/v1/coaches/{coach_id}/password-link"),
    ("post", "/api/v1/devices/{device_id}/revoke"),
    ("post", "/api/v1/devices/{device_id}/roll"),
    ("post", "/api/v1/invitations"),
    ("post", "/api/v1/knowledge/versions"),
    ("post", "/api/v1/students/{student_id}/erase"),
    ("delete", "/api/v1/invitations/{invitation_id}"),
}
FOR_THE_DESK = {
    ("delete", "/api/v1/session"),
    ("delete", "/api/v1/session/app"),
    ("delete", "/api/v1/session/email"),
    ("delete", "/api/v1/session/list"),
    ("delete", "/api/v1/session/list/{session_id}"),
    ("delete", "/api/v1/session/passkeys/{passkey_id}"),
    ("get", "/api/v1/academy"),
    ("get", "/api/v1/colleagues"),
    ("get", "/api/v1/day"),
    ("get", "/api/v1/lessons"),
    ("get", "/api/v1/lessons/{lesson_id}/schedule.ics"),
    ("get", "/api/v1/lessons/{lesson_id}/take-home.pdf"),
    ("get", "/api/v1/roster"),
    ("get", "/api/v1/session"),
    ("get", "/api/v1/session/account"),
    ("get", "/api/v1/session/list"),
    ("get", "/api/v1/session/notices"),
    ("get", "/api/v1/students"),
    ("get", "/api/v1/students/{student_id}"),
    ("patch", "/api/v1/session"),
    ("post", "/api/v1/bookings"),
    ("post", "/api/v1/session/app"),
    ("post", "/api/v1/session/codes"),
    ("post", "/api/v1/session/confirmed"),
    ("post", "/api/v1/session/notices/seen"),
    ("post", "/api/v1/session/passkeys"),
    ("post", "/api/v1/session/passkeys/challenge"),
    ("post", "/api/v1/session/password"),
    ("put", "/api/v1/session/app"),
    ("put", "/api/v1/session/email"),
    ("post", "/api/v1/students"),
    ("put", "/api/v1/students/{student_id}"),
    ("put", "/api/v1/students/{student_id}/archived"),
    ("put", "/api/v1/students/{student_id}/consent"),
    ("put", "/api/v1/students/{student_id}/filming"),
}


@pytest.mark.parametrize("role", ["coach", "desk"])
def test_roles_are_refused_beyond_their_permissions(api, objects, coach, role):
    """Before anything is looked up: real keys and others are answered the same."""
    coach.role = role
    coach.save()
    nobodys = {name: 999_999 if isinstance(key, int) else key for name, key in objects.items()}
    turned = set()
    for method, path, spec in coach_endpoints():
        if (method, path) in OPEN_TO_ALL | {("delete", "/api/v1/session")}:
            continue
        response = call(api.client, method, path, spec, objects)
        if response.status_code == 403:
            turned.add((method, path))
            assert response.json()["errors"][0]["field"] == "role"
            assert call(api.client, method, path, spec, nobodys).content == response.content
    everything = {(m, p) for m, p, _ in coach_endpoints()} - OPEN_TO_ALL
    assert turned == (FOR_HEADS if role == "coach" else everything - FOR_THE_DESK)


def test_device_token_works_only_for_the_device_protocol(objects, bay):
    _, token = issue_device(bay, "Other")
    for method, path, spec in coach_endpoints():
        if (method, path) in OPEN_TO_ALL:
            continue
        client = Client(headers={"Authorization": f"Bearer {token}"})
        assert call(client, method, path, spec, objects).status_code == 401


def test_tokens_are_stored_as_hashes_only(bay):
    device, token = issue_device(bay, "Hashed")
    assert token not in json.dumps({k: str(v) for k, v in vars(device).items()})


def test_pages_have_a_strict_content_policy(client, db):
    response = client.get("/")
    policy = response["Content-Security-Policy"]
    assert "default-src 'none'" in policy
    assert "unsafe" not in policy
    assert response["X-Frame-Options"] == "DENY"
    assert response["X-Content-Type-Options"] == "nosniff"


def test_guessing_passwords_is_slowed_down(coach, client):
    body = {"username": coach.username, "password": "wrong"}
    client.get("/")
    token = {"X-CSRFToken": client.cookies["instavis_csrf"].value}

    def enter(password):
        data = json.dumps({**body, "password": password})
        return client.post("/api/v1/session", data, content_type="application/json", headers=token).status_code

    assert [enter("wrong") for _ in range(3)] == [401] * 3
    for _ in range(4):
        enter("wrong")
    assert enter("a-long-enough-password") == 429


def test_schema_file_matches_the_server(root):
    committed = json.loads((root / "server" / "openapi.json").read_text())
    assert committed == json.loads(json.dumps(described(), default=str))
