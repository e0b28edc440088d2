"""Field types of documents; every accepted value can be stored, shown and exported."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import date, datetime
from typing import Annotated, Any

from annotated_types import GroupedMetadata
from pydantic import AfterValidator, BaseModel, ConfigDict, Field, JsonValue, StringConstraints
from pydantic_core import ErrorDetails, PydanticCustomError, ValidationError

from instavis_core.errors import InputError
from instavis_core.shots import EARLIEST, LATEST

MAX_KEY = 2**31 - 1


def _aware(moment: datetime) -> datetime:
    if moment.tzinfo is None:
        raise PydanticCustomError("moment", "a time with its zone, such as 2026-05-04T09:12:31Z")
    if not EARLIEST <= moment < LATEST:
        raise PydanticCustomError("moment", "a time from 1970 to 2200")
    return moment


def _in_calendar(day: date) -> date:
    if not 1900 <= day.year < LATEST.year:
        raise PydanticCustomError("day", "a day from 1900 to 2199")
    return day


def _writable(text: str) -> str:
    if "\0" in text:
        raise PydanticCustomError("text", "a text without zero bytes")
    return text


@dataclass(frozen=True)
class text(GroupedMetadata):  # noqa: N801 (stands beside number and whole)
    """For `Annotated[str, text(40)]`: a text with a length limit."""

    longest: int
    shortest: int = 0

    def __iter__(self) -> Iterator[object]:
        yield StringConstraints(min_length=self.shortest, max_length=self.longest)
        yield AfterValidator(_writable)


def number(low: float, high: float) -> Any:
    """For `Annotated[float, number(0, 1)]`: a finite number within limits."""
    return Field(ge=low, le=high, allow_inf_nan=False)


def integer(low: int, high: int = MAX_KEY) -> Any:
    """For `Annotated[int, whole(1)]`: a whole number within limits."""
    return Field(ge=low, le=high)


Moment = Annotated[datetime, AfterValidator(_aware)]
Day = Annotated[date, AfterValidator(_in_calendar)]
Scalar = Annotated[str, StringConstraints(max_length=500)] | bool | int | float | None
Anything = JsonValue
Short = Annotated[str, text(20)]
Word = Annotated[str, text(40)]
Key = Annotated[str, text(40, 1)]
Label = Annotated[str, text(120)]
Line = Annotated[str, text(300)]


class Part(BaseModel):
    """One object of a document; unknown fields and wrong types are rejected."""

    model_config = ConfigDict(extra="forbid", strict=True, frozen=True, allow_inf_nan=False)


def checked_by(field: str, check: Any, *values: Any) -> Any:
    """Apply a core check at a border; errors name the place in the document."""
    try:
        return check(*values)
    except InputError as error:
        inner = f"{field}.{error.field}" if not error.field.startswith(field) else error.field
        raise PydanticCustomError("core", "{expected}", {"expected": error.expected, "inner": inner}) from error


def refused(error: ValidationError) -> InputError:
    """Return the first error of a document with its place: ``blocks[0].shots[3].number``."""
    first = error.errors(include_url=False)[0]
    return InputError(_place(first) or "document", _shown(first), _expected(first))


def place_of(steps: Iterable[int | str]) -> str:
    """Return a place within a document as errors name it: ``blocks[0].shots[3].number``."""
    place = ""
    for step in steps:
        place += f"[{step}]" if isinstance(step, int) else f".{step}" if place else str(step)
    return place


def _place(detail: ErrorDetails) -> str:
    place = place_of(s for s in detail["loc"] if s != "[key]")
    inner = (detail.get("ctx") or {}).get("inner")
    return (f"{place}.{inner}" if place else str(inner)) if inner else place


def _shown(detail: ErrorDetails) -> Any:
    value = detail.get("input")
    if detail["type"] == "missing":
        return None
    return value if isinstance(value, str | int | float | bool) else type(value).__name__


def _expected(detail: ErrorDetails) -> str:
    if detail["type"] == "extra_forbidden":
        return "no such field"
    if detail["type"] == "missing":
        return "a value"
    return detail["msg"][:1].lower() + detail["msg"][1:]
