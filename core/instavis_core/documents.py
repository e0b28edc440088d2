"""The open documents of the command line: one dict in, one dict out (`docs/formats.md`)."""

from __future__ import annotations

import dataclasses
import math
from typing import Any

import numpy as np

from instavis_core.cause import rank_causes, read_checks, read_intake
from instavis_core.errors import InputError
from instavis_core.flight import Air, fly, fly_traced
from instavis_core.golfer import Golfer, mirror, read_golfer
from instavis_core.impact import Delivery, Launch, curve_budget, launch_of
from instavis_core.impact.inverse import DELIVERY_NAMES, LAUNCH_NAMES
from instavis_core.knowledge import Club, load_knowledge
from instavis_core.proof import evaluate_proof_set, prove, read_correction
from instavis_core.reading import read_block
from instavis_core.shots import HANDS, Block, block_of, of_club, read_club, read_number, read_shots

AIR_RANGES = {
    "temperature_c": (-40, 55),
    "pressure_hpa": (500, 1100),
    "humidity": (0, 1),
    "wind_mps": (0, 40),
    "wind_from_deg": (-360, 360),
}
REQUIRED_LAUNCH = ("ball_speed_mps", "launch_angle_deg", "spin_rpm")
REQUIRED_DELIVERY = ("club_speed_mps", "path_deg", "face_deg")


def answer_fly(raw: dict[str, Any]) -> dict[str, Any]:
    """Flight of one ball from a launch or a delivery, device frame."""
    _only(raw, ("launch", "delivery", "air", "trace"))
    if ("launch" in raw) == ("delivery" in raw):
        raise InputError("launch", None, "either launch or delivery")
    budget = None
    if "launch" in raw:
        values = _numbers(raw["launch"], "launch", LAUNCH_NAMES, REQUIRED_LAUNCH)
        launch = Launch(*(np.array([values.get(name, 0.0)]) for name in LAUNCH_NAMES))
    else:
        launch, budget = _launched(raw["delivery"])
    air = _air(raw.get("air"))
    flight = fly(*launch.columns(), air)
    out: dict[str, Any] = {
        "launch": {name: float(c[0]) for name, c in zip(LAUNCH_NAMES, launch.columns(), strict=True)},
        **{name: float(getattr(flight, name)[0]) for name in (f.name for f in dataclasses.fields(flight))},
        "curve_budget": budget,
    }
    if raw.get("trace"):
        _, points = fly_traced(*(float(c[0]) for c in launch.columns()), air)
        names = ("time_s", "forward_m", "up_m", "right_m")
        out["trace"] = [dict(zip(names, row, strict=True)) for row in points.tolist()]
    return plain(out)


def answer_read(raw: dict[str, Any]) -> dict[str, Any]:
    """Reading of a block, golfer frame."""
    block, left_out = _block(raw)
    answer = plain({"frame": "golfer", "club": block.club.id, "hand": block.golfer.hand, **_dict(read_block(block))})
    if left_out:
        answer["notes"].append(f"{left_out} balls of other clubs were left out.")
    return answer


def answer_cause(raw: dict[str, Any]) -> dict[str, Any]:
    """Ranking of the causes."""
    block, left_out = _block(raw)
    ranking = rank_causes(block, read_intake(raw.get("intake")), read_checks(raw.get("checks")))
    answer = plain(_dict(ranking))
    if left_out:
        answer["notes"].append(f"{left_out} balls of other clubs were left out.")
    return answer


def answer_prove(raw: dict[str, Any]) -> dict[str, Any]:
    """Proof of a correction, or the result of a proof set."""
    golfer = read_golfer(raw.get("golfer"))
    if "proof_set" in raw:
        return plain(_dict(_proof_set(raw["proof_set"], raw.get("correction"), golfer)))
    shots = read_shots(raw.get("shots"))
    baseline = read_shots(raw.get("baseline"), "baseline")
    club = _club(raw, baseline + shots)
    for name, balls in (("baseline", baseline), ("shots", shots)):
        other = next((s.club for s in balls if s.club not in (None, club.id)), None)
        if other:
            raise InputError(name, other, f"balls of one club, {club.id}: a correction is proved club by club")
    correction = read_correction(raw.get("correction"), golfer, club)
    proof = prove(block_of(baseline, golfer, club), block_of(shots, golfer, club), correction)
    return plain(_dict(proof))


ANSWERS = {"fly": answer_fly, "read": answer_read, "cause": answer_cause, "prove": answer_prove}


def plain(value: Any) -> Any:
    """Numbers as JSON can hold them: finite, rounded to six places; NaN becomes null."""
    if isinstance(value, dict):
        return {k: plain(v) for k, v in value.items()}
    if isinstance(value, list | tuple):
        return [plain(v) for v in value]
    if isinstance(value, float | np.floating):
        return round(float(value), 6) if math.isfinite(value) else None
    if isinstance(value, np.integer):
        return int(value)
    return bool(value) if isinstance(value, np.bool_) else value


