"""Load the knowledge files; bad data raises an error with file, line, entry and field."""

from __future__ import annotations

import dataclasses
import functools
import math
import tomllib
from collections.abc import Callable, Collection, Iterable, Iterator
from importlib import resources
from typing import Any, TypeVar, get_type_hints

from instavis_core.knowledge import model
from instavis_core.knowledge.clubs import Club
from instavis_core.knowledge.texts import entry_key, entry_text, word_texts
from instavis_core.message import Message, plain

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


# What a head coach may change in each table; the rest of an entry belongs to the engine.
EDITABLE = {
    "fault": ("label", "happens", "prior", "effect"),
    "partner": ("label", "happens", "prior", "effect"),
    "check": ("label", "question", "seconds", "speaks"),
    "window": ("above", "below"),
    "drill": ("name", "faults", "object", "setup", "cue", "mark", "fake", "wanted", "ugly", "matchups", "home"),
}
OWN = "own-"  # prefix of an academy's own checks and drills
OWN_TABLES = ("check", "drill")
Changes = dict[str, dict[str, dict[str, Any]]]


class KnowledgeError(ValueError):
    """Bad data in a knowledge file: ``field`` is entry and field where known, ``why`` is what is wrong."""

    def __init__(self, message: str, field: str = "", why: str = "") -> None:
        self.field, self.why = field, why or message
        super().__init__(message)


class _File:
    """One file: its tables and the line of each entry."""

    def __init__(self, name: str, text: str, changes: Changes) -> None:
        self.name = name
        self.text = text
        self.changes = changes
        try:
            self.tables = tomllib.loads(text)
        except tomllib.TOMLDecodeError as error:
            raise KnowledgeError(f"{name}: {error}") from error
        for table in self.tables.keys() & changes.keys():
            self.tables[table] = list(_changed(table, self.tables[table], changes[table]))

    def line_of(self, row: dict[str, Any]) -> int:
        """1-based line of an entry, found by its id."""
        wanted = f'= "{row.get("id", row.get("from", row.get("word", "")))}"'
        return next((i for i, line in enumerate(self.text.splitlines(), 1) if line.rstrip().endswith(wanted)), 1)

    def refuse(self, row: dict[str, Any], field: str, why: str) -> KnowledgeError:
        name = row.get("id", row.get("from", "entry"))
        place = f"{name}.{field}"
        return KnowledgeError(f"{self.name} line {self.line_of(row)}: {place}: {why}", place, why)

    def rows(self, table: str, make: type[Row], **fixed: Any) -> list[Row]:
        """Return the entries of ``[[table]]`` as dataclass rows; unknown, missing and mistyped fields are refused."""
        hints = get_type_hints(make)
        made = []
        for raw in self.tables.get(table, []):
            row = {**raw, **fixed}
            for name in row:
                if name not in hints:
                    raise self.refuse(raw, name, "is not a field of this table")
                says = functools.partial(self._says, table, raw, name)
                row[name] = _typed(row[name], hints[name], functools.partial(self.refuse, raw, name), says)
            for spec in dataclasses.fields(make):  # type: ignore[arg-type]
                needed = spec.default is dataclasses.MISSING and spec.default_factory is dataclasses.MISSING
                if needed and spec.name not in row:
                    raise self.refuse(raw, spec.name, "is missing")
            made.append(make(**row))
        return made

    def _says(self, table: str, row: dict[str, Any], field: str, text: str, part: str = "") -> Message:
        """Return a text of an entry; an academy's own texts have no translation."""
        own = field in self.changes.get(table, {}).get(entry_key(row), {})
        return plain(text) if own else entry_text(table, entry_key(row), field, part, english=text)


