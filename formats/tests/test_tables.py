"""Tables of any program: columns guessed with reasons, mapped, read by row, questioned where physics disagrees."""

from __future__ import annotations

import csv
import io
from dataclasses import replace
from pathlib import Path

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from instavis_core.errors import InputError
from instavis_core.golfer import Golfer
from instavis_core.shots import read_shot
from instavis_io.tables import TableErrors, mapped_rows, propose, read_mapping, read_table, table_doubts, write_table
from instavis_io.tables.cells import Cell, guess_decimal, read_cell
from instavis_io.tables.clubs import read_club_name

TABLES = Path(__file__).parent / "data" / "tables"
RIGHT = Golfer("right", 12.0)
HEADERS = "Club,Club Speed (mph),Ball Speed (mph),Launch Angle,Carry (yd)"
ROW = "7 iron,79,104,18,140"


def table(*lines: str, encoding: str = "utf-8") -> io.BytesIO:
    return io.BytesIO("\n".join(lines).encode(encoding))


def shots_of(file, golfer=RIGHT, mapping=None):
    mapping = mapping or propose(file, golfer).mapping
    return [row.shot for row in mapped_rows(file, mapping, golfer) if row.shot]


@pytest.mark.parametrize(
    ("text", "decimal", "expected"),
    [
        ("3.2", ".", Cell(3.2, "", "")),
        ("3,2 L", ",", Cell(3.2, "", "l")),
        ("R 4.5", ".", Cell(4.5, "", "r")),
        ("-0,8", ",", Cell(-0.8, "", "")),
        ("−12.5", ".", Cell(-12.5, "", "")),
        ("1,234", ".", Cell(1234.0, "", "")),
        ("7.445", ",", Cell(7445.0, "", "")),
        ("1 234,5 rpm", ",", Cell(1234.5, "rpm", "")),
        ("98.4 mph", ".", Cell(98.4, "mph", "")),
        ("12 yd R", ".", Cell(12.0, "yd", "r")),
        ("", ".", None),
        ("--", ".", None),
        ("nan", ".", None),
        ("NaN", ",", None),
    ],
)
def test_cells_are_read_in_many_notations(text, decimal, expected):
    assert read_cell(text, decimal) == expected


@pytest.mark.parametrize("text", ["fast", "1.2.3.4", "12,34,5", "L", "1.23,4"])
def test_non_numeric_cells_are_refused(text):
    with pytest.raises(ValueError, match=text.replace(".", r"\.")):
        read_cell(text, ".")


def test_decimal_sign_is_guessed_from_the_cells():
    assert guess_decimal(["3,2", "14,5", "7.445"]) == ","
    assert guess_decimal(["3.2", "14.5", "7,445"]) == "."


@pytest.mark.parametrize(
    ("text", "club"),
    [
        ("7 Iron", "7i"),
        ("Eisen 7", "7i"),
        ("4-hybrid", "4h"),
        ("H4", "4h"),
        ("Driver", "D"),
        ("3 Wood", "3w"),
        ("Sand Wedge", "SW"),
        ("56°", "SW"),
        ("PW", "PW"),
        ("Putter", None),
        ("12 iron", None),
    ],
)
def test_club_names(text, club):
    assert read_club_name(text) == club


def test_a_foreign_table_with_commas_letters_units_and_summaries():
    file = (TABLES / "hall_three.csv").open("rb")
    proposal = propose(file, RIGHT)
    mapping = proposal.mapping
    assert (mapping.encoding, mapping.delimiter, mapping.decimal, mapping.header_line) == ("cp1252", ";", ",", 3)
    assert all(column.sure for column in proposal.columns)
    rows = list(mapped_rows(file, mapping, RIGHT))
    shots = [r.shot for r in rows if r.shot]
    assert len(shots) == 14
    assert [r.skipped for r in rows if r.skipped] == ["a row of units", "a summary row", "a summary row"]
    first = shots[0].values
    assert first["club_speed_mps"] == pytest.approx(127.7 / 3.6)
    assert (first["path_deg"], first["face_deg"], first["spin_rpm"], first["side_m"]) == (2.5, -2.3, 7445.0, -8.6)
    assert shots[0].club == "7i"
    assert table_doubts(shots, RIGHT) == []


