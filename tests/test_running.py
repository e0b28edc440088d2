"""Programs keep running: one dies, Redis is away, a worker is killed in mid-task, a second machine joins."""

from __future__ import annotations

import json
import os
import signal
import time
from concurrent.futures import ThreadPoolExecutor
from contextlib import closing

import httpx
import pytest
from playwright.sync_api import Page, expect

from instavis.project.listening import listen
from launcher import package
from launcher.dumps import Access
from launcher.mariadb import free_port
from launcher.shape import keep_loader, keep_web
from launcher.supervisor import Supervisor

from .conftest import AWAY

ROWS = 6000
HEADERS = "Club,Club Speed (mph),Ball Speed (mph),Club Path,Face Angle,Attack Angle,Carry (yd)"


@pytest.fixture
def coach(product):
    with closing(product.signed_in()) as client:
        yield client


@pytest.fixture
def lesson(coach, product) -> int:
    """A new lesson that listens in the first bay."""
    student = coach.post("/api/v1/students", json={"name": f"Ransome Thorne {time.monotonic_ns()}"}).json()
    lesson = coach.post("/api/v1/lessons", json={"student_id": student["id"]}).json()
    bay = coach.get("/api/v1/bays").json()[0]
    coach.put(f"/api/v1/lessons/{lesson['id']}/bay", json={"bay_id": bay["id"]}).raise_for_status()
    return lesson["id"]


@pytest.fixture
def second_machine(product):
    """Another set of web processes on the same database, Redis and files, at a port of its own: its address."""
    port = free_port()
    elsewhere = Supervisor(print)
    with closing(listen("127.0.0.1", port)) as listening:
        log = product.folder / "server.log"
        loader = keep_loader(elsewhere, product.environment, log)
        keep_web(elsewhere, 1, listening.fileno(), loader, log)
        yield f"http://127.0.0.1:{port}"
        elsewhere.stop()


def balls_of(coach, lesson: int) -> list[int]:
    return [ball["number"] for ball in coach.get(f"/api/v1/lessons/{lesson}/shots").json()]


def is_alive(address: str) -> bool:
    try:
        return httpx.get(f"{address}/healthz", trust_env=False, timeout=20).status_code == 200
    except httpx.HTTPError:
        return False


def until(holds, patience: float = 60.0) -> None:
    deadline = time.monotonic() + patience
    while not holds():
        assert time.monotonic() < deadline
        time.sleep(0.1)


def test_without_redis_balls_are_stored_and_screens_catch_up(page: Page, product, coach, lesson):
    page.goto(f"/lessons/{lesson}/baseline")
    page.get_by_label("Balls", exact=True).wait_for()
    product.kill_redis()
    try:
        product.hit("North mat", count=3)
        assert balls_of(coach, lesson) == [1, 2, 3]
        expect(page.get_by_role("button", name="Ball 3,")).to_be_visible()
        ready = httpx.get(f"{product.address}/readyz", trust_env=False)
        assert (ready.status_code, ready.json()["checks"]["redis"]) == (200, False)
    finally:
        product.start_redis()
    product.hit("North mat", "--seed=5", count=2)
    expect(page.get_by_role("button", name="Ball 5,")).to_be_visible()


def test_hanging_database_acknowledges_nothing(product, coach, lesson):
    """It takes callers and says nothing: worse than one that is gone."""
    product.hit("North mat", "--seed=6", count=2)
    database = product.database.process.pid
    os.kill(database, signal.SIGSTOP)
    with ThreadPoolExecutor() as beside:
        try:
            asked = [beside.submit(_asked, f"{product.address}{path}") for path in ("/readyz", "/api/v1/session")]
            sent = beside.submit(product.monitor("North mat", "--pace=0", "--count=1", "--seed=7").wait)
            assert is_alive(product.address)
            for answer in asked:
                status, seconds = answer.result(60)
                assert status == AWAY
                assert seconds < 20
            assert not sent.done()  # the monitor keeps its ball and tries again
        finally:
            os.kill(database, signal.SIGCONT)
        assert sent.result(60) == 0
    assert balls_of(coach, lesson) == [1, 2, 3]


def _asked(address: str) -> tuple[int, float]:
    """Status and seconds of an answer that needs the database."""
    begun = time.monotonic()
    cookies = {"instavis_session": "a-session-that-has-to-be-looked-up-first"}
    status = httpx.get(address, trust_env=False, timeout=90, cookies=cookies).status_code
    return status, time.monotonic() - begun