def _dict(value: Any) -> dict[str, Any]:
    return dataclasses.asdict(value)


def _only(raw: dict[str, Any], names: tuple[str, ...]) -> None:
    for name, value in raw.items():
        if name not in names:
            raise InputError(name[:60], value, "one of " + ", ".join(names))


def _numbers(raw: Any, where: str, names: tuple[str, ...], required: tuple[str, ...]) -> dict[str, float]:
    if not isinstance(raw, dict):
        raise InputError(where, raw, "an object with " + ", ".join(names))
    metrics = load_knowledge().metrics
    values = {}
    for name, value in raw.items():
        if name not in names:
            raise InputError(f"{where}.{name}"[:80], value, "one of " + ", ".join(names))
        values[name] = read_number(f"{where}.{name}", value, metrics[name].range, metrics[name].unit)
    for name in required:
        if name not in values:
            raise InputError(f"{where}.{name}", None, f"a number [{metrics[name].unit}]")
    return values


def _launched(raw: Any) -> tuple[Launch, dict[str, float]]:
    """Launch and curve budget of a delivery document, device frame."""
    if not isinstance(raw, dict):
        raise InputError("delivery", raw, "an object with club, club_speed_mps, path_deg, face_deg, …")
    rest = dict(raw)
    try:
        club = read_club(rest.pop("club", None))
    except InputError as error:
        raise error.inside("delivery") from None
    hand = rest.pop("hand", "right")
    if hand not in HANDS:
        raise InputError("delivery.hand", hand, "right or left")
    golfer = Golfer(hand)
    values = _numbers(rest, "delivery", DELIVERY_NAMES, REQUIRED_DELIVERY)
    usual = {"attack_deg": club.attack, "dynamic_loft_deg": club.usual_dynamic_loft}
    row = (mirror(name, values.get(name, usual.get(name, 0.0)), golfer) for name in DELIVERY_NAMES)
    delivery = Delivery(*row)
    launch, budget = launch_of(delivery, club), curve_budget(delivery, club)
    mirrored = [mirror(name, c, golfer) for name, c in zip(LAUNCH_NAMES, launch.columns(), strict=True)]
    parts = {f.name: golfer.side * float(getattr(budget, f.name)[0]) for f in dataclasses.fields(budget)}
    return Launch(*mirrored), parts


def _air(raw: Any) -> Air:
    if raw is None:
        return Air()
    if not isinstance(raw, dict):
        raise InputError("air", raw, "an object with " + ", ".join(AIR_RANGES))
    values = {}
    for name, value in raw.items():
        if name not in AIR_RANGES:
            raise InputError(f"air.{name}"[:80], value, "one of " + ", ".join(AIR_RANGES))
        values[name] = read_number(f"air.{name}", value, AIR_RANGES[name])
    return Air(**values)


def _club(raw: dict[str, Any], shots: list) -> Club:
    """The club asked for, else the only one the shots name, else the mid iron of the effect tables."""
    if raw.get("club") is not None:
        return read_club(raw["club"])
    named = {s.club for s in shots if s.club}
    if len(named) > 1:
        raise InputError("club", None, "the club to read: the shots name " + ", ".join(sorted(named)))
    return load_knowledge().clubs[named.pop() if named else "7i"]


def _block(raw: dict[str, Any]) -> tuple[Block, int]:
    golfer = read_golfer(raw.get("golfer"))
    shots = read_shots(raw.get("shots"))
    club = _club(raw, shots)
    same, left_out = of_club(shots, club)
    return block_of(same, golfer, club), left_out


def _proof_set(raw: Any, correction: Any, golfer: Golfer):
    if not isinstance(raw, dict):
        raise InputError("proof_set", raw, "an object with shots")
    primary = raw.get("primary") or (correction or {}).get("primary", "path_deg")
    if primary not in load_knowledge().metrics:
        raise InputError("proof_set.primary", primary, "a metric")
    shots = read_shots(raw.get("shots"), "proof_set.shots")
    called = [s.extra.get("called", s.intent) for s in shots]
    good = [i for i, s in enumerate(shots) if s.intent in ("old", "new") and called[i] == s.intent]
    miscalled = sum(called[i] != s.intent for i, s in enumerate(shots))
    for i in good:
        if primary not in shots[i].values:
            raise InputError(f"proof_set.shots[{i}].{primary}", None, "a number")
    values = np.array([mirror(primary, shots[i].values[primary], golfer) for i in good])
    return evaluate_proof_set(values, np.array([shots[i].intent == "new" for i in good]), miscalled)
