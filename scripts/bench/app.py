"""Targets of the running application: its own database, its own server, a real browser."""

from __future__ import annotations

import contextlib
import gzip
import io
import json
import tempfile
import threading
import time
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path

import httpx
import numpy as np
from attack.years import fill

from bench.felt import felt
from bench.painted import CHROMIUM, PAINTED, WATCH, page_of
from bench.room import room
from bench.target import Measured
from instavis_core.golfer import Golfer
from instavis_core.knowledge import vocabulary
from instavis_core.simulate import draw_golfer, simulate_shots
from launcher import mariadb
from launcher.application import served
from launcher.paths import WEB

BAYS, SECONDS = 8, 30
STORED_BALLS, STORED_LESSONS = 1_000_000, 20_000
CSV_BALLS = 20_000
HEADERS = (
    "Club,Club Speed (mph),Ball Speed (mph),Club Path,Face Angle,Attack Angle,Launch Angle,Launch Direction,Spin Rate,"
    "Carry (yd),Side (yd)"
)


def targets() -> Iterator[Measured]:
    """Measure one target after another."""
    with (
        tempfile.TemporaryDirectory(prefix="instavis-bench-") as folder,
        served(Path(folder), mariadb.free_port(), "demo") as running,
    ):
        address, facts = running.address, json.loads(running.output)
        fill(running, STORED_BALLS, STORED_LESSONS)
        with httpx.Client(base_url=address, trust_env=False, timeout=60) as client:
            _sign_in(client, facts)
            watched = _watched(client)
            bays = [_bay(client, watched if i == 0 else None, i) for i in range(BAYS)]
            yield from _paint(client, address, watched, bays)
            yield from room(client, address, watched["id"])
            yield from felt(client, address, watched["id"], bays[0])
            yield from _csv(client, running.pid)
        yield from _first_load(address)


def _sign_in(client: httpx.Client, facts: dict) -> None:
    login = facts["logins"][0]
    client.get("/")
    client.headers["X-CSRFToken"] = client.cookies["instavis_csrf"]
    client.post("/api/v1/session", json={k: login[k] for k in ("username", "password")}).raise_for_status()
    client.headers["X-CSRFToken"] = client.cookies["instavis_csrf"]


def _watched(client: httpx.Client) -> dict:
    """A lesson in the middle of a proof."""
    lessons = [row for row in client.get("/api/v1/lessons").json() if row["ball_count"] and not row["ended_at"]]
    return next(row for row in lessons if row["station"] == "prove")


def _paint(client: httpx.Client, address: str, watched: dict, tokens: list[tuple[str, str]]) -> Iterator[Measured]:
    """Return how long until the watched lesson's verdict is on the screen, with eight bays, one ball a second each."""
    with page_of(client, address) as page:
        page.goto(f"/lessons/{watched['id']}/prove")
        page.get_by_label("Balls", exact=True).wait_for()
        page.wait_for_timeout(1500)
        page.evaluate(WATCH, "verdict")
        sent = _volley(address, tokens, watched)
        page.wait_for_timeout(2500)
        painted = page.evaluate(PAINTED)
    waits = [painted[str(ball)] - at for ball, at in sent.items() if str(ball) in painted]
    p50, p95 = np.percentile(waits, [50, 95]) if waits else (float("inf"),) * 2
    yield Measured(
        what=f"post to painted verdict, {BAYS} bays, {STORED_BALLS:,} balls stored ({len(waits)} of {len(sent)})",
        figure=f"p50 {p50:.0f} ms, p95 {p95:.0f} ms",
        wanted="p95 ≤ 150 ms",
        met=bool(p95 <= 150 and len(waits) == len(sent)),
    )


def _bay(client: httpx.Client, lesson: dict | None, number: int) -> tuple[str, str]:
    """Return a bay with a device and an active lesson: its token and the hand of its student."""
    bay = client.post("/api/v1/bays", json={"name": f"Bench {number}"}).json()
    token = client.post(f"/api/v1/bays/{bay['id']}/devices", json={"name": "Monitor"}).json()["token"]
    if lesson is None:
        student = client.post("/api/v1/students", json={"name": f"Bench {number}"}).json()
        lesson = client.post("/api/v1/lessons", json={"student_id": student["id"]}).json()
    result = client.put(f"/api/v1/lessons/{lesson['id']}/bay", json={"bay_id": bay["id"]}).json()
    return token, result["student"]["hand"]


