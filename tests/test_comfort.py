"""Every main view is clean for assistive technology, bright and dusk, desk and tablet."""

from __future__ import annotations

import pytest
from playwright.sync_api import Page

VIEWS = ["ask", "baseline", "check", "cause", "correct", "prove", "take-home"]
AXE = "web/node_modules/axe-core/axe.min.js"


def faults_of(page: Page, root) -> list[str]:
    page.wait_for_load_state("networkidle")
    # Into the page's own world: the page's policy allows no foreign script element.
    page.evaluate((root / AXE).read_text())
    result = page.evaluate("() => axe.run(document, { resultTypes: ['violations'] })")
    return [f"{v['id']}: {v['nodes'][0]['html'][:160]}" for v in result["violations"]]


PAGES = ["/", "/day", "/outcomes", "/students/7", "/students/8", "/bays", "/knowledge"]


@pytest.mark.parametrize("path", [*PAGES, *[f"/lessons/2/{view}" for view in VIEWS], "/lessons/1/baseline"])
@pytest.mark.parametrize("theme", ["bright", "dusk"])
def test_views_are_clean(page: Page, root, path, theme):
    page.evaluate(f"localStorage.setItem('instavis.theme', '{theme}')")
    page.goto(path)
    assert faults_of(page, root) == []


@pytest.mark.parametrize("path", [*PAGES, *[f"/lessons/2/{view}" for view in VIEWS]])
def test_nothing_spills_over_at_tablet_width(page: Page, path):
    page.set_viewport_size({"width": 820, "height": 1180})
    page.goto(path)
    page.wait_for_load_state("networkidle")
    assert page.evaluate("document.documentElement.scrollWidth") <= 820


@pytest.mark.parametrize("path", [*PAGES, *[f"/lessons/2/{view}" for view in VIEWS]])
def test_touch_targets_are_large_enough(page: Page, path):
    page.goto(path)
    page.wait_for_load_state("networkidle")
    small = page.evaluate(
        """() => [...document.querySelectorAll('main button, main a, main select, header button, header select, nav a')]
          .filter((n) => n.offsetParent && n.getBoundingClientRect().height < 31.5)
          .map((n) => n.textContent)"""
    )
    assert small == []
