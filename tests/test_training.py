"""A practice lesson from the first key to the hidden faults, without monitor, bay or mouse."""

from __future__ import annotations

import json
import re
from contextlib import closing

from playwright.sync_api import Page, Route, expect

from .conftest import faults_of
from .keyboard import choose, press, station

MARKED = 7
SEED = 7


def same_golfer(route: Route) -> None:
    """Anybody may come to a practice lesson; the one of a test is always the same."""
    asked = route.request
    route.continue_(post_data=json.dumps({**asked.post_data_json, "seed": SEED}) if asked.method == "POST" else None)


def test_a_practice_lesson_by_keyboard(page: Page, product, root):
    page.route("**/api/v1/trainings", same_golfer)
    page.goto("/train")
    press(page, "button", "Start: Clear")
    golfer = page.get_by_role("complementary", name="The made-up golfer")
    balls = page.get_by_role("region", name="Balls").get_by_role("button", name=re.compile("^Ball "))
    golfer.get_by_role("button", name="Hit a ball").wait_for()

    # Baseline: five at once twice, and one by its key.
    for hit in (5, 10):
        press(page, "button", "Hit five")
        expect(balls).to_have_count(hit)
    page.keyboard.press("h")
    expect(balls).to_have_count(11)
    expect(golfer.get_by_role("img", name="The swing of ball 11")).to_be_visible()
    assert faults_of(page, root) == []

    expect(page.get_by_role("status").filter(has_text="Ball 11")).to_have_count(1)  # told to who does not see it

    # Check: the swing is there to be looked at again; what is graded is graded.
    station(page, 3)
    expect(page).to_have_title(re.compile("^Check · "))
    page.get_by_role("button", name="not seen").wait_for()
    page.keyboard.press("w")
    page.keyboard.press("1")
    expect(page.get_by_role("table").get_by_role("row")).to_have_count(1)

    # Correct and prove: hit, watch, mark.
    station(page, 5)
    choose(page, "Full")
    press(page, "button", "Start correction")
    page.get_by_text("The next ball gets the first verdict.").wait_for()
    for number in range(12, 12 + MARKED):
        page.keyboard.press("h")
        expect(page.get_by_role("button", name=f"Ball {number}, hidden until its movement is marked")).to_be_visible()
        page.keyboard.press("1" if number % 3 else "3")
        expect(page.get_by_role("button", name=re.compile(f"^Ball {number},.*movement"))).to_be_visible()

    # The end tells; nobody else hears of it.
    station(page, 7)
    press(page, "button", "End lesson and reveal the fault")
    expect(golfer.get_by_role("heading", name="Result")).to_be_focused()
    expect(golfer.get_by_text(re.compile(f"^{11 + MARKED} balls$"))).to_be_visible()
    expect(golfer.get_by_text(re.compile("it was the leading one|this golfer did not have it"))).to_be_visible()
    name = page.get_by_role("heading", level=1).inner_text()
    assert faults_of(page, root) == []
    page.goto("/train")
    expect(page.get_by_text(re.compile(f" checks · {11 + MARKED} balls$"))).to_be_visible()
    with closing(product.signed_in()) as client:
        assert name not in [row["student"]["name"] for row in client.get("/api/v1/roster").json()["rows"]]
        (one,) = client.get("/api/v1/trainings").json()
        client.delete(f"/api/v1/lessons/{one['lesson_id']}/training").raise_for_status()
