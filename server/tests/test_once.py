"""A change that a browser sends again under the same key is carried out once."""

from __future__ import annotations

from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta

import pytest
from django.db import connection
from django.utils import timezone

from instavis.accounts.models import AnsweredRequest
from instavis.accounts.once import KEEP_FOR, MAX_KEY_CHARACTERS, delete_old_answers

BALL = {"start": "left", "curve": "right", "contact": "thin"}


@pytest.fixture
def add(api, full):
    """add(key, ball) sends a ball by hand under a key."""

    def send(key: str, ball: dict = BALL):
        return api.client.post(
            f"/api/v1/lessons/{full.pk}/balls", ball, content_type="application/json", headers={"Idempotency-Key": key}
        )

    return send


def test_a_repeated_key_adds_one_ball_and_gets_the_first_answer(add, full):
    before = full.shots.count()
    first, second = add("a"), add("a")
    assert (first.status_code, first.json()) == (second.status_code, second.json()) == (201, second.json())
    assert full.shots.count() == before + 1
    add("b")
    assert full.shots.count() == before + 2


def test_a_refused_request_may_be_sent_again_under_its_key(add, full):
    before = full.shots.count()
    assert add("a", BALL | {"contact": "sideways"}).status_code == 422
    assert add("a").status_code == 201
    assert full.shots.count() == before + 1


def test_a_key_used_for_another_request_is_refused(add, full):
    add("a")
    before = full.shots.count()
    response = add("a", BALL | {"start": "right"})
    assert response.status_code == 422
    assert response.json()["errors"][0]["field"] == "Idempotency-Key"
    assert full.shots.count() == before


@pytest.mark.parametrize("key", ["", "x" * (MAX_KEY_CHARACTERS + 1)])
def test_a_key_of_wrong_length_is_refused(add, key):
    assert add(key).status_code == 422


def test_an_answer_is_deleted_after_two_days(add):
    add("a")
    now = timezone.now()
    assert delete_old_answers(now) == 0
    assert delete_old_answers(now + KEEP_FOR + timedelta(minutes=1)) == 1
    assert not AnsweredRequest.objects.exists()


@pytest.mark.django_db(transaction=True)
def test_the_same_request_twice_at_once_is_carried_out_once(add, full):
    before = full.shots.count()

    def send(_: int) -> int:
        try:
            return add("a").status_code
        finally:
            connection.close()

    with ThreadPoolExecutor(4) as threads:
        assert list(threads.map(send, range(4))) == [201] * 4
    assert full.shots.count() == before + 1
