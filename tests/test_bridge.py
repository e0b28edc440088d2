"""A monitor with a foreign protocol: through the bridge to a lesson's tape and its proof."""

from __future__ import annotations

import json
import os
import re
import subprocess
import sys
import textwrap
import time
from collections.abc import Callable, Sequence
from dataclasses import replace
from pathlib import Path

import httpx
import pytest
from playwright.sync_api import Page, expect

from instavis_standins.dialects import dialects
from instavis_standins.golfer import Mat, Player
from instavis_standins.writing import SHAPES, Outlet

from .keyboard import answer

BASELINE = 8
PATIENCE = 60
FAULTY = Player(faults=("early-extension/from-inside",), severity=1.0, handicap=3, seed=41)
BETTER = replace(FAULTY, severity=0.1)
ROWS_WAIT = re.compile("rows of .* are waiting")
BASELINE_BALLS, PROOF_MARKS = 14, "113" * 6


@pytest.fixture
def programs():
    """Whatever a test starts ends with it."""
    running: list[subprocess.Popen] = []
    yield running
    for program in running:
        program.kill()
        program.wait()


HERE = [sys.executable, "-m", "instavis_bridge"]


def started(source: str, state: Path, server: str, *more: str, program: Sequence[str] = HERE) -> subprocess.Popen:
    command = [*program, source, f"--server={server}", f"--state={state}", "--page=-1"]
    return subprocess.Popen([*command, *more], env=os.environ, stdout=subprocess.PIPE, text=True)


def downloaded(page: Page, folder: Path) -> list[str]:
    """The one file of the Bays page, run by a Python that has nothing of ours."""
    with page.expect_download() as coming:
        page.get_by_role("link", name="Download the bridge").click()
    coming.value.save_as(folder / coming.value.suggested_filename)
    return [sys._base_executable, "-I", "-S", str(folder / "instavis-bridge.pyz")]


def hit(outlet: Outlet, mat: Mat, count: int) -> None:
    for _ in range(count):
        outlet.send([mat.hit()])


def code_for(page: Page) -> str:
    """What the Bays page says when a bridge is added to the bay."""
    page.goto("/bays")
    bridges = page.get_by_role("region", name="Bridges of North mat")
    bridges.get_by_role("button", name="Add bridge").click()
    return bridges.get_by_role("status").locator("strong").inner_text()


def listened_to(page: Page, lesson: int) -> None:
    """Rows that come before the lesson listens are nobody's."""
    page.goto(f"/lessons/{lesson}/baseline")
    with page.expect_response(re.compile(rf"/lessons/{lesson}/bay$")) as taken:
        page.get_by_label("Bay").select_option(label="North mat")
    assert taken.value.ok


def columns_confirmed(page: Page, path: str = "") -> None:
    """Look at what the columns are taken for and agree; ``path`` is the header that has to be the path."""
    waits = page.get_by_role("alert").filter(has_text=ROWS_WAIT)
    waits.get_by_role("button", name="Set the columns").click()
    sheet = page.get_by_role("dialog")
    if path:
        expect(sheet.get_by_label(f"Meaning of {path}")).to_have_value("path_deg")
    sheet.get_by_role("button", name=re.compile("Confirm")).click()
    expect(sheet).to_be_hidden()


def test_file_rows_become_balls_and_survive_a_kill(page: Page, product, fresh_lesson, tmp_path, programs):
    lesson = fresh_lesson("Orla Bridgewater")
    folder = tmp_path / "balls"
    folder.mkdir()
    outlet, mat = SHAPES["folder-grow"](dialects()["german"], str(folder / "session.csv")), Mat(Player(seed=5))
    code, state = code_for(page), tmp_path / "state"
    program = downloaded(page, tmp_path)
    bridge = started(str(folder), state, product.address, f"--code={code}", "--name=Bay PC", program=program)
    programs.append(bridge)
    assert "paired with North mat" in bridge.stdout.readline()
    bridges = page.get_by_role("region", name="Bridges of North mat")
    expect(bridges.get_by_text(re.compile("balls; no ball yet"))).to_be_visible(timeout=PATIENCE * 1000)
    listened_to(page, lesson)
    hit(outlet, mat, BASELINE)
    columns_confirmed(page, "Schlägerbahn [°]")
    balls_on_tape(page, BASELINE)

    # A ball that is written while the bridge is dead comes as soon as it lives again; from then on at once.
    bridge.kill()
    bridge.wait()
    hit(outlet, mat, 1)
    programs.append(started(str(folder), state, product.address, program=program))
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
    bridges.get_by_role("listitem").filter(has_text="Bay PC").get_by_role("button", name="Disconnect").click()
    expect(bridges.get_by_text("Bay PC")).to_be_hidden()


