"""The live connection: a screen sends its cursor, gets everything after it, then every new event."""

from __future__ import annotations

import asyncio
import contextlib
import logging
from collections import Counter
from collections.abc import Coroutine
from typing import Any, ClassVar
from urllib.parse import parse_qs

from channels.db import database_sync_to_async
from channels.generic.websocket import AsyncJsonWebsocketConsumer
from redis.exceptions import RedisError

from instavis.accounts.access import coaches
from instavis.accounts.models import Coach
from instavis.accounts.sessions import coach_of, stored_key
from instavis.corrections.proofs.api import proof_out
from instavis.lessons.events import Aspect, group_of
from instavis.lessons.models import Lesson, LessonEvent
from instavis.lessons.selectors import open_to
from instavis.platform import metrics
from instavis.platform.language import speak_to
from instavis.platform.lines import coach_group, session_group

logger = logging.getLogger(__name__)

NOT_YOURS, SESSION_ENDED, TOO_MANY = 4404, 4401, 4429
UNREACHABLE = (RedisError, OSError, RuntimeError)
"""What joining raises while Redis is unavailable; RuntimeError if two connections reconnect at once (asyncio)."""
MAX_AT_ONCE = 200
MAX_LINES = 24
"""Connections of one session in one process."""
CHECK_SECONDS = 5.0
"""How often a connection checks by itself whether it may still be open and whether a notification was lost."""


