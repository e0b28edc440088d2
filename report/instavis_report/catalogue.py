"""The message catalog: other languages, their number formats, and the reader's units.

English is the key of every entry and therefore complete. Another language is one file, `languages/CODE.json`: the
decimal sign, the months, whether its nouns keep their capitals inside a sentence, and the entries; what it lacks is
said in English.
"""

from __future__ import annotations

import functools
import json
import string
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date
from importlib import resources
from typing import Any

from instavis_core.errors import InputError
from instavis_core.message import CASES, Message, Quantity, written
from instavis_core.units import METRES_PER_YARD, MPS_PER_MPH

ENGLISH = "en"
METRIC = "m-ms"
UNITS: Mapping[str, Mapping[str, tuple[str, float]]] = {
    METRIC: {},
    "m-mph": {"m/s": ("mph", MPS_PER_MPH)},
    "yd-mph": {"m/s": ("mph", MPS_PER_MPH), "m": ("yd", METRES_PER_YARD)},
}
"""What a reader may choose, and the units that are read in another one: its name, and its size in the core's."""
SMALL = ("lower", "begun small")
"""Cases that a language whose nouns keep their capitals has not."""
PSEUDO = "xx"
"""Not a language: every entry in brackets and accents, so that a text which misses the catalogue is seen."""

_ACCENTS = str.maketrans("aceinosuyACEINOSUY", "áçéíñóšúýÁÇÉÍÑÓŠÚÝ")


@dataclass(frozen=True, kw_only=True)
class Catalogue:
    """One language: its decimal sign and its entries by the English ones, for readers with their ``units``."""

    language: str
    units: str = METRIC
    decimal: str = "."
    months: tuple[str, ...] = ()
    keeps_capitals: bool = False
    entries: Mapping[str, str] = field(default_factory=dict)

    def entry(self, template: str) -> str:
        """Return an entry in this language; English if it is not translated."""
        return self.entries.get(template, template)

    def say(self, text: str) -> str:
        """Translate a text; text that is not a message is returned unchanged."""
        if not isinstance(text, Message) or (self.language == ENGLISH and self.units == METRIC):
            return str(text)
        entry = self.entry(text.template) if text.template.strip() else text.template
        sentence = _Words(self).format(entry, **text.values) if text.values else entry
        return sentence if self.keeps_capitals and text.case in SMALL else CASES[text.case](sentence)


class _Words(string.Formatter):
    """Fill an entry: messages in the language, numbers with its decimal sign."""

    def __init__(self, catalogue: Catalogue) -> None:
        self.catalogue = catalogue

    def convert_field(self, value: Any, conversion: Any) -> Any:
        return self.catalogue.say(value) if isinstance(value, str) else super().convert_field(value, conversion)

    def format_field(self, value: Any, format_spec: str) -> str:
        if isinstance(value, date) and self.catalogue.months:
            format_spec = format_spec.replace("%B", self.catalogue.months[value.month - 1])
        if isinstance(value, Quantity):
            unit, size = UNITS[self.catalogue.units].get(value.unit, (value.unit, 1.0))
            text = written(value / size, unit, format_spec)
        else:
            text = str(super().format_field(value, format_spec))
        return text.replace(".", self.catalogue.decimal) if isinstance(value, float) else text


class _Pseudo(Catalogue):
    """Put every entry in brackets with accented letters, placeholders unchanged."""

    def entry(self, template: str) -> str:
        parts = []
        for literal, name, spec, _ in (
            string.Formatter().parse(template) if "{" in template else [(template, None, "", "")]
        ):
            parts.append(
                literal.translate(_ACCENTS).replace("{", "{{").replace("}", "}}")
                if "{" in template
                else literal.translate(_ACCENTS)
            )
            if name is not None:
                parts.append("{" + name + (f":{spec}" if spec else "") + "}")
        return f"⟦{''.join(parts)}⟧"


def unsaid(text: str) -> str:
    """Return text outside the pseudo-language's brackets: names, numbers, or text missing in the catalog."""
    depth, left = 0, ""
    for letter in text:
        depth += (letter == "⟦") - (letter == "⟧")
        left += letter if depth == 0 and letter != "⟧" else ""
    return left


@functools.cache
def catalogue(language: str, units: str = METRIC) -> Catalogue:
    """Return the catalog of a language for readers with these units.

    Raises
    ------
    InputError
        For a language there is no file of, or units that nobody has.
    """
    if units not in UNITS:
        raise InputError("units", units, Message("one of {known}", known=", ".join(UNITS)))
    if language == ENGLISH:
        return Catalogue(language=ENGLISH, units=units)
    if language == PSEUDO:
        return _Pseudo(language=PSEUDO, units=units)
    file = resources.files("instavis_report") / "languages" / f"{language}.json"
    if not language.isalpha() or not file.is_file():
        raise InputError("language", language, Message("one of {known}", known=", ".join(languages())))
    result = json.loads(file.read_text(encoding="utf-8"))
    return Catalogue(
        language=language,
        units=units,
        decimal=result["decimal"],
        months=tuple(result["months"]),
        keeps_capitals=result["nouns"] == "kept",
        entries=result["entries"],
    )


def languages() -> list[str]:
    """Return the shipped languages."""
    folder = resources.files("instavis_report") / "languages"
    others = (
        sorted(f.name.removesuffix(".json") for f in folder.iterdir() if f.name.endswith(".json"))
        if folder.is_dir()
        else []
    )
    return [ENGLISH, *others]
