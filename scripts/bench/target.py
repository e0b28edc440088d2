"""A measured target."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass


@dataclass(frozen=True, kw_only=True)
class Measured:
    """What was measured, the result, the target, and whether it is met."""

    what: str
    figure: str
    wanted: str
    met: bool

    def row(self) -> str:
        """Return one line of the printed table."""
        return f"| {self.what} | {self.figure} | {self.wanted} | {'met' if self.met else 'MISSED'} |"


HEADER = "| what | measured | target | |\n|---|---|---|---|"


def seconds(call: Callable[[], object], repeats: int = 7) -> float:
    """Median wall time of a call after one to warm up [s]."""
    call()
    times = []
    for _ in range(repeats):
        start = time.perf_counter()
        call()
        times.append(time.perf_counter() - start)
    return sorted(times)[len(times) // 2]
