"""Balls through files and bridges: the time from writing a ball to its verdict, and the cost of killed bridges."""

from __future__ import annotations

import os
import random
import signal
import subprocess
import sys
import threading
import time
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field
from pathlib import Path

import numpy as np
from bench.painted import CHROMIUM, PAINTED, WATCH, state_of
from bench.target import Measured
from playwright.sync_api import sync_playwright

from attack.load import Watch
from attack.siege import Bay, Siege, seconds_until
from instavis_standins.dialects import dialects
from instavis_standins.writing import SHAPES, Outlet

KINDS = (
    ("folder-grow", "german"),
    ("folder-rewrite", "short-english"),
    ("file-a-ball", "nested"),
    ("folder-grow", "plain"),
)
"""What the bays' programs write: one shape and one dialect each."""
PACE, TIMED_PACE = 0.4, 3.0
P95_MS = 400.0
PATIENCE = 90.0
OLD_AGE = 86_400
MAX_BALLS = 5000


@dataclass(kw_only=True)
class Place:
    """A bay whose monitor writes files, and the bridge that reads them; ``written`` are the balls' paths [°]."""

    bay: Bay
    folder: Path
    code: str
    outlet: Outlet
    balls: Iterator[dict]
    written: list[float] = field(default_factory=list)
    bridge: subprocess.Popen | None = None

    def start(self, address: str) -> None:
        """Start the bridge, or restart it."""
        state = self.folder.parent / "state"
        paired = [] if state.exists() else [f"--server={address}", f"--code={self.code}"]
        command = [sys.executable, "-m", "instavis_bridge", str(self.folder), f"--state={state}", "--page=-1", *paired]
        self.bridge = subprocess.Popen(command, env=os.environ, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL)

    def kill(self) -> None:
        """Stop it as a power cut would."""
        assert self.bridge is not None
        self.bridge.send_signal(signal.SIGKILL)
        self.bridge.wait()

    def hit(self) -> None:
        """Write a ball as the monitor's program does."""
        ball = next(self.balls)
        self.outlet.send([ball])
        self.written.append(ball["path_deg"])


def attack(siege: Siege, kills: int, old: int, seconds: int, seed: int) -> Iterator[Measured]:
    """Time the balls; then kill bridges while balls are written, and compare what was written with what arrived."""
    places = [_place(siege, number, old) for number in range(len(KINDS))]
    try:
        for place in places:
            place.start(siege.running.address)
        for place in places:
            _confirm(siege, place)
        yield from _timed(siege, places, seconds, old)
        yield _killed(siege, places, kills, random.Random(seed))  # noqa: S311
    finally:
        for place in places:
            if place.bridge is not None:
                place.kill()


def _place(siege: Siege, number: int, old: int) -> Place:
    shape, dialect = KINDS[number]
    bay = siege.bay(number)
    folder = siege.folder / "bridges" / str(number) / "balls"
    folder.mkdir(parents=True)
    earlier = bay.balls(20, 7)
    for n in range(old):
        result = dialects()[dialect]
        text = "\n".join([*result.head(), *(result.line(ball, i) for i, ball in enumerate(earlier, 1))]) + "\n"
        file = folder / f"old-{n:05d}.{'json' if result.objects else 'csv'}"
        file.write_bytes(text.encode(result.encoding))
        os.utime(file, (time.time() - OLD_AGE,) * 2)
    where = folder if shape == "file-a-ball" else folder / "session.csv"
    made = siege.head.post(f"/api/v1/bays/{bay.bay_id}/bridges").raise_for_status().json()
    outlet = SHAPES[shape](dialects()[dialect], str(where))
    return Place(
        bay=bay, folder=folder, code=made["code"], outlet=outlet, balls=iter(bay.balls(MAX_BALLS, 100 + number))
    )


def _confirm(siege: Siege, place: Place) -> None:
    """Confirm the columns as proposed from old rows, so that the bridge knows which rows are old."""
    sources = f"/api/v1/bays/{place.bay.bay_id}/sources"
    shown = seconds_until(lambda: siege.head.get(sources).json(), PATIENCE)
    assert shown < PATIENCE, "no old row was shown"
    for source in siege.head.get(sources).json():
        shown = siege.head.get(f"/api/v1/sources/{source['id']}").json()
        siege.head.put(f"/api/v1/sources/{source['id']}/mapping", json=shown["mapping"]).raise_for_status()


