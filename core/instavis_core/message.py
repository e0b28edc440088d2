"""Text for a person that can be rendered in another language and other units.

A `Message` is its English text and remembers what it is made of: an entry of the message catalogue and the values that
fill it. The core says nothing of languages; `instavis_report.catalogue` turns a message into another one's.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from typing import Any, ClassVar

CASES: Mapping[str, Callable[[str], str]] = {
    "": str,
    "lower": str.lower,
    "capital": lambda text: text[:1].upper() + text[1:],
    "begun small": lambda text: text[:1].lower() + text[1:],
}
"""How a text stands in a sentence."""


class Message(str):
    """A text a person reads.

    Parameters
    ----------
    template : str
        The catalogue's entry, English, with the places of the values in braces: ``"{balls} balls of other clubs"``.
    values
        Numbers, texts and further messages; without any, the template is the text itself.
    """

    template: str
    values: Mapping[str, Any]
    case: str
    spoken: ClassVar[Callable[[Message], str]] = str
    """How it leaves for a reader; a server says it in the reader's language."""

    def __new__(cls, template: str, /, **values: Any) -> Message:
        made = super().__new__(cls, template.format(**values) if values else template)
        made.template, made.values, made.case = template, values, ""
        return made

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
        made = str.__new__(type(self), CASES[case](self))
        made.template, made.values, made.case = self.template, self.values, case
        return made

    def __add__(self, other: str) -> Message:
        return Message("{first}{second}", first=self, second=other)

    def __getnewargs__(self) -> tuple[str]:
        return (str(self),)

    @classmethod
    def __get_pydantic_core_schema__(cls, source: Any, handler: Any) -> Any:
        """Tell pydantic how to validate and render messages; imported only where pydantic is installed."""
        from pydantic_core import core_schema

        return core_schema.no_info_after_validator_function(
            lambda text: text if isinstance(text, cls) else cls(text),
            core_schema.union_schema([core_schema.is_instance_schema(cls), core_schema.str_schema()]),
            serialization=core_schema.plain_serializer_function_ser_schema(
                lambda message: cls.spoken(message) if isinstance(message, cls) else message,
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
    """

    unit: str

    def __new__(cls, value: float, unit: str) -> Quantity:
        made = super().__new__(cls, value)
        made.unit = unit
        return made

    def __format__(self, form: str) -> str:
        return written(self, self.unit, form)

    def __reduce__(self) -> tuple[type[Quantity], tuple[float, str]]:
        return Quantity, (float(self), self.unit)


WHOLE_UNITS = ("mm", "rpm", "yd", "mph")
"""Units that nobody reads a decimal of."""


def written(value: float, unit: str, form: str = "") -> str:
    """Format a number and its unit: ``4.1°``, ``35.1 m/s``, ``12 mm``; ``form`` overrides the default decimals."""
    digits = form or (".0f" if unit in WHOLE_UNITS or round(value, 1) == 0 else ".1f")
    return f"{float(value):{digits}}{'' if unit == '°' else ' '}{unit}".replace("-", "−")


def signed(value: float, unit: str, form: str = "+.1f") -> Message:
    """Format a change and its unit: ``+2.0 cm``, ``−1.5°``."""
    return Message(f"{{size:{form}}}", size=Quantity(value, unit))


NONE_SAID = Message("")
"""Nothing to read."""


def counted(number: int, one: str, many: str, **values: Any) -> Message:
    """Choose between singular and plural text by a number (``{n}``)."""
    return Message(one if number == 1 else many, n=number, **values)


def plain(text: str) -> Message:
    """Mark a name or another person's word as text that is not translated."""
    return text if isinstance(text, Message) else Message("{text}", text=text)


def joined(parts: Iterable[str], between: str = ", ", last: str | None = None) -> Message:
    """Join parts with ``between``, and with ``last`` before the last one."""
    whole = NONE_SAID
    all_parts = [part for part in parts if part]
    for i, part in enumerate(all_parts):
        if i == 0:
            whole = plain(part)
        elif last is not None and i == len(all_parts) - 1:
            whole = Message("{first} {word} {second}", first=whole, word=Message(last), second=part)
        else:
            whole = Message("{first}" + between + "{second}", first=whole, second=part)
    return whole
