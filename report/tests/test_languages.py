"""Every id in the code has an English sentence and none is unused; other languages match English."""

from __future__ import annotations

import ast
import re
import warnings
from collections.abc import Iterator
from functools import cache
from pathlib import Path

import pytest
from fluent.syntax import FluentParser, visitor
from fluent.syntax import ast as fluent

from instavis_core.knowledge import load_motion
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.knowledge.stills import load_stills
from instavis_core.message import Message
from instavis_report.catalog import ENGLISH, PSEUDO, catalog, languages

ROOT = Path(__file__).parents[2]
LANGUAGES = ROOT / "report" / "instavis_report" / "languages"
FILLED_LATER = ("notices.py",)
"""Files whose messages get their values where they are shown."""
SOURCES = ("core", "report", "formats", "camera", "server/instavis", "standins")
OTHERS = [code for code in languages() if code != ENGLISH]
LABEL, ROOM = 24, 14
"""Letters up to which an entry is a label, and how many more than twice as many another language may take."""


class _Variables(visitor.Visitor):
    def __init__(self) -> None:
        self.names: set[str] = set()

    def visit_VariableReference(self, node: fluent.VariableReference) -> None:  # noqa: N802
        self.names.add(node.id.name)


def variables(message: fluent.Message) -> set[str]:
    found = _Variables()
    found.visit(message)
    return found.names


@cache
def sentences(language: str) -> dict[str, fluent.Message]:
    found: dict[str, fluent.Message] = {}
    for path in sorted((LANGUAGES / language).glob("*.ftl")):
        for entry in FluentParser().parse(path.read_text("utf-8")).body:
            assert not isinstance(entry, fluent.Junk), f"{path.name}: {entry.content[:80]}"
            if isinstance(entry, fluent.Message):
                assert entry.id.name not in found, f"{path.name}: {entry.id.name} is there twice"
                found[entry.id.name] = entry
    return found


def trees() -> Iterator[tuple[Path, ast.AST]]:
    for source in SOURCES:
        for path in (ROOT / source).rglob("*.py"):
            if not {"tests", "migrations"} & set(path.relative_to(ROOT).parts):
                yield path, ast.parse(path.read_text("utf-8"))


def is_message(call: ast.AST) -> bool:
    return isinstance(call, ast.Call) and isinstance(call.func, ast.Name) and call.func.id == "Message"


def first_words(node: ast.expr) -> Iterator[ast.expr]:
    """The possible first arguments of a call, with both sides of a choice."""
    if isinstance(node, ast.IfExp):
        yield from first_words(node.body)
        yield from first_words(node.orelse)
    else:
        yield node


@cache
def used() -> tuple[dict[str, str], set[str], set[str]]:
    """Ids that a `Message` names, with their place; prefixes of ids that are put together; all strings."""
    ids, prefixes, words = {}, set(), set()
    for path, tree in trees():
        for node in ast.walk(tree):
            if isinstance(node, ast.Constant) and isinstance(node.value, str):
                words.add(node.value)
            if is_message(node) and node.args:
                for one in first_words(node.args[0]):
                    if isinstance(one, ast.Constant):
                        ids[one.value] = f"{path.relative_to(ROOT)}:{node.lineno}"
                    elif isinstance(one, ast.JoinedStr) and isinstance(one.values[0], ast.Constant):
                        prefixes.add(str(one.values[0].value))
    for template in (ROOT / "server").rglob("*.html"):
        for one in re.findall(r'{% text "([^"]+)"', template.read_text("utf-8")):
            ids[one] = str(template.relative_to(ROOT))
    return ids, prefixes, words


def test_every_id_in_the_code_has_an_english_sentence():
    ids, prefixes, _ = used()
    assert len(ids) > 500
    assert {i: place for i, place in ids.items() if i not in sentences(ENGLISH)} == {}
    assert [p for p in prefixes if not any(i.startswith(p) for i in sentences(ENGLISH))] == []


def test_message_has_all_values_of_its_sentence():
    wrong = {}
    for path, tree in trees():
        for node in filter(is_message, () if path.name in FILLED_LATER else ast.walk(tree)):
            given = {word.arg for word in node.keywords}
            for one in first_words(node.args[0]) if None not in given else ():
                if isinstance(one, ast.Constant) and not variables(sentences(ENGLISH)[one.value]) <= given:
                    wrong[f"{path.relative_to(ROOT)}:{node.lineno}"] = one.value
    assert wrong == {}


