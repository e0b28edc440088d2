"""Is a mapped table plausible? A wrong unit or side contradicts the physics."""

from __future__ import annotations

from collections.abc import Callable, Sequence

import numpy as np

from instavis_core.flight import fly
from instavis_core.golfer import Golfer
from instavis_core.message import Message, joined
from instavis_core.shots import Shot

SMASH = (0.85, 1.56)
CARRY = (0.72, 1.35)
MIN_BALLS = 3


def table_doubts(shots: Sequence[Shot], golfer: Golfer) -> list[Message]:
    """Return sentences on what cannot be right with the current mapping; empty if everything is plausible."""
    found = []
    ratio = _middle(shots, "ball_speed_mps", "club_speed_mps", lambda a, b: a / b)
    if ratio is not None and not SMASH[0] <= ratio <= SMASH[1]:
        found.append(Message("files-ball-speed-times-club-speed", ratio=ratio))
    flown = _flown(shots)
    if flown is not None and not CARRY[0] <= flown <= CARRY[1]:
        found.append(
            Message(
                ("files-balls-carry-times-what-their"),
                flown=flown,
            )
        )
    for name, other, words in (
        ("launch_direction_deg", "face_deg", Message("files-start-direction-face-angle")),
        ("side_m", "launch_direction_deg", Message("files-side-start-direction")),
    ):
        together = _correlation(shots, name, other)
        if together is not None and together < -0.3:
            found.append(Message("files-point-opposite-ways-one-them", words=words))
    hands = {s.hand for s in shots if s.hand}
    if hands - {golfer.hand}:
        found.append(
            Message(
                "files-file-says-handed-but-student",
                join=joined(Message(f"common-{h}") for h in sorted(hands)),
                hand=Message(f"common-{golfer.hand}"),
            )
        )
    return found


def _columns(shots: Sequence[Shot], *names: str) -> np.ndarray:
    rows = [[s.values[n] for n in names] for s in shots if all(n in s.values for n in names)]
    return np.array(rows, float).reshape(-1, len(names))


def _middle(
    shots: Sequence[Shot], first: str, second: str, of: Callable[[np.ndarray, np.ndarray], np.ndarray]
) -> float | None:
    table = _columns(shots, first, second)
    return float(np.median(of(table[:, 0], table[:, 1]))) if len(table) >= MIN_BALLS else None


def _flown(shots: Sequence[Shot]) -> float | None:
    table = _columns(shots, "ball_speed_mps", "launch_angle_deg", "spin_rpm", "carry_m")
    table = table[(table[:, 3] > 20) & (table[:, 1] > 3)]
    if len(table) < MIN_BALLS:
        return None
    return float(np.median(table[:, 3] / np.maximum(fly(table[:, 0], table[:, 1], 0, table[:, 2], 0).carry_m, 1)))


def _correlation(shots: Sequence[Shot], first: str, second: str) -> float | None:
    table = _columns(shots, first, second)
    if len(table) < 8 or table.std(axis=0).min() < 1e-9:
        return None
    return float(np.corrcoef(table.T)[0, 1])
