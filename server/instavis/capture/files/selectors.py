"""Reads of drafts: what a file looks like and what its rows would become."""

from __future__ import annotations

from dataclasses import asdict, dataclass
from typing import Any

from instavis.accounts.models import Coach
from instavis.capture.files.models import Draft, SourceMapping
from instavis.capture.shots.selectors import record_of
from instavis.platform.errors import Problem, not_found, problem_of
from instavis.platform.kept_files import DRAFTS
from instavis.work.services import steps_done
from instavis_core.message import Message
from instavis_core.shots import Shot as CoreShot
from instavis_io.tables import Mapping, Proposal, mapped_rows, propose, read_mapping, table_doubts

FAR_UNITS = {"yd-mph": "yd"}
SHOWN_BALLS, SHOWN_ROWS, DOUBTED_BALLS, PREVIEW_ROWS = 12, 12, 200, 3000


@dataclass(frozen=True, kw_only=True)
class Preview:
    """What a file would bring with a mapping; ``complete`` is False when only its first rows were read."""

    balls: list[dict[str, Any]]
    count: int
    skipped: list[dict[str, Any]]
    skipped_count: int
    problems: list[Problem]
    problem_count: int
    doubts: list[Message]
    complete: bool


def draft_of(coach: Coach, draft_id: int) -> Draft:
    """One draft of the academy."""
    draft = (
        Draft.objects.filter(pk=draft_id, lesson__academy=coach.academy)
        .select_related("lesson__student", "work")
        .first()
    )
    if draft is None:
        raise not_found("file")
    return draft


def proposal_of(draft: Draft) -> tuple[Proposal, Mapping, bool]:
    """What is guessed of a draft, the mapping to start from, and whether that is a remembered one."""
    with DRAFTS.open(draft.key) as file:
        proposal = propose(file, draft.lesson.golfer, FAR_UNITS.get(draft.coach.units, "m"))
    known = SourceMapping.objects.filter(academy=draft.lesson.academy, source=proposal.mapping.source).first()
    if known is None:
        return proposal, proposal.mapping, False
    return proposal, read_mapping({**known.mapping, "header_line": proposal.mapping.header_line}), True


def preview_of(draft: Draft, mapping: Mapping) -> Preview:
    """The first balls, what is skipped, what is wrong and what is odd, without storing anything."""
    golfer = draft.lesson.golfer
    shots: list[CoreShot] = []
    skipped: list[dict[str, Any]] = []
    problems: list[Problem] = []
    rows = 0
    balls = wrong = passed_over = 0
    with DRAFTS.open(draft.key) as file:
        for row in mapped_rows(file, mapping, golfer):
            rows += 1
            if rows > PREVIEW_ROWS:
                break
            if row.shot is not None:
                balls += 1
                if len(shots) < DOUBTED_BALLS:
                    shots.append(row.shot)
            elif row.error is not None:
                wrong += 1
                if len(problems) < SHOWN_ROWS:
                    problems.append(problem_of(row.error))
            else:
                passed_over += 1
                if len(skipped) < SHOWN_ROWS:
                    skipped.append({"line": row.line, "reason": row.skipped})
    return Preview(
        balls=[record_of(s) for s in shots[:SHOWN_BALLS]],
        count=balls,
        skipped=skipped,
        skipped_count=passed_over,
        problems=problems,
        problem_count=wrong,
        doubts=table_doubts(shots, golfer),
        complete=rows <= PREVIEW_ROWS,
    )


@dataclass(frozen=True, kw_only=True)
class Way:
    """How far the storing of a file has come; ``state`` is waiting, reading, done, cancelled or failed."""

    state: str
    done: int = 0
    total: int = 0
    stored: int = 0
    known: int = 0
    left_out: int = 0
    problems: tuple[dict[str, Any], ...] = ()


def way_of(draft: Draft) -> Way:
    """How far a draft has come on its way in."""
    work = draft.work
    if work is None:
        return Way(state="waiting")
    if work.open:
        return Way(state="reading", done=steps_done(work), total=work.total)
    return Way(state=work.state, done=work.total, total=work.total, **work.result)


def mapping_as_json(mapping: Mapping) -> dict[str, Any]:
    """A mapping as it is sent and remembered."""
    return asdict(mapping)
