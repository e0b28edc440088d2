"""An academy to attack: served on loopback in the requested shape, with bays that have active lessons."""

from __future__ import annotations

import contextlib
import itertools
import json
import tempfile
import time
import uuid
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import UTC, datetime
from pathlib import Path

import httpx
import numpy as np

from instavis.platform.addresses import DatabaseAddress
from instavis_core.golfer import Golfer
from instavis_core.knowledge import vocabulary
from instavis_core.simulate import draw_golfer, simulate_shots
from launcher import mariadb
from launcher.application import Running, served
from launcher.dumps import Access
from launcher.shape import Shape


@dataclass(frozen=True, kw_only=True)
class Bay:
    """A bay with a device and an active lesson."""

    token: str
    device_id: int
    bay_id: int
    lesson_id: int
    hand: str

    def endless(self, seed: int) -> Iterator[dict]:
        """Yield balls without end: those of a simulated golfer repeatedly, each with its own number and key."""
        some = self.balls(100, seed)
        for number in itertools.count():
            yield {**some[number % len(some)], "device_sequence": number, "shot_id": str(uuid.uuid4())}

    def balls(self, count: int, seed: int) -> list[dict]:
        """Return records of a simulated golfer, with the device's numbers."""
        club, rng = vocabulary().clubs["7i"], np.random.default_rng(seed)
        golfer = draw_golfer(rng, {"early-extension": 0.8}, Golfer(self.hand, 12.0), club)
        records = simulate_shots(golfer, club, count, rng, datetime.now(UTC), ["done"] * count)
        return [{**record, "device_sequence": i} for i, record in enumerate(records)]


@dataclass(frozen=True, kw_only=True)
class Siege:
    """The attacked server, and a head coach's session."""

    folder: Path
    running: Running
    head: httpx.Client
    access: Access

    def bay(self, number: int) -> Bay:
        """One more bay."""
        name = f"Siege {number} {time.monotonic_ns()}"
        bay = self._made("bays", {"name": name})
        issued = self._made(f"bays/{bay['id']}/devices", {"name": "Monitor"})
        student = self._made("students", {"name": name})
        lesson = self._made("lessons", {"student_id": student["id"]})
        self.head.put(f"/api/v1/lessons/{lesson['id']}/bay", json={"bay_id": bay["id"]}).raise_for_status()
        return Bay(
            token=issued["token"],
            device_id=issued["device"]["id"],
            bay_id=bay["id"],
            lesson_id=lesson["id"],
            hand=student["hand"],
        )

    def _made(self, what: str, body: dict) -> dict:
        answer = self.head.post(f"/api/v1/{what}", json=body)
        assert answer.is_success, (what, answer.status_code, answer.text)
        return answer.json()


@contextlib.contextmanager
def besieged(shape: Shape) -> Iterator[Siege]:
    """Serve the sample academy in a temporary folder."""
    with tempfile.TemporaryDirectory(prefix="instavis-attack-") as folder, besieged_in(Path(folder), shape) as siege:
        yield siege


@contextlib.contextmanager
def besieged_in(folder: Path, shape: Shape) -> Iterator[Siege]:
    """Serve the sample academy of a folder, which is created if missing."""
    with (
        served(folder, mariadb.free_port(), "demo", shape=shape) as running,
        contextlib.closing(client_of(running.address)) as head,
    ):
        sign_in(head, json.loads(running.output)["logins"][0])
        yield Siege(folder=folder, running=running, head=head, access=access_of(running))


def access_of(running: Running) -> Access:
    """Return the database itself, to compare what was promised with what is stored."""
    return Access(DatabaseAddress.read(running.loader.environment["INSTAVIS_DATABASE_URL"]))


def client_of(address: str) -> httpx.Client:
    """Return a client that is not signed in but has opened the page."""
    client = httpx.Client(base_url=address, trust_env=False, timeout=30)
    client.get("/")
    client.headers["X-CSRFToken"] = client.cookies["instavis_csrf"]
    return client


def sign_in(client: httpx.Client, login: dict) -> None:
    """Sign a client in."""
    body = {key: login[key] for key in ("username", "password")}
    client.post("/api/v1/session", json=body).raise_for_status()
    client.headers["X-CSRFToken"] = client.cookies["instavis_csrf"]


def seconds_until(holds, patience: float) -> float:
    """Return how long a condition takes to hold; infinite if it does not within the patience."""
    begun = time.monotonic()
    while time.monotonic() - begun < patience:
        if holds():
            return time.monotonic() - begun
        time.sleep(0.02)
    return float("inf")
