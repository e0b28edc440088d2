"""Store rows exactly once, and turn them into balls when their columns are confirmed."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime, timedelta
from itertools import groupby

from django.db.models import Count, Q

from instavis.accounts.models import Coach
from instavis.capture.bridges.models import SeenBall, Source, WaitingRow
from instavis.capture.devices.models import Bay, Device, RefusedBall
from instavis.capture.devices.refusals import keep_refused
from instavis.capture.devices.services import read_sequence, receive_shots
from instavis.capture.files.models import SourceMapping
from instavis.capture.files.selectors import mapping_as_json
from instavis.capture.shots.selectors import record_of
from instavis.capture.shots.services import fill_shot
from instavis.lessons.events import Aspect, locked_lesson, log_change
from instavis.lessons.models import Lesson
from instavis.platform.errors import Problem, Refused, problem_of
from instavis.platform.transactions import transactional
from instavis_core.errors import InputError
from instavis_core.golfer import Golfer
from instavis_core.message import Message
from instavis_core.shots import Shot as ShotRecord
from instavis_io.tables import (
    OBJECTS,
    Cut,
    Mapping,
    RowReader,
    cells_of,
    fills,
    find_cut,
    heading_club,
    identity,
    may_be_ball,
    may_hold_ball,
    object_cut,
    read_mapping,
)

MAX_EXAMPLES = 60
MAX_WAITING = 20_000  # rows of a bay that may wait for a mapping
MAX_SOURCES = 200  # kinds of rows a bay may have
AT_ONCE = 200
KNOWN_FOR = timedelta(days=3)
LATELY, FILLED_WITHIN = 5, timedelta(minutes=2)
"""A fuller row completes a ball that arrived at most this many balls and this long ago."""


@dataclass(frozen=True, kw_only=True)
class Row:
    """A row of a source, the bridge's number for it, and the club of a heading above it."""

    device_sequence: int
    text: str
    club: str = ""


@dataclass
class RowsReceipt:
    """Result of a batch of rows: new balls, known ones, waiting, not balls, refused (by position)."""

    stored: int = 0
    known: int = 0
    waiting: int = 0
    no_balls: int = 0
    refused: list[tuple[int, Problem]] = field(default_factory=list)


@transactional
def receive_rows(
    device: Device, name: str, head: Sequence[str], rows: Sequence[Row], example: bool, now: datetime
) -> RowsReceipt:
    """Store rows of one source exactly once; unmapped ones wait unchanged.

    Parameters
    ----------
    device : Device
        The bridge's.
    name : str
        Of the file or stream.
    head : sequence of str
        Its first lines, among them the one that names the columns.
    rows : sequence of Row
    example : bool
        The rows are old and only show what is coming: nothing becomes of them.

    Raises
    ------
    InputError
        For a number that is none.
    Refused
        When too many rows wait already: nothing is taken then, and the bridge keeps them.
    """
    for row in rows:
        read_sequence(row.device_sequence)
    # One batch of a device at a time, as for balls.
    device = Device.objects.select_for_update().select_related("bay").get(pk=device.pk)
    receipt = RowsReceipt()
    for cut, good in _sorted_out(device, head, rows, example, receipt, now):
        source = _source(device.bay, cut, name, [row.text for _, row, _ in good], now)
        if example or source.left:
            receipt.no_balls += len(good)
        elif source.mapping is None:
            receipt.waiting += _keep_waiting(source, device, [row for _, row, _ in good], now)
        else:
            _take(read_mapping(source.mapping), device, _listening(device.bay), good, receipt, now)
    return receipt


Good = list[tuple[int, Row, list[str]]]
"""Rows that may be balls: position in the batch, row, cells."""


def _sorted_out(
    device: Device, head: Sequence[str], rows: Sequence[Row], example: bool, receipt: RowsReceipt, now: datetime
) -> list[tuple[Cut, Good]]:
    """Group rows by how they are split, in order; unreadable ones are refused and stored."""
    table = _cut_or_none(head)
    known = [source.cut for source in device.bay.sources.filter(shape=OBJECTS)]
    by_key: dict[str, tuple[Cut, Good]] = {}
    club = heading_club(head, table) if table else ""
    for place, row in enumerate(rows):
        row = replace(row, club=club)
        cut = object_cut(row.text) or table
        # An object without its unknown values is still of its kind.
        cut = next((k for k in known if cut and cut.shape == OBJECTS and set(cut.headers) <= set(k.headers)), cut)
        try:
            if cut is None:
                raise InputError("row", row.text, Message("bays-row-table-json-object"))
            cells = cells_of(cut, row.text)
        except InputError as error:
            if may_hold_ball(row.text) and not example:
                _refuse(device, place, row, {"row": row.text}, problem_of(error), receipt, now)
            else:  # a title above the table, a blank in the stream
                receipt.no_balls += 1
            continue
        if may_be_ball(cells):
            by_key.setdefault(cut.key, (cut, []))[1].append((place, row, cells))
        else:
            receipt.no_balls += 1
    return list(by_key.values())


