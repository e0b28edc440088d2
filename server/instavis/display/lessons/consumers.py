"""The live channel: a screen says how far it has read and gets everything after, then every new event."""

from __future__ import annotations

import asyncio
import logging
from typing import Any
from urllib.parse import parse_qs

from channels.db import database_sync_to_async
from channels.generic.websocket import AsyncJsonWebsocketConsumer

from instavis.accounts.models import Coach
from instavis.corrections.proofs.api import proof_out
from instavis.lessons.events import Aspect, group_of
from instavis.lessons.models import Lesson, LessonEvent
from instavis.platform.language import speak_to

logger = logging.getLogger(__name__)

NOT_YOURS = 4404
MOST_AT_ONCE = 200


class LessonConsumer(AsyncJsonWebsocketConsumer):
    """``/ws/lessons/ID?after=CURSOR``; sends ``{"cursor", "kind", "data"}`` in order, without gaps."""

    async def connect(self) -> None:
        self.lesson_id = self.scope["url_route"]["kwargs"]["lesson_id"]
        self.sending = asyncio.Lock()
        self.proof_due = False
        self.proving: asyncio.Task[None] | None = None
        after = parse_qs(self.scope["query_string"].decode()).get("after", ["0"])[0]
        self.cursor = int(after) if after.isdigit() else 0
        await self.accept()
        if not await self._mine():
            await self.close(code=NOT_YOURS)
            return
        # Join first, read second: what is written in between comes by one way or the other.
        await self.channel_layer.group_add(group_of(self.lesson_id), self.channel_name)
        await self._catch_up()
        self._prove()

    async def disconnect(self, code: int) -> None:
        if self.proving is not None:
            self.proving.cancel()
        await self.channel_layer.group_discard(group_of(self.lesson_id), self.channel_name)

    async def receive_json(self, content: object, **kwargs: object) -> None:
        """Screens have nothing to say here; a ping keeps proxies awake."""
        await self.send_json({"kind": "pong"})

    async def lesson_moved(self, message: dict[str, Any]) -> None:
        """Something was written: send it on if it follows on what was sent, else read the log."""
        events = message["events"]
        async with self.sending:
            if events and events[0]["cursor"] == self.cursor + 1:
                await self._send(events)
        await self._catch_up(message["last"])
        self._prove()

    def _prove(self) -> None:
        """What everybody waits for comes with the balls: their verdict.

        Worked out beside the line, so that no later event waits for it; balls that come meanwhile share
        the next one.
        """
        if self.proof_due and (self.proving is None or self.proving.done()):
            self.proving = asyncio.create_task(self._send_proofs())

    async def _send_proofs(self) -> None:
        while self.proof_due:
            self.proof_due = False
            try:
                message = {"kind": "proof", "data": await self._proof()}
            except Exception:
                logger.exception("no proof of lesson %s", self.lesson_id)
                message = {"kind": "lesson", "data": {"changed": Aspect.PROOF}}  # the screen asks for it itself
            try:
                await self.send_json(message)
            except OSError:  # the screen has gone meanwhile; it asks anew when it is back
                return

    async def _catch_up(self, known: int | None = None) -> None:
        """Send everything in the log after the cursor; nothing to do when it is as far as the last known event."""
        async with self.sending:
            while (known is None or self.cursor < known) and (events := await self._events()):
                await self._send(events)

    async def _send(self, events: list[dict[str, Any]]) -> None:
        for event in events:
            await self.send_json(event)
        self.proof_due |= any(event["kind"] == "ball" for event in events)
        self.cursor = events[-1]["cursor"]

    @database_sync_to_async
    def _proof(self) -> dict[str, Any]:
        speak_to(Coach.objects.get(pk=self.coach_id))  # units and language may have changed since the line was opened
        lesson = Lesson.objects.select_related("student").get(pk=self.lesson_id)
        return proof_out(lesson).dict(mode="json")

    @database_sync_to_async
    def _mine(self) -> bool:
        coach = self.scope["user"]
        self.coach_id = coach.pk
        return coach.is_authenticated and Lesson.objects.filter(pk=self.lesson_id, academy=coach.academy).exists()

    @database_sync_to_async
    def _events(self) -> list[dict[str, Any]]:
        events = LessonEvent.objects.filter(lesson_id=self.lesson_id, cursor__gt=self.cursor)
        return [dict(row) for row in events.values("cursor", "kind", "data")[:MOST_AT_ONCE]]


class NowhereConsumer(AsyncJsonWebsocketConsumer):
    """Closes connections to unknown addresses with a code instead of a crash."""

    async def connect(self) -> None:
        await self.accept()
        await self.close(code=NOT_YOURS)
