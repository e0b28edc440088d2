"""Speed as a coach feels it: keys and stations of a long lesson in a real browser."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import UTC, datetime

import httpx
import numpy as np

from bench.painted import page_of
from bench.target import Measured
from instavis_core.golfer import Golfer
from instavis_core.knowledge import vocabulary
from instavis_core.simulate import draw_golfer, simulate_shots

BALLS, BATCH = 300, 100
STATIONS = ("ask", "baseline", "check", "cause", "correct", "prove", "take-home")
KEYS = ("ArrowLeft", "ArrowLeft", "u", "1", "ArrowRight", "2", "3", "x", "x", "t", "z", "Home", "End", "Escape")
ROUNDS, PAUSE_MS, SETTLE_MS = 4, 250, 3000
MIN_MS = 16.0
"""The shortest event that the browser reports."""

LISTEN = f"""
() => {{
  window.felt = [];
  const told = (list) => list.getEntries().forEach((e) => e.name === 'keydown' && window.felt.push(e.duration));
  new PerformanceObserver(told).observe({{ type: 'event', durationThreshold: {MIN_MS:.0f} }});
  window.shown = [];
  addEventListener('keydown', (event) => {{
    if (!event.altKey) return;
    const begun = performance.now();
    const wanted = document.querySelectorAll('nav ol li')[Number(event.key) - 1].querySelector('a');
    const look = () => {{
      const there = wanted.getAttribute('aria-current') && document.querySelector('main').innerText.length > 20;
      // A message sent from the frame's own callback is answered right after the frame is painted.
      const channel = new MessageChannel();
      channel.port1.onmessage = () => there && window.shown.push(performance.now() - begun);
      channel.port2.postMessage(0);
      if (!there) requestAnimationFrame(look);
    }};
    requestAnimationFrame(look);
  }}, true);
}}
"""


def felt(client: httpx.Client, address: str, lesson: int, bay: tuple[str, str]) -> Iterator[Measured]:
    """Measure how long keys and changes of station take until they are painted, in a lesson of three hundred balls."""
    _fill(client, address, lesson, *bay)
    with page_of(client, address) as page:
        page.goto(f"/lessons/{lesson}/prove")
        page.get_by_label("Balls", exact=True).wait_for()
        page.wait_for_timeout(SETTLE_MS)
        page.evaluate(LISTEN)
        for _ in range(ROUNDS):
            for key in KEYS:
                page.keyboard.press(key)
                page.wait_for_timeout(PAUSE_MS)
        keys = page.evaluate("() => window.felt")
        changes = 0
        for _ in range(ROUNDS):
            for number in range(1, len(STATIONS) + 1):
                page.keyboard.press(f"Alt+Digit{number}")
                page.wait_for_timeout(SETTLE_MS)
                changes += 1
        shown = page.evaluate("() => window.shown")
    pressed = len(KEYS) * ROUNDS
    waits = [*keys, *[MIN_MS] * (pressed - len(keys))]
    yield _measured(f"key to paint on Prove, {BALLS} balls ({pressed} keys)", waits, 100)
    # The first time a station is opened, it queries the server; afterwards the data is there.
    yield _measured(
        f"to another station, painted, {BALLS} balls ({len(shown)} of {changes})",
        shown,
        150,
        all_there=len(shown) == changes,
    )


def _measured(what: str, waits: list[float], most: float, all_there: bool = True) -> Measured:
    p50, p95 = np.percentile(waits, [50, 95]) if waits else (float("inf"),) * 2
    return Measured(
        what=what,
        figure=f"p50 {p50:.0f} ms, p95 {p95:.0f} ms",
        wanted=f"p95 ≤ {most:.0f} ms",
        met=bool(p95 <= most and all_there),
    )


def _fill(client: httpx.Client, address: str, lesson: int, token: str, hand: str) -> None:
    """Send balls from the bay's device until the lesson has this many."""
    there = client.get(f"/api/v1/lessons/{lesson}").json()["ball_count"]
    club, rng = vocabulary().clubs["7i"], np.random.default_rng(5)
    sim = draw_golfer(rng, {"early-extension": 0.8}, Golfer(hand, 12.0), club)
    balls = simulate_shots(sim, club, max(0, BALLS - there), rng, datetime.now(UTC))
    bearer = {"Authorization": f"Bearer {token}"}
    with httpx.Client(base_url=address, trust_env=False, timeout=60, headers=bearer) as line:
        for first in range(0, len(balls), BATCH):
            shots = [{**b, "device_sequence": 10**6 + first + i} for i, b in enumerate(balls[first : first + BATCH])]
            line.post("/api/device/v1/shots", json={"shots": shots}).raise_for_status()
