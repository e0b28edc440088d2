"""The message catalogue: what is said in another language, with its own numbers.

English is the key of every entry and therefore complete. Another language is one file, `languages/CODE.json`: the sign
between whole numbers and decimals, and the entries that are translated; what it lacks is said in English.
"""

from __future__ import annotations

import functools
import json
import string
from collections.abc import Mapping
from dataclasses import dataclass, field
from importlib import resources
from typing import Any

from instavis_core.errors import InputError
from instavis_core.message import CASES, Message

ENGLISH = "en"
PSEUDO = "xx"
"""Not a language: every entry in brackets and accents, so that a text which misses the catalogue is seen."""

_ACCENTS = str.maketrans("aceinosuyACEINOSUY", "áçéíñóšúýÁÇÉÍÑÓŠÚÝ")


@dataclass(frozen=True, kw_only=True)
class Catalogue:
    """One language: its decimal sign and its entries by the English ones."""

    language: str
    decimal: str = "."
    entries: Mapping[str, str] = field(default_factory=dict)

    def entry(self, template: str) -> str:
        """What an entry is in this language; English where it is not translated."""
        return self.entries.get(template, template)

    def say(self, text: str) -> str:
        """A text in this language; one that is no message is a name or somebody's own words and stays."""
        if not isinstance(text, Message) or self.language == ENGLISH:
            return str(text)
        entry = self.entry(text.template) if text.template.strip() else text.template
        said = _Words(self).format(entry, **text.values) if text.values else entry
        return CASES[text.case](said)


class _Words(string.Formatter):
    """Fills an entry: messages in the language, numbers with its decimal sign."""

    def __init__(self, catalogue: Catalogue) -> None:
        self.catalogue = catalogue

    def convert_field(self, value: Any, conversion: Any) -> Any:
        return self.catalogue.say(value) if isinstance(value, str) else super().convert_field(value, conversion)

    def format_field(self, value: Any, format_spec: str) -> str:
        said = str(super().format_field(value, format_spec))
        return said.replace(".", self.catalogue.decimal) if isinstance(value, float) else said


class _Pseudo(Catalogue):
    """Every entry in brackets, its letters with accents, its places left alone."""

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
    """What stands outside of the pseudo-language's brackets: names, numbers, or a text that misses the catalogue."""
    depth, left = 0, ""
    for letter in text:
        depth += (letter == "⟦") - (letter == "⟧")
        left += letter if depth == 0 and letter != "⟧" else ""
    return left


@functools.cache
def catalogue(language: str) -> Catalogue:
    """The catalogue of a language.

    Raises
    ------
    InputError
        For a language there is no file of.
    """
    if language == ENGLISH:
        return Catalogue(language=ENGLISH)
    if language == PSEUDO:
        return _Pseudo(language=PSEUDO)
    file = resources.files("instavis_report") / "languages" / f"{language}.json"
    if not language.isalpha() or not file.is_file():
        raise InputError("language", language, Message("one of {known}", known=", ".join(languages())))
    told = json.loads(file.read_text(encoding="utf-8"))
    return Catalogue(language=language, decimal=told.get("decimal", "."), entries=told.get("entries", {}))


def languages() -> list[str]:
    """The languages that ship."""
    folder = resources.files("instavis_report") / "languages"
    others = (
        sorted(f.name.removesuffix(".json") for f in folder.iterdir() if f.name.endswith(".json"))
        if folder.is_dir()
        else []
    )
    return [ENGLISH, *others]