def _typed(value: Any, hint: Any, refuse: Callable[[str], KnowledgeError], says: Callable[..., Message]) -> Any:
    """Return a TOML value as the type of its field; ``says`` makes its texts."""
    text = str(hint)
    if "float" in text and isinstance(value, int | float) and not isinstance(value, bool):
        return float(value)
    if hint == tuple[model.SchoolSide, ...] and isinstance(value, list):
        return tuple(model.SchoolSide(str(side["id"]), says(str(side["says"]), str(side["id"]))) for side in value)
    if text.startswith("tuple") and isinstance(value, list):
        if ("str" in text or "Message" in text) and not all(isinstance(one, str) for one in value):
            raise refuse(f"is {value!r}, expected a list of texts")
        return tuple(says(one, str(i)) if "Message" in text else one for i, one in enumerate(value, 1))
    if hint == model.Observed | None and isinstance(value, dict):
        return _observed(value, refuse)
    if text.startswith("dict") and isinstance(value, dict):
        return value
    if hint is Message and isinstance(value, str):
        return says(value)
    if hint in (str, bool, int) and type(value) is hint:
        return value
    if text.startswith("tuple") and isinstance(value, tuple):
        return value
    raise refuse(f"is {value!r}, expected {getattr(hint, '__name__', text)}")


def _observed(value: dict[str, Any], refuse: Callable[[str], KnowledgeError]) -> model.Observed:
    texts = all(isinstance(value.get(name, ""), str) for name in ("series", "at", "since"))
    if not {"series", "at"} <= value.keys() <= {"series", "at", "since", "guards"} or not texts:
        raise refuse(f"is {value!r}, expected series and at, and perhaps since and guards")
    return model.Observed(**{**value, "guards": tuple(value.get("guards", ()))})


def _changed(table: str, rows: list[dict[str, Any]], changes: dict[str, dict[str, Any]]) -> Iterator[dict[str, Any]]:
    """The rows of a table with an academy's changes applied, then its own rows."""
    left = dict(changes)
    for row in rows:
        key = entry_key(row)
        change = left.pop(key, {})
        for field in change:
            if field not in EDITABLE[table]:
                raise KnowledgeError(f"{table}.{key}.{field}: may not be changed, only {', '.join(EDITABLE[table])}")
        yield {**row, **change}
    for key, row in left.items():
        if table not in OWN_TABLES or not key.startswith(OWN):
            raise KnowledgeError(f"{table}.{key}: there is no such entry; one of your own begins with {OWN!r}")
        yield {**row, "id": key}


