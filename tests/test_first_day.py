"""A new academy's first day: bay, monitor, phone, noisy balls, a lost line, a foreign file; each ball once."""

from __future__ import annotations

import json
import re
import subprocess
import sys
import time
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect

from launcher.application import make_ready

from .conftest import PATIENCE_SECONDS, faults_of

FOREIGN = Path("formats/tests/data/tables/hall_three.csv")
PHONE = {"width": 390, "height": 844}


@pytest.fixture
def newcomer(browser: Browser, product):
    """The head coach of an empty academy, signed in through the page."""
    academy = f"academy|Tern Hill {time.monotonic_ns()}|tern{time.monotonic_ns()}"
    result = json.loads(make_ready(product.folder, product.loader, academy))
    context = browser.new_context(
        reduced_motion="reduce", viewport={"width": 1280, "height": 800}, base_url=product.address
    )
    page = context.new_page()
    page.goto("/")
    page.get_by_label("Username").fill(result["username"])
    page.get_by_label("Password").fill(result["password"])
    page.get_by_role("button", name="Sign in", exact=True).click()
    page.get_by_text("No students yet.").wait_for()
    yield page
    context.close()


def tape(page: Page):
    return page.get_by_role("region", name="Balls").get_by_role("button", name=re.compile("^Ball "))


def monitor(product, token: str, *options: str, wait: bool = True) -> subprocess.Popen:
    command = [sys.executable, "-m", "instavis_standins.monitor", f"--server={product.address}", f"--token={token}"]
    process = subprocess.Popen([*command, *options])
    if wait:
        assert process.wait(PATIENCE_SECONDS) == 0
    return process


def test_empty_academy_to_first_lesson(newcomer: Page, browser: Browser, product, root):
    page = newcomer
    # A bay and its monitor.
    page.get_by_role("link", name="Bays").click()
    page.get_by_label("New bay").fill("Lee side")
    page.get_by_role("button", name="Add bay").click()
    page.get_by_label("New device").fill("Monitor")
    page.get_by_role("button", name="Create token").click()
    token = page.locator("code").inner_text()

    # A student; the intake goes out by link and is filled on a phone.
    page.get_by_role("link", name="Students").click()
    page.get_by_role("button", name="New student").click()
    page.get_by_label("Name", exact=True).fill("Solveig Marram")
    page.get_by_role("button", name="Save and start lesson").click()
    page.get_by_role("button", name="Link for the phone").click()
    address = page.locator("code").inner_text()
    phone = browser.new_context(reduced_motion="reduce", viewport=PHONE, base_url=product.address).new_page()
    phone.goto(address)
    phone.get_by_role("heading", name="Before your lesson, Solveig").wait_for()
    assert phone.evaluate("document.documentElement.scrollWidth") <= PHONE["width"]
    assert faults_of(phone, root) == []
    phone.get_by_role("radiogroup", name="It starts (seen from behind the ball)").get_by_role(
        "radio", name="Left"
    ).click()
    phone.get_by_role("button", name="Knee").click()
    phone.get_by_label("A good one feels like").fill("Nothing at all")
    expect(phone.get_by_text("Saved. You can close this page.")).to_be_visible()
    page.reload()
    expect(page.get_by_text("Filled in by the student.")).to_be_visible()
    expect(page.get_by_role("button", name="Knee: stiff")).to_be_visible()

    # Balls came before anybody listened: they wait in the tray and are taken in.
    monitor(product, token, "--count", "3", "--pace", "0", "--seed", "8")
    page.get_by_label("Bay").select_option(label="Lee side")
    page.keyboard.press("Alt+Digit2")
    page.get_by_role("button", name="Add to this lesson").click()
    expect(tape(page)).to_have_count(3)

    # A block with noise, doubles and a lost line.
    monitor(product, token, "--count", "5", "--pace", "0", "--double-every", "2", "--nonsense-every", "2")
    expect(tape(page)).to_have_count(8)
    product.kill_server()
    expect(page.get_by_text("Connection lost. Reconnecting… Your balls are safe.")).to_be_visible()
    waiting = monitor(product, token, "--count", "4", "--pace", "0", "--seed", "5", wait=False)
    time.sleep(1)
    product.start_server()
    assert waiting.wait(PATIENCE_SECONDS) == 0
    expect(tape(page)).to_have_count(12, timeout=20_000)

    # A foreign table: decimal commas, letters for sides, units in a row of their own, summary rows.
    page.get_by_label("Shot file to import").set_input_files(str(root / FOREIGN))
    sheet = page.get_by_role("dialog")
    expect(sheet.get_by_text("numbers use a decimal comma")).to_be_visible()
    assert faults_of(page, root) == []
    sheet.get_by_role("button", name="Store 14 balls").click()
    expect(sheet.get_by_text("14 balls imported.")).to_be_visible()
    sheet.get_by_role("button", name="Show pattern").click()
    expect(page.get_by_role("region", name="Balls").get_by_text("26", exact=True).first).to_be_visible()
    # The same file again brings nothing.
    page.get_by_label("Shot file to import").set_input_files(str(root / FOREIGN))
    expect(page.get_by_text("A file like this was imported before")).to_be_visible()
    page.get_by_role("button", name="Store 14 balls").click()
    expect(page.get_by_text("0 balls imported, 14 already here.")).to_be_visible()
    page.get_by_role("button", name="Show pattern").click()
    lesson = re.search(r"/lessons/(\d+)/", page.url)[1]
    shots = page.evaluate(f"fetch('/api/v1/lessons/{lesson}/shots').then((r) => r.json())")
    assert [s["number"] for s in shots] == list(range(1, 27))
    assert len({s["shot_id"] for s in shots}) == 26


def test_balls_are_entered_by_hand_in_three_taps(newcomer: Page, root):
    page = newcomer
    page.get_by_role("button", name="New student").click()
    page.get_by_label("Name", exact=True).fill("Ulf Sedgely")
    page.get_by_role("button", name="Save and start lesson").click()
    page.get_by_role("heading", name="What does Ulf's usual miss do?").wait_for()
    page.keyboard.press("Alt+Digit2")
    page.get_by_role("button", name="Balls by hand").click()
    pad = page.get_by_role("region", name="Add a ball by hand")
    for i in range(9):
        pad.get_by_role("group", name="Started").get_by_role("button", name="left", exact=True).click()
        pad.get_by_role("group", name="Curved").get_by_role("button", name="right", exact=True).click()
        pad.get_by_role("button", name="clean").click()
        expect(tape(page)).to_have_count(i + 1)
    expect(page.get_by_text("From words, not measured")).to_be_visible()
    expect(page.get_by_role("definition").filter(has_text="Path")).to_contain_text("out-to-in")
    assert faults_of(page, root) == []

    # Set one apart with a reason, take it back, cut the block and join it again.
    page.keyboard.press("End")
    page.get_by_label("Reason to exclude").select_option("Someone else's ball")
    expect(page.get_by_role("button", name=re.compile("^Ball 9,.*excluded: Someone else's ball"))).to_be_visible()
    page.keyboard.press("z")
    expect(page.get_by_role("button", name=re.compile("excluded"))).to_have_count(0)
    page.get_by_role("button", name="Split the block before ball 9").click()
    page.get_by_role("button", name="Merge with previous block").click()
    expect(page.get_by_role("button", name="Split the block before ball 9")).to_be_visible()
