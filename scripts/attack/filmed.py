"""Whole lessons marked by films alone: nobody presses a movement key, and the claim must be right.

A camera is paired by its code and films every ball. It is either a real browser whose camera plays the swings, or,
faster, a client that sends the same films with the camera's token. The worker measures them. There are two golfers: one
whose ball follows the movement, and one whose ball changes although the body does not.
"""

from __future__ import annotations

import contextlib
import time
import uuid
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from datetime import UTC, datetime
from functools import partial
from typing import Protocol

import httpx
import numpy as np
from bench.target import Measured

from attack.phone import Phone, filming
from attack.siege import Siege, client_of
from instavis_core.golfer import Golfer
from instavis_core.knowledge import vocabulary
from instavis_core.simulate import SimulatedGolfer, draw_golfer, simulate_shots
from instavis_core.terms import ProofStatus
from launcher.paths import SERVER

CLIPS = SERVER / "instavis" / "demo" / "clips"
VIEW, HAND, CLUB = "down-the-line", "left", "7i"
FAULT, DRILL, CHECK, GRADE = "early-extension", "bar-stool", "seat-line", "leaves-early"
TRUE_FAULT = {"early-extension/from-inside": 0.95}
BASELINE, PROOF = 14, 18
REPORTED_AT = 2.4  # s of the clips at which a monitor reports their ball, just after the strike
PATIENCE = 900.0


class Camera(Protocol):
    """Films the balls of a lesson."""

    def pair(self, code: str) -> None:
        """Start filming the bay that a code belongs to."""

    def film(self, lesson: Lesson, ball: int, swing: str, hit: Callable[[], object]) -> None:
        """Film a swing while its ball is hit."""

    def unpair(self) -> None:
        """Go to another bay."""


class Sender:
    """Sends the films themselves with a camera's token."""

    def __init__(self, address: str) -> None:
        self._client = client_of(address)

    def pair(self, code: str) -> None:
        """Start filming the bay that a code belongs to."""
        paired = self._client.post("/api/v1/filming", json={"code": code}).raise_for_status().json()["token"]
        self._client.headers["Authorization"] = f"Bearer {paired}"
        self._client.post("/api/v1/filming/here", json={"filming": True, "waiting": 0}).raise_for_status()

    def film(self, lesson: Lesson, ball: int, swing: str, hit: Callable[[], object]) -> None:
        """Send the film of a ball after the ball."""
        hit()
        result = {"lesson": lesson.number, "ball": ball, "key": uuid.uuid4().hex, "about": REPORTED_AT}
        files = {"file": ("swing.webm", (CLIPS / f"{swing}.webm").read_bytes(), "video/webm")}
        self._client.post("/api/v1/filming/films", data=result, files=files).raise_for_status()

    def unpair(self) -> None:
        """Go to another bay."""
        self._client.headers.pop("Authorization")


class Filmer:
    """Holds a phone: its camera sees the swings one after another, and each is measured before the next."""

    def __init__(self, phone: Phone) -> None:
        self._phone = phone
        self.pair, self.unpair = phone.pair, phone.unpair

    def film(self, lesson: Lesson, ball: int, swing: str, hit: Callable[[], object]) -> None:
        """Hit the ball when the swing is struck in front of the phone, which does the rest."""
        self._phone.wait_for(swing)
        hit()
        self._phone.sent()
        lesson.measured()


@dataclass(frozen=True, kw_only=True)
class Lesson:
    """A lesson with a monitor and a camera in its bay, and nobody at the keyboard."""

    siege: Siege
    number: int
    monitor: httpx.Client
    camera: Camera

    def hit(self, records: list[dict], films: list[str], first: int) -> None:
        """Send balls, each with its film, and wait until the last is measured."""
        for number, (record, film) in enumerate(zip(records, films, strict=True), first):
            ball = {k: v for k, v in record.items() if k != "movement"} | {"device_sequence": number}
            hit = partial(self.monitor.post, "/api/device/v1/shots", json={"shots": [ball]})
            self.camera.film(self, number, film, hit)
        self.measured()

    def measured(self) -> None:
        """Wait until no film is waiting."""
        until = time.monotonic() + PATIENCE
        while time.monotonic() < until:
            left = self.get("clips")
            if not left:
                return
            assert not any(clip["problem"] for clip in left), left
            time.sleep(1.0)
        raise TimeoutError("films were not measured")

    def get(self, what: str):
        """Fetch what a screen of the lesson shows."""
        return self.siege.head.get(f"/api/v1/lessons/{self.number}/{what}").raise_for_status().json()

    def do(self, method: str, what: str, body: dict) -> None:
        """A coach's deed."""
        self.siege.head.request(method, f"/api/v1/lessons/{self.number}/{what}", json=body).raise_for_status()


