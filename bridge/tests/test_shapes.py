"""Every way a monitor's program may write its rows; each row reaches the server once."""

from __future__ import annotations

import json
import time

import pytest

from instavis_standins.dialects import dialects
from instavis_standins.golfer import Mat, Player
from instavis_standins.writing import SHAPES

from .conftest import until

COUNT = 12


def place_of(shape: str, folder) -> str:
    return {"file-a-ball": str(folder), "tcp-json": "0", "ws-json": "0", "serial": ""}.get(
        shape, str(folder / "session.csv")
    )


@pytest.mark.parametrize(
    ("shape", "dialect"),
    [
        *((shape, "short-english") for shape in SHAPES),
        ("file-a-ball", "nested"),
        ("tcp-json", "nested"),
        ("ws-json", "nested"),
        ("folder-rewrite", "german"),
        ("folder-grow", "german"),
    ],
)
def test_every_ball_arrives_once(shape, dialect, run, server, place):
    outlet = SHAPES[shape](dialects()[dialect], place_of(shape, place))
    streamed = shape in ("tcp-json", "ws-json", "serial")
    if streamed:
        run(source=outlet.place)
        until(outlet.is_heard)
    else:
        run()
    mat = Mat(Player(seed=3))
    sent = []
    try:
        for number in range(1, COUNT + 1):
            ball = mat.hit()
            outlet.send([ball])
            sent.append(outlet.dialect.line(ball, number))
            if number == COUNT // 2:
                until(lambda: set(sent) <= texts(server))
    finally:
        until(lambda: set(sent) <= texts(server))
        outlet.close()
    balls = [text for text in server.rows.values() if same(text) in map(same, sent)]
    assert len(balls) == COUNT
    assert server.doubled == 0


def same(text: str) -> str:
    """Objects may be written anew on the way: their values count."""
    return json.dumps(json.loads(text)) if text.startswith("{") else text


def texts(server) -> set[str]:
    return {same(text) for text in server.rows.values()}


@pytest.mark.parametrize("shape", ["session", "session-on-one-line", "latest", "pretty"])
def test_rewritten_json_document_loses_no_ball(run, server, place, shape):
    run()
    file, balls = place / "session.json", []
    for number in range(COUNT):
        flight = [{"x": i, "y": 0.5 * i} for i in range(5)]
        ball = {"id": number, "club": {"path": 1.5 + number, "face": 0.25}, "ball": {"speed": 104.5}, "flight": flight}
        balls.append(ball)
        session = {"session": {"player": "Mat one", "version": 2}, "shots": balls}
        text = {
            "session": json.dumps(session, indent=2),
            "session-on-one-line": json.dumps(session),
            "latest": json.dumps(ball),
            "pretty": json.dumps(ball, indent=1),
        }[shape]
        part = place / "session.part"
        part.write_text(text)
        part.replace(file)
        until(lambda wanted=ball: json.dumps(wanted) in texts(server))
    assert len(server.rows) == COUNT


def test_headings_apply_to_the_rows_below(run, server, place):
    heads = {}
    server.answer = lambda what, body: (
        heads.update({row["text"]: body["head"][-1] for row in body["rows"]}) if what == "rows" else None
    )
    run()
    file = place / "balls.csv"
    lines = ["Speed,Path,Carry,Spin", "7 Iron,,,", "79.1,2.5,140.2,6100", "Driver,,,", "101.2,3.5,240.1,2500"]
    for line in lines:
        with file.open("a") as out:
            out.write(line + "\n")
        until(lambda wanted=line: wanted in texts(server))
    assert heads["79.1,2.5,140.2,6100"] == "7 Iron,,,"
    assert heads["101.2,3.5,240.1,2500"] == "Driver,,,"


@pytest.mark.parametrize(
    ("name", "text", "message"),
    [
        ("balls.json", '{"shots": []}', "holds no balls"),
        ("balls.json", '{"shots": [{"speed": 7', "no complete JSON"),
        ("balls.xlsx", "PK", "cannot be read"),
        ("balls.csv", "a;b;c\nx;y;z\nu;v;w\np;q;r\n", "hold no balls"),
    ],
)
def test_unreadable_file_is_reported_within_ten_seconds(run, server, place, name, text, message):
    sentence = []
    server.answer = lambda what, body: sentence.append(body["problem"]) if what == "here" else None
    plain = server.body_for
    server.body_for = lambda what, body: {
        **plain(what, body),
        **({"stored": 0, "no_balls": len(body["rows"])} if what == "rows" else {}),
    }
    run()
    (place / name).write_text(text)
    begun = time.monotonic()
    until(lambda: any(message in problem for problem in sentence))
    assert time.monotonic() - begun < 10
