"""`prove`: did the body do it, did club and ball follow?"""

from __future__ import annotations

from dataclasses import asdict
from typing import Any

import numpy as np

from instavis_core.errors import InputError, is_one_of
from instavis_core.golfer import Golfer, mirror, read_golfer
from instavis_core.knowledge import vocabulary
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.message import Message
from instavis_core.proof import ProofSetResult, evaluate_proof_set, prove, read_correction
from instavis_core.shots import block_of, read_shots
from instavis_io.documents.fields import club_of, plain


def answer(raw: dict[str, Any]) -> dict[str, Any]:
    """Judge a correction or a proof set."""
    golfer = read_golfer(raw.get("golfer"))
    if "proof_set" in raw:
        return plain(asdict(_proof_set(raw["proof_set"], raw.get("correction"), golfer)))
    shots = read_shots(raw.get("shots"))
    baseline = read_shots(raw.get("baseline"), "baseline")
    club = club_of(raw, baseline + shots)
    for name, balls in (("baseline", baseline), ("shots", shots)):
        other = next((s.club for s in balls if s.club not in (None, club.id)), None)
        if other:
            raise InputError(
                name,
                other,
                Message("files-balls-one-club-correction-proved", club=club.id),
            )
    correction = read_correction(shipped_knowledge(), raw.get("correction"), golfer, club)
    proof = prove(
        block_of(baseline, golfer, club),
        block_of(shots, golfer, club),
        correction,
        changed_conditions=_conditions(raw.get("changed_conditions")),
        aim_held=[_aim_held(raw.get("aim_held"))] * len(shots),
    )
    document = plain(asdict(proof))
    for verdict in document["verdicts"]:
        verdict["apart"] = verdict.pop("excluded_by")  # the name in the format
    return dict(document)


def _aim_held(raw: Any) -> bool:
    """Return whether all shots were hit along an alignment stick."""
    if raw is not None and not isinstance(raw, bool):
        raise InputError("aim_held", raw, Message("common-true-false"))
    return bool(raw)


def _conditions(raw: Any) -> list[str]:
    """Return conditions that differ from the baseline."""
    known = vocabulary().words["condition"]
    if raw is None:
        return []
    if not isinstance(raw, list) or not all(is_one_of(c, known) for c in raw):
        raise InputError("changed_conditions", raw, Message("common-list", known=", ".join(known)))
    return raw


def _proof_set(raw: Any, correction: Any, golfer: Golfer) -> ProofSetResult:
    if not isinstance(raw, dict):
        raise InputError("proof_set", raw, Message("files-object-shots"))
    primary = raw.get("primary") or (correction or {}).get("primary", "path_deg")
    if not is_one_of(primary, vocabulary().metrics):
        raise InputError("proof_set.primary", primary, Message("files-metric"))
    shots = read_shots(raw.get("shots"), "proof_set.shots")
    called = [s.extra.get("called", s.intent) for s in shots]
    good = [i for i, s in enumerate(shots) if s.intent in ("old", "new") and called[i] == s.intent]
    miscalled = sum(called[i] != s.intent for i, s in enumerate(shots))
    for i in good:
        if primary not in shots[i].values:
            raise InputError(f"proof_set.shots[{i}].{primary}", None, Message("common-number"))
    values = np.array([mirror(primary, shots[i].values[primary], golfer) for i in good])
    return evaluate_proof_set(values, np.array([shots[i].intent == "new" for i in good]), miscalled)