def test_units_are_guessed_from_the_numbers():
    file = (TABLES / "no_units.csv").open("rb")
    proposal = propose(file, RIGHT)
    uses = {c.use.field: c for c in proposal.columns if c.use.field}
    assert uses["club_speed_mps"].use.unit == uses["ball_speed_mps"].use.unit == "mph"
    assert uses["carry_m"].use.unit == "yd"
    assert "files-ball-speeds-give-about-distance" in uses["carry_m"].reasons
    assert uses["side_m"].use.sign == "minus"
    assert not uses["side_m"].sure
    shot = shots_of(file, mapping=proposal.mapping)[0]
    assert shot.values["spin_axis_deg"] == pytest.approx(-6.38, abs=0.02)
    assert shot.values["face_deg"] == pytest.approx(shot.values["path_deg"] - 4.7)
    assert shot.values["side_m"] < 0


def test_golfer_frame_columns_are_mirrored_for_left_handers():
    file = table("club path,face angle,carry", "3,1,130")
    mapping = propose(file, RIGHT).mapping
    columns = tuple(replace(c, sign="golfer") for c in mapping.columns)
    (left,) = shots_of(file, Golfer("left"), replace(mapping, columns=columns))
    (right,) = shots_of(file, RIGHT, replace(mapping, columns=columns))
    assert left.values["path_deg"] == -3 == -right.values["path_deg"]
    assert left.values["carry_m"] == right.values["carry_m"]


@pytest.mark.parametrize(
    ("delimiter", "encoding"), [(",", "utf-8"), (";", "utf-8"), ("\t", "cp1252"), ("|", "utf-16"), (",", "utf-8-sig")]
)
def test_separators_and_encodings_are_found(delimiter, encoding):
    lines = [line.replace(",", delimiter) for line in ("Sitzung: Übung", "", HEADERS, ROW, ROW)]
    assert len(shots_of(table(*lines, encoding=encoding))) == 2


@pytest.mark.parametrize(
    ("lines", "found"),
    [
        ([""], "found-nothing"),
        (["hello", "world"], "found-no-header-row"),
        ([HEADERS.replace(",", "\0"), ROW], "found-zero-byte"),
    ],
)
def test_non_table_is_refused_with_a_reason(lines, found):
    with pytest.raises(TableErrors, match=found):
        propose(table(*lines), RIGHT)


@pytest.mark.parametrize(
    ("row", "field", "expected"),
    [
        ("7 iron,fast,104,18,140", "Club Speed (mph)", "files-number-decimal"),
        ("7 iron,790,104,18,140", "Club Speed (mph)", "shots-number"),
        ("7 iron,inf,104,18,140", "Club Speed (mph)", "shots-number"),
        ("broom,79,104,18,140", "Club", "files-club-such-7-iron-driver"),
    ],
)
def test_bad_cell_names_line_column_value_and_expectation(row, field, expected):
    file = table(HEADERS, ROW, row)
    errors = [r for r in mapped_rows(file, propose(table(HEADERS, ROW, ROW), RIGHT).mapping, RIGHT) if r.error]
    assert [r.line for r in errors] == [3]
    assert errors[0].error.field == field
    assert errors[0].error.expected == expected


def test_wrong_units_and_sides_are_reported():
    file = (TABLES / "no_units.csv").open("rb")
    mapping = propose(file, RIGHT).mapping

    def doubts(field, **change):
        columns = tuple(replace(c, **change) if c.field == field else c for c in mapping.columns)
        return " ".join(table_doubts(shots_of(file, mapping=replace(mapping, columns=columns)), RIGHT))

    assert "ball-speed-times" in doubts("ball_speed_mps", unit="kmh")
    assert "carry" in doubts("carry_m", unit="ft")
    assert "opposite-ways" in doubts("side_m", sign="plus")


@pytest.mark.parametrize(
    ("change", "field"),
    [
        ({"encoding": "klingon"}, "mapping.encoding"),
        ({"delimiter": "x"}, "mapping.delimiter"),
        ({"decimal": ";"}, "mapping.decimal"),
        ({"header_line": 0}, "mapping.header_line"),
        ({"columns": []}, "mapping.columns"),
        ({"columns": [{"header": "a", "field": "wish"}]}, "mapping.columns[0].field"),
        ({"columns": [{"header": "a", "field": "carry_m", "unit": "mph"}]}, "mapping.columns[0].unit"),
        ({"columns": [{"header": "a", "field": "carry_m"}, {"header": "b", "field": "carry_m"}]}, "mapping.columns"),
        ({"columns": [{"header": "a", "field": "club"}]}, "mapping.columns"),
    ],
)
def test_impossible_mapping_is_refused(change, field):
    good = {"encoding": "utf-8-sig", "delimiter": ",", "decimal": ".", "header_line": 1}
    good["columns"] = [{"header": "Carry", "field": "carry_m", "unit": "yd"}]
    assert read_mapping(good).columns[0].unit == "yd"
    with pytest.raises(InputError) as caught:
        read_mapping({**good, **change})
    assert caught.value.field == field


