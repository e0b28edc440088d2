"""The published JSON Schemas (2020-12), built from the tables and models that check input.

Flat records (balls, recordings, the documents of the command line) have the fields of the vocabulary's data files; both
their check and their schema are made from those tables. Documents with parts (archive, practice log) are described by
models. `python -m instavis_io.schemas` writes all of them to `docs/schemas`.
"""

from __future__ import annotations

import json
import sys
from collections.abc import Callable, Iterable
from pathlib import Path
from typing import Any

from instavis_core.cause.evidence import SIDES
from instavis_core.cause.eye import MAX_ERROR
from instavis_core.impact.inverse import DELIVERY_NAMES, LAUNCH_NAMES
from instavis_core.knowledge import load_motion, vocabulary
from instavis_core.knowledge.clubs import LIES
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.proof.correction import DIRECTIONS, MAX_GATES
from instavis_core.recordings.series import MAX_SAMPLES
from instavis_core.shots import CHOICES, FORMAT, LONGEST_TEXT, MAX_INTEGER, MAX_SHOTS, PIVOT, SHARES
from instavis_io.archive import lesson_schema
from instavis_io.documents.fly import AIR_RANGES, REQUIRED_DELIVERY, REQUIRED_LAUNCH
from instavis_io.practice import practice_schema

Schema = dict[str, Any]
DRAFT = "https://json-schema.org/draft/2020-12/schema"


def _object(properties: Schema, required: Iterable[str] = (), **more: Any) -> Schema:
    return {"type": "object", "properties": properties, "required": list(required), **more}


def _titled(title: str, schema: Schema) -> Schema:
    return {"$schema": DRAFT, "title": title, **schema}


def _number(limits: tuple[float, float], description: str = "") -> Schema:
    result: Schema = {"type": "number", "minimum": limits[0], "maximum": limits[1]}
    return result | ({"description": description} if description else {})


def _metric(name: str) -> Schema:
    metric = vocabulary().metrics[name]
    frame = "Device frame, right of the target positive." if metric.mirrored else ""
    return _number(metric.range, f"{metric.label} [{metric.unit}]. {frame}".strip())


def ball() -> Schema:
    """One shot record; every measurement is optional; further fields with plain values are stored."""
    properties: Schema = {
        "format": {"const": FORMAT},
        "at": {"type": "string", "format": "date-time", "description": "Moment with its zone."},
        "club": {"enum": list(vocabulary().clubs)},
    }
    for name, words in CHOICES.items():
        properties[name] = {"enum": list(words)}
    for name, longest in LONGEST_TEXT.items():
        properties.setdefault(name, {"type": "string", "maxLength": longest})
    for name in SHARES:
        properties[name] = _number((0, 1))
    for name, limits in PIVOT.items():
        properties[name] = _number(limits)
    for name in vocabulary().metrics:
        properties[name] = _metric(name)
    return {
        "type": "object",
        "properties": properties,
        "additionalProperties": {"type": ["string", "number", "boolean", "null"]},
    }


def shot_schema() -> Schema:
    """A shot record."""
    return _titled(FORMAT, ball())


def device_ball() -> Schema:
    """A shot record from a device, with the device's number."""
    sent = ball()
    number = {"type": "integer", "minimum": 0, "maximum": MAX_INTEGER, "description": "The device's own; stored once."}
    return sent | {"properties": {"device_sequence": number, **sent["properties"]}, "required": ["device_sequence"]}


def recording() -> Schema:
    """A recorded swing as a device sends it."""
    column = {"type": "array", "items": {"type": ["number", "null"]}, "maxItems": MAX_SAMPLES}
    series = {s.id: column | {"description": f"{s.label} [{s.unit}]"} for s in load_motion().series.values()}
    return _object(
        {
            "device_sequence": {"type": "integer", "minimum": 0, "maximum": MAX_INTEGER},
            "shot_id": {"type": "string", "maxLength": LONGEST_TEXT["shot_id"], "description": "The ball's."},
            "at": {"type": "string", "format": "date-time"},
            "series": {
                "type": "object",
                "description": "Columns of one length by name and unit; null where nothing was measured.",
                "properties": {"time_s": column, "time_ms": column, **series},
                "additionalProperties": column,
                "minProperties": 2,
            },
        },
        ["device_sequence", "series"],
        additionalProperties=False,
    )


def recording_schema() -> Schema:
    """A recorded swing."""
    return _titled("A recorded swing, as a device sends it", recording())


def _shots() -> Schema:
    return {"type": ["array", "null"], "items": ball(), "maxItems": MAX_SHOTS}


def _golfer() -> Schema:
    handicap = {"type": ["number", "null"], "minimum": -10, "maximum": 60}
    return _object({"hand": {"enum": list(CHOICES["hand"])}, "handicap": handicap}) | {"type": ["object", "null"]}


def _club() -> Schema:
    return {"enum": [*vocabulary().clubs, None]}


def _lie() -> Schema:
    return {"enum": [*LIES, None]}


