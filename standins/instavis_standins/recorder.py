"""A stand-in motion belt or pressure mat: records the swing behind every ball of its bay and sends it.

It knows the public protocol only. It hears from the server how many balls the bay's lesson has seen, hits the same
golfer's swings along with the monitor (same golfer, same seed), and sends what a body would have shown.
"""

from __future__ import annotations

import argparse
import signal
import sys
import time
from collections.abc import Callable
from pathlib import Path

import numpy as np

from instavis_core.simulate.recording import MOTION_SERIES, PRESSURE_SERIES, record_swing
from instavis_standins.golfer import Mat, Player, golfer_arguments, golfer_of
from instavis_standins.protocol import DeviceLink, TokenRefused

POLL_SECONDS = 0.8
KINDS = {"belt": MOTION_SERIES, "mat": PRESSURE_SERIES}
NAMES = {"belt": "stand-in motion belt", "mat": "stand-in pressure mat"}


class Recorder:
    """Follows the balls of a bay and sends one recording a ball."""

    def __init__(self, link: DeviceLink, player: Player, kind: str, clock: Callable[[], float] = time.time) -> None:
        self.link = link
        self.series = KINDS[kind]
        self.golfer = Mat(player)
        self.rng = np.random.default_rng(player.seed + 1)
        # A restarted device must not use a number twice: it starts from the clock.
        self.sequence = int(clock() * 1000)
        self.seen: int | None = None
        self.sent = 0

    def follow(self) -> None:
        """Look once: send the recordings of the balls that came since the last look."""
        told = self.link.hello()
        balls = told["balls"]
        if self.seen is None or balls < self.seen:
            self.seen = balls  # balls hit before we came have no recording
        for place in range(self.seen, balls):
            # Only the newest ball is known by its key; one that came in between is matched by its time.
            self._send(told["last_shot_id"] if place == balls - 1 else "")
        self.seen = balls

    def _send(self, shot_id: str) -> None:
        self.golfer.hit()
        swing = record_swing(self.golfer.severity, self.rng, self.series)
        series = {"time_s": swing.time, **swing.columns}
        recording = {
            "device_sequence": self.sequence,
            "shot_id": shot_id,
            "series": {name: np.round(values, 4).tolist() for name, values in series.items()},
        }
        self.link.send_recordings([recording])
        self.sequence += 1
        self.sent += 1


def main(kind: str, arguments: list[str] | None = None) -> int:
    """Run until the wanted number of recordings is sent, or for ever."""
    options = _parser(kind).parse_args(arguments)
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    token = options.token or Path(options.token_file).read_text().strip()
    recorder = Recorder(DeviceLink(server=options.server.rstrip("/"), token=token), golfer_of(options), kind)
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
    parser.add_argument("--count", type=int, default=None, help="recordings to send; for ever when left out")
    return parser
