"""An academy's first week for its head coach: two coaches and a desk, a lost password, one leaves."""

from __future__ import annotations

import os
import re
import subprocess
import sys

import pytest
from attack.authenticator import code_of
from playwright.sync_api import Browser, Page, expect

from instavis.demo.scenario import PASSWORD
from launcher.academy import only_one

from .conftest import HEAD, faults_of, settled

GOOD, OTHER = "salt-marsh-heron-41", "salt-marsh-heron-42"


@pytest.fixture
def somebody(browser: Browser, product):
    """somebody() is a page of somebody who is not signed in."""
    contexts = []

    def come() -> Page:
        context = browser.new_context(
            reduced_motion="reduce", viewport={"width": 1280, "height": 800}, base_url=product.address
        )
        contexts.append(context)
        return context.new_page()

    yield come
    for context in contexts:
        context.close()


def invited(page: Page, name: str, role: str) -> str:
    """The link that the head coach hands over."""
    settled(page)
    page.get_by_label("Name", exact=True).fill(name)
    page.get_by_role("radio", name=role, exact=True).click()
    page.get_by_role("button", name="Create link").click()
    page.get_by_role("button", name=f"Revoke the invitation of {name}").wait_for()
    return page.locator("code").inner_text()


def come_in(page: Page, link: str, username: str, password: str = GOOD) -> None:
    page.goto(link)
    page.get_by_label("Username").fill(username)
    page.get_by_label("Password").fill(password)
    page.keyboard.press("Enter")


def test_people_are_invited_changed_and_deactivated(page: Page, somebody, root):
    head = page
    head.goto("/academy")
    coach_link, desk_link = invited(head, "Ilse Brine", "Coach"), invited(head, "Petra Hatch", "Desk")
    spare = invited(head, "Joss Fennel", "Coach")
    head.get_by_role("button", name="Revoke the invitation of Joss Fennel").click()
    expect(head.get_by_role("button", name="Revoke the invitation of Joss Fennel")).to_have_count(0)
    assert faults_of(head, root) == []

    # A link that was taken back, a password that is too short, a link that is used twice.
    late = somebody()
    late.goto(spare)
    expect(late.get_by_text("This invitation has expired.")).to_be_visible()
    coach = somebody()
    come_in(coach, coach_link, "ilse", "short")
    expect(coach.get_by_text("too short")).to_be_visible()
    assert faults_of(coach, root) == []
    come_in(coach, coach_link, "ilse")
    expect(coach.get_by_role("heading", name="Students")).to_be_visible()
    expect(coach.get_by_role("link", name="Academy", exact=True)).to_have_count(0)
    late.goto(coach_link)
    expect(late.get_by_text("This invitation has expired.")).to_be_visible()

    # The desk books with a coach, who finds it on their day; what was found stays away from the desk.
    desk = somebody()
    come_in(desk, desk_link, "petra")
    desk.get_by_role("button", name="New student").click()
    desk.get_by_label("Name", exact=True).fill("Garrick Oar")
    desk.get_by_role("button", name="Save").click()
    desk.get_by_label("Coach for Garrick Oar").select_option(label="Ilse Brine")
    desk.get_by_role("button", name="Start lesson for Garrick Oar").click()
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
    settled(coach)  # sections that come in above would move the button from under the pointer
    coach.get_by_label("Old password").fill(GOOD)
    coach.get_by_label("New password, at least ten characters").fill(OTHER)
    coach.get_by_role("button", name="Change password").click()
    expect(coach.get_by_text("Password changed. Other devices must sign in again.")).to_be_visible()
    assert faults_of(coach, root) == []
    head.reload()
    head.get_by_role("button", name="New password for Petra Hatch").click()
    head.get_by_text("Petra Hatch can choose a new password").wait_for()
    lost = head.locator("code").inner_text()
    desk.reload()
    expect(desk.get_by_role("heading", name=re.compile("^Today"))).to_be_visible()  # a link alone ends nothing
    elsewhere = somebody()
    elsewhere.goto(lost)
    elsewhere.get_by_label("New password").fill(OTHER)
    elsewhere.keyboard.press("Enter")
    expect(elsewhere.get_by_role("heading", name="Students")).to_be_visible()
    desk.reload()
    expect(desk.get_by_role("button", name="Sign in", exact=True)).to_be_visible()

    # A coach leaves in the middle of a lesson, and the last head coach cannot.
    lesson = coach.evaluate("async () => (await (await fetch('/api/v1/lessons')).json())[0].id")
    coach.goto(f"/lessons/{lesson}/baseline")
    expect(coach.get_by_text("Connected", exact=True)).to_be_visible()
    head.get_by_role("button", name="Deactivate Ilse Brine").click()
    expect(head.get_by_role("button", name="Reactivate Ilse Brine")).to_be_visible()
    expect(coach.get_by_role("button", name="Sign in", exact=True)).to_be_visible()
    head.get_by_role("button", name="Deactivate Imke Tollander").click()
    expect(head.get_by_text("The academy needs a head coach")).to_be_visible()
    expect(head.get_by_text("Ilse Brine was deactivated.")).to_be_visible()


