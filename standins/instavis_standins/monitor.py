"""A stand-in launch monitor: a simulated golfer whose balls are sent to a server as a device would send them."""

from __future__ import annotations

import argparse
import contextlib
import signal
import sys
import time
from pathlib import Path
from typing import Any

from instavis_standins.dialects import dialects
from instavis_standins.golfer import Controls, Mat, golfer_arguments, golfer_of
from instavis_standins.page import control_page
from instavis_standins.protocol import DeviceLink, TokenRefused
from instavis_standins.writing import SHAPES, Outlet

POLL_SECONDS = 1.5
PAUSE_SECONDS = 0.1
MAX_IN_A_BATCH = 100


def main(arguments: list[str] | None = None) -> int:
    """Run until the requested number of balls is sent, or forever."""
    options = _parser().parse_args(arguments)
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    link = _outlet(options)
    controls = Controls(player=golfer_of(options), pace=options.pace)
    page = control_page(controls, options.page) if options.page is not None else contextlib.nullcontext()
    try:
        with page as address:
            if address:
                print(f"stand-in monitor: controls at {address}", flush=True)
            if isinstance(link, Outlet):
                print(f"stand-in monitor: writes to {link.place}", flush=True)
            Monitor(link, controls, options).run()
    except TokenRefused:
        print("stand-in monitor: the server refused this token.", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 0
    return 0


class Monitor:
    """Hits, numbers, stores and sends balls; unconfirmed ones are sent again."""

    def __init__(self, link: DeviceLink | Outlet, controls: Controls, options: argparse.Namespace) -> None:
        self.link = link
        self.controls = controls
        self.options = options
        self.mat = Mat(controls.player)
        # A restarted device must not use a number twice: it starts from the clock.
        self.sequence = int(time.time() * 1000)
        self.unsent: list[dict[str, Any]] = []

    def run(self) -> None:
        """Run until ``count`` balls are hit and sent."""
        controls, count = self.controls, self.options.count
        while count is None or controls.hit < count or self.unsent:
            if count is None or controls.hit < count:
                self._hit_one()
            if self.unsent and not controls.line_down:
                self._send()
            time.sleep(PAUSE_SECONDS if controls.paused else controls.pace)

    def _hit_one(self) -> None:
        controls = self.controls
        if controls.paused:
            return
        if self.options.only_listening and not controls.line_down and not self.link.hello()["listening"]:
            time.sleep(POLL_SECONDS)
            return
        with controls.lock:
            if controls.player != self.mat.player:
                self.mat = Mat(controls.player)
        ball = self.mat.hit()
        controls.swung(ball["shot_id"], self.mat.severity)
        self.unsent.append({**ball, "device_sequence": self.sequence})
        self.sequence += 1
        controls.hit += 1
        controls.waiting = len(self.unsent)

    def _send(self) -> None:
        controls = self.controls
        batch = self.unsent[:MAX_IN_A_BATCH]
        rubbish = [{"device_sequence": self.sequence + 10**9, "path_deg": "sideways"}] if self._due("nonsense") else []
        self.link.send(rubbish + batch)
        if self._due("double"):
            self.link.send(batch)
        self.unsent = self.unsent[len(batch) :]
        controls.sent += len(batch)
        controls.waiting = len(self.unsent)

    def _due(self, what: str) -> bool:
        """Return whether the next batch goes wrong: requested by the page, or every n-th."""
        every = getattr(self.options, f"{what}_every")
        asked = {"double": "doubles", "nonsense": "nonsense"}[what]
        with self.controls.lock:
            left = getattr(self.controls, asked)
            if left:
                setattr(self.controls, asked, left - 1)
        return bool(left) or bool(every and self.controls.hit % every == 0)


def _outlet(options: argparse.Namespace) -> DeviceLink | Outlet:
    if options.shape:
        return SHAPES[options.shape](dialects()[options.dialect], options.to or "0")
    if not options.server or not (options.token or options.token_file):
        raise SystemExit("stand-in monitor: --server and --token (or --token-file) are required, or --as and --to.")
    token = options.token or Path(options.token_file).read_text().strip()
    return DeviceLink(server=options.server.rstrip("/"), token=token)


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="instavis-monitor", description=__doc__)
    parser.add_argument("--server", default="", help="address of the server, http://127.0.0.1:8000")
    token = parser.add_mutually_exclusive_group()
    token.add_argument("--token")
    token.add_argument("--token-file")
    parser.add_argument("--as", dest="shape", choices=SHAPES, help="write files or streams like other monitors")
    parser.add_argument("--to", default="", help="file or folder to write to, or port to send on")
    parser.add_argument("--dialect", choices=dialects(), default="short-english", help="columns, units and language")
    golfer_arguments(parser)
    parser.add_argument("--pace", type=float, default=6.0, help="seconds between balls")
    parser.add_argument("--count", "--shots", type=int, default=None, help="balls to send; otherwise no limit")
    parser.add_argument("--only-listening", action="store_true", help="hit only while a lesson uses the bay")
    parser.add_argument("--double-every", type=int, default=0, help="send every n-th ball twice")
    parser.add_argument("--nonsense-every", type=int, default=0, help="send nonsense before every n-th ball")
    parser.add_argument("--page", type=int, default=None, help="port of a control page; 0 for any free port")
    return parser


if __name__ == "__main__":
    sys.exit(main())
