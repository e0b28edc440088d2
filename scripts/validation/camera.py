"""The camera on people, cameras and swings not used in any fit: body, moments and answers against the truth.

Landmarks are found again in the shipped clips, so that the whole chain is measured, from picture to number.
"""

from __future__ import annotations

import json
import time
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np

from instavis_camera.clip import landmarks_of
from instavis_camera.model import SHIPPED, load
from instavis_core.camera import CameraBody, PoseSeries, body_of
from instavis_core.knowledge import load_motion
from instavis_core.knowledge.camera import Habit, load_camera
from instavis_core.knowledge.loader import shipped_knowledge
from instavis_core.recordings import Moments, SwingSeries, propose
from instavis_core.recordings.grades import ALIKE_SECONDS, value_at
from instavis_core.simulate.recording import record_swing
from launcher.paths import ROOT
from validation.report import Table

CLIPS = ROOT / "standins" / "instavis_standins" / "clips"
MOMENTS = ("top", "halfway-down", "impact")
ERRING = ("top", "transition", "halfway-down", "impact", "through")
WANTED = {"cm": "RMS ≤ 1.5, no bias above 0.7", "deg": "RMS ≤ 4", "hands": "none set"}
NINETY, SWINGS = 1.645, 30


@dataclass(frozen=True)
class Measured:
    """A clip, its landmarks, the seconds needed to find them, and the truth."""

    name: str
    series: PoseSeries
    seconds: float
    truth: dict

    def body(self, **other) -> CameraBody:
        """What the body did, with the golfer's own height."""
        return body_of(replace(self.series, **other), self.truth["height_cm"])


def tables() -> Iterator[Table]:
    """Body, moments, grades and speed."""
    networks = load(SHIPPED)
    clips = [_measured(path, networks) for path in sorted(CLIPS.glob("*.json"))]
    yield _body(clips)
    yield _moments(clips)
    yield _grades(clips)
    yield _strong()
    yield _speed(clips)


def _measured(path: Path, networks) -> Measured:
    truth = json.loads(path.read_text())
    video = next(p for p in (path.with_suffix(".webm"), path.with_suffix(".mp4")) if p.exists())
    begun = time.monotonic()
    series = landmarks_of(video, truth["view"], truth["hand"], networks)
    return Measured(path.stem, series, time.monotonic() - begun, truth)


def _body(clips: list[Measured]) -> Table:
    rows = []
    for view in ("face-on", "down-the-line"):
        bodies = [(c, c.body()) for c in clips if c.series.view == view]
        for name in bodies[0][1].swing.columns:
            errors = np.array([_errors(clip, body, name) for clip, body in bodies])
            stated = np.array([[value_at(b.swing, name, b.moments, m)[1] for m in MOMENTS] for _, b in bodies])
            held = np.mean(np.abs(errors) <= NINETY * stated)
            biases = ", ".join(f"{m} {b:+.2f}" for m, b in zip(MOMENTS, errors.mean(0), strict=True))
            rms = np.sqrt((errors**2).mean())
            rows.append([view, name, f"{rms:.2f}", biases, f"{held:.2f}", _wanted(name)])
    head = ["view", "quantity", "RMS at the three moments", "bias", "stated 90 % holds", "wanted"]
    return Table(f"Body against the known motion, {len(clips)} clips", head, rows)


def _wanted(name: str) -> str:
    return WANTED["hands" if name.startswith("hands") else name.rpartition("_")[2]]


def _errors(clip: Measured, body: CameraBody, name: str) -> list[float]:
    at, true = clip.truth["moments_s"], clip.truth
    return [
        body.swing.at(name, body.moments.at[m]) - float(np.interp(at[m], true["times_s"], true["body"][name]))
        for m in MOMENTS
    ]


def _moments(clips: list[Measured]) -> Table:
    rows = []
    for view in ("face-on", "down-the-line"):
        true_series = [c for c in clips if c.series.view == view]
        for heard, other in ((True, {}), (False, {"sound_impact": None})):
            missed = {m: [] for m in MOMENTS}
            for clip in true_series:
                found = clip.body(**other).moments.at
                for moment in MOMENTS:
                    missed[moment].append(1000 * (found[moment] - clip.truth["moments_s"][moment]))
            result = [f"{np.mean(v):+.0f} ± {np.std(v):.0f}, worst {max(map(abs, v)):.0f}" for v in missed.values()]
            rows.append([view, "with sound" if heard else "without", *result])
    head = ["view", "strike", *(f"{m} [ms]" for m in MOMENTS)]
    return Table("Moments; targets: top ± 17 ms, impact ± 17 ms with sound, ± 33 ms without", head, rows)


