"""A stand-in launch monitor: a simulated golfer whose balls go to a server as a device would send them."""

from __future__ import annotations

import argparse
import signal
import sys
import time
import uuid
from datetime import UTC, datetime
from pathlib import Path

import numpy as np

from instavis_core.golfer import HANDS, Golfer
from instavis_core.knowledge import load_knowledge
from instavis_core.shots import read_club
from instavis_core.simulate import draw_golfer, simulate_shots
from instavis_standins.protocol import DeviceLink, TokenRefused

POLL_SECONDS = 1.5
EFFORTS = {"done": "made the move", "partly": "made half of the move", "missed": "did not make the move"}


def main(arguments: list[str] | None = None) -> int:
    """Run until the wanted number of balls is sent, or for ever."""
    options = _parser().parse_args(arguments)
    signal.signal(signal.SIGTERM, lambda *_: sys.exit(0))
    token = options.token or Path(options.token_file).read_text().strip()
    link = DeviceLink(options.server.rstrip("/"), token)
    try:
        _run(link, options)
    except TokenRefused:
        print("stand-in monitor: the server refuses this token.", file=sys.stderr)
        return 1
    except KeyboardInterrupt:
        return 0
    return 0


def _run(link: DeviceLink, options: argparse.Namespace) -> None:
    rng = np.random.default_rng(options.seed)
    club = read_club(options.club)
    sim = draw_golfer(rng, dict.fromkeys(options.fault, options.severity), Golfer(options.hand, options.handicap), club)
    # A restarted device must not use a number twice: it starts from the clock.
    sequence = int(time.time() * 1000)
    sent = 0
    while options.count is None or sent < options.count:
        if options.only_listening and not link.hello()["listening"]:
            time.sleep(POLL_SECONDS)
            continue
        mark = sim.tries(rng) if options.learn else None
        shot = simulate_shots(sim, club, 1, rng, datetime.now(UTC), [mark] if mark else None)[0]
        # A monitor sees the ball, not the body: what the golfer did is told as a note only.
        shot.pop("movement", None)
        shot.pop("turf", None)
        # The seed repeats the swings; every ball is a ball of its own all the same.
        shot["shot_id"] = str(uuid.uuid4())
        if mark:
            shot["note"] = f"stand-in golfer {EFFORTS[mark]}"
        batch = [{**shot, "device_sequence": sequence}]
        if options.nonsense_every and sent % options.nonsense_every == options.nonsense_every - 1:
            batch.insert(0, {"device_sequence": sequence + 10**9, "path_deg": "sideways"})
        link.send(batch)
        if options.double_every and sent % options.double_every == options.double_every - 1:
            link.send(batch)
        sequence += 1
        sent += 1
        time.sleep(options.pace)


def _parser() -> argparse.ArgumentParser:
    parser = argparse.ArgumentParser(prog="instavis-monitor", description=__doc__)
    parser.add_argument("--server", required=True, help="address of the server, http://127.0.0.1:8000")
    token = parser.add_mutually_exclusive_group(required=True)
    token.add_argument("--token")
    token.add_argument("--token-file")
    faults = ", ".join(c.key for c in load_knowledge().of_kind("fault"))
    parser.add_argument("--fault", action="append", default=[], help=f"repeatable; one of {faults}")
    parser.add_argument("--severity", type=float, default=0.85)
    parser.add_argument("--hand", choices=HANDS, default="right")
    parser.add_argument("--handicap", type=float, default=14.0)
    parser.add_argument("--club", default="7i")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--pace", type=float, default=6.0, help="seconds between balls")
    parser.add_argument("--count", type=int, default=None, help="balls to send; for ever when left out")
    parser.add_argument("--learn", action="store_true", help="the golfer tries the new movement and learns it")
    parser.add_argument("--only-listening", action="store_true", help="hit only while a lesson listens to the bay")
    parser.add_argument("--double-every", type=int, default=0, help="send every n-th ball twice")
    parser.add_argument("--nonsense-every", type=int, default=0, help="send nonsense before every n-th ball")
    return parser


if __name__ == "__main__":
    sys.exit(main())