def load_knowledge_from(read: Callable[[str], str], changes: Changes | None = None) -> model.Knowledge:
    """Build the knowledge base from texts.

    Parameters
    ----------
    read : callable
        Gives the text of a file by name (``faults.toml``).
    changes : dict, optional
        An academy's changes: table → key of the entry → field → value; own looks and drills whole.

    Raises
    ------
    KnowledgeError
        Naming file, line, entry, field and what was expected.
    """

    def file(name: str) -> _File:
        return _File(name, read(name), changes or {})

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
    _check_grades(checks, check_rows)
    for raw, check in zip(checks.tables["check"], check_rows, strict=True):
        for grade, speaks in check.speaks.items():
            if grade not in check.grades:
                raise checks.refuse(raw, f"speaks.{grade}", f"is not one of {', '.join(check.grades)}")
            _check_speaks(checks, raw, f"speaks.{grade}", speaks, ids)
    windows = file("windows.toml")
    window_rows = windows.rows("window", model.Window)
    grades = {c.id: c.grades for c in check_rows}
    for raw, window in zip(windows.tables["window"], window_rows, strict=True):
        if window.grade not in grades.get(window.look, ()):
            raise windows.refuse(raw, "grade", f"is {window.grade!r} of {window.look!r}, expected an answer of a check")
        if (window.above is None) == (window.below is None):
            raise windows.refuse(raw, "above", "expected either above or below")
        if not math.isfinite(window.bound) or abs(window.bound) > 180:
            raise windows.refuse(raw, "above", f"is {window.bound!r}, expected a number within ±180")

    intake = file("intake.toml")
    words = [w for kind in ("contact", "feel") for w in intake.rows(kind, model.IntakeWord, kind=kind)]
    for word in words:
        _check_speaks(intake, {"id": word.id}, "speaks", word.speaks, ids)

    body, felt = file("body.toml"), file("felt.toml")
    tests, felt_rows = body.rows("body_test", model.BodyTest), felt.rows("felt", model.Felt)
    parts = body.rows("body_part", model.BodyPart)
    for part in parts:
        _check_names(body, part.id, "test", [part.test], {t.id for t in tests})
        _check_names(body, part.id, "windows", part.windows, {w.id for w in window_rows})
        _check_names(body, part.id, "faults", part.faults, ids)
    for aid in felt_rows:
        _check_names(felt, aid.id, "asks", aid.asks, {p.id for p in parts})

    motion = tables_of(read, "motion.toml")
    moving, moments = {str(row.get("id")) for row in motion.get("series", ())}, set(motion.get("moments", ()))
    drills = file("drills.toml")
    drill_rows = drills.rows("drill", model.Drill)
    for drill in drill_rows:
        _check_names(drills, drill.id, "faults", drill.faults, ids)
        _check_names(drills, drill.id, "asks", drill.asks, {p.id for p in parts})
        _check_names(drills, drill.id, "felt_by", drill.felt_by, {f.id for f in felt_rows})
        if drill.seen is not None:
            _check_names(drills, drill.id, "seen.series", (drill.seen.series, *drill.seen.guards), moving)
            _check_names(drills, drill.id, "seen.at", (drill.seen.at, drill.seen.since or drill.seen.at), moments)

    ugly = file("ugly.toml")
    ugly_rows = ugly.rows("ugly", model.Ugly)
    for row in ugly_rows:
        _check_names(ugly, row.id, "faults", row.faults, ids)
        if bool(row.turf) == bool(row.metric) or (row.metric and (row.above is None) == (row.below is None)):
            raise ugly.refuse({"id": row.id}, "metric", "expected either turf marks, or a metric above or below")

    text = file("words.toml").tables
    probability = tuple(
        model.ProbabilityWord(
            float(r["from"]), entry_text("probability", str(i), english=r["word"]), bool(r.get("correct"))
        )
        for i, r in enumerate(text.pop("probability"), 1)
    )
    vocabulary = model.Vocabulary(
        metrics=_by_id(file("metrics.toml").rows("metric", model.Metric)),
        clubs=_by_id(file("clubs.toml").rows("club", Club)),
        intake_words={f"{w.kind}:{w.id}": w for w in words},
        stages=_by_id(file("stages.toml").rows("stage", model.Stage)),
        ugly=_by_id(ugly_rows),
        skills=tuple(file("tolerances.toml").rows("skill", model.Skill)),
        schools=_by_id(file("schools.toml").rows("school", model.School)),
        cautions=_by_id(file("cautions.toml").rows("caution", model.Caution)),
        body_tests=_by_id(tests),
        body_parts=_by_id(parts),
        felt=_by_id(felt_rows),
        words=word_texts(text),
        probability_words=probability,
        fault_ids=frozenset(c.id for c in causes if c.kind in ("fault", "partner")),
    )
    references = _drill_references(vocabulary)
    for drill in drill_rows:
        for name, allowed in references.items():
            _check_names(drills, drill.id, name, _values(getattr(drill, name)), allowed)
    return model.Knowledge(
        vocabulary=vocabulary,
        causes={c.key: c for c in causes},
        edges=tuple(edges),
        checks=_by_id(check_rows),
        windows=_by_id(window_rows),
        drills=_by_id(drill_rows),
    )


def tables_of(read: Callable[[str], str], name: str) -> dict[str, Any]:
    """Return the tables of a knowledge file.

    Raises
    ------
    KnowledgeError
        When it is no TOML, naming the file.
    """
    try:
        return tomllib.loads(read(name))
    except tomllib.TOMLDecodeError as error:
        raise KnowledgeError(f"{name}: {error}") from error


def shipped_text(name: str) -> str:
    """Return the text of a shipped knowledge file by name."""
    return (resources.files("instavis_core.knowledge") / "data" / name).read_text(encoding="utf-8")


@functools.lru_cache(maxsize=1)
def shipped_knowledge() -> model.Knowledge:
    """Return the shipped knowledge, loaded once."""
    return load_knowledge_from(shipped_text)


def changed_knowledge(changes: Changes) -> model.Knowledge:
    """Return the shipped knowledge with an academy's changes.

    Raises
    ------
    KnowledgeError
        Naming table, entry and field.
    """
    return load_knowledge_from(shipped_text, changes)