def _volley(address: str, tokens: list[tuple[str, str]], watched: dict) -> dict[int, float]:
    """Send one ball a second from every bay; return when each ball of the first was posted [ms], by its number."""
    sent: dict[int, float] = {}
    first = watched["ball_count"] + 1

    def bay(place: int) -> None:
        token, hand = tokens[place]
        club, rng = vocabulary().clubs["7i"], np.random.default_rng(place)
        sim = draw_golfer(rng, {"early-extension": 0.8}, Golfer(hand, 12.0), club)
        balls = simulate_shots(sim, club, SECONDS, rng, datetime.now(UTC), ["done"] * SECONDS)
        with httpx.Client(
            base_url=address, trust_env=False, timeout=20, headers={"Authorization": f"Bearer {token}"}
        ) as line:
            time.sleep(place / len(tokens))
            start = time.monotonic()
            for i, ball in enumerate(balls):
                time.sleep(max(0.0, start + i - time.monotonic()))
                if place == 0:
                    sent[first + i] = time.time() * 1000
                line.post("/api/device/v1/shots", json={"shots": [{**ball, "device_sequence": i}]}).raise_for_status()

    threads = [threading.Thread(target=bay, args=(i,)) for i in range(len(tokens))]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return sent


def _csv(client: httpx.Client, pid: int) -> Iterator[Measured]:
    """Time a foreign table, from upload to the last ball stored."""
    lesson = client.get("/api/v1/lessons").json()[0]
    before = _memory(pid)
    start = time.perf_counter()
    draft = client.post(f"/api/v1/lessons/{lesson['id']}/drafts", files={"file": ("balls.csv", _table())}).json()
    client.post(f"/api/v1/drafts/{draft['id']}/store", json={"mapping": draft["mapping"]}).raise_for_status()
    state = "reading"
    while state == "reading":
        time.sleep(0.25)  # as the screen requests it
        progress = client.get(f"/api/v1/drafts/{draft['id']}/progress").json()
        state = progress["state"]
    took = time.perf_counter() - start
    grown = _memory(pid) - before
    yield Measured(
        what=f"CSV of {progress['stored']:,} balls: mapped, checked, stored",
        figure=f"{took:.1f} s, server grew by {grown:.0f} MB",
        wanted="≤ 5 s",
        met=bool(took <= 5 and progress["stored"] == CSV_BALLS),
    )


def _table() -> bytes:
    rng = np.random.default_rng(9)
    out = io.StringIO()
    out.write(HEADERS + "\n")
    middle = np.array([80, 106, 1, 0.5, -4, 18, 0.6, 6500, 150, 2])
    spread = np.array([2, 3, 2, 2, 1, 1.5, 2, 400, 6, 8])
    for row in middle + spread * rng.normal(size=(CSV_BALLS, middle.size)):
        out.write("7 iron," + ",".join(f"{v:.1f}" for v in row) + "\n")
    return out.getvalue().encode()


def _memory(pid: int) -> float:
    """Resident memory of a process [MB]."""
    status = Path(f"/proc/{pid}/status").read_text()
    return int(next(line for line in status.splitlines() if line.startswith("VmRSS")).split()[1]) / 1024


def _first_load(address: str) -> Iterator[Measured]:
    """Return the script size of the first page, compressed, and when its largest part is painted."""
    from playwright.sync_api import sync_playwright

    html = (WEB / "dist" / "index.html").read_text()
    scripts = [p for p in (WEB / "dist" / "assets").glob("*.js") if p.name in html]
    size = sum(len(gzip.compress(p.read_bytes(), 9)) for p in scripts) / 1024
    yield Measured(what="first load, script compressed", figure=f"{size:.0f} KB", wanted="≤ 200 KB", met=size <= 200)
    with (
        sync_playwright() as playwright,
        contextlib.closing(playwright.chromium.launch(executable_path=CHROMIUM)) as browser,
    ):
        page = browser.new_page(viewport={"width": 1280, "height": 800})
        page.goto(address)
        page.wait_for_timeout(1500)
        largest = page.evaluate(
            "() => new Promise((done) => new PerformanceObserver((list) => done(list.getEntries().at(-1).startTime))"
            ".observe({ type: 'largest-contentful-paint', buffered: true }))"
        )
    yield Measured(
        what="first load, largest paint", figure=f"{largest / 1000:.2f} s", wanted="≤ 1 s", met=largest <= 1000
    )
