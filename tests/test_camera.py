"""A phone films the balls of a bay: paired, with consent, each film once, over a lost line and a reload."""

from __future__ import annotations

import time
from contextlib import closing

import pytest
from playwright.sync_api import Browser, Page, Playwright, expect

from . import fake_camera
from .conftest import CHROMIUM, PATIENCE_SECONDS, faults_of

BAY = "North mat"


@pytest.fixture(scope="module")
def films(playwright: Playwright, root, tmp_path_factory):
    """A browser whose camera shows a sample swing over and over."""
    clip = root / "standins" / "instavis_standins" / "clips" / "ansa-face-on.webm"
    flags = fake_camera.flags(clip, tmp_path_factory.mktemp("camera"))
    browser = playwright.chromium.launch(executable_path=CHROMIUM, args=flags)
    yield browser
    browser.close()


def when_lit(phone: Page) -> None:
    """Wait until the swing in the picture is over: for the lamp to go on."""
    deadline = time.monotonic() + PATIENCE_SECONDS
    while phone.evaluate(fake_camera.LIT):
        phone.wait_for_timeout(50)
    while not phone.evaluate(fake_camera.LIT):
        assert time.monotonic() < deadline, "the picture never shows the end of a swing"
        phone.wait_for_timeout(50)


def test_every_ball_is_filmed_once_and_only_who_agreed(page: Page, product, fresh_lesson, films: Browser, root):
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
    page.get_by_label("Agrees to be filmed by the bay's cameras").click()
    expect(phone.get_by_text("Films Runa, ball by ball")).to_be_visible()
    page.goto(f"/lessons/{lesson}/check")
    expect(page.get_by_role("region", name="Cameras")).to_contain_text("films")

    # The first ball of a lesson and one more; then the line is lost, and the page loaded anew before it is back.
    phone.wait_for_timeout(6000)
    when_lit(phone)
    product.hit(BAY, "--seed", "2", count=1)
    expect(phone.get_by_text("1 films sent, 0 waiting.")).to_be_visible()
    when_lit(phone)
    phone.route("**/api/v1/filming/films", lambda route: route.abort())
    product.hit(BAY, "--seed", "3", count=1)
    expect(phone.get_by_text("1 films sent, 1 waiting.")).to_be_visible()
    phone.unroute("**/api/v1/filming/films")
    phone.reload()
    expect(phone.get_by_text("1 films sent, 0 waiting.")).to_be_visible()

    with closing(product.signed_in()) as client:
        deadline = time.monotonic() + 4 * PATIENCE_SECONDS
        while client.get(f"/api/v1/lessons/{lesson}/clips").json() and time.monotonic() < deadline:
            time.sleep(0.5)
        told = client.get(f"/api/v1/lessons/{lesson}/recordings").json()
        assert client.get(f"/api/v1/lessons/{lesson}/clips").json() == []
    assert [(r["view"], r["ball"]) for r in told["recordings"]] == [("face-on", 1), ("face-on", 2)]
    expect(page.get_by_role("region", name="Films")).to_contain_text("2 swings")

    # An end is an end.
    page.goto("/bays")
    page.get_by_role("region", name="Cameras").first.get_by_role("button", name="End it").click()
    expect(phone.get_by_role("heading", name="A camera of the bay")).to_be_visible()
    context.close()
