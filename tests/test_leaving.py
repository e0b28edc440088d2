"""Changes made just before leaving a page reach the server: by station, link, reload, closed tab, offline."""

from __future__ import annotations

import re
import time
from collections.abc import Callable

import pytest
from playwright.sync_api import Page, Route, expect

from .keyboard import station

PATIENCE_SECONDS = 20
TAP_MS = 100
CONTACT = ("Thin", "Fat", "Heel", "Toe")

LEAVE: dict[str, Callable[[Page], object]] = {
    "station": lambda page: station(page, 2),
    "link": lambda page: page.get_by_role("link", name="Instavis").first.click(),
    "reload": lambda page: page.reload(),
    "back": lambda page: page.go_back(),
    "close": lambda page: page.close(),
}


def answers(product, lesson: int) -> dict:
    return product.signed_in().get(f"/api/v1/lessons/{lesson}/intake").json()["answers"]


def eventually(value: Callable[[], object], wanted: object) -> None:
    """Wait until the server has a value; a change may arrive after the page is gone."""
    deadline = time.monotonic() + PATIENCE_SECONDS
    while (found := value()) != wanted and time.monotonic() < deadline:
        pass
    assert found == wanted


@pytest.mark.parametrize("exit_key", LEAVE)
def test_taps_just_before_leaving_ask_are_saved(page: Page, product, fresh_lesson, exit_key):
    lesson = fresh_lesson(f"Quick {exit_key}")
    page.goto("/")
    other = page.context.new_page()
    other.goto("/")
    other.goto(f"/lessons/{lesson}/ask")
    for name in CONTACT:
        other.get_by_role("button", name=name, exact=True).click()
        other.wait_for_timeout(TAP_MS)
    LEAVE[exit_key](other)
    eventually(lambda: sorted(answers(product, lesson)["contact"]), sorted(n.lower() for n in CONTACT))
    if not other.is_closed():
        other.close()


def test_taps_made_offline_survive_a_reload(page: Page, product, fresh_lesson):
    lesson = fresh_lesson("Quick offline")
    page.goto(f"/lessons/{lesson}/ask")
    page.get_by_role("button", name="Thin", exact=True).click()
    expect(page.get_by_text("Saved", exact=True)).to_be_visible()
    page.route(
        "**/intake",
        lambda route: route.abort("connectionrefused") if route.request.method == "PUT" else route.continue_(),
    )
    page.get_by_role("button", name="Heel", exact=True).click()
    expect(page.get_by_text("Offline. Your changes will be saved when the connection is back.")).to_be_visible()
    page.reload()
    expect(page.get_by_role("button", name="Heel", exact=True)).to_have_attribute("aria-pressed", "true")
    page.unroute("**/intake")
    eventually(lambda: sorted(answers(product, lesson)["contact"]), ["heel", "thin"])


def test_returning_at_once_shows_the_last_taps(page: Page, fresh_lesson):
    lesson = fresh_lesson("Quick return")
    page.goto(f"/lessons/{lesson}/ask")
    page.get_by_role("button", name="Thin", exact=True).click()
    station(page, 2)
    station(page, 1)
    expect(page.get_by_role("button", name="Thin", exact=True)).to_have_attribute("aria-pressed", "true")


def test_words_typed_on_take_home_are_saved_when_the_station_changes(page: Page, product, fresh_lesson):
    lesson = fresh_lesson("Quick words")
    page.goto(f"/lessons/{lesson}/take-home")
    note = page.get_by_label("Note to the student")
    note.fill("Slow and small.")
    note.press("Alt+Digit1")
    client = product.signed_in()
    eventually(lambda: client.get(f"/api/v1/lessons/{lesson}/take-home").json()["note"], "Slow and small.")


def test_grades_and_marks_made_offline_survive_a_reload(page: Page, product, fresh_lesson):
    """The keys of Check and Prove answer to a lost connection like a form does."""
    lesson = fresh_lesson("Quick marks")
    client = product.signed_in()
    client.post(f"/api/v1/lessons/{lesson}/balls", json={"start": "left", "curve": "right"}).raise_for_status()
    [shot] = client.get(f"/api/v1/lessons/{lesson}/shots").json()
    page.goto(f"/lessons/{lesson}/check")
    page.get_by_role("heading", level=2).first.wait_for()
    page.route(
        "**/checks",
        lambda route: route.abort("connectionrefused") if route.request.method == "PUT" else route.continue_(),
    )
    page.route("**/shots/*", lambda route: route.abort("connectionrefused"))
    waits = page.get_by_text("Offline. Your changes will be saved when the connection is back.")
    page.keyboard.press("2")
    expect(waits).to_be_visible()
    page.keyboard.press("t")
    page.reload()
    expect(waits).to_be_visible()
    page.get_by_role("heading", level=2).first.wait_for()  # the coach can grade on
    page.unroute("**/checks")
    page.unroute("**/shots/*")
    eventually(lambda: len(client.get(f"/api/v1/lessons/{lesson}/checks").json()["grades"]), 1)
    eventually(lambda: client.get(f"/api/v1/lessons/{lesson}/shots").json()[0]["turf"], "thin")
    assert shot["turf"] == "clean"


def test_changes_made_offline_survive_a_reload_and_are_carried_out_once(page: Page, product, fresh_lesson):
    """Balls and set-up come in order after a reload, and a ball whose answer was lost is not stored twice."""
    lesson = fresh_lesson("Quick changes")
    client = product.signed_in()
    page.goto(f"/lessons/{lesson}/baseline")
    page.get_by_role("button", name="Balls by hand").click()

    def lose_answer(route: Route) -> None:
        route.fetch()
        route.abort("connectionrefused")

    page.route("**/balls", lose_answer)
    page.get_by_role("button", name="thin", exact=True).click()
    waits = page.get_by_role("status").get_by_text("Offline. Your changes will be saved when the connection is back.")
    expect(waits).to_be_visible()
    page.unroute("**/balls")
    changes = re.compile(r"/api/v1/(lessons|corrections|blocks)/")
    page.route(
        changes, lambda route: route.continue_() if route.request.method == "GET" else route.abort("connectionrefused")
    )
    page.get_by_role("button", name="fat", exact=True).click()
    page.get_by_text("Setup: ball, stance and aim, to compare later").click()
    page.get_by_label("Aim").fill("2")
    page.get_by_role("button", name="Save setup").click()
    page.reload()
    expect(waits).to_be_visible()
    page.unroute(changes)
    place = f"/api/v1/lessons/{lesson}"
    eventually(lambda: [s["turf"] for s in client.get(f"{place}/shots").json()], ["thin", "fat"])
    eventually(lambda: [n["aim_deg"] for n in client.get(f"{place}/setups").json()["notes"]], [2.0])
    expect(waits).to_have_count(0)


def test_a_change_refused_after_a_reload_says_why(page: Page, fresh_lesson):
    page.goto(f"/lessons/{fresh_lesson('Quick refusal')}/baseline")
    page.route("**/balls", lambda route: route.abort("connectionrefused"))
    page.get_by_role("button", name="Balls by hand").click()
    page.get_by_role("button", name="thin", exact=True).click()
    expect(page.get_by_role("status").get_by_text("Offline.")).to_be_visible()
    page.unroute("**/balls")
    problem = {"field": "contact", "message": "This contact is not known."}
    page.route("**/balls", lambda route: route.fulfill(status=422, json={"errors": [problem]}))
    page.reload()
    expect(page.get_by_text(problem["message"])).to_be_visible()
    page.reload()
    page.get_by_role("button", name="Balls by hand").wait_for()
    expect(page.get_by_text(problem["message"])).to_have_count(0)
