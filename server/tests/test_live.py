"""The live channel: events arrive in order, and each ball is followed by its proof."""

from __future__ import annotations

import asyncio
import json
import threading
from collections import Counter

import pytest
from asgiref.sync import async_to_sync, sync_to_async
from asgiref.testing import ApplicationCommunicator
from channels.layers import get_channel_layer
from django.utils import timezone
from pydantic import TypeAdapter

from instavis.accounts.models import Coach
from instavis.accounts.people import change_coach
from instavis.display.lessons import consumers
from instavis.display.lessons.consumers import LessonConsumer, NowhereConsumer
from instavis.display.lessons.messages import Message
from instavis.lessons import events
from instavis.lessons.events import group_of, locked_lesson, log
from instavis.lessons.models import LessonEvent
from instavis.project.asgi import application, line_routes
from instavis.training.services import begin_training

from .conftest import PASSWORD, signed_in

MESSAGE = TypeAdapter(Message)
"""Everything that is sent has the shape that the browser's types are made from."""

pytestmark = pytest.mark.django_db(transaction=True)


def line_to(path: str, caller=None) -> ApplicationCommunicator:
    """A WebSocket connection as the server's protocol layer would open it."""
    address, _, query = path.partition("?")
    headers = [(b"origin", b"http://127.0.0.1"), (b"host", b"127.0.0.1")]
    if caller:
        session = caller.client.cookies["instavis_session"].value
        headers.append((b"cookie", f"instavis_session={session}".encode()))
    scope = {
        "type": "websocket",
        "path": address,
        "query_string": query.encode(),
        "headers": headers,
        "subprotocols": [],
    }
    return ApplicationCommunicator(application, scope)


async def listen(path: str, caller, count: int) -> list[dict]:
    line = line_to(path, caller)
    await line.send_input({"type": "websocket.connect"})
    assert (await line.receive_output(5))["type"] == "websocket.accept"
    events = [json.loads((await line.receive_output(5))["text"]) for _ in range(count)]
    for event in events:
        MESSAGE.validate_python(event)
    await line.send_input({"type": "websocket.disconnect", "code": 1000})
    await line.wait(5)
    return events


def test_reconnected_screen_gets_missed_events_once(api, lesson, device, balls, numbered):
    device(numbered(balls(5)))
    path = f"/ws/lessons/{lesson.pk}"
    everything = async_to_sync(listen)(path, api, 5)
    assert [e["cursor"] for e in everything] == [1, 2, 3, 4, 5]
    assert [e["data"]["number"] for e in everything] == [1, 2, 3, 4, 5]
    assert [e["cursor"] for e in async_to_sync(listen)(path + "?after=3", api, 2)] == [4, 5]
    assert LessonEvent.objects.count() == 5


@pytest.mark.parametrize("who", ["stranger", "visitor"])
@pytest.mark.parametrize("path", ["/ws/lessons/{id}", "/ws/lessons/999999", "/ws/elsewhere"])
def test_other_academies_and_visitors_get_no_events(stranger, lesson, device, balls, numbered, who, path):
    device(numbered(balls(1)))
    assert closed(path.replace("{id}", str(lesson.pk)), stranger if who == "stranger" else None) == 4404


def test_desk_gets_no_events_of_a_lesson(api, coach, lesson, device, balls, numbered):
    """Every operation that shows balls denies it to the desk: the line does too."""
    device(numbered(balls(1)))
    coach.role = Coach.Role.DESK
    coach.save()
    assert closed(f"/ws/lessons/{lesson.pk}", api) == 4404


@pytest.mark.parametrize("called", [True, False])
def test_coach_who_becomes_desk_is_disconnected(api, coach, lesson, device, balls, numbered, called, monkeypatch):
    """At once when the line can be called, else within one look."""
    monkeypatch.setattr(consumers, "CHECK_SECONDS", 60 if called else 0.05)
    head = Coach.objects.create_user(username="other-head", academy=coach.academy, role="head")

    async def messages_sent():
        line = line_to(f"/ws/lessons/{lesson.pk}", api)
        await line.send_input({"type": "websocket.connect"})
        assert (await line.receive_output(5))["type"] == "websocket.accept"
        await line.receive_nothing(0.2)
        if called:
            await sync_to_async(change_coach)(head, coach.pk, "desk", None, timezone.now())
        else:
            await sync_to_async(Coach.objects.filter(pk=coach.pk).update)(role="desk")
        answer = await line.receive_output(5)
        await sync_to_async(device)(numbered(balls(1)))
        assert await line.receive_nothing(0.3)
        return answer

    answer = async_to_sync(messages_sent)()
    assert answer["type"] == "websocket.close"
    assert answer["code"] in (4401, 4404)


