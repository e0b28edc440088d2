"""Reads the knowledge files and refuses bad data, naming file, line, entry and field."""

from __future__ import annotations

import dataclasses
import functools
import tomllib
from collections.abc import Callable
from importlib import resources
from typing import Any, TypeVar, get_type_hints

from instavis_core.knowledge import model

Row = TypeVar("Row")

EFFECT_KEYS = {
    "path_deg",
    "face_deg",
    "attack_deg",
    "dynamic_loft_deg",
    "strike_toe_mm",
    "strike_high_mm",
    "low_point_cm",
    "club_speed_pct",
    "face_spread",
    "low_point_spread",
}
STRENGTHS = {-2, -1, 1, 2}


class KnowledgeError(ValueError):
    """Bad data in a knowledge file."""


class _File:
    """One file: its tables and where each entry stands."""

    def __init__(self, name: str, text: str) -> None:
        self.name = name
        self.text = text
        try:
            self.tables = tomllib.loads(text)
        except tomllib.TOMLDecodeError as error:
            raise KnowledgeError(f"{name}: {error}") from error

    def line_of(self, row: dict[str, Any]) -> int:
        """1-based line of an entry, found by its id."""
        wanted = f'= "{row.get("id", row.get("from", row.get("word", "")))}"'
        return next((i for i, line in enumerate(self.text.splitlines(), 1) if line.rstrip().endswith(wanted)), 1)

    def refuse(self, row: dict[str, Any], field: str, why: str) -> KnowledgeError:
        name = row.get("id", row.get("from", "entry"))
        return KnowledgeError(f"{self.name} line {self.line_of(row)}: {name}.{field}: {why}")

    def rows(self, table: str, make: type[Row], **fixed: Any) -> list[Row]:
        """The entries of ``[[table]]`` as dataclass rows; unknown, missing and mistyped fields refused."""
        hints = get_type_hints(make)
        made = []
        for raw in self.tables.get(table, []):
            row = {**raw, **fixed}
            for name in row:
                if name not in hints:
                    raise self.refuse(raw, name, "is not a field of this table")
                row[name] = _typed(row[name], hints[name], lambda why, n=name, r=raw: self.refuse(r, n, why))
            for spec in dataclasses.fields(make):
                needed = spec.default is dataclasses.MISSING and spec.default_factory is dataclasses.MISSING
                if needed and spec.name not in row:
                    raise self.refuse(raw, spec.name, "is missing")
            made.append(make(**row))
        return made


def _typed(value: Any, hint: Any, refuse: Callable[[str], KnowledgeError]) -> Any:
    """A TOML value as the type a field wants."""
    text = str(hint)
    if hint is float and isinstance(value, int | float) and not isinstance(value, bool):
        return float(value)
    if text.startswith("tuple") and isinstance(value, list):
        return tuple(value)
    if text.startswith("dict") and isinstance(value, dict):
        return value
    if hint in (str, bool, int) and isinstance(value, hint):
        return value
    if text.startswith("tuple") and isinstance(value, tuple):
        return value
    raise refuse(f"is {value!r}, expected {getattr(hint, '__name__', text)}")


def load_knowledge_from(read: Callable[[str], str]) -> model.Knowledge:
    """Build the knowledge base from texts.

    Parameters
    ----------
    read : callable
        Gives the text of a file by name (``faults.toml``).

    Raises
    ------
    KnowledgeError
        Naming file, line, entry, field and what was expected.
    """

    def file(name: str) -> _File:
        return _File(name, read(name))

    causes: list[model.Cause] = []
    for name, kind in (("faults", "fault"), ("partners", "partner"), ("compensations", "compensation")):
        source = file(f"{name}.toml")
        rows = source.rows(kind, model.Cause, kind=kind)
        _check_effects(source, kind, rows)
        causes += rows
    ids = {c.id for c in causes}

    chain = file("chain.toml")
    edges = []
    for raw in chain.tables.get("edge", []):
        for end in ("from", "to"):
            if raw.get(end) not in ids:
                raise chain.refuse(raw, end, f"is {raw.get(end)!r}, expected the id of a cause")
        edges.append(model.Edge(raw["from"], raw["to"], raw.get("to_variant", "")))

    checks = file("checks.toml")
    check_rows = checks.rows("check", model.Check)
    for raw, check in zip(checks.tables["check"], check_rows, strict=True):
        for grade, speaks in check.speaks.items():
            if grade not in check.grades:
                raise checks.refuse(raw, f"speaks.{grade}", f"is not one of {', '.join(check.grades)}")
            _check_speaks(checks, raw, f"speaks.{grade}", speaks, ids)

    intake = file("intake.toml")
    words = [w for kind in ("contact", "feel") for w in intake.rows(kind, model.IntakeWord, kind=kind)]
    for word in words:
        _check_speaks(intake, {"id": word.id}, "speaks", word.speaks, ids)

    drills = file("drills.toml")
    drill_rows = drills.rows("drill", model.Drill)
    for drill in drill_rows:
        for fault in drill.faults:
            if fault not in ids:
                raise drills.refuse({"id": drill.id}, "faults", f"names {fault!r}, expected the id of a cause")

    text = file("words.toml").tables
    probability = tuple((float(r["from"]), str(r["word"])) for r in text.pop("probability"))
    return model.Knowledge(
        metrics=_by_id(file("metrics.toml").rows("metric", model.Metric)),
        clubs=_by_id(file("clubs.toml").rows("club", model.Club)),
        causes={c.key: c for c in causes},
        edges=tuple(edges),
        checks=_by_id(check_rows),
        intake_words={f"{w.kind}:{w.id}": w for w in words},
        drills=_by_id(drill_rows),
        stages=_by_id(file("stages.toml").rows("stage", model.Stage)),
        skills=tuple(file("tolerances.toml").rows("skill", model.Skill)),
        schools=_by_id(file("schools.toml").rows("school", model.School)),
        cautions=_by_id(file("cautions.toml").rows("caution", model.Caution)),
        words=text,
        probability_words=probability,
    )


@functools.lru_cache(maxsize=1)
def load_knowledge() -> model.Knowledge:
    """The knowledge base that ships with the core, read once."""
    folder = resources.files("instavis_core.knowledge") / "data"
    return load_knowledge_from(lambda name: (folder / name).read_text(encoding="utf-8"))


def _by_id(rows: list[Row]) -> dict[str, Row]:
    return {row.id: row for row in rows}  # type: ignore[attr-defined]


def _check_effects(source: _File, table: str, rows: list[model.Cause]) -> None:
    for raw, row in zip(source.tables[table], rows, strict=True):
        for name in ("effect", "together", "scatter"):
            for key, value in getattr(row, name).items():
                if key not in EFFECT_KEYS:
                    raise source.refuse(raw, f"{name}.{key}", f"is not one of {', '.join(sorted(EFFECT_KEYS))}")
                if not isinstance(value, int | float) or abs(value) > 60:
                    raise source.refuse(raw, f"{name}.{key}", f"is {value!r}, expected a number within ±60")
        if not 0 < row.prior < 1:
            raise source.refuse(raw, "prior", f"is {row.prior!r}, expected a share between 0 and 1")


def _check_speaks(source: _File, raw: dict[str, Any], field: str, speaks: dict[str, int], ids: set[str]) -> None:
    for cause, strength in speaks.items():
        if cause not in ids:
            raise source.refuse(raw, field, f"names {cause!r}, expected the id of a cause")
        if strength not in STRENGTHS:
            raise source.refuse(raw, field, f"gives {cause} {strength!r}, expected -2, -1, 1 or 2")
