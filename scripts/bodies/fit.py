"""Fit the table ``camera.toml`` from clips of bodies whose motion is known: ``python -m bodies.fit FOLDER``.

The folder has the truth of each clip and, beside it, the answer of ``./instavis camera`` as ``NAME.pose.json``. Each
quantity is fitted by ridge regression toward "as the picture shows it"; the stated error is what remains on the moments
of a body that was not used in the fit.
"""

from __future__ import annotations

import json
import sys
from dataclasses import dataclass
from pathlib import Path

import numpy as np

from instavis_core.camera.body import address_frames, moments_of
from instavis_core.camera.landmarks import checked
from instavis_core.camera.quantities import habits, raw
from instavis_core.recordings import evened
from instavis_io.poses import read_pose

MOMENTS = ("halfway-back", "top", "transition", "halfway-down", "impact", "through")
STATED = ("top", "halfway-down", "impact")
"""Moments that the overall error of a quantity is stated for."""
ABOUT = {
    "face-on": {
        "sway_cm": ("chest_sin",),
        "head_sway_cm": ("chest_sin",),
        "head_lift_cm": ("shoulders_apart", "knees_apart"),
        "hands_sway_cm": ("arms_out", "arms_up"),
        "hands_lift_cm": ("arms_out", "arms_up"),
    },
    "down-the-line": {
        "thrust_cm": ("pelvis_sin", "hips_apart", "arms_up"),
        "lift_cm": ("arms_up",),
        "bend_deg": ("pelvis_sin", "hips_apart", "arms_up"),
        "head_lift_cm": ("chest_sin", "hips_apart", "arms_up"),
        "hands_thrust_cm": ("arms_out", "arms_up"),
    },
}
"""Habits that correct each quantity of a view: the fewest that leave the smallest error on a body not used in the fit.
"""
HOLD_GAIN, HOLD_ABOUT = 0.02, 0.004  # how strongly a gain is pulled toward 1 and a habit toward 0, in the units squared
HEAD = """# What one camera makes of a body: true ≈ gain × shown + Σ about × habit, cm and °, habits as in
# `instavis_core.camera.quantities`; error is one SD at the top, halfway down and at impact of a body that was not
# fitted on, error_at the same at each moment. Made by `python -m bodies.fit` from clips of bodies whose motion is
# known.
"""


@dataclass(frozen=True)
class Sample:
    """A clip: what the view shows, its habits, the truth (all (k,)), the frames of swing and moments."""

    view: str
    shown: dict[str, np.ndarray]
    about: dict[str, np.ndarray]
    truth: dict[str, np.ndarray]
    swing: np.ndarray
    moments: list[int]

    def table(self, quantity: str) -> np.ndarray:
        """Return the regressors (k, 1 + habits)."""
        return np.column_stack([self.shown[quantity], *(self.about[name] for name in ABOUT[self.view][quantity])])


def sample(pose: Path) -> Sample:
    """Return a clip's landmarks and truth."""
    answer = json.loads(pose.read_text())  # as the command returned it, with the body it measured
    series = checked(read_pose({key: value for key, value in answer.items() if key not in ("file", "body")}))
    result = json.loads(pose.with_name(pose.name.replace(".pose.json", ".json")).read_text())
    still = address_frames(series.times, moments_of(series))
    shown = evened(series.times, raw(series, still, result["height_cm"]))
    about = evened(series.times, habits(series, still, result["height_cm"]))
    truth = {name: np.interp(shown.time, result["times_s"], values) for name, values in result["body"].items()}
    at = result["moments_s"]
    during = (shown.time > at["address"] - 0.1) & (shown.time < at["impact"] + 0.08)
    places = [int(np.abs(shown.time - at[moment]).argmin()) for moment in MOMENTS]
    return Sample(series.view, shown.columns, about.columns, truth, during, places)


def fitted(samples: list[Sample], quantity: str) -> np.ndarray:
    """Return gain and habits (1 + habits,)."""
    rows = np.concatenate([s.table(quantity)[s.swing] for s in samples])
    true = np.concatenate([s.truth[quantity][s.swing] for s in samples])
    hold = len(rows) * np.diag([HOLD_GAIN * np.var(rows[:, 0])] + [HOLD_ABOUT] * (rows.shape[1] - 1))
    usual = np.array([1.0] + [0.0] * (rows.shape[1] - 1))
    return np.linalg.solve(rows.T @ rows + hold, rows.T @ true + hold @ usual)


def left_over(samples: list[Sample], quantity: str) -> np.ndarray:
    """Return the error at the moments of each clip (clips, moments) by the table fitted to all the others."""
    rest = []
    for one in samples:
        table = fitted([s for s in samples if s is not one], quantity)
        rest.append((one.table(quantity) @ table - one.truth[quantity])[one.moments])
    return np.array(rest)


def main() -> None:
    """Print the table; the remaining error goes to standard error."""
    samples = [sample(pose) for pose in sorted(Path(sys.argv[1]).glob("*.pose.json"))]
    print(HEAD, end="")
    for view, quantities in ABOUT.items():
        chosen = [s for s in samples if s.view == view]
        for quantity, names in quantities.items():
            table, rest = fitted(chosen, quantity), left_over(chosen, quantity)
            at_each = dict(zip(MOMENTS, np.sqrt((rest**2).mean(0)), strict=True))
            error = float(np.sqrt(np.mean([at_each[moment] ** 2 for moment in STATED])))
            result = [f"{m} {b:+.2f} ± {s:.2f}" for m, b, s in zip(MOMENTS, rest.mean(0), rest.std(0), strict=True)]
            print(
                f"{view} {quantity}, {len(chosen)} clips: {', '.join(result)}; all {error:.2f}",
                file=sys.stderr,
            )
            about = ", ".join(f"{name} = {much:.2f}" for name, much in zip(names, table[1:], strict=True))
            print(f'\n[[habit]]\nview = "{view}"\nquantity = "{quantity}"\ngain = {table[0]:.3f}\nerror = {error:.2f}')
            print(f"about = {{ {about} }}")
            print(f"error_at = {{ {', '.join(f'{moment} = {much:.2f}' for moment, much in at_each.items())} }}")


if __name__ == "__main__":
    main()
