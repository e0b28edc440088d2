"""Films beside balls: whether measuring a film delays a ball, and how long it takes."""

from __future__ import annotations

import threading
import time
from collections.abc import Iterator
from pathlib import Path

import numpy as np
from bench.target import Measured

from attack import load
from attack.siege import Bay, Siege
from launcher.paths import ROOT

CLIP = ROOT / "standins" / "instavis_standins" / "clips" / "bero-down-the-line.mp4"
SLOWER, FILM_SECONDS = 0.10, 12.0
PATIENCE = 120.0


def attack(siege: Siege, bays: int, every: float, seconds: int) -> Iterator[Measured]:
    """Send balls at an even pace without films, then while one film after another is measured."""
    places = [siege.bay(number) for number in range(bays)]
    alone = load.paced(siege, places, every, seconds)
    filming = _Filming(siege, siege.bay(bays))
    filming.start()
    beside = load.paced(siege, [siege.bay(bays + 1 + number) for number in range(bays)], every, seconds)
    filming.ending.set()
    filming.join()
    before, after = (float(np.percentile(run.heard, 95)) for run in (alone, beside))
    yield Measured(
        what=f"ball to verdict, {bays} bays, {len(beside.heard)} balls, while {len(filming.took)} films are measured",
        figure=f"p95 {before:.0f} ms without, {after:.0f} ms with ({100 * (after / before - 1):+.0f} %)",
        wanted=f"within {100 * SLOWER:g} %",
        met=bool(after <= (1 + SLOWER) * before),
    )
    longest = max(filming.took, default=float("inf"))
    yield Measured(
        what="a film of two seconds, sent until it is measured, beside the balls",
        figure=f"p50 {np.median(filming.took) if filming.took else longest:.1f} s, longest {longest:.1f} s",
        wanted=f"≤ {FILM_SECONDS:g} s",
        met=longest <= FILM_SECONDS,
    )


class _Filming(threading.Thread):
    """Sends a film, waits until it is measured, and sends the next."""

    def __init__(self, siege: Siege, bay: Bay, clip: Path = CLIP) -> None:
        super().__init__(daemon=True)
        self.siege, self.lesson, self.film = siege, bay.lesson_id, clip.read_bytes()
        self.took: list[float] = []
        self.ending = threading.Event()

    def run(self) -> None:
        """Run until stopped; unfinished films are not counted."""
        while not self.ending.is_set():
            begun, known = time.monotonic(), self._measured()
            files = {"file": ("swing.mp4", self.film, "video/mp4")}
            self.siege.head.post(f"/api/v1/lessons/{self.lesson}/clips", files=files).raise_for_status()
            while self._measured() == known and time.monotonic() - begun < PATIENCE:
                if self.ending.wait(0.2):
                    return
            self.took.append(time.monotonic() - begun)

    def _measured(self) -> int:
        """Read directly from the database, because the web processes are what is measured."""
        access = self.siege.access
        asked = f"SELECT COUNT(*) FROM recordings_recording WHERE lesson_id = {self.lesson:d}"  # noqa: S608
        return int(access.ask(access.name, asked)[0][0])