def _grades(clips: list[Measured]) -> Table:
    """Answer each check that a view can show, from the camera and from the true motion, with the same windows."""
    knowledge = shipped_knowledge()
    right, all_of = {"strong": 0, "sound": 0}, {"strong": 0, "sound": 0}
    for clip in clips:
        body = clip.body()
        columns = {
            n: np.interp(body.swing.time, clip.truth["times_s"], clip.truth["body"][n]) for n in body.swing.columns
        }
        true = replace(body.swing, columns=columns)
        moments = replace(body.moments, at=dict(clip.truth["moments_s"]))
        truth = {p.check: p.grade for p in propose(knowledge, true, moments)}
        for proposal in propose(knowledge, body.swing, body.moments):
            kind = "sound" if truth[proposal.check] == knowledge.checks[proposal.check].grades[0] else "strong"
            all_of[kind] += 1
            right[kind] += truth[proposal.check] == proposal.grade
    rows = [[kind, f"{right[kind]} of {all_of[kind]}"] for kind in right]
    title = "Looks graded as the true motion is; wanted strong signs ≥ 85 %, sound ≥ 90 %"
    return Table(title, ["true grade", "same"], rows)


def _strong() -> Table:
    """Answer checks for every fault at 0.9, many swings each, with and without the camera's stated errors."""
    knowledge, motion, table = shipped_knowledge(), load_motion(), load_camera()
    rng = np.random.default_rng(14)
    right, all_of = Counter(), Counter()
    for fault in motion.adds:
        for _ in range(SWINGS):
            truth = record_swing({fault: 0.9}, rng, tuple(motion.series))
            moments = Moments(truth.moments, dict.fromkeys(truth.moments, 0.0), [])
            for view, habits in table.items():
                true_series = SwingSeries(truth.time, {name: truth.columns[name] for name in habits})
                errors = {name: _one_sd(habit) * _alike(truth.moments, rng) for name, habit in habits.items()}
                for proposal in propose(knowledge, true_series, moments):
                    sound = proposal.grade == knowledge.checks[proposal.check].grades[0]
                    measured = propose(knowledge, _off(true_series, errors, truth.moments), moments)
                    grade = next(p.grade for p in measured if p.check == proposal.check)
                    key = (view, "sound" if sound else "strong")
                    all_of[key] += 1
                    right[key] += grade == proposal.grade
    rows = [[view, kind, f"{right[view, kind] / n:.2f} of {n}"] for (view, kind), n in sorted(all_of.items())]
    title = f"The same by the stated errors, every fault at 0.9, {SWINGS} swings each; wanted strong ≥ .85, sound ≥ .90"
    return Table(title, ["view", "true grade", "same"], rows)


def _one_sd(habit: Habit) -> np.ndarray:
    return np.array([habit.error_at[moment] for moment in ERRING])


def _alike(moments: dict[str, float], rng: np.random.Generator) -> np.ndarray:
    """Return errors of one SD at the moments from the top on, similar where these are close in time."""
    at = np.array([moments[m] for m in ERRING])
    together = np.exp(-(((at[:, None] - at) / ALIKE_SECONDS) ** 2))
    return rng.multivariate_normal(np.zeros(at.size), together, method="cholesky")


def _off(true_series: SwingSeries, errors: dict[str, np.ndarray], moments: dict[str, float]) -> SwingSeries:
    """Return the series with an error of its own at each moment from the top on, none at address."""
    at = [moments[m] for m in ("address", *ERRING)]
    columns = {
        name: values + np.interp(true_series.time, at, np.append(0.0, errors[name]))
        for name, values in true_series.columns.items()
    }
    return SwingSeries(true_series.time, columns)


def _speed(clips: list[Measured]) -> Table:
    rows = []
    for clip in clips:
        frames = clip.series.times.size
        rows.append([clip.name, f"{frames}", f"{clip.seconds:.1f}", f"{1000 * clip.seconds / frames:.0f}"])
    title = "From file to landmarks, one thread; wanted ≤ 12 s for 2 s at 60 frames/s"
    return Table(title, ["clip", "frames", "s", "ms a frame"], rows)
