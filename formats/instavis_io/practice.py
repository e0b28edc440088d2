"""The practice log as a phone sends it: allowed content, and conversion to the server's clock."""

from __future__ import annotations

import re
from datetime import date, datetime
from typing import Annotated, Any

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, ValidationError, model_serializer, model_validator
from pydantic_core import PydanticCustomError

from instavis_core.errors import InputError, is_one_of
from instavis_core.knowledge import vocabulary
from instavis_core.progress import PracticeEntry, on_the_servers_clock
from instavis_core.terms import Contact, Side
from instavis_io.fields import Line, integer, refused

MAX_COUNTED, MAX_BALLS, MAX_ENTRIES = 2000, 200, 50
ENTRY_ID = r"^[0-9a-zA-Z-]{8,64}$"


def _instant(value: Any) -> datetime:
    if isinstance(value, str):
        try:
            value = datetime.fromisoformat(value)
        except ValueError:
            value = None
    if not isinstance(value, datetime) or value.tzinfo is None:
        raise PydanticCustomError("moment", "a time with its zone, like 2026-05-04T09:12:31Z")
    return value


def _calendar_day(value: Any) -> date:
    try:
        return value if isinstance(value, date) else date.fromisoformat(value)
    except (TypeError, ValueError):
        raise PydanticCustomError("day", "a day like 2026-05-04") from None


def _entry_id(value: Any) -> str:
    if not isinstance(value, str) or not re.fullmatch(ENTRY_ID[1:-1], value):
        raise PydanticCustomError("id", "8 to 64 letters, digits and dashes, the same whenever it is sent again")
    return value


def _region(value: Any) -> str:
    regions = vocabulary().words["region"]
    if value and not is_one_of(value, regions):
        raise PydanticCustomError("region", "one of {known}", {"known": ", ".join(regions)})
    return value or ""


Instant = Annotated[datetime, BeforeValidator(_instant)]
Count = Annotated[int, integer(0, MAX_COUNTED), Field(strict=True)]
Region = Annotated[
    str, BeforeValidator(_region), Field(json_schema_extra={"enum": ["", *vocabulary().words["region"]]})
]


class LogPart(BaseModel):
    """An object of the log; unknown fields are rejected."""

    model_config = ConfigDict(extra="forbid", frozen=True)


class PracticeBall(LogPart):
    """A ball hit in practice, as the student saw it."""

    model_config = ConfigDict(extra="forbid", frozen=True, json_schema_extra={"minProperties": 1})
    start: Side | None = None
    curve: Side | None = None
    contact: Contact | None = None

    @model_validator(mode="after")
    def _something(self) -> PracticeBall:
        if not self._given():
            raise PydanticCustomError("ball", "an object with start, curve or contact")
        return self

    @model_serializer
    def _given(self) -> dict[str, str]:
        """Return only the given values."""
        result = {"start": self.start, "curve": self.curve, "contact": self.contact}
        return {name: word.value for name, word in result.items() if word is not None}


class EntryIn(LogPart):
    """One practice by the phone's clock; ``entry_id`` is the phone's own id and is stored once."""

    entry_id: Annotated[str, BeforeValidator(_entry_id), Field(json_schema_extra={"pattern": ENTRY_ID})]
    day: Annotated[date, BeforeValidator(_calendar_day), Field(description="The student's own calendar day.")]
    started_at: Instant
    ended_at: Annotated[Instant, Field(description="At most four hours after the start.")]
    felt: Count = 0
    not_felt: Count = 0
    balls: Annotated[list[PracticeBall], Field(max_length=MAX_BALLS)] = []
    pain: Annotated[Region, Field(description="What stopped it.")] = ""
    note: Line = ""


class LogIn(LogPart):
    """Practice log, as a phone sends it."""

    sent_at: Annotated[Instant, Field(description="The phone's clock at sending, with its zone.")]
    entries: Annotated[list[EntryIn], Field(max_length=MAX_ENTRIES)]


def practice_of(entry: EntryIn, sent_at: datetime, now: datetime) -> PracticeEntry:
    """Convert a practice to the server's clock.

    Raises
    ------
    InputError
        For times that cannot be.
    """
    day, started, ended = on_the_servers_clock(entry.day, entry.started_at, entry.ended_at, sent_at, now)
    return PracticeEntry(
        entry_id=entry.entry_id,
        day=day,
        started_at=started,
        ended_at=ended,
        felt=entry.felt,
        not_felt=entry.not_felt,
        balls=tuple(ball.model_dump() for ball in entry.balls),
        pain=entry.pain,
        note=entry.note,
    )


def read_log(raw: Any, now: datetime) -> list[PracticeEntry]:
    """Check a whole log.

    Raises
    ------
    InputError
        Naming the place, its value and what was expected.
    """
    try:
        log = LogIn.model_validate(raw)
    except ValidationError as error:
        raise refused(error) from None
    entries = []
    for i, result in enumerate(log.entries):
        try:
            entries.append(practice_of(result, log.sent_at, now))
        except InputError as error:
            raise error.inside(f"entries[{i}]") from None
    return entries


def practice_schema() -> dict[str, Any]:
    """Return the JSON Schema (2020-12) of the log, stored in `docs/schemas/practice.schema.json`."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", **LogIn.model_json_schema()}
