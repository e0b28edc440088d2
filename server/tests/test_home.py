"""The take-home page and its link: the coach's words, moved days, practice stored once, pain, the PDF."""

from __future__ import annotations

import io
import json
from datetime import date, timedelta

import pytest
from django.core.signing import Signer
from django.test import Client
from django.utils import timezone
from pypdf import PdfReader

from instavis.lessons.models import Lesson
from instavis.practice.models import HomeLink, Practice, TakeHome

from .conftest import MIXED, Caller, corrected_lesson


@pytest.fixture(scope="module")
def made(for_the_module, balls):
    return corrected_lesson(balls).pk


@pytest.fixture
def corrected(db, made):
    return Lesson.objects.get(pk=made)


@pytest.fixture
def coach(corrected):
    return corrected.coach


@pytest.fixture
def student(corrected):
    return corrected.student


@pytest.fixture
def path(api, corrected):
    """The lesson with a plan of two weeks."""
    day = (timezone.localdate() + timedelta(days=14)).isoformat()
    api("put", f"/v1/lessons/{corrected.pk}/take-home", {"minutes": 10, "days_a_week": 4, "next_lesson": day})
    return f"/v1/lessons/{corrected.pk}"


@pytest.fixture
def link(api, path):
    """The API path of the student's page."""
    made = api("post", f"{path}/home-link", None, 201)
    return "/v1" + made["path"]


@pytest.fixture
def phone(link):
    """A phone without an account that has opened the page."""
    caller = Caller(Client())
    caller("get", link)
    return caller


def entry(minutes_ago=60, **changes):
    start = timezone.now() - timedelta(minutes=minutes_ago)
    return {
        "entry_id": f"entry-of-{minutes_ago:05d}",
        "day": start.date().isoformat(),
        "started_at": start.isoformat(),
        "ended_at": (start + timedelta(minutes=8)).isoformat(),
        "felt": 20,
        "not_felt": 9,
        **changes,
    }


def sent(*entries):
    return {"sent_at": timezone.now().isoformat(), "entries": list(entries)}


# The page


def test_page_describes_the_lesson_in_plain_words(api, path):
    page = api("get", f"{path}/take-home")
    sections = {s["id"]: s["lines"] for s in page["sections"]}
    assert list(sections) == ["ball", "cause", "correction", "proven", "ugly", "fake", "film"]
    assert "of the target" in " ".join(sections["ball"])
    assert "Early extension" in sections["cause"][0]
    assert sections["proven"] == ["Not proven yet: too few balls with the move so far."]
    result = json.dumps(page["sections"])
    for term in (" SD", "spread", "log", "in-to-out", "p ="):
        assert term not in result


def test_students_own_words_come_first_in_the_coachs_units(api, path, coach):
    miss = {"start": "right", "curve": "left", "off_m": 18.288}
    api("put", f"{path}/intake", {"misses": {"irons": miss}})

    def ball():
        return next(s for s in api("get", f"{path}/take-home")["sections"] if s["id"] == "ball")["lines"][0]

    assert ball() == "Your usual miss, irons: starts right, curves left and finishes about 20 yd offline."
    api("patch", "/v1/session", {"units": "m-ms"})
    assert "about 18 m off" in ball()


def test_change_is_stated_with_its_certainty(api, path, device, bay, corrected, numbered, balls):
    bay.lesson = corrected
    bay.save()
    records = balls(18, "early-extension/from-inside", 82, marks=[*MIXED] * 6)
    device(numbered([{**r, "mark_basis": "blind"} for r in records], 300))
    proven = next(s for s in api("get", f"{path}/take-home")["sections"] if s["id"] == "proven")["lines"]
    assert proven[0].startswith("Proven today")
    assert "somewhere from" in proven[0]
    assert "one lesson in twenty" in proven[0]
    assert "next lesson" in proven[-1]


