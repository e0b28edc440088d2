"""The stand-in belt and mat: one recording per ball, matching the golfer's swing."""

from __future__ import annotations

import numpy as np
import pytest

from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.recordings import find_moments, propose, swing_of_columns
from instavis_standins.golfer import Controls, Mat, Player
from instavis_standins.page import control_page
from instavis_standins.recorder import Recorder, swing_reported_by


class Bay:
    """A server whose lesson has so many balls."""

    def __init__(self) -> None:
        self.balls, self.lesson = 0, 1
        self.sent: list[dict] = []

    def hello(self):
        return {
            "lesson": self.lesson,
            "balls": self.balls,
            "recent_shot_ids": [f"ball-{n}" for n in range(1, self.balls + 1)][-2:],
        }

    def send_recordings(self, recordings):
        self.sent += recordings


def recorder(kind="belt", **player) -> tuple[Recorder, Bay]:
    bay = Bay()
    return Recorder(bay, Player(**player), kind, clock=lambda: 5.0), bay


def test_earlier_balls_get_no_recording():
    machine, bay = recorder()
    bay.balls = 7
    machine.follow()
    assert bay.sent == []
    bay.balls = 8
    machine.follow()
    assert [r["shot_id"] for r in bay.sent] == ["ball-8"]


def test_every_ball_gets_one_numbered_recording():
    machine, bay = recorder()
    for balls in (0, 1, 1, 4, 4):
        bay.balls = balls
        machine.follow()
    assert [r["device_sequence"] for r in bay.sent] == [5000, 5001, 5002, 5003]
    # Only two are told by their key here; whatever came before them is matched by its time.
    assert [r["shot_id"] for r in bay.sent] == ["ball-1", "", "ball-3", "ball-4"]


def test_new_lesson_starts_with_its_own_balls():
    machine, bay = recorder()
    for lesson, balls in ((1, 5), (2, 2), (2, 3), (3, 9), (3, 10)):
        bay.lesson, bay.balls = lesson, balls
        machine.follow()
    assert [r["shot_id"] for r in bay.sent] == ["ball-3", "ball-10"]


@pytest.mark.parametrize(
    ("kind", "fault", "check", "grade"),
    [("belt", "hip-stall", "pelvis-open-impact", "facing-ball"), ("mat", "hang-back", "pressure-shift", "never")],
)
def test_recordings_show_the_golfers_fault(kind, fault, check, grade):
    machine, bay = recorder(kind, faults=(fault,), severity=1.0)
    machine.follow()
    bay.balls = 6
    machine.follow()
    result = []
    for sent in bay.sent:
        swing = swing_of_columns({n: np.array(v) for n, v in sent["series"].items()})
        result += [p.grade for p in propose(shipped_knowledge(), swing, find_moments(swing)) if p.check == check]
    assert result.count(grade) >= 4


def test_recorder_simulates_the_same_golfer():
    player = Player(faults=("hip-stall",), learn=True, seed=9)
    monitor = Mat(player)
    machine, bay = recorder(faults=("hip-stall",), learn=True, seed=9)
    machine.follow()
    for ball in range(1, 6):
        monitor.hit()
        bay.balls = ball
        machine.follow()
        assert machine.golfer.severity == monitor.severity


def test_recorder_follows_a_changed_golfer():
    controls = Controls(player=Player(faults=("hip-stall",), severity=1.0))
    controls.swung("ball-1", {"trail-sway": 1.0})
    with control_page(controls, 0) as page:
        machine, bay = recorder(faults=("hip-stall",), severity=1.0)
        machine.asked = swing_reported_by(page)
        machine.follow()
        bay.balls = 1
        machine.follow()
        assert machine.asked("a-ball-of-another-monitor") is None
    columns = {name: np.array(values) for name, values in bay.sent[0]["series"].items()}
    swing = swing_of_columns(columns)
    grades = {p.check: p.grade for p in propose(shipped_knowledge(), swing, find_moments(swing))}
    assert grades["pelvis-travel-back"] == "sways-trail"
    assert grades["pelvis-open-impact"] != "facing-ball"
    assert swing_reported_by("http://127.0.0.1:1")("ball-1") is None
