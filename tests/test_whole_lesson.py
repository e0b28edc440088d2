"""A coach's first lesson in a real browser, by keyboard, with balls from the stand-in monitor."""

from __future__ import annotations

import re

from playwright.sync_api import Page, expect

from .keyboard import answer, press, station, tab_to

STUDENT = "Odd Fennimarsh"
GOLFER = ["--fault", "early-extension/from-inside", "--severity", "1.0", "--handicap", "12", "--seed", "41"]
NEW_MOVE = [*GOLFER[:2], "--severity", "0.15", *GOLFER[4:]]


def test_a_whole_lesson_by_keyboard(page: Page, product):
    page.goto("/")
    page.get_by_role("heading", name="Students").wait_for()
    # A new student.
    press(page, "button", "New student")
    page.get_by_role("dialog").wait_for()
    tab_to(page, "textbox", "Name")
    page.keyboard.type(STUDENT)
    tab_to(page, "spinbutton", "Handicap (empty if unknown)")
    page.keyboard.type("12")
    page.keyboard.press("Enter")

    # Ask: saving the student begins the first lesson.
    page.get_by_role("heading", name="What does Odd's usual miss do?").wait_for()
    tab_to(page, "radio", "Left")
    for name in ("Straight", "Right"):
        page.keyboard.press("ArrowRight")
        expect(page.get_by_role("radio", name=name).first).to_be_focused()
    page.keyboard.press("Space")
    expect(page.get_by_role("radio", name="Right").first).to_be_checked()
    tab_to(page, "button", "Thin")
    page.keyboard.press("Space")
    expect(page.get_by_text("Saved", exact=True)).to_be_visible()

    # Baseline: listen to the bay, let the golfer hit.
    bay = page.get_by_label("Bay")
    bay.focus()
    bay.select_option(label="North mat")
    expect(bay.locator("option:checked")).to_have_text("North mat")  # shown once the server has it
    station(page, 2)
    page.get_by_role("heading", name="The pattern").wait_for()
    product.hit("North mat", *GOLFER, "--double-every", "3", "--nonsense-every", "5", count=14)
    expect(page.get_by_role("region", name="Balls").get_by_role("button", name=re.compile("^Ball "))).to_have_count(14)
    expect(page.get_by_role("definition").filter(has_text="Path")).to_contain_text("in-to-out")

    # Check: the most telling look comes first; grade looks until the seat line is asked for.
    station(page, 3)
    heading = page.get_by_role("heading", name="Seat line")
    to_come = page.get_by_role("region", name="Next checks").get_by_role("button", name=re.compile("^Seat line"))
    heading.or_(to_come).first.wait_for()
    if not heading.count():  # these balls may ask for it first
        to_come.click()
        heading.wait_for()
    page.keyboard.press("3")
    expect(page.get_by_role("row", name=re.compile("Seat line.*leaves early"))).to_be_visible()

    # Cause.
    station(page, 4)
    expect(page.get_by_role("heading", name=re.compile("^Early extension: .*likely"))).to_be_visible()

    # Correct: take the first candidate at full speed.
    station(page, 5)
    page.get_by_role("radio", name="Full").click()
    press(page, "button", "Start correction")

    # Prove: balls come live, one key marks each.
    page.get_by_text("The next ball gets the first verdict.").wait_for()
    answer(page, "Is an alignment stick down?", "Yes")
    answer(page, "Do you see the ball fly before you mark?", "No")
    product.hit("North mat", *NEW_MOVE, count=12)
    expect(page.get_by_role("region", name="Balls").get_by_role("button", name=re.compile("^Ball "))).to_have_count(26)
    expect(page.get_by_text("Did the body do it?")).to_be_visible()
    for number in range(15, 27):
        page.keyboard.press("Home") if number == 15 else None
        for _ in range(14 if number == 15 else 1):
            page.keyboard.press("ArrowRight")
        expect(page.get_by_role("button", name=f"Ball {number}, hidden until its movement is marked")).to_be_visible()
        page.keyboard.press("1")
        expect(page.get_by_role("button", name=re.compile(f"^Ball {number},.*movement done"))).to_be_visible()
    page.keyboard.press("Escape")
    status = page.get_by_role("region", name="Change so far").get_by_role("heading")
    # Every ball changed and every ball was made: four old and four new tell what did it.
    expect(status).to_contain_text("Supported")
    page.keyboard.press("c")
    for place in range(1, 9):
        expect(page.get_by_text(f"ball {place} of 8")).to_be_visible()
        old = page.get_by_text("Old move", exact=True).count() > 0
        product.hit("North mat", *(GOLFER if old else NEW_MOVE), count=1)
    expect(page.get_by_role("region", name="Balls").get_by_role("button", name=re.compile("^Ball "))).to_have_count(34)
    expect(status).to_contain_text("Verified")

    # A mistake is taken back, and a reload loses nothing.
    page.get_by_role("button", name=re.compile("^Ball 26,")).click()
    page.keyboard.press("3")
    expect(page.get_by_role("button", name=re.compile("^Ball 26,.*movement missed"))).to_be_visible()
    page.keyboard.press("z")
    expect(page.get_by_role("button", name=re.compile("^Ball 26,.*movement done"))).to_be_visible()
    page.reload()
    expect(page.get_by_role("region", name="Change so far").get_by_role("heading")).to_contain_text("Verified")
    page.keyboard.press("?")
    expect(page.get_by_role("dialog", name="Keys")).to_be_visible()
    page.keyboard.press("Escape")

    # Take home.
    station(page, 7)
    tab_to(page, "textbox", "Note to the student")
    page.keyboard.type("Slow and small.")
    article = page.get_by_role("article")
    expect(article).to_contain_text("Slow and small.")
    expect(article).to_contain_text("Proven today")
    expect(article).to_contain_text("Not medical advice")

    # The list resumes the lesson where it was left.
    page.goto("/")
    link = page.get_by_role("listitem").filter(has_text=STUDENT).get_by_role("link", name="Resume at take home")
    expect(link).to_be_visible()