def test_coachs_lines_replace_the_default_and_can_be_undone(api, path):
    saved = api("get", f"{path}/take-home")
    words = {k: saved[k] for k in ("note", "minutes", "days_a_week", "next_lesson")}
    mine = {"cause": ["You stand up to save it.", "  "], "fake": []}
    page = api("put", f"{path}/take-home", {**words, "sections": mine})
    cause = next(s for s in page["sections"] if s["id"] == "cause")
    assert (cause["lines"], cause["edited"]) == (["You stand up to save it."], True)
    assert next(s for s in page["sections"] if s["id"] == "fake")["lines"] == []
    assert api("put", f"{path}/take-home", words)["sections"] == saved["sections"]


@pytest.mark.parametrize(
    ("sections", "field"),
    [
        ({"weather": ["x"]}, "sections"),
        ({"cause": ["x"] * 9}, "sections.cause"),
        ({"cause": ["x" * 301]}, "sections.cause[0]"),
        ({"cause": ["a\u0000b"]}, "sections.cause[0]"),
    ],
)
def test_unprintable_lines_are_named(api, path, sections, field):
    result = api("put", f"{path}/take-home", {"sections": sections}, 422)
    assert result["errors"][0]["field"] == field
    assert TakeHome.objects.get().sections == {}


def test_cautions_cannot_be_edited_away(api, path):
    page = api("put", f"{path}/take-home", {"sections": {"film": []}})
    assert any("Not medical advice" in text for text in page["cautions"])
    api("put", f"{path}/take-home", {"cautions": []}, 422)


# The PDF


def test_pdf_is_tagged_and_matches_the_page(api, path):
    page = api("get", f"{path}/take-home")
    response = api("get", f"{path}/take-home.pdf")
    assert response["Content-Type"] == "application/pdf"
    reader = PdfReader(io.BytesIO(response.content))
    root = reader.trailer["/Root"]
    assert root["/MarkInfo"]["/Marked"]
    assert "/StructTreeRoot" in root
    assert root["/Lang"] == "en"
    assert "Take-home page" in reader.metadata.title
    assert b"pdfuaid" in response.content or b"pdfuaid" in root["/Metadata"].get_data()
    text = " ".join(" ".join(p.extract_text() for p in reader.pages).split())
    for section in page["sections"]:
        assert section["title"] in text
        for line in section["lines"]:
            assert " ".join(line.split())[:60] in text
    assert "Not medical advice" in text
    assert len(reader.pages) <= 2
    fonts = {str(f) for p in reader.pages for f in p["/Resources"]["/Font"]}
    assert fonts


@pytest.mark.parametrize(("paper", "size"), [("A4", (595, 842)), ("Letter", (612, 792))])
def test_pdf_uses_the_academys_paper_size(api, path, paper, size):
    assert api("patch", "/v1/academy", {"paper": paper})["paper"] == paper
    sheets = PdfReader(io.BytesIO(api("get", f"{path}/take-home.pdf").content)).pages
    assert {tuple(round(side) for side in sheet.mediabox[2:]) for sheet in sheets} == {size}
    assert len(sheets) <= 2
    assert api("patch", "/v1/academy", {"paper": "A5"}, 422)["errors"][0]["field"] == "paper"


def test_pdf_figure_has_alternative_text(api, path):
    reader = PdfReader(io.BytesIO(api("get", f"{path}/take-home.pdf").content))
    result = []

    def walk(node):
        node = node.get_object()
        if not isinstance(node, dict):
            return
        if "/Alt" in node:
            result.append(str(node["/Alt"]))
        kids = node.get("/K", [])
        for kid in kids if isinstance(kids, list) else [kids]:
            if hasattr(kid, "get_object") and isinstance(kid.get_object(), dict):
                walk(kid)

    walk(reader.trailer["/Root"]["/StructTreeRoot"])
    assert any("drawn as a figure" in alt for alt in result)


def test_markup_in_texts_is_escaped_in_the_pdf(api, path):
    api("put", f"{path}/take-home", {"note": "<script>alert(1)</script> <img src=file:///etc/passwd> & more"})
    reader = PdfReader(io.BytesIO(api("get", f"{path}/take-home.pdf").content))
    assert "<script>alert(1)</script>" in " ".join(p.extract_text() for p in reader.pages)


