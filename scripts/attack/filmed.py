"""Whole lessons marked by films alone: nobody presses a movement key, and the claim has to be the right one.

A camera is paired by its code and sends a film of every ball, as a phone does; the worker measures it. Two golfers are
filmed: one whose ball answers the movement, and one whose ball changes while the body goes on as before.
"""

from __future__ import annotations

import time
import uuid
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, datetime

import httpx
import numpy as np
from bench.target import Measured

from attack.siege import Siege, client_of
from instavis_core.golfer import Golfer
from instavis_core.knowledge import vocabulary
from instavis_core.simulate import SimulatedGolfer, draw_golfer, simulate_shots
from instavis_core.terms import ProofStatus
from launcher.paths import SERVER

CLIPS = SERVER / "instavis" / "demo" / "clips"
VIEW, HAND, CLUB = "down-the-line", "left", "7i"
FAULT, DRILL, LOOK, GRADE = "early-extension", "bar-stool", "seat-line", "leaves-early"
TRUE_FAULT = {"early-extension/from-inside": 0.95}
BASELINE, PROOF = 14, 18
TOLD_AT = 2.4  # s of the clips at which a monitor tells their ball, just after the strike
PATIENCE = 900.0


@dataclass(frozen=True, kw_only=True)
class Lesson:
    """A lesson with a monitor and a camera in its bay, and nobody at the keys."""

    siege: Siege
    number: int
    monitor: httpx.Client
    camera: httpx.Client

    def hit(self, records: list[dict], films: list[str], first: int) -> None:
        """Send balls, each with its film, and wait until the last is measured."""
        for i, (record, film) in enumerate(zip(records, films, strict=True)):
            ball = {k: v for k, v in record.items() if k != "movement"} | {"device_sequence": first + i}
            self.monitor.post("/api/device/v1/shots", json={"shots": [ball]}).raise_for_status()
            told = {"lesson": self.number, "ball": first + i, "key": uuid.uuid4().hex, "about": TOLD_AT}
            files = {"file": ("swing.webm", (CLIPS / f"{film}.webm").read_bytes(), "video/webm")}
            self.camera.post("/api/v1/filming/films", data=told, files=files).raise_for_status()
        self._measured()

    def _measured(self) -> None:
        until = time.monotonic() + PATIENCE
        while time.monotonic() < until:
            left = self.get("clips")
            if not left:
                return
            assert not any(clip["problem"] for clip in left), left
            time.sleep(1.0)
        raise TimeoutError("films were not measured")

    def get(self, what: str):
        """What a screen of the lesson asks for."""
        return self.siege.head.get(f"/api/v1/lessons/{self.number}/{what}").raise_for_status().json()

    def do(self, method: str, what: str, body: dict) -> None:
        """A coach's deed."""
        self.siege.head.request(method, f"/api/v1/lessons/{self.number}/{what}", json=body).raise_for_status()


def attack(siege: Siege, seed: int) -> Iterator[Measured]:
    """Film both golfers through a whole lesson."""
    rng = np.random.default_rng(seed)
    made = [["done", "missed", "done"][i % 3] for i in range(PROOF)]
    yield from _told(siege, rng, "whose ball answers the movement", made, made)
    yield from _told(siege, rng, "whose ball changes without the move", ["missed"] * PROOF, ["done"] * PROOF)


def _told(siege: Siege, rng: np.random.Generator, who: str, body: list[str], ball: list[str]) -> Iterator[Measured]:
    lesson = _begun(siege, f"Filmed, {who}")
    golfer = draw_golfer(rng, TRUE_FAULT, Golfer(HAND, 9.0), vocabulary().clubs[CLUB])
    lesson.hit(_balls(golfer, BASELINE, rng), ["before"] * BASELINE, 1)
    seen = {p["look"]: p["grade"] for p in lesson.get("recordings")["seen"]}
    yield Measured(
        what=f"golfer {who}: the look from {BASELINE} films",
        figure=f"{LOOK}: {seen.get(LOOK)}",
        wanted=GRADE,
        met=seen.get(LOOK) == GRADE,
    )
    lesson.do("PUT", "checks", {"grades": {LOOK: seen[LOOK]}, "source": "camera"})
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


def _begun(siege: Siege, name: str) -> Lesson:
    """A student who agreed to be filmed, a lesson in a bay, a monitor, and a camera paired by its code."""
    head = siege.head
    bay = _made(head, "bays", {"name": name})
    token = _made(head, f"bays/{bay['id']}/devices", {"name": "Monitor"})["token"]
    student = _made(head, "students", {"name": name, "hand": HAND, "handicap": 9})
    head.put(f"/api/v1/students/{student['id']}/filming", json={"given": True}).raise_for_status()
    lesson = _made(head, "lessons", {"student_id": student["id"]})["id"]
    head.put(f"/api/v1/lessons/{lesson}/bay", json={"bay_id": bay["id"]}).raise_for_status()
    code = _made(head, f"bays/{bay['id']}/cameras", {"view": VIEW})["code"]
    camera = client_of(siege.running.address)
    paired = camera.post("/api/v1/filming", json={"code": code}).raise_for_status().json()["token"]
    camera.headers["Authorization"] = f"Bearer {paired}"
    camera.post("/api/v1/filming/here", json={"filming": True, "waiting": 0}).raise_for_status()
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
