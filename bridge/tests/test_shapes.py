"""Every shape a monitor's program may write in, from its writing to the server, once each."""

from __future__ import annotations

import json

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
