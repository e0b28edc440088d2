"""Take home on the real screens: the coach's page, the student's phone that loses its line, the record."""

from __future__ import annotations

import re
from contextlib import closing
from datetime import date, timedelta

import pytest
from playwright.sync_api import Browser, Page, expect

from .conftest import faults_of

PHONE = {"width": 390, "height": 844}


@pytest.fixture
def taught(product, cli):
    """taught(name) gives a lesson of a new student with a correction: its key."""
    client = product.signed_in()

    def make(name: str) -> int:
        student = client.post("/api/v1/students", json={"name": name, "handicap": 14}).json()
        lesson = client.post("/api/v1/lessons", json={"student_id": student["id"]}).json()["id"]
        body = {
            "fault": "early-extension",
            "drill": "bar-stool",
            "stage": "half",
        }
        file = {"file": ("balls.ndjson", cli("simulate", "--fault", "early-extension", "--shots", "10", "--seed", "7"))}
        client.post(f"/api/v1/lessons/{lesson}/import", files=file).raise_for_status()
        client.post(f"/api/v1/lessons/{lesson}/corrections", json=body).raise_for_status()
        day = (date.today() + timedelta(days=14)).isoformat()
        words = {"minutes": 10, "days_a_week": 4, "next_lesson": day}
        client.put(f"/api/v1/lessons/{lesson}/take-home", json=words).raise_for_status()
        return lesson

    yield make
    client.close()


@pytest.fixture
def phone(browser: Browser, product):
    """A phone without an account; whatever its pages complain of fails the test."""
    context = browser.new_context(reduced_motion="reduce", viewport=PHONE, has_touch=True, base_url=product.address)
    page = context.new_page()
    complaints: list[str] = []
    page.on("pageerror", lambda error: complaints.append(str(error)))
    yield page
    context.close()
    assert complaints == []


def link_to(product, lesson: int) -> str:
    with closing(product.signed_in()) as client:
        return client.post(f"/api/v1/lessons/{lesson}/home-link").json()["path"]


def logged(product, lesson: int) -> dict:
    with closing(product.signed_in()) as client:
        return client.get(f"/api/v1/lessons/{lesson}/practice").json()


def test_coach_rewrites_a_section_and_undoes_it(page: Page, taught, root):
    page.goto(f"/lessons/{taught('Thora Wickstead')}/take-home")
    page.get_by_role("button", name="Edit Common fake").click()
    words = page.get_by_role("textbox", name="Common fake, one sentence per line")
    words.fill("You lean on the wall.\nThe knees do it.")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_text("The knees do it.")).to_be_visible()
    expect(page.get_by_text("edited")).to_be_visible()
    page.reload()
    expect(page.get_by_text("You lean on the wall.")).to_be_visible()
    page.get_by_role("button", name="Edit Common fake").click()
    assert faults_of(page, root) == []
    page.get_by_role("button", name="Restore proposed text").click()
    expect(page.get_by_text("You lean on the wall.")).to_have_count(0)
    page.get_by_role("button", name="Edit At first you may see").click()
    page.get_by_role("button", name="Leave out").click()
    expect(page.get_by_text("“At first you may see” is left out.")).to_be_visible()
    page.get_by_role("button", name="Restore").click()
    expect(page.get_by_role("heading", name="At first you may see")).to_be_visible()


def test_practice_day_moves_by_arrows_and_dragging(page: Page, taught):
    page.goto(f"/lessons/{taught('Frode Ellingwick')}/take-home")
    grid = page.get_by_role("table", name="Practice days by week")
    days = grid.get_by_role("button")
    first = days.first
    planned = first.get_attribute("data-planned")
    tomorrow = (date.fromisoformat(planned) + timedelta(days=1)).isoformat()
    chip = grid.locator(f"[data-planned='{planned}']")
    first.focus()
    page.keyboard.press("ArrowRight")
    expect(grid.locator(f"[data-day='{tomorrow}'] [data-planned='{planned}']")).to_be_visible()
    expect(chip).to_be_focused()
    page.keyboard.press("ArrowLeft")
    expect(grid.locator(f"[data-day='{planned}'] [data-planned='{planned}']")).to_be_visible()
    # Dragged onto the same free day.
    chip.scroll_into_view_if_needed()
    start, end = chip.bounding_box(), grid.locator(f"[data-day='{tomorrow}']").bounding_box()
    page.mouse.move(start["x"] + 10, start["y"] + 10)
    page.mouse.down()
    page.mouse.move(end["x"] + end["width"] / 2, end["y"] + end["height"] / 2, steps=6)
    page.mouse.up()
    expect(grid.locator(f"[data-day='{tomorrow}'] [data-planned='{planned}']")).to_be_visible()
    # Onto a day that has practice already: said, and nothing moves.
    chip.focus()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_role("alert")).to_contain_text("without practice")
    expect(grid.locator(f"[data-day='{tomorrow}'] [data-planned='{planned}']")).to_be_visible()


