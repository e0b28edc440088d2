"""Clubs, and the contact between face and ball."""

from __future__ import annotations

from dataclasses import dataclass, replace

from instavis_core.message import Message

DRY = 0.42
LIES = {"dry": DRY, "wet": 0.20, "rough": 0.24}
"""Largest ratio of tangential to normal impulse between a grooved face and a ball, by what lies between them.

Assumptions: the dry value was fitted to launch tables; the wet one lets a half wedge keep three quarters of its spin.
"""


@dataclass(frozen=True, kw_only=True)
class Club:
    """One club; units as stated in ``clubs.toml``; ``friction`` between its face and the ball, by lie."""

    id: str
    label: Message
    loft: float
    head_mass: float
    moi_toe: float
    moi_high: float
    depth: float
    bulge: float
    roll: float
    face_toe: float
    face_heel: float
    face_low: float
    face_high: float
    hosel: float
    cor: float
    tangential: float
    length: float
    plane: float
    attack: float
    path_scale: float
    attack_scale: float
    friction: float = DRY

    def on(self, lie: str) -> Club:
        """Return the same club on a lie of ``LIES``."""
        return replace(self, friction=LIES[lie])

    @property
    def group(self) -> str:
        """Return the intake group of the club."""
        if self.id == "D":
            return "driver"
        return {"w": "woods", "h": "woods", "i": "irons"}.get(self.id[-1], "wedges")

    @property
    def usual_dynamic_loft(self) -> float:
        """Dynamic loft [°] of a usual strike: hands slightly ahead with irons, slightly upward with the driver
        (assumption).
        """
        return 2.8 + 0.75 * self.loft + (1.5 if self.bulge else 0.0)

    @property
    def usual_smash(self) -> float:
        """Ball speed over club speed of a usual strike (assumption; used only as a starting value)."""
        return 1.50 - 0.0058 * self.loft

    @property
    def arc_radius(self) -> float:
        """Radius of the club head's arc [m]: club length plus part of the arm (assumption)."""
        return self.length + 0.62
