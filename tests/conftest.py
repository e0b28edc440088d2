"""The running product: its own database, a real server and browser, a stand-in monitor over HTTP."""

from __future__ import annotations

import fcntl
import json
import os
import shutil
import signal
import socket
import subprocess
import sys
from contextlib import closing
from dataclasses import dataclass, field
from pathlib import Path

import httpx
import pytest
from bench.painted import CHROMIUM
from playwright.sync_api import Browser, BrowserContext, Page, expect, sync_playwright

from instavis.demo.scenario import PASSWORD
from instavis.project.listening import listen
from instavis_standins import monitor
from launcher import mariadb, redis
from launcher.application import NO_REDIS, make_ready, wait_until_answering
from launcher.loaded import Loader, loaded
from launcher.shape import keep_loader, keep_web, keep_workers, settings_for
from launcher.supervisor import Supervisor

AXE = "web/node_modules/axe-core/axe.min.js"
HEAD = "imke"
AWAY = 503
"""What the server answers while its database is away, and never otherwise."""
PATIENCE_SECONDS = 120
"""How long a program of the product may take on a busy machine before a test gives up."""

expect.set_options(timeout=30_000)


SERVICES = ("INSTAVIS_DATABASE_URL", "INSTAVIS_REDIS_URL", "INSTAVIS_SECRET_KEY")


@pytest.fixture(scope="session", autouse=True)
def _services_of_its_own():
    """Programs of the product start their own database and Redis, not those of the server's tests.

    Their workers give way to nobody: beside several browsers on two cores they would never come to their turn.
    """
    os.environ["INSTAVIS_WORKER_NICE"] = "0"
    for name in SERVICES:
        os.environ.pop(name, None)


@dataclass(kw_only=True)
class Product:
    """A running Instavis in its usual shape, two web processes and two workers; parts can be killed."""

    folder: Path
    database: mariadb.Database
    redis: redis.Redis
    port: int
    facts: dict = field(default_factory=dict)
    cookies: dict[str, str] = field(default_factory=dict)
    web: Supervisor = field(default_factory=lambda: Supervisor(print))
    workers: Supervisor = field(default_factory=lambda: Supervisor(print))
    loading: Supervisor = field(default_factory=lambda: Supervisor(print))
    loader: Loader = field(init=False)
    listening: socket.socket | None = None
    programs: list[subprocess.Popen] = field(default_factory=list)

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    @property
    def environment(self) -> dict[str, str]:
        return settings_for(self.folder, self.database.address, self.redis.url)

    def load(self) -> None:
        """What all its programs are copies of."""
        self.loader = keep_loader(self.loading, self.environment, self.folder / "server.log")

    def start_server(self) -> None:
        self.listening = listen("127.0.0.1", self.port)
        keep_web(self.web, 2, self.listening.fileno(), self.loader, self.folder / "server.log")
        wait_until_answering(self.address, self.web)

    def start_workers(self) -> None:
        keep_workers(self.workers, 2, self.loader, self.folder / "worker.log")

    def kill_server(self) -> None:
        self.web.kill()
        self.listening.close()

    def kill_database(self) -> None:
        mariadb.kill_hard(self.database)
        self.database.stop()

    def start_database(self) -> None:
        self.database = mariadb.start(self.folder / "database", port=self.database.port)

    def kill_redis(self) -> None:
        self.redis.process.kill()
        self.redis.process.wait()

    def start_redis(self) -> None:
        self.redis = redis.start(self.folder / "redis", port=self.redis.port)

    def stop(self) -> None:
        self.web.stop()
        self.workers.stop()
        self.loading.stop()
        if self.listening:
            self.listening.close()
        self.redis.stop()
        self.database.stop()

    def monitor(self, bay: str, *options: str, **streams) -> subprocess.Popen:
        """The stand-in monitor of a bay as a program of its own."""
        return self._program("monitor", self.facts["tokens"][bay], *options, **streams)

    def hit(self, bay: str, *options: str, count: int) -> None:
        """The stand-in monitor sends so many balls, without the seconds that starting a program takes."""
        before = signal.getsignal(signal.SIGTERM)
        try:
            where = (f"--server={self.address}", f"--token={self.facts['tokens'][bay]}", "--pace=0", f"--count={count}")
            assert monitor.main([*where, *options]) == 0
        finally:
            signal.signal(signal.SIGTERM, before)

    def recorder(self, kind: str, bay: str, *options: str) -> subprocess.Popen:
        """The stand-in belt or mat of a bay as a program of its own, already following the bay's balls."""
        process = self._program(kind, self.facts[f"{kind}s"][bay], *options, stdout=subprocess.PIPE, text=True)
        assert "following" in process.stdout.readline()
        return process

    def _program(self, name: str, token: str, *options: str, **streams) -> subprocess.Popen:
        command = [sys.executable, "-m", f"instavis_standins.{name}", f"--server={self.address}", f"--token={token}"]
        process = subprocess.Popen([*command, *options], env=os.environ, **streams)
        self.programs.append(process)
        return process

    def tidy(self) -> None:
        """Leave the demo as found: no program running on, no bay held by a lesson of a test."""
        for program in self.programs:
            if program.poll() is None:
                program.kill()
                program.wait()
        self.programs.clear()
        with closing(self.signed_in()) as client:
            for bay in client.get("/api/v1/bays").json():
                if bay["lesson_id"]:
                    client.put(f"/api/v1/lessons/{bay['lesson_id']}/bay", json={"bay_id": None})

    def signed_in(self) -> httpx.Client:
        """A client of the head coach, who signs in once."""
        client = httpx.Client(base_url=self.address, trust_env=False, timeout=20, cookies=self.cookies)
        if not self.cookies:
            client.get("/")
            client.headers["X-CSRFToken"] = client.cookies["instavis_csrf"]
            client.post("/api/v1/session", json={"username": HEAD, "password": PASSWORD}).raise_for_status()
            self.cookies = dict(client.cookies)
        client.headers["X-CSRFToken"] = client.cookies["instavis_csrf"]
        return client


