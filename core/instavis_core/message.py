"""Text for a person as an id and values.

A `Message` names a sentence and the numbers in it. The core holds no sentences: `instavis_report.catalog` has them by
id in every language and renders a message for its reader.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from datetime import date
from typing import Any, ClassVar

CASES: Mapping[str, Callable[[str], str]] = {
    "": str,
    "lower": str.lower,
    "capital": lambda text: text[:1].upper() + text[1:],
    "begun small": lambda text: text[:1].lower() + text[1:],
}
"""How a text stands in a sentence."""


class Message(str):
    """A text a person reads, named by its id in the catalog.

    As a string it is its id, or the text itself if that is data (`entry`, `plain`).

    Parameters
    ----------
    code : str
        Id of the sentence: ``"prove-not-measured"``.
    values
        Numbers, texts and further messages that fill it.

    Examples
    --------
    >>> Message("prove-not-measured", label="Club path").values
    {'label': 'Club path'}
    """

    code: str
    values: Mapping[str, Any]
    case: str
    own: bool
    """True for text that is data: an entry of the knowledge tables, or a person's own words."""
    render: ClassVar[Callable[[Message], str]] = str
    """Renders a message where it leaves in an answer; the catalog sets it."""

    def __new__(cls, code: str, /, **values: Any) -> Message:
        return cls._made(code, code, values)

    @classmethod
    def entry(cls, code: str, english: str) -> Message:
        """Return a text of the knowledge tables; the catalog may translate it by its id."""
        return cls._made(english, code, {}, own=True)

    @classmethod
    def _made(cls, text: str, code: str, values: Mapping[str, Any], case: str = "", own: bool = False) -> Message:
        made = super().__new__(cls, text)
        made.code, made.values, made.case, made.own = code, values, case, own
        return made

    def __eq__(self, other: object) -> bool:
        same = str.__eq__(self, other)
        if same is True and isinstance(other, Message):
            return (self.code, self.values, self.case) == (other.code, other.values, other.case)
        return same

    def __ne__(self, other: object) -> bool:
        return not self == other

    __hash__ = str.__hash__

    def __repr__(self) -> str:
        values = ", ".join(f"{name}={value!r}" for name, value in self.values.items())
        return f"{str(self)}({values})" if values else str(self)

    def lower(self) -> Message:
        """Return the text in lower case, for the middle of a sentence."""
        return self._in("lower")

    def capital(self) -> Message:
        """Return the text capitalized, for the start of a sentence."""
        return self._in("capital")

    def begun_small(self) -> Message:
        """Return the sentence with a lower-case start, for use after a colon."""
        return self._in("begun small")

    def _in(self, case: str) -> Message:
        text = CASES[case](self) if self.own else str(self)
        return self._made(text, self.code, self.values, case, self.own)

    def __add__(self, other: str) -> Message:
        return Message("join", first=self, second=other)

    def __reduce__(self) -> tuple[Callable[..., Message], tuple[Any, ...]]:
        return self._made, (str(self), self.code, self.values, self.case, self.own)

    @classmethod
    def __get_pydantic_core_schema__(cls, source: Any, handler: Any) -> Any:
        """Tell pydantic how to validate and render messages; pydantic is imported only where it is installed."""
        from pydantic_core import core_schema

        return core_schema.no_info_after_validator_function(
            plain,
            core_schema.union_schema([core_schema.is_instance_schema(cls), core_schema.str_schema()]),
            serialization=core_schema.plain_serializer_function_ser_schema(
                lambda message: cls.render(message) if isinstance(message, cls) else message,
                return_schema=core_schema.str_schema(),
            ),
        )

    @classmethod
    def __get_pydantic_json_schema__(cls, schema: Any, handler: Any) -> dict[str, str]:
        return {"type": "string"}