def test_code_contains_no_sentences():
    """What was expected of bad input is a message, and `plain` marks names, not sentences."""
    found = {}
    for path, tree in trees():
        for node in ast.walk(tree):
            name = node.func.id if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) else ""
            at = {"InputError": 2, "plain": 0}.get(name)
            expected = node.args[at] if at is not None and len(node.args) > at else None
            text = ast.unparse(expected) if isinstance(expected, ast.Constant | ast.JoinedStr) else ""
            if " " in text:
                found[f"{path.relative_to(ROOT)}:{node.lineno}"] = text
    assert found == {}


def test_no_english_sentence_is_unused():
    ids, prefixes, words = used()
    catalogs_own = {"nouns-keep-capitals", "quoted-words"}
    unused = [
        i
        for i in sentences(ENGLISH)
        if i not in ids and i not in words and i not in catalogs_own and not i.startswith(tuple(prefixes))
    ]
    assert unused == []


def knowledge_ids() -> set[str]:
    """Ids of the texts in the knowledge tables, wherever they are in its objects."""
    found: set[str] = set()
    seen: set[int] = set()
    known = shipped_knowledge()
    found |= {f"answer-{grade}" for check in known.checks.values() for grade in check.grades}
    found |= {cause.family.code for cause in known.causes.values()}
    rest: list[object] = [known, load_motion(), load_stills()]
    while rest:
        one = rest.pop()
        if isinstance(one, Message):
            found.add(one.code)
        elif id(one) not in seen and not isinstance(one, str | int | float):
            seen.add(id(one))
            if isinstance(one, dict):
                rest += [*one.values(), *one.keys()]
            elif isinstance(one, list | tuple | set | frozenset):
                rest += one
            elif hasattr(one, "items") and hasattr(one, "keys"):
                rest += [*one.values()]
            else:
                rest += [getattr(one, name) for name in getattr(one, "__dataclass_fields__", ())]
    return found


@pytest.mark.parametrize("language", OTHERS)
def test_a_language_has_no_sentence_that_english_lacks(language):
    unknown = set(sentences(language)) - set(sentences(ENGLISH))
    assert {i for i in unknown if i not in knowledge_ids()} == set()


@pytest.mark.parametrize("language", OTHERS)
def test_a_missing_translation_is_a_warning(language):
    missing = sorted(set(sentences(ENGLISH)) - set(sentences(language)))
    if missing:
        warnings.warn(f"{language} lacks {len(missing)} sentences: {', '.join(missing[:20])}", stacklevel=1)
    assert len(missing) < len(sentences(ENGLISH)) / 2


@pytest.mark.parametrize("language", OTHERS)
def test_a_translation_fills_in_the_same_values(language):
    wrong = {
        i: (variables(one), variables(sentences(ENGLISH)[i]))
        for i, one in sentences(language).items()
        if i in sentences(ENGLISH) and variables(one) != variables(sentences(ENGLISH)[i])
    }
    assert wrong == {}


@pytest.mark.parametrize("language", OTHERS)
def test_labels_are_not_much_longer(language):
    other, own = catalog(language), catalog(ENGLISH)
    labels = {i: own.render(Message(i)) for i, one in sentences(ENGLISH).items() if not variables(one)}
    long = {
        label: other.render(Message(i))
        for i, label in labels.items()
        if len(label) <= LABEL and len(other.render(Message(i))) > 2 * len(label) + ROOM
    }
    assert long == {}


@pytest.mark.parametrize("language", [ENGLISH, PSEUDO, *OTHERS])
def test_every_sentence_without_values_can_be_rendered(language):
    spoken = catalog(language)
    for i, one in sentences(ENGLISH).items():
        if not variables(one):
            assert spoken.render(Message(i)).strip(), i


@pytest.mark.parametrize("language", [ENGLISH, *OTHERS])
def test_what_screens_show_of_the_knowledge_by_its_ids_is_there(language):
    known = shipped_knowledge()
    ids = {grade for check in known.checks.values() for grade in check.grades}
    ids |= set(load_motion().moments) | {cause.variant for cause in known.causes.values() if cause.variant}
    words = (LANGUAGES / language / "screens" / "words.ftl").read_text("utf-8")
    assert {i for i in ids if f"word-{i} = " not in words} == set()


def test_nouns_keep_their_capitals_where_a_language_asks_for_it():
    label = shipped_knowledge().vocabulary.metrics["path_deg"].label.lower()
    assert catalog("de").render(label) == "Schlägerbahn"
    assert catalog("es").render(label) == "recorrido"
