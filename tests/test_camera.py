"""A phone films the balls of a bay: paired, with consent, each film once, over a lost line and a reload."""

from __future__ import annotations

from contextlib import closing

import pytest
from bench.painted import CHROMIUM
from playwright.sync_api import Browser, Page, Playwright, expect

from . import fake_camera
from .conftest import faults_of

BAY = "North mat"


@pytest.fixture(scope="module")
def films(playwright: Playwright, root, tmp_path_factory):
    """A browser whose camera shows somebody who swings over and over."""
    clip = root / "standins" / "instavis_standins" / "clips" / "ansa-face-on.webm"
    flags = fake_camera.flags(clip, tmp_path_factory.mktemp("camera"))
    browser = playwright.chromium.launch(executable_path=CHROMIUM, args=flags)
    yield browser
    browser.close()


def test_every_ball_is_filmed_once_with_consent_only(page: Page, product, fresh_lesson, films: Browser, root):
    lesson = fresh_lesson("Runa Skarsund")
    with closing(product.signed_in()) as client:
        bay = next(b for b in client.get("/api/v1/bays").json() if b["name"] == BAY)
        client.put(f"/api/v1/lessons/{lesson}/bay", json={"bay_id": bay["id"]})
    page.goto("/bays")
    cameras = page.get_by_role("region", name="Cameras").first
    cameras.get_by_role("button", name="Add one: from in front").click()
    code = cameras.get_by_role("status").locator("strong").last.inner_text()

    context = films.new_context(viewport={"width": 844, "height": 390}, base_url=product.address)
    phone = context.new_page()
    phone.goto("/camera")
    phone.get_by_label("Code").fill(code)
    phone.keyboard.press("Enter")
    expect(phone.get_by_text("Runa has not agreed to be filmed.")).to_be_visible()
    assert faults_of(phone, root) == []

    page.goto(f"/lessons/{lesson}/ask")
    page.get_by_label("Agrees to be filmed").click()
    expect(phone.get_by_text("Films Runa, ball by ball")).to_be_visible()
    page.goto(f"/lessons/{lesson}/check")
    expect(page.get_by_role("region", name="Cameras")).to_contain_text("films")

    # The first ball of a lesson and one more; then the line is lost, and the page loaded anew before it is back.
    product.hit(BAY, "--seed", "2", count=1)
    expect(phone.get_by_text("1 films sent, 0 waiting.")).to_be_visible()
    phone.route("**/api/v1/filming/films", lambda route: route.abort())
    product.hit(BAY, "--seed", "3", count=1)
    expect(phone.get_by_text("1 films sent, 1 waiting.")).to_be_visible()
    phone.unroute("**/api/v1/filming/films")
    phone.reload()
    expect(phone.get_by_text("1 films sent, 0 waiting.")).to_be_visible()

    # Measured or not (a busy machine films too few frames for that): each is there once, with its ball.
    with closing(product.signed_in()) as client:
        waiting = client.get(f"/api/v1/lessons/{lesson}/clips").json()
        measured = client.get(f"/api/v1/lessons/{lesson}/recordings").json()["recordings"]
    assert sorted((row["ball"], row["view"]) for row in (*waiting, *measured)) == [(1, "face-on"), (2, "face-on")]

    # An end is an end.
    page.goto("/bays")
    page.get_by_role("region", name="Cameras").first.get_by_role("button", name="Disconnect").click()
    expect(phone.get_by_role("heading", name="Camera for a bay")).to_be_visible()
    context.close()
