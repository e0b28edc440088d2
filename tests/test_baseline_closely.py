"""Baseline in use: pictures follow the tape; one ball, what if, filters, a mapped file."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from .conftest import faults_of, settled

BALL = re.compile("^Ball ")
UNITLESS = b"Club,Club Speed,Ball Speed,Launch Angle,Launch Direction,Carry,Offline\n" + b"".join(
    b"7 Iron,%d,%d,18.0,%.1f,%d,%.1f\n" % (78 + i % 3, 103 + i % 4, side / 4, 138 + i % 5, side)
    for i, side in enumerate([-12, -8, -3, 0, 2, 5, 9, 12, 4, -6])
)


@pytest.fixture
def baseline(page: Page) -> Page:
    page.goto("/lessons/3/baseline")
    page.get_by_role("heading", name="The pattern").wait_for()
    return page


def test_pictures_follow_the_selection_and_have_tables(baseline: Page, root):
    page = baseline
    for title in ("Start and curve", "Path and face", "Strike on the face", "Low point", "Spread"):
        expect(page.get_by_text(title, exact=True).first).to_be_visible()
    assert faults_of(page, root) == []
    page.keyboard.press("Home")
    chosen = page.get_by_role("main").locator("svg circle.fill-clay")
    expect(chosen.first).to_be_visible()
    page.keyboard.press("Escape")
    expect(chosen).to_have_count(0)
    table = page.get_by_text("As a table").nth(1)
    table.click()
    expect(page.get_by_role("columnheader", name="Path [°]")).to_be_visible()


def test_ball_detail_explains_its_flight(baseline: Page, root):
    page = baseline
    page.keyboard.press("Home")
    expect(page.get_by_role("heading", name="Ball 1", exact=True)).to_be_visible()
    for part in ("Start direction", "Spin-axis tilt", "Ball speed lost"):
        expect(page.get_by_role("region", name=part)).to_be_visible()
    page.get_by_text("All values of this ball").click()
    expect(page.get_by_role("listitem").filter(has_text="Club path").first).to_contain_text("°")
    assert faults_of(page, root) == []


def test_what_if_works_by_keyboard_and_explains(baseline: Page, root):
    page = baseline
    page.get_by_role("radio", name="What if").click()
    path = page.get_by_label("Club path")
    before = path.get_attribute("aria-valuetext")
    path.focus()
    for _ in range(12):
        page.keyboard.press("ArrowLeft")
    expect(page.get_by_text(re.compile("^With club path"))).to_be_visible()
    expect(path).not_to_have_attribute("aria-valuetext", before)
    assert faults_of(page, root) == []
    page.get_by_role("button", name="Reset").click()
    expect(page.get_by_text(re.compile("^Starts from the baseline median"))).to_be_visible()


def test_tape_is_filtered_and_draws_only_visible_balls(baseline: Page):
    page = baseline
    balls = page.get_by_role("region", name="Balls").get_by_role("button", name=BALL)
    settled(page)
    everything = balls.count()
    assert everything
    page.get_by_label("Filter balls").select_option(label="Marked")
    expect(balls).not_to_have_count(everything)
    page.get_by_label("Filter balls").select_option(label="Excluded")
    expect(balls).to_have_count(1)
    expect(balls).to_have_accessible_name(re.compile("excluded"))
    page.get_by_label("Filter balls").select_option(label="All balls")
    expect(balls).to_have_count(everything)


def test_wrong_unit_is_reported_before_storing(page: Page):
    page.goto("/")
    page.get_by_role("button", name="New student").click()
    page.get_by_label("Name", exact=True).fill("Ragna Thrift")
    page.get_by_role("button", name="Save and start lesson").click()
    page.get_by_role("heading", name="What does Ragna's usual miss do?").wait_for()
    page.keyboard.press("Alt+Digit2")
    upload = {"name": "bare.csv", "mimeType": "text/csv", "buffer": UNITLESS}
    page.get_by_label("Shot file to import").set_input_files(upload)
    sheet = page.get_by_role("dialog")
    sheet.get_by_text("contradicts start direction").wait_for(state="detached")
    expect(sheet.get_by_text("only mph gives a plausible median of 79")).to_be_visible()
    sheet.get_by_label("Unit of Ball Speed").select_option(label="km/h")
    expect(sheet.get_by_text("one of the two units is probably wrong")).to_be_visible()
    sheet.get_by_label("Unit of Ball Speed").select_option(label="mph")
    expect(sheet.get_by_text("one of the two units is probably wrong")).to_have_count(0)
    sheet.get_by_label("Sides of Offline").select_option(label="+ is left")
    expect(sheet.get_by_text("point opposite ways")).to_be_visible()
    sheet.get_by_label("Sides of Offline").select_option(label="+ is right")
    sheet.get_by_role("button", name="Store 10 balls").click()
    sheet.get_by_role("button", name="Show pattern").click()
    expect(page.get_by_role("region", name="Balls").get_by_role("button", name=BALL)).to_have_count(10)


def test_two_students_change_over_with_one_tap(page: Page, product):
    client = product.signed_in()
    bay = client.post("/api/v1/bays", json={"name": "Turning mat"}).json()
    lessons = []
    for name in ("Arne Spurrey", "Bodil Campion"):
        student = client.post("/api/v1/students", json={"name": name}).json()
        lesson = client.post("/api/v1/lessons", json={"student_id": student["id"]}).json()
        client.put(f"/api/v1/lessons/{lesson['id']}/bay", json={"bay_id": bay["id"]}).raise_for_status()
        lessons.append(lesson["id"])
    page.goto(f"/lessons/{lessons[0]}/baseline")
    turns = page.get_by_role("group", name="Hitting now")
    expect(turns.get_by_role("button", name="Bodil hits")).to_be_visible()
    turns.get_by_role("button", name="Arne").click()
    expect(turns.get_by_role("button", name="Arne hits")).to_be_visible()
    turns.get_by_role("button", name="Bodil").click()
    expect(page.get_by_role("heading", name="Bodil Campion")).to_be_visible()
    assert client.get(f"/api/v1/lessons/{lessons[1]}").json()["turns"][1]["hitting"]
