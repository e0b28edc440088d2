"""The correction under test: what should change, in which direction, and where the balls should end."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from instavis_core.cause.evidence import CENTRES
from instavis_core.cause.likelihood import SEVERITY, effect_table
from instavis_core.errors import InputError, is_one_of
from instavis_core.golfer import Golfer
from instavis_core.knowledge import Cause, Club, Knowledge, load_motion, vocabulary
from instavis_core.knowledge.model import Observed
from instavis_core.message import Message
from instavis_core.shots import read_number

DIRECTIONS = {"decrease": -1, "increase": 1}
MAX_GATES = 6
RELIEF = 0.80  # share of a fault that a full movement removes (assumption)


@dataclass(frozen=True, kw_only=True)
class Correction:
    """A correction: gate, limits (``guards``) and ``predicted`` change in the golfer frame.

    ``face_per_path`` is how many degrees the face should turn per degree of path; None if the fault does not affect the
    path. ``by_stage`` are the primary gates of stages where they differ. ``pattern`` is the expected change of every
    number that the fault moves; empty if the primary number is not expected among them. ``seen`` is how an instrument
    measures the movement, None if unknown. ``severity`` is how strong the fault was thought to be when it was chosen;
    None stands for a usual strength.
    """

    fault: str
    primary: str
    sign: int
    gate: dict[str, tuple[float, float]]
    guards: dict[str, tuple[float, float]]
    predicted: float
    face_per_path: float | None
    by_stage: dict[str, tuple[float, float]] = field(default_factory=dict)
    pattern: dict[str, float] = field(default_factory=dict)
    seen: Observed | None = None
    severity: float | None = None

    def gate_at(self, stage: str | None) -> dict[str, tuple[float, float]]:
        """Return the gate of a stage."""
        window = self.by_stage.get(stage or "")
        return {**self.gate, self.primary: window} if window else self.gate


def read_correction(knowledge: Knowledge, raw: Any, golfer: Golfer, club: Club) -> Correction:
    """Check a correction document.

    Raises
    ------
    InputError
        For unknown faults or metrics, a gate the wrong way round, an unknown direction.
    """
    if not isinstance(raw, dict):
        raise InputError("correction", raw, Message("prove-object-fault-primary-direction-gate"))
    ids = {c.id for c in knowledge.causes.values()}
    if not is_one_of(raw.get("fault"), ids):
        raise InputError("correction.fault", raw.get("fault"), Message("common-one", known=", ".join(sorted(ids))))
    primary = raw.get("primary")
    if not is_one_of(primary, vocabulary().metrics):
        raise InputError("correction.primary", primary, Message("common-one", known=", ".join(vocabulary().metrics)))
    if not is_one_of(raw.get("direction"), DIRECTIONS):
        raise InputError("correction.direction", raw.get("direction"), Message("prove-decrease-increase"))
    sign = DIRECTIONS[raw["direction"]]
    gate = _windows(raw.get("gate"), "correction.gate")
    if primary not in gate:
        raise InputError("correction.gate", raw.get("gate"), Message("prove-window-primary-metric", primary=primary))
    cause, predicted = knowledge.cause(raw["fault"], raw.get("variant")), raw.get("predicted")
    if predicted is None:
        predicted = sign * abs(_usual_change(cause, primary, golfer, club))
    else:
        predicted = read_number("correction.predicted", predicted, (-100, 100))
        if predicted * sign <= 0:
            raise InputError(
                "correction.predicted",
                predicted,
                Message("prove-change-direction-correction", direction=raw["direction"]),
            )
    return Correction(
        fault=raw["fault"],
        primary=primary,
        sign=sign,
        gate=gate,
        guards=_windows(raw.get("guards") or {}, "correction.guards"),
        predicted=predicted,
        face_per_path=_face_per_path(cause, golfer, club),
        by_stage=_by_stage(raw.get("gate_by_stage") or {}, primary),
        pattern=_pattern(cause, primary, sign, golfer, club),
        seen=_observed(knowledge, raw),
        severity=None if raw.get("severity") is None else read_number("correction.severity", raw["severity"], (0, 2)),
    )


def _pattern(cause: Cause, primary: str, sign: int, golfer: Golfer, club: Club) -> dict[str, float]:
    """Return what removing a typical severity of the fault does to every number it moves.

    Empty for the opposite direction.
    """
    effects = effect_table((cause,), golfer, club)[0]
    changes = {m: -SEVERITY * float(effects[k]) for k, m in enumerate(CENTRES) if effects[k]}
    return changes if changes.get(primary, 0.0) * sign > 0 else {}


def _observed(knowledge: Knowledge, correction: dict[str, Any]) -> Observed | None:
    """Return how an instrument measures the movement: as given, or as the drill defines it."""
    raw, motion = correction.get("seen"), load_motion()
    if raw is None:
        drill = knowledge.drills.get(str(correction.get("drill")))
        return drill.seen if drill else None
    if not isinstance(raw, dict) or not raw.keys() <= {"series", "at", "since", "guards"}:
        raise InputError("correction.seen", raw, Message("prove-object-series-perhaps-since-guards"))
    guards = raw.get("guards") or []
    if not isinstance(guards, list | tuple) or len(guards) > MAX_GATES:
        raise InputError("correction.seen.guards", guards, Message("prove-list-series"))
    for name, value, known in (
        ("series", raw.get("series"), motion.series),
        ("at", raw.get("at"), motion.moments),
        ("since", raw.get("since") or motion.moments[0], motion.moments),
        *(("guards", guard, motion.series) for guard in guards),
    ):
        if not is_one_of(value, known):
            raise InputError(f"correction.seen.{name}", value, Message("common-one", known=", ".join(known)))
    return Observed(series=raw["series"], at=raw["at"], since=raw.get("since") or "", guards=tuple(guards))


def _by_stage(raw: Any, primary: str) -> dict[str, tuple[float, float]]:
    """Return the primary gate by stage, each checked like the main gate."""
    stages = vocabulary().stages
    if not isinstance(raw, dict) or not raw.keys() <= stages.keys():
        raise InputError("correction.gate_by_stage", raw, Message("prove-object-stages", known=", ".join(stages)))
    return {
        stage: _windows({primary: pair}, f"correction.gate_by_stage.{stage}")[primary] for stage, pair in raw.items()
    }


def _windows(raw: Any, name: str) -> dict[str, tuple[float, float]]:
    if not isinstance(raw, dict) or len(raw) > MAX_GATES:
        raise InputError(
            name,
            raw,
            Message("prove-object-most-metrics-each-low", most=MAX_GATES),
        )
    metrics = vocabulary().metrics
    windows = {}
    for metric, pair in raw.items():
        if metric not in metrics:
            raise InputError(f"{name}.{metric}"[:80], pair, Message("prove-metric", known=", ".join(metrics)))
        if not isinstance(pair, list | tuple) or len(pair) != 2:
            raise InputError(f"{name}.{metric}", pair, Message("prove-two-numbers-low-high"))
        low, high = (read_number(f"{name}.{metric}", v, metrics[metric].range, metrics[metric].unit) for v in pair)
        if low >= high:
            raise InputError(f"{name}.{metric}", list(pair), Message("prove-lower-number-first"))
        windows[metric] = (low, high)
    return windows


def _face_per_path(cause: Cause, golfer: Golfer, club: Club) -> float | None:
    effects = effect_table((cause,), golfer, club)[0]
    path, face = effects[CENTRES.index("path_deg")], effects[CENTRES.index("face_deg")]
    return float(face / path) if abs(path) >= 1 else None


def _usual_change(cause: Cause, primary: str, golfer: Golfer, club: Club) -> float:
    """Return what a typical severity of the fault does to the metric; its tolerance if the table has no value."""
    if primary in CENTRES:
        effects = effect_table((cause,), golfer, club)[0]
        if effects[CENTRES.index(primary)]:
            return SEVERITY * float(effects[CENTRES.index(primary)])
    return 2 * golfer.skill.tolerance.get(primary, vocabulary().metrics[primary].noise)
