"""Import files: keep the bytes, store all balls or none, remember the mapping."""

from __future__ import annotations

import contextlib
from collections.abc import Generator, Iterable
from dataclasses import asdict, dataclass
from datetime import datetime, timedelta
from typing import Any

from instavis.accounts.models import Coach
from instavis.capture.files.models import Draft, SourceMapping
from instavis.capture.files.selectors import mapping_as_json
from instavis.capture.shots.services import check_hand, record_many
from instavis.lessons.events import Aspect, locked_lesson, log_change
from instavis.lessons.models import Block, Lesson
from instavis.platform.errors import Refused, problem_of
from instavis.platform.file_storage import DRAFTS
from instavis.platform.transactions import transactional
from instavis.work import services as works
from instavis.work.models import Work
from instavis.work.services import Cancelled, Step, WorkFailed
from instavis_core.errors import InputError
from instavis_core.message import Message
from instavis_core.shots import MAX_SHOTS
from instavis_core.shots import Shot as ShotRecord
from instavis_core.terms import Purpose
from instavis_io.tables import MappedRow, Mapping, TableErrors, mapped_rows, read_mapping

KEEP_FOR = timedelta(days=1)
AT_ONCE = 1000
IMPORT = "import"


def keep_draft(lesson: Lesson, coach: Coach, name: str, chunks: Iterable[bytes], now: datetime) -> Draft:
    """Keep an uploaded file for a day."""
    key, size = DRAFTS.keep(chunks)
    return Draft.objects.create(lesson=lesson, coach=coach, name=name[:120], size=size, key=key, created_at=now)


def drop_old_drafts(now: datetime) -> int:
    """Delete files that were not imported within a day; return how many."""
    old = [d for d in Draft.objects.filter(created_at__lt=now - KEEP_FOR).select_related("work") if not _busy(d)]
    for draft in old:
        forget_draft(draft)
    return len(old)


def _busy(draft: Draft) -> bool:
    return draft.work is not None and draft.work.open


def drop_draft(draft: Draft) -> None:
    """Delete a file, or cancel its import."""
    if draft.work is not None and draft.work.open:
        works.cancel(draft.work)
        return
    forget_draft(draft)


def forget_draft(draft: Draft) -> None:
    """Delete a file and its bytes; a worker that imports it stops."""
    if draft.work is not None:
        works.cancel(draft.work)
    DRAFTS.drop(draft.key)
    draft.delete()


@transactional
def ask_to_store(draft: Draft, coach: Coach, mapping: Mapping, leave_out_bad: bool, now: datetime) -> Draft:
    """Ask a worker to store the balls of a draft; its progress can be polled.

    Raises
    ------
    Refused
        When it is being stored already.
    """
    draft = Draft.objects.select_for_update().select_related("work", "lesson__academy").get(pk=draft.pk)
    if draft.work is not None and draft.work.open:
        raise Refused(409, "file", Message("bays-file-already-being-imported"))
    with DRAFTS.open(draft.key) as file:
        total = sum(1 for _ in file)
    asked = {"draft": draft.pk, "mapping": mapping_as_json(mapping), "leave_out_bad": leave_out_bad}
    draft.work = works.ask(IMPORT, draft.lesson.academy, coach, asked, now, total)
    draft.save(update_fields=["work"])
    return draft


@works.does(IMPORT)
def store_draft(work: Work, step: Step) -> dict[str, Any]:
    """Store all balls of a draft in one block of the baseline, or none; report progress."""
    asked = work.arguments
    draft = Draft.objects.select_related("lesson").filter(pk=asked["draft"]).first()
    if draft is None:  # the student was deleted meanwhile
        raise Cancelled
    try:
        return asdict(_store(draft, read_mapping(asked["mapping"]), asked["leave_out_bad"], work.asked_at, step))
    except (TableErrors, InputError) as error:
        problems = [problem_of(e).dict(mode="json") for e in getattr(error, "errors", [error])]
        raise WorkFailed({"problems": problems}) from error


@dataclass(kw_only=True)
class Stored:
    """Result of a file's rows."""

    stored: int = 0
    known: int = 0
    left_out: int = 0


@transactional
def _store(draft: Draft, mapping: Mapping, leave_out_bad: bool, now: datetime, step: Step) -> Stored:
    lesson = locked_lesson(draft.lesson_id)
    known = set(lesson.shots.values_list("shot_id", flat=True))
    block = Block.objects.create(lesson=lesson, purpose=Purpose.BASELINE, opened_at=now)
    outcome = Stored()
    with (
        DRAFTS.open(draft.key) as file,
        contextlib.closing(
            _batches(
                mapped_rows(file, mapping, lesson.golfer, lesson.academy.zone), lesson, leave_out_bad, outcome, step
            )
        ) as batches,
    ):
        for batch in batches:
            stored = record_many(lesson, batch, now, block, known)
            outcome.stored += stored
            outcome.known += len(batch) - stored
    if not outcome.stored and not outcome.known:
        raise InputError("file", Message("found-no-balls"), Message("bays-least-one-row-ball"))
    if not outcome.stored:
        block.delete()
    source, values = mapping.source, {"mapping": mapping_as_json(mapping), "used_at": now}
    SourceMapping.objects.update_or_create(academy=lesson.academy, source=source, defaults=values)
    log_change(lesson, Aspect.SHOTS)
    return outcome


def _batches(
    rows: Iterable[MappedRow], lesson: Lesson, leave_out_bad: bool, outcome: Stored, step: Step
) -> Generator[list[ShotRecord]]:
    """Yield shots in batches; an invalid row stops everything unless such rows are skipped."""
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
            outcome.left_out += 1
            errors.append(error)
            if not leave_out_bad and len(errors) >= 20:
                raise TableErrors(errors)
        if len(batch) >= AT_ONCE:
            if not errors or leave_out_bad:
                yield batch
            batch = []
        if count > MAX_SHOTS:
            raise TableErrors(
                [InputError("file", Message("found-more-than", n=MAX_SHOTS), Message("common-most", most=MAX_SHOTS))]
            )
        if count % AT_ONCE == 0:
            step(AT_ONCE)
    if errors and not leave_out_bad:
        raise TableErrors(errors)
    if batch:
        yield batch
    step()