# The link


def test_link_shows_only_page_and_first_name(phone, link, student):
    home = phone("get", link)
    assert home["page"]["student"] == student.name.split()[0]
    result = json.dumps(home)
    assert student.name not in result
    assert not any(key in result for key in ("shot_id", "handicap", "lesson_id", "guardian"))
    assert home["figure"]["drill"] == home["page"]["drill"]
    assert phone("get", f"{link}/page.pdf")["Content-Type"] == "application/pdf"
    assert phone("get", f"{link}/practice.ics")["Content-Type"].startswith("text/calendar")
    phone("get", "/v1/students", None, 401)


@pytest.mark.parametrize("kind", ["guessed", "signed-by-another", "cut", "expired", "revoked", "replaced"])
def test_revoked_or_forged_link_is_refused(api, path, link, phone, kind):
    token = link.rpartition("/")[2]
    if kind == "guessed":
        token = "A" * 43 + "." + "B" * 43
    elif kind == "signed-by-another":
        token = Signer(salt="take-home link", sep=".", key="another key").sign("A" * 43)
    elif kind == "cut":
        token = token[:-1]
    elif kind == "expired":
        HomeLink.objects.update(expires_at=timezone.now() - timedelta(seconds=1))
    elif kind == "revoked":
        api("delete", f"{path}/home-link", None, 204)
    else:
        api("post", f"{path}/home-link", None, 201)
    for ending in ("", "/page.pdf", "/practice.ics"):
        assert "has expired" in json.dumps(phone("get", f"/v1/home/{token}{ending}", None, 404))
    phone("post", f"/v1/home/{token}/practice", sent(entry()), 404)
    assert Practice.objects.count() == 0


def test_link_outlasts_the_next_lesson_and_is_stored_as_hash(api, path, link):
    result = api("get", f"{path}/home-link")
    assert result["path"] is None
    until = HomeLink.objects.get().expires_at.date()
    assert until == timezone.localdate() + timedelta(days=28)
    assert HomeLink.objects.get().token_hash not in link


# The plan


def test_day_is_moved_and_back_by_coach_or_student(api, phone, path, link):
    days = [d["day"] for d in api("get", f"{path}/schedule")]
    free = next(d for i in range(1, 14) if (d := (timezone.localdate() + timedelta(days=i)).isoformat()) not in days)
    moved = api("put", f"{path}/schedule/{days[0]}", {"to": free})
    assert {d["planned"]: d["day"] for d in moved}[days[0]] == free
    assert [d["day"] for d in phone("get", link)["page"]["plan"]] == [d["day"] for d in moved]
    back = phone("put", f"{link}/days/{days[0]}", {"to": days[0]})
    assert [d["day"] for d in back["page"]["plan"]] == days
    assert TakeHome.objects.get().moves == {}


@pytest.mark.parametrize("to", ["taken", "past", "after"])
def test_invalid_move_changes_nothing(api, path, to):
    days = [d["day"] for d in api("get", f"{path}/schedule")]
    today = timezone.localdate()
    target = {"taken": days[1], "past": str(today - timedelta(1)), "after": str(today + timedelta(20))}[to]
    result = api("put", f"{path}/schedule/{days[0]}", {"to": target}, 422)
    assert result["errors"][0]["field"] == "to"
    assert TakeHome.objects.get().moves == {}


# The log


def test_repeated_practice_entry_is_stored_once(phone, link, api, path):
    body = sent(entry(60), entry(30, felt=5))
    first = phone("post", f"{link}/practice", body)
    again = phone("post", f"{link}/practice", body)
    assert (first["stored"], first["known"]) == (2, 0)
    assert (again["stored"], again["known"]) == (0, 2)
    log = api("get", f"{path}/practice")
    assert log["dose"]["repetitions"] == 29 + 14
    assert Practice.objects.count() == 2


