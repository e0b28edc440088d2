"""Staff of an academy: invited, given roles, leaving and returning; passwords lost and changed."""

from __future__ import annotations

from datetime import timedelta

import pytest
from django.test import Client
from django.utils import timezone

from instavis.accounts import people
from instavis.accounts.models import AuditLine, Coach, Invitation
from instavis.lessons.models import Lesson

from .conftest import PASSWORD, Caller, academy_with_coach, signed_in

GOOD = "salt-marsh-heron-41"


@pytest.fixture
def visitor(db) -> Caller:
    client = Client()
    client.get("/")
    return Caller(client)


@pytest.fixture
def invited(api) -> str:
    """The path of an invitation for a coach."""
    return api("post", "/v1/invitations", {"role": "coach", "name": "Ilse Brine"}, 201)["path"]


def joining(visitor, path: str, status: int = 201, **values):
    body = {"username": "ilse", "name": "Ilse Brine", "password": GOOD, **values}
    return visitor("post", f"/v1{path}", body, status)


def colleague(coach, username: str, role: str = "coach") -> Coach:
    return Coach.objects.create_user(
        username, password=PASSWORD, name=username.title(), role=role, academy=coach.academy
    )


def test_invitation_is_accepted_once_and_logged(api, coach, visitor, invited):
    result = visitor("get", f"/v1{invited}")
    assert (result["academy"], result["name"], result["role"]) == (coach.academy.name, "Ilse Brine", "coach")
    assert [row["name"] for row in api("get", "/v1/invitations")] == ["Ilse Brine"]
    joined = joining(visitor, invited)
    assert (joined["name"], joined["role"]) == ("Ilse Brine", "coach")
    assert visitor("get", "/v1/session")["username"] == "ilse"
    second = Client()
    second.get("/")
    joining(Caller(second), invited, 404, username="other")
    assert Caller(second)("get", f"/v1{invited}", None, 404)["errors"][0]["field"] == "link"
    assert api("get", "/v1/invitations") == []
    texts = [row["text"] for row in api("get", "/v1/audit")]
    assert texts == ["Joined as coach.", "Ilse Brine invited as coach."]
    token = invited.rpartition("/")[2]
    assert token not in str(list(Invitation.objects.values()))


@pytest.mark.parametrize("end", ["taken back", "too old"])
def test_ended_invitation_is_missing(api, visitor, invited, end):
    if end == "taken back":
        [row] = api("get", "/v1/invitations")
        api("delete", f"/v1/invitations/{row['id']}", status=204)
        api("delete", f"/v1/invitations/{row['id']}", status=404)
    else:
        Invitation.objects.update(expires_at=timezone.now() - timedelta(seconds=1))
    ended = joining(visitor, invited, 404)
    assert ended == joining(visitor, "/join/nothing", 404)
    assert Coach.objects.count() == 1


@pytest.mark.parametrize(
    ("values", "field"),
    [
        ({"password": "bri-ny9"}, "password"),
        ({"password": "1234567890"}, "password"),
        ({"password": "password123"}, "password"),
        ({"password": "ilse-brine1", "username": "ilse-brine"}, "password"),
        ({"username": "kelp"}, "username"),
        ({"username": "KELP"}, "username"),
        ({"username": "  "}, "username"),
        ({"username": "a b"}, "username"),
        ({"username": "x" * 61}, "username"),
        ({"name": " "}, "name"),
    ],
)
def test_failed_join_keeps_the_invitation(coach, visitor, invited, values, field):
    result = joining(visitor, invited, 422, **values)["errors"][0]
    assert result["field"] == field
    assert values.get("password", "!") not in str(result)
    assert Coach.objects.count() == 1
    joining(visitor, invited)


def test_invitations_have_a_role_and_a_limit(api, monkeypatch):
    result = api("post", "/v1/invitations", {"role": "owner", "name": "X"}, 422)["errors"][0]
    assert (result["field"], result["value"]) == ("role", "'owner'")
    monkeypatch.setattr(people, "MAX_OPEN_INVITATIONS", 1)
    api("post", "/v1/invitations", {"role": "desk", "name": "X"}, 201)
    api("post", "/v1/invitations", {"role": "desk", "name": "Y"}, 409)


def test_last_head_coach_cannot_leave(api, coach):
    other = colleague(coach, "sorrel")
    me = f"/v1/coaches/{coach.pk}"
    for change in ({"role": "coach"}, {"left": True}):
        assert api("patch", me, change, 409)["errors"][0]["field"] == "role"
    api("patch", f"/v1/coaches/{other.pk}", {"role": "head"})
    api("patch", me, {"role": "coach"})
    api("get", "/v1/coaches", status=403)
    assert signed_in(other)("patch", f"/v1/coaches/{other.pk}", {"left": True}, 409)


