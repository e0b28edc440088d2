"""Balls that do not show the swing's pattern, excluded by a stated rule and never deleted."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from instavis_core.impact.edges import FACE, HEEL_EDGE, HOSEL, LEADING_EDGE, MISSED, TOE_EDGE, TOP_EDGE, contact_of
from instavis_core.knowledge import vocabulary
from instavis_core.message import Message
from instavis_core.reading.robust import median, robust_spread
from instavis_core.reading.words import say
from instavis_core.shots import Block

STRIKE_LIMIT_MM = 24.0  # farther from the block's usual strike than this is a mishit (assumption)
PARTS = {
    HOSEL: Message("baseline-by-hosel"),
    TOE_EDGE: Message("baseline-by-toe-edge"),
    HEEL_EDGE: Message("baseline-by-heel-edge"),
    TOP_EDGE: Message("baseline-by-top-edge"),
    LEADING_EDGE: Message("baseline-by-leading-edge"),
    MISSED: Message("baseline-nothing-passed-club"),
}
SMASH_DROP = 0.14  # ball speed over club speed this far below the block's usual (assumption)
OUTLYING = 4.5  # robust spreads from the block's center
OUTLYING_FROM = 8  # balls needed to judge that
BY_COACH = "coach"  # the rule's name for a ball that the coach excluded
OUTLYING_METRICS = ("path_deg", "face_deg", "attack_deg", "launch_direction_deg")


@dataclass(frozen=True)
class Mishit:
    """An excluded ball: its position in the block from 0, the rule and a sentence."""

    index: int
    rule: str
    reason: Message


def find_mishits(block: Block, by_spread: bool = True) -> list[Mishit]:
    """Apply the rules in order; the first that fits names the ball.

    Without ``by_spread`` only turf marks and strike count: where balls are meant to change, an unusual ball is not a
    mishit.
    """
    found = {}
    for i, turf in enumerate(block.turf):
        if turf is not None and turf != "clean":
            found[i] = Mishit(i, "turf", Message("baseline-marked", turf=turf))
    _strike(block, found)
    if by_spread:
        _smash(block, found)
        _outlying(block, found)
    return [found[i] for i in sorted(found)]


def _strike(block: Block, found: dict[int, Mishit]) -> None:
    toe, high = (np.nan_to_num(block.column(m)) for m in ("strike_toe_mm", "strike_high_mm"))
    part = contact_of(toe, high, block.club).part
    for i in np.flatnonzero(part != FACE):
        reason = Message("baseline-struck-mm-toe-mm-high", parts=PARTS[part[i]], toe=toe[i], high=high[i])
        found.setdefault(int(i), Mishit(int(i), "strike", reason))
    if np.isnan(block.column("strike_toe_mm")).all():
        return
    # A golfer who always hits the toe has a pattern, not mishits: distance counts from the usual strike.
    usual = []
    for metric in ("strike_toe_mm", "strike_high_mm"):
        known = block.column(metric)[~np.isnan(block.column(metric))]
        usual.append(median(known) if known.size >= 3 else 0.0)
    away = np.hypot(toe - usual[0], high - usual[1])
    for i in np.flatnonzero((away > STRIKE_LIMIT_MM) & ~np.isnan(block.column("strike_toe_mm"))):
        reason = Message(
            "baseline-struck-mm-usual-strike-block",
            away=away[i],
            strike_limit_mm=STRIKE_LIMIT_MM,
        )
        found.setdefault(int(i), Mishit(int(i), "strike", reason))


def _smash(block: Block, found: dict[int, Mishit]) -> None:
    smash = block.column("ball_speed_mps") / block.column("club_speed_mps")
    if np.count_nonzero(~np.isnan(smash)) < 3:
        return
    usual = median(smash[~np.isnan(smash)])
    for i in np.flatnonzero(smash < (1 - SMASH_DROP) * usual):
        reason = Message("baseline-ball-speed-below-what-club", smash=100 * (1 - smash[i] / usual))
        found.setdefault(int(i), Mishit(int(i), "ball-speed", reason))


def _outlying(block: Block, found: dict[int, Mishit]) -> None:
    for metric in OUTLYING_METRICS:
        values = block.column(metric)
        good = values[~np.isnan(values)]
        if good.size < OUTLYING_FROM:
            continue
        spread = max(robust_spread(good), 0.5)
        distance = np.abs(values - median(good)) / spread
        for i in np.flatnonzero(np.nan_to_num(distance) > OUTLYING):
            reason = Message(
                "baseline-unlike-other-balls-times-their",
                label=vocabulary().metrics[metric].label,
                value=say(metric, float(values[i])),
                distance=distance[i],
            )
            found.setdefault(int(i), Mishit(int(i), "outlying", reason))
