"""Many bays at once: the time from sending a ball to its verdict on the live connection, and the cost of a ball."""

from __future__ import annotations

import asyncio
import json
import os
import threading
import time
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

import httpx
import numpy as np
from bench.target import Measured
from websockets.asyncio.client import connect

from attack.siege import Bay, Siege

WATCHED = 8
"""Lessons up to which each has an open screen; beyond them, one in four has."""
COST_MS = 25.0
P95_MS = 400.0
SETTLED, GROWTH = 600.0, 0.05
"""Seconds after which a web process has loaded what it needs, and how much it may still grow."""


def attack(siege: Siege, bays: int, every: float, seconds: int) -> Iterator[Measured]:
    """Send balls at an even pace from every bay; then as fast as they are accepted."""
    web = sum(program.name.startswith("web") for program in siege.running.supervisor.programs)
    places = [siege.bay(number) for number in range(bays)]
    yield from _measured_load(siege, places, web, every, seconds)
    yield from _flat_out(siege, places, web)


@dataclass(frozen=True, kw_only=True)
class Paced:
    """Balls that were ``sent`` in ``took`` [s]: the delay of each verdict [ms] for those ``heard`` of ``due``, their
    total cost [s of processor time], and the memory meanwhile.
    """

    sent: int
    took: float
    heard: list[float]
    due: int
    spent: float
    memory: _Memory


def paced(siege: Siege, bays: list[Bay], every: float, seconds: int) -> Paced:
    """Send balls at an even pace from every bay and listen for their verdicts."""
    sent: dict[tuple[int, int], float] = {}
    watch = Watch(siege, bays[:WATCHED] + bays[WATCHED::4])
    watch.start()
    watch.ready.wait(30)
    before, begun = _spent(siege), time.monotonic()
    memory = _Memory(siege)
    memory.start()
    senders = [
        threading.Thread(target=_bay, args=(siege.running.address, bay, i * every / len(bays), every, seconds, sent))
        for i, bay in enumerate(bays)
    ]
    for sender in senders:
        sender.start()
    for sender in senders:
        sender.join()
    spent, took = _spent(siege) - before, time.monotonic() - begun
    memory.ending.set()
    memory.join()
    time.sleep(3.0)
    watch.ending.set()
    watch.join()
    heard = [1000 * (at - sent[key]) for key, at in watch.verdicts.items() if key in sent]
    due = sum(1 for lesson, _ in sent if lesson in watch.lessons)
    return Paced(sent=len(sent), took=took, heard=heard, due=due, spent=spent, memory=memory)


def _measured_load(siege: Siege, bays: list[Bay], web: int, every: float, seconds: int) -> Iterator[Measured]:
    run = paced(siege, bays, every, seconds)
    p50, p95 = np.percentile(run.heard, [50, 95]) if run.heard else (float("inf"),) * 2
    yield Measured(
        what=f"ball to verdict on the line, {web} web, {len(bays)} bays, {run.sent} balls in {run.took:.0f} s",
        figure=f"p50 {p50:.0f} ms, p95 {p95:.0f} ms ({len(run.heard)} of {run.due} heard)",
        wanted=f"p95 ≤ {P95_MS:g} ms",
        met=bool(p95 <= P95_MS and len(run.heard) == run.due),
    )
    cost = 1000 * run.spent / max(1, run.sent)
    yield Measured(
        what="what a ball costs in processor time, web processes and database",
        figure=f"{cost:.1f} ms",
        wanted=f"≤ {COST_MS:g} ms",
        met=cost <= COST_MS,
    )
    if run.took > SETTLED:
        yield run.memory.growth()


def _bay(address: str, bay: Bay, wait: float, every: float, seconds: int, sent: dict) -> None:
    balls = bay.balls(max(1, int(seconds / every)), bay.device_id)
    headers = {"Authorization": f"Bearer {bay.token}"}
    with httpx.Client(base_url=address, trust_env=False, timeout=60, headers=headers) as line:
        begun = time.monotonic() + wait
        for i, ball in enumerate(balls):
            time.sleep(max(0.0, begun + i * every - time.monotonic()))
            sent[bay.lesson_id, i + 1] = time.time()
            line.post("/api/device/v1/shots", json={"shots": [ball]}).raise_for_status()


