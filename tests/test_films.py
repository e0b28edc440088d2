"""Films in the running product: imported on screen, measured by a worker, through failures."""

from __future__ import annotations

import os
import re
import signal

from playwright.sync_api import Page, expect

from .conftest import faults_of

LISTED = "async () => (await (await fetch('/api/v1/lessons/{}/recordings')).json()).recordings"


def test_films_become_proposals_despite_a_killed_worker(page: Page, product, root, tmp_path, fresh_lesson):
    clips = root / "standins" / "instavis_standins" / "clips"
    holiday = tmp_path / "holiday.mp4"
    holiday.write_bytes(b"no film")
    lesson = fresh_lesson("Somebody Filmed")
    page.goto(f"/lessons/{lesson}/check")
    films = page.get_by_role("region", name="Films")
    expect(films.get_by_label("Film of a swing")).to_have_count(0)
    films.get_by_role("checkbox", name="Agrees to be filmed").click()
    expect(films.get_by_text("stored as long as the academy allows")).to_be_visible()
    films.get_by_label("Film of a swing").set_input_files([clips / "ansa-face-on.webm", holiday])
    expect(films.get_by_text(re.compile(r"^\d+ frames measured$")).first).to_be_visible()

    # Whoever is at it is killed; another begins anew, and the film is measured once.
    [films_worker] = [program for program in product.workers.programs if program.name == "films"]
    os.kill(films_worker.process.pid, signal.SIGKILL)
    expect(films.get_by_role("link", name="Watch the film of ansa-face-on.webm")).to_be_visible(timeout=120_000)
    expect(films.get_by_text("Not measured: unreadable. Expected: a video file: MP4, MOV or WebM.")).to_be_visible()
    assert faults_of(page, root) == []
    films.get_by_role("button", name="Dismiss holiday.mp4").click()
    expect(films.get_by_text("holiday.mp4")).to_have_count(0)
    films.get_by_role("button", name=re.compile("^Accept: .* for Pelvis position at impact$")).click()
    expect(page.get_by_text("from a film")).to_be_visible()
    films.get_by_role("button", name="Curves of ansa-face-on.webm").click()
    expect(page.get_by_role("dialog").get_by_text("Sway", exact=True).first).to_be_visible()
    assert faults_of(page, root) == []
    assert [row["name"] for row in page.evaluate(LISTED.format(lesson)) if row["view"]] == ["ansa-face-on.webm"]
