"""The open documents and the command line, from outside."""

from __future__ import annotations

import csv
import io
import json
import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from instavis_cli.__main__ import answer_stream, main
from instavis_core.errors import InputError
from instavis_core.shots import read_shot
from instavis_io.tables import TableErrors, read_table, write_table

DELIVERY = {
    "club": "7i",
    "club_speed_mps": 36.2,
    "path_deg": 4.1,
    "face_deg": 1.9,
    "attack_deg": -2.4,
    "dynamic_loft_deg": 24.8,
    "strike_toe_mm": -6.0,
    "strike_high_mm": -2.5,
}


def run(verb: str, text: str) -> tuple[int, list[dict]]:
    sink = io.StringIO()
    status = answer_stream(verb, io.StringIO(text), sink)
    return status, [json.loads(line) for line in sink.getvalue().splitlines()]


def simulated(capsys, *arguments: str) -> list[dict]:
    assert main(["simulate", *arguments]) == 0
    return [json.loads(line) for line in capsys.readouterr().out.splitlines()]


def test_fly_answers_a_delivery():
    status, (answer,) = run("fly", json.dumps({"delivery": DELIVERY, "trace": True}))
    assert status == 0
    assert set(answer) == {
        "launch",
        "carry_m",
        "side_m",
        "curve_m",
        "apex_m",
        "descent_deg",
        "time_s",
        "curve_budget",
        "trace",
    }
    assert 46 < answer["launch"]["ball_speed_mps"] < 51
    assert answer["launch"]["spin_axis_deg"] < 0
    assert answer["curve_m"] < 0
    assert answer["curve_budget"]["face_to_path_deg"] < 0 < answer["curve_budget"]["strike_deg"]


def test_fly_mirrors_left_handers():
    other = {**DELIVERY, "hand": "left", "path_deg": -4.1, "face_deg": -1.9}
    _, (right, left) = run("fly", "\n".join(json.dumps({"delivery": d}) for d in (DELIVERY, other)))
    assert left["side_m"] == pytest.approx(-right["side_m"])
    assert left["carry_m"] == pytest.approx(right["carry_m"])


def test_bad_lines_get_errors_and_the_others_answers():
    good = json.dumps({"launch": {"ball_speed_mps": 60, "launch_angle_deg": 12, "spin_rpm": 3000}})
    text = "\n".join([good, '{"launch": {"ball_speed_mps": NaN}}', "{broken", good, '["list"]'])
    status, answers = run("fly", text)
    assert status == 2
    assert [a.get("error", {}).get("line") for a in answers] == [None, 2, 3, None, 5]
    assert answers[0] == answers[3]


def test_document_may_span_several_lines():
    status, answers = run("fly", json.dumps({"delivery": DELIVERY}, indent=2))
    assert (status, len(answers)) == (0, 1)


@pytest.mark.parametrize(
    ("verb", "document", "field"),
    [
        ("fly", {"launch": {"ball_speed_mps": 60}}, "launch.launch_angle_deg"),
        ("fly", {"launch": {}, "delivery": {}}, "launch"),
        ("fly", {"delivery": {**DELIVERY, "club": "8w"}}, "delivery.club"),
        ("fly", {"delivery": {**DELIVERY, "club_speed_mps": 300}}, "delivery.club_speed_mps"),
        ("fly", {"delivery": {**DELIVERY, "pathdeg": 1}}, "delivery.pathdeg"),
        ("fly", {"delivery": DELIVERY, "air": {"humidity": 55}}, "air.humidity"),
        ("read", {"shots": [{"path_deg": "left"}]}, "shots[0].path_deg"),
        ("read", {"shots": {}}, "shots"),
        ("read", {"golfer": {"hand": "both"}, "shots": []}, "golfer.hand"),
        ("read", {"golfer": {"hand": "left"}, "shots": [{"hand": "right"}]}, "shots[0].hand"),
        ("read", {"shots": [{"club": "7i"}, {"club": "D"}]}, "club"),
        ("cause", {"checks": {"seat-line": "gone"}}, "checks.seat-line"),
        ("cause", {"intake": {"curve": "up"}}, "intake.curve"),
        ("prove", {"shots": []}, "correction"),
        ("prove", {"proof_set": {"shots": []}}, "proof_set.shots"),
    ],
)
def test_errors_name_the_field(verb, document, field):
    status, (answer,) = run(verb, json.dumps(document))
    assert status == 2
    assert answer["error"]["field"] == field
    assert "expected" in answer["error"]["message"]


def test_simulated_faults_are_ranked_correctly(capsys):
    for fault in ("early-extension", "upper-body-first"):
        shots = simulated(capsys, "--fault", fault, "--shots", "30", "--seed", "7")
        assert len(shots) == 30
        _, (answer,) = run("cause", json.dumps({"golfer": {"hand": "right"}, "club": "7i", "shots": shots}))
        assert answer["faults"][0]["id"] == fault
        assert {"id", "variant", "probability", "word", "evidence"} <= set(answer["faults"][0])


def test_simulated_balls_are_the_same_for_the_same_seed(capsys):
    one = simulated(capsys, "--shots", "5", "--seed", "3")
    assert one == simulated(capsys, "--shots", "5", "--seed", "3")
    assert one != simulated(capsys, "--shots", "5", "--seed", "4")
    for shot in one:
        read_shot(shot)


