"""The golfer on the stand-in's mat: the simulated golfer, the club and the pace, changeable while it runs."""

from __future__ import annotations

import argparse
import threading
import uuid
from collections import OrderedDict
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime
from typing import Any

import numpy as np

from instavis_core.errors import InputError
from instavis_core.golfer import HANDS, Golfer
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.message import Message
from instavis_core.shots import read_club
from instavis_core.simulate import SimulatedGolfer, draw_golfer, simulate_shots

MAX_SWINGS = 500
EFFORTS = {"done": "made the move", "partly": "made half of the move", "missed": "did not make the move"}


@dataclass(frozen=True, kw_only=True)
class Player:
    """Everything that determines the balls; one value draws one golfer."""

    faults: tuple[str, ...] = ()
    severity: float = 0.85
    hand: str = "right"
    handicap: float = 14.0
    club: str = "7i"
    seed: int = 1
    learn: bool = False
    aim: float = 0.0


def golfer_arguments(parser: argparse.ArgumentParser) -> None:
    """Add the options that describe a golfer, the same for every stand-in of a bay."""
    faults = ", ".join(c.key for c in shipped_knowledge().of_kind("fault"))
    parser.add_argument("--fault", action="append", default=[], help=f"repeatable; one of {faults}")
    parser.add_argument("--severity", type=float, default=0.85)
    parser.add_argument("--hand", choices=HANDS, default="right")
    parser.add_argument("--handicap", type=float, default=14.0)
    parser.add_argument("--club", default="7i")
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--learn", action="store_true", help="the golfer tries the new movement and learns it")


def golfer_of(options: argparse.Namespace) -> Player:
    """Return the golfer that the options describe."""
    faults = tuple(options.fault)
    return Player(
        faults=faults,
        severity=options.severity,
        hand=options.hand,
        handicap=options.handicap,
        club=options.club,
        seed=options.seed,
        learn=options.learn,
    )


@dataclass(kw_only=True)
class Controls:
    """What a person may change while the stand-in runs; guarded by its lock.

    ``paused`` hits no balls. ``line_down`` keeps hitting and stores the balls until the connection is back. ``doubles``
    and ``nonsense`` are how many of the next balls are sent twice or with garbage before them. ``swings`` are the
    strengths of each fault on the newest balls, by ball key: the bay's belt and mat ask for them.
    """

    player: Player
    pace: float = 6.0
    paused: bool = False
    line_down: bool = False
    doubles: int = 0
    nonsense: int = 0
    hit: int = 0
    sent: int = 0
    waiting: int = 0
    swings: OrderedDict[str, dict[str, float]] = field(default_factory=OrderedDict)
    lock: threading.Lock = field(default_factory=threading.Lock)

    def swung(self, ball: str, severity: dict[str, float]) -> None:
        """Remember what the body did on a ball."""
        with self.lock:
            self.swings[ball] = dict(severity)
            while len(self.swings) > MAX_SWINGS:
                self.swings.popitem(last=False)

    def change(self, values: dict[str, Any]) -> None:
        """Apply changes from a page or a command.

        Raises
        ------
        InputError
            For a value that makes no golfer.
        """
        player = {k: v for k, v in values.items() if k in Player.__dataclass_fields__}
        if "hand" in player and player["hand"] not in HANDS:
            raise InputError("hand", player["hand"], Message("common-one", known=", ".join(HANDS)))
        with self.lock:
            changed = replace(self.player, **player)
            Mat(changed)  # refuses unknown faults and clubs
            self.player = changed
            self.pace = min(max(float(values.get("pace", self.pace)), 0.2), 120.0)
            for name in ("paused", "line_down"):
                setattr(self, name, bool(values.get(name, getattr(self, name))))
            for name in ("doubles", "nonsense"):
                setattr(self, name, min(max(int(values.get(name, getattr(self, name))), 0), 50))


class Mat:
    """One golfer who hits balls as shot records of a monitor."""

    def __init__(self, player: Player) -> None:
        self.player = player
        self.rng = np.random.default_rng(player.seed)
        self.club = read_club(player.club)
        golfer = Golfer(player.hand, player.handicap)
        self.golfer: SimulatedGolfer = draw_golfer(
            self.rng, dict.fromkeys(player.faults, player.severity), golfer, self.club
        )
        self.severity = dict(self.golfer.severity)  # of the last swing

    def hit(self) -> dict[str, Any]:
        """Return the next ball.

        A monitor sees the ball, not the body, so the golfer's effort is only a note.
        """
        mark = self.golfer.tries(self.rng) if self.player.learn else None
        self.severity = self.golfer.severity_now(mark)
        marks = [mark] if mark else None
        (shot,) = simulate_shots(self.golfer, self.club, 1, self.rng, datetime.now(UTC), marks, aim_deg=self.player.aim)
        shot.pop("movement", None)
        shot.pop("turf", None)
        # The seed repeats the swings, but every ball has its own key.
        shot["shot_id"] = str(uuid.uuid4())
        if mark:
            shot["note"] = f"stand-in golfer {EFFORTS[mark]}"
        return shot
