"""The catalog: every sentence by id, in every language, and how a message is rendered for its reader.

A language is one folder, `languages/CODE`, of Fluent files, a file for each screen; the browser loads those in
`screens`. English is complete; a sentence that another language lacks is shown in English. Entries of the knowledge
tables bring their English along and are translated by their ids.
"""

from __future__ import annotations

import functools
import logging
import numbers
from collections.abc import Callable, Mapping
from importlib import resources
from typing import Any

from babel.dates import format_date
from babel.numbers import get_decimal_symbol
from fluent.runtime import FluentBundle, FluentResource
from fluent.runtime.types import FluentType, fluent_number
from fluent.syntax import ast, visitor

from instavis_core.errors import InputError
from instavis_core.message import CASES, Message, Quantity, written
from instavis_core.units import METRES_PER_YARD, MPS_PER_MPH

logger = logging.getLogger(__name__)

ENGLISH = "en"
METRIC = "m-ms"
UNITS: Mapping[str, Mapping[str, tuple[str, float]]] = {
    METRIC: {},
    "m-mph": {"m/s": ("mph", MPS_PER_MPH)},
    "yd-mph": {"m/s": ("mph", MPS_PER_MPH), "m": ("yd", METRES_PER_YARD)},
}
"""Choices of units, and for each the units that are converted: their name, and their size in the core's unit."""
SMALL = ("lower", "begun small")
"""Cases that are not applied in a language whose nouns keep their capitals."""
PSEUDO = "xx"
"""Not a language: every sentence in brackets and accents, so that text outside the catalog is visible."""

_ACCENTS = str.maketrans("aceinosuyACEINOSUY", "áçéíñóšúýÁÇÉÍÑÓŠÚÝ")
_LOCALES = {ENGLISH: "en_GB", PSEUDO: "en_GB"}


class Catalog:
    """The sentences of one language for readers with one choice of units.

    Parameters
    ----------
    language : str
        Code of a language.
    units : str
        One of `UNITS`.
    resources
        Parsed files of the language, English first; later ones override.
    """

    def __init__(self, language: str, units: str, *resources: ast.Resource) -> None:
        self.language = language
        self.units = units
        self._locale = _LOCALES.get(language, language)
        self._decimal = get_decimal_symbol(self._locale)
        self._bundle = FluentBundle([self._locale], use_isolating=False, functions=self._functions())  # type: ignore[arg-type]  # they take options too
        for resource in resources:
            self._bundle.add_resource(resource, allow_overrides=True)
        self._keeps_capitals = self._text("nouns-keep-capitals", {}) == "yes"

    def render(self, text: str) -> str:
        """Return a message in this language; text that is not a message is returned unchanged.

        Examples
        --------
        >>> catalog("de").render(Message("size", size=Quantity(4.06, "°")))
        '4,1°'
        """
        if not isinstance(text, Message):
            return str(text)
        if text.own:
            if not self._bundle.has_message(text.code):
                return self._untranslated(text)
            sentence = self._text(text.code, {})
        else:
            sentence = self._text(text.code, text.values)
        return sentence if self._keeps_capitals and text.case in SMALL else CASES[text.case](sentence)

    def _text(self, code: str, values: Mapping[str, Any]) -> str:
        if not self._bundle.has_message(code):
            return code
        pattern = self._bundle.get_message(code).value
        if pattern is None:
            return code
        sentence, errors = self._bundle.format_pattern(pattern, {name: self._value(v) for name, v in values.items()})
        if errors:
            logger.error("Sentence %s of %s: %s", code, self.language, errors[0])
        return str(sentence)

    def _untranslated(self, text: Message) -> str:
        return str(text)

    def _value(self, value: Any) -> Any:
        if isinstance(value, str):
            return self.render(value)
        if isinstance(value, numbers.Integral) and not isinstance(value, bool):
            return fluent_number(int(value), useGrouping=False)
        return _Value(value, self._written)

    def _written(self, value: Any, form: str = "") -> str:
        if isinstance(value, Quantity):
            unit, size = UNITS[self.units].get(value.unit, (value.unit, 1.0))
            text = written(value / size, unit, form or value.form)
        else:
            text = format(value, form)
        return text.replace(".", self._decimal) if isinstance(value, float) else text

    def _functions(self) -> dict[str, Callable[..., str]]:
        """Return the functions that the files may call: ``FIXED($value, digits: 1)``."""

        def number(value: Any, form: str) -> str:
            return self._written(value.value if isinstance(value, _Value) else float(value), form)

        return {
            "FIXED": lambda value, digits=0: number(value, f".{int(digits)}f"),
            "SIGNED": lambda value, digits=0: number(value, f"+.{int(digits)}f"),
            "PERCENT": lambda value: number(value, ".0%"),
            "SHORT": lambda value: number(value, "g"),
            "DAY": lambda day, form: format_date(day.value, str(form), locale=self._locale),
        }