def _timed(siege: Siege, places: list[Place], seconds: int, old: int) -> Iterator[Measured]:
    watch, tape = Watch(siege, [place.bay for place in places]), _Tape(siege, places[0].bay.lesson_id)
    for witness in (watch, tape):
        witness.start()
        witness.ready.wait(30)
    sent: dict[tuple[int, int], float] = {}
    begun = time.monotonic()
    while time.monotonic() - begun < seconds:
        for place in places:
            time.sleep(TIMED_PACE / len(places))
            sent[place.bay.lesson_id, len(place.written) + 1] = time.time()
            place.hit()
    time.sleep(4.0)
    for witness in (watch, tape):
        witness.ending.set()
        witness.join()
    what = f"{len(places)} bridges, {old} old files in each folder"
    heard = [1000 * (at - sent[key]) for key, at in watch.verdicts.items() if key in sent]
    yield _within(f"ball written to verdict on the line, {what}", heard, len(sent))
    first = {ball: at for (lesson, ball), at in sent.items() if lesson == places[0].bay.lesson_id}
    delays = [tape.painted[str(ball)] - 1000 * at for ball, at in first.items() if str(ball) in tape.painted]
    yield _within(f"ball written to painted on the tape of a browser, {what}", delays, len(first))


def _within(what: str, waits: list[float], wanted: int) -> Measured:
    p50, p95 = np.percentile(waits, [50, 95]) if waits else (float("inf"),) * 2
    return Measured(
        what=what,
        figure=f"p50 {p50:.0f} ms, p95 {p95:.0f} ms ({len(waits)} of {wanted})",
        wanted=f"p95 ≤ {P95_MS:g} ms",
        met=bool(p95 <= P95_MS and len(waits) == wanted),
    )


class _Tape(threading.Thread):
    """A separate browser that shows a lesson and records when its balls are painted."""

    def __init__(self, siege: Siege, lesson: int) -> None:
        super().__init__(daemon=True)
        self.address, self.lesson = siege.running.address, lesson
        self.state = state_of(siege.head, self.address)
        self.painted: dict[str, float] = {}
        self.ready, self.ending = threading.Event(), threading.Event()

    def run(self) -> None:
        """Until told to end."""
        with sync_playwright() as playwright:
            browser = playwright.chromium.launch(executable_path=CHROMIUM)
            page = browser.new_context(base_url=self.address, storage_state=self.state).new_page()
            page.goto(f"/lessons/{self.lesson}/baseline")
            page.get_by_label("Balls", exact=True).wait_for()
            page.evaluate(WATCH, "Ball")
            self.ready.set()
            while not self.ending.is_set():
                page.wait_for_timeout(100)
            self.painted = page.evaluate(PAINTED)
            browser.close()


def _killed(siege: Siege, places: list[Place], kills: int, chance: random.Random) -> Measured:
    ending = threading.Event()
    writers = [threading.Thread(target=_write, args=(place, ending)) for place in places]
    for writer in writers:
        writer.start()
    for _ in range(kills):
        time.sleep(chance.uniform(0.02, 1.2))
        place = chance.choice(places)
        place.kill()
        place.start(siege.running.address)
    ending.set()
    for writer in writers:
        writer.join()
    seconds_until(lambda: all(len(_stored(siege, p)) >= len(p.written) for p in places), PATIENCE)
    lost = doubled = 0
    for place in places:
        written, stored = (Counter(round(v, 1) for v in values) for values in (place.written, _stored(siege, place)))
        lost += sum((written - stored).values())
        doubled += sum((stored - written).values())
    return Measured(
        what=f"{kills} kills of bridges, {sum(len(p.written) for p in places)} balls written meanwhile and before",
        figure=f"{lost} lost, {doubled} doubled",
        wanted="0 and 0",
        met=lost == doubled == 0,
    )


def _write(place: Place, ending: threading.Event) -> None:
    while not ending.is_set():
        place.hit()
        ending.wait(PACE)


def _stored(siege: Siege, place: Place) -> list[float]:
    asked = f"SELECT path_deg FROM shots_shot WHERE lesson_id = {place.bay.lesson_id:d}"  # noqa: S608
    return [row[0] for row in siege.access.ask(siege.access.name, asked)]
