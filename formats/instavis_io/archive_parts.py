"""The parts of a lesson document (`instavis.lesson/1`) and their allowed content.

Parts that later releases added may be missing: archives of every earlier release are read.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

import numpy as np
from pydantic import AfterValidator, Field, field_validator, model_validator
from pydantic_core import PydanticCustomError

from instavis_core.knowledge import load_motion, vocabulary
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.knowledge.stills import load_stills
from instavis_core.lesson import SETUP_RANGES, read_answers, read_conditions
from instavis_core.lesson.clock import LONGEST, SHORTEST
from instavis_core.proof.proof_set import MAX_BALLS
from instavis_core.recordings import Moments, find_moments, marked, swing_of_columns
from instavis_core.shots import Shot, read_shot
from instavis_core.stills import read_clicks, read_scale
from instavis_core.terms import Outcome, Purpose, Source, StageName
from instavis_io.fields import (
    Anything,
    Day,
    Key,
    Label,
    Line,
    Moment,
    Part,
    Scalar,
    Short,
    Word,
    checked_by,
    integer,
    number,
    text,
)
from instavis_io.practice import EntryIn, practice_of
from instavis_report import read_own_lines

MAX_SHOTS, MAX_SAMPLES = 50_000, 20_000
MAX_MEGAPIXELS_SIDE = 20_000

Hand = Literal["right", "left"]
Station = Literal["ask", "baseline", "check", "cause", "correct", "prove", "take-home"]
Stage = StageName | Literal[""]
Samples = Annotated[list[Annotated[float, number(-1e9, 1e9)] | None], Field(max_length=MAX_SAMPLES)]
Pixel = Annotated[float, number(0, 1e6)]
Window = tuple[Annotated[float, number(-10_000, 10_000)], Annotated[float, number(-10_000, 10_000)]]
Windows = Annotated[dict[Word, Window], Field(max_length=6)]


def _conditions(conditions: dict[str, str]) -> dict[str, str]:
    return dict(checked_by("", read_conditions, conditions))


Conditions = Annotated[dict[Word, Word], AfterValidator(_conditions)]


class Student(Part):
    """The student of the lesson."""

    name: Annotated[str, text(120, 1)]
    hand: Hand
    handicap: Annotated[float, number(-10, 60)] | None
    born: Day | None
    guardian_consent: Label = ""
    consented_at: Moment | None = None

    @field_validator("name")
    @classmethod
    def _named(cls, name: str) -> str:
        if not name.strip():
            raise PydanticCustomError("name", "the student's name")
        return name


class LessonPart(Part):
    """Time, coach and club; ``hand`` is the student's if an archive is older than the field."""

    started_at: Moment
    ended_at: Moment | None
    station: Station
    club: Annotated[str, text(4)]
    board_seen: bool = False
    minutes: Annotated[int, integer(SHORTEST, LONGEST)] = 55
    school: dict[Word, Word] = {}
    conditions: Conditions = {}
    hand: Hand | None = None
    coach: Label = ""

    @field_validator("club")
    @classmethod
    def _known(cls, club: str) -> str:
        if club not in vocabulary().clubs:
            raise PydanticCustomError("club", "one of {clubs}", {"clubs": " ".join(vocabulary().clubs)})
        return club

    @field_validator("school")
    @classmethod
    def _sides(cls, school: dict[str, str]) -> dict[str, str]:
        schools = vocabulary().schools
        for question, side in school.items():
            if question not in schools or side not in [s.id for s in schools[question].sides]:
                raise PydanticCustomError("school", "a question of the schools and one of its sides")
        return school


class Intake(Part):
    """The student's words; ids as in the vocabulary."""

    misses: dict[Short, Anything] = {}
    contact: list[Word] = []
    feels: list[Word] = []
    good_feel: Line = ""
    thoughts: Line = ""
    old_faults: list[Word] = []
    goal: Line = ""
    kit: list[Word] = []
    limits: dict[Short, Short] = {}
    health: list[Word] = []
    pain: Line = ""
    by_student: bool = False
    updated_at: Moment

    @model_validator(mode="after")
    def _answers(self) -> Intake:
        checked_by("", read_answers, self.answers())
        return self

    def answers(self) -> dict[str, Any]:
        """Return the answers in the form the core reads."""
        return self.model_dump(exclude={"by_student", "updated_at"})