def _flat_out(siege: Siege, bays: list[Bay], web: int) -> Iterator[Measured]:
    """Send from sixteen bays as fast as their balls are acknowledged."""
    counts: list[int] = []
    until = time.monotonic() + 10

    def hammer(bay: Bay) -> None:
        headers = {"Authorization": f"Bearer {bay.token}"}
        count = 0
        with httpx.Client(base_url=siege.running.address, trust_env=False, timeout=60, headers=headers) as line:
            for ball in bay.endless(bay.device_id + 1):
                if time.monotonic() > until:
                    break
                numbered = {**ball, "device_sequence": ball["device_sequence"] + 100_000}
                line.post("/api/device/v1/shots", json={"shots": [numbered]}).raise_for_status()
                count += 1
        counts.append(count)

    senders = [threading.Thread(target=hammer, args=(bay,)) for bay in bays[:16]]
    for sender in senders:
        sender.start()
    for sender in senders:
        sender.join()
    yield Measured(
        what=f"as fast as they are taken, {web} web processes, the senders on the same cores",
        figure=f"{sum(counts) / 10:.0f} balls a second",
        wanted="to be compared over --web",
        met=True,
    )


class Watch(threading.Thread):
    """Live connections of some lessons; records when the verdict of each ball arrived."""

    def __init__(self, siege: Siege, bays: list[Bay]) -> None:
        super().__init__(daemon=True)
        self.address = siege.running.address
        self.cookie = "; ".join(f"{k}={v}" for k, v in siege.head.cookies.items())
        self.lessons = {bay.lesson_id for bay in bays}
        self.verdicts: dict[tuple[int, int], float] = {}
        self.ready, self.ending = threading.Event(), threading.Event()

    def run(self) -> None:
        """Until told to end."""
        asyncio.run(self._all())

    async def _all(self) -> None:
        tasks = [asyncio.create_task(self._one(lesson)) for lesson in self.lessons]
        await asyncio.sleep(2.0)
        self.ready.set()
        while not self.ending.is_set():
            await asyncio.sleep(0.1)
        for task in tasks:
            task.cancel()

    async def _one(self, lesson: int) -> None:
        url = f"{self.address.replace('http', 'ws')}/ws/lessons/{lesson}?after=0"
        headers = {"Cookie": self.cookie}
        newest = shown = 0
        async with connect(url, additional_headers=headers, origin=self.address, proxy=None, max_size=None) as line:
            async for text in line:
                message = json.loads(text)
                if message["kind"] == "ball":
                    newest = max(newest, message["data"]["number"])
                elif message["kind"] == "proof":
                    for number in range(shown + 1, newest + 1):
                        self.verdicts.setdefault((lesson, number), time.time())
                    shown = newest


class _Memory(threading.Thread):
    """Resident memory of all web processes, sampled every ten seconds."""

    def __init__(self, siege: Siege) -> None:
        super().__init__(daemon=True)
        self.siege = siege
        self.samples: list[tuple[float, float]] = []
        self.ending = threading.Event()

    def run(self) -> None:
        """Until told to end."""
        begun = time.monotonic()
        while not self.ending.wait(10):
            pages = sum(
                int(Path(f"/proc/{program.process.pid}/statm").read_text().split()[1])
                for program in self.siege.running.supervisor.programs
                if program.name.startswith("web")
            )
            self.samples.append((time.monotonic() - begun, pages * os.sysconf("SC_PAGE_SIZE") / 2**20))

    def growth(self) -> Measured:
        """Return the growth from the minutes after the first ten to the last tenth."""
        early = np.median([megabytes for at, megabytes in self.samples if SETTLED <= at < 1.2 * SETTLED])
        late = np.median([megabytes for _, megabytes in self.samples[-max(1, len(self.samples) // 10) :]])
        return Measured(
            what=f"memory of the web processes from ten minutes to {self.seen[-1][0] / 60:.0f}",
            figure=f"{early:.0f} MB, then {late:.0f} MB ({100 * (late / early - 1):+.1f} %)",
            wanted=f"within {100 * GROWTH:g} %",
            met=bool(late / early - 1 <= GROWTH),
        )


def _spent(siege: Siege) -> float:
    """Return the processor seconds of everything that serves a ball, from the kernel."""
    ticks = os.sysconf("SC_CLK_TCK")
    seconds = 0.0
    for program in siege.running.supervisor.programs:
        if program.name == "worker":
            continue
        fields = Path(f"/proc/{program.process.pid}/stat").read_text().rpartition(")")[2].split()
        seconds += (int(fields[11]) + int(fields[12])) / ticks
    return seconds