class LessonConsumer(AsyncJsonWebsocketConsumer):
    """``/ws/lessons/ID?after=CURSOR``; sends ``{"cursor", "kind", "data"}`` in order, without gaps.

    A cursor ahead of the log (the database was restored from a backup) is answered with ``resync``.
    """

    lines: ClassVar[Counter[str]] = Counter()

    async def connect(self) -> None:
        self.lesson_id = self.scope["url_route"]["kwargs"]["lesson_id"]
        self.sending = asyncio.Lock()
        self.shut = False
        self.proof_due = False
        self.tasks: set[asyncio.Task[None]] = set()
        self.proving: asyncio.Task[None] | None = None
        self.groups_joined: list[str] = []
        self.session_key = self.scope["session"].session_key
        after = parse_qs(self.scope["query_string"].decode()).get("after", ["0"])[0]
        self.cursor = int(after) if after.isascii() and after.isdigit() and len(after) < 16 else 0
        await self.accept()
        if not await self._still_mine():
            await self._shut(NOT_YOURS)
            return
        self.counted = stored_key(self.session_key)
        self.lines[self.counted] += 1
        metrics.line_opened()
        if self.lines[self.counted] > MAX_LINES:
            await self._shut(TOO_MANY)
            return
        # Join first, then read: what is written in between arrives either way.
        await self._join(*self._groups())
        await self._catch_up()
        self._prove()
        self._begin(self._read())

    async def disconnect(self, code: int) -> None:
        for task in self.tasks:
            task.cancel()
        if hasattr(self, "counted"):
            metrics.line_closed()
            self.lines[self.counted] -= 1
            if not self.lines[self.counted]:
                del self.lines[self.counted]
        with contextlib.suppress(*UNREACHABLE):
            for group in self.groups_joined:
                await self.channel_layer.group_discard(group, self.channel_name)

    async def _shut(self, code: int) -> None:
        """Close the connection, and send nothing more while the browser confirms."""
        self.shut = True
        await self.close(code=code)

    def _groups(self) -> tuple[str, ...]:
        return group_of(self.lesson_id), session_group(self.counted), coach_group(self.coach_id)

    async def _join(self, *groups: str) -> None:
        """Join the group; without Redis the connection polls until it can."""
        try:
            for group in groups:
                if group not in self.groups_joined:
                    await self.channel_layer.group_add(group, self.channel_name)
                    self.groups_joined.append(group)
        except UNREACHABLE as error:
            logger.warning("a connection to lesson %s polls: %s", self.lesson_id, error)

    async def _read(self) -> None:
        while True:
            await asyncio.sleep(CHECK_SECONDS)
            try:
                if not await self._still_mine():
                    await self._shut(SESSION_ENDED)
                    return
                await self._join(*self._groups())
                await self._catch_up()
                self._prove()
            except Exception as error:  # the database is unavailable: later
                logger.warning("a connection to lesson %s could not read the log: %s", self.lesson_id, error)

    def _begin(self, work: Coroutine[Any, Any, None]) -> asyncio.Task[None]:
        task = asyncio.create_task(work)
        self.tasks.add(task)
        task.add_done_callback(self.tasks.discard)
        return task

    async def session_ended(self, message: dict[str, Any]) -> None:
        """Close after the coach signed out."""
        await self._shut(SESSION_ENDED)

    async def rights_changed(self, message: dict[str, Any]) -> None:
        """Close if the coach's new role may no longer have this connection."""
        if not await self._still_mine():
            await self._shut(NOT_YOURS)

    async def receive_json(self, content: object, **kwargs: object) -> None:
        """Ignore messages from screens; a ping keeps proxies awake."""
        await self.send_json({"kind": "pong"})

    async def lesson_moved(self, message: dict[str, Any]) -> None:
        """Send a new event if it follows the last one; otherwise read the log."""
        events = message["events"]
        async with self.sending:
            if events and events[0]["cursor"] == self.cursor + 1:
                await self._send(events)
        await self._catch_up(message["last"])
        self._prove()

    def _prove(self) -> None:
        """Send the proof after each batch of balls.

        It is computed separately, so that no later event waits for it; balls that arrive meanwhile share the next one.
        """
        if self.proof_due and (self.proving is None or self.proving.done()):
            self.proving = self._begin(self._send_proofs())

    async def _send_proofs(self) -> None:
        while self.proof_due and not self.shut:
            self.proof_due = False
            try:
                message = {"kind": "proof", "data": await self._proof()}
            except Exception:
                logger.exception("no proof of lesson %s", self.lesson_id)
                message = {"kind": "lesson", "data": {"changed": Aspect.PROOF}}  # the screen requests it itself
            try:
                await self.send_json(message)
            except OSError:  # the screen is gone; it asks again when it is back
                return

    async def _catch_up(self, known: int | None = None) -> None:
        """Send everything in the log after the cursor; nothing if the cursor is current."""
        async with self.sending:
            while not self.shut and (known is None or self.cursor < known):
                last, events = await self._events()
                if last < self.cursor or (events and events[0]["cursor"] > self.cursor + 1):
                    # A backup was restored, or so much has happened that the log starts later.
                    self.cursor = last
                    await self.send_json({"kind": "resync", "cursor": last})
                    return
                if not events:
                    return
                await self._send(events)

    async def _send(self, events: list[dict[str, Any]]) -> None:
        if self.shut:
            return
        for event in events:
            await self.send_json(event)
        self.proof_due |= any(event["kind"] == "ball" for event in events)
        self.cursor = events[-1]["cursor"]

    @database_sync_to_async
    def _proof(self) -> dict[str, Any]:
        with_all = Lesson.objects.select_related("student", "coach", "academy", "knowledge_version", "intake")
        lesson = with_all.get(pk=self.lesson_id)
        own = lesson.coach_id == self.coach_id
        # Units and language may have changed since the connection was opened.
        speak_to(lesson.coach if own else Coach.objects.get(pk=self.coach_id))
        return proof_out(lesson).dict(mode="json")

    @database_sync_to_async
    def _still_mine(self) -> bool:
        coach = coach_of(self.session_key)
        if coach is None or not coaches.admits(coach):
            return False
        self.coach_id = coach.pk
        return Lesson.objects.filter(open_to(coach), pk=self.lesson_id).exists()

    @database_sync_to_async
    def _events(self) -> tuple[int, list[dict[str, Any]]]:
        last = Lesson.objects.values_list("last_event", flat=True).get(pk=self.lesson_id)
        if last <= self.cursor:
            return last, []
        events = LessonEvent.objects.filter(lesson_id=self.lesson_id, cursor__gt=self.cursor)
        return last, [dict(row) for row in events.values("cursor", "kind", "data")[:MAX_AT_ONCE]]


class NowhereConsumer(AsyncJsonWebsocketConsumer):
    """Close connections to unknown addresses with a code instead of a crash."""

    async def connect(self) -> None:
        await self.accept()
        await self.close(code=NOT_YOURS)
