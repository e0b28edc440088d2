"""Checking the body: by keyboard, on stills, in recordings; and the knowledge behind it, on the real screens."""

from __future__ import annotations

import re
from contextlib import closing

import numpy as np
from playwright.sync_api import Page, expect

from instavis_core.simulate.recording import MOTION_SERIES, PRESSURE_SERIES, record_swing

from .conftest import PATIENCE_SECONDS, faults_of, settled


def lesson_of(product, name: str) -> int:
    with closing(product.signed_in()) as client:
        student = next(s for s in client.get("/api/v1/students").json() if s["name"] == name)
        return client.get(f"/api/v1/lessons?student_id={student['id']}").json()[0]["id"]


def swing_file(tmp_path, seed: int = 4, **severity):
    faults = {k.replace("_", "-"): v for k, v in severity.items()}
    swing = record_swing(faults, np.random.default_rng(seed), (*MOTION_SERIES, *PRESSURE_SERIES))
    file = tmp_path / "swing.csv"
    file.write_text(swing.to_csv())
    return file


def test_body_screen_works_by_keyboard(page: Page, fresh_lesson, root):
    page.goto(f"/lessons/{fresh_lesson('Hedda Stiffmoor')}/check")
    body = page.get_by_role("region", name="Body screen")
    body.get_by_role("button", name="Start body screen").press("Enter")
    sheet = page.get_by_role("dialog", name="Body screen")
    expect(sheet).to_contain_text("never through pain")
    # A digit grades the part that has the focus, not the look behind the sheet.
    free = sheet.get_by_role("radiogroup", name="Trail hip, in").get_by_role("radio", name="Free")
    free.focus()
    page.keyboard.press("ArrowRight")
    expect(sheet.get_by_role("radio", name="Limited").first).to_be_focused()
    page.keyboard.press("2")
    page.keyboard.press("Space")
    expect(sheet.get_by_role("radio", name="Limited").first).to_be_checked()
    assert faults_of(page, root) == []
    page.keyboard.press("Escape")
    expect(body).to_contain_text("The trail hip turns in only a little. Less turn back is enough for this body.")
    expect(page.get_by_text("Answered so far")).to_have_count(0)
    # Touched again it is taken back.
    body.get_by_role("button", name="Test again").press("Enter")
    sheet.get_by_role("radio", name="Limited").first.press("Space")
    expect(sheet.get_by_role("radio", name="Limited").first).not_to_be_checked()
    page.keyboard.press("Escape")
    expect(body).to_contain_text("Five short tests")


def test_checks_are_answered_by_keyboard(page: Page, fresh_lesson, root):
    page.goto(f"/lessons/{fresh_lesson('Anka Reedmoor')}/check")
    heading = page.get_by_role("heading", level=2)
    first = heading.inner_text()
    page.keyboard.press(".")
    expect(heading).not_to_have_text(first)
    page.keyboard.press(",")
    expect(heading).to_have_text(first)
    page.keyboard.press("2")
    expect(page.get_by_role("row", name=re.compile(first))).to_be_visible()
    expect(heading).not_to_have_text(first)
    page.get_by_role("radio", name="By view").click()
    expect(page.get_by_role("region", name="Next checks")).to_contain_text("Stance width")
    assert faults_of(page, root) == []
    # A grade is taken back by "not seen".
    page.get_by_role("button", name=f"Change {first}").click()
    expect(heading).to_have_text(first)
    page.keyboard.press("0")
    expect(page.get_by_role("row", name=re.compile(first))).to_have_count(0)


def test_still_is_measured_by_keyboard(page: Page, product, root):
    page.goto(f"/lessons/{lesson_of(product, 'Wren Stroudley')}/check")
    page.get_by_role("button", name=re.compile("^Pelvis position at impact")).first.click()
    page.get_by_role("button", name="Measure on a picture").click()
    sheet = page.get_by_role("dialog")
    picture = sheet.get_by_role("application")
    for name in ("lead hip", "trail hip"):
        expect(sheet.get_by_role("status")).to_contain_text(f"Click {name}")
        settled(page)  # what the last point changed is there
        for _ in range(3):
            picture.press("Shift+ArrowRight")
        picture.press("Enter")
    expect(sheet.get_by_text("measured on the picture")).to_be_visible()
    assert faults_of(page, root) == []
    sheet.get_by_role("button", name=re.compile("^Answer ")).click()
    expect(sheet).to_have_count(0)
    expect(page.get_by_text("measured on a still")).to_be_visible()
    # The sample student stays as found: the grade is taken back.
    page.get_by_role("button", name="Change Pelvis position at impact").click()
    page.keyboard.press("0")
    expect(page.get_by_text("measured on a still")).to_have_count(0)


