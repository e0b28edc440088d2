"""A monitor that does not speak our protocol, through the bridge, to a lesson's tape."""

from __future__ import annotations

import json
import os
import re
import subprocess
import sys
import textwrap
import time
from pathlib import Path

import httpx
import pytest
from playwright.sync_api import Page, expect

from instavis_standins.dialects import dialects
from instavis_standins.golfer import Mat, Player
from instavis_standins.writing import SHAPES, Outlet

BASELINE = 8
PATIENCE = 60


@pytest.fixture
def programs():
    """Whatever a test starts ends with it."""
    running: list[subprocess.Popen] = []
    yield running
    for program in running:
        program.kill()
        program.wait()


def started(source: str, state: Path, server: str, *more: str) -> subprocess.Popen:
    command = [sys.executable, "-m", "instavis_bridge", source, f"--server={server}", f"--state={state}", "--page=-1"]
    return subprocess.Popen([*command, *more], env=os.environ, stdout=subprocess.PIPE, text=True)


def hit(outlet: Outlet, mat: Mat, count: int) -> None:
    for _ in range(count):
        outlet.send([mat.hit()])


def test_from_a_file_to_the_first_live_ball_and_on_after_a_kill(page: Page, product, fresh_lesson, tmp_path, programs):
    lesson = fresh_lesson("Orla Bridgewater")
    folder = tmp_path / "balls"
    folder.mkdir()
    outlet, mat = SHAPES["folder-grow"](dialects()["german"], str(folder / "session.csv")), Mat(Player(seed=5))
    page.goto("/bays")
    bridges = page.get_by_role("region", name="Bridges of North mat")
    bridges.get_by_role("button", name="Add a bridge").click()
    code = bridges.get_by_role("status").locator("strong").inner_text()
    state = tmp_path / "state"
    bridge = started(str(folder), state, product.address, f"--code={code}", "--name=Bay PC")
    programs.append(bridge)
    assert "paired with North mat" in bridge.stdout.readline()
    expect(bridges.get_by_text(re.compile("balls; no ball yet"))).to_be_visible(timeout=PATIENCE * 1000)

    page.goto(f"/lessons/{lesson}/baseline")
    # Rows that come before the lesson listens are nobody's.
    with page.expect_response(re.compile(rf"/lessons/{lesson}/bay$")) as taken:
        page.get_by_label("Balls from").select_option(label="North mat")
    assert taken.value.ok
    hit(outlet, mat, BASELINE)
    waits = page.get_by_role("alert").filter(has_text="rows of session.csv wait")
    waits.get_by_role("button", name="Say what its columns are").click()
    sheet = page.get_by_role("dialog")
    expect(sheet.get_by_label("What Schlägerbahn [°] is")).to_have_value("path_deg")
    sheet.get_by_role("button", name=re.compile("That is right")).click()
    expect(sheet).to_be_hidden()
    balls_on_tape(page, BASELINE)

    # A ball that is written while the bridge is dead comes as soon as it lives again; from then on at once.
    bridge.kill()
    bridge.wait()
    hit(outlet, mat, 1)
    programs.append(started(str(folder), state, product.address))
    balls_on_tape(page, BASELINE + 1)
    begun = time.monotonic()
    hit(outlet, mat, 1)
    balls_on_tape(page, BASELINE + 2)
    assert time.monotonic() - begun < PATIENCE
    with product.signed_in() as client:
        shots = client.get(f"/api/v1/lessons/{lesson}/shots").json()
    assert len(shots) == BASELINE + 2
    assert [round(s["path_deg"], 1) for s in shots] == [round(b["path_deg"], 1) for b in outlet.balls]

    page.goto("/bays")
    bridges.get_by_role("listitem").filter(has_text="Bay PC").get_by_role("button", name="End it").click()
    expect(bridges.get_by_text("Bay PC")).to_be_hidden()


def test_programs_of_ones_own_send_balls_as_the_page_says(product, fresh_lesson, root):
    """The curl and the Python of docs/bridge.md, as they stand there."""
    lesson = fresh_lesson("Sorrel Handmade")
    blocks = re.findall(r"\n\n((?:    .*\n|\n)+)", (root / "docs" / "bridge.md").read_text())
    curl = next(b for b in blocks if "curl -H" in b)
    python = textwrap.dedent(next(b for b in blocks if "import itertools" in b))
    with product.signed_in() as client:
        (bay,) = [b for b in client.get("/api/v1/bays").json() if b["name"] == "South mat"]
        client.put(f"/api/v1/lessons/{lesson}/bay", json={"bay_id": bay["id"]}).raise_for_status()
        token = product.facts["tokens"]["South mat"]
        told: dict = {}
        exec(python, told)  # noqa: S102 (that it runs is what is tested)
        balls = [{"club": "7i", "path_deg": 1.5}, {"club": "7i", "path_deg": 2.5}]
        assert told["send"](product.address, token, balls, 910_000)["stored"] == 2
        assert told["send"](product.address, token, balls, 910_000)["known"] == 2
        body = json.loads(re.search(r"-d '(.*)'", curl)[1])
        body["shots"][0]["device_sequence"] = 910_009
        headers = dict(pair.split(": ", 1) for pair in re.findall(r'-H "([^"]*)"', curl))
        headers["Authorization"] = headers["Authorization"].replace("$TOKEN", token)
        path = re.search(r"https://coach\.example(\S+)", curl)[1]
        assert httpx.post(product.address + path, json=body, headers=headers, trust_env=False).json()["stored"] == 1
        shots = client.get(f"/api/v1/lessons/{lesson}/shots").json()
    assert [s["path_deg"] for s in shots] == [1.5, 2.5, 3.1]


def balls_on_tape(page: Page, count: int) -> None:
    name = re.compile(rf"^Ball {count}\b")
    expect(page.get_by_role("button", name=name).first).to_be_visible(timeout=PATIENCE * 1000)
