"""Two films side by side: stopped at a moment, stepped by keys, drawn on, and sent home."""

from __future__ import annotations

from playwright.sync_api import Page, expect

from .conftest import faults_of

PIXELS = """(nodes) => nodes.map((c) => {
  const data = c.getContext("2d").getImageData(0, 0, c.width, c.height).data;
  let sum = 0;
  for (let i = 0; i < data.length; i += 97) sum = (sum * 31 + data[i]) % 1000003;
  return sum;
})"""


def pictures(page: Page) -> list[int]:
    return page.locator("canvas").evaluate_all(PIXELS)


def changed(page: Page, before: list[int]) -> list[int]:
    """The pictures once both differ from those before."""
    now = f"({PIXELS})([...document.querySelectorAll('canvas')])"
    page.wait_for_function(f"(before) => {now}.every((picture, i) => picture !== before[i])", arg=before)
    return pictures(page)


def test_two_swings_are_compared_by_keys_and_added_to_the_page(page: Page, root):
    page.goto("/lessons/2/prove")
    page.get_by_role("link", name="Before and now").wait_for()
    page.locator("[data-ball]").filter(has_text="Ball 15").first.click()
    page.keyboard.press("f")
    expect(page.get_by_label("Before", exact=True)).to_contain_text("Ball 14, baseline")
    now = page.get_by_role("combobox", name="Now")
    expect(now.locator("option:checked")).to_contain_text("Ball 15, done")
    differs = page.get_by_role("region", name="Differences")
    expect(differs).to_contain_text("Thrust+3.5 cm+0.1 cm")
    first = changed(page, [0, 0])

    page.keyboard.press("1")
    address = changed(page, first)
    expect(differs.get_by_text("no difference found")).to_have_count(5)
    page.keyboard.press("6")
    impact = changed(page, address)
    for _ in range(3):
        page.keyboard.press("ArrowRight")
    later = changed(page, impact)
    expect(page.get_by_text("50 ms", exact=True)).to_be_visible()
    page.keyboard.press("m")
    changed(page, later)
    page.keyboard.press("m")

    shaft = page.get_by_role("slider", name="Lower end of the shaft line").first
    steep = shaft.get_attribute("aria-valuetext")
    expect(page.get_by_text("shaft line")).to_have_count(0)  # an angle that nobody has drawn is none
    for _ in range(12):
        shaft.press("ArrowLeft")
    expect(shaft).not_to_have_attribute("aria-valuetext", steep)
    expect(page.get_by_text(", shaft line")).to_have_count(1)
    page.keyboard.press("l")
    expect(shaft).to_have_count(0)
    assert faults_of(page, root) == []

    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="Stop")).to_be_visible()
    page.keyboard.press("6")
    expect(page.get_by_role("button", name="Play")).to_be_visible()
    page.keyboard.press("p")
    expect(page.get_by_text("On the take-home page: Impact, ball 14 and ball 15")).to_be_visible()

    page.get_by_role("button", name="Ball 19, missed").click()
    expect(now.locator("option:checked")).to_contain_text("Ball 19, missed")
    # The moment stays.
    expect(differs.locator("caption")).to_have_text("Impact")

    page.get_by_role("link", name="Back to the lesson").click()
    page.get_by_role("navigation", name="Stations").wait_for()
    page.keyboard.press("Alt+7")
    stills = page.get_by_role("img", name="the swing in a picture")
    expect(stills).to_have_count(2)
    page.wait_for_function("() => [...document.querySelectorAll('article img')].every((n) => n.naturalWidth === 720)")
    page.goto("/lessons/2/films")
    page.get_by_role("button", name="Remove from take-home").click()
    expect(page.get_by_text("On the take-home page")).to_have_count(0)


def test_empty_film_page_says_where_films_come_from(page: Page):
    page.goto("/lessons/1/films")
    expect(page.get_by_role("main")).to_contain_text("Tamsin Quarrelow has no films yet.")


def test_single_film_plays_steps_and_slows_down(page: Page, root):
    films = "**/students/*/films"
    page.route(films, lambda route: route.fulfill(json=route.fetch().json()[:1]))
    page.goto("/lessons/2/films")
    page.get_by_role("heading", name="Film", exact=True).wait_for()
    expect(page.locator("canvas")).to_have_count(1)
    first = changed(page, [0])
    page.keyboard.press("1")
    address = changed(page, first)
    page.keyboard.press("ArrowRight")
    page.keyboard.press("ArrowRight")
    expect(page.get_by_text("33 ms", exact=True)).to_be_visible()
    page.keyboard.press("6")
    impact = changed(page, address)
    slow = page.get_by_role("button", name="Slow")
    expect(slow).to_have_attribute("aria-pressed", "true")
    page.keyboard.press("s")
    expect(slow).to_have_attribute("aria-pressed", "false")
    page.keyboard.press("Space")
    changed(page, impact)
    page.keyboard.press("Space")
    expect(page.get_by_role("button", name="Overlay")).to_have_count(0)
    assert faults_of(page, root) == []
    page.unroute(films)