def test_link_is_created_opened_and_deleted(page: Page, phone: Page, taught, root):
    page.goto(f"/lessons/{taught('Siv Orrincote')}/take-home")
    page.get_by_role("button", name="Create link").click()
    address = page.get_by_role("region", name="Send home").get_by_role("link", name=re.compile("^http")).inner_text()
    assert faults_of(page, root) == []
    phone.goto(address)
    expect(phone.get_by_role("heading", name="Siv, bar stool")).to_be_visible()
    assert "Orrincote" not in phone.content()
    page.get_by_role("button", name="Delete link").click()
    expect(page.get_by_role("button", name="Create link")).to_be_visible()
    phone.reload()
    expect(phone.get_by_role("alert")).to_contain_text("This page has expired")


def test_practice_logged_offline_is_stored_once(phone: Page, product, taught, root):
    lesson = taught("Njal Foxholm")
    phone.goto(link_to(product, lesson))
    phone.get_by_role("button", name="Nothing hurts, start").wait_for()
    assert faults_of(phone, root) == []
    width = phone.evaluate("document.documentElement.scrollWidth")
    assert width <= PHONE["width"]
    # The page's own keeper has everything once it controls it.
    phone.wait_for_function("navigator.serviceWorker.controller !== null")
    phone.reload()
    phone.get_by_role("button", name="Nothing hurts, start").wait_for()
    phone.context.set_offline(True)
    phone.get_by_role("button", name="Nothing hurts, start").click()
    for name in ("Felt it", "Felt it", "Did not feel it", "Felt it"):
        phone.get_by_role("button", name=name).click()
    phone.get_by_role("button", name="Undo last").click()
    expect(phone.get_by_label("Counting")).to_contain_text("3 of 30")
    # Closed and opened again without a line: nothing is lost.
    phone.reload()
    expect(phone.get_by_label("Counting")).to_contain_text("3 of 30")
    phone.get_by_text("Balls", exact=True).click()
    phone.get_by_role("radio", name="Solid").click()
    phone.get_by_role("button", name="Save this ball").click()
    assert faults_of(phone, root) == []
    phone.get_by_role("button", name="Done for today").click()
    expect(phone.get_by_role("status").last).to_contain_text("1 practice entry is stored on this phone")
    assert logged(product, lesson)["practices"] == []
    phone.context.set_offline(False)
    expect(phone.get_by_text("Everything is sent.")).to_be_visible()
    phone.reload()
    phone.get_by_role("button", name="Nothing hurts, start").wait_for()
    (practice,) = logged(product, lesson)["practices"]
    assert (practice["felt"], practice["not_felt"], practice["balls"]) == (2, 1, [{"contact": "solid"}])


def test_lost_response_does_not_log_twice(phone: Page, product, taught):
    """The server stored it, the answer was lost: the phone sends again, the server knows it."""
    lesson = taught("Gro Tanglewyn")
    phone.goto(link_to(product, lesson))
    lost = []

    def swallow(route):
        if lost:
            route.continue_()
            return
        lost.append(route.fetch())
        route.abort()

    phone.route("**/practice?*", swallow)
    phone.get_by_role("button", name="Nothing hurts, start").click()
    phone.get_by_role("button", name="Felt it").click()
    with phone.expect_event("requestfailed", lambda request: "/practice?" in request.url):
        phone.get_by_role("button", name="Done for today").click()
    expect(phone.get_by_text("1 practice entry is stored on this phone")).to_be_visible()
    assert len(logged(product, lesson)["practices"]) == 1
    expect(phone.get_by_text("Everything is sent.")).to_be_visible()
    assert len(logged(product, lesson)["practices"]) == 1