ROLES = {LessonConsumer: {"head", "coach"}, NowhereConsumer: set()}
"""Who may open each kind of line; a new line needs its row."""


@pytest.mark.parametrize("role", ["head", "coach", "desk"])
def test_every_socket_admits_only_its_roles(api, coach, lesson, role):
    coach.role = role
    coach.save()
    lines = [route.callback.consumer_class for route in line_routes]
    assert set(lines) == ROLES.keys()
    for route in line_routes:
        path = f"/ws/lessons/{lesson.pk}" if "lesson" in str(route.pattern) else "/ws/elsewhere"
        if role in ROLES[route.callback.consumer_class]:
            async_to_sync(listen)(path, api, 0)
        else:
            assert closed(path, api) == 4404


def test_colleague_gets_no_events_of_a_practice_lesson(coach):
    training = begin_training(coach, "clear", timezone.now(), seed=7)
    colleague = Coach.objects.create_user("other-coach", password=PASSWORD, name="Other", academy=coach.academy)
    assert closed(f"/ws/lessons/{training.lesson_id}", signed_in(colleague)) == 4404


def closed(path: str, caller) -> int:
    """The code with which a line is closed as soon as it is there."""

    async def messages_sent():
        line = line_to(path, caller)
        await line.send_input({"type": "websocket.connect"})
        await line.receive_output(5)
        return await line.receive_output(5)

    answer = async_to_sync(messages_sent)()
    assert answer["type"] == "websocket.close"
    return answer["code"]


async def _hear(path: str, caller, doing, count: int) -> list[dict]:
    """Open the channel, do something, and give the messages that came of it."""
    line = line_to(path, caller)
    await line.send_input({"type": "websocket.connect"})
    assert (await line.receive_output(5))["type"] == "websocket.accept"
    await line.receive_nothing(0.2)
    await sync_to_async(doing)()
    messages = [json.loads((await line.receive_output(5))["text"]) for _ in range(count)]
    assert await line.receive_nothing(0.3)
    await line.send_input({"type": "websocket.disconnect", "code": 1000})
    await line.wait(5)
    return messages


def hear(lesson, caller, doing, count: int) -> list[dict]:
    cursor = LessonEvent.objects.filter(lesson=lesson).count()
    return async_to_sync(_hear)(f"/ws/lessons/{lesson.pk}?after={cursor}", caller, doing, count)


def test_a_ball_comes_with_its_proof(api, corrected, device, balls, numbered):
    lesson = corrected
    shots = numbered(balls(1, fault="early-extension", marks=["done"]), 500)
    ball, proof = hear(lesson, api, lambda: device(shots), 2)
    assert ball["kind"] == "ball"
    assert "cursor" not in proof
    assert proof["kind"] == "proof"
    asked = api("get", f"/v1/lessons/{lesson.pk}/proof")
    for result in (proof["data"], asked):
        result["correction"]["chosen_at"] = result["correction"]["chosen_at"][:22]  # one has microseconds
    assert proof["data"] == asked
    assert proof["data"]["ball_ids"][-1] == ball["data"]["id"]


def test_proof_without_a_correction_is_empty(api, lesson, device, balls, numbered):
    _, proof = hear(lesson, api, lambda: device(numbered(balls(1))), 2)
    assert proof["data"] == {"correction": None, "proof": None, "ball_ids": [], "band": {}, "tape": []}


def test_a_batch_brings_every_ball_and_one_proof(api, lesson, device, balls, numbered):
    messages = hear(lesson, api, lambda: device(numbered(balls(6))), 7)
    assert [m["kind"] for m in messages] == ["ball"] * 6 + ["proof"]
    assert [m["cursor"] for m in messages[:-1]] == list(range(1, 7))


def test_batch_larger_than_a_notification_is_read_from_the_log(api, lesson, device, balls, numbered):
    messages = hear(lesson, api, lambda: device(numbered(balls(45))), 46)
    assert [m["cursor"] for m in messages[:-1]] == list(range(1, 46))