def fly_schema() -> Schema:
    """Input of `fly`."""
    launch = _object({n: _metric(n) for n in LAUNCH_NAMES}, REQUIRED_LAUNCH, additionalProperties=False)
    result = {"club": {"enum": list(vocabulary().clubs)}, "hand": {"enum": list(CHOICES["hand"])}, "lie": _lie()}
    numbers = {n: _metric(n) for n in DELIVERY_NAMES}
    delivery = _object({**result, **numbers}, ["club", *REQUIRED_DELIVERY], additionalProperties=False)
    air = _object({n: _number(r) for n, r in AIR_RANGES.items()}, additionalProperties=False)
    return _titled(
        "Input of fly: one ball in the air",
        _object(
            {
                "launch": launch,
                "delivery": delivery,
                "air": air | {"type": ["object", "null"]},
                "trace": {"type": "boolean"},
                "detail": {"type": "boolean"},
            },
            oneOf=[{"required": ["launch"]}, {"required": ["delivery"]}],
            additionalProperties=False,
        ),
    )


def read_schema() -> Schema:
    """Input of `read`."""
    return _titled(
        "Input of read: a block of balls",
        _object({"golfer": _golfer(), "club": _club(), "lie": _lie(), "shots": _shots()}),
    )


def cause_schema() -> Schema:
    """Input of `cause`."""
    known = shipped_knowledge()
    words = known.vocabulary.intake_words.values()
    spoken = {
        name: {"type": ["array", "null"], "items": {"enum": [w.id for w in words if w.kind == kind]}}
        for name, kind in (("contact", "contact"), ("feels", "feel"))
    }
    side = {"enum": [*SIDES, "", None]}
    faults = {"type": ["array", "null"], "items": {"enum": sorted(known.vocabulary.fault_ids)}}
    intake = _object({"start": side, "curve": side, "old_faults": faults, **spoken}) | {"type": ["object", "null"]}
    checks = _object(
        {c.id: {"enum": [*c.grades, "not-seen"]} for c in known.checks.values()}, additionalProperties=False
    )
    share = _number((0.0, MAX_ERROR))
    eye = _object(dict.fromkeys(known.checks, share), additionalProperties=False)
    return _titled(
        "Input of cause: what explains the balls",
        _object(
            {
                "golfer": _golfer(),
                "club": _club(),
                "lie": _lie(),
                "shots": _shots(),
                "intake": intake,
                "checks": checks | {"type": ["object", "null"]},
                "eye": eye | {"type": ["object", "null"]},
                "after_ranking": {"type": ["array", "null"], "items": {"enum": list(known.checks)}},
            }
        ),
    )


def _movement_measure() -> Schema:
    """How an instrument measures the movement: a body series at a moment."""
    motion = load_motion()
    result = {
        "series": {"enum": list(motion.series)},
        "at": {"enum": list(motion.moments)},
        "since": {"enum": [*motion.moments, "", None]},
        "guards": {"type": ["array", "null"], "items": {"enum": list(motion.series)}, "maxItems": MAX_GATES},
    }
    return _object(result, ["series", "at"], additionalProperties=False) | {"type": ["object", "null"]}


def prove_schema() -> Schema:
    """Input of `prove`."""
    known = shipped_knowledge()
    metrics, stages = known.vocabulary.metrics, known.vocabulary.stages
    pair = {"type": "array", "items": {"type": "number"}, "minItems": 2, "maxItems": 2}
    windows = _object(dict.fromkeys(metrics, pair), additionalProperties=False, maxProperties=MAX_GATES)
    correction = _object(
        {
            "fault": {"enum": sorted({c.id for c in known.causes.values()})},
            "variant": {"type": ["string", "null"]},
            "primary": {"enum": list(metrics)},
            "direction": {"enum": list(DIRECTIONS)},
            "predicted": {"type": ["number", "null"], "minimum": -100, "maximum": 100},
            "gate": windows,
            "guards": windows | {"type": ["object", "null"]},
            "drill": {"type": ["string", "null"]},
            "seen": _movement_measure(),
            "severity": _number((0.0, 2.0)) | {"type": ["number", "null"]},
            "gate_by_stage": _object(dict.fromkeys(stages, pair), additionalProperties=False)
            | {"type": ["object", "null"]},
        },
        ["fault", "primary", "direction", "gate"],
    )
    experiment = _object({"shots": _shots(), "primary": {"enum": [*metrics, "", None]}}, ["shots"])
    return _titled(
        "Input of prove: did the body do it, did club and ball answer?",
        _object(
            {
                "golfer": _golfer(),
                "club": _club(),
                "lie": _lie(),
                "baseline": _shots(),
                "shots": _shots(),
                "correction": correction,
                "aim_held": {"type": ["boolean", "null"]},
                "changed_conditions": {
                    "type": ["array", "null"],
                    "items": {"enum": list(known.vocabulary.words["condition"])},
                    "description": "What is not as it was at the baseline.",
                },
                "proof_set": experiment,
            },
            anyOf=[{"required": ["correction"]}, {"required": ["proof_set"]}],
        ),
    )


SCHEMAS: dict[str, Callable[[], Schema]] = {
    "shot": shot_schema,
    "recording": recording_schema,
    "lesson": lesson_schema,
    "practice": practice_schema,
    "fly": fly_schema,
    "read": read_schema,
    "cause": cause_schema,
    "prove": prove_schema,
}


def write(folder: Path) -> None:
    """Write every schema to a folder, one file each."""
    for name, make in SCHEMAS.items():
        text = json.dumps(make(), indent=1, ensure_ascii=False) + "\n"
        (folder / f"{name}.schema.json").write_text(text, encoding="utf-8")


if __name__ == "__main__":
    write(Path(sys.argv[1] if len(sys.argv) > 1 else "docs/schemas"))