@pytest.mark.parametrize(
    ("shape", "dialect"),
    [
        ("folder-grow", "swedish-units"),
        ("folder-rewrite", "short-english"),
        ("file-a-ball", "french"),
        ("tcp-json", "nested"),
        ("ws-json", "nested"),
        ("serial", "dutch"),
    ],
)
def test_every_file_shape_completes_baseline_and_proof(
    shape, dialect, page: Page, product, fresh_lesson, tmp_path, programs
):
    lesson = fresh_lesson(f"Wyn {shape.title()}")
    folder = tmp_path / "balls"
    folder.mkdir()
    place = {"folder-grow": folder / "session.csv", "folder-rewrite": folder / "session.csv", "file-a-ball": folder}
    outlet = SHAPES[shape](dialects()[dialect], str(place.get(shape, 0)))
    source = str(folder) if shape in place else outlet.place
    bridge = started(source, tmp_path / "state", product.address, f"--code={code_for(page)}", f"--name={shape}")
    programs.append(bridge)
    assert "paired with North mat" in bridge.stdout.readline()
    mine = page.get_by_role("region", name="Bridges of North mat").get_by_role("listitem").filter(has_text=shape)
    expect(mine).to_contain_text("no ball yet", timeout=PATIENCE * 1000)
    expect(mine).not_to_contain_text("never connected")
    until(outlet.is_heard)

    listened_to(page, lesson)
    golfers = {"1": Mat(BETTER), "3": Mat(FAULTY)}
    hit(outlet, golfers["3"], BASELINE_BALLS)
    last = page.get_by_role("button", name=re.compile(rf"^Ball {BASELINE_BALLS}\b")).first
    expect(last.or_(page.get_by_role("alert").filter(has_text=ROWS_WAIT))).to_be_visible(timeout=PATIENCE * 1000)
    if not last.is_visible():  # the same columns were said for this bay before
        columns_confirmed(page)
    expect(last).to_be_visible()
    expect(page.get_by_role("definition").filter(has_text="Path")).to_contain_text("in-to-out")

    page.goto(f"/lessons/{lesson}/correct")
    page.get_by_role("radio", name="Full").click()
    page.get_by_role("button", name="Start correction").click()
    page.get_by_text("The next ball gets the first verdict.").wait_for()
    answer(page, "Is an alignment stick down?", "Yes")
    status = page.get_by_role("region", name="Change so far").get_by_role("heading")
    words = {"1": "done", "3": "missed"}
    for number, key in enumerate(PROOF_MARKS, BASELINE_BALLS + 1):
        hit(outlet, golfers[key], 1)
        expect(page.get_by_role("button", name=f"Ball {number}, hidden until its movement is marked")).to_be_visible()
        page.keyboard.press(key)
        marked = re.compile(f"^Ball {number},.*movement {words[key]}")
        expect(page.get_by_role("button", name=marked)).to_be_visible()
    status = page.get_by_role("region", name="Change so far").get_by_role("heading")
    expect(status).to_contain_text("Verified")
    with product.signed_in() as client:
        shots = client.get(f"/api/v1/lessons/{lesson}/shots").json()
    assert [round(s["path_deg"], 1) for s in shots] == [round(b["path_deg"], 1) for b in outlet.balls]
    outlet.close()


def test_custom_program_sends_balls_as_documented(product, fresh_lesson, root):
    """The curl and the Python of docs/bridge.md, as they stand there."""
    lesson = fresh_lesson("Sorrel Handmade")
    blocks = re.findall(r"\n\n((?:    .*\n|\n)+)", (root / "docs" / "bridge.md").read_text())
    curl = next(b for b in blocks if "curl -H" in b)
    python = textwrap.dedent(next(b for b in blocks if "import itertools" in b))
    with product.signed_in() as client:
        (bay,) = [b for b in client.get("/api/v1/bays").json() if b["name"] == "South mat"]
        client.put(f"/api/v1/lessons/{lesson}/bay", json={"bay_id": bay["id"]}).raise_for_status()
        token = product.facts["tokens"]["South mat"]
        result: dict = {}
        exec(python, result)  # noqa: S102 (that it runs is what is tested)
        balls = [{"club": "7i", "path_deg": 1.5}, {"club": "7i", "path_deg": 2.5}]
        assert result["send"](product.address, token, balls, 910_000)["stored"] == 2
        assert result["send"](product.address, token, balls, 910_000)["known"] == 2
        body = json.loads(re.search(r"-d '(.*)'", curl)[1])
        body["shots"][0]["device_sequence"] = 910_009
        headers = dict(pair.split(": ", 1) for pair in re.findall(r'-H "([^"]*)"', curl))
        headers["Authorization"] = headers["Authorization"].replace("$TOKEN", token)
        path = re.search(r"https://coach\.example(\S+)", curl)[1]
        assert httpx.post(product.address + path, json=body, headers=headers, trust_env=False).json()["stored"] == 1
        shots = client.get(f"/api/v1/lessons/{lesson}/shots").json()
    assert [s["path_deg"] for s in shots] == [1.5, 2.5, 3.1]


def until(come: Callable[[], bool]) -> None:
    end = time.monotonic() + PATIENCE
    while not come():
        assert time.monotonic() < end
        time.sleep(0.05)


def balls_on_tape(page: Page, count: int) -> None:
    name = re.compile(rf"^Ball {count}\b")
    expect(page.get_by_role("button", name=name).first).to_be_visible(timeout=PATIENCE * 1000)