def test_non_picture_is_reported_and_the_guide_continues(page: Page, fresh_lesson, tmp_path):
    page.goto(f"/lessons/{fresh_lesson('Sunniva Holt')}/check")
    page.get_by_role("radio", name="By moment of the swing").click()
    for _ in range(9):
        page.keyboard.press(".")
    page.get_by_role("button", name="Measure on a picture").click()
    sheet = page.get_by_role("dialog")
    broken = tmp_path / "broken.png"
    broken.write_bytes(b"\x89PNG\r\n\x1a\n nothing")
    sheet.locator("input[type=file]").set_input_files(str(broken))
    expect(sheet.get_by_role("alert")).to_contain_text("PNG, JPEG or WebP")
    expect(sheet.get_by_role("status")).to_contain_text("picture")


def test_recording_proposes_answers_to_accept(page: Page, fresh_lesson, tmp_path, root):
    page.goto(f"/lessons/{fresh_lesson('Eskil Varg')}/check")
    broken = tmp_path / "broken.csv"
    broken.write_text("time_s,sway_cm\n0,1\n0.01,much\n")
    picker = page.get_by_label("Recording file")
    picker.set_input_files(str(broken))
    expect(page.get_by_role("alert")).to_contain_text("line 3, sway_cm")
    picker.set_input_files(str(swing_file(tmp_path, early_extension=1.0)))
    sheet = page.get_by_role("dialog")
    expect(sheet.get_by_text("The pelvis starts down first.")).to_be_visible()
    before = sheet.get_by_role("status").inner_text()
    sheet.get_by_role("button", name="10 ms later").click()
    expect(sheet.get_by_role("status")).to_contain_text("set by hand")
    expect(sheet.get_by_role("status")).not_to_have_text(before)
    assert faults_of(page, root) == []
    sheet.get_by_role("button", name="Accept: leaves early for Seat line").click()
    expect(sheet.get_by_role("button", name="Accepted: leaves early for Seat line")).to_be_disabled()
    page.keyboard.press("Escape")
    expect(page.get_by_role("row", name=re.compile("Seat line")).first).to_contain_text("from a recording")


def test_belt_and_mat_record_the_bays_balls(page: Page, product, fresh_lesson):
    lesson = fresh_lesson("Runa Skarsund")
    with closing(product.signed_in()) as client:
        bay = next(b for b in client.get("/api/v1/bays").json() if b["name"] == "North mat")
        client.put(f"/api/v1/lessons/{lesson}/bay", json={"bay_id": bay["id"]})
    golfer = ("--fault=hip-stall", "--severity=1", "--seed=5")
    recorders = [product.recorder(kind, "North mat", "--count=4", *golfer) for kind in ("belt", "mat")]
    assert product.monitor("North mat", "--count=4", "--pace=1.5", *golfer).wait(PATIENCE_SECONDS) == 0
    for recorder in recorders:
        assert recorder.wait(PATIENCE_SECONDS) == 0
    with closing(product.signed_in()) as client:
        result = client.get(f"/api/v1/lessons/{lesson}/recordings").json()
    assert len(result["recordings"]) == 8
    grades = {p["check"]: p["grade"] for p in result["proposals"]}
    assert grades["pelvis-open-impact"] == "facing-ball"
    page.goto(f"/lessons/{lesson}/check")
    expect(page.get_by_role("region", name="Recordings")).to_contain_text("8 swings")


def test_cause_board_compares_rivals_and_shows_history(page: Page, product, root):
    lesson = lesson_of(product, "Jorun Aldwhistle")
    page.goto(f"/lessons/{lesson}/cause")
    expect(page.get_by_text("You'd rule it out if you saw")).to_be_visible()
    page.get_by_role("radio", name="Compare two causes").click()
    expect(page.get_by_text("Checks that separate them:")).to_be_visible()
    page.get_by_role("radio", name="History").click()
    expect(page.get_by_text("Before any check, from balls and words")).to_be_visible()
    expect(page.get_by_text("After the first check")).to_be_visible()
    assert faults_of(page, root) == []
    page.get_by_role("link", name="Explain to student").click()
    expect(page.get_by_role("heading", name="Why the ball does what it does")).to_be_visible()
    expect(page.get_by_role("main")).to_contain_text("Early extension")
    assert faults_of(page, root) == []


def test_head_coach_changes_the_knowledge_and_restores_it(page: Page, root):
    page.goto("/knowledge")
    page.get_by_role("button", name="Hip stall").click()
    page.get_by_label("Prevalence").fill("3")
    expect(page.get_by_role("alert").first).to_contain_text("share between 0 and 1")
    expect(page.get_by_role("button", name=re.compile("Save as version"))).to_be_disabled()
    page.get_by_label("Prevalence").fill("0.01")
    expect(page.get_by_role("status")).to_contain_text(re.compile("newest lessons differently"))
    assert faults_of(page, root) == []
    page.get_by_label("Why").fill("Rare here.")
    page.get_by_role("button", name=re.compile("Save as version")).click()
    page.get_by_role("radio", name="Versions").click()
    expect(page.get_by_text("Rare here.")).to_be_visible()
    page.get_by_role("button", name="Restore default").click()
    page.get_by_role("button", name=re.compile("Save as version")).click()
    expect(page.get_by_text("Everything as shipped.").first).to_be_visible()
