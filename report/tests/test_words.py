"""Screens, docs and docstrings use plain, modern words: no phrase of the list below comes back."""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[2]
INSTEAD = {
    r"how it is faked": "common fake",
    r"calls? (it )?off|called off": "cancel",
    r"bring(s|ing)? in|brought in": "import",
    r"bring(s|ing)? back|brought back": "restore",
    r"takes? back|taken back": "undo, remove, revoke",
    r"takes? away|taken away": "remove",
    r"puts? away": "dismiss, discard, archive",
    r"sets? apart": "exclude",
    r"(comes?|came) in by": "sign in with",
    r"has left": "was deactivated",
    r"who works here": "team",
    r"the line is down": "offline",
    r"not heard of": "never connected, offline",
    r"tells? most": "most useful",
    r"looks that": "checks that",
    r"known well enough\.": "enough balls",
    r"whenever you look": "at any time",
    r"nine times in ten": "90 %",
    r"made felt": "feel",
    r"e-mail": "email",
    r"deeds?": "action, change",
    r"somebody|everybody|anybody": "someone, everyone, anyone",
    r"for ever": "forever",
    r"as it stands": "current",
    r"worth a word": "clear",
    r"colours?|behaviour|favour": "American spelling",
    r"metres?": "meters",
}
PHRASE = {re.compile(rf"\b(?:{phrase})\b", re.IGNORECASE): word for phrase, word in INSTEAD.items()}
SENTENCES = ("report/instavis_report/languages/en/**/*.ftl", "core/instavis_core/knowledge/data/*.toml")
DOCS = ("README.md", "CONTRIBUTING.md", "CHANGELOG.md", "docs/*.md")
PACKAGES = ("core", "report", "formats", "camera", "bridge", "server/instavis")
REPLACED_SOON = ("accounts", "platform", "project", "work")
"""Apps of the server whose code gives way to libraries."""


def screens() -> Iterator[tuple[str, str]]:
    for pattern in SENTENCES:
        for path in sorted(ROOT.glob(pattern)):
            for number, line in enumerate(path.read_text().splitlines(), 1):
                yield f"{path.name}:{number}", re.sub(r"^#.*|^[a-z0-9-]+ = |\{[^}]*\}", "", line)


def docs() -> Iterator[tuple[str, str]]:
    for pattern in DOCS:
        for path in ROOT.glob(pattern):
            for number, line in enumerate(path.read_text().splitlines(), 1):
                yield f"{path.name}:{number}", re.sub(r"`[^`]*`|\[[^\]]*\]", "", line)


def docstrings() -> Iterator[tuple[str, str]]:
    for package in PACKAGES:
        for path in (ROOT / package).rglob("*.py"):
            if {"tests", "migrations", *REPLACED_SOON} & set(path.relative_to(ROOT).parts):
                continue
            for node in ast.walk(ast.parse(path.read_text())):
                if isinstance(node, (ast.Module, ast.ClassDef, ast.FunctionDef, ast.AsyncFunctionDef)):
                    yield f"{path.relative_to(ROOT)}: {getattr(node, 'name', 'module')}", ast.get_docstring(node) or ""


@pytest.mark.parametrize("surface", [screens, docs, docstrings])
def test_no_phrase_of_the_list_is_used(surface):
    texts = list(surface())
    assert len(texts) > 100
    found = [
        f"{place}: {match.group()!r} in {text[:80]!r}; write {word}"
        for place, text in texts
        for phrase, word in PHRASE.items()
        if (match := phrase.search(text))
    ]
    assert found == []


def test_the_list_finds_a_phrase_inside_a_sentence():
    assert any(phrase.search("The file was brought in yesterday.") for phrase in PHRASE)
    assert not any(phrase.search("The file was imported yesterday.") for phrase in PHRASE)