def attack(siege: Siege, seed: int, browser: bool) -> Iterator[Measured]:
    """Film both golfers through a whole lesson, with a browser's camera or by sending the films."""
    rng = np.random.default_rng(seed)
    made = [["done", "missed", "done"][i % 3] for i in range(PROOF)]
    with _camera(siege, browser) as camera:
        yield from _report(siege, camera, rng, "whose ball changes with the movement", made, made)
        not_made = ["missed"] * PROOF
        yield from _report(siege, camera, rng, "whose ball changes without the movement", not_made, ["done"] * PROOF)


@contextlib.contextmanager
def _camera(siege: Siege, browser: bool) -> Iterator[Camera]:
    if not browser:
        yield Sender(siege.running.address)
        return
    clips = {name: (CLIPS / f"{name}.webm", REPORTED_AT) for name in ("before", "done", "missed")}
    with filming(siege.running.address, clips, siege.folder) as phone:
        yield Filmer(phone)


def _report(
    siege: Siege, camera: Camera, rng: np.random.Generator, who: str, body: list[str], ball: list[str]
) -> Iterator[Measured]:
    lesson = _begun(siege, camera, f"Filmed, {who}")
    golfer = draw_golfer(rng, TRUE_FAULT, Golfer(HAND, 9.0), vocabulary().clubs[CLUB])
    lesson.hit(_balls(golfer, BASELINE, rng), ["before"] * BASELINE, 1)
    answers = {p["check"]: p["grade"] for p in lesson.get("recordings")["seen"]}
    yield Measured(
        what=f"golfer {who}: the look from {BASELINE} films",
        figure=f"{CHECK}: {answers.get(CHECK)}",
        wanted=GRADE,
        met=answers.get(CHECK) == GRADE,
    )
    lesson.do("PUT", "checks", {"grades": {CHECK: answers[CHECK]}, "source": "camera"})
    lesson.do("POST", "corrections", {"fault": FAULT, "variant": "from-inside", "drill": DRILL, "stage": "full"})
    lesson.hit(_balls(golfer, PROOF, rng, ball), body, BASELINE + 1)
    proof = lesson.get("proof")["proof"]
    marks = [mark and mark["mark"] for mark in proof["pivot"]["balls"]]
    right = sum(mark == true for mark, true in zip(marks, body, strict=True))
    yield Measured(
        what=f"golfer {who}: marks by the camera",
        figure=f"{right} of {PROOF} as the body did, {proof['marks']['measured']} marks measured",
        wanted="all",
        met=right == PROOF,
    )
    answers = body == ball
    good = (ProofStatus.VERIFIED, ProofStatus.SUPPORTED) if answers else (ProofStatus.NOT_YET, ProofStatus.COMPENSATED)
    yield Measured(
        what=f"golfer {who}: the claim after {PROOF} balls",
        figure=f"{proof['status']}: {proof['reason']}",
        wanted=" or ".join(good),
        met=proof["status"] in good,
    )
    camera.unpair()


def _begun(siege: Siege, camera: Camera, name: str) -> Lesson:
    """Prepare a student who agreed to be filmed, a lesson in a bay, a monitor, and a camera paired by its code."""
    head = siege.head
    bay = _made(head, "bays", {"name": name})
    token = _made(head, f"bays/{bay['id']}/devices", {"name": "Monitor"})["token"]
    student = _made(head, "students", {"name": name, "hand": HAND, "handicap": 9})
    head.put(f"/api/v1/students/{student['id']}/filming", json={"given": True}).raise_for_status()
    lesson = _made(head, "lessons", {"student_id": student["id"]})["id"]
    head.put(f"/api/v1/lessons/{lesson}/bay", json={"bay_id": bay["id"]}).raise_for_status()
    code = _made(head, f"bays/{bay['id']}/cameras", {"view": VIEW})["code"]
    camera.pair(code)
    bearing = {"Authorization": f"Bearer {token}"}
    monitor = httpx.Client(base_url=siege.running.address, trust_env=False, timeout=60, headers=bearing)
    return Lesson(siege=siege, number=lesson, monitor=monitor, camera=camera)


def _made(head: httpx.Client, what: str, body: dict) -> dict:
    answer = head.post(f"/api/v1/{what}", json=body)
    assert answer.is_success, (what, answer.text)
    made: dict = answer.json()
    return made


def _balls(
    golfer: SimulatedGolfer, count: int, rng: np.random.Generator, movements: list[str] | None = None
) -> list[dict]:
    return simulate_shots(golfer, vocabulary().clubs[CLUB], count, rng, datetime.now(UTC), movements)