def test_own_format_round_trips_with_unknown_fields():
    record = {
        "shot_id": "a1",
        "club": "7i",
        "path_deg": 3.5,
        "note": "=1+1",
        "intent": "new",
        "grip": "soft",
        "tee": 3,
        "wet": True,
    }
    (shot,) = read_table(write_table([record]).encode())
    assert shot.values == {"path_deg": 3.5}
    assert shot.note == "=1+1"
    assert shot.extra == {"grip": "soft", "tee": 3, "wet": True}


WORDS = st.text(st.characters(exclude_categories=["Cs"], exclude_characters="\0"), min_size=1, max_size=12)
TRAPS = st.sampled_from(
    ["=1+1", " =1+1", "\r=HYPERLINK(0)", "ok\r\n@x", "'=1", "''", "12", " 12", "nan", "True", "-", "a\rb"]
)


@given(st.fixed_dictionaries({}, optional=dict.fromkeys(("shot_id", "intent", "note", "lie", "a "), WORDS | TRAPS)))
@settings(max_examples=300, deadline=None, derandomize=True)
def test_texts_round_trip_and_no_cell_is_a_formula(texts):
    shot = read_shot({"path_deg": 1.5, **texts})
    record = {**shot.extra, **shot.values, "shot_id": shot.shot_id, "intent": shot.intent, "note": shot.note}
    written = write_table([record])
    (back,) = read_table(written.encode())
    assert back == shot
    # A spreadsheet passes over blanks, and starts a row at every unquoted return.
    for row in csv.reader(io.StringIO(written)):
        for cell in row:
            for line in cell.splitlines():
                assert cell.startswith("'") or not line.strip().startswith(("=", "+", "@")) or _is_number(line)


def _is_number(text: str) -> bool:
    try:
        float(text)
    except ValueError:
        return False
    return True


@settings(max_examples=120, deadline=None, derandomize=True)
@given(
    value=st.floats(-9_999, 9_999).map(lambda v: round(v, 2)),
    decimal=st.sampled_from([".", ","]),
    thousands=st.booleans(),
    dress=st.sampled_from(["{}", " {} ", "{} m", '"{}"', "({})"]),
)
def test_number_survives_its_notation(value, decimal, thousands, dress):
    text = f"{value:,.2f}" if thousands else f"{value:.2f}"
    if decimal == ",":
        text = text.replace(",", "_").replace(".", ",").replace("_", ".")
    cell = read_cell(dress.format(text), decimal)
    assert cell is not None
    assert cell.value == pytest.approx(value)


@settings(max_examples=60, deadline=None, derandomize=True)
@given(
    path=st.floats(-15, 15).map(lambda v: round(v, 1)),
    carry=st.integers(60, 240),
    hand=st.sampled_from(["right", "left"]),
    unit=st.sampled_from(["m", "yd"]),
    delimiter=st.sampled_from([",", ";", "\t"]),
)
def test_every_notation_is_read_correctly(path, carry, hand, unit, delimiter):
    side = "R" if path > 0 else "L"
    rows = [["club path", f"carry ({unit})"], *[[f"{abs(path)} {side}", str(carry)]] * 3]
    file = table(*(delimiter.join(row) for row in rows))
    shots = shots_of(file, Golfer(hand))
    assert len(shots) == 3
    assert shots[0].values["path_deg"] == pytest.approx(path)
    assert shots[0].values["carry_m"] == pytest.approx(carry * (0.9144 if unit == "yd" else 1.0))


def test_own_file_is_recognized():
    own = table("club,path_deg,carry_yd", "7i,3,140")
    assert propose(own, RIGHT).own_format
    assert not propose(table("club,club path,carry", "7i,3,140"), RIGHT).own_format


def test_duplicate_field_is_used_once_with_a_note():
    proposal = propose(table("carry (m),carry distance (m)", "140,141", "150,151"), RIGHT)
    assert [c.use.field for c in proposal.columns] == ["carry_m", ""]
    assert "earlier-column" in proposal.columns[1].reasons[-1]
    assert not proposal.columns[1].sure


def test_times_without_a_zone_are_utc_and_odd_ones_dropped():
    file = table("date,club path,carry", "04.05.2026 09:12,1,140", "2026-05-04T09:12:31+02:00,1,141", "yesterday,1,142")
    at = [s.at for s in shots_of(file)]
    assert at[0].isoformat() == "2026-05-04T09:12:00+00:00"
    assert at[1].isoformat() == "2026-05-04T09:12:31+02:00"
    assert at[2] is None