def test_missed_balls_come_with_their_proof(api, corrected, device, balls, numbered):
    cursor = LessonEvent.objects.filter(lesson=corrected).count()
    device(numbered(balls(3, fault="early-extension", marks=["done"] * 3), 500))
    *missed, proof = async_to_sync(listen)(f"/ws/lessons/{corrected.pk}?after={cursor}", api, 4)
    assert [m["kind"] for m in missed] == ["ball"] * 3
    assert proof["kind"] == "proof"
    assert proof["data"]["ball_ids"][-1] == missed[-1]["data"]["id"]


def test_failed_proof_keeps_the_connection_open(api, lesson, device, balls, numbered, monkeypatch):
    def broken(_):
        raise OSError("the database went away")

    monkeypatch.setattr(consumers, "proof_out", broken)
    ball, instead = hear(lesson, api, lambda: device(numbered(balls(1))), 2)
    assert ball["kind"] == "ball"
    assert instead == {"kind": "lesson", "data": {"changed": "proof"}}


@pytest.mark.parametrize("trouble", [OSError, RuntimeError])
def test_connection_polls_without_notifications(api, lesson, device, balls, numbered, monkeypatch, trouble):
    async def lost(group: str, channel: str) -> None:
        raise trouble("two lines made a lost connection anew at once")

    monkeypatch.setattr(get_channel_layer(), "group_add", lost)
    monkeypatch.setattr(consumers, "CHECK_SECONDS", 0.05)
    result = hear(lesson, api, lambda: device(numbered(balls(1))), 2)
    assert [message["kind"] for message in result] == ["ball", "proof"]


def test_events_do_not_wait_for_a_slow_proof_and_balls_share_the_next(
    api, lesson, device, balls, numbered, monkeypatch
):
    begun, go_on, worked_out = threading.Event(), threading.Event(), []

    def slow():
        begun.set()
        assert go_on.wait(5)
        worked_out.append(1)
        return {"nth": len(worked_out)}

    async def messages_sent():
        async def proof(self):
            return await asyncio.to_thread(slow)

        monkeypatch.setattr(consumers.LessonConsumer, "_proof", proof)
        line = line_to(f"/ws/lessons/{lesson.pk}", api)
        await line.send_input({"type": "websocket.connect"})
        assert (await line.receive_output(5))["type"] == "websocket.accept"
        shots = numbered(balls(4))
        messages = []
        for shot in shots:
            await sync_to_async(device)([shot])
            messages.append(json.loads((await line.receive_output(5))["text"]))
        assert begun.is_set()
        go_on.set()
        messages += [json.loads((await line.receive_output(5))["text"]) for _ in range(2)]
        assert await line.receive_nothing(0.3)
        await line.send_input({"type": "websocket.disconnect", "code": 1000})
        await line.wait(5)
        return messages

    messages = async_to_sync(messages_sent)()
    assert [m["kind"] for m in messages] == ["ball"] * 4 + ["proof"] * 2
    assert [m["data"]["nth"] for m in messages[4:]] == [1, 2]


def test_other_changes_bring_no_proof(api, lesson):
    (message,) = hear(lesson, api, lambda: api("patch", f"/v1/lessons/{lesson.pk}", {"minutes": 45}), 1)
    assert message["data"] == {"changed": "lesson"}


def test_missed_notification_is_recovered_by_the_next(api, lesson):
    def one_quiet_one_notified():
        from django.db import transaction

        with transaction.atomic():
            silent = locked_lesson(lesson.pk)
            silent.last_event += 1
            LessonEvent.objects.create(
                lesson=silent, cursor=silent.last_event, kind="lesson", data={"changed": "silent"}
            )
            silent.save(update_fields=["last_event"])
        with transaction.atomic():
            log(locked_lesson(lesson.pk), "lesson", [{"changed": "told"}])

    messages = hear(lesson, api, one_quiet_one_notified, 2)
    assert [m["data"]["changed"] for m in messages] == ["silent", "told"]