def test_left_handed_simulation_mirrors_the_frame_only(capsys):
    right = simulated(capsys, "--fault", "upper-body-first", "--shots", "20", "--seed", "5")
    left = simulated(capsys, "--fault", "upper-body-first", "--shots", "20", "--seed", "5", "--hand", "left")
    assert [s["path_deg"] for s in left] == [-s["path_deg"] for s in right]
    assert [s["strike_toe_mm"] for s in left] == [s["strike_toe_mm"] for s in right]


def test_prove_answers_verdicts_and_proof_sets(capsys):
    base = simulated(capsys, "--fault", "early-extension/from-inside", "--shots", "14", "--seed", "2")
    shots = [{**s, "path_deg": s["path_deg"] - 5, "movement": "done", "stage": "full", "intent": "new"} for s in base]
    correction = {
        "fault": "early-extension",
        "primary": "path_deg",
        "direction": "decrease",
        "gate": {"path_deg": [-4, 3]},
        "guards": {"strike_toe_mm": [-40, 40]},
    }
    lesson = {"club": "7i", "baseline": base, "correction": correction}
    _, (untested,) = run("prove", json.dumps({**lesson, "shots": shots}))
    assert (untested["status"], untested["link"]["tested"]) == ("supported", False)
    called = shots + [{**s, "movement": "missed", "stage": "full", "intent": "old"} for s in base[:6]]
    _, (answer,) = run("prove", json.dumps({**lesson, "shots": called}))
    assert answer["status"] == "verified"
    assert answer["link"]["tested"]
    assert answer["marks"] == {"blind": 20, "seen": 0, "measured": 0, "unmarked": 0}
    assert set(answer["pattern"]) >= {"estimate", "low", "high", "evidence"}
    assert len(answer["verdicts"]) == 20
    assert {"estimate", "low", "high", "confidence"} <= set(answer["change"])
    assert answer["advice"]["stage"] in ("up", "hold", "down")
    mixed = [{**s, "intent": "old"} for s in base[:6]] + shots[:6]
    _, (result,) = run("prove", json.dumps({"proof_set": {"shots": mixed}}))
    assert result["p"] < 0.05
    assert result["effect"] < 0


@settings(max_examples=60, deadline=None, derandomize=True)
@given(st.dictionaries(st.text(max_size=12), st.one_of(st.none(), st.floats(), st.text(max_size=8), st.booleans())))
def test_random_records_never_crash_the_reader(raw):
    try:
        values = read_shot(raw).values
    except InputError as error:
        values = {"told": float(len(error.message))}
    assert all(math.isfinite(v) for v in values.values())


# --- tables --------------------------------------------------------------------------------------


def table(text: str) -> list[dict]:
    return [shot.values for shot in read_table(text.encode())]


def test_units_by_suffix_and_other_delimiters():
    (values,) = table("club_speed_mph;carry_yd;strike_toe_in\n90;150;0.5\n")
    assert values["club_speed_mps"] == pytest.approx(40.2336)
    assert values["carry_m"] == pytest.approx(137.16)
    assert values["strike_toe_mm"] == pytest.approx(12.7)


@pytest.mark.parametrize(
    ("text", "line", "field"),
    [
        ("path_degs,club\n1,7i\n", 1, "path_degs"),
        ("path_deg\nNaN\n", 2, "path_deg"),
        ("path_deg\n1\n2\n400\n", 4, "path_deg"),
        ("path_deg\n3.2 L\n", 2, "path_deg"),
        ("path_deg\n3,2\n", 2, "row"),
        ("club_speed_mph\n700\n", 2, "club_speed_mph"),
        ("club_speed_yd\n100\n", 1, "club_speed_yd"),
        ("path_deg,path_deg\n1,2\n", 1, "path_deg"),
        ("club\n9x\n", 2, "club"),
        ("path_deg\n", 2, "file"),
        ("", 1, "file"),
        ("\0\0", 1, "file"),
    ],
)
def test_bad_tables_name_line_and_column(text, line, field):
    with pytest.raises(TableErrors) as caught:
        read_table(text.encode())
    first = caught.value.errors[0]
    assert (first.line, first.field) == (line, field)


def test_binary_files_are_refused():
    with pytest.raises(TableErrors):
        read_table(b"\xff\xfe\x00\x01")


def test_tables_round_trip_and_cells_cannot_run_as_formulas(capsys):
    records = simulated(capsys, "--shots", "6", "--learn")
    records[0]["note"] = "=HYPERLINK(1)"
    text = write_table(records)
    again = read_table(text.encode())
    assert [s.values for s in again] == [read_shot(r).values for r in records]
    assert again[0].note == "=HYPERLINK(1)"
    assert next(csv.DictReader(io.StringIO(text)))["note"].startswith("'")


def test_fly_gives_details_on_request():
    _, (answer,) = run("fly", json.dumps({"delivery": DELIVERY | {"strike_toe_mm": -31}, "detail": True}))
    assert answer["contact"] == "hosel"
    assert set(answer["start_budget"]) == {"face_deg", "path_deg", "strike_deg", "rest_deg"}
    assert answer["landing_mps"] > 10
    assert answer["roll_m"] is None  # too flat and too fast to say anything of its run
    _, (struck,) = run("fly", json.dumps({"delivery": DELIVERY, "detail": True}))
    assert -10 < struck["roll_m"] < 60