@pytest.mark.parametrize(
    ("cell", "moment"),
    [
        ("25/04/2026 09:12", "2026-04-25T09:12:00+00:00"),
        ("04/25/2026 09:12:31", "2026-04-25T09:12:31+00:00"),
        ("04/04/2026 09:12", "2026-04-04T09:12:00+00:00"),  # either way the same day
        ("04/05/2026 09:12", None),  # April or May
        ("2026-5-4 9:12", "2026-05-04T09:12:00+00:00"),
        ("4.5.2026 9:12:31", "2026-05-04T09:12:31+00:00"),
        ("31/31/2026 09:12", None),
        ("09:12", None),
    ],
)
def test_ambiguous_day_is_not_guessed(cell, moment):
    (shot,) = shots_of(table("date,club path,carry", f"{cell},1,140"))
    assert (shot.at and shot.at.isoformat()) == moment


def test_backspin_is_the_axis_share_of_total_spin():
    total, tilt = 6000.0, 12.0
    back, side = total * np.cos(np.radians(tilt)), total * np.sin(np.radians(tilt))
    (both,) = shots_of(table("club path,backspin,sidespin", f"1,{back:.3f},{side:.3f}"))
    assert (both.values["spin_rpm"], both.values["spin_axis_deg"]) == pytest.approx((total, tilt), abs=0.01)
    (one,) = shots_of(table("club path,backspin,spin axis", f"1,{back:.3f},{tilt}"))
    assert (one.values["spin_rpm"], one.values["spin_axis_deg"]) == pytest.approx((total, tilt), abs=0.01)
    (alone,) = shots_of(table("club path,backspin", f"1,{back:.3f}"))
    assert alone.values["spin_rpm"] == pytest.approx(back, abs=0.01)
    assert alone.values.get("spin_axis_deg") is None


SIDED = [  # header, cell, field, value for a right-hander, whether a left-hander's sign is the other one
    ("club path", "3.2° OUT-IN", "path_deg", -3.2, True),
    ("club path", "3.2 in to out", "path_deg", 3.2, True),
    ("club path", "3.2 L", "path_deg", -3.2, False),
    ("club path", "–2.4", "path_deg", -2.4, False),
    ("face angle", "2.1° CLOSED", "face_deg", -2.1, True),
    ("face angle", "2.1 C", "face_deg", -2.1, True),
    ("face angle", "2.1 zu", "face_deg", -2.1, True),
    ("face angle", "2.1 offen", "face_deg", 2.1, True),
    ("face angle", "2.1 cerrada", "face_deg", -2.1, True),
    ("launch direction", "2.1 izq", "launch_direction_deg", -2.1, False),
    ("launch direction", "2.1 der.", "launch_direction_deg", 2.1, False),
    ("spin axis", "8 draw", "spin_axis_deg", -8.0, True),
    ("attack angle", "4.1 ab", "attack_deg", -4.1, False),
    ("attack angle", "1.1 arriba", "attack_deg", 1.1, False),
    ("strike horizontal", "5 ferse", "strike_toe_mm", -5.0, False),
    ("strike horizontal", "5 mm toe", "strike_toe_mm", 5.0, False),
    ("strike vertical", "4 bajo", "strike_high_mm", -4.0, False),
]


@pytest.mark.parametrize(("header", "cell", "field", "value", "turns"), SIDED)
@pytest.mark.parametrize("hand", ["right", "left"])
def test_side_words_give_the_sign(header, cell, field, value, turns, hand):
    golfer = Golfer(hand, 12.0)
    file = table(f"Club;Ball Speed (mph);{header}", f"7 iron;104;{cell}")
    (shot,) = shots_of(file, golfer)
    assert shot.values[field] == pytest.approx(-value if turns and hand == "left" else value)


@pytest.mark.parametrize(("header", "cell"), [("club path", "3.2 I"), ("spin axis", "5 F"), ("face angle", "2.1 xq")])
def test_unknown_side_word_refuses_the_row(header, cell):
    file = table(f"Club;Ball Speed (mph);{header}", f"7 iron;104;{cell}", "7 iron;104;0.0 square")
    proposal = propose(file, RIGHT)
    assert not proposal.columns[2].sure
    assert "unknown-text" in " ".join(proposal.columns[2].reasons)
    refused, taken = mapped_rows(file, proposal.mapping, RIGHT)
    assert refused.error.value == cell
    assert refused.error.field == header
    assert taken.shot.values  # a zero has no side


def test_lone_d_beside_a_curve_makes_the_column_uncertain():
    lone, french = (
        propose(table("Club;Ball Speed (mph);spin axis", *(f"7 iron;104;{c}" for c in cells)), RIGHT).columns[2]
        for cells in (("5 D", "3 D"), ("5 D", "3 G"))
    )
    assert (lone.sure, french.sure) == (False, True)
