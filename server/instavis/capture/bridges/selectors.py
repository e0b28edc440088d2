"""Reads of bridges and their sources."""

from __future__ import annotations

from dataclasses import dataclass, replace

from django.db.models import Count, QuerySet

from instavis.accounts.models import Coach
from instavis.capture.bridges.models import Bridge, Source, WaitingRow
from instavis.capture.devices.models import Bay
from instavis.capture.files.models import SourceMapping
from instavis.capture.files.preview import Preview, preview
from instavis.capture.files.selectors import FAR_UNITS
from instavis.platform.errors import not_found
from instavis_core.golfer import Golfer
from instavis_core.message import Message
from instavis_io.tables import Mapping, Proposal, as_file, mapped_rows, propose, read_mapping


@dataclass(frozen=True, kw_only=True)
class WaitingSource:
    """A source of a bay whose rows wait for a mapping, and one line of text."""

    id: int
    name: str
    waiting: int
    text: Message


def bridges_of(bay: Bay) -> QuerySet[Bridge]:
    """Return the bridges of a bay."""
    return bay.bridges.filter(paired_at__isnull=False, ended_at__isnull=True).select_related("device")


def bridge_of(coach: Coach, bridge_id: int) -> Bridge:
    """Return one bridge of the academy."""
    bridge = Bridge.objects.filter(pk=bridge_id, bay__academy_id=coach.academy_id).select_related("device").first()
    if bridge is None:
        raise not_found("bridge")
    return bridge


def sources_of(bay: Bay) -> QuerySet[Source]:
    """Return the kinds of rows of the bay's bridges, newest first."""
    return bay.sources.all()


def waiting_in(bay: Bay) -> dict[int, int]:
    """Return how many rows wait, by the key of their source; sources without any are left out."""
    rows = WaitingRow.objects.filter(source__bay=bay).order_by().values_list("source").annotate(n=Count("pk"))
    return dict(rows)


def source_of(coach: Coach, source_id: int) -> Source:
    """Return one source of the academy."""
    found = Source.objects.filter(pk=source_id, bay__academy_id=coach.academy_id)
    source = found.select_related("bay__lesson__student").first()
    if source is None:
        raise not_found("source")
    return source


def waiting_sources(bay: Bay) -> list[WaitingSource]:
    """Return what a lesson's screen says about waiting rows."""
    waiting = waiting_in(bay)
    return [
        WaitingSource(
            id=source.pk, name=source.name, waiting=waiting[source.pk], text=_line(source, waiting[source.pk])
        )
        for source in sources_of(bay).filter(pk__in=waiting)
    ]


def _line(source: Source, waiting: int) -> Message:
    if waiting == 1:
        return Message(
            "bays-row-waiting-set-columns-becomes",
            name=source.name,
        )
    return Message(
        "bays-rows-waiting-set-their-columns",
        n=waiting,
        name=source.name,
    )


def golfer_in(bay: Bay) -> Golfer:
    """Return the golfer in a bay."""
    return bay.lesson.golfer if bay.lesson else Golfer()


def proposal_of(source: Source, coach: Coach) -> tuple[Proposal, Mapping, bool]:
    """Return the guess for a source, the mapping to start from, and whether it was confirmed before."""
    file = as_file(source.cut, source.examples)
    proposal = propose(file, golfer_in(source.bay), FAR_UNITS.get(coach.units, "m"), source.cut)
    stored = source.mapping
    if stored is None:
        key = proposal.mapping.source
        known = SourceMapping.objects.filter(academy_id=source.bay.academy_id, source=key).first()
        stored = known.mapping if known else None
    if stored is None:
        return proposal, proposal.mapping, False
    return proposal, rows_mapping(source, read_mapping(stored)), True


def rows_mapping(source: Source, mapping: Mapping) -> Mapping:
    """Return a mapping for the rows of a source as displayed: headers in the first line."""
    return replace(mapping, encoding="utf-8-sig", delimiter=source.delimiter, header_line=1)


def preview_of(source: Source, mapping: Mapping) -> Preview:
    """Return what the newest rows of a source would become with a mapping."""
    golfer = golfer_in(source.bay)
    file = as_file(source.cut, source.examples)
    return preview(mapped_rows(file, rows_mapping(source, mapping), golfer, source.bay.academy.zone), golfer)