class Setup(Part):
    """Ball position, stance and aim at one moment."""

    ball_cm: Annotated[float, number(*SETUP_RANGES["ball_cm"])] | None
    stance_cm: Annotated[float, number(*SETUP_RANGES["stance_cm"])] | None
    aim_deg: Annotated[float, number(*SETUP_RANGES["aim_deg"])] | None
    noted_at: Moment


class Grade(Part):
    """One coach's answer to a check; unknown checks are stored unchanged."""

    check_id: Key
    grade: Key
    source: Source = Source.EYE
    after_board: bool = False
    graded_at: Moment
    coach: Label = ""

    @model_validator(mode="after")
    def _known(self) -> Grade:
        known = shipped_knowledge().checks.get(self.check_id)
        if known is not None and self.grade not in (*known.grades, "not-seen"):
            expected = "one of " + ", ".join(known.grades)
            raise PydanticCustomError(
                "grade", "{expected}", {"expected": expected, "inner": f"grade ({self.check_id})"}
            )
        return self


class BodyResult(Part):
    """The result of one part of a body test; unknown parts are stored unchanged."""

    part: Key
    grade: Literal["", "free", "short", "pain"]
    tested_at: Moment
    coach: Label = ""


class OwnEffect(Part):
    """What the student's own balls showed about a fault's effect on a number."""

    cause: Annotated[str, text(60, 1)]
    metric: Key
    mean: Annotated[float, number(-1000, 1000)]
    sd: Annotated[float, number(0, 1000)]
    learned_at: Moment


class Correction(Part):
    """One correction as it was started and how it ended."""

    fault: Key
    variant: Short = ""
    drill: Word = ""
    felt_by: Short = ""
    cue: Annotated[str, text(200)] = ""
    primary: Key
    direction: Literal["decrease", "increase"]
    predicted: Annotated[float, number(-100, 100)]
    gate: Windows
    gate_by_stage: dict[StageName, Window] = {}
    guards: Windows = {}
    stage: Stage = StageName.FULL
    severity_then: Annotated[float, number(-10, 10)] | None = None
    log_odds: Annotated[float, number(-1000, 1000)] | None = None
    probability_then: Annotated[float, number(0, 1)] | None = None
    outcome: Outcome
    chosen_at: Moment
    own_effect: OwnEffect | None = None
    begun_in: Moment | None = None

    def document(self) -> dict[str, Any]:
        """Return the correction in the form the core reads."""
        names = {"fault", "variant", "primary", "direction", "predicted", "gate", "gate_by_stage", "guards"}
        return self.model_dump(include=names) | {"variant": self.variant or None}


class Trial(Part):
    """A called comparison; ``order`` says for every ball whether the second way is called."""

    first: Annotated[str, text(60, 1)]
    second: Annotated[str, text(60, 1)]
    primary: Word
    order: Annotated[list[bool], Field(min_length=4, max_length=MAX_BALLS)]
    started_at: Moment
    ended_at: Moment | None

    @field_validator("primary")
    @classmethod
    def _known(cls, primary: str) -> str:
        if primary not in vocabulary().metrics:
            raise PydanticCustomError("metric", "a metric: {known}", {"known": ", ".join(vocabulary().metrics)})
        return primary


class Ball(Part):
    """One ball: its number in the lesson, time, reason for exclusion, and shot record."""

    number: Annotated[int, integer(1)]
    received_at: Moment
    set_aside: Label = ""
    record: dict[str, Scalar]

    @field_validator("record")
    @classmethod
    def _readable(cls, record: dict[str, Any]) -> dict[str, Any]:
        checked_by("", read_shot, record)
        return record

    @property
    def shot(self) -> Shot:
        """Return the record in the form the core reads."""
        return read_shot(self.record)


class Block(Part):
    """Balls hit for one purpose; ``correction`` is a position in the list of corrections."""

    purpose: Purpose
    stage: Stage = ""
    conditions: Conditions = {}
    opened_at: Moment
    correction: Annotated[int, integer(0)] | None = None
    open: bool = False
    trial: Trial | None = None
    shots: Annotated[list[Ball], Field(max_length=MAX_SHOTS)]

    @model_validator(mode="after")
    def _fitting(self) -> Block:
        if (self.purpose == Purpose.TRIAL) != (self.trial is not None):
            raise PydanticCustomError("trial", "a comparison where the purpose is trial, and only there")
        return self


