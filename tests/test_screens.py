"""Beside the usual course: mistakes, second screens, devices, other statuses."""

from __future__ import annotations

import re

import pytest
from PIL import Image
from playwright.sync_api import Browser, Page, expect

from instavis.demo.scenario import PASSWORD

from .conftest import PATIENCE_SECONDS

BALL = re.compile("^Ball ")


def test_wrong_password_is_reported_and_right_one_works(browser: Browser, product):
    context = browser.new_context(reduced_motion="reduce", base_url=product.address)
    page = context.new_page()
    page.goto("/lessons/2/prove")
    page.get_by_label("Username").fill("bram")
    page.get_by_label("Password").fill("not it at all")
    page.get_by_role("button", name="Sign in", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("The username or password is wrong.")
    page.get_by_label("Password").fill(PASSWORD)
    page.keyboard.press("Enter")
    # Signing in leads to where the visitor wanted to go.
    expect(page.get_by_role("heading", name="Jorun Aldwhistle")).to_be_visible()
    context.close()


def test_junior_without_a_guardian_is_not_saved(page: Page):
    page.goto("/")
    page.get_by_role("button", name="New student").click()
    page.get_by_label("Name", exact=True).fill("Pip Smallwater")
    page.get_by_label(re.compile("^Born")).fill("2015-03-03")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("guardian")
    page.get_by_label(re.compile("^Guardian")).fill("Ada Smallwater")
    page.get_by_role("button", name="Save", exact=True).click()
    expect(page.get_by_role("listitem").filter(has_text="Pip Smallwater")).to_contain_text("guardian Ada Smallwater")


def test_token_is_shown_once_and_can_be_revoked(page: Page, product):
    page.goto("/bays")
    card = page.locator("section").filter(has_text="South mat")
    card.get_by_label("New device").fill("Second monitor")
    card.get_by_role("button", name="Create token").click()
    token = card.locator("code").inner_text()
    assert token.startswith("iv_")
    product.facts["tokens"]["spare"] = token
    product.hit("spare", count=1)
    page.reload()
    expect(page.get_by_text(token)).to_have_count(0)
    page.get_by_role("button", name="Revoke Second monitor in South mat").click()
    expect(card.get_by_text("revoked").last).to_be_visible()
    assert product.monitor("spare", "--count", "1").wait(PATIENCE_SECONDS) == 1


def test_two_screens_of_a_lesson_stay_in_sync(page: Page, browser: Browser, product, signed_in_state):
    other_context = browser.new_context(
        reduced_motion="reduce", base_url=product.address, storage_state=signed_in_state
    )
    other = other_context.new_page()
    for screen in (page, other):
        screen.goto("/lessons/2/prove")
        expect(screen.get_by_text("Connected", exact=True)).to_be_visible()
    page.keyboard.press("End")
    # The belt saw it missed: the coach overrules it, and takes that back.
    page.keyboard.press("1")
    expect(other.get_by_role("button", name=re.compile("^Ball 23,.*movement done"))).to_be_visible()
    expect(other.get_by_text("You judged it differently. Your mark counts.")).to_be_visible()
    page.keyboard.press("z")
    expect(other.get_by_role("button", name=re.compile("^Ball 23,.*movement missed"))).to_be_visible()
    other_context.close()


def test_marks_notes_and_exclusion_by_keys_with_undo(page: Page):
    page.goto("/lessons/3/prove")
    page.get_by_role("button", name=BALL).first.wait_for()
    page.keyboard.press("End")
    page.keyboard.press("x")
    expect(page.get_by_role("button", name=re.compile("^Ball 35,.*excluded"))).to_be_visible()
    page.keyboard.press("z")
    expect(page.get_by_role("button", name=re.compile("^Ball 35,.*excluded"))).to_have_count(0)
    page.keyboard.press("n")
    page.get_by_role("dialog").get_by_label("Note").fill("Wind in the door")
    page.keyboard.press("Enter")
    expect(page.get_by_text("Wind in the door.", exact=True)).to_be_visible()
    page.keyboard.press("PageUp")
    expect(page.get_by_role("button", name=re.compile("^Ball 35,.*movement missed"))).to_be_visible()
    page.keyboard.press("z")


def test_selecting_balls_changes_the_reading(page: Page):
    page.goto("/lessons/3/baseline")
    expect(page.get_by_role("heading", name="The pattern")).to_be_visible()
    page.get_by_role("radio", name="Table").click()
    balls = page.get_by_role("button", name=BALL)
    balls.nth(1).click()
    balls.nth(6).click(modifiers=["Shift"])
    expect(page.get_by_role("heading", name="The selected balls")).to_be_visible()
    expect(page.get_by_role("table", name=re.compile("Median of 6 clean balls"))).to_be_visible()
    page.keyboard.press("Escape")
    expect(page.get_by_role("heading", name="The pattern")).to_be_visible()


@pytest.mark.parametrize(
    ("student", "headline"),
    [("Ilse Pendrake", "Strike only"), ("Jorun Aldwhistle", "Early extension"), ("Wren Stroudley", "Not settled yet")],
)
def test_cause_board_shows_the_evidence(page: Page, student, headline):
    page.goto("/")
    row = page.get_by_role("listitem").filter(has_text=student)
    row.get_by_role("link", name=re.compile("Resume|Last lesson")).click()
    page.get_by_role("heading", name=student).wait_for()
    page.keyboard.press("Alt+Digit4")
    expect(page.get_by_role("main").get_by_role("heading", level=2).first).to_contain_text(headline)


def test_reversed_gate_is_refused_with_a_reason(page: Page):
    page.goto("/lessons/6/correct")
    page.get_by_role("radio", name="Gate").click()
    page.get_by_label(re.compile("^From")).fill("9")
    page.get_by_label(re.compile("^To ")).fill("-9")
    page.get_by_role("button", name="Start correction").click()
    expect(page.get_by_role("alert")).to_contain_text("the lower number first")


def choose_units(page: Page, units: str) -> None:
    with page.expect_response(lambda r: r.request.method == "PATCH"):  # a page that is left takes nothing with it
        page.get_by_label("Units").select_option(units)


def test_units_follow_the_coach(page: Page):
    page.goto("/")
    choose_units(page, "m-ms")
    page.goto("/lessons/3/baseline")
    page.get_by_role("radio", name="Table").click()
    expect(page.get_by_role("row", name=re.compile("Club speed"))).to_contain_text("m/s")
    page.goto("/")
    choose_units(page, "yd-mph")
    page.goto("/lessons/3/baseline")
    page.get_by_role("radio", name="Table").click()
    expect(page.get_by_role("row", name=re.compile("Club speed"))).to_contain_text("mph")


def test_unknown_addresses_lead_home(page: Page):
    page.goto("/nowhere/at/all")
    expect(page.get_by_role("heading", name="Students")).to_be_visible()
    page.goto("/lessons/999999/prove")
    expect(page.get_by_role("alert")).to_contain_text("There is no such lesson in your academy.")


def test_station_pictures_and_tables_are_exported(page: Page, tmp_path):
    page.goto("/lessons/2/prove")
    page.get_by_role("img", name=re.compile("as strands")).wait_for()
    page.keyboard.press("k")
    sheet = page.get_by_role("dialog")
    saved = {}
    for form in ("PNG", "SVG"):
        with page.expect_download() as coming:
            sheet.get_by_role("button", name=re.compile(f"as {form}$")).first.click()
        assert coming.value.suggested_filename.startswith("jorun-aldwhistle-")
        saved[form] = tmp_path / coming.value.suggested_filename
        coming.value.save_as(saved[form])
    with Image.open(saved["PNG"]) as picture:
        assert picture.width > 1000
        assert len(picture.convert("RGB").getcolors(1 << 20)) > 20  # a drawing, not an empty ground
    drawn = saved["SVG"].read_text()
    assert "class=" not in drawn
    assert "data:font/woff2;base64," in drawn
    page.keyboard.press("Escape")
    page.goto("/lessons/2/cause")
    leader = page.get_by_role("region", name="Cause board").locator("ol button").first.inner_text().splitlines()[0]
    page.keyboard.press("k")
    with page.expect_download() as coming:
        sheet.get_by_role("button", name="Cause board as SVG").click()
    coming.value.save_as(tmp_path / "board.svg")
    board = (tmp_path / "board.svg").read_text()
    assert f">{leader}</text>" in board
    assert board.count("<path") > 10  # its ribbons
    assert "foreignObject" not in board  # any program can show it
    page.keyboard.press("Escape")
    page.goto("/lessons/3/baseline")
    page.get_by_text("As a table").first.wait_for()
    page.keyboard.press("k")
    with page.expect_download() as coming:
        page.get_by_role("dialog").get_by_role("button", name=re.compile("as CSV$")).first.click()
    coming.value.save_as(tmp_path / "table.csv")
    head, *rows = (tmp_path / "table.csv").read_text().splitlines()
    assert head.startswith("Ball,")
    assert len(rows) > 5


def test_tape_stays_collapsed(page: Page):
    page.goto("/lessons/2/prove")
    page.get_by_role("button", name="Collapse", exact=True).click()
    expect(page.get_by_role("button", name=BALL)).to_have_count(0)
    page.reload()
    page.get_by_role("button", name="Expand the tape").click()
    expect(page.get_by_role("button", name=BALL).first).to_be_visible()


def test_search_finds_everything_from_anywhere(page: Page):
    page.goto("/lessons/2/prove")
    page.get_by_role("button", name=BALL).first.wait_for()
    page.keyboard.press("/")
    page.get_by_role("combobox", name=re.compile("A student, lesson")).fill("wren st")
    expect(page.get_by_role("option", name=re.compile("^Student ?Wren Stroudley"))).to_have_attribute(
        "aria-selected", "true"
    )
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="Wren Stroudley")).to_be_visible()
    page.keyboard.press("/")
    page.get_by_role("combobox", name=re.compile("A student, lesson")).fill("seat li")
    page.get_by_role("option", name=re.compile("Check ?Seat line")).click()
    expect(page).to_have_url(re.compile(r"/knowledge\?part=check&entry=seat-line$"))