def _cut_or_none(head: Sequence[str]) -> Cut | None:
    try:
        return find_cut(head)
    except InputError:
        return None


@transactional
def confirm_source(source: Source, mapping: Mapping, coach: Coach, now: datetime) -> int:
    """Confirm the columns: waiting rows become balls, in order. Return how many were new.

    Rows of a lesson that no longer uses the bay become unassigned balls.
    """
    source = Source.objects.select_for_update().select_related("bay__academy").get(pk=source.pk)
    source.mapping, source.left = mapping_as_json(mapping), False
    source.confirmed_by, source.confirmed_at = coach, now
    source.save(update_fields=["mapping", "left", "confirmed_by", "confirmed_at"])
    values = {"mapping": source.mapping, "used_at": now}
    SourceMapping.objects.update_or_create(academy=source.bay.academy, source=mapping.source, defaults=values)
    receipt = RowsReceipt()
    cut = source.cut
    waiting = source.waiting.select_related("device__bay__academy", "lesson__student").order_by("device_id", "pk")
    for _, together in groupby(waiting, key=lambda row: (row.device_id, row.lesson_id)):
        identities = list(together)
        for start in range(0, len(identities), AT_ONCE):
            some = identities[start : start + AT_ONCE]
            rows = [Row(device_sequence=r.device_sequence, text=r.text, club=r.club) for r in some]
            good = [(i, row, cells_of(cut, row.text)) for i, row in enumerate(rows)]
            _take(mapping, identities[0].device, identities[0].lesson, good, receipt, now)
    source.waiting.all().delete()
    _tell(source.bay.lesson_id)
    return receipt.stored


@transactional
def leave_source(source: Source, left: bool) -> None:
    """Mark the rows of a source as not balls, or undo that; its waiting rows are treated the same way."""
    source = Source.objects.select_for_update().select_related("bay").get(pk=source.pk)
    source.left = left
    source.save(update_fields=["left"])
    if left:
        source.waiting.all().delete()
    _tell(source.bay.lesson_id)


def drop_old_identities(now: datetime) -> int:
    """Delete identities of balls after some days, and old example rows; return how many."""
    Source.objects.filter(seen_at__lt=now - KNOWN_FOR).exclude(examples=[]).update(examples=[])
    return SeenBall.objects.filter(seen_at__lt=now - KNOWN_FOR).delete()[0]


def _source(bay: Bay, cut: Cut, name: str, texts: Sequence[str], now: datetime) -> Source:
    """Return the source of a bay with these headers, with its newest rows."""
    source = bay.sources.filter(key=cut.key).first()
    if source is None:
        _make_room(bay)
        source, _ = Source.objects.get_or_create(
            bay=bay,
            key=cut.key,
            defaults={
                "name": name[:120],
                "shape": cut.shape,
                "delimiter": cut.delimiter,
                "headers": list(cut.headers),
                "examples": list(texts[-MAX_EXAMPLES:]),
                "seen_at": now,
            },
        )
        return source
    if source.mapping is None or len(source.examples) < MAX_EXAMPLES:
        source.examples = [*source.examples, *(t for t in texts if t not in source.examples)][-MAX_EXAMPLES:]
    source.name, source.seen_at = name[:120], now
    source.save(update_fields=["examples", "name", "seen_at"])
    return source


def _make_room(bay: Bay) -> None:
    """Delete the oldest unmapped kinds of rows without waiting rows, if a bay has very many."""
    spare = bay.sources.count() - MAX_SOURCES + 1
    if spare <= 0:
        return
    idle = bay.sources.filter(Q(mapping__isnull=True) | Q(left=True)).annotate(n=Count("waiting")).filter(n=0)
    keys = list(idle.order_by("seen_at").values_list("pk", flat=True)[:spare])
    if len(keys) < spare:
        words = Message("bays-bay-too-many-unknown-kinds")
        raise Refused(409, "head", words)
    Source.objects.filter(pk__in=keys).delete()


def _keep_waiting(source: Source, device: Device, rows: Sequence[Row], now: datetime) -> int:
    if WaitingRow.objects.filter(device__bay=source.bay).count() + len(rows) > MAX_WAITING:
        raise Refused(409, "rows", Message("bays-too-many-rows-bay-waiting"))
    lesson_id = source.bay.lesson_id
    WaitingRow.objects.bulk_create(
        [
            WaitingRow(
                source=source,
                device=device,
                device_sequence=row.device_sequence,
                lesson_id=lesson_id,
                text=row.text,
                club=row.club,
                received_at=now,
            )
            for row in rows
        ],
        ignore_conflicts=True,  # a bridge that did not receive the answer sends them again
    )
    _tell(lesson_id)
    return len(rows)


