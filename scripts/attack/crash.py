"""Random hard kills of any program while eight bays send balls: every acknowledged ball is stored once."""

from __future__ import annotations

import contextlib
import os
import random
import signal
import threading
import time
from collections import defaultdict
from collections.abc import Iterator

import httpx
from bench.target import Measured

from attack.siege import Bay, Siege, seconds_until

BAYS, PACE = 8, 0.5
BACK = {"web": 5.0, "worker": 15.0, "database": 15.0, "redis": 5.0, "loader": 15.0, "films": 15.0, "scheduler": 15.0}
"""Seconds within which each program should be back."""
PATIENCE = 60.0
SETTLE = 0.4


class Monitor(threading.Thread):
    """A bay's device: sends one ball after another, each until it is acknowledged, as the protocol says."""

    def __init__(self, address: str, bay: Bay, ending: threading.Event) -> None:
        super().__init__(daemon=True)
        self.address, self.bay, self.ending = address, bay, ending
        self.acknowledged: list[int] = []
        self.again = 0

    def run(self) -> None:
        """Until told to end."""
        balls = self.bay.endless(self.bay.device_id)
        with httpx.Client(
            base_url=self.address,
            trust_env=False,
            timeout=10,
            headers={"Authorization": f"Bearer {self.bay.token}"},
        ) as line:
            while not self.ending.is_set():
                self._send(line, next(balls))
                time.sleep(PACE)

    def _send(self, line: httpx.Client, ball: dict) -> None:
        while not self.ending.is_set():
            with contextlib.suppress(httpx.HTTPError):
                answer = line.post("/api/device/v1/shots", json={"shots": [ball]})
                if answer.status_code == 200:
                    result = answer.json()
                    assert result["stored"] + result["known"] == 1, result
                    self.acknowledged.append(ball["device_sequence"])
                    return
            self.again += 1
            time.sleep(0.05)


def attack(siege: Siege, kills: int, seed: int) -> Iterator[Measured]:
    """Kill a program, wait until it is back, repeat; then compare."""
    chance = random.Random(seed)  # noqa: S311
    took: dict[str, list[float]] = defaultdict(list)
    bays = [siege.bay(number) for number in range(BAYS)]
    ending = threading.Event()
    monitors = [Monitor(siege.running.address, bay, ending) for bay in bays]
    for monitor in monitors:
        monitor.start()
    for _ in range(kills):
        time.sleep(chance.uniform(0.05, SETTLE))
        programs = chance.choice(siege.running.supervisor.programs)
        _kill(programs.process.pid)
        kind = programs.name.split()[0]
        took[kind].append(seconds_until(lambda kind=kind: _is_back(siege, kind), PATIENCE))
    seconds_until(lambda: _is_back(siege, "database"), PATIENCE)
    ending.set()
    for monitor in monitors:
        monitor.join()
    yield _promised(siege, monitors, kills)
    yield _events(siege, bays)
    for kind, seconds in sorted(took.items()):
        yield Measured(
            what=f"{kind} killed {len(seconds)} times: back",
            figure=f"longest {max(seconds):.1f} s, half within {sorted(seconds)[len(seconds) // 2]:.1f} s",
            wanted=f"≤ {BACK[kind]:g} s",
            met=max(seconds) <= BACK[kind],
        )


def _kill(pid: int) -> None:
    with contextlib.suppress(ProcessLookupError):
        os.kill(pid, signal.SIGKILL)


def _is_back(siege: Siege, kind: str) -> bool:
    """Return whether a program runs again and everything that requests need answers."""
    programs = [k for k in siege.running.supervisor.programs if k.name.split()[0] == kind]
    if any(k.process.poll() is not None for k in programs):
        return False
    with contextlib.suppress(httpx.HTTPError, KeyError):
        result = httpx.get(f"{siege.running.address}/readyz", trust_env=False, timeout=10)
        return result.status_code == 200 and all(result.json()["checks"].values())
    return False


def _promised(siege: Siege, monitors: list[Monitor], kills: int) -> Measured:
    """Check that every acknowledged ball is stored once, and none twice."""
    lost = doubled = count = 0
    for monitor in monitors:
        rows = siege.access.ask(
            siege.access.name,
            f"SELECT device_sequence FROM shots_shot WHERE device_id = {monitor.bay.device_id}",
        )
        stored = [row[0] for row in rows]
        doubled += len(stored) - len(set(stored))
        lost += len(set(monitor.acknowledged) - set(stored))
        count += len(monitor.acknowledged)
    again = sum(m.again for m in monitors)
    return Measured(
        what=f"{kills} hard kills, {BAYS} bays, {count} balls acknowledged, {again} tries in vain",
        figure=f"{lost} lost, {doubled} doubled",
        wanted="0 lost, 0 doubled",
        met=lost == doubled == 0 and count > 0,
    )


def _events(siege: Siege, bays: list[Bay]) -> Measured:
    """Check that balls and events of every lesson are numbered without a gap."""
    gaps = 0
    for bay in bays:
        for table, column in (("shots_shot", "number"), ("lessons_lessonevent", "cursor")):
            [(count, first, last)] = siege.access.ask(
                siege.access.name,
                f"SELECT COUNT(*), MIN(`{column}`), MAX(`{column}`) FROM {table} WHERE lesson_id = {bay.lesson_id}",
            )
            gaps += int(count > 0 and last - first + 1 != count)
    return Measured(what="balls and events of every lesson in a row", figure=f"{gaps} gaps", wanted="0", met=gaps == 0)
