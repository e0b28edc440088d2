"""An academy's first week as its head coach lives it: two coaches and a desk, a lost password, one leaves."""

from __future__ import annotations

import re

import pytest
from playwright.sync_api import Browser, Page, expect

from .conftest import faults_of

GOOD, OTHER = "salt-marsh-heron-41", "salt-marsh-heron-42"


@pytest.fixture
def somebody(browser: Browser, product):
    """somebody() is a page of somebody who is not signed in."""
    contexts = []

    def come() -> Page:
        context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=product.address)
        contexts.append(context)
        return context.new_page()

    yield come
    for context in contexts:
        context.close()


def invited(page: Page, name: str, role: str) -> str:
    """The link that the head coach hands over."""
    page.get_by_label("Their name").fill(name)
    page.get_by_role("radio", name=role, exact=True).click()
    page.get_by_role("button", name="Make a link").click()
    page.get_by_role("button", name=f"Take back the invitation of {name}").wait_for()
    return page.locator("code").inner_text()


def come_in(page: Page, link: str, username: str, password: str = GOOD) -> None:
    page.goto(link)
    page.get_by_label("User name").fill(username)
    page.get_by_label("Password").fill(password)
    page.keyboard.press("Enter")


def test_a_week_of_people(page: Page, somebody, root):
    head = page
    head.goto("/academy")
    coach_link, desk_link = invited(head, "Ilse Brine", "Coach"), invited(head, "Petra Hatch", "Desk")
    spare = invited(head, "Joss Fennel", "Coach")
    head.get_by_role("button", name="Take back the invitation of Joss Fennel").click()
    expect(head.get_by_role("button", name="Take back the invitation of Joss Fennel")).to_have_count(0)
    assert faults_of(head, root) == []

    # A link that was taken back, a password that is too short, a link that is used twice.
    late = somebody()
    late.goto(spare)
    expect(late.get_by_text("This invitation has ended.")).to_be_visible()
    coach = somebody()
    come_in(coach, coach_link, "ilse", "short")
    expect(coach.get_by_text("too short")).to_be_visible()
    assert faults_of(coach, root) == []
    come_in(coach, coach_link, "ilse")
    expect(coach.get_by_role("heading", name="Students")).to_be_visible()
    expect(coach.get_by_role("link", name="Academy", exact=True)).to_have_count(0)
    late.goto(coach_link)
    expect(late.get_by_text("This invitation has ended.")).to_be_visible()

    # The desk books with a coach, who finds it on their day; what was found stays away from the desk.
    desk = somebody()
    come_in(desk, desk_link, "petra")
    desk.get_by_role("button", name="New student").click()
    desk.get_by_label("Name", exact=True).fill("Garrick Oar")
    desk.get_by_role("button", name="Keep").click()
    desk.get_by_label("Coach for Garrick Oar").select_option(label="Ilse Brine")
    desk.get_by_role("button", name="Begin a lesson for Garrick Oar").click()
    expect(desk.get_by_text("with Ilse Brine")).to_be_visible()
    assert faults_of(desk, root) == []
    coach.goto("/day")
    expect(coach.get_by_text("Garrick Oar")).to_be_visible()
    desk.get_by_role("link", name="Day").click()
    expect(desk.get_by_text(re.compile("^since .*, with Ilse Brine$"))).to_be_visible()
    expect(desk.get_by_role("heading", name="Still open")).to_have_count(0)
    for hidden in ("Outcomes", "Bays", "Knowledge"):
        expect(desk.get_by_role("link", name=hidden)).to_have_count(0)

    # Passwords: changed by who knows it, chosen anew by who lost it.
    coach.get_by_role("link", name=re.compile("^Ilse Brine")).click()
    coach.get_by_label("Old password").fill(GOOD)
    coach.get_by_label("New password, at least ten characters").fill(OTHER)
    coach.get_by_role("button", name="Change it").click()
    expect(coach.get_by_text("Changed. Other devices have to sign in anew.")).to_be_visible()
    assert faults_of(coach, root) == []
    head.reload()
    head.get_by_role("button", name="New password for Petra Hatch").click()
    head.get_by_text("Petra Hatch chooses a new password").wait_for()
    lost = head.locator("code").inner_text()
    desk.reload()
    expect(desk.get_by_role("heading", name=re.compile("^Today"))).to_be_visible()  # a link alone ends nothing
    elsewhere = somebody()
    elsewhere.goto(lost)
    elsewhere.get_by_label("New password").fill(OTHER)
    elsewhere.keyboard.press("Enter")
    expect(elsewhere.get_by_role("heading", name="Students")).to_be_visible()
    desk.reload()
    expect(desk.get_by_role("button", name="Sign in")).to_be_visible()

    # A coach leaves in the middle of a lesson, and the last head coach cannot.
    lesson = coach.evaluate("async () => (await (await fetch('/api/v1/lessons')).json())[0].id")
    coach.goto(f"/lessons/{lesson}/baseline")
    expect(coach.get_by_text("Connected", exact=True)).to_be_visible()
    head.get_by_role("button", name="Ilse Brine has left").click()
    expect(head.get_by_role("button", name="Let Ilse Brine come back")).to_be_visible()
    expect(coach.get_by_role("button", name="Sign in")).to_be_visible()
    head.get_by_role("button", name="Imke Tollander has left").click()
    expect(head.get_by_text("The academy needs a head coach")).to_be_visible()
    expect(head.get_by_text("Ilse Brine left.")).to_be_visible()