def test_two_phones_logging_one_practice_count_once(phone, link, api, path):
    phone("post", f"{link}/practice", sent(entry(60)))
    other = Caller(Client())
    other("get", link)
    other("post", f"{link}/practice", sent(entry(58, entry_id="the-other-phone", felt=22)))
    log = api("get", f"{path}/practice")
    assert Practice.objects.count() == 2
    assert len(log["practices"]) == 1
    assert log["dose"]["repetitions"] == 31


def test_bad_practice_entry_is_named_and_not_stored(phone, link):
    result = phone("post", f"{link}/practice", sent(entry(60, felt=-3)), 422)
    assert result["errors"][0]["field"] == "entries[0].felt"
    assert Practice.objects.count() == 0


def test_logging_practice_needs_the_csrf_token(link):
    strict = Client(enforce_csrf_checks=True)
    strict.get("/")
    response = strict.post(f"/api{link}/practice", json.dumps(sent(entry())), content_type="application/json")
    assert response.status_code in (401, 403)
    assert Practice.objects.count() == 0


def test_pain_pauses_the_plan_until_resumed(phone, link, api, path):
    home = phone("post", f"{link}/practice", sent(entry(20, pain="knee")))["home"]
    assert home["page"]["paused_for"] == "knee"
    assert api("get", f"{path}/take-home")["paused_for"] == "knee"
    items = api("get", "/v1/day")["open"]
    assert any(i["kind"] == "pain" and "knee" in i["text"] for i in items)
    log = api("delete", f"{path}/practice/pause", None)
    assert log["paused_for"] == ""
    assert log["dose"]["pains"] == ["knee"]  # the record keeps it
    assert phone("get", link)["page"]["paused_for"] == ""


def test_days_are_done_or_missed_by_practice(phone, link, corrected):
    TakeHome.objects.filter(lesson=corrected).update(next_lesson=timezone.localdate() + timedelta(days=7))
    corrected.started_at = timezone.now() - timedelta(days=7)
    corrected.save(update_fields=["started_at"])
    plan = phone("get", link)["page"]["plan"]
    past = [d for d in plan if date.fromisoformat(d["day"]) < timezone.localdate()]
    assert {d["state"] for d in past} == {"missed"}
    practised = timezone.now() - timedelta(days=(timezone.localdate() - date.fromisoformat(past[-1]["day"])).days)
    body = entry(0, day=past[-1]["day"], started_at=practised.isoformat(), ended_at=practised.isoformat())
    plan = phone("post", f"{link}/practice", sent(body))["home"]["page"]["plan"]
    assert [d["state"] for d in plan if d["day"] == past[-1]["day"]] == ["done"]
    assert phone("get", link)["dose"]["share"] == pytest.approx(1 / len(past))


def test_the_students_day_may_differ_from_the_servers_by_one(phone, link):
    today = timezone.localdate()
    for result, shift in ((today + timedelta(1), 1), (today - timedelta(1), -1), (today + timedelta(30), 0)):
        plan = phone("get", f"{link}?today={result.isoformat()}")["page"]["plan"]
        here = today + timedelta(days=shift)
        assert all((d["state"] == "today") == (date.fromisoformat(d["day"]) == here) for d in plan)
    phone("get", f"{link}?today=soon", None, 422)


def test_full_log_is_refused_with_a_reason(phone, link, monkeypatch):
    monkeypatch.setattr("instavis.practice.services.MAX_PRACTICES", 1)
    phone("post", f"{link}/practice", sent(entry(60)))
    assert "full" in json.dumps(phone("post", f"{link}/practice", sent(entry(30)), 409))


def test_link_and_pdf_requests_are_limited(phone, link, monkeypatch):
    """Twenty printed pages took sixteen seconds of a core: whoever has a link could keep the academy busy."""
    monkeypatch.setattr("instavis.practice.home_api.LINK_PRINTED", 2)
    for status in (200, 200, 429):
        phone("get", f"{link}/page.pdf", status=status)
    phone("get", link)
    monkeypatch.setattr("instavis.practice.home_api.LINK_ASKED", 1)
    assert phone("get", link, status=429)["errors"][0]["field"] == "request"