def test_restore_under_a_running_server_resyncs_screens(page: Page, product, coach, lesson, tmp_path):
    page.goto(f"/lessons/{lesson}/baseline")
    product.hit("North mat", "--seed=4", count=2)
    expect(page.get_by_role("button", name="Ball 2,")).to_be_visible()
    access, made = Access(product.database.address), tmp_path / "before.zip"
    package.write(access, product.folder, made)
    product.hit("North mat", "--seed=5", count=3)
    expect(page.get_by_role("button", name="Ball 5,")).to_be_visible()
    package.put_in_place(access, product.folder, made)
    expect(page.get_by_role("button", name="Ball 5,")).to_have_count(0)
    product.hit("North mat", "--seed=8", count=1)
    expect(page.get_by_role("button", name="Ball 3,")).to_be_visible()
    assert balls_of(coach, lesson) == [1, 2, 3]


def test_import_is_stored_once_after_a_worker_kill(product, coach, lesson):
    rows = "\n".join(f"7 iron,80,106,{n % 7 - 3},0.5,-4,{140 + n % 9}" for n in range(ROWS))
    table = f"{HEADERS}\n{rows}\n".encode()
    draft = coach.post(f"/api/v1/lessons/{lesson}/drafts", files={"file": ("balls.csv", table)}).json()
    coach.post(f"/api/v1/drafts/{draft['id']}/store", json={"mapping": draft["mapping"]}).raise_for_status()
    progress = f"/api/v1/drafts/{draft['id']}/progress"
    until(lambda: coach.get(progress).json()["done"] >= 1000 or coach.get(progress).json()["state"] == "done")
    [worker] = [program for program in product.workers.programs if program.name == "worker"]
    os.kill(worker.process.pid, signal.SIGKILL)
    until(lambda: coach.get(progress).json()["state"] not in ("reading", "waiting"))
    result = coach.get(progress).json()
    assert (result["state"], result["stored"] + result["known"]) == ("done", ROWS)
    assert balls_of(coach, lesson) == list(range(1, ROWS + 1))
    assert worker.restarts >= 1


def test_second_machine_shares_data_and_sessions(browser, product, second_machine, lesson):
    context = browser.new_context(
        reduced_motion="reduce", viewport={"width": 1280, "height": 800}, base_url=second_machine
    )
    page = context.new_page()
    login = product.facts["logins"][1]
    until(lambda: is_alive(second_machine))
    page.goto("/")
    page.get_by_label("Username").fill(login["username"])
    page.get_by_label("Password").fill(login["password"])
    page.get_by_role("button", name="Sign in", exact=True).click()
    page.get_by_role("heading", name="Students").wait_for()
    page.goto(f"/lessons/{lesson}/baseline")
    page.get_by_label("Balls", exact=True).wait_for()
    product.hit("North mat", "--seed=9", count=2)  # the monitor speaks to the first machine
    expect(page.get_by_role("button", name="Ball 2,")).to_be_visible()
    cookies = {cookie["name"]: cookie["value"] for cookie in context.cookies()}
    headers = {"X-CSRFToken": cookies["instavis_csrf"]}
    with httpx.Client(base_url=product.address, trust_env=False, cookies=cookies, headers=headers) as first:
        assert first.get("/api/v1/session").status_code == 200
        assert first.delete("/api/v1/session").status_code == 204
    answer = page.evaluate("async () => (await fetch('/api/v1/session')).status")
    assert answer == 401
    context.close()


def test_killed_process_is_replaced(product, coach, lesson):
    [first, *_] = product.web.programs
    before = first.restarts
    os.kill(first.process.pid, signal.SIGKILL)
    product.hit("North mat", "--seed=3", count=4)
    assert balls_of(coach, lesson) == [1, 2, 3, 4]
    until(lambda: first.restarts > before and first.process.poll() is None)


def test_log_has_one_json_object_per_line_and_private_permissions(product, coach):
    answer = coach.get("/api/v1/students")
    log = product.folder / "server.log"
    assert log.stat().st_mode & 0o077 == 0
    until(lambda: answer.headers["x-request-id"] in log.read_text())  # it is written after the answer
    lines = [json.loads(line) for line in log.read_text().splitlines()]
    [asked] = [line for line in lines if line.get("request") == answer.headers["x-request-id"]]
    assert {"at", "level", "process", "request", "status", "ms", "who"} <= set(asked)


def test_killed_scheduler_restarts_and_health_reports_it(product):
    """Without it nothing is retried and nothing is deleted in time."""

    def checks() -> dict:
        return httpx.get(f"{product.address}/readyz", trust_env=False, timeout=20).json()

    until(lambda: checks()["checks"]["rounds"])
    assert checks()["state"] == "ready"
    [scheduler] = [program for program in product.workers.programs if program.name == "scheduler"]
    killed = scheduler.process.pid
    os.kill(killed, signal.SIGKILL)
    until(lambda: scheduler.process.pid != killed and scheduler.process.poll() is None)
