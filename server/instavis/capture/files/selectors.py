"""Reads of drafts: what a file looks like and what its rows would become."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any

from instavis.accounts.models import Coach
from instavis.capture.files.models import Draft, SourceMapping
from instavis.capture.files.preview import Preview, preview
from instavis.lessons.selectors import open_to
from instavis.platform.errors import not_found
from instavis.platform.file_storage import DRAFTS
from instavis.work.services import steps_done
from instavis_io.tables import Mapping, Proposal, mapped_rows, propose, read_mapping

FAR_UNITS = {"yd-mph": "yd"}


def draft_of(coach: Coach, draft_id: int) -> Draft:
    """Return one draft of the academy."""
    draft = (
        Draft.objects.filter(open_to(coach, "lesson"), pk=draft_id).select_related("lesson__student", "work").first()
    )
    if draft is None:
        raise not_found("file")
    return draft


def proposal_of(draft: Draft) -> tuple[Proposal, Mapping, bool]:
    """Return the guess for a draft, the mapping to start from, and whether it is a remembered one."""
    with DRAFTS.open(draft.key) as file:
        proposal = propose(file, draft.lesson.golfer, FAR_UNITS.get(draft.coach.units, "m"))
    known = SourceMapping.objects.filter(academy=draft.lesson.academy, source=proposal.mapping.source).first()
    if known is None:
        return proposal, proposal.mapping, False
    return proposal, read_mapping({**known.mapping, "header_line": proposal.mapping.header_line}), True


def preview_of(draft: Draft, mapping: Mapping) -> Preview:
    """Return what a draft would add with a mapping, without storing anything."""
    golfer = draft.lesson.golfer
    with DRAFTS.open(draft.key) as file:
        return preview(mapped_rows(file, mapping, golfer, draft.lesson.academy.zone), golfer)


@dataclass(frozen=True, kw_only=True)
class ImportProgress:
    """The progress of an import; ``state`` is waiting, reading, done, cancelled or failed."""

    state: str
    done: int = 0
    total: int = 0
    stored: int = 0
    known: int = 0
    left_out: int = 0
    problems: tuple[dict[str, Any], ...] = ()


def progress_of(draft: Draft) -> ImportProgress:
    """Return the progress of a draft's import."""
    work = draft.work
    if work is None:
        return ImportProgress(state="waiting")
    if work.open:
        return ImportProgress(state="reading", done=steps_done(work), total=work.total)
    return ImportProgress(state=work.state, done=work.total, total=work.total, **work.result)


def mapping_as_json(mapping: Mapping) -> dict[str, Any]:
    """Return a mapping in the form that is sent and remembered."""
    return asdict(mapping)
