"""A lesson as one document (`instavis.lesson/1`): how its parts fit together.

The same models check every imported document and give the published JSON Schema.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, Any, Literal

from pydantic import BeforeValidator, Field, ValidationError, model_validator
from pydantic_core import PydanticCustomError

from instavis_core.errors import InputError
from instavis_core.golfer import Golfer
from instavis_core.knowledge import vocabulary
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.message import Message
from instavis_core.proof import read_correction
from instavis_core.terms import Purpose
from instavis_io.archive_parts import (
    Ball,
    Block,
    BodyResult,
    Correction,
    Grade,
    Hand,
    Intake,
    LessonPart,
    Practice,
    Recording,
    Setup,
    Still,
    Student,
    TakeHome,
)
from instavis_io.fields import Part, checked_by, refused

FORMAT = "instavis.lesson/1"
MAX_BLOCKS, MAX_ROWS = 2_000, 2_000
MAX_CONTAINERS, MAX_VALUES = 200_000, 4_000_000
"""A long lesson with a belt recording for every ball has 20,000 lists and objects and 3 million numbers."""


def _ours(name: Any) -> Any:
    if name != FORMAT:
        raise PydanticCustomError("format", "{format}; a newer one needs a newer Instavis", {"format": FORMAT})
    return name


class LessonDocument(Part):
    """One lesson with everything except its pictures.

    Positions in lists replace keys; times carry their zone.
    """

    format: Annotated[Literal["instavis.lesson/1"], BeforeValidator(_ours)]
    student: Student
    lesson: LessonPart
    intake: Intake | None = None
    setups: Annotated[list[Setup], Field(max_length=MAX_ROWS)] = []
    grades: Annotated[list[Grade], Field(max_length=MAX_ROWS)] = []
    body: Annotated[list[BodyResult], Field(max_length=MAX_ROWS)] = []
    corrections: Annotated[list[Correction], Field(max_length=MAX_ROWS)] = []
    blocks: Annotated[list[Block], Field(max_length=MAX_BLOCKS)] = []
    recordings: Annotated[list[Recording], Field(max_length=MAX_ROWS)] = []
    stills: Annotated[list[Still], Field(max_length=MAX_ROWS)] = []
    take_home: TakeHome | None = None
    practices: Annotated[list[Practice], Field(max_length=MAX_ROWS)] = []

    @property
    def hand(self) -> Hand:
        """Return the student's hand."""
        return self.lesson.hand or self.student.hand

    def balls(self) -> Iterator[tuple[Block, Ball]]:
        """Yield every ball with its block."""
        return ((block, ball) for block in self.blocks for ball in block.shots)

    @model_validator(mode="after")
    def _hangs_together(self) -> LessonDocument:
        golfer, club = Golfer(self.hand, self.student.handicap), vocabulary().clubs[self.lesson.club]
        for i, correction in enumerate(self.corrections):
            checked_by(f"corrections[{i}]", read_correction, shipped_knowledge(), correction.document(), golfer, club)
        if sum(b.open for b in self.blocks) > 1:
            raise _wrong("blocks", "at most one block that is open")
        for i, block in enumerate(self.blocks):
            if block.correction is not None and block.correction >= len(self.corrections):
                raise _wrong(f"blocks[{i}].correction", "a place in the list of corrections")
            if block.purpose == Purpose.PROVE and block.correction is None:
                raise _wrong(f"blocks[{i}].correction", "the correction these balls prove")
        self._balls_fit()
        if len({p.entry_id for p in self.practices}) != len(self.practices):
            raise _wrong("practices", "every entry_id once")
        return self

    def _balls_fit(self) -> None:
        numbers, keys = set(), set()
        for _, ball in self.balls():
            if ball.number in numbers:
                raise _wrong("blocks.shots.number", f"every number once, not {ball.number} again")
            numbers.add(ball.number)
            shot = ball.shot
            if shot.hand not in (None, self.hand):
                raise _wrong(f"blocks.shots[{ball.number}].record.hand", f"{self.hand}, the student's hand")
            if shot.shot_id is not None and shot.shot_id in keys:
                raise _wrong(f"blocks.shots[{ball.number}].record.shot_id", "every shot_id once")
            keys.add(shot.shot_id)
        for i, recording in enumerate(self.recordings):
            if recording.ball is not None and recording.ball not in numbers:
                raise _wrong(f"recordings[{i}].ball", "the number of a ball of the lesson")


def _wrong(place: str, expected: str) -> PydanticCustomError:
    return PydanticCustomError("document", "{expected}", {"expected": expected, "inner": place})


def lesson_schema() -> dict[str, Any]:
    """Return the JSON Schema (2020-12) of a lesson, stored in `docs/schemas/lesson.schema.json`."""
    schema = LessonDocument.model_json_schema()
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **schema, "title": FORMAT}


def _check_size(data: bytes) -> None:
    """Reject a document whose values would not fit in memory, before parsing it.

    Commas and brackets are counted wherever they are; those inside texts only make the limit a little stricter.
    """
    containers = data.count(b"[") + data.count(b"{")
    values = containers + data.count(b",")
    for name, count, most in (("lists and objects", containers, MAX_CONTAINERS), ("values", values, MAX_VALUES)):
        if count > most:
            raise InputError("document", f"{count} {name}", Message("files-most", most=most, name=name))


def read_lesson(data: bytes) -> LessonDocument:
    """Check a lesson document.

    Raises
    ------
    InputError
        For what is no JSON in UTF-8, or naming the first place that is wrong and what was expected there.
    """
    _check_size(data)
    try:
        return LessonDocument.model_validate_json(data)
    except ValidationError as error:
        raise refused(error) from error
    except (ValueError, RecursionError) as error:
        raise InputError("document", type(error).__name__, Message("files-json-document-utf-8")) from error