def test_deactivated_coach_is_signed_out_and_lessons_stay(api, coach, student):
    other = colleague(coach, "sorrel")
    theirs = signed_in(other)
    lesson = theirs("post", "/v1/lessons", {"student_id": student.pk}, 201)
    result = api("patch", f"/v1/coaches/{other.pk}", {"left": True})
    assert result["left_at"]
    theirs("get", "/v1/session", status=401)
    assert Lesson.objects.filter(pk=lesson["id"], coach=other).exists()
    assert api("get", f"/v1/lessons/{lesson['id']}")["coach_name"] == "Sorrel"
    assert "Sorrel" not in [c["name"] for c in api("get", "/v1/colleagues")]
    listed = {row["name"]: row for row in api("get", "/v1/coaches")}
    assert (listed["Sorrel"]["lesson_count"], listed["Kelp"]["lesson_count"]) == (1, 0)
    api("post", f"/v1/coaches/{other.pk}/password-link", status=409)
    assert api("patch", f"/v1/coaches/{other.pk}", {"left": False})["left_at"] is None
    assert [row["text"] for row in api("get", "/v1/audit")][:2] == [
        "Sorrel was reactivated.",
        "Sorrel was deactivated.",
    ]


def test_password_link_works_once(api, coach, visitor):
    other = colleague(coach, "sorrel")
    theirs = signed_in(other)
    first = api("post", f"/v1/coaches/{other.pk}/password-link", status=201)["path"]
    path = api("post", f"/v1/coaches/{other.pk}/password-link", status=201)["path"]
    visitor("get", f"/v1{first}", status=404)  # a newer one ends it
    assert visitor("get", f"/v1{path}")["username"] == "sorrel"
    visitor("post", f"/v1{path}", {"password": "short"}, 422)
    assert visitor("post", f"/v1{path}", {"password": GOOD})["username"] == "sorrel"
    visitor("post", f"/v1{path}", {"password": GOOD}, 404)
    theirs("get", "/v1/session", status=401)  # every session from before has ended
    other.refresh_from_db()
    assert other.check_password(GOOD)
    assert "activity-password-reset" in AuditLine.objects.values_list("text", flat=True)


def test_password_change_needs_the_old_password(api, coach):
    elsewhere = signed_in(coach)
    api("post", "/v1/session/password", {"old": "wrong", "new": GOOD}, 422)
    api("post", "/v1/session/password", {"old": PASSWORD, "new": "short"}, 422)
    api("post", "/v1/session/password", {"old": PASSWORD, "new": GOOD}, 204)
    api("get", "/v1/session")
    elsewhere("get", "/v1/session", status=401)


def test_guessing_the_old_password_is_limited(api):
    result = [api("post", "/v1/session/password", {"old": "wrong", "new": GOOD}, s) for s in [422] * 6 + [429]]
    assert result[-1]["errors"][0]["field"] == "password"


def test_guessing_links_is_limited(visitor, monkeypatch):
    monkeypatch.setattr("instavis.accounts.people_api.LINKS_TRIED", 3)
    assert [visitor("get", f"/v1/join/x{n}", None, s)["errors"][0]["field"] for n, s in enumerate([404] * 3 + [429])]


def test_the_academy_is_renamed(api, coach):
    assert api("patch", "/v1/academy", {"name": " Marram Links "})["name"] == "Marram Links"
    assert api("patch", "/v1/academy", {"name": " "}, 422)["errors"][0]["field"] == "name"
    assert api("get", "/v1/session")["academy"] == "Marram Links"


def test_coach_changes_own_name(api):
    assert api("patch", "/v1/session", {"name": "Kelp the Elder"})["name"] == "Kelp the Elder"


@pytest.fixture
def desk(coach) -> Caller:
    return signed_in(colleague(coach, "hatch", "desk"))


def test_desk_books_lessons_without_seeing_results(api, coach, desk, student):
    booked = desk("post", "/v1/bookings", {"student_id": student.pk, "coach_id": coach.pk}, 201)
    assert booked["coach_name"] == coach.name
    assert "stations" not in booked
    result = desk("get", "/v1/day")
    [visit] = result["visits"]
    assert (visit["student"], visit["prepare"], visit["state"], result["open"]) == (student.name, [], "", [])
    assert api("get", "/v1/day")["visits"][0]["state"] != ""
    desk("get", f"/v1/lessons/{booked['id']}", status=403)


def test_booking_with_desk_or_another_academy_is_refused(coach, desk, student):
    elsewhere = academy_with_coach("reed")
    for other in (desk.coach, elsewhere):
        desk("post", "/v1/bookings", {"student_id": student.pk, "coach_id": other.pk}, 404)
