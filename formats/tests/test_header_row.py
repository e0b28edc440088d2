"""Headers of a table: the field and unit each one names, and the row they are in."""

from __future__ import annotations

import pytest

from instavis_io.tables.header_row import header_place, is_units_row, match_header, own_field
from instavis_io.tables.problems import TableErrors


@pytest.mark.parametrize(
    ("header", "field", "unit"),
    [
        ("path_deg", "path_deg", "deg"),
        ("carry_m", "carry_m", "m"),
        ("carry_yd", "carry_m", "yd"),
        ("ball_speed_mph", "ball_speed_mps", "mph"),
        ("Club Path [deg]", "path_deg", "deg"),
        ("club path (°)", "path_deg", "deg"),
        ("ClubPath", "path_deg", ""),
        ("Face Angle", "face_deg", ""),
        ("Attack Angle", "attack_deg", ""),
        ("Ball Speed (mph)", "ball_speed_mps", "mph"),
        ("Carry [yd]", "carry_m", "yd"),
        ("Carry yd", "carry_m", "yd"),
        ("Spin Axis", "spin_axis_deg", ""),
        ("carry_parsec", "carry_m", ""),
    ],
)
def test_header_gives_field_and_unit(header, field, unit):
    found, named, _ = match_header(header)
    assert (found, named) == (field, unit)


@pytest.mark.parametrize("header", ["", "Weather", "Player's mood", "12.5"])
def test_unknown_header_is_reported(header):
    assert match_header(header)[0] is None


@pytest.mark.parametrize(
    ("header", "field"),
    [("carry_yd", "carry_m"), ("club_speed_mph", "club_speed_mps"), ("path_yd", None), ("path", None)],
)
def test_own_headers_with_another_unit_are_recognized(header, field):
    assert own_field(header) == field


def test_headers_are_found_below_a_title():
    above = [["Session of the fourth", "", ""], ["", "", ""], ["Kelp barn", "mats", ""]]
    headers = ["Club Path [deg]", "Face Angle", "Carry"]
    assert header_place([*above, headers, ["2.1", "0.4", "141"]]) == 3
    assert header_place([["carry_m"], ["141"]]) == 0, "one column needs no second header"


@pytest.mark.parametrize("rows", [[], [["a", "b"], ["1", "2"]], [["Carry", "mood"], ["141", "good"]]])
def test_table_without_headers_is_refused_with_a_reason(rows):
    with pytest.raises(TableErrors) as caught:
        header_place(rows)
    (problem,) = caught.value.errors
    assert problem.field == "file"
    assert problem.expected == "files-row-names-least-two-columns"


def test_units_row_is_not_a_ball():
    assert is_units_row(["[deg]", "", "(yd)"])
    assert not is_units_row(["deg", "2.1"])
    assert not is_units_row(["", ""])
