"""Lost lines, killed servers and databases, broken files: no ball lost or doubled, and the screen catches up."""

from __future__ import annotations

import re
import subprocess
import time

from playwright.sync_api import Page, expect

from instavis_standins.protocol import LINE_DOWN

from .conftest import PATIENCE_SECONDS

BALLS = re.compile("^Ball ")


def new_lesson(product, bay: str = "South mat", hand: str = "right") -> tuple:
    """A client, and a fresh lesson that listens to a bay."""
    client = product.signed_in()
    student = client.post("/api/v1/students", json={"name": f"Stormy {time.monotonic_ns()}", "hand": hand}).json()
    lesson = client.post("/api/v1/lessons", json={"student_id": student["id"]}).json()
    bay_id = next(b["id"] for b in client.get("/api/v1/bays").json() if b["name"] == bay)
    client.put(f"/api/v1/lessons/{lesson['id']}/bay", json={"bay_id": bay_id}).raise_for_status()
    return client, lesson["id"]


def tape(page: Page):
    return page.get_by_role("region", name="Balls").get_by_role("button", name=BALLS)


def test_the_screen_catches_up_after_the_server_was_killed(page: Page, product):
    client, lesson = new_lesson(product)
    page.goto(f"/lessons/{lesson}/baseline")
    expect(page.get_by_text("Connected", exact=True)).to_be_visible()
    product.hit("South mat", "--seed", "1", count=4)
    expect(tape(page)).to_have_count(4)
    product.kill_server()
    expect(page.get_by_text("Connection lost. Reconnecting… Your balls are safe.")).to_be_visible()
    five = ("--count", "5", "--pace", "0", "--seed", "2")
    waiting = product.monitor("South mat", *five, stderr=subprocess.PIPE, text=True)
    assert LINE_DOWN in waiting.stderr.readline()
    product.start_server()
    assert waiting.wait(PATIENCE_SECONDS) == 0
    expect(page.get_by_text("Connected", exact=True)).to_be_visible(timeout=20_000)
    expect(tape(page)).to_have_count(9)
    numbers = [s["number"] for s in client.get(f"/api/v1/lessons/{lesson}/shots").json()]
    assert numbers == list(range(1, 10))


def test_confirmed_balls_survive_a_killed_database(product):
    client, lesson = new_lesson(product)
    product.hit("South mat", "--seed", "3", count=6)
    product.kill_database()
    product.kill_server()
    product.start_database()
    product.start_server()
    assert len(client.get(f"/api/v1/lessons/{lesson}/shots").json()) == 6
    product.hit("South mat", "--seed", "4", "--double-every", "1", count=2)
    assert len(client.get(f"/api/v1/lessons/{lesson}/shots").json()) == 8


def test_monitor_with_a_wrong_token_stops(product):
    product.facts["tokens"]["nowhere"] = "iv_wrong"
    assert product.monitor("nowhere", "--count", "1").wait(PATIENCE_SECONDS) == 1


def test_balls_that_arrive_while_a_dialog_is_open_are_kept_and_shown(page: Page, product):
    _, lesson = new_lesson(product)
    page.goto(f"/lessons/{lesson}/baseline")
    expect(page.get_by_text("Connected", exact=True)).to_be_visible()
    page.keyboard.press("?")
    product.hit("South mat", "--seed", "5", count=3)
    page.keyboard.press("Escape")
    expect(tape(page)).to_have_count(3)


def test_broken_file_names_the_line_and_good_one_imports(page: Page, product, cli):
    _, lesson = new_lesson(product)
    page.goto(f"/lessons/{lesson}/baseline")
    picker = page.get_by_label("Shot file to import")
    picker.set_input_files({"name": "bad.csv", "mimeType": "text/csv", "buffer": b"path_deg\n1\n999\n"})
    sheet = page.get_by_role("dialog")
    expect(sheet).to_contain_text("Line 3: path_deg is 999.0; expected a number from -40 to 40")
    expect(sheet.get_by_role("button", name="Store 1 balls")).to_be_disabled()
    sheet.get_by_role("button", name="Discard").click()
    expect(tape(page)).to_have_count(0)
    shots = cli("simulate", "--fault", "early-extension", "--shots", "30", "--seed", "7")
    picker.set_input_files({"name": "good.ndjson", "mimeType": "application/json", "buffer": shots.encode()})
    expect(page.get_by_text("30 balls imported.")).to_be_visible()
    expect(tape(page)).to_have_count(30)


def test_monitor_set_to_the_other_hand_loses_no_ball(page: Page, product):
    """The lesson says so at once, in one line with what to do; taken mirrored, the balls stand where they belong."""
    _, lesson = new_lesson(product)
    page.goto(f"/lessons/{lesson}/baseline")
    expect(page.get_by_text("Connected", exact=True)).to_be_visible()
    product.hit("South mat", "--hand", "left", "--seed", "8", count=3)
    text = page.get_by_role("alert").filter(has_text="3 balls came marked left-handed")
    expect(text).to_contain_text("They are stored.")
    expect(tape(page)).to_have_count(0)
    text.get_by_role("button", name="Show the records").click()
    expect(page.get_by_role("dialog")).to_contain_text('"hand": "left"')
    page.get_by_role("button", name="Done").click()
    text.get_by_role("button", name="Add mirrored").click()
    expect(tape(page)).to_have_count(3)
    expect(text).to_have_count(0)
    product.hit("South mat", "--seed", "9", count=2)
    expect(tape(page)).to_have_count(5)
