"""Wall view: large enough to read from the mat, with custom colors, and nothing cut off."""

from __future__ import annotations

import math

import pytest
from playwright.sync_api import Page, expect

from .conftest import faults_of, settled

WALLS = [{"width": 1920, "height": 1080}, {"width": 2560, "height": 1440}]
SCREEN_MM, AWAY_MM, CAPITAL = 1200, 3000, 0.67
"""How wide a screen on the wall is, from where it is read, and a capital's height in parts of the type's size."""
NEEDED, ELSEWHERE = 10.0, 6.0
"""Minutes of arc of what is needed between two balls, and of everything else."""
BETWEEN_BALLS = (
    "[aria-label=Proof] [aria-live] p, [role=group][aria-label^=Movement] button, "
    "[aria-label='Change so far'] h2 span:first-child"
)
TWICE = {"width": 640, "height": 400}
ENLARGED = ["/", "/day", "/students/8", "/bays", "/knowledge", "/me", "/lessons/2/check", "/lessons/2/prove"]

SIZES = """(where) => [...document.querySelectorAll(where)].flatMap((n) => [...n.querySelectorAll('*'), n])
  .filter((n) => n.getClientRects().length && !n.closest('.sr-only, kbd')
    && [...n.childNodes].some((c) => c.nodeType === 3 && /\\p{L}{2}/u.test(c.textContent)))
  .map((n) => {
    const drawn = n.closest('svg')?.getScreenCTM?.()?.a ?? 1;
    return [Number.parseFloat(getComputedStyle(n).fontSize) * drawn, n.textContent.trim().slice(0, 40)];
  })"""


def arc_minutes(pixels: float, across: int) -> float:
    """How high a capital of type of so many pixels looks on the wall."""
    millimetres = pixels * CAPITAL * SCREEN_MM / across
    return math.degrees(math.atan(millimetres / AWAY_MM)) * 60


@pytest.mark.parametrize("wall", WALLS, ids=["1920", "2560"])
def test_prove_is_readable_from_three_meters(page: Page, wall):
    page.set_viewport_size(wall)
    page.goto("/lessons/2/prove")
    page.get_by_role("region", name="Change so far").wait_for()
    settled(page)
    needed = page.evaluate(SIZES, BETWEEN_BALLS)
    assert len(needed) >= 7
    for pixels, text in needed:
        assert arc_minutes(pixels, wall["width"]) >= NEEDED, text
    for pixels, text in page.evaluate(SIZES, "main, header, section"):
        assert arc_minutes(pixels, wall["width"]) >= ELSEWHERE, text


@pytest.mark.parametrize("path", ENLARGED)
def test_page_at_200_percent_is_not_cut_off(page: Page, path):
    page.set_viewport_size(TWICE)
    page.goto(path)
    settled(page)
    assert page.evaluate("document.documentElement.scrollWidth") <= TWICE["width"]


@pytest.mark.parametrize("path", ["/lessons/2/prove", "/lessons/2/cause"])
def test_forced_colors_keep_selection_and_marks(page: Page, root, path):
    page.emulate_media(forced_colors="active", reduced_motion="reduce")
    page.goto(path)
    # The browser's own colours contrast; what is asked with the page's is no question here.
    assert [fault for fault in faults_of(page, root) if not fault.startswith("color-contrast")] == []
    here = page.locator("[aria-current]").first
    expect(here).to_be_visible()
    page.keyboard.press("Tab")
    outline = page.evaluate("getComputedStyle(document.activeElement).outlineStyle")
    assert outline != "none"
