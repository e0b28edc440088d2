"""Impact: face share, smash, spin, tilt; and elite women, who were not used in any fit."""

from __future__ import annotations

import numpy as np
from scipy.optimize import brentq

from instavis_core.impact import Delivery, launch_of, spin_loft
from instavis_core.knowledge import vocabulary
from validation.published import averages
from validation.report import Table

SHOWN = ("D", "3w", "5w", "4h", "4i", "5i", "6i", "7i", "8i", "9i", "PW", "GW", "SW", "LW")
#: Commonly taught face shares of the start direction (ranges from coaching literature).
PUBLISHED_SHARE = {"D": "0.80–0.90", "7i": "0.70–0.75", "PW": "0.60–0.75"}


def tables() -> list[Table]:
    """Relations by club, and the women's averages predicted from club speed, attack and launch angle."""
    return [_relations(), _women()]


def hit(club, **changes):
    """Simulate a usual delivery of a club with changes."""
    usual = {"club_speed": 38.0, "path": 0.0, "face": 0.0, "attack": club.attack, "toe": 0.0, "high": 0.0}
    usual["dynamic_loft"] = club.usual_dynamic_loft
    return launch_of(Delivery(**{**usual, **changes}), club)


def dplane_tilt(face_to_path: float, attack: float, loft: float) -> float:
    """Tilt of the plane of club velocity and face normal [°] (Jorgensen, The Physics of Golf, 1994)."""
    f, a, d = np.radians([face_to_path, attack, loft])
    velocity = np.array([np.cos(a), np.sin(a), 0.0])
    normal = np.array([np.cos(d) * np.cos(f), np.sin(d), np.cos(d) * np.sin(f)])
    axis = np.cross(velocity, normal)
    return float(np.degrees(np.arctan2(-axis[1], axis[2])))


def face_share(club) -> float:
    """Return the share of the start direction that comes from the face."""
    return float(hit(club, face=2.0).launch_direction[0] / 2)


def _relations() -> Table:
    rows = []
    for name in SHOWN:
        club = vocabulary().clubs[name]
        plain = hit(club)
        rows.append(
            [
                name,
                f"{face_share(club):.2f}",
                PUBLISHED_SHARE.get(name, ""),
                f"{plain.ball_speed[0] / 38.0:.2f}",
                f"{spin_loft(0, 0, club.attack, club.usual_dynamic_loft):.1f}",
                f"{plain.spin[0]:.0f}",
                f"{hit(club, face=2.0).spin_axis[0] / 2:.2f}",
                f"{dplane_tilt(2.0, club.attack, club.usual_dynamic_loft) / 2:.2f}",
            ]
        )
    header = [
        "club",
        "face share",
        "taught",
        "smash",
        "spin loft [°]",
        "spin [rpm]",
        "tilt per ° (launch frame)",
        "D-plane tilt per °",
    ]
    return Table("Impact relations at 38 m/s", header, rows)


def predicted(known, k: int) -> tuple[float, float, float]:
    """Return the dynamic loft that gives the published launch angle, and the resulting ball speed and spin."""
    club = vocabulary().clubs[known.clubs[k]]

    def blow(loft):
        return hit(club, club_speed=known.club_speed[k], attack=known.attack[k], dynamic_loft=loft)

    loft = brentq(lambda d: blow(d).launch_angle[0] - known.launch[k], 2, 60)
    launch = blow(loft)
    return loft, float(launch.ball_speed[0]), float(launch.spin[0])


def _women() -> Table:
    known = averages("women")
    rows, speed_errors, spin_errors = [], [], []
    for k, name in enumerate(known.clubs):
        loft, speed, spin = predicted(known, k)
        speed_errors.append(speed / known.ball_speed[k] - 1)
        spin_errors.append(spin / known.spin[k] - 1)
        rows.append([name, f"{loft:.1f}", f"{100 * speed_errors[-1]:+.1f} %", f"{100 * spin_errors[-1]:+.1f} %"])
    rows.append(
        ["mean of sizes", "", f"{100 * np.abs(speed_errors).mean():.1f} %", f"{100 * np.abs(spin_errors).mean():.1f} %"]
    )
    return Table(
        "Elite women: ball speed and spin from club speed, attack and launch angle (not fitted)",
        ["club", "dynamic loft [°]", "ball speed", "spin"],
        rows,
    )


def draw(axes) -> None:
    """Face share and smash against loft."""
    clubs = [vocabulary().clubs[c] for c in SHOWN]
    loft = [c.usual_dynamic_loft for c in clubs]
    axes.plot(loft, [face_share(c) for c in clubs], "o-", label="face share of start")
    axes.plot(loft, [hit(c).ball_speed[0] / 38.0 - 0.5 for c in clubs], "s-", label="smash − 0.5")
    axes.plot([13, 28, 38], [0.85, 0.725, 0.67], "k_", markersize=16, label="taught share")
    axes.set(xlabel="dynamic loft [°]", ylabel="share", title="Face share and smash by loft")
    axes.legend()


def draw_spin(axes) -> None:
    """Spin against spin loft with one club, and by club."""
    clubs = [vocabulary().clubs[c] for c in SHOWN]
    iron = vocabulary().clubs["7i"]
    lofts = np.linspace(14, 40, 14)
    axes.plot(lofts - iron.attack, hit(iron, dynamic_loft=lofts).spin, "-", label="7 iron, loft varied")
    axes.plot([c.usual_dynamic_loft - c.attack for c in clubs], [hit(c).spin[0] for c in clubs], "o", label="clubs")
    axes.set(xlabel="spin loft [°]", ylabel="spin [rpm] at 38 m/s", title="Spin by spin loft")
    axes.legend()


def draw_tilt(axes) -> None:
    """Spin-axis tilt against face-to-path, model and plane geometry."""
    gaps = np.linspace(-8, 8, 17)
    for name in ("D", "7i", "PW"):
        club = vocabulary().clubs[name]
        (line,) = axes.plot(gaps, hit(club, face=gaps).spin_axis, "-", label=name)
        plane = [dplane_tilt(g, club.attack, club.usual_dynamic_loft) for g in gaps]
        axes.plot(gaps, plane, "x", color=line.get_color())
    axes.set(xlabel="face-to-path [°]", ylabel="tilt [°]", title="Tilt: model (line), plane geometry (x)")
    axes.legend()
