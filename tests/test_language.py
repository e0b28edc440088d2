"""Every sentence of a view comes from the catalog, shown by a language that brackets its entries."""

from __future__ import annotations

import calendar
import re
from contextlib import closing

import pytest
from bench.felt import STATIONS
from bench.room import CUT
from playwright.sync_api import Page

from instavis_report.catalog import ENGLISH, PSEUDO, untranslated

from .conftest import settled

VIEWS = ["/", "/lessons/{lesson}/explain", "/lessons/{lesson}/prove", "/lessons/2/films"]
"""In the browser with the real server; every other view is walked by the component tests."""

NAMES = ("CSV", "JSON", "C3D", "PDF", "Instavis", "mph", "yd", "mm", "cm", "min", "rpm", "SD", "ms", "UTC", "Europe")
"""What is no word of a language; what people and places are called comes from the answers."""

TEXTS = """() => {
  const said = ["aria-label", "title", "placeholder", "alt", "aria-valuetext"];
  const texts = [];
  for (const element of document.body.querySelectorAll("*")) {
    if (element.closest("kbd, style, script, option, [translate=no]")) continue;
    texts.push([...element.childNodes].filter((n) => n.nodeType === 3).map((n) => n.textContent).join(""));
    for (const name of said) texts.push(element.getAttribute(name) ?? "");
  }
  return texts;
}"""


def english_on(page: Page, names: set[str]) -> set[str]:
    """Texts of a page, seen and unseen, with words that stand in no brackets and are no names."""
    page.get_by_text("⟦").first.wait_for()
    known = {*names, *NAMES, *calendar.month_name[1:], *calendar.month_abbr[1:], *calendar.day_name, *calendar.day_abbr}
    left = set()
    for text in page.evaluate(TEXTS):
        rest = untranslated(text)
        for name in sorted(known, key=len, reverse=True):
            rest = re.sub(rf"(?<!\w){re.escape(name)}(?!\w)", "", rest)
        if re.search("[A-Za-z]{2}", rest):
            left.add(text[:120])
    return left


@pytest.fixture
def pseudo(product):
    """The head coach reads in the pseudo-language; gives the names that stay as they are."""
    with closing(product.signed_in()) as client:
        client.patch("/api/v1/session", json={"language": PSEUDO}).raise_for_status()
        session = client.get("/api/v1/session").json()
        names = {session["name"], session["academy"], session["time_zone"].partition("/")[2], "Bram Oduwick"}
        names |= {bay["name"] for bay in client.get("/api/v1/bays").json()}
        names |= {d["name"] for bay in client.get("/api/v1/bays").json() for d in bay["devices"]}
        for student in client.get("/api/v1/students").json():
            names |= {student["name"], *student["name"].split()}
        yield names
        client.patch("/api/v1/session", json={"language": ENGLISH}).raise_for_status()


@pytest.mark.parametrize("view", VIEWS)
def test_view_has_no_text_outside_the_catalog(page: Page, product, pseudo, view):
    with closing(product.signed_in()) as client:
        lesson = lesson_in(client)
        own = {client.get(f"/api/v1/lessons/{lesson['id']}/take-home").json()["note"]}
        own |= {shot["note"] for shot in client.get(f"/api/v1/lessons/{lesson['id']}/shots").json()}
    page.goto(view.format(lesson=lesson["id"], student=lesson["student_id"]))
    settled(page)
    assert english_on(page, {*pseudo, *filter(None, own)}) == set()


@pytest.mark.parametrize("link", ["home-link", "intake-link"])
def test_student_page_has_no_text_outside_the_catalog(page: Page, product, pseudo, link):
    with closing(product.signed_in()) as client:
        lesson = lesson_in(client)
        own = client.get(f"/api/v1/lessons/{lesson['id']}/take-home").json()["note"]
        path = client.post(f"/api/v1/lessons/{lesson['id']}/{link}").raise_for_status().json()["path"]
    page.goto(path)
    assert english_on(page, {*pseudo, own}) == set()


@pytest.mark.parametrize("language", ["de", "es"])
def test_longer_words_are_never_cut_off(page: Page, product, language):
    with closing(product.signed_in()) as client:
        client.patch("/api/v1/session", json={"language": language}).raise_for_status()
        try:
            for station in STATIONS:
                page.goto(f"/lessons/2/{station}")
                for width, height in ((1280, 800), (820, 1180), (1920, 1080)):
                    page.set_viewport_size({"width": width, "height": height})
                    settled(page)
                    assert page.evaluate(CUT) == [], f"{station} at {width}"
        finally:
            client.patch("/api/v1/session", json={"language": ENGLISH}).raise_for_status()


def lesson_in(client) -> dict:
    return next(row for row in client.get("/api/v1/lessons").json() if row["student_name"] == "Dov Marrick")
