"""A robot taps every 100 ms without waiting; hands click twice, use two tabs and go back."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Page, expect

from .keyboard import station
from .test_leaving import CONTACT, answers, eventually
from .test_whole_lesson import GOLFER, NEW_MOVE

TAP_MS = 100
MARKS = "112313"  # done, done, partly, missed, done, missed
MOVEMENTS = {"1": "done", "2": "partly", "3": "missed"}
BASELINE = 12
CHECK = "section[aria-live] h2"
READ_AND_TAP = f"""
    const label = document.querySelector("{CHECK}").textContent;
    window.dispatchEvent(new KeyboardEvent("keydown", {{key: digit}}));
    return label;
"""
DRILL = {"fault": "early-extension", "stage": "full"}


def tap(page: Page, *keys: str) -> None:
    """Press keys, one each 100 ms, whatever the page does meanwhile."""
    for key in keys:
        page.keyboard.press(key)
        page.wait_for_timeout(TAP_MS)


@pytest.fixture
def lesson_of(product, fresh_lesson):
    """lesson_of(name) begins a lesson at a mat, with balls of a baseline: its key."""
    client = product.signed_in()
    mat = next(bay["id"] for bay in client.get("/api/v1/bays").json() if bay["name"] == "North mat")

    def make(name: str) -> int:
        lesson = fresh_lesson(name)
        client.put(f"/api/v1/lessons/{lesson}/bay", json={"bay_id": mat}).raise_for_status()
        product.hit("North mat", *GOLFER, count=BASELINE)
        return lesson

    yield make
    client.close()


def test_fast_robot_completes_the_lesson(page: Page, product, lesson_of):
    lesson = lesson_of("Robot Quillon")
    client = product.signed_in()

    def sent_to_server(what: str):
        return client.get(f"/api/v1/lessons/{lesson}/{what}").json()

    # Ask: the last tap is 100 ms old when the station changes.
    page.goto(f"/lessons/{lesson}/ask")
    page.get_by_role("button", name=CONTACT[0], exact=True).wait_for()
    for name in CONTACT:
        page.get_by_role("button", name=name, exact=True).focus()
        tap(page, "Space")
    station(page, 2)

    # Baseline, and on at once: turf of the last ball.
    tap(page, "t", "Alt+Digit3")
    # Check: a tap grades the look that is on screen at that moment, and no other.
    page.locator(CHECK).wait_for()
    checks = {check["label"]: check for check in client.get("/api/v1/knowledge").json()["checks"]}
    grades = {}
    for digit in "2123123":
        check = checks[page.evaluate(f"digit => {{ {READ_AND_TAP} }}", digit)]
        grades[check["id"]] = check["grades"][int(digit) - 1]
        page.wait_for_timeout(TAP_MS)
    station(page, 5)

    # Correct: taken by two clicks of one hand.
    page.get_by_role("button", name="Start correction").dblclick()
    page.get_by_text("The next ball gets the first verdict.").wait_for()
    product.hit("North mat", *NEW_MOVE, count=len(MARKS))
    page.get_by_text(f"{len(MARKS) - 1} balls are waiting for your mark.").wait_for()  # and the last is asked for

    # Prove: every ball that waits, in turn.
    tap(page, "a", *MARKS, "Alt+Digit7")

    # Take home: a word, and away.
    page.get_by_label("Note to the student").fill("Slow and small.")
    tap(page, "Alt+Digit1")

    eventually(lambda: sorted(answers(product, lesson)["contact"]), sorted(name.lower() for name in CONTACT))
    eventually(lambda: sent_to_server("checks")["grades"], grades)
    eventually(lambda: sent_to_server("shots")[BASELINE - 1]["turf"], "clean")
    choices = sent_to_server("corrections")
    assert (bool(choices["active"]), choices["tried"]) == (True, [])
    eventually(lambda: [s["movement"] for s in sent_to_server("shots")[BASELINE:]], [MOVEMENTS[key] for key in MARKS])
    eventually(lambda: sent_to_server("take-home")["note"], "Slow and small.")
    for name in CONTACT:
        expect(page.get_by_role("button", name=name, exact=True)).to_have_attribute("aria-pressed", "true")


def test_double_click_saves_one_student_and_starts_one_lesson(page: Page, product):
    page.goto("/")
    page.get_by_role("button", name="New student").dblclick()
    page.get_by_label("Name", exact=True).fill("Double Prandle")
    page.get_by_role("button", name="Save and start lesson").dblclick()
    page.get_by_role("heading", name="What does Double's usual miss do?").wait_for()
    students = product.signed_in().get("/api/v1/students").json()
    assert [s["lesson_count"] for s in students if s["name"] == "Double Prandle"] == [1]


def test_two_tabs_keep_each_others_changes(page: Page, product, lesson_of):
    lesson = lesson_of("Twotab Inkersole")
    client = product.signed_in()
    other = page.context.new_page()
    for tab in (page, other):
        tab.goto(f"/lessons/{lesson}/ask")
        expect(tab.get_by_text("Connected", exact=True)).to_be_visible()
    page.get_by_role("button", name="Thin", exact=True).click()
    expect(other.get_by_role("button", name="Thin", exact=True)).to_have_attribute("aria-pressed", "true")
    other.get_by_role("button", name="Heel", exact=True).click()
    expect(page.get_by_role("button", name="Heel", exact=True)).to_have_attribute("aria-pressed", "true")
    eventually(lambda: sorted(answers(product, lesson)["contact"]), ["heel", "thin"])

    # Marks of one tab are seen, and overruled, in the other.
    client.post(f"/api/v1/lessons/{lesson}/corrections", json=DRILL).raise_for_status()
    product.hit("North mat", *NEW_MOVE, count=1)
    for tab in (page, other):
        station(tab, 6)
        tab.get_by_text("is hidden until you mark it").wait_for()
    page.keyboard.press("1")
    expect(other.get_by_role("button", name=re.compile(f"^Ball {BASELINE + 1},.*movement done"))).to_be_visible()
    other.keyboard.press("3")
    expect(page.get_by_role("button", name=re.compile(f"^Ball {BASELINE + 1},.*movement missed"))).to_be_visible()
    other.close()


def test_stations_keep_their_state(page: Page, lesson_of):
    lesson = lesson_of("Back Ovenden")
    page.goto(f"/lessons/{lesson}/ask")
    page.get_by_role("button", name="Thin", exact=True).click()
    station(page, 3)
    heading = page.get_by_role("heading", level=2).first
    expect(heading).not_to_have_text(re.compile("usual miss"))  # the station before is gone
    check = heading.inner_text()
    page.keyboard.press("2")
    row = page.get_by_role("row", name=re.compile(re.escape(check)))
    expect(row).to_be_visible()
    station(page, 7)
    page.get_by_label("Note to the student").fill("Slow and small.")
    for _ in range(2):
        page.go_back()
    expect(page.get_by_role("button", name="Thin", exact=True)).to_have_attribute("aria-pressed", "true")
    page.go_forward()
    expect(row).to_be_visible()
    page.go_forward()
    expect(page.get_by_label("Note to the student")).to_have_value("Slow and small.")
