"""A stand-in motion belt or pressure mat: records the swing of every ball in its bay and sends it.

It knows only the public protocol. The server tells it which balls the bay's lesson received, and it sends what a body
would have shown. It asks the bay's stand-in monitor what the body did, because that golfer may change while it runs;
without a monitor it simulates the same golfer (same seed).
"""

from __future__ import annotations

import argparse
import signal
import sys
import time
from collections.abc import Callable
from pathlib import Path

import httpx
import numpy as np

from instavis_core.simulate.recording import MOTION_SERIES, PRESSURE_SERIES, record_swing
from instavis_standins.golfer import Mat, Player, golfer_arguments, golfer_of
from instavis_standins.page import SWING
from instavis_standins.protocol import DeviceLink, TokenRefused

POLL_SECONDS = 0.8
KINDS = {"belt": MOTION_SERIES, "mat": PRESSURE_SERIES}
NAMES = {"belt": "stand-in motion belt", "mat": "stand-in pressure mat"}


class Recorder:
    """Follows the balls of a bay and sends one recording for each ball."""

    def __init__(
        self,
        link: DeviceLink,
        player: Player,
        kind: str,
        clock: Callable[[], float] = time.time,
    ) -> None:
        self.link = link
        # What the body did on a ball, if known.
        self.asked: Callable[[str], dict[str, float] | None] = lambda _: None
        self.series = KINDS[kind]
        self.golfer = Mat(player)
        self.rng = np.random.default_rng(player.seed + 1)
        # A restarted device must not use a number twice: it starts from the clock.
        self.sequence = int(clock() * 1000)
        self.lesson: int | None = None
        self.newest: int | None = None
        self.sent = 0

    def follow(self) -> None:
        """Send the recordings of the balls that arrived since the last call."""
        result = self.link.hello()
        balls = result["balls"]
        if self.newest is None or balls < self.newest or result["lesson"] != self.lesson:
            self.newest, self.lesson = balls, result["lesson"]  # balls hit before the start have no recording
        new = balls - self.newest
        # After many balls at once only the newest keys are sent; an earlier ball is matched by its time.
        keys = ([""] * new + result["recent_shot_ids"])[-new:] if new else []
        for key in keys:
            self._send(key)
        self.newest = balls

    def _send(self, shot_id: str) -> None:
        self.golfer.hit()
        did = self.asked(shot_id) if shot_id else None
        swing = record_swing(self.golfer.severity if did is None else did, self.rng, self.series)
        series = {"time_s": swing.time, **swing.columns}
        recording = {
            "device_sequence": self.sequence,
            "shot_id": shot_id,
            "series": {name: np.round(values, 4).tolist() for name, values in series.items()},
        }
        self.link.send_recordings([recording])
        self.sequence += 1
        self.sent += 1


def swing_reported_by(page: str) -> Callable[[str], dict[str, float] | None]:
    """Ask the page of a stand-in monitor what its golfer did on a ball; None for a ball it did not hit."""
    client = httpx.Client(base_url=page, timeout=2, trust_env=False)

    def ask(ball: str) -> dict[str, float] | None:
        try:
            answer = client.get(f"{SWING}{ball}")
        except httpx.HTTPError:
            return None
        return answer.json() if answer.status_code == httpx.codes.OK else None

    return ask


def main(kind: str, arguments: list[str] | None = None) -> int:
    """Run until the requested number of recordings is sent, or forever."""
    options = _parser(kind).parse_args(arguments)
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    token = options.token or Path(options.token_file).read_text().strip()
    link = DeviceLink(server=options.server.rstrip("/"), token=token)
    recorder = Recorder(link, golfer_of(options), kind)
    if options.monitor:
        recorder.asked = swing_reported_by(options.monitor)
    try:
        recorder.follow()
        print(f"{NAMES[kind]}: following the bay.", flush=True)
        while options.count is None or recorder.sent < options.count:
            recorder.follow()
            time.sleep(POLL_SECONDS)
    except TokenRefused:
        print(f"{NAMES[kind]}: the server refuses this token.", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 0
    return 0


def _parser(kind: str) -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog=f"instavis-{kind}", description=__doc__)
    parser.add_argument("--server", required=True, help="address of the server, http://127.0.0.1:8000")
    token = parser.add_mutually_exclusive_group(required=True)
    token.add_argument("--token")
    token.add_argument("--token-file")
    golfer_arguments(parser)
    parser.add_argument("--monitor", help="address of the stand-in monitor's page; its golfer is recorded")
    parser.add_argument("--count", type=int, default=None, help="recordings to send; otherwise no limit")
    return parser