class Quantity(float):
    """A number with its unit inside a message, rendered in the reader's units.

    Parameters
    ----------
    value : float
        In the unit of the core: meters, m/s, degrees, mm, rpm.
    unit : str
        That unit as it is written.
    form : str
        Format of the number where it is not the usual one: ``"+.1f"``.
    """

    unit: str
    form: str

    def __new__(cls, value: float, unit: str, form: str = "") -> Quantity:
        made = super().__new__(cls, value)
        made.unit, made.form = unit, form
        return made

    def __format__(self, form: str) -> str:
        return written(self, self.unit, form or self.form)

    def __reduce__(self) -> tuple[type[Quantity], tuple[float, str, str]]:
        return Quantity, (float(self), self.unit, self.form)


UNITS_WITHOUT_DECIMALS = ("mm", "rpm", "yd", "mph")
"""Units that are shown without decimals."""


def written(value: float, unit: str, form: str = "") -> str:
    """Format a number and its unit: ``4.1°``, ``35.1 m/s``, ``12 mm``; ``form`` overrides the default decimals."""
    digits = form or (".0f" if unit in UNITS_WITHOUT_DECIMALS or round(value, 1) == 0 else ".1f")
    return f"{float(value):{digits}}{'' if unit == '°' else ' '}{unit}".replace("-", "−")


def signed(value: float, unit: str, form: str = "+.1f") -> Message:
    """Format a change and its unit: ``+2.0 cm``, ``−1.5°``."""
    return Message("size", size=Quantity(value, unit, form))


def plain(text: str) -> Message:
    """Mark a name or another person's words as text that is not translated."""
    return text if isinstance(text, Message) else Message.entry("", text)


NOTHING = plain("")
"""No text."""


def joined(parts: Iterable[str], how: str = "comma") -> Message:
    """Join parts of a sentence.

    Parameters
    ----------
    parts : iterable of str
        Messages or names; empty ones are left out.
    how : str
        What stands between two parts: ``comma``, ``semicolon`` or ``space``; with ``and`` or ``or``, that word stands
        before the last part and commas between the others.

    Examples
    --------
    >>> joined(["path", "face", "loft"], "and")
    join-and(first=join-comma(first=path, second=face), second=loft)
    """
    result, given = NOTHING, [part for part in parts if part]
    for place, part in enumerate(given, 1):
        between = "comma" if how in ("and", "or") and place < len(given) else how
        result = Message(f"join-{between}", first=result, second=part) if result else plain(part)
    return result


def stored(text: str) -> Any:
    """Return a message as JSON data, to be stored and read by `restored`; other text is returned unchanged.

    Examples
    --------
    >>> stored(Message("join", first=plain("Hip stall"), second=plain(".")))
    {'id': 'join', 'values': {'first': {'text': 'Hip stall'}, 'second': {'text': '.'}}}
    """
    if not isinstance(text, Message):
        return str(text)
    data: dict[str, Any] = {"text": str(text)} if text.own else {}
    if text.code:
        data["id"] = text.code
    if text.values:
        data["values"] = {name: _stored_value(value) for name, value in text.values.items()}
    if text.case:
        data["case"] = text.case
    return data


def restored(data: Any) -> Message:
    """Return the message that `stored` wrote; any other text becomes a plain one."""
    if not isinstance(data, dict):
        return plain(str(data))
    code, values = str(data.get("id", "")), data.get("values", {})
    return Message._made(
        str(data.get("text", code)),
        code,
        {name: _restored_value(value) for name, value in values.items()},
        str(data.get("case", "")),
        "text" in data,
    )


def _stored_value(value: Any) -> Any:
    if isinstance(value, Quantity):
        return {"size": float(value), "unit": value.unit, "form": value.form}
    if isinstance(value, date):
        return {"day": value.isoformat()}
    return stored(value) if isinstance(value, Message) else value


def _restored_value(value: Any) -> Any:
    if not isinstance(value, dict):
        return value
    if "unit" in value:
        return Quantity(value["size"], value["unit"], value["form"])
    return date.fromisoformat(value["day"]) if "day" in value else restored(value)