class Found(Part):
    """The eight moments [s], and one SD of each."""

    at: dict[Word, Annotated[float, number(-10, 1e3)]]
    error: dict[Word, Annotated[float, number(0, 10)]]

    @model_validator(mode="after")
    def _complete(self) -> Found:
        for result in (self.at, self.error):
            if set(result) != set(load_motion().moments):
                raise PydanticCustomError("found", "all eight moments")
        return self


class Recording(Part):
    """One recorded swing.

    ``ball`` is its ball number. A camera's recording has its ``view``, one SD of each series overall and by moment,
    and the moments found in its pictures.
    """

    name: Label
    columns: dict[Annotated[str, text(60)], Samples]
    marks: dict[Word, Annotated[float, number(-1e6, 1e6)]] = {}
    notes: list[Line] = []
    view: Literal["", "face-on", "down-the-line"] = ""
    errors: dict[Word, Annotated[float, number(0, 1e3)]] = {}
    errors_at: dict[Word, dict[Word, Annotated[float, number(0, 1e3)]]] = {}
    found: Found | None = None
    received_at: Moment
    dropped_at: Moment | None = None
    ball: Annotated[int, integer(1)] | None = None

    @model_validator(mode="after")
    def _readable(self) -> Recording:
        columns = {name: np.array(values, float) for name, values in self.columns.items()}
        if len({len(v) for v in columns.values()}) > 1:
            raise PydanticCustomError("columns", "the same number of samples in every column")
        swing = checked_by("columns", swing_of_columns, columns)
        if bool(self.view) != bool(self.found):
            raise PydanticCustomError("found", "the moments of a camera where there is a view, and only there")
        if self.found is None:
            checked_by("marks", find_moments, swing, self.marks)
        else:
            result = Moments(self.found.at, self.found.error, [])
            checked_by("marks", marked, result, self.marks, float(swing.time[-1]))
        return self


class Still(Part):
    """One picture with its landmarks; ``file`` is its name in the archive."""

    look: Word = ""
    view: Annotated[str, text(14)]
    width: Annotated[int, integer(1, MAX_MEGAPIXELS_SIDE)]
    height: Annotated[int, integer(1, MAX_MEGAPIXELS_SIDE)]
    points: dict[Word, tuple[Pixel, Pixel]] = {}
    scale: dict[Annotated[str, text(10)], Anything] | None = None
    added_at: Moment
    dropped_at: Moment | None = None
    file: Annotated[str, text(200, 1)]

    @model_validator(mode="after")
    def _readable(self) -> Still:
        measures = load_stills().measures
        if self.look and self.look not in measures:
            raise PydanticCustomError("look", "one of {known}", {"known": ", ".join(measures), "inner": "look"})
        if self.view not in {m.view for m in measures.values()}:
            known = ", ".join(sorted({m.view for m in measures.values()}))
            raise PydanticCustomError("view", "one of {known}", {"known": known, "inner": "view"})
        checked_by("", read_clicks, self.points, self.width, self.height)
        checked_by("", read_scale, self.scale, self.width, self.height)
        return self


class TakeHome(Part):
    """The coach's text on the page, and the plan."""

    note: Annotated[str, text(1000)] = ""
    minutes: Annotated[int, integer(1, 90)] = 10
    days_a_week: Annotated[int, integer(1, 6)] = 4
    next_lesson: Day | None = None
    sections: dict[Short, list[Line]] = {}
    moves: dict[Day, Day] = {}
    paused_for: Short = ""
    paused_at: Moment | None = None

    @model_validator(mode="after")
    def _readable(self) -> TakeHome:
        checked_by("", read_own_lines, self.sections)
        regions = vocabulary().words["region"]
        if self.paused_for and self.paused_for not in regions:
            raise PydanticCustomError("region", "one of {known}", {"known": ", ".join(regions), "inner": "paused_for"})
        return self


class Practice(EntryIn):
    """One practice entry from a phone, and when it arrived."""

    received_at: Moment

    @model_validator(mode="after")
    def _possible(self) -> Practice:
        checked_by("", practice_of, self, self.ended_at, self.ended_at)
        return self