def test_pain_stops_practice_until_the_coach_resumes_it(phone: Page, page: Page, product, taught, root):
    lesson = taught("Ask Brindlehow")
    phone.goto(link_to(product, lesson))
    phone.get_by_role("button", name="Nothing hurts, start").click()
    phone.get_by_role("button", name="Felt it").click()
    phone.get_by_role("button", name="It hurts, stop").click()
    phone.get_by_role("button", name="Knee").click()
    expect(phone.get_by_role("heading", name="Practice is stopped")).to_be_visible()
    expect(phone.get_by_role("alert")).to_contain_text("licensed clinician")
    assert faults_of(phone, root) == []
    expect(phone.get_by_text("Everything is sent.")).to_be_visible()
    phone.reload()
    expect(phone.get_by_role("heading", name="Practice is stopped")).to_be_visible()
    page.goto("/day")
    expect(page.get_by_role("region", name="Still open")).to_contain_text("Practice paused because of pain (knee)")
    page.goto(f"/lessons/{lesson}/take-home")
    page.get_by_role("button", name="Resume plan").click()
    expect(page.get_by_role("button", name="Resume plan")).to_have_count(0)
    expect(page.get_by_role("region", name="Practice").get_by_role("listitem")).to_contain_text("pain: knee")
    phone.reload()
    expect(phone.get_by_role("button", name="Nothing hurts, start")).to_be_visible()


def test_phone_shows_plan_and_page_and_moves_a_day(phone: Page, product, taught, root):
    phone.goto(link_to(product, taught("Unn Pellhurst")))
    phone.get_by_role("radio", name="Plan").click()
    day = phone.get_by_role("listitem").first
    before = day.inner_text()
    day.get_by_role("button", name=re.compile("One day later")).click()
    expect(day).not_to_have_text(before)
    assert faults_of(phone, root) == []
    phone.get_by_role("radio", name="Page").click()
    expect(phone.get_by_role("heading", name="Proven and not proven")).to_be_visible()
    assert faults_of(phone, root) == []


@pytest.mark.parametrize(
    ("student", "alarm", "words"),
    [("Lasse Corrigall", None, ["retained", "proven"]), ("Oona Brackwater", "Relapsed", ["relapsed", "Retained"])],
)
def test_record_of_three_lessons_shows_retention(page: Page, root, student, alarm, words):
    page.goto("/")
    page.get_by_role("link", name=student, exact=True).click()
    page.get_by_role("heading", name="Suspected, tried, proven, refuted").wait_for()
    main = page.get_by_role("main")
    for word in words:
        expect(main).to_contain_text(word)
    expect(page.get_by_role("alert")).to_have_count(1 if alarm else 0)
    if alarm:
        expect(page.get_by_role("alert")).to_contain_text(alarm)
    page.get_by_text("Numbers", exact=True).click()
    expect(page.get_by_role("table", name=re.compile("by lesson"))).to_be_visible()
    assert faults_of(page, root) == []


def test_next_lesson_after_a_relapse_starts_with_a_plan(page: Page, root):
    page.goto("/")
    row = page.get_by_role("listitem").filter(has_text="Oona Brackwater")
    row.get_by_role("link", name=re.compile("Resume")).click()
    opening = page.get_by_role("region", name="Cold test")
    expect(opening).to_contain_text("Relapsed")
    expect(opening).to_contain_text("fix the plan before the correction")
    assert faults_of(page, root) == []
    opening.get_by_role("link", name=re.compile("^Step down")).click()
    plan = page.get_by_role("region", name=re.compile("^Plan for Hip stall"))
    expect(plan).to_contain_text("Continues from")
    expect(plan.get_by_role("radio", name="Half", exact=True)).to_be_checked()


def test_day_and_outcomes_pages_show_their_rows(page: Page, root):
    page.goto("/")
    page.get_by_role("link", name="Day", exact=True).click()
    visit = page.get_by_role("listitem").filter(has_text="Lasse Corrigall")
    expect(visit.first).to_contain_text("Cold test: the first ten balls")
    assert faults_of(page, root) == []
    page.get_by_role("button", name="Next day").click()
    expect(page.get_by_text("No student is expected.")).to_be_visible()
    page.get_by_role("link", name="Outcomes", exact=True).click()
    row = page.get_by_role("row", name=re.compile("Early extension.*Bar stool"))
    expect(row).to_contain_text("more results")
    assert faults_of(page, root) == []


def test_the_pdf_opens_from_the_page(page: Page, taught):
    lesson = taught("Bodil Marrowby")
    page.goto(f"/lessons/{lesson}/take-home")
    address = page.get_by_role("link", name="PDF").get_attribute("href")
    result = page.request.get(address)
    assert result.headers["content-type"] == "application/pdf"
    assert result.body().startswith(b"%PDF-")
