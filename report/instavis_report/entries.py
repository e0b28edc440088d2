"""`python -m instavis_report.entries`: list every entry of the message catalog for translators."""

from __future__ import annotations

import ast
import dataclasses
import json
import re
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import instavis_core
import instavis_report
from instavis_core.knowledge import load_motion, vocabulary
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.knowledge.stills import load_stills
from instavis_core.message import Message

SAID_BY = {"Message": (0,), "counted": (1, 2), "not_found": (0,)}
"""Functions that make messages, and which of their arguments are entries."""
PRINTED = re.compile(r'\{% say "([^"]+)"')
"""What a printed page says."""


def entries(*folders: Path) -> list[str]:
    """Return the texts of core, report, further source folders and the shipped knowledge, in alphabetical order."""
    ours = [Path(str(package.__file__)).parent for package in (instavis_core, instavis_report)]
    places = [*ours, *folders]
    found = {
        entry for folder in places for file in folder.rglob("*.py") for entry in _in_source(file.read_text("utf-8"))
    }
    pages = [page.read_text("utf-8") for folder in places for page in folder.rglob("*.html")]
    found |= {entry for page in pages for entry in PRINTED.findall(page)}
    known = shipped_knowledge()
    found |= set(_in_data([known, vocabulary(), load_motion(), load_stills()]))
    found |= {cause.family.template for cause in known.causes.values()}
    found |= {grade.replace("-", " ") for check in known.checks.values() for grade in check.grades}
    return sorted(entry for entry in found if any(c.isalpha() for c in entry))


def _in_source(text: str) -> Iterator[str]:
    for node in ast.walk(ast.parse(text)):
        name = getattr(node.func, "id", "") if isinstance(node, ast.Call) else ""
        if isinstance(node, ast.Call) and name == "joined":
            yield from _between(node)
        if not isinstance(node, ast.Call) or name not in SAID_BY:
            continue
        for place in SAID_BY[name]:
            if place < len(node.args) and isinstance(node.args[place], ast.Constant):
                yield str(node.args[place].value)  # type: ignore[attr-defined]


def _between(call: ast.Call) -> Iterator[str]:
    """Return the separators that `joined` uses."""
    if len(call.args) > 1 and isinstance(call.args[1], ast.Constant):
        yield "{first}" + str(call.args[1].value) + "{second}"
    for word in call.keywords:
        if word.arg == "last" and isinstance(word.value, ast.Constant):
            yield str(word.value.value)


def _in_data(value: Any) -> Iterator[str]:
    if isinstance(value, Message):
        yield value.template
    elif isinstance(value, dict):
        for part in value.values():
            yield from _in_data(part)
    elif isinstance(value, list | tuple):
        for part in value:
            yield from _in_data(part)
    elif dataclasses.is_dataclass(value):
        for spec in dataclasses.fields(value):
            yield from _in_data(getattr(value, spec.name))


if __name__ == "__main__":
    told = dict.fromkeys(entries(*(Path(a) for a in sys.argv[1:])), "")
    json.dump({"decimal": ".", "entries": told}, sys.stdout, indent=1, ensure_ascii=False)