def test_repeated_notification_is_sent_once(api, lesson):
    def notified_twice():
        api("patch", f"/v1/lessons/{lesson.pk}", {"minutes": 45})
        event = LessonEvent.objects.filter(lesson=lesson).latest("cursor")
        again = [{"cursor": event.cursor, "kind": event.kind, "data": event.data}]
        async_to_sync(get_channel_layer().group_send)(
            group_of(lesson.pk), {"type": "lesson.moved", "events": again, "last": event.cursor}
        )

    assert len(hear(lesson, api, notified_twice, 1)) == 1


def test_missed_events_can_be_fetched_without_a_socket(api, corrected, device, balls, numbered, bay):
    bay.lesson = corrected
    bay.save()
    before = api("get", f"/v1/lessons/{corrected.pk}")["cursor"]
    device(numbered(balls(3)))
    result = api("get", f"/v1/lessons/{corrected.pk}/events?after={before}")
    assert [e["cursor"] for e in result["events"]] == [before + 1, before + 2, before + 3]
    assert {e["data"]["purpose"] for e in result["events"]} == {"prove"}
    assert result["proof"]["data"]["proof"]["verdicts"]
    shot = corrected.shots.order_by("-number").first()
    api("patch", f"/v1/shots/{shot.pk}", {"movement": "done"})
    (marked,) = api("get", f"/v1/lessons/{corrected.pk}/events?after={before + 3}")["events"]
    assert marked["data"]["marked"] == ["movement"]


def test_connection_closes_with_its_session(api, lesson):
    async def ended():
        line = line_to(f"/ws/lessons/{lesson.pk}", api)
        await line.send_input({"type": "websocket.connect"})
        assert (await line.receive_output(5))["type"] == "websocket.accept"
        await line.receive_nothing(0.2)
        await sync_to_async(api)("delete", "/v1/session", None, 204)
        return await line.receive_output(5)

    result = async_to_sync(ended)()
    assert (result["type"], result["code"]) == ("websocket.close", 4401)


def test_connection_checks_the_log_periodically(api, coach, lesson, device, balls, numbered, monkeypatch):
    """When no call comes through it finds balls by itself, and that its coach has left."""
    monkeypatch.setattr(consumers, "CHECK_SECONDS", 0.05)
    monkeypatch.setattr(events, "call", lambda group, message: None)

    async def alone():
        line = line_to(f"/ws/lessons/{lesson.pk}", api)
        await line.send_input({"type": "websocket.connect"})
        assert (await line.receive_output(5))["type"] == "websocket.accept"
        await sync_to_async(device)(numbered(balls(1)))
        kinds = [json.loads((await line.receive_output(5))["text"])["kind"] for _ in range(2)]
        await sync_to_async(type(coach).objects.filter(pk=coach.pk).update)(is_active=False)
        return kinds, await line.receive_output(5)

    kinds, result = async_to_sync(alone)()
    assert kinds == ["ball", "proof"]
    assert (result["type"], result["code"]) == ("websocket.close", 4401)


@pytest.mark.parametrize("log", ["behind", "shortened"])
def test_screen_ahead_of_the_log_gets_resync(api, lesson, device, balls, numbered, log, monkeypatch):
    device(numbered(balls(6)))
    after = 40
    if log == "shortened":
        monkeypatch.setattr(events, "MAX_EVENTS", 2)
        assert events.shorten_logs() == 4
        after = 1
    [result] = async_to_sync(listen)(f"/ws/lessons/{lesson.pk}?after={after}", api, 1)
    assert result == {"kind": "resync", "cursor": 6}
    asked = api("get", f"/v1/lessons/{lesson.pk}/events?after={after}")
    assert (asked["resync"], asked["events"]) == (result, [])


def test_connections_per_session_are_limited(api, lesson, monkeypatch):
    monkeypatch.setattr(consumers, "MAX_LINES", 2)
    monkeypatch.setattr(consumers.LessonConsumer, "lines", Counter())

    async def crowd():
        lines, last = [], {}
        for _ in range(3):
            line = line_to(f"/ws/lessons/{lesson.pk}", api)
            await line.send_input({"type": "websocket.connect"})
            assert (await line.receive_output(5))["type"] == "websocket.accept"
            lines.append(line)
        last = await lines[-1].receive_output(5)
        for line in lines:
            await line.send_input({"type": "websocket.disconnect", "code": 1000})
            await line.wait(5)
        return last

    assert async_to_sync(crowd)()["code"] == 4429
    assert not consumers.LessonConsumer.lines
