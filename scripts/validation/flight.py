"""Flight: published averages of elite men and women, and a tight integration."""

from __future__ import annotations

import numpy as np

from instavis_core.flight import Air, fly
from validation.published import averages
from validation.report import Table

WARM = Air(temperature_c=25)


def tables() -> list[Table]:
    """Carry and apex by club, and their mean errors."""
    return [_table("men", "fitted"), _table("women", "not fitted")]


def _table(name: str, kind: str) -> Table:
    known, carry, apex = _errors(name)
    rows = [
        [c, f"{k:.1f}", f"{100 * e:+.1f} %", f"{100 * a:+.1f} %"]
        for c, k, e, a in zip(known.clubs, known.carry, carry, apex, strict=True)
    ]
    rows.append(["mean of sizes", "", f"{100 * np.abs(carry).mean():.1f} %", f"{100 * np.abs(apex).mean():.1f} %"])
    return Table(
        f"Flight against published averages of elite {name} ({kind})", ["club", "carry [m]", "carry", "apex"], rows
    )


def _errors(name: str):
    known = averages(name)
    flight = fly(known.ball_speed, known.launch, 0, known.spin, 0, WARM)
    return known, flight.carry_m / known.carry - 1, flight.apex_m / known.apex - 1


def draw(axes) -> None:
    """Carry error by published carry."""
    for name, mark in (("men", "o"), ("women", "s")):
        known, carry, _ = _errors(name)
        axes.plot(known.carry, 100 * carry, mark, label=f"elite {name}")
    axes.axhspan(-5, 5, color="#e7edde", zorder=0)
    axes.set(xlabel="published carry [m]", ylabel="model − published [%]", ylim=(-8, 8), title="Carry by club")
    axes.legend()