def stored_knowledge(changes: Changes) -> model.Knowledge:
    """Return the shipped knowledge with changes that were accepted under older rules.

    References of an academy's own drills that name nothing are left out, so an old version never stops a lesson.

    Raises
    ------
    KnowledgeError
        For anything else that is wrong, naming table, entry and field.
    """
    references = _drill_references(vocabulary())
    own = {
        key: {name: _known(value, references[name]) if name in references else value for name, value in row.items()}
        for key, row in changes.get("drill", {}).items()
    }
    return changed_knowledge({**changes, "drill": own} if own else changes)


def vocabulary() -> model.Vocabulary:
    """Return the vocabulary, loaded once: metrics, units and words, the same for everyone."""
    return shipped_knowledge().vocabulary


def _by_id(rows: list[Row]) -> dict[str, Row]:
    return {row.id: row for row in rows}  # type: ignore[attr-defined]


def _drill_references(known: model.Vocabulary) -> dict[str, Collection[str]]:
    """Return the allowed values of every field of a drill that names an entry of the vocabulary."""
    return {
        "school": {f"{school.id}:{side.id}" for school in known.schools.values() for side in school.sides},
        "kit": known.words["kit"],
        "regions": known.words["region"],
        "stages": known.stages,
        "cautions": known.cautions,
    }


def _values(value: str | Iterable[str]) -> Iterable[str]:
    """Return the names in a field that holds one name, none (empty), or several."""
    if isinstance(value, str):
        return (value,) if value else ()
    return value


def _known(value: Any, allowed: Collection[str]) -> Any:
    if isinstance(value, str):
        return value if value in allowed else ""
    return [name for name in value if isinstance(name, str) and name in allowed] if isinstance(value, list) else value


def _check_effects(source: _File, table: str, rows: list[model.Cause]) -> None:
    for raw, row in zip(source.tables[table], rows, strict=True):
        for name in ("effect", "together", "scatter"):
            for key, value in getattr(row, name).items():
                if key not in EFFECT_KEYS:
                    raise source.refuse(raw, f"{name}.{key}", f"is not one of {', '.join(sorted(EFFECT_KEYS))}")
                lowest = 0.2 if key.endswith("_spread") else -60  # spreads are multiplied, and logged
                number = isinstance(value, int | float) and not isinstance(value, bool) and math.isfinite(value)
                if not number or not lowest <= value <= 60:
                    raise source.refuse(raw, f"{name}.{key}", f"is {value!r}, expected a number from {lowest} to 60")
        if not 0 < row.prior < 1:
            raise source.refuse(raw, "prior", f"is {row.prior!r}, expected a share between 0 and 1")
        if not 0 <= row.resembles < 1:
            raise source.refuse(raw, "resembles", f"is {row.resembles!r}, expected a share of looks below 1")


def _check_grades(source: _File, rows: list[model.Check]) -> None:
    for raw, row in zip(source.tables["check"], rows, strict=True):
        if not 2 <= len(set(row.grades)) == len(row.grades) <= 6:
            raise source.refuse(raw, "grades", f"is {list(row.grades)!r}, expected two to six different grades")
        if row.view not in ("face-on", "down-the-line", "any"):
            raise source.refuse(raw, "view", f"is {row.view!r}, expected face-on, down-the-line or any")
        if not 1 <= row.seconds <= 120:
            raise source.refuse(raw, "seconds", f"is {row.seconds!r}, expected 1 to 120")


def _check_names(source: _File, entry: str, field: str, named: Iterable[str], allowed: Collection[str]) -> None:
    for name in named:
        if name not in allowed:
            raise source.refuse({"id": entry}, field, f"is {name!r}, expected one of {', '.join(sorted(allowed))}")


def _check_speaks(source: _File, raw: dict[str, Any], field: str, speaks: dict[str, int], ids: set[str]) -> None:
    for cause, strength in speaks.items():
        if cause not in ids:
            raise source.refuse(raw, field, f"names {cause!r}, expected the id of a cause")
        if strength not in STRENGTHS:
            raise source.refuse(raw, field, f"gives {cause} {strength!r}, expected -2, -1, 1 or 2")
