"""Every main view passes axe in both themes, fits a tablet, and has large touch targets."""

from __future__ import annotations

import pytest
from playwright.sync_api import Page

from .conftest import faults_of, settled

STATIONS = ["ask", "baseline", "check", "cause", "correct", "prove", "take-home"]
PAGES = ["/", "/day", "/outcomes", "/students/7", "/students/8", "/bays", "/knowledge"]
VIEWS = [*PAGES, *[f"/lessons/2/{station}" for station in STATIONS], "/lessons/1/baseline", "/lessons/2/films"]
TABLET, WALL = {"width": 820, "height": 1180}, {"width": 1920, "height": 1080}
ONE_ROW = 80  # pixels of a bar at the top that has not wrapped, a line of advice under its clock allowed
TYPE = "() => Number.parseFloat(getComputedStyle(document.documentElement).fontSize)"

SMALL = """() => [...document.querySelectorAll('main button, main a, main select, header button, header select, nav a')]
  .filter((n) => n.offsetParent && n.getBoundingClientRect().height < 31.5)
  .map((n) => n.textContent)"""


@pytest.mark.parametrize("path", VIEWS)
def test_views_pass_axe_in_both_themes_and_fit_a_tablet(page: Page, root, path):
    page.goto(path)
    assert faults_of(page, root) == []
    assert page.evaluate(SMALL) == []
    if path.startswith("/lessons/") and not path.endswith("/films"):
        assert page.locator("header").first.bounding_box()["height"] < ONE_ROW
    page.get_by_role("button", name="Dark").click()
    assert page.evaluate("document.documentElement.dataset.theme") == "dusk"
    assert faults_of(page, root) == []
    page.set_viewport_size(TABLET)
    assert faults_of(page, root) == []
    assert page.evaluate("document.documentElement.scrollWidth") <= TABLET["width"]
    if path.startswith("/lessons/") and not path.endswith("/films"):  # two films have a bar with tools
        assert page.locator("header").first.bounding_box()["height"] < ONE_ROW
    usual = page.evaluate(TYPE)
    page.set_viewport_size(WALL)
    settled(page)
    assert page.evaluate("document.documentElement.scrollWidth") <= WALL["width"]
    assert page.evaluate(TYPE) >= 1.2 * usual