class _Value(FluentType):
    """A value that the catalog formats by its own rules."""

    def __init__(self, value: Any, write: Callable[[Any], str]) -> None:
        self.value = value
        self._write = write

    def format(self, locale: Any) -> str:
        return self._write(self.value)


class _Pseudo(Catalog):
    """The pseudo-language: text that the catalog lacks is bracketed too, because it is known data."""

    def _untranslated(self, text: Message) -> str:
        return f"⟦{text.translate(_ACCENTS) if text.code else str(text)}⟧" if text else ""


class _Accents(visitor.Transformer):
    """Put every sentence in brackets and accents."""

    def visit_TextElement(self, node: ast.TextElement) -> ast.TextElement:  # noqa: N802
        return ast.TextElement(node.value.translate(_ACCENTS))

    def visit_Message(self, node: ast.Message) -> ast.Message:  # noqa: N802
        self.generic_visit(node)
        if node.value is not None:
            node.value.elements = [ast.TextElement("⟦"), *node.value.elements, ast.TextElement("⟧")]
        return node


def untranslated(text: str) -> str:
    """Return the part of a text outside the pseudo-language's brackets: names, numbers, or text not in the catalog."""
    depth, left = 0, ""
    for letter in text:
        depth += (letter == "⟦") - (letter == "⟧")
        left += letter if depth == 0 and letter != "⟧" else ""
    return left


@functools.cache
def catalog(language: str, units: str = METRIC) -> Catalog:
    """Return the catalog of a language for readers with these units.

    Raises
    ------
    InputError
        For a language without a folder, or unknown units.
    """
    if units not in UNITS:
        raise InputError("units", units, Message("common-one", known=", ".join(UNITS)))
    if language == PSEUDO:
        accented = FluentResource(_source(ENGLISH))
        _Accents().visit(accented)
        return _Pseudo(PSEUDO, units, accented)
    if language not in languages():
        raise InputError("language", language, Message("common-one", known=", ".join(languages())))
    return Catalog(language, units, *(_resource(code) for code in dict.fromkeys((ENGLISH, language))))


@functools.cache
def languages() -> list[str]:
    """Return the codes of the shipped languages, English first."""
    folders = resources.files("instavis_report") / "languages"
    return [ENGLISH, *sorted(f.name for f in folders.iterdir() if f.is_dir() and f.name != ENGLISH)]


def _source(language: str) -> str:
    folder = resources.files("instavis_report") / "languages" / language
    files = sorted((f for f in folder.iterdir() if f.is_file()), key=lambda file: file.name)
    return "\n".join(f.read_text(encoding="utf-8") for f in files)


@functools.cache
def _resource(language: str) -> ast.Resource:
    return FluentResource(_source(language))


def english(text: str) -> str:
    """Return a message in English and metric units; text that is not a message is returned unchanged."""
    return catalog(ENGLISH).render(text)


Message.render = staticmethod(english)
