"""Made-up swings for eye practice contain the faults they claim and no others; a seed repeats a series."""

from collections import Counter

import numpy as np
import pytest

from instavis_core.errors import InputError
from instavis_core.figure import SWINGS, Ink, planned_swing, practice_swing
from instavis_core.knowledge.figure import load_figure
from instavis_core.knowledge.loader import shipped_knowledge

SERIES = range(12)


def test_series_repeats_by_seed_and_swings_differ():
    again = [practice_swing("seat-line", 4, number) for number in range(SWINGS)]
    assert again == [practice_swing("seat-line", 4, number) for number in range(SWINGS)]
    assert len({swing.figure.frames for swing in again}) == SWINGS
    assert practice_swing("seat-line", 5, 0).figure.frames != again[0].figure.frames


def test_about_half_are_ok_and_every_answer_occurs():
    for check in ("seat-line", "shoulder-tilt", "hands-impact"):
        grades = shipped_knowledge().checks[check].grades
        result = Counter(planned_swing(check, seed, n).grade for seed in SERIES for n in range(SWINGS))
        assert set(result) == set(grades)
        assert 0.35 < result[grades[0]] / sum(result.values()) < 0.65


@pytest.mark.parametrize("check", list(load_figure().checks))
@pytest.mark.parametrize("hand", ["right", "left"])
def test_every_check_is_drawn_at_full_speed(check, hand):
    swing = practice_swing(check, 1, 0, hand)
    assert 1.9 < len(swing.figure.frames) * swing.figure.seconds < 3.2
    assert swing.figure.view == load_figure().checks[check].view
    assert all(np.isfinite(np.array(s.lines)).all() for frame in swing.figure.frames for s in frame)
    # The ball has gone at the end.
    assert any(s.ink == Ink.BALL for s in swing.figure.frames[0])
    assert not any(s.ink == Ink.BALL for s in swing.figure.frames[-1])


def test_hands_are_mirrored():
    right, left = (practice_swing("seat-line", 3, 1, hand) for hand in ("right", "left"))
    for ours, theirs in zip(right.figure.frames, left.figure.frames, strict=True):
        for a, b in zip(bones(ours), bones(theirs), strict=True):
            np.testing.assert_allclose(a * [-1, 1], b, atol=2e-3)


def bones(frame) -> np.ndarray:
    """Ends of the body's strokes (n, 2) [m]."""
    return np.concatenate([np.array(s.lines).reshape(-1, 2) for s in frame if s.ink == Ink.BODY])


def test_fault_is_visible_where_the_check_says():
    """Before halfway down the seat of a pelvis that leaves its line early is nearer to the ball than a sound one."""
    seats: dict[str, list[float]] = {}
    for seed in SERIES[:3]:
        for number in range(SWINGS):
            swing = practice_swing("seat-line", seed, number)
            places = bones(swing.figure.frames[round((0.5 + 1.02) / swing.figure.seconds)])
            hips = places[(places[:, 1] > 0.7) & (places[:, 1] < 1.1)]
            seats.setdefault(swing.grade, []).append(float(hips[:, 0].min()))
    assert np.mean(seats["leaves-early"]) > np.mean(seats["on-line"]) + 0.02


@pytest.mark.parametrize(
    ("check", "number", "field"),
    [("the-moon", 0, "check"), ("seat-line", SWINGS, "number"), ("seat-line", -1, "number")],
)
def test_unknown_inputs_are_refused(check, number, field):
    with pytest.raises(InputError) as result:
        practice_swing(check, 1, number)
    assert result.value.field == field