def with_passkeys(page: Page) -> None:
    """Give the browser a security key of its own, which says yes whenever it is asked."""
    line = page.context.new_cdp_session(page)
    line.send("WebAuthn.enable")
    kind = {"protocol": "ctap2", "transport": "internal", "hasResidentKey": True, "hasUserVerification": True}
    line.send(
        "WebAuthn.addVirtualAuthenticator",
        {"options": {**kind, "isUserVerified": True, "automaticPresenceSimulation": True}},
    )


def sign_out(page: Page) -> None:
    page.get_by_role("button", name="Sign out", exact=True).first.click()
    page.get_by_label("Username").wait_for()


def sign_in(page: Page, username: str, password: str) -> None:
    page.goto("/")
    page.get_by_label("Username").fill(username)
    page.get_by_label("Password").fill(password)
    page.keyboard.press("Enter")


def test_lost_phone_with_second_factor_is_recovered(page: Page, somebody, product, root):
    head = page
    head.context.clear_cookies()
    sign_in(head, HEAD, PASSWORD)  # just now: who signed in long ago is asked once more before a factor is taken away
    head.get_by_role("heading", name="Students").wait_for()
    head.goto("/academy")
    link = invited(head, "Nell Sedge", "Coach")

    # Passkeys belong to names: this browser comes by the machine's name, not by its number.
    nell = somebody()
    with_passkeys(nell)
    come_in(nell, link.replace("127.0.0.1", "localhost"), "nell")
    nell.get_by_role("heading", name="Students").wait_for()
    nell.goto(f"http://localhost:{product.port}/me")
    nell.get_by_role("button", name="Set up authenticator app").click()
    secret = nell.locator("form code").inner_text()
    nell.get_by_label("Current code").fill("000000")
    nell.get_by_role("button", name="Use this app").click()
    expect(nell.get_by_text("This code is wrong.")).to_be_visible()
    nell.get_by_label("Current code").fill(code_of(secret))
    nell.keyboard.press("Enter")
    codes = nell.get_by_role("status").get_by_role("listitem")
    expect(codes).to_have_count(10)
    recovery = codes.nth(3).inner_text()
    assert faults_of(nell, root) == []
    nell.get_by_role("button", name="I have saved them").click()
    nell.get_by_label(re.compile("^Name of the new passkey")).fill("Work laptop")
    nell.get_by_role("button", name="Add a passkey").click()
    expect(nell.get_by_text(re.compile("^Passkey Work laptop, added"))).to_be_visible()

    sign_out(nell)
    nell.get_by_role("button", name="Sign in with passkey").click()
    nell.get_by_role("heading", name="Students").wait_for()
    sign_out(nell)
    nell.get_by_label("Username").fill("nell")
    nell.get_by_label("Password").fill(GOOD)
    nell.keyboard.press("Enter")
    nell.get_by_label("Code from your app, or a recovery code").fill("111111")
    nell.keyboard.press("Enter")
    expect(nell.get_by_text("This code is wrong or was already used.")).to_be_visible()
    assert faults_of(nell, root) == []
    nell.get_by_role("button", name="Sign in with passkey").click()
    nell.get_by_role("heading", name="Students").wait_for()

    # The phone is gone: a code from paper opens another browser, where the first one is seen and ended.
    other = somebody()
    sign_in(other, "nell", GOOD)
    other.get_by_label("Code from your app, or a recovery code").fill(recovery)
    other.keyboard.press("Enter")
    other.get_by_role("link", name=re.compile("^Nell Sedge")).click()
    expect(other.get_by_text("9 recovery codes left for a lost phone")).to_be_visible()
    expect(other.get_by_text("A recovery code was used to sign in.")).to_be_visible()
    other.get_by_role("button", name="That was me").click()
    expect(other.get_by_role("button", name="That was me")).to_have_count(0)
    settled(other)  # what was above it has gone: the button moves up
    other.get_by_role("button", name="Sign out everywhere else").click()
    expect(other.get_by_role("button", name="Sign out everywhere else")).to_have_count(0)
    nell.reload()
    expect(nell.get_by_role("button", name="Sign in", exact=True)).to_be_visible()

    # The codes are gone too: the head coach helps, and the password alone is enough until she chooses anew.
    head.reload()
    head.get_by_role("button", name="Lost phone: Nell Sedge").wait_for()
    assert faults_of(head, root) == []
    head.get_by_role("button", name="Lost phone: Nell Sedge").click()
    expect(head.get_by_text("All second factors of Nell Sedge were removed.")).to_be_visible()
    sign_in(nell, "nell", GOOD)
    nell.get_by_role("link", name=re.compile("^Nell Sedge")).click()
    expect(nell.get_by_text("Imke Tollander removed all second factors.")).to_be_visible()
    assert faults_of(nell, root) == []


def recover(folder, *name: str) -> subprocess.CompletedProcess:
    """The command, while the academy of a folder is served."""
    with only_one(folder / "lock"):
        environment = {**os.environ, "INSTAVIS_DATA": str(folder)}
        command = [sys.executable, "-m", "launcher", "recover", *name]
        return subprocess.run(command, env=environment, capture_output=True, text=True, check=False)


def test_recover_command_lets_a_coach_sign_in(somebody, product):
    assert "bram  Bram Oduwick, coach, " in recover(product.folder).stdout
    assert recover(product.folder, "nobody").returncode != 0
    link = recover(product.folder, "bram").stdout.splitlines()[0]
    page = somebody()
    page.goto(link)
    expect(page.get_by_role("heading", name="New password for Bram Oduwick")).to_be_visible()
