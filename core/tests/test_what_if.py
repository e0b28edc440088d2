"""What if: one change of delivery, its flight, and the sentence that explains it."""

from __future__ import annotations

import pytest

from instavis_core.choice import what_if
from instavis_core.golfer import Golfer

SLICE = {"club_speed_mps": 36.0, "path_deg": -6.0, "face_deg": 2.0, "strike_toe_mm": 0.0}


def test_neutral_path_removes_the_curve(seven_iron):
    result = what_if(SLICE, {"path_deg": 0.0}, Golfer(), seven_iron)
    assert result.before.curve_m > 8 > abs(result.after.curve_m)
    assert result.after.side_m < result.before.side_m
    assert "correct-face-path-goes" in repr(result.reason)
    assert "before=correct-degrees(value=8.0, way=common-open)" in repr(result.reason)
    assert "after=correct-degrees(value=2.0, way=common-open)" in repr(result.reason)


def test_unchanged_delivery_is_reported(seven_iron):
    result = what_if(SLICE, {}, Golfer(), seven_iron)
    assert result.before == result.after
    assert result.reason == "correct-nothing-changed"


def test_strike_off_the_face_is_reported(seven_iron):
    assert "hosel" in repr(what_if(SLICE, {"strike_toe_mm": -32.0}, Golfer(), seven_iron).reason)


def test_the_drawn_flight_ends_where_the_numbers_say(seven_iron):
    ball = what_if(SLICE, {}, Golfer(), seven_iron).before
    assert ball.side_trace_m[-1] == pytest.approx(ball.side_m, abs=0.1)
    assert max(ball.up_m) == pytest.approx(ball.apex_m, abs=0.3)
    assert len(ball.forward_m) == len(ball.up_m) == len(ball.side_trace_m)