def made_once(tmp_path_factory) -> Path:
    """The demo academy's folder, at rest; whichever worker comes first makes it, the others wait."""
    base = tmp_path_factory.getbasetemp()
    shared = base.parent if "PYTEST_XDIST_WORKER" in os.environ else base
    place = shared / "demo"
    with (shared / "demo-lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        if not (place / "facts.json").exists():
            database = mariadb.start(place / "database", quick=True)
            try:
                with loaded(settings_for(place, database.address, NO_REDIS), shared / "demo-log") as loader:
                    facts = make_ready(place, loader, "demo")
            finally:
                database.stop()
            (place / "facts.json").write_text(facts)
    return place


@pytest.fixture(scope="session")
def product(tmp_path_factory):
    folder = tmp_path_factory.getbasetemp() / "product"
    shutil.copytree(made_once(tmp_path_factory), folder)
    facts = json.loads((folder / "facts.json").read_text())
    database = mariadb.start(folder / "database")
    shared = redis.start(folder / "redis")
    running = Product(folder=folder, database=database, redis=shared, port=mariadb.free_port(), facts=facts)
    try:
        running.load()
        running.start_workers()
        running.start_server()
        yield running
        log = (folder / "server.log").read_text() + (folder / "worker.log").read_text()
        assert "Traceback" not in log, log[log.index("Traceback") - 500 :][:4000]
    finally:
        running.stop()


@pytest.fixture(scope="session")
def playwright():
    with sync_playwright() as driver:
        yield driver


@pytest.fixture(scope="session")
def browser(playwright):
    chromium = playwright.chromium.launch(executable_path=CHROMIUM)
    yield chromium
    chromium.close()


@pytest.fixture(scope="session")
def signed_in_state(browser: Browser, product: Product):
    """Cookies of a coach who signed in through the page."""
    context = browser.new_context(reduced_motion="reduce", base_url=product.address)
    page = context.new_page()
    page.goto("/")
    page.get_by_label("Username").fill(HEAD)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in", exact=True).click()
    page.get_by_role("heading", name="Students").wait_for()
    state = context.storage_state()
    context.close()
    return state


@pytest.fixture(autouse=True)
def _tidied(request):
    """Whatever a test did, the next one finds no program running and every bay free."""
    yield
    if "product" in request.fixturenames:
        request.getfixturevalue("product").tidy()


@pytest.fixture
def fresh_lesson(product):
    """fresh_lesson(name) begins a lesson of a new student: its key."""
    client = product.signed_in()

    def make(name: str) -> int:
        student = client.post("/api/v1/students", json={"name": name, "handicap": 14}).json()
        return client.post("/api/v1/lessons", json={"student_id": student["id"]}).json()["id"]

    yield make
    client.close()


@pytest.fixture(scope="session")
def desk(browser: Browser, product: Product):
    """The coach's browser, which keeps what it has loaded from one test to the next."""
    context = browser.new_context(
        reduced_motion="reduce", viewport={"width": 1280, "height": 800}, base_url=product.address
    )
    yield context
    context.close()


@pytest.fixture
def page(desk: BrowserContext, product: Product, signed_in_state):
    """A page of a signed-in coach, nothing opened yet.

    Anything the browser complains of, and any request that leaves the machine, fails the test.
    """
    desk.clear_cookies()
    desk.add_cookies(signed_in_state["cookies"])
    page = desk.new_page()
    complaints: list[str] = []
    page.on("pageerror", lambda error: complaints.append(str(error)))
    page.on("console", lambda m: complaints.append(m.text) if m.type == "error" and not _expected(m.text) else None)
    page.on(
        "request",
        lambda r: complaints.append(r.url) if not r.url.startswith((product.address, "data:", "blob:")) else None,
    )
    page.on(
        "response", lambda r: complaints.append(f"{r.status} {r.url}") if r.status >= 500 and r.status != AWAY else None
    )
    yield page
    page.evaluate("() => { localStorage.clear(); sessionStorage.clear(); }")
    page.close()
    assert complaints == []


def settled(page: Page) -> None:
    """Wait until the page has its content, nothing has been asked of the server for a moment, and all of it is drawn.

    A page whose code is still being loaded asks for nothing and has no content; one that is being drawn grows.
    """
    page.evaluate(
        """() => new Promise((done) => {
          let quiet = 0, elements = -1;
          const look = (now) => {
            const count = document.getElementsByTagName("*").length;
            const content = [...document.querySelectorAll("main, form")].some((one) => one.textContent.trim());
            if (document.body.dataset.asked !== "0" || !content || count !== elements) quiet = 0;
            else quiet ||= now;
            elements = count;
            if (quiet && now - quiet > 150) done();
            else requestAnimationFrame(look);
          };
          requestAnimationFrame(look);
        })"""
    )


def faults_of(page: Page, root: Path) -> list[str]:
    """What stands in the way of assistive technology on a page."""
    settled(page)
    if not page.evaluate("'axe' in window"):
        # Into the page's own world: the page's policy allows no foreign script element.
        page.evaluate((root / AXE).read_text())
    result = page.evaluate("() => axe.run(document, { resultTypes: ['violations'] })")
    return [f"{v['id']}: {v['nodes'][0]['html'][:160]}" for v in result["violations"]]


def _expected(text: str) -> bool:
    """What the browser itself logs when the server refuses something, or it or its database is away on purpose."""
    away = ("ERR_CONNECTION", "ERR_SOCKET", "WebSocket connection", "ERR_EMPTY_RESPONSE", "ERR_INCOMPLETE")
    return any(s in text for s in ("401", "404", "409", "422", f"status of {AWAY}", *away))
