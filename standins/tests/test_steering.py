"""Changing the stand-in while it runs: golfer, faults of the line, its page."""

from __future__ import annotations

import argparse

import httpx
import pytest

from instavis_core.errors import InputError
from instavis_standins.golfer import Controls, Mat, Player
from instavis_standins.monitor import Monitor
from instavis_standins.page import control_page


class Line:
    """A server that remembers what it was sent."""

    def __init__(self) -> None:
        self.batches: list[list[dict]] = []

    def send(self, shots):
        self.batches.append(shots)

    def hello(self):
        return {"listening": True}

    @property
    def sequences(self) -> list[int]:
        return [s["device_sequence"] for batch in self.batches for s in batch if s["path_deg"] != "sideways"]


def monitor(count: int = 3, **controls) -> tuple[Monitor, Line]:
    options = argparse.Namespace(count=count, only_listening=False, double_every=0, nonsense_every=0)
    line = Line()
    return Monitor(line, Controls(player=Player(), pace=0.0, **controls), options), line


def test_every_ball_is_sent_once_with_its_own_number():
    machine, line = monitor(4)
    machine.run()
    assert len(line.sequences) == len(set(line.sequences)) == 4
    assert machine.controls.waiting == 0


def test_balls_hit_offline_are_sent_on_reconnect():
    machine, line = monitor(3, line_down=True)
    for _ in range(3):
        machine._hit_one()
    assert machine.controls.waiting == 3
    assert line.batches == []
    machine.controls.line_down = False
    machine.run()
    assert [len(b) for b in line.batches] == [3]


def test_requested_duplicates_and_garbage_are_sent():
    machine, line = monitor(3, doubles=1, nonsense=1)
    machine.run()
    assert len(line.batches) == 4
    assert sum(s["path_deg"] == "sideways" for batch in line.batches for s in batch) == 1
    assert len(set(line.sequences)) == 3


def test_golfer_can_change_while_running():
    machine, line = monitor(2)
    machine._hit_one()
    machine.controls.change({"hand": "left", "club": "D", "faults": ("hip-stall",)})
    machine._hit_one()
    machine.run()
    assert [(s["hand"], s["club"]) for s in line.batches[0]] == [("right", "7i"), ("left", "D")]


@pytest.mark.parametrize("values", [{"club": "broom"}, {"faults": ("bad-luck",)}, {"hand": "both"}])
def test_invalid_golfer_changes_nothing(values):
    controls = Controls(player=Player())
    with pytest.raises(InputError):
        controls.change(values)
    assert controls.player == Player()


def test_the_same_player_hits_the_same_balls():
    first, second = Mat(Player(faults=("hip-stall",), seed=4)).hit(), Mat(Player(faults=("hip-stall",), seed=4)).hit()
    assert first["path_deg"] == second["path_deg"]
    assert first["shot_id"] != second["shot_id"]
    assert "movement" not in Mat(Player(faults=("hip-stall",), learn=True)).hit()


def test_page_controls_the_stand_in_and_reports_errors():
    controls = Controls(player=Player())
    with control_page(controls, 0) as address, httpx.Client(trust_env=False) as client:
        assert "Stand-in monitor" in client.get(address).text
        result = client.post(address, json={"faults": ["hang-back"], "line_down": True, "pace": 2}).json()
        assert result["faults"] == ["hang-back"]
        assert controls.line_down
        assert client.post(address, json={"club": "broom"}).status_code == 422
        assert client.post(address, data={"line_down": "false"}).status_code == 400
        assert client.get(f"{address}/state").json()["club"] == "7i"
