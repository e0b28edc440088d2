"""Bringing files in: keep the bytes, store the balls whole or not at all, remember the mapping."""

from __future__ import annotations

import contextlib
import threading
from collections.abc import Generator, Iterable
from datetime import datetime, timedelta

from django.db import close_old_connections, connection, transaction

from instavis.accounts.models import Coach
from instavis.capture.files import progress as ways
from instavis.capture.files import storage
from instavis.capture.files.models import Draft, SourceMapping
from instavis.capture.files.progress import Cancelled, Progress
from instavis.capture.files.selectors import mapping_as_json
from instavis.capture.shots.services import check_hand, record_many
from instavis.lessons.events import Aspect, locked_lesson, log_change
from instavis.lessons.models import Block, Lesson
from instavis.platform.errors import Refused, problem_of
from instavis_core.errors import InputError
from instavis_core.message import Message
from instavis_core.shots import MOST_SHOTS
from instavis_core.shots import Shot as ShotRecord
from instavis_core.terms import Purpose
from instavis_io.tables import MappedRow, Mapping, TableErrors, mapped_rows

KEPT_FOR = timedelta(days=1)
AT_ONCE = 1000


def keep_draft(lesson: Lesson, coach: Coach, name: str, chunks: Iterable[bytes], now: datetime) -> Draft:
    """Keep a sent file for a day, and drop older ones."""
    for old in Draft.objects.filter(created_at__lt=now - KEPT_FOR):
        drop_draft(old)
    key, size = storage.keep(chunks)
    return Draft.objects.create(lesson=lesson, coach=coach, name=name[:120], size=size, key=key, created_at=now)


def drop_draft(draft: Draft) -> None:
    """Forget a file, or call off its storing."""
    running = ways.progress_of(draft.pk)
    if running is not None and running.state == "reading":
        running.cancel()
        return
    storage.drop(draft.key)
    draft.delete()


def begin_storing(draft: Draft, mapping: Mapping, leave_out_bad: bool, now: datetime) -> Progress:
    """Store the balls of a draft beside the request; its progress can be asked for.

    Raises
    ------
    Refused
        When it is being stored already.
    """
    with storage.open_draft(draft.key) as file:
        total = sum(1 for _ in file)
    way = ways.begin(draft.pk, total)
    if way is None:
        raise Refused(409, "file", Message("This file is being brought in already."))
    threading.Thread(target=_in_background, args=(draft, mapping, leave_out_bad, now, way), daemon=True).start()
    return way


def _in_background(draft: Draft, mapping: Mapping, leave_out_bad: bool, now: datetime, way: Progress) -> None:
    close_old_connections()
    try:
        store_draft(draft, mapping, leave_out_bad, now, way)
    finally:
        connection.close()


def store_draft(draft: Draft, mapping: Mapping, leave_out_bad: bool, now: datetime, way: Progress) -> None:
    """Store all balls of a draft in one block of the baseline, or none; ``way`` tells how it went."""
    try:
        _store(draft, mapping, leave_out_bad, now, way)
        way.state = "done"
    except Cancelled:
        way.state = "cancelled"
    except (TableErrors, InputError) as error:
        way.state = "failed"
        way.problems = [problem_of(e) for e in getattr(error, "errors", [error])]
    except BaseException:
        way.state = "failed"
        raise


@transaction.atomic
def _store(draft: Draft, mapping: Mapping, leave_out_bad: bool, now: datetime, way: Progress) -> None:
    lesson = locked_lesson(draft.lesson_id)
    known = set(lesson.shots.values_list("shot_id", flat=True))
    block = Block.objects.create(lesson=lesson, purpose=Purpose.BASELINE, opened_at=now)
    with (
        storage.open_draft(draft.key) as file,
        contextlib.closing(_batches(mapped_rows(file, mapping, lesson.golfer), lesson, leave_out_bad, way)) as batches,
    ):
        for batch in batches:
            stored = record_many(lesson, batch, now, block, known)
            way.stored += stored
            way.known += len(batch) - stored
    if not way.stored and not way.known:
        raise InputError("file", "no balls", Message("at least one row that is a ball"))
    if not way.stored:
        block.delete()
    source, values = mapping.source, {"mapping": mapping_as_json(mapping), "used_at": now}
    SourceMapping.objects.update_or_create(academy=lesson.academy, source=source, defaults=values)
    log_change(lesson, Aspect.SHOTS)


def _batches(
    rows: Iterable[MappedRow], lesson: Lesson, leave_out_bad: bool, way: Progress
) -> Generator[list[ShotRecord]]:
    """Shots in handfuls; a wrong row ends it all unless wrong rows are to be left out."""
    batch: list[ShotRecord] = []
    errors: list[InputError] = []
    for count, row in enumerate(rows, start=1):
        error = row.error
        if row.shot is not None:
            try:
                check_hand(row.shot, lesson)
                batch.append(row.shot)
            except InputError as wrong_hand:
                error = wrong_hand.at(row.line)
        if error is not None:
            way.left_out += 1
            errors.append(error)
            if not leave_out_bad and len(errors) >= 20:
                raise TableErrors(errors)
        if len(batch) >= AT_ONCE:
            if not errors or leave_out_bad:
                yield batch
            batch = []
        if count > MOST_SHOTS:
            raise TableErrors(
                [InputError("file", f"more than {MOST_SHOTS} rows", Message("at most {most}", most=MOST_SHOTS))]
            )
        if count % AT_ONCE == 0:
            way.step(AT_ONCE)
    if errors and not leave_out_bad:
        raise TableErrors(errors)
    if batch:
        yield batch
    way.step(0)