def _take(
    mapping: Mapping,
    device: Device,
    lesson: Lesson | None,
    good: Good,
    receipt: RowsReceipt,
    now: datetime,
) -> None:
    """Store rows of a mapped source as balls: in the lesson that was active when they were hit, or unassigned."""
    here = lesson is not None and lesson.pk == device.bay.lesson_id
    golfer = lesson.golfer if lesson else Golfer()
    reader = RowReader(mapping, golfer, device.bay.academy.zone)
    relative = not here and any(use.sign in ("golfer", "against") for use in mapping.columns if use.field)
    incoming: list[_Incoming] = []
    for place, row, cells in good:
        mapped = reader.read(row.device_sequence, cells, key=f"{device.pk}:{row.device_sequence}")
        if mapped.error is not None:
            record = reader.readable(cells)
            _refuse(device, place, row, record, problem_of(mapped.error), receipt, now)
        elif mapped.shot is None:
            receipt.no_balls += 1
        else:
            shot = replace(mapped.shot, club=mapped.shot.club or row.club or None)
            record = {**record_of(shot), "device_sequence": row.device_sequence}
            if relative:
                record.setdefault("hand", golfer.hand)
            incoming.append(_Incoming(place, row.device_sequence, cells, shot, record, identity(shot, mapping, cells)))
    incoming = _without_doubles(device, incoming, receipt)
    fresh = _filled(device, mapping, incoming, receipt, now)
    if not fresh:
        return
    _remember(device, {one.digest: one.number for one in fresh if one.digest}, now)
    answer = receive_shots(device, [one.record for one in fresh], now, to_lesson=here)
    receipt.stored += answer.stored
    receipt.known += answer.known
    receipt.refused += [(fresh[index].place, problem) for index, problem in answer.refused]


@dataclass(frozen=True)
class _Incoming:
    """A row that is a ball: its position in the batch, number, cells, content, and identity."""

    place: int
    number: int
    cells: list[str]
    shot: ShotRecord
    record: dict[str, object]
    digest: str | None


def _without_doubles(device: Device, incoming: list[_Incoming], receipt: RowsReceipt) -> list[_Incoming]:
    """Leave out balls that this batch, another file or another bridge already brought."""
    first: dict[str, int] = {}
    for one in incoming:
        if one.digest is not None:
            first.setdefault(one.digest, one.number)
    elsewhere = _known_elsewhere(device, first)
    fresh = [one for one in incoming if one.digest is None or (first[one.digest] == one.number not in elsewhere)]
    receipt.known += len(incoming) - len(fresh)
    return fresh


def _filled(
    device: Device, mapping: Mapping, incoming: list[_Incoming], receipt: RowsReceipt, now: datetime
) -> list[_Incoming]:
    """Return rows that are new balls; a row that completes an earlier one updates that ball.

    Some programs write a row with the ball's values first and again with the club's a moment later.
    """
    recent = list(
        device.shots.filter(received_at__gt=now - FILLED_WITHIN).order_by("-pk").select_related("block")[:LATELY]
    )
    fresh: list[_Incoming] = []
    for one in incoming:
        before = next((f for f in fresh[-LATELY:] if fills(one.shot, f.shot.values, mapping, one.cells)), None)
        stored = next((s for s in recent if fills(one.shot, s.to_record().values, mapping, one.cells)), None)
        if before is not None:
            fresh[fresh.index(before)] = one
            if before.digest is not None:
                _remember(device, {before.digest: one.number}, now)
            receipt.known += 1
        elif stored is not None and stored.device_sequence != one.number and one.digest is not None:
            fill_shot(stored, one.shot.values)
            # Sent again, it is recognized as the same ball.
            _remember(device, {one.digest: stored.device_sequence or 0}, now)
            receipt.known += 1
        else:
            fresh.append(one)
    return fresh


def _known_elsewhere(device: Device, incoming: dict[str, int]) -> set[int]:
    """Return numbers of balls that arrived before under another number or from another bridge."""
    rows = SeenBall.objects.filter(academy_id=device.bay.academy_id, digest__in=incoming)
    return {
        incoming[seen.digest]
        for seen in rows
        if (seen.device_id, seen.device_sequence) != (device.pk, incoming[seen.digest])
    }


def _remember(device: Device, incoming: dict[str, int], now: datetime) -> None:
    SeenBall.objects.bulk_create(
        [
            SeenBall(
                academy_id=device.bay.academy_id, digest=digest, device=device, device_sequence=number, seen_at=now
            )
            for digest, number in incoming.items()
        ],
        ignore_conflicts=True,
    )


def _refuse(
    device: Device,
    place: int,
    row: Row,
    record: dict[str, object],
    problem: Problem,
    receipt: RowsReceipt,
    now: datetime,
) -> None:
    raw = {**record, "device_sequence": row.device_sequence}
    if keep_refused(device, _listening(device.bay), raw, problem, RefusedBall.Reason.UNREADABLE, now):
        _tell(device.bay.lesson_id)
    receipt.refused.append((place, problem))


def _listening(bay: Bay) -> Lesson | None:
    """Return the lesson that is active now; the bay may have been read before it changed."""
    if bay.lesson_id is None:
        return None
    return Lesson.objects.select_related("student").filter(pk=bay.lesson_id).first()


def _tell(lesson_id: int | None) -> None:
    if lesson_id is not None:
        log_change(locked_lesson(lesson_id), Aspect.REFUSED)
